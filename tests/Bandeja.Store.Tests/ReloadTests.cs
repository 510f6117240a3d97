using Bandeja.Core.Drops;
using Bandeja.Core.Lists;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Dapper;

namespace Bandeja.Store.Tests;

/// <summary>Loading a list again, and its versions.</summary>
public sealed class ReloadTests
{
    static readonly Column[] Headings =
    [
        new(1, "First", ColumnType.Text, Role.GivenName),
        new(2, "Last", ColumnType.Text, Role.FamilyName),
        new(3, "Amount", ColumnType.Number, Role.None),
        new(4, "City", ColumnType.Text, Role.City),
        new(-5, "Phone", ColumnType.Text, Role.Phone),
    ];

    static World Keyed()
    {
        var w = new World();
        new ColumnStore(w.Database, w.Editor).Change(w.List, 2, new(Role: Role.Key), w.By());
        return w;
    }

    static List<string?[]> File(World w) =>
        [.. w.Lists.Page(w.List, new(), null, 0, 100).Rows.Select(r => (string?[])[.. r.Values[..4], null])];

    static ReloadStore Store(World w) => new(w.Database, w.Editor);

    static long Compare(World w, IEnumerable<string?[]> rows) =>
        Store(w).Compare(w.List, "{}", "newer.csv", Headings, rows, () => [], w.By(), default);

    static string?[] Row(World w, string last) => w.Lists.Page(w.List, new(), null, 0, 100).Rows.Single(r => r.Values[1] == last).Values;

    static ReloadChoice All(bool keepHere = false, params int[] except) => new(true, true, true, keepHere, except);

    [Fact]
    public void Added_changed_and_gone_are_told_apart_and_fixes_made_here_stay()
    {
        using var w = Keyed();
        var file = File(w);
        var ids = w.Lists.Page(w.List, new(), null, 0, 100).Rows.Select(r => r.Id).ToList();
        new ColumnStore(w.Database, w.Editor).Add(w.List, "Mark", ColumnType.Text, Role.None, null, w.By());
        w.Editor.Edit(w.List, [new(ids[0], 4, "mended"), new(ids[1], 4, "mended too"), new(ids[2], 5, "board")], "fixes", w.By());
        w.Bench.Act(w.Drop, [ids[3]], DropEventKind.Held, "by hand", null, "Held", w.By());
        file[1][3] = "Kilkenny"; // changed in both
        file[2][2] = "99"; // changed in the file only
        file[4][4] = "555-0142"; // a column that the list does not have
        file.RemoveAt(9); // gone
        file.Add(["Zoë", "Family999", "1", "Cork", null]);
        var id = Compare(w, file);
        var reload = Store(w).Get(id);
        Assert.Equal((1, 3, 1, 1, 6), (reload.Added, reload.Changed, reload.Gone, reload.InBoth, reload.Unchanged));
        var both = Store(w).Items(id, "changed", 0, 9)[0];
        Assert.Equal(new ReloadCell(4, "Cork", "mended too", "Kilkenny"), Assert.Single(both.Cells));
        Store(w).Take(id, All(), new Dictionary<int, Column> { [-5] = Headings[4] }, w.By());
        Assert.Equal(("mended", "Kilkenny", "99"), (Row(w, "Family001")[3], Row(w, "Family002")[3], Row(w, "Family003")[2]));
        Assert.Equal(("board", "555-0142"), (Row(w, "Family003")[4], Row(w, "Family005")[5]));
        Assert.Equal("Zoë", Row(w, "Family999")[0]);
        Assert.Contains(ids[3], w.Ids(Tray.Held));
        Assert.StartsWith(
            "Removed from the list: Updated from newer.csv",
            w.Rows.Page(w.Drop, new(Tray.Held), 0, 99).Rows.Single(r => r.Id == ids[9]).HoldReason
        );
        Assert.Equal(11, w.Ids().Count);
        w.MustAddUp();
        Assert.Equal(2, new VersionStore(w.Database, w.Editor).OfList(w.List)[0].Number);
        Assert.Null(Store(w).OfList(w.List));
        // The same file again says nothing new, and the fix still stands against it.
        var again = Store(w)
            .Get(
                Store(w)
                    .Compare(w.List, "{}", "newer.csv", [.. Headings[..4], Headings[4] with { Id = 6 }], file, () => [], w.By(), default)
            );
        Assert.Equal((0, 0, 0), (again.Added, again.Changed, again.Gone));
    }

    [Fact]
    public void Settled_for_what_stands_here_is_not_asked_again()
    {
        using var w = Keyed();
        var file = File(w);
        w.Editor.Edit(w.List, [new(w.Ids()[0], 4, "mended")], "fix", w.By());
        file[0][3] = "Kilkenny";
        Store(w).Take(Compare(w, file), All(keepHere: true), new Dictionary<int, Column>(), w.By());
        Assert.Equal("mended", Row(w, "Family001")[3]);
        Assert.Equal(0, Store(w).Get(Compare(w, file)).Changed);
        file[0][3] = "Dublin";
        Assert.Equal(1, Store(w).Get(Compare(w, file)).InBoth);
    }

    [Fact]
    public void Who_was_taken_off_or_added_here_is_left_in_peace_and_items_can_be_excluded()
    {
        using var w = Keyed();
        var file = File(w);
        w.Editor.Edit(w.List, [new(w.Ids()[0], ListEditor.OnTheList, null)], "off", w.By());
        w.Editor.AddRecipients(w.List, [new Dictionary<int, string?> { [2] = "By hand" }], w.By());
        file.RemoveRange(7, 3);
        var id = Compare(w, file);
        var reload = Store(w).Get(id);
        Assert.Equal((0, 3), (reload.Added, reload.Gone));
        Assert.Contains("will stay removed", reload.ReportJson);
        var first = Store(w).Items(id, "gone", 0, 9)[0];
        Store(w).Take(id, All(false, first.Number), new Dictionary<int, Column>(), w.By());
        Assert.Equal(8, w.Lists.Get(w.List).RowCount);
        Assert.Contains(w.Lists.Page(w.List, new(), null, 0, 99).Rows, r => r.Id == first.RecipientId);
    }

