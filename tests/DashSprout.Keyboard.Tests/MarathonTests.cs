using DashSprout.Keyboard.Tests.Desktop;
using Xunit;

namespace DashSprout.Keyboard.Tests;

/// <summary>
/// Nothing is lost, doubled or reordered while somebody types on, 20 ms a key with rollover; <c>bench/</c> runs more of
/// it.
/// </summary>
public sealed class MarathonTests
{
    private const int Expansions = 12;

    public static MatrixTheoryData<string, bool> Places =>
        new(MarathonPlaces.All.Where(place => !place.LosesKeysWhenBusy).Select(place => place.Name), [false, true]);

    [Theory]
    [MemberData(nameof(Places))]
    public void NothingIsLost(string name, bool isPasted)
    {
        var place = MarathonPlaces.All.Single(one => one.Name == name);

        using var desk = new LinkedDesktop(isPasted ? Marathon.PastedSnippets : Marathon.Snippets);
        Marathon.Pace(desk);
        var (done, wrong) = place.Run(desk, Expansions);
        Assert.Empty(wrong);
        Assert.Equal(Expansions, done);
    }
}
