using System.Text.Json;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using Bandeja.Store.Campaigns;
using Bandeja.Store.Designs;
using Bandeja.Store.Drops;
using Bandeja.Store.Lists;
using Dapper;
using Microsoft.Data.Sqlite;

namespace Bandeja.Store.Editing;

/// <summary>What to change about a column; what is null stays.</summary>
/// <param name="Format">How its numbers print where a field names no format; empty for as they are stored.</param>
public sealed record ColumnEdit(
    string? Name = null,
    ColumnType? Type = null,
    Role? Role = null,
    string? Expression = null,
    string? Format = null
);

/// <summary>Adds, changes and removes columns of lists. A removed column keeps its values, so that taking it back brings them
/// back.</summary>
public sealed class ColumnStore(Database database, ListEditor editor)
{
    /// <summary>Adds a column that is made here.</summary>
    /// <exception cref="ConflictException">The heading is taken or unusable.</exception>
    /// <exception cref="ComputedColumnException">The expression cannot be computed.</exception>
    public int Add(long listId, string name, ColumnType type, Role role, string? expression, Actor actor, string? format = null) =>
        database.Write(c =>
        {
            ListStore.Get(c, listId);
            Usable(format);
            var actionId = Actions.Begin(c, listId, null, $"Added column {name}", actor);
            (string Expression, string? Format)? formula = expression is null ? null : Formula(c, listId, expression);
            var id = Add(
                c,
                listId,
                name,
                type,
                role,
                expression is null ? ColumnKind.Hand : ColumnKind.Computed,
                formula?.Expression,
                null,
                actionId,
                expression is null ? format : formula?.Format
            );
            ListShape.Of(c, listId, editor.Surroundings);
            return id;
        });

    /// <summary>A formula as it is stored: dates in it are kept as ISO 8601, so that it means the same when the organization writes dates
    /// otherwise. Its results print as the columns do that it is computed from.</summary>
    (string Expression, string? Format) Formula(SqliteConnection c, long listId, string expression)
    {
        var (columns, details) = (RowTable.Columns(c, listId), DetailStore.Sets(c, listId));
        var parsed = FieldParser.ParseExpression(expression, new(columns, details, null, editor.Surroundings.Locale));
        return parsed.Errors.Count > 0
            ? (expression, null)
            : (
                parsed.Expression.HasDates() ? parsed.Expression.ToString()! : expression,
                UsualFormats.Of(parsed.Expression, columns, details)?.Format.ToString()
            );
    }

    internal static int Add(
        SqliteConnection c,
        long listId,
        string name,
        ColumnType type,
        Role role,
        ColumnKind kind,
        string? expression,
        string? sourceName,
        long actionId,
        string? format = null
    )
    {
        Usable(c, listId, name, null);
        var id = (int)c.QuerySingle<long>("SELECT coalesce(max(id), 0) + 1 FROM list_column WHERE list_id = @listId", new { listId });
        var position = c.QuerySingle<long>(
            "SELECT coalesce(max(position), -1) + 1 FROM list_column WHERE list_id = @listId",
            new { listId }
        );
        RowTable.Widen(c, listId, new(id, name, type, Role.None, kind, expression, format), (int)position);
        if (sourceName is not null)
            c.Execute(
                "UPDATE list_column SET source_name = @sourceName WHERE list_id = @listId AND id = @id",
                new
                {
                    sourceName,
                    listId,
                    id,
                }
            );
        c.Execute(
            "INSERT INTO column_change (list_id, column_id, old_json, new_json, action_id) VALUES (@listId, @id, NULL, @now, @actionId)",
            new
            {
                listId,
                id,
                now = State(c, listId, id),
                actionId,
            }
        );
        if (role != Role.None)
            Change(c, listId, id, new(Role: role), actionId);
        c.Execute("UPDATE list SET revision = revision + 1 WHERE id = @listId", new { listId });
        return id;
    }

    static void Usable(string? format)
    {
        if (!string.IsNullOrEmpty(format) && UsualFormat.Of(format) is null)
            throw new ConflictException($"“{format}” is not a format that the numbers of a column can have.");
    }

