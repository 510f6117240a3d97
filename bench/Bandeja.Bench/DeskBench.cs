using System.Diagnostics;
using System.Net.Http.Json;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Matching;
using Bandeja.Core.Places;
using Bandeja.Core.Recognition;
using Bandeja.Formats.Ledger;
using Bandeja.Formats.Lists;
using Bandeja.Server;
using Bandeja.Store;
using Bandeja.Store.Editing;
using Bandeja.Store.Lists;
using Bandeja.Work.Hosting;
using Bandeja.Work.Jobs;
using ExcelDataReader;
using Microsoft.Data.Sqlite;

namespace Bandeja.Bench;

/// <summary>The list desk at its size: a workbook in, all checks, one edit, duplicates, a segment's count, sorting, the table while checks
/// run.</summary>
static class DeskBench
{
    const int Rows = 100_000;
    static readonly Actor By = Actor.Person("Bench", DateTimeOffset.UnixEpoch);
    static readonly Country Home = Countries.Named("US")!;
    static readonly string[] Headings =
    [
        "No.",
        "Title",
        "First",
        "Last",
        "Organization",
        "Street",
        "Street 2",
        "City",
        "State",
        "ZIP",
        "Country",
        "Email",
        "Phone",
        "Level",
        "Member since",
        "Renewal date",
        "Amount due",
        "Last gift",
        "Newsletter",
        "Note",
    ];

    /// <summary>Rows as untidy as real ones: about one in twenty has something wrong.</summary>
    static string?[] Row(int i) =>
        [
            $"F-{i:000000}",
            i % 3 == 0 ? "Ms" : null,
            i % 40 == 7 ? $"GIVEN{Word(i % 977)}" : $"Given{Word(i % 977)}",
            $"Family{Word(i % 7919)}",
            null,
            i % 50 == 3 ? $"{i % 2400}  Lantern Row" : $"{i % 2400} Lantern Row",
            null,
            "Fernquay",
            i % 60 == 1 ? "Oregon" : "OR",
            $"97{400 + i % 90}",
            null,
            $"g{i}@{(i % 90 == 2 ? "exmaple" : "example")}.org",
            $"(541) 555-01{i % 100:00}",
            "Friend",
            $"{1990 + i % 37}",
            $"{2027}-{1 + i % 12:00}-{1 + i % 28:00}",
            $"{i % 1000}.50",
            $"{i % 40 * 5}",
            i % 3 == 0 ? "yes" : "no",
            null,
        ];

    static string Word(int n) => $"{(char)('a' + n % 26)}{(char)('a' + n / 26 % 26)}{(char)('a' + n / 676 % 26)}";

    static ListSurroundings Surroundings => new(OrganizationLocale.UnitedStates, new(2027, 3, 1), _ => true);

    static ListEditor Editor(Database database) => new(database, () => Surroundings, (_, _, _, _, _) => { });

    static long Fill(Database database, IEnumerable<string?[]> rows, IReadOnlyList<string> headings)
    {
        var roles = RoleEvidence.Of(headings, _ => [], Home);
        var writer = new RowWriter(
            database,
            "List",
            "list.csv",
            null,
            [
                .. headings.Select(
                    (h, i) =>
                        new Column(
                            i + 1,
                            h,
                            h is "Amount due" or "Last gift" ? ColumnType.Number
                                : h == "Renewal date" ? ColumnType.Date
                                : h == "Newsletter" ? ColumnType.YesNo
                                : ColumnType.Text,
                            roles[i].Role
                        )
                ),
            ],
            By
        );
        foreach (var row in rows)
            writer.Add(row);
        writer.Finish([], null);
        return writer.ListId;
    }

    static void In(Action<string> work)
    {
        var folder = Directory.CreateTempSubdirectory("bandeja-bench").FullName;
        try
        {
            work(folder);
        }
        finally
        {
            SqliteConnection.ClearAllPools();
            Directory.Delete(folder, true);
        }
    }

