using System.Collections.Concurrent;
using Bandeja.Core.Composition;
using Bandeja.Core.Designs;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Documents;
using Bandeja.Formats.Mail;
using Bandeja.Formats.Pdf;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Bandeja.Store.Mail;
using Bandeja.Store.People;
using Microsoft.Data.Sqlite;

namespace Bandeja.Work.Composition;

/// <summary>Letters bound to lists, kept while they are in use, and the one way from a recipient to a PDF: bench, editor and runs all come
/// through here.</summary>
public sealed class Letters(
    FontLibrary fonts,
    Typefaces typefaces,
    PictureFiles pictures,
    PersonFileStore own,
    SettingStore settings,
    MailFiles files,
    TimeProvider time
)
{
    const int Kept = 24;
    readonly ConcurrentDictionary<string, IBoundDesign> bound = [];

    /// <summary>The fonts.</summary>
    public FontLibrary Fonts => fonts;

    /// <summary>Which faces print those that documents name, and how high their lines are.</summary>
    public Core.Documents.FaceBook Faces => typefaces.Book;

    /// <summary>How the organization writes dates and numbers.</summary>
    public OrganizationLocale Locale => settings.Organization().ToLocale();

    /// <summary>The paper of what is printed beside the designs: proofs, reports, messages.</summary>
    public string Sheet => settings.Organization().Sheet;

    /// <summary>The day it is here.</summary>
    public DateOnly Today => DateOnly.FromDateTime(time.GetLocalNow().DateTime);

    /// <summary>Binds a document to a list, or finds it bound.</summary>
    /// <param name="designId">The design whose matches with the list hold; 0 for none.</param>
    /// <param name="listId">The list; null for none.</param>
    /// <exception cref="LetterFormatException">It is no letter, envelope or label sheet.</exception>
    /// <param name="frozen">What was so when a run began; null for what is so now.</param>
    /// <param name="fields">What becomes of a form's fields; null for what the form says.</param>
    public IBoundDesign Bind(
        SqliteConnection c,
        string documentJson,
        long designId,
        long? listId,
        FrozenSetting? frozen = null,
        FormOutput? fields = null
    )
    {
        var organization = frozen?.Organization ?? settings.Organization();
        var locale = organization.ToLocale();
        var addressing = frozen?.Addressing() ?? settings.Addressing();
        IReadOnlyList<Column> columns = frozen?.Columns ?? (listId is { } id ? RowTable.Columns(c, id) : []);
        var details = frozen?.Details ?? (listId is { } of ? DetailStore.Sets(c, of) : []);
        var matches =
            frozen?.Matches.GetValueOrDefault(designId)
            ?? (listId is { } list && designId > 0 ? DesignMatches.Positions(c, designId, list, columns) : new Dictionary<string, int>());
        var rows =
            frozen?.Rows?.GetValueOrDefault(designId)
            ?? (frozen is null && listId is { } whose && designId > 0 ? DesignMatches.Rows(c, designId, whose, details) : []);
        var asOf = frozen?.AsOfFile ?? MailFiles.Newest(c);
        var asOfOwn = frozen is null ? PersonFileStore.Newest(c) : frozen.AsOfOwn ?? 0;
        var asOfPicture = frozen?.AsOfPicture ?? DesignStore.NewestNaming(c);
        var key = string.Join(
            '|',
            [
                locale.Tag,
                locale.Currency,
                organization.Name,
                organization.PostalAddress,
                $"pictures {asOfPicture}",
                $"own {asOfOwn}",
                $"typefaces {fonts.Version}",
                $"fields {fields}",
                DesignReader.KindOf(documentJson).Rules().NamesFiles ? $"files {asOf}" : "",
                AddressingMark(addressing),
                .. columns.Select(x => x.ToString()),
                .. details.SelectMany(d => d.Columns.Select(x => $"{d.Id} {d.Name} {x}")),
                .. matches.Select(m => m.ToString()),
                .. rows.Select(m => $"{m.Name}={m.Set}:{string.Join(',', m.Columns)}"),
                documentJson,
            ]
        );
        if (bound.TryGetValue(key, out var known))
            return known;
        if (bound.Count >= Kept)
            bound.Clear();
        return bound[key] = DesignReader.Bind(
            documentJson,
            new LetterSetting(
                columns,
                locale,
                fonts,
                details,
                matches,
                name => pictures.Facts(name, asOfPicture),
                organization.Name,
                addressing,
                organization.PostalAddress,
                (folder, name) => files.Find(folder, name, asOf),
                rows,
                fields,
                (recipient, name) => recipient == 0 ? null : own.Find(recipient, name, asOfOwn)
            )
        );
    }

    static string AddressingMark(AddressingRules rules) =>
        $"{rules.CountryLine} {string.Join('|', rules.Ladders.ByLanguage.Select(l => $"{l.Key}:{string.Join('/', l.Value)}"))}";

    /// <summary>What a drop's designs meet now, to be kept with a run.</summary>
    public FrozenSetting Freeze(SqliteConnection c, DropRow drop)
    {
        var columns = RowTable.Columns(c, drop.ListId);
        return new(
            settings.Organization(),
            settings.Ladders().ByLanguage.ToDictionary(l => l.Key, l => l.Value),
            columns,
            drop.Package.ToDictionary(
                p => p.DesignId,
                p =>
                    (IReadOnlyDictionary<string, int>)
                        DesignMatches.Positions(c, p.DesignId, drop.ListId, columns).ToDictionary(m => m.Key, m => m.Value)
            ),
            MailFiles.Newest(c),
            DetailStore.Sets(c, drop.ListId),
            drop.Package.ToDictionary(
                p => p.DesignId,
                p => DesignMatches.Rows(c, p.DesignId, drop.ListId, DetailStore.Sets(c, drop.ListId))
            ),
            DesignStore.NewestNaming(c),
            PersonFileStore.Newest(c)
        );
    }

    /// <summary>The designs of a drop's package, each bound to the drop's list in its newest version.</summary>
    public IReadOnlyList<(PackageDesign Design, IBoundDesign Bound)> Package(SqliteConnection c, DropRow drop) =>
        [.. drop.Package.Select(d => (d, Bind(c, DesignStore.Newest(c, d.DesignId).DocumentJson, d.DesignId, drop.ListId)))];

    /// <summary>Reads the detail rows that a letter prints.</summary>
    public static DetailReader Details(SqliteConnection c, IBoundDesign letter) =>
        new(c, letter.Setting.Details ?? [], [.. Enumerable.Range(0, letter.Setting.Details?.Count ?? 0)]);

    /// <summary>A recipient as letters see them.</summary>
    public static IRow Row(long recipientId, string?[] values, DetailReader details) =>
        new ArrayRow(values, set => details.Rows(recipientId, set), recipientId);

    /// <summary>A mark of what designs follow beside their lists: the organization, its language, how it writes addresses and greets, the
    /// pictures.</summary>
    public string Rules()
    {
        var organization = settings.Organization();
        return $"{organization.Name}|{organization.PostalAddress}|{organization.Locale}|{organization.Currency}|"
            + $"{AddressingMark(settings.Addressing())}|{pictures.Mark}";
    }

    /// <summary>What a sign-off speaks of beside versions, list and filter: <see cref="Rules()"/>, and, where there is an email, who gets
    /// it in which way and what is attached.</summary>
    public string Rules(SqliteConnection c, DropRow drop) =>
        Rules() + (drop.Package.Any(p => p.IsEmail) ? $"|files {MailFiles.Newest(c)}|{drop.ChannelBy}|{drop.ChannelColumn}" : "");

    /// <summary>Writes one recipient's pieces as a PDF of their own, which tells its structure to a screen reader.</summary>
    public byte[] ToPdf(IReadOnlyList<ComposedPiece> pieces, string title) => ToPdf(pieces, title, out _);

    /// <inheritdoc cref="ToPdf(IReadOnlyList{ComposedPiece}, string)"/>
    public byte[] ToPdf(ComposedPiece letter, string title) => ToPdf([letter], title, out _);

    /// <inheritdoc cref="ToPdf(IReadOnlyList{ComposedPiece}, string)"/>
    /// <param name="pageMarks">A mark of what is drawn on each page.</param>
    public byte[] ToPdf(IReadOnlyList<ComposedPiece> pieces, string title, out IReadOnlyList<string> pageMarks)
    {
        using var target = new MemoryStream();
        var writer = new PdfLetterWriter(
            target,
            pictures.Get,
            new(title, settings.Organization().ToLocale().Tag, time.GetLocalNow(), Tagged: true)
        );
        foreach (var piece in pieces)
            writer.Add(null, piece.Pages);
        writer.Finish();
        pageMarks = writer.PageMarks;
        return target.ToArray();
    }

    /// <summary>Begins the PDF of a run.</summary>
    /// <param name="created">The run's own moment, so that it is made again with the same bytes.</param>
    /// <param name="language">The organization's language at that moment.</param>
    /// <param name="tagged">True for a file that a person reads on a screen rather than a printer prints.</param>
    /// <param name="fillable">True for a file of one recipient, in which fields of forms may stay fields.</param>
    public PdfLetterWriter Writer(
        Stream target,
        string title,
        DateTimeOffset created,
        string language,
        PdfProtection? protection = null,
        FontPrograms? programs = null,
        bool tagged = false,
        bool fillable = false
    ) => new(target, pictures.Get, new(title, language, created, tagged, fillable), protection, programs);

    /// <summary>A picture or a barcode as word processors show it; null for the page of a PDF, which none shows.</summary>
    public DocxPicture? DocumentPicture(ContentPicture picture)
    {
        const double pixelsPerPoint = 96 / 72.0;
        var (width, height) = (picture.Width * pixelsPerPoint, picture.Height * pixelsPerPoint);
        if (picture.Symbol is { } symbol)
        {
            var (code, type) = MailPictures.Of(symbol, width, height);
            return new(code, type);
        }
        return pictures.Get(picture.Asset!) is { } file && MailPictures.Of(file, width, height) is var (data, media)
            ? new(data, media)
            : null;
    }

    /// <summary>A recipient's letter as a word processor document.</summary>
    public byte[] ToDocument(LetterContent content, string title, DateTimeOffset created)
    {
        using var memory = new MemoryStream();
        using (var writer = new DocxWriter(memory, content.Design, title, created, DocumentPicture, faces: Faces))
        {
            writer.Add(content);
            writer.Finish();
        }
        return memory.ToArray();
    }

    /// <summary>A letter with its fields as they are typed, as a word processor document that can be brought back.</summary>
    /// <exception cref="LetterFormatException">It is no letter.</exception>
    public byte[] AsDocument(string documentJson, string title)
    {
        var design = LetterReader.Read(documentJson);
        using var memory = new MemoryStream();
        using (var writer = new DocxWriter(memory, design, title, time.GetUtcNow(), DocumentPicture, asTyped: true, faces: Faces))
        {
            writer.Add(LetterAsTyped.Of(design));
            writer.Finish();
        }
        return memory.ToArray();
    }
}
