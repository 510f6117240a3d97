using Bandeja.Core.Contact;
using Bandeja.Core.Mail;
using Bandeja.Core.Matching;

namespace Bandeja.Core.Tests;

public class ContactLimitTests
{
    static readonly DateOnly Day = new(2027, 3, 15);

    [Fact]
    public void A_piece_more_than_allowed_names_those_in_the_way()
    {
        var limit = new ContactLimit(Channel.Paper, 2, 30, ContactCount.Person);
        DateOnly[] others = [Day.AddDays(-29), Day.AddDays(-3), Day.AddDays(-30)];
        Assert.Equal([Day.AddDays(-29), Day.AddDays(-3)], limit.InTheWay(Day, others, d => d));
        Assert.Empty(limit.InTheWay(Day, [Day.AddDays(-30), Day.AddDays(-3)], d => d));
        // One before and one after are in no thirty days together with it.
        Assert.Empty(limit.InTheWay(Day, [Day.AddDays(-20), Day.AddDays(20)], d => d));
        Assert.Equal(2, limit.InTheWay(Day, [Day.AddDays(-10), Day.AddDays(19)], d => d).Count);
        Assert.Equal(2, limit.InTheWay(Day, [Day.AddDays(1), Day.AddDays(29)], d => d).Count);
        Assert.Empty(limit.InTheWay(Day, [Day.AddDays(1), Day.AddDays(30)], d => d));
    }

    [Fact]
    public void It_is_what_trying_all_days_in_a_row_says()
    {
        var random = new Random(5);
        for (var n = 0; n < 4000; n++)
        {
            var limit = new ContactLimit(Channel.Both, random.Next(1, 4), random.Next(1, 12), ContactCount.Person);
            var others = Enumerable.Range(0, random.Next(8)).Select(_ => Day.AddDays(random.Next(-14, 15))).ToList();
            var tooMany = Enumerable
                .Range(0, limit.Days)
                .Any(back => others.Count(o => o >= Day.AddDays(-back) && o <= Day.AddDays(limit.Days - 1 - back)) >= limit.Pieces);
            var found = limit.InTheWay(Day, others, d => d);
            Assert.Equal(tooMany, found.Count > 0);
            Assert.True(found.Count == 0 || found.Count >= limit.Pieces);
        }
    }

    [Theory]
    [InlineData(0, 30)]
    [InlineData(1, 0)]
    [InlineData(1, 367)]
    [InlineData(1001, 30)]
    public void What_cannot_be_meant_is_refused(int pieces, int days) =>
        Assert.NotNull(new ContactLimit(Channel.Paper, pieces, days, ContactCount.Person).Objection);

    [Fact]
    public void It_says_what_it_is()
    {
        Assert.Equal("1 email in a day for a person", new ContactLimit(Channel.Email, 1, 1, ContactCount.Person).Words);
        Assert.Equal("2 pieces on paper in 30 days for a household", new ContactLimit(Channel.Paper, 2, 30, ContactCount.Household).Words);
    }

    static MatchRow Row(long id, string name, string street = "12 quay rd", string place = "97412", string email = "") =>
        new(id, "", email, name, street, place, name.Split(' ')[^1]);

    [Fact]
    public void Two_recipients_are_the_same_by_name_and_address_or_email()
    {
        Assert.Equal(DuplicateReason.SameNameAndAddress, Duplicates.Same(Row(1, "ana okafor"), Row(2, "ana okafor")));
        Assert.Equal(
            DuplicateReason.SameEmail,
            Duplicates.Same(Row(1, "ana okafor", "", "", "a@x.example"), Row(2, "ana p okafor", "5 elm st", "10001", "a@x.example"))
        );
        Assert.Equal(DuplicateReason.Near, Duplicates.Same(Row(1, "marisol okafor"), Row(2, "marisol okafar")));
        Assert.Null(Duplicates.Same(Row(1, "ana okafor"), Row(2, "luis okafor")));
        Assert.Null(Duplicates.Same(Row(1, "ana okafor"), Row(2, "ana okafor", "99 hill ave", "10001")));
        Assert.Null(
            Duplicates.Same(Row(1, "ana okafor", email: "desk@x.example"), Row(2, "luis petrov", "9 a st", "10001", "desk@x.example"))
        );
        // Blank rows are nobody.
        Assert.Null(Duplicates.Same(Row(1, "", "", ""), Row(2, "", "", "")));
    }

    [Fact]
    public void Who_is_the_same_always_shares_a_block()
    {
        var random = new Random(8);
        string[] names = ["ana okafor", "ana okafar", "ana p okafor", "marisol ortega", "marisol ortaga", "", "bo li"];
        string[] streets = ["12 quay rd", "12 quai rd", "12 quay rd # 4", "po box 7", "", "rua alta 5"];
        string[] places = ["97412", "97413", "fernquay", ""];
        string[] emails = ["", "", "a@x.example", "b@x.example"];
        T Any<T>(T[] from) => from[random.Next(from.Length)];
        for (var n = 0; n < 20_000; n++)
        {
            var (a, b) = (
                Row(1, Any(names), Any(streets), Any(places), Any(emails)),
                Row(2, Any(names), Any(streets), Any(places), Any(emails))
            );
            Assert.Equal(Duplicates.Same(a, b), Duplicates.Same(b, a));
            if (Duplicates.Same(a, b) is not null)
                Assert.NotEmpty(Duplicates.Blocks(a).Intersect(Duplicates.Blocks(b)));
        }
    }

    [Fact]
    public void People_are_put_together_unless_two_of_them_are_different()
    {
        SamePair[] pairs = [new(1, 2, 3), new(2, 3, 5), new(4, 5, 1)];
        var all = SamePeople.Of([1, 2, 3, 4, 5, 6], pairs, new HashSet<(long, long)>());
        Assert.Equal([1, 1, 1, 4, 4, 6], all.OrderBy(p => p.Key).Select(p => p.Value));
        // 1 and 3 are two people: the surer pair keeps 2 with 3.
        var two = SamePeople.Of([1, 2, 3], pairs, new HashSet<(long, long)> { (1, 3) });
        Assert.Equal([1, 2, 2], two.OrderBy(p => p.Key).Select(p => p.Value));
    }
}
