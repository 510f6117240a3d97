using System.Globalization;
using Bandeja.Core.Composition;
using Bandeja.Core.Forms;
using PdfSharp.Pdf;
using PdfSharp.Pdf.Advanced;

namespace Bandeja.Formats.Pdf;

/// <summary>
/// Looks at a PDF that is to be used as a form: its pages as they are seen, its fields (ISO 32000-2, 12.7) in the order of the pages, and
/// what is to be said of it. Nothing in it is run.
/// </summary>
sealed class FormFile
{
    const int MostDepth = 50;
    readonly PdfDocument document;
    readonly PdfDictionary catalog;
    readonly List<string> notes = [];
    readonly Dictionary<PdfObjectID, int> pageOf = [];
    readonly List<PageView> views = [];
    readonly FormLabels labels;
    readonly PdfDictionary? acroForm;

    FormFile(PdfDocument document, FormLabels labels)
    {
        (this.document, this.labels) = (document, labels);
        catalog = document.Internals.Catalog;
        acroForm = Dictionary(catalog.Elements["/AcroForm"]);
    }

    /// <summary>Looks at a PDF.</summary>
    /// <param name="password">What opens it where it is locked; null for none.</param>
    /// <exception cref="PictureException">It cannot be used; the sentence says why.</exception>
    public static FormFacts Read(byte[] data, string? password)
    {
        PdfImport.Accept(data, password);
        try
        {
            return new FormFile(PdfImport.Open(data, password), FormLabels.Of(data, password)).Facts();
        }
        catch (Exception e) when (e is not PictureException and not OutOfMemoryException)
        {
            throw new PictureException("The fields of this PDF are damaged and cannot be read. Print it to a new PDF and import that.");
        }
    }

    FormFacts Facts()
    {
        if (document.PageCount > FormReader.MostPages)
            throw new PictureException(
                $"This PDF has {document.PageCount:N0} pages; a form can have {FormReader.MostPages:N0}. "
                    + "Save the pages that you need as a PDF of their own."
            );
        for (var i = 0; i < document.PageCount; i++)
        {
            var page = document.Pages[i];
            views.Add(new(page));
            if (page.Reference is { } reference)
                pageOf[reference.ObjectID] = i;
            if (Array(page.Elements["/Annots"]) is { } annotations)
                foreach (var annotation in annotations.Elements.Take(20_000).OfType<PdfReference>())
                    pageOf.TryAdd(annotation.ObjectID, i);
        }
        Special();
        var fields = Fields();
        return new(
            [.. views.Select((v, i) => new FormPage(Round(v.Width), Round(v.Height), labels.Across(i, v), labels.Down(i, v)))],
            fields,
            notes,
            catalog.Elements["/StructTreeRoot"] is not null
        );
    }

    static double Round(double value) => Math.Round(value, 3);

    /// <summary>What a form can hold besides fields: it is removed, or works otherwise here, and that is said.</summary>
    void Special()
    {
        if (acroForm is not null && acroForm.Elements["/XFA"] is not null)
        {
            // A dynamic form (XFA 3.3) has no fields of its own, only a page that asks for another program.
            if (catalog.Elements.GetBoolean("/NeedsRendering") || Array(acroForm.Elements["/Fields"]) is not { Elements.Count: > 0 })
                throw new PictureException(
                    "This PDF is a dynamic XFA form: its pages exist only in the program that created it. "
                        + "Save it there as a plain PDF (print to PDF), and import that."
                );
            notes.Add("This form also has an XFA description. Its static fields are used, and the XFA part was removed.");
        }
        var names = Dictionary(catalog.Elements["/Names"]);
        if (names?.Elements["/JavaScript"] is not null || IsScript(catalog.Elements["/OpenAction"]) || catalog.Elements["/AA"] is not null)
            notes.Add("The form has scripts. They are not run, and were removed.");
        if (names?.Elements["/EmbeddedFiles"] is not null)
            notes.Add("The form has files embedded in it. They were removed.");
        // Whoever wrote the file may have locked it against changes without locking it against being opened (7.6.4.2).
        var may = document.SecuritySettings;
        if (!may.PermitFormsFill && !may.PermitModifyDocument)
            notes.Add("The author of this PDF does not permit filling in this form. Ask for a copy that permits it.");
        else if (!may.PermitExtractContent)
            notes.Add("The author of this PDF does not permit extracting its content. Make sure you may use it.");
        if (catalog.Elements["/Perms"] is not null)
            notes.Add("The form has usage rights for a certain program. They end when it is filled in, and were removed.");
    }

