using System.Globalization;
using PdfSharp.Pdf;
using PdfSharp.Pdf.Advanced;

namespace Bandeja.Formats.Pdf;

/// <summary>What belongs to an element of a PDF's structure.</summary>
abstract record PdfTagged;

/// <summary>An element of the structure of a PDF that was imported (ISO 32000-2, 14.7.2).</summary>
/// <param name="Type">A standard type (14.8.4), whatever the file calls it.</param>
/// <param name="Entries">Its texts and attributes, as they are written.</param>
sealed record PdfTag(string Type, string Entries, IReadOnlyList<PdfTagged> Kids) : PdfTagged;

/// <summary>A marked part of a page's content (14.7.5.2).</summary>
/// <param name="Page">From 1.</param>
sealed record PdfMark(int Page, int Id) : PdfTagged;

/// <summary>A field's widget (14.7.5.3), by its place: the page from 1, and its corner in points as it is seen.</summary>
sealed record PdfTaggedWidget(int Page, double X, double Y) : PdfTagged;

/// <summary>The structure of a PDF that was imported, so that what is made of it can be followed by a screen reader as well as
/// it.</summary>
sealed class PdfTags
{
    const int MostElements = 50_000,
        MostDepth = 60;

    /// <summary>Attributes that say something to a reader (14.7.2).</summary>
    static readonly string[] Texts = ["/Alt", "/ActualText", "/E", "/T", "/Lang"];
    readonly Dictionary<PdfObjectID, int> pageOf = [];
    readonly List<PageView> views = [];
    readonly PdfDictionary? roles;
    readonly HashSet<PdfDictionary> seen = new(ReferenceEqualityComparer.Instance);

    PdfTags(PdfDocument document, PdfDictionary root)
    {
        for (var i = 0; i < document.PageCount; i++)
        {
            views.Add(new(document.Pages[i]));
            if (document.Pages[i].Reference is { } reference)
                pageOf[reference.ObjectID] = i + 1;
        }
        roles = Followed(root.Elements["/RoleMap"]) as PdfDictionary;
    }

    /// <summary>The elements of a PDF; none where it is not tagged, or its structure is damaged.</summary>
    public static IReadOnlyList<PdfTag> Of(byte[] data, string? password)
    {
        try
        {
            var document = PdfImport.Open(data, password);
            var catalog = document.Internals.Catalog;
            if (Followed(catalog.Elements["/StructTreeRoot"]) is not PdfDictionary root)
                return [];
            var tags = new PdfTags(document, root).Kids(root.Elements["/K"], null, 0).OfType<PdfTag>().ToList();
            // What is said in another language than ours is to be read in it.
            return Text(catalog.Elements["/Lang"]) is { } language
                ? [.. tags.Select(t => t.Entries.Contains("/Lang") ? t : t with { Entries = $"{t.Entries}/Lang {language}" })]
                : tags;
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            return [];
        }
    }

    static PdfItem? Followed(PdfItem? item) => item is PdfReference reference ? reference.Value : item;

    static string? Text(PdfItem? item) =>
        Followed(item) switch
        {
            PdfString { Value.Length: > 0 and < 5_000 } s => PdfObjects.TextString(PdfText.Of(s.Value)),
            PdfStringObject { Value.Length: > 0 and < 5_000 } s => PdfObjects.TextString(PdfText.Of(s.Value)),
            _ => null,
        };

    static int? Number(PdfItem? item) =>
        Followed(item) switch
        {
            PdfInteger i => i.Value,
            PdfIntegerObject i => i.Value,
            _ => null,
        };

    int? Page(PdfItem? item) => item is PdfReference reference && pageOf.TryGetValue(reference.ObjectID, out var page) ? page : null;

