using Bandeja.Core.Campaigns;
using Bandeja.Core.Formulas;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>The calendar of mail dates, the clocks of steps, and what conditions can ask.</summary>
public sealed class CampaignTests
{
    static DateOnly Day(string iso) => DateOnly.Parse(iso, null);

    [Theory]
    [InlineData(
        2026,
        "2026-01-01,2026-01-19,2026-02-16,2026-05-25,2026-06-19,2026-07-03,2026-09-07,2026-10-12,2026-11-11,2026-11-26,2026-12-25"
    )]
    [InlineData(
        2027,
        "2027-01-01,2027-01-18,2027-02-15,2027-05-31,2027-06-18,2027-07-05,2027-09-06,2027-10-11,2027-11-11,2027-11-25,2027-12-24"
    )]
    public void Federal_holidays_are_those_of_the_official_tables(int year, string days) =>
        Assert.Equal(days.Split(','), WorkCalendar.FederalHolidays(year).Select(h => h.Date.ToString("yyyy-MM-dd", null)).Order());

    [Fact]
    public void New_Years_Day_on_a_Saturday_is_observed_in_the_year_before() =>
        Assert.Equal("New Year’s Day", WorkCalendar.Usual.WhyNot(Day("2027-12-31")));

    [Fact]
    public void A_date_moves_off_weekends_and_holidays_and_says_why()
    {
        var clock = new StepClock(
            [new(1, new(After: 0)), new(2, new(After: 20, ReadyDays: 2)), new(3, new(After: 4, Unit: StepUnit.Weeks))],
            WorkCalendar.Usual
        );
        // November 6, 2026, and 20 days is Thanksgiving.
        var dates = clock.Together(Day("2026-11-06"), new Dictionary<long, DateOnly>());
        Assert.Equal([Day("2026-11-06"), Day("2026-11-27"), Day("2026-12-28")], dates.Select(d => d.MailOn));
        Assert.Equal([null, "Thanksgiving Day", "Christmas Day"], dates.Select(d => d.MovedFor));
        // Two working days before the 27th: Thanksgiving is none.
        Assert.Equal(Day("2026-11-24"), dates[1].ReadyOn);
        // What was mailed late moves what follows.
        var late = clock.Together(Day("2026-11-06"), new Dictionary<long, DateOnly> { [1] = Day("2026-11-10") });
        Assert.True(late[0].Mailed);
        Assert.Equal(Day("2026-11-30"), late[1].MailOn);
    }

    [Fact]
    public void A_skipped_step_keeps_its_place_in_time()
    {
        ClockStep[] steps = [new(1, new()), new(2, new(After: 10), Skipped: true), new(3, new(After: 10))];
        var clock = new StepClock(steps, new WorkCalendar([], [], false));
        Assert.Equal(Day("2027-03-21"), clock.Together(Day("2027-03-01"), new Dictionary<long, DateOnly>())[2].MailOn);
        Assert.Equal(
            new NextStep(3, Day("2027-03-21")),
            clock.Next(Day("2027-03-01"), new Dictionary<long, DateOnly> { [1] = Day("2027-03-01") })
        );
    }

    [Fact]
    public void One_by_one_a_step_put_in_before_what_was_received_is_not_sent_afterwards()
    {
        var clock = new StepClock(
            [new(1, new()), new(9, new(After: 1)), new(2, new(After: 7, Weekday: DayOfWeek.Tuesday))],
            WorkCalendar.Usual
        );
        Assert.Equal(new NextStep(1, Day("2027-03-01")), clock.Next(Day("2027-02-27"), new Dictionary<long, DateOnly>()));
        // Step 2 was received, then step 9 was put in before it.
        Assert.Null(clock.Next(Day("2027-02-27"), new Dictionary<long, DateOnly> { [1] = Day("2027-03-01"), [2] = Day("2027-03-09") }));
        // A week after Wednesday is Wednesday; it is collected for the Tuesday after it.
        Assert.Equal(
            new NextStep(2, Day("2027-03-16")),
            clock.Next(Day("2027-02-27"), new Dictionary<long, DateOnly> { [9] = Day("2027-03-03") })
        );
    }

    [Property]
    public bool Dates_are_working_days_and_never_go_back(int startDay, byte[] distances, bool months)
    {
        var start = Day("2020-01-01").AddDays(Math.Abs(startDay % 20_000));
        var unit = months ? StepUnit.Months : StepUnit.Days;
        ClockStep[] steps =
        [
            .. distances.Take(12).Select((d, i) => new ClockStep(i + 1, new(After: d % 60, Unit: unit, ReadyDays: d % 5))),
        ];
        var dates = new StepClock(steps, WorkCalendar.Usual).Together(start, new Dictionary<long, DateOnly>());
        var before = start;
        foreach (var date in dates)
        {
            if (date.MailOn < before || WorkCalendar.Usual.WhyNot(date.MailOn) is not null || date.ReadyOn > date.MailOn)
                return false;
            before = date.MailOn;
        }
        return true;
    }