    static void Usable(SqliteConnection c, long listId, string name, long? except)
    {
        if (
            string.IsNullOrWhiteSpace(name)
            || name.Length > Headings.MaxLength
            || name.IndexOfAny(['{', '}', '`']) >= 0
            || name.Any(char.IsControl)
        )
            throw new ConflictException($"A heading must have 1 to {Headings.MaxLength} characters, with no braces or backticks.");
        if (
            c.Query<(long Id, string Name)>("SELECT id, name FROM list_column WHERE list_id = @listId AND removed = 0", new { listId })
                .Any(x => x.Id != except && x.Name.Equals(name, StringComparison.OrdinalIgnoreCase))
        )
            throw new ConflictException($"The list already has a column named “{name}”.");
    }

    static string State(SqliteConnection c, long listId, long columnId) =>
        c.QuerySingle<string>(
            "SELECT json_object('name', name, 'type', type, 'role', role, 'expression', expression, 'removed', removed, "
                + "'format', format) FROM "
                + "list_column WHERE list_id = @listId AND id = @columnId",
            new { listId, columnId }
        );

    /// <summary>Undoes what an act did to columns. What reads a column by its heading follows the heading back: segments, computed columns,
    /// letters. A column that was changed again since stays as it is.</summary>
    /// <returns>How many columns stayed.</returns>
    internal static int Undo(SqliteConnection c, long listId, long actionId, long undo, Actor actor, OrganizationLocale locale)
    {
        var stayed = 0;
        foreach (
            var change in c.Query<(long ColumnId, string? Old, string? New)>(
                    "SELECT column_id, old_json, new_json FROM column_change WHERE action_id = @actionId ORDER BY id DESC",
                    new { actionId }
                )
                .ToList()
        )
        {
            var now = State(c, listId, change.ColumnId);
            // A computed column whose formula followed the heading has followed it back already.
            if (now == change.Old)
                continue;
            if (change.New is { } made && now != made && !IsRemovedAlike(now, made))
            {
                stayed++;
                continue;
            }
            if (
                NameOf(change.Old) is { } name
                && NameOf(now) is { } current
                && name != current
                && RowTable.Columns(c, listId).FirstOrDefault(x => x.Id == change.ColumnId) is { } column
            )
            {
                Usable(c, listId, name, change.ColumnId);
                FollowName(c, listId, column, name, undo, actor, locale);
            }
            Put(c, listId, change.ColumnId, State(c, listId, change.ColumnId), change.Old, undo);
        }
        return stayed;
    }

    static string? NameOf(string? state) => state is null ? null : (string?)System.Text.Json.Nodes.JsonNode.Parse(state)!["name"];

    /// <summary>True where two states differ in nothing but text that followed a heading: undoing a removal must not fail because of
    /// it.</summary>
    static bool IsRemovedAlike(string now, string made)
    {
        var (a, b) = (System.Text.Json.Nodes.JsonNode.Parse(now)!, System.Text.Json.Nodes.JsonNode.Parse(made)!);
        return (long)a["removed"]! == (long)b["removed"]! && (long)a["removed"]! == 1;
    }

    static void Put(SqliteConnection c, long listId, long columnId, string from, string? to, long actionId)
    {
        c.Execute(
            """
            UPDATE list_column SET name = coalesce(json_extract(@state, '$.name'), name), type = coalesce(json_extract(@state, '$.type'),
                type), role = coalesce(json_extract(@state, '$.role'), role),
                   expression = CASE WHEN @to IS NULL THEN expression ELSE json_extract(@state, '$.expression') END,
                   format = CASE WHEN @to IS NULL THEN format ELSE json_extract(@state, '$.format') END, removed = CASE
                       WHEN @to IS NULL THEN 1 ELSE json_extract(@state, '$.removed') END
            WHERE list_id = @listId AND id = @columnId
            """,
            new
            {
                state = to ?? "{}",
                to,
                listId,
                columnId,
            }
        );
        c.Execute(
            "INSERT INTO column_change (list_id, column_id, old_json, new_json, action_id) VALUES (@listId, @columnId, @from, @now, "
                + "@actionId)",
            new
            {
                listId,
                columnId,
                from,
                now = State(c, listId, columnId),
                actionId,
            }
        );
    }

