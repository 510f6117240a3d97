using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;

namespace Bandeja.Store.Tests;

/// <summary>How the numbers of a column print, and columns from before that was kept.</summary>
public sealed class FormatMigrationTests
{
    [Fact]
    public void What_was_done_to_a_column_before_can_still_be_undone()
    {
        var path = Path.Combine(Path.GetTempPath(), $"bandeja-{Guid.NewGuid():N}.sqlite");
        try
        {
            OlderDatabase.Make(
                path,
                "0026",
                """
                INSERT INTO list (id, name, state, created_at, created_by) VALUES (1, 'Members', 'ready', '2027-03-01', 'A');
                INSERT INTO list_column (list_id, id, position, name, type, role, kind)
                    VALUES (1, 1, 1, 'Family', 'Text', 'FamilyName', 'Source'), (1, 2, 2, 'Gift', 'Number', 'None', 'Source');
                CREATE TABLE rows_1 (id INTEGER PRIMARY KEY, n INTEGER NOT NULL, find TEXT NOT NULL, gone INTEGER, hand INTEGER, c1 TEXT,
                    c2 TEXT);
                INSERT INTO action (id, list_id, label, at, by) VALUES (4, 1, 'Renamed Amount to Gift', '2027-03-01', 'A');
                INSERT INTO column_change (list_id, column_id, old_json, new_json, action_id) VALUES (1, 2,
                    '{"name":"Amount","type":"Number","role":"None","expression":null,"removed":0}',
                    '{"name":"Gift","type":"Number","role":"None","expression":null,"removed":0}', 4);
                """
            );
            using var database = new Database(path);
            // A connection that is open sees what it saw first.
            IReadOnlyList<Column> Columns()
            {
                using var c = database.Open();
                return RowTable.Columns(c, 1);
            }
            Assert.Equal([("Family", null), ("Gift", null)], Columns().Select(x => (x.Name, x.Format)));
            var editor = new ListEditor(
                database,
                () => new(OrganizationLocale.UnitedStates, new(2027, 3, 1), _ => true),
                (_, _, _, _, _) => { }
            );
            new ListUndo(database, editor).UndoLast(1, Actor.Person("A", DateTimeOffset.UnixEpoch));
            Assert.Equal("Amount", Columns()[1].Name);
        }
        finally
        {
            File.Delete(path);
        }
    }

    [Fact]
    public void A_format_is_changed_taken_away_and_brought_back()
    {
        using var w = new World();
        var columns = new ColumnStore(w.Database, w.Editor);
        string? Format()
        {
            using var c = w.Database.Open();
            return RowTable.Columns(c, w.List)[2].Format;
        }
        Assert.Null(Format());
        columns.Change(w.List, 3, new(Format: "money"), w.By());
        Assert.Equal("money", Format());
        columns.Change(w.List, 3, new(Name: "Gift"), w.By());
        Assert.Equal("money", Format());
        columns.Change(w.List, 3, new(Format: ""), w.By());
        Assert.Null(Format());
        new ListUndo(w.Database, w.Editor).UndoLast(w.List, w.By());
        Assert.Equal("money", Format());
        Assert.Throws<ConflictException>(() => columns.Change(w.List, 3, new(Format: "euros"), w.By()));
    }
}
