using DashSprout.Core.Finding;

namespace DashSprout.Core.Tests.Finding;

/// <summary>Each use counts half as much after a week; against the sum over all uses, worked out one by one.</summary>
public sealed class FadingUseTests
{
    private static readonly DateTimeOffset Start = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);

    [Fact]
    public void One_number_is_the_sum_over_all_uses()
    {
        int[] hours = [0, 1, 5, 24, 24, 100, 400, 1000, 1001];
        var use = hours.Aggregate(new FadingUse(0, Start), (before, hour) => before.Used(Start.AddHours(hour)));
        var now = Start.AddHours(1200);
        var sum = hours.Sum(hour => Math.Pow(0.5, (1200 - hour) / (7 * 24.0)));
        Assert.Equal(sum, use.At(now), 9);
    }

    [Fact]
    public void A_week_halves_it_and_a_clock_gone_back_changes_nothing()
    {
        var use = new FadingUse(8, Start);
        Assert.Equal([8, 4, 2], new[] { 0, 7, 14 }.Select(days => use.At(Start.AddDays(days))));
        Assert.Equal(8, use.At(Start.AddYears(-1)));
        Assert.Equal((9, Start), (use.Used(Start.AddYears(-1)).Weight, use.Used(Start.AddYears(-1)).LastAt));
    }

    [Fact]
    public void Uses_of_two_triggers_add_up()
    {
        var both = new FadingUse(4, Start) + new FadingUse(1, Start.AddDays(7));
        Assert.Equal(new FadingUse(3, Start.AddDays(7)), both);
    }
}
