using System.Text;
using System.Text.Json.Nodes;
using Bandeja.Core.Documents;

namespace Bandeja.Formats.Documents;

/// <summary>
/// Field codes that are open at a place of the text (ECMA-376 part 1, section 17.16.18): their instruction is being read, or their result,
/// which is either content or given up for a field.
/// </summary>
sealed class WordCodeStack(LetterBuilder builder, DocumentReport report)
{
    sealed class Open
    {
        public List<CodePiece> Instruction { get; } = [];
        public FieldCodes.Read? Read { get; set; }
        public JsonArray? Marks { get; set; }
        public bool HasResult { get; set; }
        public bool TooDeep { get; init; }
        public int Length { get; set; }
    }

    const int LongestInstruction = 20_000;
    Stack<Open> open = [];

    /// <summary>True while a code is open.</summary>
    public bool IsOpen => open.Count > 0;

    public void Begin()
    {
        if (open.Count == DocumentLimits.Codes)
            report.Say(Carried.Left, $"Field codes nested more than {DocumentLimits.Codes} levels deep were ignored.");
        open.Push(new() { TooDeep = open.Count >= DocumentLimits.Codes });
    }

    /// <summary>Text of the instruction.</summary>
    public void Instruction(string text, JsonArray? marks)
    {
        if (open.TryPeek(out var code) && code.Read is null && !code.TooDeep)
            Piece(code, new(text, marks));
    }

    void Piece(Open code, CodePiece piece)
    {
        if ((code.Length += piece.Text.Length + 1) > LongestInstruction)
        {
            report.Say(Carried.Left, "A field code longer than 20,000 characters was cut off.");
            return;
        }
        code.Instruction.Add(piece);
        if (piece.Marks is not null)
            code.Marks ??= piece.Marks;
    }

    /// <summary>What follows is the result.</summary>
    public void Separate()
    {
        if (open.TryPeek(out var code) && code.Read is null)
            code.Read = Understood(code);
    }

    FieldCodes.Read Understood(Open code)
    {
        var read = FieldCodes.Parse(code.TooDeep ? [] : code.Instruction);
        if (read.Kind == CodeKind.Kept && (string?)read.Node["attrs"]?["note"] is { Length: > 0 } note)
            report.Say(Carried.Different, note);
        return read;
    }

    /// <summary>The code that takes what is written now: the innermost whose instruction is read, or whose result is given up.</summary>
    Open? Taker()
    {
        foreach (var code in open)
            if (code.Read is null || !code.Read.KeepsResult)
                return code;
        return null;
    }

    string? Link()
    {
        foreach (var code in open)
            if (code.Read is { Kind: CodeKind.Link, Target: { } target })
                return target;
        return null;
    }

    /// <summary>Text at this place.</summary>
    public void Text(JsonArray line, string text, RunLook look)
    {
        if (text.Length == 0 || look.Hidden == true)
            return;
        if (
            look.Link is null
            && Link() is { } link
            && (
                link.StartsWith("http://", StringComparison.OrdinalIgnoreCase)
                || link.StartsWith("https://", StringComparison.OrdinalIgnoreCase)
                || link.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase)
            )
        )
            look = look with { Link = link };
        switch (Taker())
        {
            case null:
                builder.Text(line, text, look);
                break;
            case { Read: null } code:
                Piece(code, new(text, builder.Marks(look)));
                break;
            case { HasResult: false } code:
                (code.HasResult, code.Marks) = (true, builder.Marks(look) ?? []);
                break;
        }
    }

    /// <summary>The end of a line within a paragraph.</summary>
    public void Break(JsonArray line)
    {
        switch (Taker())
        {
            case null:
                line.Add(new JsonObject { ["type"] = "hardBreak" });
                break;
            case { Read: null } code:
                Piece(code, new("\n"));
                break;
        }
    }

    /// <summary>The end of a paragraph while a code is open.</summary>
    public void EndOfLine(JsonArray line) => Break(line);

    /// <summary>Something that is no text.</summary>
    public void Node(JsonArray line, JsonObject node)
    {
        switch (Taker())
        {
            case null:
                line.Add(node);
                break;
            case { Read: null } code when (string?)node["type"] == "code":
                Piece(code, new("", null, node));
                break;
        }
    }

    /// <summary>The end of the innermost code: it becomes what it means.</summary>
    public void End(JsonArray line)
    {
        if (!open.TryPop(out var code))
            return;
        var read = code.Read ?? Understood(code);
        if (read.KeepsResult)
            return;
        if (code.Marks is { Count: > 0 } marks)
            read.Node["marks"] = marks.DeepClone();
        Node(line, read.Node);
    }

    /// <summary>Reads something that stands apart from the codes that are open, such as a text box.</summary>
    public void Aside(Action read)
    {
        var around = open;
        open = [];
        try
        {
            read();
        }
        finally
        {
            open = around;
        }
    }

    /// <summary>Codes that never end are given up.</summary>
    public void Abandon()
    {
        if (open.Count > 0)
            report.Say(Carried.Left, "A field code without an end was ignored.");
        open.Clear();
    }
}
