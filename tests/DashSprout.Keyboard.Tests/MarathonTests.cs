using DashSprout.Keyboard.Tests.Desktop;
using Xunit;

namespace DashSprout.Keyboard.Tests;

/// <summary>
/// Nothing is lost, doubled or reordered while somebody types on, 20 ms a key with rollover; <c>bench/</c> runs more of
/// it.
/// </summary>
public sealed class MarathonTests
{
    private const int Expansions = 40;

    public static TheoryData<string> Places => [.. MarathonPlaces.All.Select(place => place.Name)];

    [Theory]
    [MemberData(nameof(Places))]
    public void NothingIsLost(string name)
    {
        var place = MarathonPlaces.All.Single(one => one.Name == name);

        using var desk = new LinkedDesktop(Marathon.Snippets);
        Marathon.Pace(desk);
        var (done, wrong) = place.Run(desk, Expansions);
        Assert.Empty(wrong);
        Assert.Equal(Expansions, done);
    }
}
