using Bandeja.Core.Documents;

namespace Bandeja.Core.Forms;

/// <summary>Finds what of a list belongs into the fields of a form: by what a field is called, the text beside it, and its name. A value
/// that is written into several fields was meant for the first that is called so.</summary>
public static class FieldMatching
{
    /// <summary>An answer for each field for which one is found, by the field's name.</summary>
    public static IReadOnlyDictionary<string, string> Of(FormFacts facts, PlaceholderSetting setting)
    {
        var matching = new PlaceholderMatching(setting);
        var answers = new Dictionary<string, string>();
        var used = new HashSet<string>();
        var open = facts.Fields.Where(f => f.Kind != FormFieldKind.Other && !f.ReadOnly).ToList();
        // What is sure goes before what is only similar.
        foreach (var sure in (bool[])[true, false])
        foreach (var field in open)
        {
            // What the file holds already gives way only to what is surely meant.
            if (answers.ContainsKey(field.Name) || !sure && field.Initial is not null)
                continue;
            foreach (
                var name in new[] { field.Label, field.Beside, Words(field.Name) is { Length: > 2 } words ? words : null }
                    .OfType<string>()
                    .Distinct()
            )
            {
                var (answer, by) = matching.Match(name, null);
                if (answer is not { Kind: AnswerKind.Field } || (by == MatchedBy.Similarity) == sure)
                    continue;
                if (by == MatchedBy.Similarity && used.Contains(answer.Value))
                    continue;
                used.Add(answer.Value);
                answers[field.Name] = $"{{{answer.Value}}}";
                break;
            }
        }
        return answers;
    }

    /// <summary>The last part of a technical name as words: <c>form1.page[0].name_last[0]</c> is “name last”.</summary>
    public static string Words(string name)
    {
        var last = name.Split('.')[^1];
        var bracket = last.IndexOf('[');
        last = bracket > 0 ? last[..bracket] : last;
        var words = new System.Text.StringBuilder();
        for (var i = 0; i < last.Length; i++)
        {
            if (i > 0 && char.IsUpper(last[i]) && char.IsLower(last[i - 1]))
                words.Append(' ');
            words.Append(last[i] is '_' or '-' ? ' ' : last[i]);
        }
        return words.ToString().Trim();
    }
}
