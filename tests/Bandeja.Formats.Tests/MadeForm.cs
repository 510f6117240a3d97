using System.Text;

namespace Bandeja.Formats.Tests;

/// <summary>Makes PDF forms object by object, so that a test says exactly what stands in the file.</summary>
sealed class MadeForm
{
    readonly List<string> objects = [];
    readonly List<(string Entries, string Content, List<int> Annotations)> pages = [];
    readonly List<int> fields = [];

    /// <summary>More entries of the catalog, and of its form.</summary>
    public string Catalog { get; init; } = "";

    public string AcroForm { get; init; } = "";

    /// <summary>A page; annotations that are made after it stand on it.</summary>
    public MadeForm Page(string content = "", string entries = "/MediaBox[0 0 612 792]")
    {
        pages.Add((entries, content, []));
        return this;
    }

    /// <summary>Text in Helvetica at a place from the lower left corner.</summary>
    public static string Text(double x, double y, string said, double size = 10) =>
        FormattableString.Invariant($"BT /F1 {size} Tf {x} {y} Td ({said}) Tj ET\n");

    /// <summary>An object; answers its number.</summary>
    public int Object(string text)
    {
        objects.Add(text);
        return objects.Count;
    }

    /// <summary>Says anew what an object is.</summary>
    public void Set(int number, string text) => objects[number - 1] = text;

    /// <summary>A stream; answers its number.</summary>
    public int Stream(string entries, string content) => Object($"<<{entries}/Length {content.Length}>>\nstream\n{content}\nendstream");

    /// <summary>A field that is its own widget, on the last page.</summary>
    public MadeForm Field(string name, string rect, string entries = "/FT/Tx")
    {
        var number = Object($"<</Type/Annot/Subtype/Widget/F 4/T({name})/Rect[{rect}]{entries}>>");
        fields.Add(number);
        pages[^1].Annotations.Add(number);
        return this;
    }

    /// <summary>An annotation on the last page.</summary>
    public int Annotation(string text)
    {
        var number = Object(text);
        pages[^1].Annotations.Add(number);
        return number;
    }

    /// <summary>A field of the form's own list.</summary>
    public void Root(int number) => fields.Add(number);

    public byte[] File()
    {
        var font = Object("<</Type/Font/Subtype/Type1/BaseFont/Helvetica/Encoding/WinAnsiEncoding>>");
        var tree = objects.Count + 2 * pages.Count + 1;
        var kids = new List<int>();
        foreach (var (entries, content, annotations) in pages)
        {
            var stream = Stream("", content);
            var list = string.Join(' ', annotations.Select(a => $"{a} 0 R"));
            kids.Add(
                Object(
                    $"<</Type/Page/Parent {tree} 0 R{entries}/Contents {stream} 0 R/Resources<</Font<</F1 {font} 0 R>>>>/Annots[{list}]>>"
                )
            );
        }
        Object($"<</Type/Pages/Count {kids.Count}/Kids[{string.Join(' ', kids.Select(k => $"{k} 0 R"))}]>>");
        var form = Object(
            $"<</Fields[{string.Join(' ', fields.Select(f => $"{f} 0 R"))}]/DA(/Helv 0 Tf 0 g)/DR<</Font<</Helv {font} 0 R>>>>{AcroForm}>>"
        );
        var catalog = Object($"<</Type/Catalog/Pages {tree} 0 R/AcroForm {form} 0 R{Catalog}>>");
        var file = new StringBuilder("%PDF-1.7\n");
        var places = new List<int>();
        for (var i = 0; i < objects.Count; i++)
        {
            places.Add(file.Length);
            file.Append($"{i + 1} 0 obj\n{objects[i]}\nendobj\n");
        }
        var start = file.Length;
        file.Append($"xref\n0 {objects.Count + 1}\n0000000000 65535 f \n");
        foreach (var place in places)
            file.Append($"{place:0000000000} 00000 n \n");
        file.Append($"trailer\n<</Size {objects.Count + 1}/Root {catalog} 0 R>>\nstartxref\n{start}\n%%EOF\n");
        return Encoding.Latin1.GetBytes(file.ToString());
    }
}