    static bool IsScript(PdfItem? action) => Dictionary(action)?.Elements.GetName("/S") == "/JavaScript";

    static PdfDictionary? Dictionary(PdfItem? item) => (item is PdfReference r ? r.Value : item) as PdfDictionary;

    static PdfArray? Array(PdfItem? item) => (item is PdfReference r ? r.Value : item) as PdfArray;

    static string? Text(PdfItem? item) =>
        (item is PdfReference r ? r.Value : item) switch
        {
            PdfString s => PdfText.Of(s.Value),
            PdfStringObject s => PdfText.Of(s.Value),
            PdfName n => n.Value.TrimStart('/'),
            PdfNameObject n => n.Value.TrimStart('/'),
            PdfDictionary { Stream: { } stream } => PdfText.Of(
                PdfSharp.Pdf.Internal.PdfEncoders.RawEncoding.GetString(stream.UnfilteredValue)
            ),
            _ => null,
        };

    static double? Number(PdfItem? item) =>
        (item is PdfReference r ? r.Value : item) switch
        {
            PdfInteger i => i.Value,
            PdfReal d => d.Value,
            PdfIntegerObject i => i.Value,
            PdfRealObject d => d.Value,
            _ => null,
        };

    /// <summary>What a field has from those above it (12.7.4.1).</summary>
    sealed record Inherited(
        string Name,
        string? Type,
        int Flags,
        PdfItem? Value,
        PdfItem? Look,
        int Align,
        int MaxLength,
        PdfItem? Options
    );

    List<FormField> Fields()
    {
        var found = new List<(FormField Field, int Page, double Y, double X)>();
        var seen = new HashSet<PdfDictionary>(ReferenceEqualityComparer.Instance);
        var open = new Stack<(PdfDictionary Node, Inherited From, int Depth)>();
        var first = new Inherited("", null, 0, null, acroForm?.Elements["/DA"], (int)(Number(acroForm?.Elements["/Q"]) ?? 0), 0, null);
        var roots = Array(acroForm?.Elements["/Fields"])?.Elements.Select(Dictionary).OfType<PdfDictionary>().ToList() ?? [];
        var listed = new HashSet<PdfDictionary>(roots, ReferenceEqualityComparer.Instance);
        // A widget that stands on a page without belonging to any field is one of its own: some writers forget to list them.
        foreach (var page in document.Pages.Cast<PdfPage>())
            if (Array(page.Elements["/Annots"]) is { } annotations)
                foreach (var widget in annotations.Elements.Take(20_000).Select(Dictionary).OfType<PdfDictionary>())
                    if (
                        widget.Elements.GetName("/Subtype") == "/Widget"
                        && widget.Elements["/Parent"] is null
                        && widget.Elements["/T"] is not null
                        && listed.Add(widget)
                    )
                        roots.Add(widget);
        roots.Reverse();
        foreach (var root in roots)
            open.Push((root, first, 0));
        var count = 0;
        var (deep, lost, signed, scripted, calculated) = (false, 0, false, 0, 0);
        while (open.TryPop(out var next))
        {
            if (!seen.Add(next.Node))
                continue;
            if (next.Depth > MostDepth)
            {
                deep = true;
                continue;
            }
            var e = next.Node.Elements;
            var name = Text(e["/T"]);
            var own = new Inherited(
                name is null ? next.From.Name
                    : next.From.Name.Length == 0 ? name
                    : $"{next.From.Name}.{name}",
                e["/FT"] is null ? next.From.Type : e.GetName("/FT"),
                (int?)Number(e["/Ff"]) ?? next.From.Flags,
                e["/V"] ?? next.From.Value,
                e["/DA"] ?? next.From.Look,
                (int?)Number(e["/Q"]) ?? next.From.Align,
                (int?)Number(e["/MaxLen"]) ?? next.From.MaxLength,
                e["/Opt"] ?? next.From.Options
            );
            var kids = Array(e["/Kids"])?.Elements.Take(20_000).Select(Dictionary).OfType<PdfDictionary>().ToList() ?? [];
            if (kids.Exists(k => k.Elements["/T"] is not null))
            {
                kids.Reverse();
                foreach (var kid in kids)
                    open.Push((kid, own, next.Depth + 1));
                continue;
            }
            if (++count > FormReader.MostFields)
                throw new PictureException($"This PDF has more than {FormReader.MostFields:N0} fields. Divide it into several forms.");
            if (own.Type == "/Sig")
            {
                signed |= own.Value is not null;
                continue;
            }
            var widgets = (kids.Count > 0 ? kids : [next.Node]).Where(k => k.Elements["/Rect"] is not null).ToList();
            if (e["/AA"] is not null)
                scripted++;
            var made = Field(own, next.Node, widgets);
            if (made.Widgets.Count == 0)
            {
                lost++;
                continue;
            }
            if (made.Calculated)
                calculated++;
            var at = made.Widgets[0];
            found.Add((made, at.Page, at.Y, at.X));
        }
        if (signed)
            notes.Add("The form is signed. Filling it in breaks the signature.");
        if (lost > 0)
            notes.Add($"{(lost == 1 ? "1 field has" : $"{lost:N0} fields have")} no place on a page and cannot be filled in.");
        if (deep)
            notes.Add($"Fields nested more than {MostDepth} deep were not read.");
        if (scripted > 0)
            notes.Add(
                $"{(scripted == 1 ? "1 field has" : $"{scripted:N0} fields have")} a script. "
                    + "It is not run; what it says of dates and numbers is followed."
            );
        if (calculated > 0)
            notes.Add(
                $"{(calculated == 1 ? "1 field is" : $"{calculated:N0} fields are")} calculated by a script. Give it an expression instead."
            );
        return Unique([.. InOrder(found)]);
    }

