using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Bandeja.Core.Lists;

namespace Bandeja.Core.Documents;

/// <summary>A document whose placeholders have become fields, brackets, and text.</summary>
/// <param name="Letter">The letter in its stored form.</param>
/// <param name="Marks">How often each kind of marks stands in it.</param>
/// <param name="Report">What is said of the document and of its placeholders, each line with its place in this letter.</param>
public sealed record PlacedDocument(
    string Letter,
    IReadOnlyList<Placeholder> Placeholders,
    IReadOnlyList<MarksFound> Marks,
    IReadOnlyList<ReportLine> Report
);

/// <summary>
/// Makes a letter of a document that was brought in: finds its placeholders, however they were written, holds them against a list, and puts
/// fields and brackets in their places. What is known by nobody stays a field of its name, which is a mistake in the letter until somebody
/// settles it.
/// </summary>
public sealed class Placing
{
    const int MostPlaceholders = 2_000,
        MostNotes = 200;
    readonly PlaceholderSetting setting;
    readonly PlaceholderMatching matching;
    readonly IReadOnlyDictionary<string, PlaceholderAnswer> answers;

    /// <summary>True for one of our own letters, in which braces are written as the field language has them.</summary>
    readonly bool ours;
    readonly List<ReportLine> notes = [];
    readonly Dictionary<string, Placeholder> found = [];
    readonly Stack<Scope> open = [];
    int? block;

    /// <summary>How many brackets are open around the row that is read.</summary>
    int floor;

    /// <summary>A bracket that is open.</summary>
    /// <param name="Rows">For one that goes over rows: their name in the list.</param>
    /// <param name="Prints">False where it was left out, so its end is, too.</param>
    sealed record Scope(string Written, DetailSet? Rows, string? RowsName, bool Prints = true);

    Placing(PlaceholderSetting setting, IReadOnlyDictionary<string, PlaceholderAnswer> answers, bool ours)
    {
        (this.setting, this.answers, this.ours) = (setting, answers, ours);
        matching = new(setting);
    }

    /// <summary>Makes the letter.</summary>
    /// <param name="marks">The marks whose text is a placeholder; null for those that are likely meant.</param>
    /// <param name="answers">What somebody chose, by the placeholders' keys.</param>
    /// <exception cref="DocumentException">It has too many placeholders.</exception>
    public static PlacedDocument Of(
        BroughtDocument document,
        PlaceholderSetting setting,
        IReadOnlyList<TagMarks>? marks = null,
        IReadOnlyDictionary<string, PlaceholderAnswer>? answers = null
    )
    {
        var letter = JsonNode.Parse(document.Letter, documentOptions: new JsonDocumentOptions { MaxDepth = 512 })!.AsObject();
        var ours = (bool?)letter["ours"] ?? false;
        letter.Remove("ours");
        var placing = new Placing(setting, answers ?? new Dictionary<string, PlaceholderAnswer>(), ours);
        var counted = TagScan.Count(letter, placing.matching.IsKnown, ours);
        var used = marks ?? [.. counted.Where(c => c.Likely).Select(c => c.Marks)];
        if (ours)
            used = [new("{", "}")];
        var places = new BlockPlaces();
        foreach (var band in DocumentTree.Bands)
        {
            if (letter[band] is not JsonArray blocks)
                continue;
            foreach (var (line, at) in DocumentTree.Lines(blocks))
            {
                TagScan.Mark(line, used, ours, TagNode);
                placing.Unclosed(line, used, band == "content" ? at : null);
            }
            var samples = band == "content" && !ours ? SampleAddress.Find(blocks) : [];
            var placed = placing.Blocks(blocks, band == "content");
            placing.CloseAll();
            if (band == "content")
                BlockPlaces.Number(placed);
            placing.Samples(placed, samples);
            letter[band] = placed = BlockBrackets.Fold(placed);
            if (band == "content")
                places = BlockPlaces.Of(placed);
        }
        return new(
            letter.ToJsonString(),
            [.. placing.found.Values.Select(p => p with { Block = places.Now(p.Block) })],
            counted,
            [.. document.Report.Concat(placing.notes).Select(l => l with { Block = places.Now(l.Block) }).OrderBy(l => l.Carried)]
        );
    }