    /// <summary>Changes a column. With another type, its values are brought to that type's form; those that cannot be read stay as they are
    /// and become issues.</summary>
    public ActOutcome Change(long listId, int columnId, ColumnEdit edit, Actor actor) =>
        database.Write(c =>
        {
            var before = ListShape.Of(c, listId, editor.Surroundings);
            var column = before.Column(columnId);
            if (edit.Expression is not null && column.Kind != ColumnKind.Computed)
                throw new ConflictException($"{column.Name} is not computed.");
            Usable(edit.Format);
            if (edit.Name is { } name)
                Usable(c, listId, name, columnId);
            var label =
                edit.Name is not null && edit.Name != column.Name
                    ? $"Renamed {column.Name} to {edit.Name}"
                    : $"Edited column {column.Name}";
            var actionId = Actions.Begin(c, listId, null, label, actor);
            // A computed column reads headings: they follow a new name.
            if (edit.Name is { } to && to != column.Name)
                FollowName(c, listId, column, to, actionId, actor, before.Surroundings.Locale);
            Change(c, listId, columnId, edit.Expression is null ? edit : Followed(edit, Formula(c, listId, edit.Expression)), actionId);
            var shape = ListShape.Of(c, listId, editor.Surroundings);
            if (edit.Type is { } type && type != column.Type && column.Kind != ColumnKind.Computed)
                editor.Apply(c, shape, Retyped(c, shape, columnId, type), actor, actionId);
            c.Execute("UPDATE list SET revision = revision + 1 WHERE id = @listId", new { listId });
            return new ActOutcome(label, 1, []);
        });

    static ColumnEdit Followed(ColumnEdit edit, (string Expression, string? Format) formula) =>
        edit with
        {
            Expression = formula.Expression,
            Format = edit.Format ?? formula.Format ?? "",
        };

    static void Change(SqliteConnection c, long listId, int columnId, ColumnEdit edit, long actionId)
    {
        // A role belongs to one column: it is taken from the one that had it.
        if (edit.Role is { } role && role != Role.None)
            foreach (
                var other in c.Query<long>(
                        "SELECT id FROM list_column WHERE list_id = @listId AND role = @role AND id <> @columnId AND removed = 0",
                        new
                        {
                            listId,
                            role = role.ToString(),
                            columnId,
                        }
                    )
                    .ToList()
            )
                Set(c, listId, other, new(Role: Role.None), actionId);
        Set(c, listId, columnId, edit, actionId);
    }

    static void Set(SqliteConnection c, long listId, long columnId, ColumnEdit edit, long actionId)
    {
        var old = State(c, listId, columnId);
        c.Execute(
            "UPDATE list_column SET name = coalesce(@Name, name), type = coalesce(@type, type), role = coalesce(@role, role), "
                + "expression = coalesce(@Expression, expression), "
                + "format = CASE WHEN @Format IS NULL THEN format ELSE nullif(@Format, '') END WHERE list_id = @listId AND id = @columnId",
            new
            {
                edit.Name,
                type = edit.Type?.ToString(),
                role = edit.Role?.ToString(),
                edit.Expression,
                edit.Format,
                listId,
                columnId,
            }
        );
        c.Execute(
            "INSERT INTO column_change (list_id, column_id, old_json, new_json, action_id) VALUES (@listId, @columnId, @old, @now, "
                + "@actionId)",
            new
            {
                listId,
                columnId,
                old,
                now = State(c, listId, columnId),
                actionId,
            }
        );
    }

