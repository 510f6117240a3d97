using System.Collections.Concurrent;
using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Formats.Pdf;
using Bandeja.Store;
using Microsoft.Data.Sqlite;

namespace Bandeja.Server.Composition;

/// <summary>Letters bound to lists, kept while they are in use, and the one way from a recipient to a PDF: bench, editor and runs all come through here.</summary>
public sealed class Letters(FontLibrary fonts, PictureFiles pictures, SettingStore settings, TimeProvider time)
{
    const int Kept = 24;
    readonly ConcurrentDictionary<string, BoundLetter> bound = [];

    /// <summary>The fonts.</summary>
    public FontLibrary Fonts => fonts;

    /// <summary>The day it is here.</summary>
    public DateOnly Today => DateOnly.FromDateTime(time.GetLocalNow().DateTime);

    /// <summary>Binds a document to a list's columns, or finds it bound.</summary>
    /// <exception cref="LetterFormatException">It is not a letter.</exception>
    public BoundLetter Bind(string documentJson, IReadOnlyList<Column> columns)
    {
        var locale = settings.Organisation().ToLocale();
        var key = $"{locale.Tag}|{locale.Currency}|{string.Join('|', columns)}|{documentJson}";
        if (bound.TryGetValue(key, out var known)) return known;
        if (bound.Count >= Kept) bound.Clear();
        return bound[key] = new BoundLetter(LetterReader.Read(documentJson), columns, locale, fonts);
    }

    /// <summary>What the findings of a drop depend on beside the recipients' values: where it differs from the drop's mark, the drop must be checked anew.</summary>
    public string Mark(SqliteConnection c, DropRow drop)
    {
        var version = DesignStore.Newest(c, drop.DesignId);
        var organisation = settings.Organisation();
        return $"{version.Id}@{version.UpdatedAt}|{organisation.Locale}|{organisation.Currency}|{SuppressionStore.Mark(c, Today)}|{SegmentStore.Mark(c, drop.SegmentId)}";
    }

    /// <summary>Writes one recipient's letter as a PDF of its own.</summary>
    public byte[] ToPdf(ComposedLetter letter, string title)
    {
        using var target = new MemoryStream();
        var writer = Writer(target, title);
        writer.Add(null, letter.Pages);
        writer.Finish();
        return target.ToArray();
    }

    /// <summary>Begins a PDF.</summary>
    public PdfLetterWriter Writer(Stream target, string title) => new(target, pictures.Get, new(title, settings.Organisation().ToLocale().Tag, time.GetLocalNow()));
}
