using System.Globalization;
using System.Text.Json;
using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Core.Texts;
using Bandeja.Formats.Lists;
using Bandeja.Store;
using Bandeja.Store.Lists;
using Bandeja.Work.Announcing;
using Bandeja.Work.Hosting;
using Bandeja.Work.Reading;

namespace Bandeja.Work.Jobs;

/// <summary>Which file brings entries to which suppression list.</summary>
/// <param name="Reason">The reason for entries that say none.</param>
/// <param name="Until">The last day for entries that say none; null for always.</param>
public sealed record SuppressionOrder(long ListId, string? Reason, DateOnly? Until, ImportOrder Import);

/// <summary>Brings entries of a suppression list in: by roles, like a list.</summary>
public sealed class SuppressionJob(
    SuppressionStore suppressions,
    ServerOptions server,
    FileReader files,
    OldUploads uploads,
    SettingStore settings,
    Announcements announcements,
    TimeProvider time
) : IJobKind
{
    /// <inheritdoc/>
    public string Kind => JobNames.Suppress;

    /// <inheritdoc/>
    public string? Work(JobRow job, JobProgress progress, CancellationToken cancel)
    {
        var order = JsonSerializer.Deserialize<SuppressionOrder>(job.PayloadJson)!;
        var file = files.List(Path.Combine(server.Folder("uploads"), order.Import.UploadId), order.Import.FileName, cancel);
        using var reader = file.Rows(order.Import.Options);
        var rows = new TypedRows(reader, order.Import, Countries.Named(settings.Organization().Locale[3..])!, null);
        var (added, unusable) = suppressions.Add(
            order.ListId,
            rows.Read(progress, cancel).Select(r => Entry(rows.Columns, r, order)).ToList(),
            Actor.Person(job.CreatedBy, time.GetUtcNow())
        );
        if (added == 0)
            throw new ListFileException(
                "No entries in the file can be matched. The file needs keys, email addresses, or names with street and postal code."
            );
        announcements.Changed(Matter.Suppression, order.ListId);
        uploads.Used(order.Import.UploadId);
        return JsonSerializer.Serialize(new { added, unusable });
    }

    static NewSuppression Entry(IReadOnlyList<Column> columns, string?[] row, SuppressionOrder order)
    {
        string? By(Role role) =>
            columns.Select((c, i) => (c, i)).FirstOrDefault(x => x.c.Role == role) is { c: not null } found ? row[found.i] : null;
        string? Called(params ReadOnlySpan<string> names)
        {
            for (var i = 0; i < columns.Count; i++)
                foreach (var name in names)
                    if (FoldedText.Of(columns[i].Name).StartsWith(name, StringComparison.Ordinal))
                        return row[i];
            return null;
        }
        var name = By(Role.FullName) ?? string.Join(' ', new[] { By(Role.GivenName), By(Role.FamilyName) }.Where(n => n is not null));
        var lines = string.Join(
            ' ',
            new[] { By(Role.Street), By(Role.HouseNumber), By(Role.Street2), By(Role.Street3), By(Role.Unit) }.Where(l => l is not null)
        );
        var street = lines.Length == 0 ? null : lines;
        var until = DateOnly.TryParseExact(
            Called("until", "end", "bis", "hasta", "jusqu"),
            "yyyy-MM-dd",
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out var date
        )
            ? date
            : order.Until;
        return new(
            name.Length == 0 ? null : name,
            street,
            By(Role.City),
            By(Role.PostalCode),
            By(Role.Email),
            By(Role.Key),
            Called("reason", "why", "grund", "motivo", "motif", "raison") ?? order.Reason,
            until
        );
    }

    /// <inheritdoc/>
    public void Abandon(JobRow job, RunState state, string? message) { }
}