    [Fact]
    public void A_calendar_full_of_holidays_ends_a_search_all_the_same()
    {
        var start = Day("2027-01-01");
        var full = new WorkCalendar(
            [DayOfWeek.Sunday],
            [.. Enumerable.Range(0, WorkCalendar.MostHolidays).Select(i => new Holiday(start.AddDays(i), $"Day {i}"))],
            false
        );
        Assert.Equal(start.AddDays(WorkCalendar.MostHolidays), full.OnOrAfter(start));
        Assert.Equal(Day("2026-12-31"), full.Before(start.AddDays(5), 0));
        Assert.Throws<ArgumentException>(() => new WorkCalendar(Enum.GetValues<DayOfWeek>(), [], false));
        Assert.Throws<ArgumentException>(() =>
            new WorkCalendar([], [.. Enumerable.Range(0, WorkCalendar.MostHolidays + 1).Select(i => new Holiday(start, ""))], false)
        );
        Assert.Equal(DateOnly.MaxValue, new WorkCalendar([], [], false).OnOrAfter(DateOnly.MaxValue));
    }

    [Theory]
    [InlineData(-1, 1, false)]
    [InlineData(1001, 1, false)]
    [InlineData(20, 61, false)]
    [InlineData(20, 60, true)]
    public void A_timing_says_what_is_wrong_with_it(int after, int ready, bool fine) =>
        Assert.Equal(fine, new StepTiming(After: after, ReadyDays: ready).Objection is null);

    [Fact]
    public void A_condition_asks_about_earlier_steps_and_the_list_comes_first()
    {
        Column[] list = [new(1, "Level", ColumnType.Text, Role.None), new(2, "Responded", ColumnType.Text, Role.None)];
        var fields = new StepFields(list, ["First notice"]);
        Assert.Equal(
            [
                "Mailed First notice",
                "Days since First notice",
                "Returned First notice",
                "Responded in campaign",
                "Responded on",
                "Amount received",
            ],
            fields.Own.Select(x => x.Name)
        );
        bool Passes(string condition, StepFacts facts)
        {
            var filter = Filter.Parse(condition, fields.Columns, Day("2027-03-30"), OrganizationLocale.UnitedStates, out var errors);
            Assert.Empty(errors);
            return filter!.Passes(new ArrayRow(fields.Values(["Patron", "maybe"], facts, Day("2027-03-30"))));
        }
        var mailed = new StepFacts([Day("2027-03-01")], [false], null, 0);
        const string Reminder = "Days since First notice >= 20 and Responded in campaign = no";
        Assert.True(Passes(Reminder, mailed));
        Assert.False(Passes(Reminder, mailed with { MailedOn = [Day("2027-03-15")] }));
        Assert.False(Passes(Reminder, mailed with { RespondedOn = Day("2027-03-05") }));
        Assert.False(Passes(Reminder, mailed with { MailedOn = [null] }));
        Assert.True(Passes("Amount received >= 50 and Level = \"Patron\"", mailed with { RespondedOn = Day("2027-03-05"), Amount = 64 }));
    }

    [Theory]
    [InlineData(null, DueGroup.Later)]
    [InlineData("2026-11-26", DueGroup.Overdue)]
    [InlineData("2026-11-27", DueGroup.Today)]
    [InlineData("2026-11-28", DueGroup.ThisWeek)]
    [InlineData("2026-11-29", DueGroup.Later)]
    public void Work_is_grouped_by_when_it_is_due(string? due, DueGroup group) =>
        Assert.Equal(group, WorkDue.Of(due is null ? null : Day(due), Day("2026-11-27")));

    [Fact]
    public void A_curve_only_rises_and_ends_with_the_rate()
    {
        var curve = ResponseCurve.Of(
            200,
            new Dictionary<int, long>
            {
                [-1] = 1,
                [3] = 9,
                [60] = 10,
                [61] = 5,
            },
            60
        );
        Assert.Equal((61, 0.005, 0.05, 0.1), (curve.Count, curve[0], curve[3], curve[60]));
        Assert.All(ResponseCurve.Of(0, new Dictionary<int, long> { [1] = 1 }, 5), share => Assert.Equal(0, share));
    }
}
