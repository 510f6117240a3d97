using System.Text.Json.Nodes;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Forms;

/// <summary>Forms: a PDF as it is, filled in for every recipient.</summary>
public sealed class FormKind : DesignKind
{
    static readonly TextStyle Plain = new("Arimo", 10);

    /// <inheritdoc/>
    public override PieceKind Kind => PieceKind.Form;

    /// <inheritdoc/>
    public override string Word => "form";

    /// <inheritdoc/>
    public override bool HasPages => true;

    /// <inheritdoc/>
    public override bool ChangesForOne => true;

    /// <inheritdoc/>
    public override bool IsFile => true;

    /// <inheritdoc/>
    public override void Validate(string json, JsonObject? root) => FormReader.Read(root!);

    /// <inheritdoc/>
    public override LetterDesign AsText(string json, JsonObject? root)
    {
        var form = FormReader.Read(root!);
        var labels = form.Facts.Fields.DistinctBy(f => f.Name).ToDictionary(f => f.Name, f => f.Label);
        var output = form.Output switch
        {
            FormOutput.Fillable => "fillable",
            FormOutput.ReadOnly => "read-only",
            _ => "printed in",
        };
        var lines = form
            .Answers.Select(a => $"{labels.GetValueOrDefault(a.Key) ?? a.Key}: {a.Value}")
            .Concat(form.Boxes.Select(b => $"[{b.Name.Split(' ')[^1]}] {b.Value}"))
            .Prepend($"[form] {form.File}")
            .Append($"[fields] {output}")
            .Concat(form.When is { } when ? [$"[when] {when}"] : Array.Empty<string>());
        var page = form.Facts.Pages[0];
        return new(
            new(page.Width, page.Height, 0, 0, 0, 0),
            [.. lines.Select(l => new Paragraph(new(TextAlign.Left, 1, 0), [new TextInline(l, Plain)], Plain))],
            null,
            Letterhead.None
        );
    }

    /// <inheritdoc/>
    public override IBoundDesign Bind(string json, JsonObject? root, LetterSetting setting) =>
        new BoundForm(FormReader.Read(root!), setting);
}
