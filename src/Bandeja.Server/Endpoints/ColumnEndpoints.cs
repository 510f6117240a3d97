using Bandeja.Acts.Lists;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Server.Web;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Work.Composition;

namespace Bandeja.Server.Endpoints;

/// <summary>An expression to look at before a column is made of it.</summary>
/// <param name="ColumnId">The computed column that it is for, where there is one already.</param>
public sealed record ExpressionQuestion(string Expression, int? ColumnId = null);

/// <summary>What an expression gives for one recipient.</summary>
public sealed record ExpressionSample(long RecipientId, string Name, string? Value, string? Problem);

/// <summary>What is to be said of an expression: its mistakes, or what it gives.</summary>
public sealed record ExpressionAnswer(
    IReadOnlyList<LanguageError> Errors,
    ColumnType Type,
    IReadOnlyList<ExpressionSample> Samples,
    int Problems,
    int Of
);

/// <summary>As what to divide a column: a whole name or a whole address.</summary>
/// <param name="FamilyFirst">For names: true where the family name stands first without a comma; null for what the values tell.</param>
public sealed record DivisionOrder(Role Whole, bool? FamilyFirst = null);

/// <summary>How a column would be split.</summary>
/// <param name="Parts">The headings of the parts, then some values with theirs, the whole first.</param>
public sealed record DivisionPreview(bool FamilyFirst, IReadOnlyList<string?[]> Parts);

static class ColumnEndpoints
{
    public static void Map(RouteGroupBuilder api)
    {
        api.MapPost(
                "/lists/{id:long}/columns",
                (long id, NewColumn order, AddColumn act, Caller caller) =>
                    caller.Does(act, new(id, order.Name, order.Type, order.Role, order.Expression, order.Format))
            )
            .WithSummary("Add a column, entered by hand or computed; returns its ID");

        api.MapPatch(
                "/lists/{id:long}/columns/{columnId:int}",
                (long id, int columnId, ColumnEdit edit, ChangeColumn act, Caller caller) => caller.Does(act, new(id, columnId, edit))
            )
            .WithSummary("Change a column's heading, type, role or expression")
            .OfRecord(ListEndpoints.Record);

        api.MapDelete(
                "/lists/{id:long}/columns/{columnId:int}",
                (long id, int columnId, RemoveColumn act, Caller caller) => caller.Does(act, new(id, columnId))
            )
            .WithSummary("Remove a column from the list");

        api.MapGet(
                "/lists/{id:long}/columns/{columnId:int}/uses",
                (long id, int columnId, Database database, DropDependencies dependencies) =>
                {
                    using var c = database.Open();
                    return dependencies.UsesOf(c, id, columnId);
                }
            )
            .WithSummary("Which computed columns, designs, segments, and drops use a column: to be known before it is removed or changed");

        api.MapPost(
                "/lists/{id:long}/columns/{columnId:int}/divide",
                (long id, int columnId, DivisionOrder order, SplitColumn act, Caller caller) =>
                    caller.Does(act, new(id, columnId, order.Whole, order.FamilyFirst))
            )
            .WithSummary("Split a column of full names or addresses");

        api.MapGet(
                "/lists/{id:long}/columns/{columnId:int}/divide",
                (long id, int columnId, Role whole, ListStore lists, Surroundings surroundings, bool? familyFirst = null) =>
                {
                    var at = lists.Columns(id).ToList().FindIndex(c => c.Id == columnId);
                    if (at < 0)
                        throw new NotFoundException("This column is no longer in the list.");
                    var values = lists.Page(id, new(), null, 0, 400).Rows.Select(r => r.Values[at]).ToList();
                    var order = familyFirst ?? CellParts.IsFamilyFirst(whole, values);
                    return new DivisionPreview(
                        order,
                        CellParts.Preview(lists.Columns(id)[at].Name, whole, values, surroundings.Now.Home, order)
                    );
                }
            )
            .WithSummary("Preview how a column would be split");

        api.MapPost("/lists/{id:long}/expression", Ask).WithSummary("An expression’s results for the first recipients, or its errors");
        api.MapGet("/functions", () => Function.All.Select(f => f.Usage).ToList()).WithSummary("The functions of the field language");
    }

    static ExpressionAnswer Ask(long id, ExpressionQuestion question, Database database, ListStore lists, Surroundings surroundings)
    {
        using var c = database.Open();
        var now = surroundings.Now;
        var columns = RowTable.Columns(c, id);
        var details = DetailStore.Sets(c, id);
        var parsed = FieldParser.ParseExpression(question.Expression, new(columns, details, null, now.Locale));
        if (parsed.Errors.Count > 0)
            return new(parsed.Errors, ColumnType.Text, [], 0, 0);
        var context = new EvaluationContext(columns, now.Locale, now.Today, details);
        var reader = new DetailReader(c, details, [.. parsed.Expression.DetailSets().Distinct()]);
        var rows = lists.Page(id, new(), null, 0, 200).Rows;
        var results = rows.Select(r =>
            {
                var value = Evaluator.Evaluate(parsed.Expression, context.For(new ArrayRow(r.Values, set => reader.Rows(r.Id, set)), 0));
                return (Row: r, Value: value, Problem: context.Problems.FirstOrDefault()?.Message);
            })
            .ToList();
        // What cannot be computed is shown first, then results that differ: they are what is to be thought about.
        return new(
            [],
            ComputedColumns.TypeOf(results.Select(r => r.Value)),
            [
                .. results
                    .DistinctBy(r => r.Problem ?? r.Value.ToString())
                    .Concat(results)
                    .Distinct()
                    .OrderBy(r => r.Problem is null)
                    .Take(8)
                    .Select(r => new ExpressionSample(
                        r.Row.Id,
                        RecipientLabel.Of(columns, i => r.Row.Values[i]).Name,
                        r.Value.IsBlank ? null : r.Value.Print(now.Locale),
                        r.Problem
                    )),
            ],
            results.Count(r => r.Problem is not null),
            results.Count
        );
    }
}