    public static void Workbook() =>
        In(folder =>
        {
            var path = Path.Combine(folder, "list.xlsx");
            using (var target = File.Create(path))
                TableExport.Xlsx(
                    target,
                    "List",
                    [.. Headings.Select((h, i) => new Column(i + 1, h, ColumnType.Text, Role.None))],
                    Enumerable.Range(1, Rows).Select(i => (IReadOnlyList<string?>)Row(i))
                );
            var n = 0;
            var (ours, bare) = Bench.InTurn(
                () =>
                {
                    using var database = new Database(Path.Combine(folder, $"{n++}.sqlite"));
                    var file = SourceFile.Open(path, "list.xlsx");
                    var look = file.Look(new(), ListCustoms.UnitedStates);
                    var columns = look
                        .Columns.Select((c, i) => new ImportColumn(i, c.Name, c.Type, c.DateOrder, c.Role, Format: c.Format))
                        .ToList();
                    ImportJob.BringIn(
                        database,
                        file,
                        new("bench", "list.xlsx", "List", new(look.Sheet, look.HeadingRow), columns.Count, columns),
                        Home,
                        By,
                        (_, _) => { },
                        CancellationToken.None
                    );
                },
                () =>
                {
                    System.Text.Encoding.RegisterProvider(System.Text.CodePagesEncodingProvider.Instance);
                    using var stream = File.OpenRead(path);
                    using var reader = ExcelReaderFactory.CreateReader(stream);
                    while (reader.Read())
                        for (var i = 0; i < reader.FieldCount; i++)
                            reader.GetValue(i);
                },
                2
            );
            Bench.Line(
                "XLSX of 100,000 rows × 20 columns brought in, against the reader alone",
                Bench.Time(ours),
                Bench.Time(bare),
                Bench.Ratio(ours / bare),
                "at most 2.5×",
                ours / bare <= 2.5
            );
        });

    public static void Checks() =>
        In(folder =>
        {
            using var database = new Database(Path.Combine(folder, "a.sqlite"));
            var list = Fill(database, Enumerable.Range(1, Rows).Select(Row), Headings);
            var editor = Editor(database);
            var issues = new CheckIssues(database, editor);
            var (ours, pass) = Bench.InTurn(
                () => issues.CheckAll(list, (_, _) => { }, default),
                () =>
                {
                    using var c = database.Open();
                    using var command = c.CreateCommand();
                    command.CommandText = $"SELECT * FROM rows_{list} ORDER BY n";
                    using var reader = command.ExecuteReader();
                    while (reader.Read())
                        for (var i = 5; i < reader.FieldCount; i++)
                            if (!reader.IsDBNull(i))
                                reader.GetString(i);
                },
                3
            );
            Bench.Line(
                "all checks over 100,000 × 20, against one pass that only reads it",
                Bench.Time(ours),
                Bench.Time(pass),
                Bench.Ratio(ours / pass),
                "at most 10×",
                ours / pass <= 10
            );
            long id;
            using (var c = database.Open())
                id = new ListStore(database).Page(list, new(), null, 50, 1).Rows[0].Id;
            var round = 0;
            var (edit, whole) = Bench.InTurn(
                () => editor.Edit(list, [new(id, 4, $"Okafor{round++}")], "edit", By),
                () => issues.CheckAll(list, (_, _) => { }, default),
                2
            );
            Bench.Line(
                "one cell edited and its row checked again, against checking the whole",
                Bench.Time(edit),
                Bench.Time(whole),
                Bench.Ratio(edit / whole),
                "at most 0.05×",
                edit / whole <= 0.05
            );
        });