    List<PdfTagged> Kids(PdfItem? item, int? page, int depth)
    {
        var kids = new List<PdfTagged>();
        if (depth > MostDepth)
            return kids;
        var entries = Followed(item) is PdfArray array ? array.Elements.Take(MostElements) : [item!];
        foreach (var entry in entries)
            if (Number(entry) is { } id)
            {
                if (page is { } on)
                    kids.Add(new PdfMark(on, id));
            }
            else if (Followed(entry) is PdfDictionary kid && Kid(kid, page, depth) is { } found)
                kids.Add(found);
        return kids;
    }

    PdfTagged? Kid(PdfDictionary kid, int? page, int depth)
    {
        var e = kid.Elements;
        switch (e.GetName("/Type"))
        {
            case "/MCR":
                return e["/Stm"] is null && Number(e["/MCID"]) is { } id && (Page(e["/Pg"]) ?? page) is { } on ? new PdfMark(on, id) : null;
            case "/OBJR":
                return (Page(e["/Pg"]) ?? page) is { } of && Followed(e["/Obj"]) is PdfDictionary annotation
                    ? Widget(annotation, of)
                    : null;
        }
        if (!seen.Add(kid) || seen.Count > MostElements)
            return null;
        return new PdfTag(Role(e.GetName("/S")), Entries(kid), Kids(e["/K"], Page(e["/Pg"]) ?? page, depth + 1));
    }

    PdfTaggedWidget? Widget(PdfDictionary annotation, int page)
    {
        if (annotation.Elements.GetName("/Subtype") != "/Widget" || Followed(annotation.Elements["/Rect"]) is not PdfArray rect)
            return null;
        if (PdfImport.Numbers(rect) is not [var x1, var y1, var x2, var y2])
            return null;
        var (x, y, _, _) = views[page - 1].Seen(x1, y1, x2, y2);
        return new(page, Math.Round(x, 3), Math.Round(y, 3));
    }

    /// <summary>The standard type that a file's own stands for (14.8.4.8).</summary>
    string Role(string type)
    {
        for (var i = 0; i < 10 && roles?.Elements.GetName(type) is { Length: > 1 } stands && stands != type; i++)
            type = stands;
        var name = type.TrimStart('/');
        // A document within ours is a part of it.
        return name is "Document" or "" ? "Part"
            : name.All(char.IsAsciiLetterOrDigit) ? name
            : "Span";
    }

    static string Entries(PdfDictionary element)
    {
        var entries = string.Concat(
            Texts.Select(key => Text(element.Elements[key]) is { } text ? string.Create(CultureInfo.InvariantCulture, $"{key} {text}") : "")
        );
        return Followed(element.Elements["/A"]) is { } attributes && Plain(attributes, 0) is { } written
            ? $"{entries}/A {written}"
            : entries;
    }

    /// <summary>Attributes as they are written; null where they are more than names, numbers, and texts.</summary>
    static string? Plain(PdfItem? item, int depth)
    {
        if (depth > 4)
            return null;
        switch (Followed(item))
        {
            case PdfDictionary { Stream: null } dictionary:
                var entries = dictionary.Elements.Select(e => (e.Key, Value: Plain(e.Value, depth + 1))).ToList();
                return entries.Exists(e => e.Value is null)
                    ? null
                    : $"<<{string.Concat(entries.Select(e => $"{PdfImport.Name(e.Key)} {e.Value}"))}>>";
            case PdfArray { Elements.Count: < 1_000 } array:
                var values = array.Elements.Select(e => Plain(e, depth + 1)).ToList();
                return values.Contains(null) ? null : $"[{string.Join(' ', values)}]";
            case PdfName name:
                return PdfImport.Name(name.Value);
            case PdfNameObject name:
                return PdfImport.Name(name.Value);
            case PdfReal real:
                return PdfObjects.Number(real.Value);
            case PdfBoolean yes:
                return yes.Value ? "true" : "false";
            case { } other:
                return Number(other)?.ToString(CultureInfo.InvariantCulture) ?? Text(other);
            default:
                return null;
        }
    }
}