    static JsonObject TagNode(Tag tag, TagMarks marks, string written) =>
        new()
        {
            ["type"] = "tag",
            ["attrs"] = new JsonObject
            {
                ["kind"] = tag.Kind.ToString(),
                ["name"] = tag.Name,
                ["format"] = tag.Format.Bars,
                ["lost"] = tag.Format.Lost,
                ["op"] = tag.Op,
                ["right"] = tag.Right,
                ["negated"] = tag.Negated,
                ["written"] = written,
            },
        };

    void Note(Carried carried, string text)
    {
        if (notes.Count < MostNotes && !notes.Any(n => n.Text == text))
            notes.Add(new(carried, text, block));
    }

    /// <summary>A placeholder that was begun and never ends is text, and is told.</summary>
    void Unclosed(JsonObject line, IReadOnlyList<TagMarks> marks, int? at)
    {
        foreach (var node in line["content"]?.AsArray() ?? [])
            if ((string?)node!["type"] == "text" && (string?)node["text"] is { } text)
                foreach (var m in marks.Where(m => m.Strong && m.Close.Length > 0))
                    if (text.IndexOf(m.Open, StringComparison.Ordinal) is >= 0 and var from)
                    {
                        block = at;
                        var shown = text[from..Math.Min(text.Length, from + 30)];
                        Note(Carried.Different, $"“{shown}” looks like a placeholder without an end. It is printed as text.");
                    }
    }

    /// <param name="numbered">True for the text of the letter, whose blocks are counted.</param>
    /// <param name="inLine">True for what stands in a line, which has the place of that line.</param>
    JsonArray Blocks(JsonArray blocks, bool numbered, bool inLine = false)
    {
        var result = new JsonArray();
        for (var i = 0; i < blocks.Count; i++)
        {
            if (numbered)
                block = i;
            result.Add(Block(blocks[i]!.AsObject()));
        }
        if (!inLine)
            block = null;
        return result;
    }

    JsonObject Block(JsonObject node)
    {
        if (DocumentTree.IsLine(node))
            return Line(node);
        var result = new JsonObject();
        foreach (var (name, value) in node)
            if (name != "content")
                result[name] = value?.DeepClone();
        if (node["content"] is not JsonArray inner)
            return result;
        if ((string?)node["type"] == "table")
            inner = TableRows.Lift(inner, t => Note(Carried.Left, t));
        var content = new JsonArray();
        foreach (var child in inner)
        {
            var own = child!.AsObject();
            var tag = own["attrs"]?["tag"]?.AsObject();
            if (tag is null)
            {
                content.Add(Block(own));
                continue;
            }
            own["attrs"]!.AsObject().Remove("tag");
            var bracket = Opening(tag["attrs"]!.AsObject());
            // An end within the row ends nothing outside of it, and what is open at its end is not open in the next.
            var outside = floor;
            floor = open.Count;
            var row = Block(own);
            while (open.Count > floor)
                open.Pop();
            floor = outside;
            open.Pop();
            if (bracket is not null)
                (row["attrs"] ??= new JsonObject())["bracket"] = bracket;
            content.Add(row);
        }
        result["content"] = content;
        return result;
    }

    JsonObject Line(JsonObject line)
    {
        var result = new JsonObject();
        foreach (var (name, value) in line)
            if (name != "content")
                result[name] = value?.DeepClone();
        var content = new JsonArray();
        foreach (var node in line["content"]?.AsArray() ?? [])
        foreach (var made in Inline(node!.AsObject()))
            content.Add(made);
        if (content.Count > 0)
            result["content"] = content;
        return result;
    }