    public static void Duplicates() =>
        In(_ =>
        {
            static List<MatchRow> Rows(int n)
            {
                var keys = new MatchKeys(
                    [
                        new(1, "No.", ColumnType.Text, Role.Key),
                        new(2, "First", ColumnType.Text, Role.GivenName),
                        new(3, "Last", ColumnType.Text, Role.FamilyName),
                        new(4, "Street", ColumnType.Text, Role.Street),
                        new(5, "ZIP", ColumnType.Text, Role.PostalCode),
                    ]
                );
                // Ten addresses for thirteen people, however many there are; each fiftieth is somebody before with another letter in the
                // name.
                return
                [
                    .. Enumerable
                        .Range(0, n)
                        .Select(i =>
                        {
                            var (duplicate, at) = (i % 50 == 49, (i % 50 == 49 ? i - 1 : i) * 10 / 13);
                            var family =
                                $"{(char)('A' + (duplicate ? i - 1 : i) * 11 % 26)}{Word((duplicate ? i - 1 : i) * 31 % 7919)}"
                                + $"{(duplicate ? "sen" : "son")}";
                            return keys.Of(
                                i,
                                [
                                    $"F-{i}",
                                    $"Given{Word((duplicate ? i - 1 : i) * 7 % 977)}",
                                    family,
                                    $"{at % 2400} {Word(at / 2400)} Row",
                                    $"{10_000 + at % 40_000}",
                                ]
                            );
                        }),
                ];
            }
            var (small, large) = (Rows(10_000), Rows(100_000));
            var (ours, tenth) = Bench.InTurn(
                () => Bandeja.Core.Matching.Duplicates.Find(large),
                () => Bandeja.Core.Matching.Duplicates.Find(small),
                3
            );
            Bench.Line(
                "duplicates with near matches, 100,000 rows against 10,000",
                Bench.Time(ours),
                Bench.Time(tenth),
                Bench.Ratio(ours / tenth),
                "at most 12×",
                ours / tenth <= 12
            );
        });

    public static void Segment() =>
        In(folder =>
        {
            var data = Directory.CreateDirectory(Path.Combine(folder, "data")).FullName;
            long list;
            using (var database = new Database(Path.Combine(data, "bandeja.sqlite")))
                list = Fill(database, Enumerable.Range(1, Rows).Select(Row), Headings);
            SqliteConnection.ClearAllPools();
            var app = Application.Build(new ServerOptions(data, Port: 0));
            app.StartAsync().Wait();
            using var client = new HttpClient { BaseAddress = new Uri(app.Urls.First()) };
            client.GetStringAsync($"/api/lists/{list}").Wait(); // begins the first check
            using var connection = new SqliteConnection($"Data Source={Path.Combine(data, "bandeja.sqlite")};Mode=ReadOnly");
            connection.Open();
            void Sql(string sql)
            {
                using var command = connection.CreateCommand();
                command.CommandText = sql;
                using var reader = command.ExecuteReader();
                while (reader.Read()) { }
            }
            // While the checks go through the list, rows are asked for as somebody scrolls.
            var slowest = new List<double>();
            var offset = 0;
            while (
                client.GetFromJsonAsync<System.Text.Json.JsonElement>($"/api/lists/{list}").Result.GetProperty("checking").GetBoolean()
                && offset < 30_000
            )
            {
                var watch = Stopwatch.StartNew();
                client.GetStringAsync($"/api/lists/{list}/recipients?offset={offset += 100}&limit=100").Wait();
                slowest.Add(watch.Elapsed.TotalSeconds);
            }
            while (client.GetFromJsonAsync<System.Text.Json.JsonElement>($"/api/lists/{list}").Result.GetProperty("checking").GetBoolean())
                Thread.Sleep(200);
            var quiet = new List<double>();
            for (var i = 0; i < Math.Max(20, slowest.Count); i++)
            {
                var watch = Stopwatch.StartNew();
                client.GetStringAsync($"/api/lists/{list}/recipients?offset={offset += 100}&limit=100").Wait();
                quiet.Add(watch.Elapsed.TotalSeconds);
            }
            if (slowest.Count > 0)
                Bench.Line(
                    $"rows of the table while checks run ({slowest.Count} asked), against none running",
                    Bench.Time(Bench.Median(slowest)),
                    Bench.Time(Bench.Median(quiet)),
                    Bench.Ratio(Bench.Median(slowest) / Bench.Median(quiet)),
                    $"under 100 ms (slowest {Bench.Time(slowest.Max())})",
                    Bench.Median(slowest) < 0.1
                );
            var n = 0;
            var (count, bare) = Bench.InTurn(
                () =>
                    client
                        .PostAsJsonAsync($"/api/lists/{list}/filter", new { text = $"`Amount due` >= {500 + ++n} and City = \"Fernquay\"" })
                        .Result.EnsureSuccessStatusCode(),
                () => Sql($"SELECT count(*) FROM rows_{list} WHERE CAST(c17 AS REAL) >= {500 + n} AND c8 = 'Fernquay' COLLATE NOCASE"),
                5
            );
            Bench.Line(
                "a segment's count over 100,000, against the bare SQL",
                Bench.Time(count),
                Bench.Time(bare),
                Bench.Ratio(count / bare),
                "at most 6×",
                count / bare <= 6
            );
            var columns = new[] { 4, 6, 17, 12, 3, 15 };
            var (sort, order) = Bench.InTurn(
                () =>
                    client
                        .GetStringAsync($"/api/lists/{list}/recipients?sorts={columns[++n % columns.Length]}&limit=100&search=given")
                        .Wait(),
                () =>
                    Sql(
                        $"SELECT * FROM rows_{list} WHERE instr(find, 'given') > 0 ORDER BY c{columns[n % columns.Length]} COLLATE "
                            + "NOCASE, n LIMIT 100"
                    ),
                6
            );
            Bench.Line(
                "first page by any column, against the bare SQL",
                Bench.Time(sort),
                Bench.Time(order),
                Bench.Ratio(sort / order),
                "at most 3×",
                sort / order <= 3
            );
            app.StopAsync().Wait();
            ((IDisposable)app).Dispose();
        });