    /// <summary>Before a column is called otherwise: what reads it by its heading goes on reading it.</summary>
    static void FollowName(
        SqliteConnection c,
        long listId,
        Column column,
        string name,
        long actionId,
        Actor actor,
        OrganizationLocale locale
    )
    {
        DesignMatches.FollowName(c, listId, column.Id, column.Name);
        var columns = RowTable.Columns(c, listId);
        var names = new Names(columns, DetailStore.Sets(c, listId), null, locale);
        var at = columns.ToList().FindIndex(x => x.Id == column.Id);
        foreach (var computed in columns.Where(x => x.Kind == ColumnKind.Computed))
        {
            var parsed = FieldParser.ParseExpression(computed.Expression!, names);
            if (parsed.Errors.Count == 0 && parsed.Expression.Columns().Contains(at))
                Set(c, listId, computed.Id, new(Expression: Renaming.Of(parsed.Expression, at, name).ToString()), actionId);
        }
        foreach (
            var (id, filter) in c.Query<(long, string)>(
                    "SELECT id, filter FROM segment WHERE list_id = @listId AND filter <> ''",
                    new { listId }
                )
                .ToList()
        )
        {
            var parsed = FieldParser.ParseExpression(filter, names);
            if (parsed.Errors.Count == 0 && parsed.Expression.Columns().Contains(at))
                c.Execute(
                    "UPDATE segment SET filter = @filter, revision = revision + 1 WHERE id = @id",
                    new { filter = Renaming.Of(parsed.Expression, at, name).ToString(), id }
                );
        }
        Conditions.FollowColumn(c, listId, column.Id, name, locale);
        DropEvents.FollowName(c, listId, column.Name, name, actor, actionId);
    }

    static List<CellEdit> Retyped(SqliteConnection c, ListShape shape, int columnId, ColumnType type)
    {
        var column = new Column(columnId, "", type, Role.None);
        var edits = new List<CellEdit>();
        foreach (
            var (id, value) in c.Query<(long, string)>(
                $"SELECT id, {RowTable.Cell(columnId)} FROM {RowTable.Name(shape.ListId)} WHERE {RowTable.Cell(columnId)} IS NOT NULL",
                buffered: true
            )
        )
            if (TypedValue.Read(column, value, shape.Surroundings.Locale, out var canonical) is null && canonical != value)
                edits.Add(new(id, columnId, canonical));
        return edits;
    }

    /// <summary>Takes a column off the list.</summary>
    /// <exception cref="ConflictException">A computed column reads it.</exception>
    public ActOutcome Remove(long listId, int columnId, Actor actor) =>
        database.Write(c =>
        {
            var shape = ListShape.Of(c, listId, editor.Surroundings);
            var column = shape.Column(columnId);
            if (shape.Columns.Count == 1)
                throw new ConflictException("A list must have at least one column.");
            var names = new Names(shape.Columns, shape.Details, null, shape.Surroundings.Locale);
            var reader = shape.Columns.FirstOrDefault(x =>
                x.Kind == ColumnKind.Computed
                && x.Id != columnId
                && FieldParser.ParseExpression(x.Expression!, names).Expression.Columns().Contains(shape.Position(columnId))
            );
            if (reader is not null)
                throw new ConflictException($"{reader.Name} is computed from {column.Name}. Change or remove that column first.");
            if (Conditions.ReaderOf(c, listId, columnId, shape.Surroundings.Locale) is { } condition)
                throw new ConflictException($"{column.Name} is read by {condition}. Change or remove that column first.");
            var label = $"Removed column {column.Name}";
            var actionId = Actions.Begin(c, listId, null, label, actor);
            var old = State(c, listId, columnId);
            c.Execute(
                "UPDATE list_column SET removed = 1 WHERE list_id = @listId AND id = @columnId; UPDATE list SET revision = revision "
                    + "+ 1 WHERE id = @listId; DELETE FROM check_issue WHERE list_id = @listId AND column_id = @columnId",
                new { listId, columnId }
            );
            c.Execute(
                "INSERT INTO column_change (list_id, column_id, old_json, new_json, action_id) VALUES (@listId, @columnId, @old, "
                    + "@now, @actionId)",
                new
                {
                    listId,
                    columnId,
                    old,
                    now = State(c, listId, columnId),
                    actionId,
                }
            );
            return new ActOutcome(label, 1, []);
        });

