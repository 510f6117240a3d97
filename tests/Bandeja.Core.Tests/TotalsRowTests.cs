using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;

namespace Bandeja.Core.Tests;

/// <summary>Rows under a list that stand for nobody, and marks that keep somebody out of mailings.</summary>
public sealed class TotalsRowTests
{
    [Theory]
    [InlineData(true, "Total|||", 0)]
    [InlineData(true, "|||1250.00", 1250)]
    [InlineData(true, "Grand total:|||1250.00", 0)]
    [InlineData(true, "Summe|||1.250,00", 0)]
    [InlineData(true, "合計|||1250", 0)]
    [InlineData(true, "Total: 40|||", 0)]
    [InlineData(true, "40 members, printed March 4|||", 0)]
    [InlineData(false, "Ana|Total|Bend|64", 0)]
    [InlineData(false, "Ana|Okafor|Bend|64", 64)]
    [InlineData(false, "Ana|Okafor||", 0)]
    public void What_stands_for_nobody(bool total, string row, int sum)
    {
        string?[] cells = [.. row.Split('|').Select(c => c.Length == 0 ? null : c)];
        var named = cells.Take(3).Count(c => c is not null) > 1;
        Assert.Equal(total, TotalsRow.Is(cells, 3.8, new Dictionary<int, decimal> { [3] = sum }, named));
    }

    [Theory]
    [InlineData("Y", true)]
    [InlineData("yes", true)]
    [InlineData("X", true)]
    [InlineData("2024-05-01", true)]
    [InlineData("moved, no address", true)]
    [InlineData("No", false)]
    [InlineData("0", false)]
    [InlineData("-", false)]
    [InlineData("Nein", false)]
    [InlineData(" ", false)]
    [InlineData(null, false)]
    public void A_mark_says_whether_somebody_is_mailed(string? value, bool marked) => Assert.Equal(marked, MailMark.Says(value));

    [Theory]
    [InlineData("Do not mail")]
    [InlineData("DO_NOT_MAIL")]
    [InlineData("Deceased")]
    [InlineData("Verstorben")]
    [InlineData("Opt out")]
    [InlineData("Do Not Contact?")]
    public void Such_columns_are_noticed(string heading) =>
        Assert.Equal(Role.DoNotMail, RoleEvidence.Of([heading], _ => ["Y", null, "N"], Places.Countries.Named("US")!)[0].Role);

    [Fact]
    public void Several_columns_may_say_so() =>
        Assert.Equal(
            [Role.DoNotMail, Role.DoNotMail, Role.None],
            RoleEvidence
                .Of(["Do not mail", "Deceased", "Do not email"], _ => ["Y", null], Places.Countries.Named("US")!)
                .Select(g => g.Role)
        );
}
