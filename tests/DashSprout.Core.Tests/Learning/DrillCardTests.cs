using CsCheck;
using DashSprout.Core.Learning;

namespace DashSprout.Core.Tests.Learning;

/// <summary>Leitner's boxes: what is known comes later each time, what is not comes again at once.</summary>
public sealed class DrillCardTests
{
    private static readonly DateOnly Today = new(2026, 3, 2);

    [Fact]
    public void What_is_known_moves_on_and_what_is_not_goes_back()
    {
        var card = DrillCard.New(1, ";kr");
        Assert.True(card.IsNew && card.IsDue(Today));
        var days = new List<int>();
        for (var round = 0; round < 7; round++)
        {
            card = card.Answered(true, Today);
            days.Add(card.Due.DayNumber - Today.DayNumber);
        }
        Assert.Equal([1, 3, 7, 14, 30, 30, 30], days);
        card = card.Answered(false, Today);
        Assert.Equal((0, Today, 7, 1), (card.Box, card.Due, card.Right, card.Wrong));
        Assert.Equal(1 / 8.0, card.Forgotten);
    }

    [Fact]
    public void A_clock_far_ahead_once_keeps_nothing_away_for_good()
    {
        var card = DrillCard.New(1, ";kr").Answered(true, Today.AddYears(30));
        Assert.True(card.IsDue(Today));
    }

    [Fact]
    public void The_most_forgotten_are_asked_first_and_few_new_ones()
    {
        DrillCard[] cards =
        [
            new(1, ";a", 1, Today, 9, 1),
            new(2, ";b", 0, Today, 1, 9),
            new(3, ";c", 4, Today.AddDays(5), 9, 0),
            DrillCard.New(4, ";d"),
            DrillCard.New(5, ";e"),
            DrillCard.New(6, ";f"),
        ];
        var chosen = DrillCard.Chosen(cards, Today, id => id == 4 ? 100 : 0, most: 10, mostNew: 2);
        Assert.Equal([";b", ";a", ";e", ";f"], chosen.Select(card => card.Trigger));
        Assert.Equal([";b"], DrillCard.Chosen(cards, Today, _ => 0, most: 1, mostNew: 2).Select(card => card.Trigger));
    }

    /// <summary>Whatever is answered, a card is asked again within the time of its box.</summary>
    [Fact]
    public void Nothing_is_lost_sight_of() =>
        Gen
            .Bool.Array[0, 40]
            .Sample(answers =>
            {
                var card = DrillCard.New(1, ";kr");
                var day = Today;
                foreach (var right in answers)
                {
                    Assert.True(card.IsDue(day));
                    card = card.Answered(right, day);
                    Assert.InRange(card.Due.DayNumber - day.DayNumber, 0, DrillCard.Days[^1]);
                    day = card.Due;
                }
                Assert.Equal(answers.Length, card.Right + card.Wrong);
            });
}
