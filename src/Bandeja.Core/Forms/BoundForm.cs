using Bandeja.Core.Composition;
using Bandeja.Core.Language;

namespace Bandeja.Core.Forms;

/// <summary>A field of the form with what fills it in.</summary>
/// <param name="Answer">Null where nothing does: it keeps what the file has.</param>
sealed record BoundField(FormField Field, Template? Answer)
{
    /// <summary>Positions of the columns that the answer reads.</summary>
    public IReadOnlyList<int> Columns { get; } =
        Answer is null ? [] : [.. Answer.Parts.SelectMany(DesignReading.Within).SelectMany(e => e.Columns()).Distinct()];
}

/// <summary>A box with its value parsed.</summary>
/// <param name="Text">For text and cells.</param>
/// <param name="Source">For marks, pictures, and barcodes.</param>
sealed record BoundFormBox(FormBox Box, Template? Text, Expression? Source);

/// <summary>A form bound to a list's columns. Safe to share; a <see cref="FormComposer"/> serves one thread.</summary>
public sealed class BoundForm : IBoundDesign
{
    internal IReadOnlyList<BoundField> Fields { get; }
    internal IReadOnlyList<BoundFormBox> Boxes { get; }

    /// <summary>For whom it goes into the package; null for everyone.</summary>
    internal Expression? When { get; }

    /// <summary>The name of the recipient's own document that goes in place of the file; null for the file.</summary>
    internal Template? Own { get; }

    /// <summary>Binds a design.</summary>
    public BoundForm(FormDesign design, LetterSetting setting)
    {
        (Design, Setting) = (setting.Fields is { } fields ? design with { Output = fields } : design, setting);
        var names = setting.Names;
        var errors = new List<DesignError>();
        var pageNames = names.WithPages();
        Template? Text(string source, int index, Names with)
        {
            var template = Template.Parse(source, with);
            errors.AddRange(template.Errors.Select(e => new DesignError(index, source, e)));
            return template;
        }
        Expression? Parsed(string source, int index)
        {
            if (string.IsNullOrWhiteSpace(source))
                return null;
            var parsed = FieldParser.ParseExpression(source, names);
            errors.AddRange(parsed.Errors.Select(e => new DesignError(index, source, e)));
            return parsed.Expression;
        }
        Fields =
        [
            .. design.Facts.Fields.Select(
                (f, i) =>
                    new BoundField(
                        f,
                        f.Kind != FormFieldKind.Other && design.Answers.TryGetValue(f.Name, out var answer) ? Text(answer, i, names) : null
                    )
            ),
        ];
        Boxes =
        [
            .. design.Boxes.Select(
                (b, i) =>
                {
                    var index = design.Facts.Fields.Count + i;
                    return b.Use is FormBoxUse.Text or FormBoxUse.Cells
                        ? new BoundFormBox(b, Text(b.Value, index, pageNames), null)
                        : new BoundFormBox(b, null, Parsed(b.Value, index));
                }
            ),
        ];
        When = design.When is { } when ? Parsed(when, design.Facts.Fields.Count + design.Boxes.Count) : null;
        Own = design.Own is { } own ? Text(own, design.Facts.Fields.Count + design.Boxes.Count + 1, names) : null;
        Errors = errors;
        UsedColumns = DesignReading.Used(this.Expressions(), setting.Columns, false);
    }

    /// <summary>The design.</summary>
    public FormDesign Design { get; }

    /// <inheritdoc/>
    public LetterSetting Setting { get; }

    /// <inheritdoc/>
    public bool KeepsTags => Design.Facts.IsTagged && Design.Output != FormOutput.Printed;

    /// <inheritdoc/>
    public PieceKind Kind => PieceKind.Form;

    /// <inheritdoc/>
    public (double Width, double Height)? Size => (Design.Facts.Pages[0].Width, Design.Facts.Pages[0].Height);

    /// <inheritdoc/>
    public IReadOnlyList<DesignError> Errors { get; }

    /// <inheritdoc/>
    public IReadOnlyList<int> UsedColumns { get; }

    /// <inheritdoc/>
    public int? MaxPages => null;

    /// <inheritdoc/>
    public IReadOnlyList<string> Mailers => [];

    /// <inheritdoc/>
    public IEnumerable<TemplatePart> Parts =>
        Fields.SelectMany(f => f.Answer?.Parts ?? []).Concat(Boxes.SelectMany(b => b.Text?.Parts ?? [])).Concat(Own?.Parts ?? []);

    /// <inheritdoc/>
    public IEnumerable<Expression> Unprinted => Boxes.Where(b => b.Box.Use != FormBoxUse.Mark).Select(b => b.Source).OfType<Expression>();

    /// <inheritdoc/>
    public IEnumerable<DesignTest> Tests =>
        Boxes
            .Where(b => b.Box.Use == FormBoxUse.Mark)
            .Select(b => b.Source)
            .Append(When)
            .OfType<Expression>()
            .Select(e => new DesignTest(e, FormComposer.Holds));

    /// <inheritdoc/>
    public EvaluationContext NewContext(DateOnly today) =>
        new(Setting.Columns, Setting.Locale, today, Setting.Details, Setting.Sender, Setting.Addressing);

    /// <inheritdoc/>
    public IPieceComposer Composer(DateOnly today) => new FormComposer(this, today);
}
