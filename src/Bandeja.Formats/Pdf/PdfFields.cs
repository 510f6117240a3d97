using System.Globalization;
using System.Runtime.CompilerServices;
using Bandeja.Core.Composition;

namespace Bandeja.Formats.Pdf;

/// <summary>The fields of a file that stay fillable (ISO 32000-2, 12.7): each widget has its own appearance, so that every viewer and
/// printer shows the value; fields of one name are one field.</summary>
sealed class PdfFields(PdfObjects objects)
{
    sealed record Field(FieldShape Shape, string Value, int Number, List<int> Widgets);

    /// <summary>A part of the fields' names, and what is below it.</summary>
    sealed class Node
    {
        public Dictionary<string, Node> Below { get; } = [];
        public Field? Field { get; set; }
    }

    readonly Dictionary<string, Field> fields = [];

    /// <summary>True where there is none.</summary>
    public bool IsEmpty => fields.Count == 0;

    /// <summary>Writes a widget; answers its number.</summary>
    /// <param name="tag">Its entry for the file's structure, by its number.</param>
    /// <param name="appearance">Writes what is drawn of it; answers the number of the form XObject.</param>
    public int Widget(FieldItem item, double bottom, int page, Func<int, string> tag, Func<IEnumerable<PageItem>, int> appearance)
    {
        var shape = item.Shape;
        if (!fields.TryGetValue(shape.Name, out var field))
            fields[shape.Name] = field = new(shape, item.Value, objects.Reserve(), []);
        var number = objects.Reserve();
        field.Widgets.Add(number);
        static string N(double value) => PdfObjects.Number(value);
        string look;
        if (shape.Sort == FieldSort.Button)
        {
            var (on, off) = (appearance(item.Looks.Concat(item.Marked)), appearance(item.Looks));
            look = $"/AP<</N<</{Name(item.On!)} {on} 0 R/Off {off} 0 R>>>>/AS/{(item.IsOn ? Name(item.On!) : "Off")}";
        }
        else
            look = $"/AP<</N {appearance(item.Looks)} 0 R>>";
        objects.Object(
            number,
            $"<</Type/Annot/Subtype/Widget/F 4/P {page} 0 R/Parent {field.Number} 0 R"
                + (item.Turn == 0 ? "" : $"/MK<</R {item.Turn}>>")
                + $"/Rect[{N(item.X)} {N(bottom)} {N(item.X + item.Width)} {N(bottom + item.Height)}]{look}{tag(number)}>>"
        );
        return number;
    }

    /// <summary>A name, what is no plain character in it as #xx (7.3.5).</summary>
    static string Name(string value) =>
        string.Concat(
            System
                .Text.Encoding.UTF8.GetBytes(value)
                .Take(120)
                .Select(b => b is > 32 and < 127 && !"()<>[]{}/%#".Contains((char)b) ? ((char)b).ToString() : $"#{b:X2}")
        );

    /// <summary>Writes the fields; answers the catalog's entry.</summary>
    public string Finish()
    {
        if (IsEmpty)
            return "";
        var root = new Node();
        foreach (var field in fields.Values)
        {
            var at = root;
            foreach (var part in field.Shape.Name.Split('.'))
                at = at.Below.TryGetValue(part, out var known) ? known : at.Below[part] = new();
            at.Field = field;
        }
        var font = objects.Reserve();
        objects.Object(font, "<</Type/Font/Subtype/Type1/BaseFont/Helvetica/Encoding/WinAnsiEncoding>>");
        var tops = root.Below.SelectMany(b => Write(b.Key, b.Value, null)).ToList();
        return $"/AcroForm<</Fields[{Refs(tops)}]/DR<</Font<</Helv {font} 0 R>>>>/DA(/Helv 0 Tf 0 g)>>";
    }

    static string Refs(IEnumerable<int> numbers) => string.Join(' ', numbers.Select(n => $"{n} 0 R"));

    /// <summary>A name's field and what is below it. A name can be both where a file is careless: then each is written.</summary>
    List<int> Write(string name, Node node, int? parent)
    {
        var written = new List<int>();
        var above = parent is { } p ? $"/Parent {p} 0 R" : "";
        if (node.Below.Count > 0)
        {
            var number = objects.Reserve();
            var kids = node.Below.SelectMany(b => Write(b.Key, b.Value, number)).ToList();
            objects.Object(number, $"<</T {PdfObjects.TextString(name)}{above}/Kids[{Refs(kids)}]>>");
            written.Add(number);
        }
        if (node.Field is not { } field)
            return written;
        var (shape, value) = (field.Shape, field.Value);
        var entry =
            shape.Sort == FieldSort.Button ? $"/V/{(value.Length > 0 ? Name(value) : "Off")}" : $"/V {PdfObjects.TextString(value)}";
        objects.Object(
            field.Number,
            $"<</T {PdfObjects.TextString(name)}{above}{Entries.GetValue(shape, EntriesOf)}{entry}/Kids[{Refs(field.Widgets)}]>>"
        );
        written.Add(field.Number);
        return written;
    }

    // What thousands of files have in common is written out once.
    static readonly ConditionalWeakTable<FieldShape, string> Entries = [];

    static string EntriesOf(FieldShape shape)
    {
        static double Share(string color, int at) =>
            int.Parse(color.AsSpan(at, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture) / 255.0;
        var (size, color) = shape.Type;
        var look = string.Join(' ', new[] { 0, 2, 4 }.Select(i => PdfObjects.Number(Share(color, i))));
        var options = shape.Options is null
            ? ""
            : $"/Opt[{string.Concat(shape.Options.Select(o => $"[{PdfObjects.TextString(o.Value)}{PdfObjects.TextString(o.Label)}]"))}]";
        return $"/TU {PdfObjects.TextString(shape.Tooltip)}"
            + $"/FT/{shape.Sort switch { FieldSort.Button => "Btn", FieldSort.Choice => "Ch", _ => "Tx" }}/Ff {shape.Flags}"
            + $"{(shape.MaxLength > 0 ? $"/MaxLen {shape.MaxLength}" : "")}/Q {shape.Align}"
            + $"{(shape.Sort == FieldSort.Button ? "" : $"/DA(/Helv {PdfObjects.Number(size)} Tf {look} rg)")}{options}";
    }
}
