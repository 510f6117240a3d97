using System.IO.Compression;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Drops;
using Bandeja.Core.Language;
using Bandeja.Core.Surfaces;
using Bandeja.Formats.Documents;
using Bandeja.Formats.Pdf;
using Bandeja.Store;
using Bandeja.Store.Drops;
using Bandeja.Store.Runs;
using Bandeja.Work.Composition;
using Bandeja.Work.Freezing;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Production;

/// <summary>
/// Makes a run's files from what was frozen, always the same bytes: one PDF for each design, files of so many pieces, or a PDF for each
/// recipient in a ZIP. Memory does not grow with the run.
/// </summary>
public sealed class RunFiles(
    Database database,
    RunStore runs,
    Letters letters,
    RunSecrets secrets,
    RunMailFiles mails,
    ServerOptions server,
    TimeProvider time
)
{
    /// <summary>Makes the files. They have other names until all of them are whole and on the disk.</summary>
    /// <param name="go">Called for each piece; throws where the work is to stop.</param>
    public IReadOnlyList<RunFile> Make(RunRow run, JobProgress progress, Action go)
    {
        Directory.CreateDirectory(RunFolder.Of(server, run.Id));
        if (run.IsEmail)
            return [Messages(run, progress, go)];
        using var c = database.Open();
        var frozen = new FrozenRun(c, letters, run);
        var settings = RunSettings.Read(run.SettingsJson);
        var secret = secrets.Open(run.Secret);
        var made = run.Output.IsEach() ? [Each(frozen, secret, progress, go)] : Whole(frozen, settings, secret, progress, go);
        foreach (var file in made)
            File.Move(PartOf(file), RunFolder.FileOf(server, file), overwrite: true);
        runs.KeepBarcodes(run.Id, frozen.Barcodes);
        return made;
    }

    /// <summary>The messages of a run in one file.</summary>
    RunFile Messages(RunRow run, JobProgress progress, Action go)
    {
        var file = new RunFile { RunId = run.Id, Number = 1 };
        using var target = new ForwardFile(PartOf(file));
        var done = 0;
        var (first, last, count) = mails.Write(
            run,
            run.Output,
            target,
            false,
            () =>
            {
                go();
                progress(++done, run.Pieces);
            }
        );
        if (count != run.Pieces)
            throw new ConflictException(
                $"{run.Pieces - count:N0} of {run.Pieces:N0} recipients are no longer in the list data, so the run was not produced."
            );
        string name;
        using (var c = database.Open())
            name = $"{RunFolder.Stem(DropStore.Drop(c, run.DropId), run)}{(run.Output == RunOutput.Mbox ? ".mbox" : "-eml.zip")}";
        var made = file with { Name = name, FirstPiece = first, LastPiece = last, Size = target.Written, Sha256 = target.Finish() };
        File.Move(PartOf(made), RunFolder.FileOf(server, made), overwrite: true);
        return made;
    }

    /// <summary>Where a file is while it is made.</summary>
    public string PartOf(RunFile file) => Path.Combine(RunFolder.Of(server, file.RunId), $"{file.Number}.part");

    /// <summary>Removes what was begun of files that are made again; those that are whole stay.</summary>
    public void DiscardParts(long runId)
    {
        var folder = RunFolder.Of(server, runId);
        if (!Directory.Exists(folder))
            return;
        foreach (var part in Directory.EnumerateFiles(folder, "*.part"))
            File.Delete(part);
        if (!Directory.EnumerateFileSystemEntries(folder).Any())
            Directory.Delete(folder);
    }

    /// <summary>Removes what was imported from a run that came to nothing.</summary>
    public void Discard(long runId)
    {
        if (Directory.Exists(RunFolder.Of(server, runId)))
            Directory.Delete(RunFolder.Of(server, runId), recursive: true);
    }

    List<RunFile> Whole(FrozenRun frozen, RunSettings settings, RunSecret? secret, JobProgress progress, Action go)
    {
        var run = frozen.Run;
        var size = run.Output == RunOutput.Parts ? Math.Max(1, settings.PartOf ?? 500) : int.MaxValue;
        var files = new List<RunFile>();
        for (var design = 0; design < run.Designs.Count; design++)
        {
            var of = run.Designs[design];
            // What a file holds stands in its name where the package has more than one.
            var what =
                run.Designs.Count == 1 ? ""
                : run.Designs.Count(d => d.Kind == of.Kind) == 1 ? $"-{of.Kind.Stored()}"
                : $"-{of.Kind.Stored()}-{of.Position}";
            var done = 0;
            if (run.Output == RunOutput.Docx && frozen.Speller(design) is not null)
            {
                files.Add(Document(frozen, design, files.Count + 1, what, progress, go));
                continue;
            }
            for (var from = 0; from < run.Pieces; from += size == int.MaxValue ? (int)run.Pieces : size)
            {
                var file = new RunFile
                {
                    RunId = run.Id,
                    Number = files.Count + 1,
                    Position = of.Position,
                };
                using var target = new ForwardFile(PartOf(file));
                var lockOf = secret is null ? null : Locked(secret, frozen, null, file.Number);
                var writer = letters.Writer(
                    target,
                    run.Designs.Count == 1 ? frozen.Title : $"{frozen.Title}, {of.Name}",
                    frozen.Created,
                    frozen.Language,
                    lockOf
                );
                var (first, last, count) = WriteAll(
                    frozen,
                    design,
                    writer,
                    from,
                    size == int.MaxValue ? int.MaxValue : from + size - 1,
                    (_, _) =>
                    {
                        go();
                        progress((long)design * run.Pieces + ++done, run.Designs.Count * run.Pieces);
                    }
                );
                writer.Finish();
                Complete(frozen, from, size, count);
                var pieces = run.Output == RunOutput.Parts ? $"-{first:0000}-{last:0000}" : "";
                files.Add(
                    file with
                    {
                        Name = $"{RunFolder.Stem(frozen.Drop, run)}{what}{pieces}.pdf",
                        FirstPiece = first,
                        LastPiece = last,
                        Pages = writer.Pages,
                        Size = target.Written,
                        Sha256 = target.Finish(),
                    }
                );
            }
        }
        return files;
    }

    /// <summary>All letters of one design in one word processor document.</summary>
    RunFile Document(FrozenRun frozen, int design, int number, string what, JobProgress progress, Action go)
    {
        var run = frozen.Run;
        var file = new RunFile
        {
            RunId = run.Id,
            Number = number,
            Position = run.Designs[design].Position,
        };
        int first = 0,
            last = 0,
            count = 0;
        using var target = new ForwardFile(PartOf(file));
        using (var writer = Docx(frozen, design, target, frozen.Title, many: true))
        {
            var spelled = runs.Pieces(run, frozen.Drop.ListId, frozen.Setting.Columns).Select(p => (p, frozen.Spell(p, design)));
            foreach (var (piece, letter) in Core.Composition.Ahead.Of(spelled))
            {
                go();
                if (letter is { Omitted: false })
                    writer.Add(letter);
                if (count++ == 0)
                    first = piece.PieceNumber;
                last = piece.PieceNumber;
                progress((long)design * run.Pieces + count, run.Designs.Count * run.Pieces);
            }
            writer.Finish();
        }
        Complete(frozen, 0, int.MaxValue, count);
        return file with
        {
            Name = $"{RunFolder.Stem(frozen.Drop, run)}{what}.docx",
            FirstPiece = first,
            LastPiece = last,
            Size = target.Written,
            Sha256 = target.Finish(),
        };
    }

    DocxWriter Docx(FrozenRun frozen, int design, Stream target, string title, bool many = false) =>
        new(
            target,
            frozen.Speller(design)!.Design,
            title,
            TimeZoneInfo.ConvertTime(frozen.Created, time.LocalTimeZone),
            letters.DocumentPicture,
            many,
            faces: letters.Faces
        );

    static void Complete(FrozenRun frozen, int from, int size, int count)
    {
        var expected = (int)Math.Min(frozen.Run.Pieces - from, size);
        if (count != expected)
            throw new ConflictException(
                $"{expected - count:N0} of {frozen.Run.Pieces:N0} recipients are no longer in the list data, so the run was not produced."
            );
    }

    /// <summary>Writes the pieces of one design; labels go onto their sheets.</summary>
    /// <param name="each">Called after each piece with it and the sheet of labels, from 1, that its last label is on; 0 where there is
    /// none.</param>
    /// <returns>The first and last piece's numbers, and how many there were.</returns>
    public (int First, int Last, int Count) WriteAll(
        FrozenRun frozen,
        int design,
        PdfLetterWriter writer,
        int from,
        int to,
        Action<ComposedPiece, int> each
    )
    {
        var duplex = RunSettings.Read(frozen.Run.SettingsJson).Duplex && frozen.Bound[design].Kind.Rules().HasPages;
        var (run, bound) = (frozen.Run, frozen.Bound[design]);
        var sheets = bound.Labels() is { } labels
            ? new LabelSheets(labels, from == 0 ? FeedOrder.ReadStart(run.Designs[design].StartJson) : null)
            : null;
        var full = new List<LaidOutPage>();
        int first = 0,
            last = 0,
            count = 0,
            sheet = 0;
        void Write()
        {
            foreach (var page in full)
                writer.Add(null, [frozen.Feed?.Sheet(page) ?? page]);
            full.Clear();
        }
        foreach (
            var (piece, composed) in Core.Composition.Ahead.Of(
                runs.Pieces(run, frozen.Drop.ListId, frozen.Setting.Columns, from, to)
                    .Select(piece => (piece, frozen.Compose(piece, design)))
            )
        )
        {
            if (sheets is null)
            {
                var own = frozen.Fed(composed, design);
                if (own.Count > 0)
                    writer.Add($"{piece.PieceNumber:0000} {frozen.NameOf(piece)}", duplex ? WithBack(own) : own);
            }
            else
            {
                if (sheets.Add(composed, full) is [.., var place])
                    sheet = place.Sheet;
                Write();
            }
            if (count++ == 0)
                first = piece.PieceNumber;
            last = piece.PieceNumber;
            each(composed, sheet);
        }
        if (sheets?.Finish() is { } rest)
            full.Add(rest);
        Write();
        return (first, last, count);
    }

    /// <summary>Pages for both sides of the paper: where the last one is a front, a blank back follows, so that nobody's letter is printed
    /// on the back of another's.</summary>
    static IReadOnlyList<LaidOutPage> WithBack(IReadOnlyList<LaidOutPage> pages) =>
        pages.Count % 2 == 0 ? pages : [.. pages, Blank(pages[^1])];

    /// <summary>A page of the same size with nothing on it.</summary>
    public static LaidOutPage Blank(LaidOutPage like) => new(like.Width, like.Height, []);

    /// <summary>A piece's pages in a file of its own: labels as many times as there are copies, letters for both sides where that is asked
    /// for.</summary>
    static IReadOnlyList<LaidOutPage> OwnPages(ComposedPiece piece, IBoundDesign bound, bool duplex) =>
        bound.Kind.Rules().SharesSheets ? [.. Enumerable.Repeat(piece.Pages[0], piece.Copies)]
        : duplex && bound.Kind.Rules().HasPages && piece.Pages.Count > 0 ? WithBack(piece.Pages)
        : piece.Pages;

    /// <summary>One design for one recipient: a document to be edited, which is being written on another core, or pages. Neither where the
    /// design is left out for the recipient.</summary>
    sealed record OwnPiece(Task<MemoryStream>? Document, ComposedPiece? Composed);

    OwnPiece Own(FrozenRun frozen, RunPiece piece, int design, string title)
    {
        if (!frozen.Run.Output.IsDocuments() || frozen.Spell(piece, design) is not { } letter)
            return new(null, frozen.Compose(piece, design));
        return new(letter.Omitted ? null : Task.Run(() => Document(frozen, design, letter, title)), null);
    }

    MemoryStream Document(FrozenRun frozen, int design, LetterContent letter, string title)
    {
        var memory = new MemoryStream(1 << 14);
        using var document = Docx(frozen, design, memory, title);
        document.Add(letter);
        document.Finish();
        return memory;
    }

    /// <summary>A PDF for each recipient, their whole package in it, in a ZIP that can be read along while it is written.</summary>
    RunFile Each(FrozenRun frozen, RunSecret? secret, JobProgress progress, Action go)
    {
        var run = frozen.Run;
        var duplex = RunSettings.Read(run.SettingsJson).Duplex;
        var file = new RunFile { RunId = run.Id, Number = 1 };
        var folder = RunFolder.Dated(frozen.Drop, run, time.LocalTimeZone);
        var programs = new FontPrograms();
        var pdf = new MemoryStream();
        int done = 0,
            pages = 0,
            first = 0,
            last = 0;
        using var target = new ForwardFile(PartOf(file));
        using (var zip = new ZipArchive(target, ZipArchiveMode.Create, leaveOpen: true))
        {
            var pieces = runs.Pieces(run, frozen.Drop.ListId, frozen.Setting.Columns)
                .Select(piece =>
                    (
                        piece,
                        Enumerable.Range(0, run.Designs.Count).Select(d => Own(frozen, piece, d, TitleOf(frozen, piece))).ToList(),
                        secret is null ? null : Ahead(secret, frozen, piece)
                    )
                );
            void Entry(string name, MemoryStream content)
            {
                var entry = zip.CreateEntry($"{folder}/{name}", CompressionLevel.NoCompression);
                entry.LastWriteTime = TimeZoneInfo.ConvertTime(frozen.Created, time.LocalTimeZone);
                using var stream = entry.Open();
                stream.Write(content.GetBuffer(), 0, (int)content.Length);
            }
            foreach (var (piece, package, protection) in Core.Composition.Ahead.Of(pieces))
            {
                go();
                var name = piece.FileName ?? $"{piece.PieceNumber:0000}{(run.Output.IsDocuments() ? ".docx" : ".pdf")}";
                var stem = Path.GetFileNameWithoutExtension(name);
                var documents = 0;
                // A document is an archive itself: it is compressed within.
                foreach (var document in package.Select(p => p.Document).OfType<Task<MemoryStream>>())
                    Entry(documents++ == 0 ? name : $"{stem}-{documents}.docx", document.GetAwaiter().GetResult());
                // A package of nothing but documents has no pages.
                if (package.Exists(p => p.Composed is not null))
                {
                    pdf.SetLength(0);
                    var writer = letters.Writer(
                        pdf,
                        TitleOf(frozen, piece),
                        frozen.Created,
                        frozen.Language,
                        protection?.GetAwaiter().GetResult(),
                        programs,
                        frozen.Bound.Any(b => b.KeepsTags),
                        fillable: true
                    );
                    for (var d = 0; d < package.Count; d++)
                        if (package[d].Composed is { } composed && OwnPages(composed, frozen.Bound[d], duplex) is { Count: > 0 } own)
                            writer.Add(null, own);
                    writer.Finish();
                    pages += writer.Pages;
                    // A PDF is compressed within: to do it again would cost time and save nothing.
                    if (!run.Output.IsDocuments() || writer.Pages > 0)
                        Entry(run.Output.IsDocuments() ? $"{stem}.pdf" : name, pdf);
                }
                if (done == 0)
                    first = piece.PieceNumber;
                last = piece.PieceNumber;
                progress(++done, run.Pieces);
            }
        }
        Complete(frozen, 0, int.MaxValue, done);
        return file with
        {
            Name = $"{folder}.zip",
            FirstPiece = first,
            LastPiece = last,
            Pages = pages,
            Size = target.Written,
            Sha256 = target.Finish(),
        };
    }

    static string TitleOf(FrozenRun frozen, RunPiece piece) =>
        $"{frozen.Drop.CampaignName}, {frozen.Drop.Name}, piece {piece.PieceNumber:0000}";

    /// <summary>A file's protection, reckoned on another core while pieces are composed and written: it is most of the work on a locked
    /// file.</summary>
    static Task<PdfProtection> Ahead(RunSecret secret, FrozenRun frozen, RunPiece piece)
    {
        var (how, seed) = LockOf(secret, frozen, piece, piece.Position);
        return Task.Run(() => new PdfProtection(how, seed));
    }

    /// <summary>The protection of a file: with passwords as they are written, or as expressions come to for the recipient.</summary>
    static PdfProtection Locked(RunSecret secret, FrozenRun frozen, RunPiece? piece, long file)
    {
        var (how, seed) = LockOf(secret, frozen, piece, file);
        return new(how, seed);
    }

    static (PdfLock How, byte[] Seed) LockOf(RunSecret secret, FrozenRun frozen, RunPiece? piece, long file)
    {
        string Of(string? text, bool by)
        {
            if (string.IsNullOrEmpty(text) || !by)
                return text ?? "";
            var setting = frozen.Bound[0].Setting;
            var context = frozen.Bound[0].NewContext(frozen.Run.Today).For(frozen.Row(piece!), piece!.PieceNumber);
            return Template.Parse(text, setting.Names).PrintPlain(context);
        }
        return (
            new(
                Of(secret.Passwords.Open, secret.Passwords.OpenBy),
                Of(secret.Passwords.Owner, secret.Passwords.OwnerBy),
                secret.Permissions
            ),
            secret.SeedOf(file)
        );
    }
}
