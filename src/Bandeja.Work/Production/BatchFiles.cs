using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Language;
using Bandeja.Store;
using Bandeja.Store.Runs;
using Bandeja.Work.Composition;
using Bandeja.Work.Freezing;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Production;

/// <summary>A batch as a file for the printer, and which sheet is whose.</summary>
/// <param name="Ends">Sheets of one copy up to and with each piece.</param>
/// <param name="Before">Sheets before the first piece.</param>
public sealed record PreparedBatch(string Path, IReadOnlyList<int> Ends, int Before, int Pages);

/// <summary>Prepares batches of printed runs.</summary>
public sealed class BatchFiles(Database database, RunStore runs, RunFiles files, Letters letters, ServerOptions server)
{
    /// <summary>Writes a batch's file. With both sides printed, each piece begins on a sheet of its own.</summary>
    public PreparedBatch Prepare(RunRow run, RunBatch batch, int batches, Action go)
    {
        Directory.CreateDirectory(RunFolder.Of(server, run.Id));
        var settings = RunSettings.Read(run.SettingsJson);
        using var c = database.Open();
        var frozen = new FrozenRun(c, letters, run);
        var design = (int)batch.Position - 1;
        var path = Path.Combine(RunFolder.Of(server, run.Id), $"batch-{batch.Number}.pdf");
        using var target = new ForwardFile(path + ".part");
        var writer = letters.Writer(target, $"{frozen.Title}, batch {batch.Number}", frozen.Created, frozen.Language);
        var letter = frozen.Bound[design].Kind.Rules().HasPages;
        var duplex = settings.Duplex && letter;
        var before = 0;
        if (settings.BreakSheets && letter)
        {
            var sheet = BreakSheet(frozen, batch, batches);
            writer.Add(null, duplex ? [sheet, RunFiles.Blank(sheet)] : [sheet]);
            before = 1;
        }
        var ends = new List<int>();
        var labels = frozen.Bound[design].Kind.Rules().SharesSheets;
        var count = 0;
        files.WriteAll(
            frozen,
            design,
            writer,
            (int)batch.FirstAt,
            (int)batch.LastAt,
            (composed, sheet) =>
            {
                go();
                ends.Add(labels ? sheet : count += duplex ? (composed.Pages.Count + 1) / 2 : composed.Pages.Count);
            }
        );
        writer.Finish();
        if (ends.Count != batch.LastAt - batch.FirstAt + 1)
            throw new ConflictException(
                $"{batch.LastAt - batch.FirstAt + 1 - ends.Count:N0} recipients are no longer in the list's table, so the batch was "
                    + "not made."
            );
        runs.KeepBarcodes(run.Id, frozen.Barcodes);
        target.Finish();
        target.Dispose();
        File.Move(path + ".part", path, overwrite: true);
        return new(path, ends, before, writer.Pages);
    }

    /// <summary>A sheet that says which batch follows; it is nobody's piece.</summary>
    LaidOutPage BreakSheet(FrozenRun frozen, RunBatch batch, int batches)
    {
        var text = new[]
        {
            frozen.Drop.CampaignName + ", " + frozen.Drop.Name,
            $"Run {frozen.Run.Number}, batch {batch.Number} of {batches}",
            $"Pieces {batch.FirstPiece:0000} to {batch.LastPiece:0000}",
        };
        var design = LetterReader.Read(
            System.Text.Json.JsonSerializer.Serialize(
                new
                {
                    page = new { sheet = "letter" },
                    type = new { family = "Source Sans 3", size = 22 },
                    content = text.Select(t => new
                    {
                        type = "paragraph",
                        content = new[] { new { type = "text", text = Template.Escape(t) } },
                    }),
                }
            )
        );
        var (width, height) = frozen.Bound[(int)batch.Position - 1].Size!.Value;
        return new LetterComposer(
            new BoundLetter(
                design with
                {
                    Page = design.Page with { Width = width, Height = height },
                },
                [],
                OrganizationLocale.UnitedStates,
                letters.Fonts
            ),
            frozen.Run.Today
        )
            .Compose(new Core.Lists.ArrayRow([]), 0)
            .Pages[0];
    }
}
