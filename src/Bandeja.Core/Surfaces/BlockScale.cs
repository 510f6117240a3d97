using Bandeja.Core.Composition;

namespace Bandeja.Core.Surfaces;

/// <summary>The same content with its type smaller; pictures and barcodes keep their measures.</summary>
static class BlockScale
{
    public static IReadOnlyList<Block> Of(IReadOnlyList<Block> blocks, double scale) =>
        scale == 1 ? blocks : [.. blocks.Select(b => Of(b, scale))];

    static Block Of(Block block, double scale) =>
        block switch
        {
            Paragraph p => new Paragraph(
                p.Style with
                {
                    SpaceAfter = p.Style.SpaceAfter * scale,
                    SpaceBefore = p.Style.SpaceBefore * scale,
                },
                [.. p.Inlines.Select(i => i with { Style = Of(i.Style, scale) })],
                Of(p.BaseStyle, scale)
            ),
            ItemList l => l with { Items = [.. l.Items.Select(i => Of(i, scale))], LabelStyle = Of(l.LabelStyle, scale) },
            Quote q => new Quote(Of(q.Blocks, scale)),
            Box x => x with { Blocks = Of(x.Blocks, scale) },
            Columns c => c with { Blocks = Of(c.Blocks, scale) },
            WhenBlock w => new WhenBlock([.. w.Branches.Select(b => (b.Test, Of(b.Blocks, scale)))]),
            EachBlock e => e with { Blocks = Of(e.Blocks, scale) },
            Table t => t with
            {
                Rows = [.. t.Rows.Select(r => r with { Cells = [.. r.Cells.Select(c => c with { Blocks = Of(c.Blocks, scale) })] })],
            },
            _ => block,
        };

    static TextStyle Of(TextStyle style, double scale) => style with { Size = style.Size * scale };
}