    /// <summary>A million recipients × 12 columns: brought in, checked, searched for duplicates, without failing.</summary>
    public static void Million() =>
        In(folder =>
        {
            const int many = 1_000_000;
            string[] headings = [.. Headings.Where((_, i) => i is 0 or 2 or 3 or 5 or 7 or 8 or 9 or 11 or 12 or 15 or 16 or 18)];
            var path = Path.Combine(folder, "list.csv");
            using (var target = File.Create(path))
                TableExport.Csv(
                    target,
                    headings,
                    Enumerable
                        .Range(1, many)
                        .Select(i =>
                            (IReadOnlyList<string?>)
                                [.. Row(i).Where((_, c) => c is 0 or 2 or 3 or 5 or 7 or 8 or 9 or 11 or 12 or 15 or 16 or 18)]
                        )
                );
            using var database = new Database(Path.Combine(folder, "a.sqlite"));
            var list = 0L;
            var import = Bench.Seconds(() =>
            {
                var file = SourceFile.Open(path, "list.csv");
                var look = file.Look(new(), ListCustoms.UnitedStates);
                var columns = look
                    .Columns.Select((c, i) => new ImportColumn(i, c.Name, c.Type, c.DateOrder, c.Role, Format: c.Format))
                    .ToList();
                list = ImportJob.BringIn(
                    database,
                    file,
                    new(
                        "bench",
                        "list.csv",
                        "List",
                        new(look.Sheet, look.HeadingRow, look.Encoding, look.Delimiter),
                        columns.Count,
                        columns
                    ),
                    Home,
                    By,
                    (_, _) => { },
                    CancellationToken.None
                );
            });
            var read = Bench.Seconds(() =>
            {
                using var c = database.Open();
                using var command = c.CreateCommand();
                command.CommandText = $"SELECT * FROM rows_{list}";
                using var reader = command.ExecuteReader();
                while (reader.Read())
                    for (var i = 5; i < reader.FieldCount; i++)
                        if (!reader.IsDBNull(i))
                            reader.GetString(i);
            });
            Bench.Line(
                "1,000,000 × 12 brought in, against one pass that only reads it",
                Bench.Time(import),
                Bench.Time(read),
                Bench.Ratio(import / read),
                "without failing",
                new ListStore(database).Get(list).RowCount == many
            );
            var issues = new CheckIssues(database, Editor(database));
            var check = Bench.Seconds(() => issues.CheckAll(list, (_, _) => { }, default));
            Bench.Line(
                "1,000,000 × 12, all checks, against the same pass",
                Bench.Time(check),
                Bench.Time(read),
                Bench.Ratio(check / read),
                "without failing",
                issues.Totals(list).Cells > 0
            );
            var duplicates = Bench.Seconds(() => new DuplicateStore(database, Editor(database)).FindAll(list, (_, _) => { }, default));
            Bench.Line(
                "1,000,000, duplicates, against the same pass",
                Bench.Time(duplicates),
                Bench.Time(read),
                Bench.Ratio(duplicates / read),
                "without failing",
                true
            );
            Bench.Line("peak memory of it", $"{Bench.PeakMegabytes():0} MB", "–", "–", "–", true);
        });
}
