using System.Text.Json.Serialization;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Forms;

/// <summary>What a field of a PDF form is (ISO 32000-2, 12.7.5).</summary>
[JsonConverter(typeof(JsonStringEnumConverter<FormFieldKind>))]
public enum FormFieldKind
{
    /// <summary>Text in one line or several.</summary>
    [JsonStringEnumMemberName("text")]
    Text,

    /// <summary>A check box, or several that are one answer.</summary>
    [JsonStringEnumMemberName("check")]
    Check,

    /// <summary>Buttons of which one is on.</summary>
    [JsonStringEnumMemberName("radio")]
    Radio,

    /// <summary>A value out of a list, shown or dropped down.</summary>
    [JsonStringEnumMemberName("choice")]
    Choice,

    /// <summary>A button that does something, and a signature: nothing is filled in there.</summary>
    [JsonStringEnumMemberName("other")]
    Other,
}

/// <summary>A page of a form as it is seen. Points.</summary>
/// <param name="Across">Heights of lines that are drawn across it, from its top, to which boxes are aligned.</param>
/// <param name="Down">Places of lines that are drawn down it, from its left edge.</param>
public sealed record FormPage(double Width, double Height, IReadOnlyList<double>? Across = null, IReadOnlyList<double>? Down = null);

/// <summary>Where a field stands: its page from 1, and its place in points from the page's left and top edges as it is seen.</summary>
/// <param name="On">For a button: the value that stands for it being on (its export value).</param>
/// <param name="Label">For a button: the text beside it.</param>
/// <param name="Mark">What a button shows when it is on.</param>
/// <param name="Shade">The color behind it, RRGGBB; null for none.</param>
/// <param name="Border">The color of the line around it, RRGGBB; null for none.</param>
/// <param name="BorderWidth">Points.</param>
/// <param name="Turn">By how many degrees what is in it is turned against the clock, as the page is seen: 0, 90, 180, or 270.</param>
public sealed record FormWidget(
    int Page,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.Never)] double X,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.Never)] double Y,
    double Width,
    double Height,
    string? On = null,
    string? Label = null,
    MarkShape Mark = MarkShape.Check,
    string? Shade = null,
    string? Border = null,
    double BorderWidth = 1,
    int Turn = 0
);

/// <summary>A value that a field offers.</summary>
/// <param name="Value">What is stored.</param>
/// <param name="Label">What is shown.</param>
public sealed record FormOption(string Value, string Label);

/// <summary>How text in a form looks. Size in points, 0 for as large as fits; color as RRGGBB.</summary>
/// <param name="Align">0 left, 1 centered, 2 right (12.7.4.3).</param>
public sealed record FormText(
    string Family = "Arimo",
    double Size = 0,
    bool Bold = false,
    bool Italic = false,
    string Color = "000000",
    int Align = 0
);

/// <summary>A field of a PDF form.</summary>
/// <param name="Name">Its full name, unique in the form.</param>
/// <param name="Label">What people call it: its tooltip, the text beside it, or its name.</param>
/// <param name="MaxLength">Characters; 0 for any number.</param>
/// <param name="Comb">One character in each of <paramref name="MaxLength"/> cells.</param>
/// <param name="Editable">A list to which other values can be written.</param>
/// <param name="Format">How the form writes dates or numbers in it, as its own script says it; null for as they come.</param>
/// <param name="Calculated">True where a script of the form would compute it.</param>
/// <param name="Initial">What it holds in the file.</param>
/// <param name="IsList">For a choice: a list that is shown open, not dropped down.</param>
/// <param name="Beside">The text beside it, where its label is its tooltip.</param>
public sealed record FormField(
    string Name,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.Never)] FormFieldKind Kind,
    string Label,
    IReadOnlyList<FormWidget> Widgets,
    FormText? Text = null,
    string? Tooltip = null,
    int MaxLength = 0,
    bool Comb = false,
    bool Multiline = false,
    bool Required = false,
    bool ReadOnly = false,
    bool Editable = false,
    string? Format = null,
    bool Calculated = false,
    string? Initial = null,
    IReadOnlyList<FormOption>? Options = null,
    string? Beside = null,
    bool IsList = false
);

/// <summary>What is known of a PDF that is used as a form.</summary>
/// <param name="Notes">What was removed from it, and what it does here otherwise than elsewhere; sentences.</param>
/// <param name="IsTagged">True where it tells its structure (ISO 32000-2, 14.8), so that a screen reader can follow it.</param>
public sealed record FormFacts(
    IReadOnlyList<FormPage> Pages,
    IReadOnlyList<FormField> Fields,
    IReadOnlyList<string> Notes,
    bool IsTagged = false
);