    IEnumerable<JsonObject> Inline(JsonObject node)
    {
        var marks = node["marks"];
        var a = node["attrs"]?.AsObject();
        switch ((string?)node["type"])
        {
            case "text":
                // Braces that are no placeholder print as they are.
                var text = (string?)node["text"] ?? "";
                return [DocumentTree.TextNode(ours ? text : Escaped(text), marks)];
            case "tag":
                return Tag(a!, marks);
            case "code":
                return Code(a!, marks);
            case "footnote":
                var note = node.DeepClone().AsObject();
                note["attrs"]!["content"] = Blocks(note["attrs"]!["content"] as JsonArray ?? [], false, inLine: true);
                return [note];
            default:
                return [node.DeepClone().AsObject()];
        }
    }

    /// <summary>Text in which braces, and backslashes that stand in pairs, print as they are.</summary>
    static string Escaped(string text) =>
        text.AsSpan().IndexOfAny('{', '}') < 0 && !text.Contains("\\\\", StringComparison.Ordinal)
            ? text
            : text.Replace("\\", "\\\\").Replace("{", "\\{").Replace("}", "\\}");

    IEnumerable<JsonObject> Tag(JsonObject a, JsonNode? marks)
    {
        var written = (string)a["written"]!;
        var name = (string)a["name"]!;
        switch (Enum.Parse<TagKind>((string)a["kind"]!))
        {
            case TagKind.Value:
                return Value(name, (string?)a["format"] ?? "", (string?)a["lost"], written, PlaceholderSort.Typed, marks);
            case TagKind.Own:
                if (Documents.Blocks.OwnBracket().IsMatch(name))
                {
                    if (
                        name.StartsWith("when", StringComparison.OrdinalIgnoreCase)
                        || name.StartsWith("each", StringComparison.OrdinalIgnoreCase)
                    )
                        open.Push(OwnScope(name, written));
                    else if (name.Equals("end", StringComparison.OrdinalIgnoreCase) && open.Count > floor)
                        open.Pop();
                    return [DocumentTree.Inline("marker", name, marks)];
                }
                return [DocumentTree.Inline("field", name, marks)];
            case TagKind.Else:
                if (open.Count == 0)
                {
                    Note(Carried.Left, $"“{written}” is outside any condition and was ignored.");
                    return [];
                }
                return open.Peek().Prints ? [DocumentTree.Inline("marker", "otherwise", null)] : [];
            case TagKind.End:
                if (open.Count <= floor || !open.TryPop(out var closed))
                {
                    Note(Carried.Left, $"“{written}” has no matching start and was ignored.");
                    return [];
                }
                return closed.Prints ? [DocumentTree.Inline("marker", "end", null)] : [];
            default:
                return Opening(a) is { } source ? [DocumentTree.Inline("marker", source, null)] : [];
        }
    }

    /// <summary>Opens the bracket of a block tag; answers it as the field language writes it, or null where it is left out.</summary>
    string? Opening(JsonObject a)
    {
        var (written, name) = ((string)a["written"]!, (string)a["name"]!);
        var kind = Enum.Parse<TagKind>((string)a["kind"]!);
        if (kind == TagKind.Own)
        {
            open.Push(OwnScope(name, written));
            return name;
        }
        if (kind == TagKind.Section)
            kind = matching.Rows(name) is not null || answers.ContainsKey(RowsKey(name)) ? TagKind.Each : TagKind.If;
        if (kind == TagKind.Each)
        {
            var rows = Rows(name, written);
            open.Push(new(written, rows.Set, rows.Name, rows.Name is not null));
            return rows.Name is null ? null : $"each {PlaceholderMatching.Quoted(rows.Name)}";
        }
        var source = Operand(name, written, PlaceholderSort.Typed);
        var test = Test(source, name, (string?)a["op"] ?? "", (string?)a["right"] ?? "", (bool?)a["negated"] ?? false);
        open.Push(new(written, null, null));
        Condition(written, test);
        return $"when {test}";
    }

    /// <summary>A bracket of our own language; within <c>each</c> the names of its rows come first.</summary>
    Scope OwnScope(string name, string written)
    {
        var set = name.StartsWith("each", StringComparison.OrdinalIgnoreCase) ? matching.Rows(name[4..].Trim().Trim('`')) : null;
        return new(written, set, set?.Name);
    }

