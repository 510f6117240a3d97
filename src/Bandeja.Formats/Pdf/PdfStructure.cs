using System.Text;
using Bandeja.Core.Composition;

namespace Bandeja.Formats.Pdf;

/// <summary>
/// The structure of a tagged PDF (ISO 32000-1, 14.7 and 14.8): marks what is drawn as parts of elements, and writes each letter's
/// elements as soon as the letter is whole, so that memory does not grow.
/// </summary>
sealed class PdfStructure(PdfObjects objects, ContentStream content)
{
    sealed class Node(int number, Element? element, int parent)
    {
        public int Number => number;
        public Element? Element => element;
        public int Parent => parent;
        public List<string> Kids { get; } = [];
        public bool IsLink { get; init; }
    }

    readonly int root = objects.Reserve(),
        document = objects.Reserve(),
        parentTree = objects.Reserve();
    readonly Dictionary<Element, Node> nodes = new(ReferenceEqualityComparer.Instance);
    readonly List<Node> inOrder = [];
    readonly List<int> letters = [],
        marked = [];
    readonly List<(int Key, int Number)> parents = [];
    Node? letter,
        open;
    bool artifact;
    int page,
        nextKey;

    public void BeginPage(int number)
    {
        (page, open, artifact) = (number, null, false);
        marked.Clear();
    }

    /// <summary>What follows belongs to an element; null for decoration.</summary>
    /// <param name="within">The element that stands for the parent of one that has none.</param>
    public void Turn(Element? element, Element? within = null)
    {
        if (element is null)
        {
            if (artifact)
                return;
            Close();
            content.Raw("/Artifact BMC\n"u8);
            artifact = true;
            return;
        }
        if (open is not null && ReferenceEquals(open.Element, element))
            return;
        Close();
        open = Of(element, within);
        content.Raw(Encoding.Latin1.GetBytes($"/{TypeOf(open)} <</MCID {marked.Count}>> BDC\n"));
        open.Kids.Add($"<</Type/MCR/Pg {page} 0 R/MCID {marked.Count}>>");
        marked.Add(open.Number);
    }

    void Close()
    {
        if (open is not null || artifact)
            content.Raw("EMC\n"u8);
        (open, artifact) = (null, false);
    }

    Node Of(Element element, Element? within = null)
    {
        if (nodes.TryGetValue(element, out var known))
            return known;
        letter ??= New(null, document);
        var parent = (element.Parent ?? within) is { } above ? Of(above) : letter;
        var node = New(element, parent.Number);
        parent.Kids.Add($"{node.Number} 0 R");
        return nodes[element] = node;
    }

    Node New(Element? element, int parent, bool link = false)
    {
        var node = new Node(objects.Reserve(), element, parent) { IsLink = link };
        inOrder.Add(node);
        return node;
    }

    /// <summary>Makes a link annotation part of an element; answers the annotation's entry.</summary>
    public string Link(int annotation, Element? element)
    {
        if (element is null)
            return "";
        var parent = Of(element);
        var node = New(null, parent.Number, true);
        node.Kids.Add($"<</Type/OBJR/Pg {page} 0 R/Obj {annotation} 0 R>>");
        parent.Kids.Add($"{node.Number} 0 R");
        parents.Add((nextKey, node.Number));
        return $"/StructParent {nextKey++}";
    }

    /// <summary>Ends a page; answers its entries.</summary>
    public string EndPage()
    {
        Close();
        if (marked.Count == 0)
            return "/Tabs/S";
        var number = objects.Reserve();
        objects.Object(number, $"[{string.Join(' ', marked.Select(n => $"{n} 0 R"))}]");
        parents.Add((nextKey, number));
        return $"/Tabs/S/StructParents {nextKey++}";
    }

    /// <summary>Writes a letter's elements.</summary>
    public void EndLetter()
    {
        foreach (var node in inOrder)
            objects.Object(
                node.Number,
                $"<</Type/StructElem/S/{TypeOf(node)}/P {node.Parent} 0 R{Attributes(node.Element)}/K[{string.Join(' ', node.Kids)}]>>"
            );
        if (letter is not null)
            letters.Add(letter.Number);
        nodes.Clear();
        inOrder.Clear();
        letter = null;
    }

    static string TypeOf(Node node) =>
        node.IsLink
            ? "Link"
            : node.Element?.Kind switch
            {
                null => "Sect",
                ElementKind.Heading1 => "H1",
                ElementKind.Heading2 => "H2",
                ElementKind.Heading3 => "H3",
                ElementKind.Quote => "BlockQuote",
                ElementKind.Note => "Note",
                ElementKind.List => "L",
                ElementKind.ListItem => "LI",
                ElementKind.Table => "Table",
                ElementKind.Row => "TR",
                ElementKind.HeadingCell => "TH",
                ElementKind.Cell => "TD",
                ElementKind.Figure => "Figure",
                _ => "P",
            };

    static string Attributes(Element? element)
    {
        if (element is null)
            return "";
        var text = element.Alt is null ? "" : $"/Alt {PdfObjects.TextString(element.Alt)}";
        if (element.Kind is not (ElementKind.HeadingCell or ElementKind.Cell))
            return text;
        return $"{text}/A<</O/Table{(element.Kind == ElementKind.HeadingCell ? "/Scope/Column" : "")}"
            + $"{(element.ColumnSpan > 1 ? $"/ColSpan {element.ColumnSpan}" : "")}"
            + $"{(element.RowSpan > 1 ? $"/RowSpan {element.RowSpan}" : "")}>>";
    }

    /// <summary>Writes the root; answers the catalog's entries.</summary>
    public string Finish(string title)
    {
        objects.Object(
            document,
            $"<</Type/StructElem/S/Document/P {root} 0 R/T "
                + $"{PdfObjects.TextString(title)}/K[{string.Join(' ', letters.Select(n => $"{n} 0 R"))}]>>"
        );
        objects.Object(parentTree, $"<</Nums[{string.Join(' ', parents.Select(p => $"{p.Key} {p.Number} 0 R"))}]>>");
        objects.Object(root, $"<</Type/StructTreeRoot/K[{document} 0 R]/ParentTree {parentTree} 0 R/ParentTreeNextKey {nextKey}>>");
        return $"/MarkInfo<</Marked true>>/StructTreeRoot {root} 0 R";
    }
}