    /// <summary>As they are read: by page, from above, fields of one line from the left.</summary>
    static IEnumerable<FormField> InOrder(List<(FormField Field, int Page, double Y, double X)> found)
    {
        const double line = 6;
        foreach (var page in found.GroupBy(f => f.Page).OrderBy(p => p.Key))
        {
            var rest = page.OrderBy(f => f.Y).ToList();
            while (rest.Count > 0)
            {
                var row = rest.TakeWhile(f => f.Y - rest[0].Y < line).ToList();
                foreach (var f in row.OrderBy(f => f.X))
                    yield return f.Field;
                rest.RemoveRange(0, row.Count);
            }
        }
    }

    /// <summary>Fields of one name are one field (12.7.4.2); where they are of different kinds, which no viewer can fill in together, the
    /// later ones get a number.</summary>
    List<FormField> Unique(List<FormField> fields)
    {
        var byName = new Dictionary<string, int>();
        var result = new List<FormField>();
        foreach (var field in fields)
        {
            if (!byName.TryGetValue(field.Name, out var at))
            {
                byName[field.Name] = result.Count;
                result.Add(field);
            }
            else if (result[at].Kind == field.Kind)
                result[at] = result[at] with { Widgets = [.. result[at].Widgets, .. field.Widgets] };
            else
            {
                var n = 2;
                while (byName.TryGetValue($"{field.Name} ({n})", out at) && result[at].Kind != field.Kind)
                    n++;
                if (byName.TryAdd($"{field.Name} ({n})", result.Count))
                {
                    result.Add(field with { Name = $"{field.Name} ({n})" });
                    notes.Add($"Several different fields are called “{field.Name}”.");
                }
                else
                    result[at] = result[at] with { Widgets = [.. result[at].Widgets, .. field.Widgets] };
            }
        }
        return result;
    }