    static string RowsKey(string name) => $"rows:{Recognition.RoleRecognizer.Plain(name)}";

    (DetailSet? Set, string? Name) Rows(string name, string written)
    {
        var key = RowsKey(name);
        var set = matching.Rows(name);
        var answer =
            answers.TryGetValue(key, out var chosen) ? chosen
            : set is null ? null
            : new PlaceholderAnswer(AnswerKind.Field, set.Name);
        Add(
            new(
                key,
                name,
                written,
                PlaceholderSort.Typed,
                1,
                "",
                true,
                null,
                block,
                answer,
                chosen is not null ? MatchedBy.Hand
                    : set is null ? MatchedBy.Nothing
                    : MatchedBy.Heading
            )
        );
        return answer switch
        {
            { Kind: AnswerKind.Remove } => (null, null),
            { Kind: AnswerKind.Field } => (
                setting.Details.FirstOrDefault(d => d.Name.Equals(answer.Value.Trim('`'), StringComparison.OrdinalIgnoreCase)) ?? set,
                answer.Value.Trim('`')
            ),
            _ => (null, name),
        };
    }

    void Add(Placeholder one)
    {
        if (found.TryGetValue(one.Key, out var known))
        {
            found[one.Key] = known with { Places = known.Places + 1 };
            return;
        }
        if (found.Count >= MostPlaceholders)
            throw new DocumentException($"The document has more than {MostPlaceholders:N0} different placeholders. It was not read.");
        found[one.Key] = one;
    }

    void Condition(string written, string test) =>
        Add(
            new(
                $"when:{written}",
                written,
                written,
                PlaceholderSort.Condition,
                1,
                "",
                false,
                null,
                block,
                new(AnswerKind.Field, test),
                MatchedBy.Heading
            )
        );

    /// <summary>What a name becomes here; it is counted as a place of it.</summary>
    PlaceholderAnswer? Answer(string name, string format, string written, PlaceholderSort sort)
    {
        var scope = open.FirstOrDefault(s => s.RowsName is not null);
        var key = Recognition.RoleRecognizer.Plain(name) is { Length: > 0 } plain ? plain : name.ToLowerInvariant();
        if (scope?.RowsName is { } rows)
            key += $" in {rows.ToLowerInvariant()}";
        var (answer, by) = matching.Match(name, scope?.Rows);
        if (answers.TryGetValue(key, out var chosen))
            (answer, by) = (chosen, MatchedBy.Hand);
        Add(new(key, name, written, sort, 1, format, false, scope?.RowsName, block, answer, by));
        return answer;
    }

    /// <summary>A name as an operand of a condition or a calculation.</summary>
    string Operand(string name, string written, PlaceholderSort sort) =>
        Answer(name, "", written, sort) switch
        {
            { Kind: AnswerKind.Field } a => Bare(a.Value),
            { Kind: AnswerKind.Text } a => Literal(a.Value),
            { Kind: AnswerKind.Remove } => "\"\"",
            _ => $"`{name.Replace("`", "").Replace("{", "").Replace("}", "")}`",
        };

    /// <summary>An expression without the formats behind it.</summary>
    static string Bare(string source)
    {
        var quoted = '\0';
        for (var i = 0; i < source.Length; i++)
        {
            if (quoted != 0)
                quoted = source[i] == quoted ? '\0' : quoted;
            else if (source[i] is '"' or '`')
                quoted = source[i];
            else if (source[i] == '|')
                return source[..i].Trim();
        }
        return source.Trim();
    }

