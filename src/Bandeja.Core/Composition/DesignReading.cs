using System.Text;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Composition;

/// <summary>What a bound design reads of a recipient.</summary>
public static class DesignReading
{
    /// <summary>All expressions of a design.</summary>
    public static IEnumerable<Expression> Expressions(this IBoundDesign design) =>
        design.Parts.SelectMany(Within).Concat(design.Unprinted).Concat(design.Tests.Select(t => t.When));

    /// <summary>The expressions within a part.</summary>
    public static IEnumerable<Expression> Within(TemplatePart part) =>
        part.All()
            .SelectMany(p =>
                p switch
                {
                    FieldPart f => [f.Field, .. f.Thing is LinkedStyle l ? l.Link.Parts.SelectMany(Within) : []],
                    WhenPart w => w.Branches.Select(b => b.Test).OfType<Expression>(),
                    PlainPart { Thing: BoundParagraph b } => b.Parts.SelectMany(Within),
                    PlainPart { Thing: BoundQuote b } => b.Parts.SelectMany(Within),
                    PlainPart { Thing: BoundBox b } => b.Parts.SelectMany(Within),
                    PlainPart { Thing: BoundColumns b } => b.Parts.SelectMany(Within),
                    PlainPart { Thing: BoundNote b } => b.Parts.SelectMany(Within),
                    PlainPart { Thing: BoundList b } => b.Items.SelectMany(Within),
                    PlainPart { Thing: BoundItem b } => b.Parts.SelectMany(Within),
                    PlainPart { Thing: BoundTable b } => b.Rows.SelectMany(Within),
                    PlainPart { Thing: BoundRow b } => b.Cells.SelectMany(c => c.Cell.Parts).SelectMany(Within),
                    PlainPart { Thing: BoundPicture b } =>
                    [
                        .. b.Source is { } s ? [s] : Enumerable.Empty<Expression>(),
                        .. b.Link is { } l ? l.Parts.SelectMany(Within) : [],
                    ],
                    PlainPart { Thing: BoundPictureInline { Source: { } s } } => [s],
                    PlainPart { Thing: BoundBarcode { Source: { } s } } => [s],
                    PlainPart { Thing: LinkedStyle l } => l.Link.Parts.SelectMany(Within),
                    _ => Enumerable.Empty<Expression>(),
                }
            );

    /// <summary>The parts that a block carries within: a table's rows, a list's items, a paragraph's words.</summary>
    public static IEnumerable<TemplatePart> Inner(PlainPart part) =>
        (
            part.Thing switch
            {
                BoundParagraph b => b.Parts,
                BoundQuote b => b.Parts,
                BoundBox b => b.Parts,
                BoundColumns b => b.Parts,
                BoundNote b => b.Parts,
                BoundList b => b.Items,
                BoundItem b => b.Parts,
                BoundTable b => b.Rows,
                BoundRow b => [.. b.Cells.SelectMany(c => c.Cell.Parts)],
                _ => Enumerable.Empty<TemplatePart>(),
            }
        )
            .SelectMany(p => p.All())
            .SelectMany(p => p is PlainPart inner ? Inner(inner).Prepend(p) : [p]);

    /// <summary>The texts of a design as they were written, a stretch of one look each.</summary>
    public static IEnumerable<string> Texts(this IBoundDesign design) => design.Parts.SelectMany(Texts);

    static IEnumerable<string> Texts(TemplatePart part) =>
        part.All()
            .OfType<PlainPart>()
            .SelectMany(p => Inner(p).OfType<PlainPart>().Prepend(p))
            .SelectMany(p =>
                p.Thing is FixedGroup group ? group.Blocks.SelectMany(b => Texts(new PlainPart("", b))) : Enumerable.Repeat(p.Text, 1)
            );

    /// <summary>All text of a design as it was written, whatever its look: each block begins a new line, and a field stands as one
    /// character (U+FFFC).</summary>
    public static string WholeText(this IBoundDesign design)
    {
        var text = new StringBuilder();
        foreach (var part in design.Parts)
            Append(text, part);
        return text.ToString();
    }

    static void Append(StringBuilder text, TemplatePart part)
    {
        foreach (var p in part.All().SelectMany(p => p is PlainPart plain ? Inner(plain).Prepend(p) : [p]))
            if (p is PlainPart { Thing: FixedGroup group })
                foreach (var block in group.Blocks)
                    Append(text, new PlainPart("", block));
            else if (p is PlainPart { Text: var written, Thing: var thing })
                text.Append(written.Length == 0 && thing is not null ? "\n" : written);
            else
                text.Append('\uFFFC');
    }

    /// <summary>Positions of the columns that expressions read; the made values read the columns by their roles.</summary>
    /// <param name="routed">True where a barcode reads the address.</param>
    public static IReadOnlyList<int> Used(IEnumerable<Expression> expressions, IReadOnlyList<Column> columns, bool routed)
    {
        var used = new SortedSet<int>();
        var roles = routed;
        foreach (var expression in expressions)
        {
            used.UnionWith(expression.Columns());
            roles |= ReadsRoles(expression);
        }
        if (roles)
            used.UnionWith(
                Enumerable
                    .Range(0, columns.Count)
                    .Where(i => columns[i].Role is not (Role.None or Role.Key or Role.Email or Role.Phone or Role.Language))
            );
        return [.. used];
    }

    static bool ReadsRoles(Expression e) =>
        e is BuiltInReference { Which: BuiltIn.DeliveryAddress or BuiltIn.Salutation or >= BuiltIn.AddressLines }
        || e.Parts().Any(ReadsRoles);
}
