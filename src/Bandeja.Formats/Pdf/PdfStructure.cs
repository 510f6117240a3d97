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
    readonly List<Import> imports = [];
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

    /// <summary>A PDF whose pages are part of the letter.</summary>
    sealed record Import(string Asset, IReadOnlyList<PdfTag> Tags)
    {
        /// <summary>By the number of its page: the page here, the object with its content, and its key.</summary>
        public Dictionary<int, (int Page, int Content, int Key)> Pages { get; } = [];

        /// <summary>By its place: a field's widget, its key, and the page here.</summary>
        public Dictionary<PdfTaggedWidget, (int Number, int Key, int Page)> Widgets { get; } = [];
    }

    /// <summary>What follows belongs to no element of ours and is no decoration either: it is marked within.</summary>
    public void Leave() => Close();

    /// <summary>The first of so many keys, one after another, under which the parts of objects are found.</summary>
    public int NewKeys(int count) => (nextKey += count) - count;

    /// <summary>A page of a tagged PDF is drawn on the present page.</summary>
    /// <param name="from">Its number there.</param>
    /// <param name="drawn">The object with its content.</param>
    public void Imported(string asset, IReadOnlyList<PdfTag> tags, int from, int drawn, int key)
    {
        letter ??= New(null, document);
        ImportOf(asset, tags).Pages.TryAdd(from, (page, drawn, key));
    }

    Import ImportOf(string asset, IReadOnlyList<PdfTag> tags)
    {
        if (imports.Find(i => i.Asset == asset) is { } known)
            return known;
        imports.Add(new(asset, tags));
        return imports[^1];
    }

    /// <summary>A field's widget on the present page; answers its entry.</summary>
    /// <param name="asset">The PDF that it is a field of.</param>
    public string Widget(int number, string asset, PdfTaggedWidget place)
    {
        letter ??= New(null, document);
        var key = NewKeys(1);
        ImportOf(asset, []).Widgets.TryAdd(place, (number, key, page));
        return $"/StructParent {key}";
    }

    /// <summary>Writes the structure of the PDFs that are part of the letter.</summary>
    void WriteImports()
    {
        foreach (var import in imports)
        {
            var marks = import.Pages.ToDictionary(p => p.Key, _ => new SortedDictionary<int, int>());
            var (top, part) = (objects.Reserve(), new StringBuilder());
            foreach (var tag in import.Tags)
                if (Write(import, tag, top, marks, 0) is { } number)
                    part.Append($"{number} 0 R ");
            // Fields that the PDF has in no element are in one of their own.
            foreach (var widget in import.Widgets.Values)
            {
                var form = objects.Reserve();
                objects.Object(
                    form,
                    $"<</Type/StructElem/S/Form/P {top} 0 R/K[<</Type/OBJR/Pg {widget.Page} 0 R/Obj {widget.Number} 0 R>>]>>"
                );
                parents.Add((widget.Key, form));
                part.Append($"{form} 0 R ");
            }
            objects.Object(top, $"<</Type/StructElem/S/Sect/P {letter!.Number} 0 R/K[{part}]>>");
            letter.Kids.Add($"{top} 0 R");
            foreach (var (from, (_, _, key)) in import.Pages)
            {
                var (of, list) = (marks[from], objects.Reserve());
                var last = of.Count == 0 ? -1 : of.Keys.Max();
                objects.Object(
                    list,
                    $"[{string.Join(' ', Enumerable.Range(0, last + 1).Select(i => of.TryGetValue(i, out var n) ? $"{n} 0 R" : "null"))}]"
                );
                parents.Add((key, list));
            }
        }
        imports.Clear();
    }

    /// <summary>Writes an element and what it holds; null where nothing of it is here.</summary>
    int? Write(Import import, PdfTag tag, int parent, Dictionary<int, SortedDictionary<int, int>> marks, int depth)
    {
        var number = objects.Reserve();
        var kids = new StringBuilder();
        foreach (var kid in tag.Kids)
            switch (kid)
            {
                case PdfTag inner when Write(import, inner, number, marks, depth + 1) is { } written:
                    kids.Append($"{written} 0 R ");
                    break;
                // A mark of an unbelievable number is none: the list of marks would be as long.
                case PdfMark mark when mark.Id is >= 0 and < 100_000 && import.Pages.TryGetValue(mark.Page, out var on):
                    kids.Append($"<</Type/MCR/Pg {on.Page} 0 R/Stm {on.Content} 0 R/MCID {mark.Id}>> ");
                    marks[mark.Page].TryAdd(mark.Id, number);
                    break;
                case PdfTaggedWidget place when import.Widgets.Remove(place, out var widget):
                    kids.Append($"<</Type/OBJR/Pg {widget.Page} 0 R/Obj {widget.Number} 0 R>> ");
                    parents.Add((widget.Key, number));
                    break;
            }
        objects.Object(number, kids.Length == 0 ? "null" : $"<</Type/StructElem/S/{tag.Type}/P {parent} 0 R{tag.Entries}/K[{kids}]>>");
        return kids.Length == 0 ? null : number;
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
        WriteImports();
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
        objects.Object(parentTree, $"<</Nums[{string.Join(' ', parents.OrderBy(p => p.Key).Select(p => $"{p.Key} {p.Number} 0 R"))}]>>");
        objects.Object(root, $"<</Type/StructTreeRoot/K[{document} 0 R]/ParentTree {parentTree} 0 R/ParentTreeNextKey {nextKey}>>");
        return $"/MarkInfo<</Marked true>>/StructTreeRoot {root} 0 R";
    }
}
