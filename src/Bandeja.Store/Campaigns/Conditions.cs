using Bandeja.Core.Campaigns;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Campaigns;

/// <summary>What conditions of campaigns read, and their following when that is called otherwise: they are kept as they are written, by the
/// names of columns and steps.</summary>
public static class Conditions
{
    const int PerStep = 3;

    /// <summary>Before a column of a list is called otherwise: conditions go on reading it.</summary>
    internal static void FollowColumn(SqliteConnection c, long listId, int columnId, string name, OrganizationLocale locale) =>
        Each(
            c,
            listId,
            locale,
            (expression, columns, _) =>
                Position(columns, columnId) is >= 0 and var at && expression.Columns().Contains(at)
                    ? Renaming.Of(expression, at, name)
                    : null
        );

    /// <summary>What reads a column of a list, such as “the condition of Reminder”; null for nothing.</summary>
    internal static string? ReaderOf(SqliteConnection c, long listId, int columnId, OrganizationLocale locale)
    {
        string? found = null;
        Each(
            c,
            listId,
            locale,
            (expression, columns, what) =>
            {
                if (Position(columns, columnId) is >= 0 and var at && expression.Columns().Contains(at))
                    found ??= what;
                return null;
            }
        );
        return found;
    }

    static int Position(IReadOnlyList<Column> columns, int columnId) => columns.ToList().FindIndex(x => x.Id == columnId);

    /// <summary>Before a step is called otherwise: the conditions of the steps after it go on asking about it.</summary>
    internal static void FollowStep(SqliteConnection c, CampaignRow campaign, StepRow step, string name, OrganizationLocale locale)
    {
        foreach (var (later, expression, at, names) in Asking(c, campaign, step, locale))
        {
            var renamed = new StepFields(RowTable.Columns(c, campaign.ListId!.Value), [.. names.Select((n, i) => i == at ? name : n)]);
            var list = renamed.Columns.Count - renamed.Own.Count;
            var said = expression;
            for (var i = 0; i < PerStep; i++)
                said = Renaming.Of(said, list + at * PerStep + i, renamed.Own[at * PerStep + i].Name);
            c.Execute("UPDATE campaign_step SET condition = @said WHERE id = @Id", new { later.Id, said = said.ToString() });
        }
    }

    /// <summary>The first step whose condition asks about another; null for none.</summary>
    internal static StepRow? AskingAbout(SqliteConnection c, CampaignRow campaign, StepRow step, OrganizationLocale locale) =>
        Asking(c, campaign, step, locale).Select(a => a.Later).FirstOrDefault();

    static IEnumerable<(StepRow Later, Expression Said, int At, IReadOnlyList<string> Names)> Asking(
        SqliteConnection c,
        CampaignRow campaign,
        StepRow step,
        OrganizationLocale locale
    )
    {
        if (campaign.ListId is not { } list)
            yield break;
        var columns = RowTable.Columns(c, list);
        var steps = CampaignStore.Steps(c, campaign.Id);
        foreach (var later in steps.Where(s => s.Position > step.Position && s.Condition.Length > 0).ToList())
        {
            var before = steps.Where(s => s.Position < later.Position).ToList();
            var at = before.FindIndex(s => s.Id == step.Id);
            var names = before.Select(s => s.Name).ToList();
            var parsed = Parse(c, list, later.Condition, new StepFields(columns, names).Columns, locale);
            if (parsed?.Columns().Any(x => x >= columns.Count && (x - columns.Count) / PerStep == at) == true)
                yield return (later, parsed, at, names);
        }
    }

    static Expression? Parse(SqliteConnection c, long list, string text, IReadOnlyList<Column> columns, OrganizationLocale locale) =>
        FieldParser.ParseExpression(text, new Names(columns, DetailStore.Sets(c, list), null, locale))
            is { Errors.Count: 0, Expression: var expression }
            ? expression
            : null;

    /// <summary>Goes through every condition of a list's campaigns; what is answered is written in its place.</summary>
    static void Each(
        SqliteConnection c,
        long listId,
        OrganizationLocale locale,
        Func<Expression, IReadOnlyList<Column>, string, Expression?> change
    )
    {
        var columns = RowTable.Columns(c, listId);
        foreach (
            var (id, name, entry, stay) in c.Query<(long, string, string, string)>(
                    "SELECT id, name, entry_filter, stay_filter FROM campaign WHERE list_id = @listId",
                    new { listId }
                )
                .ToList()
        )
        {
            foreach (var (text, field) in ((string, string)[])[(entry, "entry_filter"), (stay, "stay_filter")])
                if (
                    text.Length > 0
                    && Parse(c, listId, text, columns, locale) is { } said
                    && change(said, columns, $"the campaign {name}") is { } now
                )
                    c.Execute($"UPDATE campaign SET {field} = @now WHERE id = @id", new { id, now = now.ToString() });
            var steps = CampaignStore.Steps(c, id);
            foreach (var step in steps.Where(s => s.Condition.Length > 0))
            {
                var all = new StepFields(columns, [.. steps.Where(s => s.Position < step.Position).Select(s => s.Name)]).Columns;
                if (
                    Parse(c, listId, step.Condition, all, locale) is { } said
                    && change(said, all, $"the condition of {step.Name} in {name}") is { } now
                )
                    c.Execute("UPDATE campaign_step SET condition = @now WHERE id = @Id", new { step.Id, now = now.ToString() });
            }
        }
    }
}