    /// <summary>Divides a column that holds whole names or whole addresses: the parts get columns of their own and the roles, the whole
    /// stays without one. The parts come of a file as the whole does: a newer one makes them anew.</summary>
    /// <param name="familyFirst">For names: true where the family name stands first without a comma; null for what the values tell.</param>
    public ActOutcome Divide(long listId, int columnId, Role whole, bool? familyFirst, Actor actor) =>
        database.Write(c =>
        {
            var column = ListShape.Of(c, listId, editor.Surroundings).Column(columnId);
            var roles = CellParts.RolesOf(whole);
            if (roles.Count == 0)
                throw new ConflictException("Only a full name or a full address can be split.");
            var home = editor.Surroundings.Home;
            var cells = c.Query<(long Id, string Value)>(
                    $"SELECT id, {RowTable.Cell(columnId)} FROM {RowTable.Name(listId)} WHERE {RowTable.Cell(columnId)} IS NOT NULL"
                )
                .ToList();
            var division = new Division(whole, familyFirst ?? CellParts.IsFamilyFirst(whole, cells.Select(r => r.Value)));
            var values = cells.Select(r => (r.Id, Parts: CellParts.Divide(r.Value, whole, home, division.FamilyFirst))).ToList();
            var which = Enumerable
                .Range(0, roles.Count)
                .Where(i => CellParts.IsAlways(roles[i]) || values.Any(v => v.Parts[i] is not null))
                .ToList();
            var label = $"Split {column.Name} into {string.Join(", ", which.Select(i => CellParts.NameOf(roles[i])))}";
            var actionId = Actions.Begin(c, listId, null, label, actor);
            if (column.Role == whole)
                Change(c, listId, columnId, new(Role: Role.None), actionId);
            var columns = RowTable.Columns(c, listId);
            var taken = columns.Select(x => x.Name).ToHashSet(StringComparer.OrdinalIgnoreCase);
            // Two people's parts are not mixed: where other columns have the partner's, they keep them. A column with the whole name goes
            // before the parts where it is filled.
            var second = columns.FirstOrDefault(x => x.Id != columnId && CellParts.IsOfPartner(x.Role));
            var wholePartner = columns.FirstOrDefault(x => x.Id != columnId && x.Role == Role.PartnerFullName);
            var ids = which
                .Select(i => roles[i])
                .Select(role =>
                {
                    var name = CellParts.NameOf(role);
                    for (var n = 2; !taken.Add(name); n++)
                        name = $"{CellParts.NameOf(role)} {n}";
                    var given = second is not null && CellParts.IsOfPartner(role) ? Role.None : role;
                    // What is made of a file's column is the file's, too.
                    var source = column.Kind == ColumnKind.Source ? name : null;
                    var kind = source is null ? ColumnKind.Hand : ColumnKind.Source;
                    return Add(c, listId, name, ColumnType.Text, given, kind, null, source, actionId);
                })
                .ToList();
            c.Execute(
                "UPDATE list_column SET division_json = @division WHERE list_id = @listId AND id = @columnId",
                new
                {
                    listId,
                    columnId,
                    division = JsonSerializer.Serialize(division),
                }
            );
            var shape = ListShape.Of(c, listId, editor.Surroundings);
            var edits = values
                .SelectMany(r => which.Select((part, i) => new CellEdit(r.Id, ids[i], r.Parts[part])).Where(e => e.Value is not null))
                .ToList();
            var other = second ?? wholePartner;
            var partner = other is null ? -1 : roles.ToList().IndexOf(Role.PartnerGivenName);
            var named = values.Where(v => partner >= 0 && v.Parts[partner] is not null).Select(v => v.Id).ToHashSet();
            if (second is null && wholePartner is not null && named.Count > 0)
                named.IntersectWith(
                    c.Query<long>($"SELECT id FROM {RowTable.Name(listId)} WHERE trim({RowTable.Cell(wholePartner.Id)}) <> ''")
                );
            var unaddressed = named.Count;
            return new ActOutcome(
                label,
                editor.Apply(c, shape, edits, actor, actionId),
                unaddressed == 0
                    ? []
                    :
                    [
                        $"“{column.Name}” names a partner in {unaddressed:N0} {(unaddressed == 1 ? "row" : "rows")} who will not be "
                            + $"addressed, because partners come from “{other!.Name}”.",
                    ]
            );
        });
}