    [Fact]
    public void A_list_changed_since_is_compared_anew_and_without_key_or_address_nobody_is_recognized()
    {
        using var w = Keyed();
        var file = File(w);
        file[0][3] = "Dublin";
        var id = Compare(w, file);
        w.Editor.Edit(w.List, [new(w.Ids()[5], 4, "x")], "edit", w.By());
        Assert.Contains(
            "changed after the file was compared",
            Assert.Throws<ConflictException>(() => Store(w).Take(id, All(), new Dictionary<int, Column>(), w.By())).Message
        );
        Assert.Throws<ConflictException>(() =>
            Store(w).Take(Compare(w, file), new(false, false, false, false), new Dictionary<int, Column>(), w.By())
        );
        using var unkeyed = new World();
        Assert.Contains("has no key", Assert.Throws<ConflictException>(() => Compare(unkeyed, File(unkeyed))).Message);
    }

    [Fact]
    public void Every_version_can_be_looked_at_and_brought_back()
    {
        using var w = Keyed();
        var versions = new VersionStore(w.Database, w.Editor);
        var original = File(w);
        var file = File(w);
        w.Editor.Edit(w.List, [new(w.Ids()[0], 4, "mended")], "fix", w.By());
        file[2][2] = "99";
        file.RemoveAt(9);
        file.Add(["Zoë", "Family999", "1", "Cork", null]);
        Store(w).Take(Compare(w, file), All(), new Dictionary<int, Column>(), w.By());
        var (then, total) = versions.Rows(w.List, 1, 0, 100);
        Assert.Equal(10, total);
        Assert.Equal(original.Select(r => string.Join('|', r[..4])), then.Select(r => string.Join('|', r.Values)));
        versions.BringBack(w.List, 1, w.By());
        Assert.Equal(
            original.Select(r => string.Join('|', r[..4])),
            w.Lists.Page(w.List, new(), null, 0, 100).Rows.Select(r => string.Join('|', r.Values))
        );
        Assert.Throws<ConflictException>(() => versions.BringBack(w.List, 1, w.By()));
        new ListUndo(w.Database, w.Editor).UndoLast(w.List, w.By());
        Assert.Equal(("mended", "99"), (Row(w, "Family001")[3], Row(w, "Family003")[2]));
        Assert.Throws<NotFoundException>(() => versions.Rows(w.List, 7, 0, 1));
        w.MustAddUp();
    }

    [Fact]
    public void A_database_from_before_is_brought_along_with_everything_in_it()
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-old").FullName;
        try
        {
            var path = Path.Combine(folder, "bandeja.sqlite");
            using (var old = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={path};Pooling=False"))
            {
                old.Open();
                using var script = new StreamReader(
                    typeof(Database).Assembly.GetManifestResourceStream("Bandeja.Store.Migrations.0001_start.sql")!
                );
                old.Execute(script.ReadToEnd());
                old.Execute(
                    """
                    CREATE TABLE SchemaVersions (SchemaVersionID INTEGER CONSTRAINT 'PK_SchemaVersions_SchemaVersionID' PRIMARY KEY
                        AUTOINCREMENT NOT NULL, ScriptName TEXT NOT NULL, Applied DATETIME NOT NULL);
                    INSERT INTO SchemaVersions (ScriptName, Applied) VALUES ('Bandeja.Store.Migrations.0001_start.sql', '2026-11-01');
                    INSERT INTO list VALUES (1, 'Old', 'ready', 1, 'old.csv', NULL, '[]', '2026-11-01', 'Marisol');
                    INSERT INTO list_column VALUES (1, 1, 0, 'First', 'Text', 'GivenName');
                    CREATE TABLE rows_1 (id INTEGER PRIMARY KEY, n INTEGER NOT NULL, find TEXT NOT NULL, c1 TEXT);
                    INSERT INTO rows_1 VALUES (1, 1, 'ana', 'Ana');
                    INSERT INTO action VALUES (1, 1, NULL, 'Corrected First', '2026-11-02', 'Marisol', NULL, NULL);
                    INSERT INTO cell_change VALUES (1, 1, 1, 1, 'Anna', 'Ana', '2026-11-02', 'Marisol', 1);
                    """
                );
            }
            using var database = new Database(path);
            var editor = new ListEditor(
                database,
                () => new(Core.Language.OrganizationLocale.UnitedStates, new(2027, 3, 1), _ => true),
                (_, _, _, _, _) => { }
            );
            Assert.Equal("Ana", new ListStore(database).Page(1, new(), null, 0, 9).Rows.Single().Values[0]);
            Assert.Equal("Anna", new VersionStore(database, editor).Rows(1, 1, 0, 9).Rows.Single().Values[0]);
            using var c = database.Open();
            Assert.Equal("Anna", c.QuerySingle<string>("SELECT value FROM source_value"));
            new ListUndo(database, editor).UndoLast(1, Actor.Person("Marisol", DateTimeOffset.UnixEpoch));
            Assert.Equal("Anna", new ListStore(database).Page(1, new(), null, 0, 9).Rows.Single().Values[0]);
        }
        finally
        {
            Directory.Delete(folder, true);
        }
    }
}