    FormField Field(Inherited own, PdfDictionary node, List<PdfDictionary> dictionaries)
    {
        bool Flag(int bit) => (own.Flags & (1 << (bit - 1))) != 0;
        var kind = own.Type switch
        {
            "/Tx" => FormFieldKind.Text,
            "/Ch" => FormFieldKind.Choice,
            "/Btn" when Flag(17) => FormFieldKind.Other,
            "/Btn" => Flag(16) ? FormFieldKind.Radio : FormFieldKind.Check,
            _ => FormFieldKind.Other,
        };
        var isButton = kind is FormFieldKind.Check or FormFieldKind.Radio;
        var options = Options(own.Options);
        var widgets = new List<FormWidget>();
        foreach (var (d, index) in dictionaries.Select((d, i) => (d, i)))
            if (Widget(d, isButton ? kind : null, options, index) is { } widget)
                widgets.Add(widget);
        var tooltip = Text(node.Elements["/TU"]) ?? dictionaries.Select(d => Text(d.Elements["/TU"])).FirstOrDefault(t => t is not null);
        var beside = widgets.Count == 0 ? null : labels.Of(widgets, isButton && widgets.Count > 1);
        var look = Look(Text(own.Look), own.Align);
        var (format, calculated) = Scripts(node, dictionaries);
        var initial = Text(own.Value);
        // Buttons whose values are in a list beside them hold the place in that list (12.7.5.2.3).
        if (isButton && options is not null && int.TryParse(initial, NumberStyles.None, CultureInfo.InvariantCulture, out var chosen))
            initial = chosen < options.Count ? options[chosen].Value : initial;
        return new(
            own.Name.Length == 0 ? $"field {widgets.FirstOrDefault()?.Page ?? 0}" : own.Name,
            kind,
            Short(tooltip) ?? beside ?? Plain(own.Name),
            widgets,
            look,
            Short(tooltip),
            kind == FormFieldKind.Text ? Math.Clamp(own.MaxLength, 0, 10_000) : 0,
            kind == FormFieldKind.Text && Flag(25) && own.MaxLength > 0,
            kind == FormFieldKind.Text && Flag(13),
            Flag(2),
            Flag(1),
            kind == FormFieldKind.Choice && Flag(19),
            format,
            calculated,
            string.IsNullOrWhiteSpace(initial) || isButton && initial == "Off" ? null
                : initial.Length > 10_000 ? initial[..10_000]
                : initial,
            kind == FormFieldKind.Choice ? options : null,
            Short(tooltip) is null ? null : beside,
            kind == FormFieldKind.Choice && !Flag(18)
        );
    }

    static string? Short(string? text) =>
        string.IsNullOrWhiteSpace(text) ? null
        : text.Trim().ReplaceLineEndings(" ") is { Length: > 120 } t ? t[..119] + "…"
        : text.Trim().ReplaceLineEndings(" ");

    /// <summary>A technical name as words.</summary>
    static string Plain(string name)
    {
        var words = FieldMatching.Words(name);
        return words.Length == 0 ? name : char.ToUpperInvariant(words[0]) + words[1..];
    }

    static List<FormOption>? Options(PdfItem? item) =>
        Array(item)
            ?.Elements.Take(2_000)
            .Select(o =>
                Array(o) is { Elements.Count: >= 2 } pair
                    ? new FormOption(Text(pair.Elements[0]) ?? "", Text(pair.Elements[1]) ?? "")
                    : new(Text(o) ?? "", Text(o) ?? "")
            )
            .ToList();

    /// <param name="button">For a button: which.</param>
    FormWidget? Widget(PdfDictionary d, FormFieldKind? button, List<FormOption>? options, int index)
    {
        // Hidden, or not for print (12.5.3).
        var flags = (int)(Number(d.Elements["/F"]) ?? 4);
        if ((flags & 2) != 0)
            return null;
        var page =
            d.Elements["/P"] is PdfReference p && pageOf.TryGetValue(p.ObjectID, out var named) ? named
            : d.Reference is { } self && pageOf.TryGetValue(self.ObjectID, out var listed) ? listed
            : -1;
        if (page < 0 || Array(d.Elements["/Rect"]) is not { Elements.Count: 4 } rect)
            return null;
        var corners = rect.Elements.Select(n => Number(n) ?? double.NaN).ToArray();
        if (corners.Any(c => !double.IsFinite(c) || Math.Abs(c) > 20_000))
            return null;
        var (x, y, width, height) = views[page].Seen(corners[0], corners[1], corners[2], corners[3]);
        if (width < 0.5 || height < 0.5)
            return null;
        var look = Dictionary(d.Elements["/MK"]);
        // It is turned against the clock in the page's own space (12.5.6.19), and the page is turned with the clock when it is shown.
        var turn = (((int)(Number(look?.Elements["/R"]) ?? 0) - document.Pages[page].Rotate) % 360 + 360) % 360;
        var style = Dictionary(d.Elements["/BS"]);
        string? on = null;
        if (button is not null)
        {
            on = Dictionary(Dictionary(d.Elements["/AP"])?.Elements["/N"])
                ?.Elements.KeyNames.Select(k => k.Value.TrimStart('/'))
                .FirstOrDefault(k => k != "Off");
            // Values that a name cannot hold are in a list beside it (12.7.5.2.3).
            if (
                options is not null
                && on is not null
                && int.TryParse(on, NumberStyles.None, CultureInfo.InvariantCulture, out var n)
                && n < options.Count
            )
                on = options[n].Value;
            on ??= options is not null && index < options.Count ? options[index].Value : "Yes";
        }
        return new(
            page + 1,
            Round(x),
            Round(y),
            Round(width),
            Round(height),
            on,
            button is null ? null : labels.After(page, x, y, width, height),
            button is null ? MarkShape.Check : Mark(Text(look?.Elements["/CA"]), button == FormFieldKind.Radio),
            Color(look?.Elements["/BG"]),
            Color(look?.Elements["/BC"]),
            Number(style?.Elements["/W"]) ?? 1,
            turn % 90 == 0 ? turn : 0
        );
    }

