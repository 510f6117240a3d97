using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text;
using Bandeja.Core.Checks;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;

namespace Bandeja.Core.Tests;

/// <summary>Whoever changes what the checks find must say so, or lists that were checked before are never checked again.</summary>
public sealed class CheckRulesTests
{
    static readonly Column[] Columns =
    [
        new(1, "No", ColumnType.Text, Role.Key),
        new(2, "Title", ColumnType.Text, Role.Title),
        new(3, "First", ColumnType.Text, Role.GivenName),
        new(4, "Last", ColumnType.Text, Role.FamilyName),
        new(5, "Name", ColumnType.Text, Role.FullName),
        new(6, "Company", ColumnType.Text, Role.Organization),
        new(7, "Street", ColumnType.Text, Role.Street),
        new(8, "City", ColumnType.Text, Role.City),
        new(9, "State", ColumnType.Text, Role.Region),
        new(10, "Zip", ColumnType.Text, Role.PostalCode),
        new(11, "Country", ColumnType.Text, Role.Country),
        new(12, "Email", ColumnType.Text, Role.Email),
        new(13, "Phone", ColumnType.Text, Role.Phone),
        new(14, "Amount", ColumnType.Number, Role.None),
        new(15, "Joined", ColumnType.Date, Role.None),
        new(16, "Newsletter", ColumnType.YesNo, Role.None),
        new(17, "Gender", ColumnType.Text, Role.None),
        new(18, "Note", ColumnType.Text, Role.None),
        new(19, "Address", ColumnType.Text, Role.WholeAddress),
    ];

    static readonly string?[] Sound =
    [
        "F-1",
        "Ms.",
        "Ana",
        "Okafor",
        "Ana Okafor",
        null,
        "2291 Lantern Row",
        "Fernquay",
        "OR",
        "97412",
        null,
        "ana@example.org",
        "(541) 555-0142",
        "64.00",
        "2019-03-04",
        "yes",
        "female",
        null,
        null,
    ];

    static readonly string?[] Values =
    [
        null,
        " two  spaces ",
        "OKAFOR",
        "o'neill",
        "MuÃ±oz",
        "O&#39;Malley &amp; Co",
        "'00123",
        "5035550102.0",
        "#REF!",
        "Mu\uFFFDoz",
        "N/A",
        "-",
        "none",
        "Ana & Luis",
        "Mr. and Mrs. John Q. Public III",
        "Okafor, Ana",
        "Acme Hardware, Inc.",
        "Mr.",
        "male",
        "x",
        "1",
        "true",
        "1.250,00",
        "50 USD",
        "12,5",
        "0",
        "31/03/2027",
        "03/04/2027",
        "2027-02-30",
        "1027-01-01",
        "2927-01-01",
        "soon",
        "2139",
        "974121234",
        "97412-123",
        "K1A 0B1",
        "SW1A 1AA",
        "00000",
        "Oregon",
        "WA",
        "Bavaria",
        "Texas",
        "U.S.A.",
        "Deutschland",
        "Freedonia",
        "ana@example",
        "ana@gmial.com",
        "info@example.org",
        "ana@example.org; luis@example.org",
        "Meera Klein <meera@example.org>",
        "1.23457E+12",
        "12.50-",
        "same",
        "vacant",
        "not an address",
        "555-0142",
        "+49 30 901820",
        "12",
        "2291 Lantern Row, Fernquay, OR 97412",
        "PO BOX 12",
        "4711",
        "東京都",
        "مرحبا",
        "🌿",
        new string('w', 60),
        "Köln",
        "Ð˜Ð²Ð°Ð½",
        "ΑΘΗΝΑ",
        "ǅ",
    ];