    static string Literal(string text) => $"\"{text.Replace("\\", "\\\\").Replace("\"", "\\\"").Replace("{", "").Replace("}", "")}\"";

    string Test(string source, string name, string op, string right, bool negated)
    {
        var type = TypeOf(source);
        string test;
        if (op.Length == 0)
            test = type == ColumnType.YesNo ? source : $"{source} is not blank";
        else if (right.Length == 0)
            test = op == "<>" ? $"{source} is not blank" : $"{source} is blank";
        else if (op is "=" or "<>" && right.Length > 1 && right.EndsWith('*') && right.IndexOf('*') == right.Length - 1)
            test = op == "=" ? $"{source} starts with {Literal(right[..^1])}" : $"not ({source} starts with {Literal(right[..^1])})";
        else
            test = $"{source} {op} {Right(type, right, op)}";
        return !negated ? test
            : op.Length == 0 && type != ColumnType.YesNo ? $"{source} is blank"
            : $"not ({test})";
    }

    /// <summary>What a value is compared with, written as its type wants it.</summary>
    static string Right(ColumnType? type, string right, string op)
    {
        var number = decimal.TryParse(
            right.Replace(",", "").TrimStart('$', '€', '£'),
            NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
            CultureInfo.InvariantCulture,
            out var n
        );
        return type switch
        {
            ColumnType.Number when number => n.ToString(CultureInfo.InvariantCulture),
            ColumnType.YesNo when right.ToLowerInvariant() is "yes" or "true" or "y" or "1" => "\"yes\"",
            ColumnType.YesNo when right.ToLowerInvariant() is "no" or "false" or "n" or "0" => "\"no\"",
            null when number && op is not ("=" or "<>") => n.ToString(CultureInfo.InvariantCulture),
            _ => Literal(right),
        };
    }

    ColumnType? TypeOf(string source)
    {
        var heading = source.Trim('`');
        return (
            open.FirstOrDefault(s => s.Rows is not null)?.Rows?.Columns.FirstOrDefault(c => Same(c)) ?? setting.Columns.FirstOrDefault(Same)
        )?.Type;
        bool Same(Column c) => c.Name.Equals(heading, StringComparison.OrdinalIgnoreCase);
    }

    IEnumerable<JsonObject> Value(
        string name,
        string format,
        string? lost,
        string written,
        PlaceholderSort sort,
        JsonNode? marks,
        string before = "",
        string after = ""
    )
    {
        var answer = Answer(name, format, written, sort);
        if (!string.IsNullOrEmpty(lost))
            Note(Carried.Different, $"The format “{lost}” of {written} is not supported. The value is printed unchanged.");
        switch (answer)
        {
            case { Kind: AnswerKind.Remove }:
                return [];
            case { Kind: AnswerKind.Text or AnswerKind.Keep }:
                return answer.Value.Length == 0 ? [] : [DocumentTree.TextNode(Escaped(before + answer.Value + after), marks)];
        }
        // A name that nobody knows stays a field of that name, which is told as a mistake.
        var source = answer?.Value ?? $"`{name.Replace("`", "").Replace("{", "").Replace("}", "")}`";
        // A format of the placeholder replaces the one that the answer brings along.
        var field = DocumentTree.Inline("field", format.Length > 0 ? Bare(source) + format : source, marks);
        if (before.Length + after.Length == 0)
            return [field];
        var parts = new List<JsonObject> { DocumentTree.Inline("marker", $"when {Bare(source)} is not blank", null) };
        if (before.Length > 0)
            parts.Add(DocumentTree.TextNode(Escaped(before), marks));
        parts.Add(field);
        if (after.Length > 0)
            parts.Add(DocumentTree.TextNode(Escaped(after), marks));
        parts.Add(DocumentTree.Inline("marker", "end", null));
        return parts;
    }

    IEnumerable<JsonObject> Code(JsonObject a, JsonNode? marks)
    {
        var written = (string?)a["written"] ?? "";
        var format = (string?)a["format"] ?? "";
        switch (Enum.Parse<CodeKind>((string)a["what"]!))
        {
            case CodeKind.Field:
                return Value(
                    (string?)a["name"] ?? "",
                    format,
                    (string?)a["lost"],
                    written,
                    PlaceholderSort.Code,
                    marks,
                    (string?)a["before"] ?? "",
                    (string?)a["after"] ?? ""
                );
            case CodeKind.BuiltIn:
                var source = (string)a["source"]!;
                // Pages are counted in headers and footers only.
                if (source is "Page number" or "Page count" && block is not null)
                {
                    Note(Carried.Left, $"“{written}” in the text was ignored. Page numbers work only in headers and footers.");
                    return [];
                }
                if ((string?)a["lost"] is { Length: > 0 } lost)
                    Note(Carried.Different, $"The format “{lost}” of {written} is not supported.");
                return [DocumentTree.Inline("field", source + format, marks)];
            case CodeKind.Sum:
                var sum = string.Concat(
                    a["parts"]!
                        .AsArray()
                        .Select(p =>
                            p is JsonObject inner ? Operand((string)inner["attrs"]!["name"]!, written, PlaceholderSort.Code) : (string)p!
                        )
                );
                return [DocumentTree.Inline("field", sum + format, marks)];
            case CodeKind.Choice:
                return Choice(a, written);
            default:
                if ((string?)a["note"] is { Length: > 0 } note)
                    Note(Carried.Left, note);
                return [];
        }
    }

    IEnumerable<JsonObject> Choice(JsonObject a, string written)
    {
        var (left, right, op) = (a["left"], a["right"], (string)a["op"]!);
        // The value may stand on either side.
        if (left is not JsonObject && right is JsonObject)
            (left, right, op) = (
                right,
                left,
                op switch
                {
                    "<" => ">",
                    ">" => "<",
                    "<=" => ">=",
                    ">=" => "<=",
                    _ => op,
                }
            );
        string test;
        if (left is JsonObject code)
        {
            var name = (string?)code["attrs"]?["name"] ?? (string?)code["attrs"]?["source"] ?? "";
            var source = code["attrs"]?["name"] is null ? name : Operand(name, written, PlaceholderSort.Code);
            test = right is JsonObject other
                ? $"{source} {op} {Operand((string?)other["attrs"]?["name"] ?? "", written, PlaceholderSort.Code)}"
                : Test(source, name, op, (string?)right ?? "", false);
        }
        else
        {
            // ODF conditions name the value by itself.
            var name = (string?)left ?? "";
            test = Test(Operand(name, written, PlaceholderSort.Code), name, op, (string?)right ?? "", false);
        }
        Condition(written, test);
        var parts = new List<JsonObject> { DocumentTree.Inline("marker", $"when {test}", null) };
        open.Push(new(written, null, null));
        parts.AddRange(Branch(a["yes"]));
        if (a["no"] is JsonArray { Count: > 0 } no)
        {
            parts.Add(DocumentTree.Inline("marker", "otherwise", null));
            parts.AddRange(Branch(no));
        }
        open.Pop();
        parts.Add(DocumentTree.Inline("marker", "end", null));
        return parts;
    }

    List<JsonObject> Branch(JsonNode? branch) => [.. (branch?.AsArray() ?? []).SelectMany(n => Inline(n!.AsObject()))];

    /// <summary>Samples are offered: they stay as they are until somebody says that a field stands for them.</summary>
    void Samples(JsonArray blocks, IReadOnlyList<Sample> samples)
    {
        foreach (var sample in samples.Reverse())
        {
            var chosen = answers.GetValueOrDefault(sample.Key);
            Add(
                new(
                    sample.Key,
                    sample.Source,
                    sample.Text,
                    PlaceholderSort.Sample,
                    1,
                    "",
                    false,
                    null,
                    sample.From,
                    chosen ?? new(AnswerKind.Keep),
                    chosen is null ? MatchedBy.Nothing : MatchedBy.Hand
                )
            );
            if (chosen is { Kind: AnswerKind.Field })
                SampleAddress.Replace(blocks, sample with { Source = chosen.Value.Length > 0 ? chosen.Value : sample.Source });
        }
    }

    /// <summary>Brackets that nobody closed are closed at the end of what they stand in, and told.</summary>
    void CloseAll()
    {
        foreach (var scope in open)
            Note(Carried.Different, $"“{scope.Written}” is not closed. Add its end in the letter.");
        open.Clear();
    }
}