    /// <summary>What a button shows, by its character in the standard's font of signs (annex D.6).</summary>
    static MarkShape Mark(string? character, bool radio) =>
        character switch
        {
            "l" => MarkShape.Circle,
            "8" => MarkShape.Cross,
            "n" => MarkShape.Square,
            "u" => MarkShape.Diamond,
            "H" => MarkShape.Star,
            null or "" when radio => MarkShape.Circle,
            _ => MarkShape.Check,
        };

    static string? Color(PdfItem? item)
    {
        var parts = Array(item)?.Elements.Select(e => Math.Clamp(Number(e) ?? 0, 0, 1)).ToArray() ?? [];
        static string Hex(double r, double g, double b) =>
            $"{(int)Math.Round(r * 255):x2}{(int)Math.Round(g * 255):x2}{(int)Math.Round(b * 255):x2}";
        return parts switch
        {
            [var gray] => Hex(gray, gray, gray),
            [var r, var g, var b] => Hex(r, g, b),
            [var c, var m, var y, var k] => Hex((1 - c) * (1 - k), (1 - m) * (1 - k), (1 - y) * (1 - k)),
            _ => null,
        };
    }

    /// <summary>A default appearance (12.7.4.3): the font, its size, and the color.</summary>
    FormText Look(string? appearance, int align)
    {
        var words = (appearance ?? "").Split([' ', '\r', '\n', '\t'], StringSplitOptions.RemoveEmptyEntries);
        var (family, size, bold, italic, color) = ("Arimo", 0.0, false, false, "000000");
        static double N(string text) => double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var n) ? n : 0;
        for (var i = 0; i < words.Length; i++)
            switch (words[i])
            {
                case "Tf" when i >= 2:
                    size = Math.Clamp(N(words[i - 1]), 0, 144);
                    var font = BaseFont(words[i - 2].TrimStart('/')).ToUpperInvariant();
                    family =
                        font.Contains("TIM")
                        || font.StartsWith("TI", StringComparison.Ordinal)
                        || font.Contains("SERIF") && !font.Contains("SANS")
                            ? "Tinos"
                        : font.Contains("COUR") || font.StartsWith("CO", StringComparison.Ordinal) || font.Contains("MONO") ? "Cousine"
                        : "Arimo";
                    bold = font.Contains("BOLD") || font is "HEBO" or "TIBO" or "COBO";
                    italic = font.Contains("ITALIC") || font.Contains("OBLIQUE");
                    break;
                case "g" when i >= 1:
                    var gray = (int)Math.Round(Math.Clamp(N(words[i - 1]), 0, 1) * 255);
                    color = $"{gray:x2}{gray:x2}{gray:x2}";
                    break;
                case "rg" when i >= 3:
                    color = string.Concat(words[(i - 3)..i].Select(w => $"{(int)Math.Round(Math.Clamp(N(w), 0, 1) * 255):x2}"));
                    break;
            }
        return new(family, size, bold, italic, color, Math.Clamp(align, 0, 2));
    }

    string BaseFont(string name)
    {
        var fonts = Dictionary(Dictionary(acroForm?.Elements["/DR"])?.Elements["/Font"]);
        return Dictionary(fonts?.Elements["/" + name])?.Elements.GetName("/BaseFont") is { Length: > 1 } known
            ? known.TrimStart('/')
            : name;
    }

    /// <summary>What the scripts of a field say of its form, without being run, and whether one computes it.</summary>
    static (string? Format, bool Calculated) Scripts(PdfDictionary node, List<PdfDictionary> widgets)
    {
        string? format = null;
        var calculated = false;
        foreach (var d in widgets.Prepend(node))
        {
            var actions = Dictionary(d.Elements["/AA"]);
            calculated |= actions?.Elements["/C"] is not null;
            if (Text(Dictionary(actions?.Elements["/F"])?.Elements["/JS"]) is { Length: < 2_000 } script)
                format ??= FormScripts.Format(script);
        }
        return (format, calculated);
    }
}