    /// <summary>What only two cells together bring out.</summary>
    static readonly (int Column, string? Value)[][] Together =
    [
        [(2, "Ana Okafor"), (3, null)],
        [(2, null), (3, "Okafor, Ana")],
        [(2, null), (3, null), (4, "Okafor, Dr. Ana, MD")],
        [(2, null), (3, null), (4, "Okafor, Ana & Luis")],
        [(2, null), (3, null), (4, "Okafor, Ana (Nan)")],
        [(2, "Okafor"), (3, "Maria")],
        [(2, "Nguyen"), (3, "Anh")],
        [(7, "Fernquay, OR 97412"), (8, null), (9, null)],
        [(6, "2291 Lantern Row, Fernquay OR 97412"), (7, null), (8, null), (9, null)],
        [(1, "Mr."), (16, "female")],
        [(8, "CA"), (9, "97412")],
        [(9, null), (18, "Fernquay, MA 1970")],
        [(9, null), (18, "Fernquay QC H3B1K7")],
        [(9, null), (7, "Fernquay 1970")],
        [(9, null), (18, "Fernquay, OR 01970")],
        [(9, null), (18, "Fernquay, OR 9730")],
        [(6, null), (7, null), (9, null), (18, "Fernquay, OR 97412")],
    ];

    static string Path([CallerFilePath] string here = "") =>
        System.IO.Path.Combine(System.IO.Path.GetDirectoryName(here)!, "golden", "checks.txt");

    /// <summary>What each check finds in every value in every column, as one digest for each.</summary>
    static List<string> Found()
    {
        var by = Enum.GetValues<CheckKind>().ToDictionary(k => k, _ => new StringBuilder());
        foreach (var country in (string[])["US", "DE"])
        {
            var checker = new RowChecker(Columns, new(Countries.Named(country)!, new(2027, 3, 1), r => r.Value < 0x600));
            var all = Enumerable
                .Range(0, Columns.Length)
                .SelectMany(column => Values.Select(v => ((int, string?)[])[(column, v)]))
                .Concat(Together);
            foreach (var changes in all)
            {
                var row = (string?[])Sound.Clone();
                foreach (var (column, value) in changes)
                    row[column] = value;
                foreach (var d in checker.Check(row))
                    by[d.Kind]
                        .Append(country)
                        .AppendJoin(',', changes)
                        .Append('|')
                        .Append(d.Column)
                        .Append(d.Message)
                        .AppendJoin(';', d.Fixes)
                        .Append('\n');
            }
        }
        return
        [
            .. by.OrderBy(k => k.Key.ToString(), StringComparer.Ordinal)
                .Select(k =>
                    $"{k.Key} {k.Value.ToString().Count(c => c == '\n')} "
                    + $"{Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(k.Value.ToString())))[..12]}"
                ),
        ];
    }

    [Fact]
    public void What_the_checks_find_changes_only_together_with_the_number_of_their_rules()
    {
        var (rules, now) = ($"rules {RowChecker.Rules}", Found());
        var golden = File.Exists(Path()) ? File.ReadAllLines(Path()) : [];
        var changed = now.Except(golden).Select(l => l.Split(' ')[0]).ToList();
        var said =
            $"These checks find something else than before: {string.Join(", ", changed)}. If that is meant, raise RowChecker.Rules, "
            + "so that lists are checked again, and run this test once with BANDEJA_GOLDEN=write.";
        if (golden.FirstOrDefault() != rules && Environment.GetEnvironmentVariable("BANDEJA_GOLDEN") == "write")
            File.WriteAllLines(Path(), [rules, .. now]);
        else
            Assert.True(
                golden.FirstOrDefault() == rules && changed.Count == 0,
                golden.FirstOrDefault() == rules
                    ? said
                    : "RowChecker.Rules was raised: run this test once with BANDEJA_GOLDEN=write, and commit what it writes."
            );
    }

    [Fact]
    public void The_values_bring_out_nearly_every_check()
    {
        // What a single row cannot show: a column that is computed, and two recipients with one address.
        var silent = Found().Where(l => l.Split(' ')[1] == "0").Select(l => l.Split(' ')[0]);
        Assert.Equal(["Computed", "SameEmail"], silent.Order());
    }

    [Fact]
    public void Every_check_has_words_of_its_own()
    {
        var all = Enum.GetValues<CheckKind>().Select(CheckText.Of).ToList();
        Assert.All(
            all,
            t => Assert.False(string.IsNullOrWhiteSpace(t.Title) || string.IsNullOrWhiteSpace(t.Hint) || string.IsNullOrWhiteSpace(t.Why))
        );
        Assert.Equal(all.Count, all.Select(t => t.Title).Distinct().Count());
    }
}
