using System.Globalization;
using System.Text.Json.Nodes;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Proofs;

namespace Bandeja.Work.Composition;

/// <summary>Proofs on paper or by mail, for whoever signs: a cover that says what is seen in whom, then the marked pages.</summary>
public sealed class ProofPdf(Database database, Letters letters, ProofSets sets)
{
    /// <summary>The proofs of a drop as a PDF.</summary>
    /// <param name="recipients">Whose; null for the proof set with the made-up longest piece.</param>
    public byte[] Of(long dropId, IReadOnlyList<long>? recipients)
    {
        var chosen = sets.Of(dropId);
        using var c = database.Open();
        var drop = DropStore.Drop(c, dropId);
        var composer = new PackageComposer(c, letters, drop);
        var columns = composer.Package[0].Bound.Setting.Columns;
        var reasons = chosen.Set.Members.ToDictionary(m => m.RecipientId, m => string.Join("; ", m.Reasons.Take(6).Select(r => r.Text)));
        var ids = recipients ?? [.. chosen.Set.Members.Select(m => m.RecipientId).Union(ProofStore.Own(c, dropId))];
        var people = DropStore.Recipients(c, drop, columns, ids).ToDictionary(r => r.Id);
        var shown = ids.Where(people.ContainsKey).Select(id => people[id]).ToList();
        var title = $"Proof of {drop.CampaignName}, {drop.Name}";
        var pieces = new List<ComposedPiece>
        {
            Cover(
                c,
                drop,
                title,
                [
                    .. shown.Select(r =>
                        (r, RecipientLabel.Of(columns, i => r.Values[i]).Name, reasons.GetValueOrDefault(r.Id) ?? "added by hand")
                    ),
                ],
                chosen.Set.Population
            ),
        };
        foreach (var r in shown)
            pieces.AddRange(Stamped(Printed(composer.Compose(r))));
        if (recipients is null && chosen.Set.Population > 0)
            pieces.AddRange(Stamped(Printed(composer.Compose(ProofSets.LongestRow(chosen, composer), 0))));
        return letters.ToPdf(pieces, title);
    }

    /// <summary>The made-up piece with everything at its longest, unmarked, as the screen shows it.</summary>
    public byte[] Longest(long dropId)
    {
        var chosen = sets.Of(dropId);
        using var c = database.Open();
        var composer = new PackageComposer(c, letters, DropStore.Drop(c, dropId));
        return letters.ToPdf(Printed(composer.Compose(ProofSets.LongestRow(chosen, composer), 0)), "Longest value of every field");
    }

    /// <summary>The pieces as they can be printed: of a message its headers, what is attached, and its plain text.</summary>
    IReadOnlyList<ComposedPiece> Printed(ComposedPackage composed) =>
        [.. composed.Pieces.Select(p => p.Mail is { } mail ? new MailSheet(letters).Of(mail) : p)];

    IEnumerable<ComposedPiece> Stamped(IReadOnlyList<ComposedPiece> pieces)
    {
        var stamp = new ProofStamp(letters.Fonts);
        return pieces.Select(p => p with { Pages = [.. p.Pages.Select(stamp.On)] });
    }

    ComposedPiece Cover(
        Microsoft.Data.Sqlite.SqliteConnection c,
        DropRow drop,
        string title,
        IReadOnlyList<(DropRecipient Recipient, string Name, string Why)> shown,
        int population
    )
    {
        var versions = drop.Package.Select(p => $"{p.Name}, version {DesignStore.Newest(c, p.DesignId).Number}");
        JsonObject Node(string type, object? attrs, params IEnumerable<JsonNode> content) =>
            new()
            {
                ["type"] = type,
                ["attrs"] = System.Text.Json.JsonSerializer.SerializeToNode(attrs ?? new { }),
                ["content"] = new JsonArray([.. content]),
            };
        // Names and values may hold braces, which are no fields here.
        JsonObject Text(string text) => new() { ["type"] = "text", ["text"] = Template.Escape(text.Length == 0 ? " " : text) };
        JsonObject Paragraph(string text) => Node("paragraph", null, Text(text));
        JsonObject Row(string kind, params string[] cells) =>
            Node(
                "tableRow",
                null,
                cells.Select(
                    (x, i) =>
                        (JsonNode)Node(
                            kind,
                            new
                            {
                                colwidth = new[]
                                {
                                    i switch
                                    {
                                        0 => 60,
                                        1 => 190,
                                        _ => 0,
                                    },
                                },
                            },
                            Paragraph(x)
                        )
                )
            );
        var document = new JsonObject
        {
            ["page"] = new JsonObject { ["sheet"] = letters.Sheet },
            ["type"] = new JsonObject
            {
                ["family"] = "Source Sans 3",
                ["size"] = 10,
                ["lineSpacing"] = 1.3,
                ["spaceAfter"] = 6,
            },
            ["content"] = new JsonArray(
                Node("heading", new { level = 1 }, Text(title)),
                Paragraph(
                    $"{string.Join("; ", versions)}. List "
                        + $"“{drop.ListName}”{(drop.SegmentName is null ? "" : $", segment “{drop.SegmentName}”")}. Made on "
                        + $"{letters.Locale.Days.Long(letters.Today)}."
                ),
                Paragraph(
                    $"{(shown.Count == 1 ? "This piece shows" : $"These {shown.Count} pieces show")} everything that can happen in "
                        + $"{population:N0}. The marked pages follow in this order."
                ),
                Node(
                    "table",
                    null,
                    [
                        Row("tableHeader", "Piece", "Recipient", "Reason chosen"),
                        .. shown.Select(s =>
                            (JsonNode)Row(
                                "tableCell",
                                s.Recipient.PieceNumber.ToString("0000", CultureInfo.InvariantCulture),
                                s.Name,
                                s.Why
                            )
                        ),
                    ]
                ),
                Paragraph(""),
                Paragraph("Signed off by: ______________________________    Date: ____________________")
            ),
        };
        return DesignReader
            .Bind(document.ToJsonString(), new LetterSetting([], OrganizationLocale.UnitedStates, letters.Fonts))
            .Composer(letters.Today)
            .Compose(new ArrayRow([]), 0);
    }
}
