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

    [Fact]
    public void InATerminal()
    {
        using var desk = new LinkedDesktop(Marathon.Snippets);
        AllRight(Marathon.InTerminal(desk, Expansions));
    }

    [Fact]
    public void InAnEditorOfGtk()
    {
        using var desk = new LinkedDesktop(Marathon.Snippets);
        AllRight(Marathon.InEditor(desk, desk.Desktop.GtkEditor(), Expansions));
    }

    [Fact]
    public void InAnEditorOfQt()
    {
        using var desk = new LinkedDesktop(Marathon.Snippets);
        AllRight(Marathon.InEditor(desk, desk.Desktop.QtEditor(), Expansions));
    }

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void InAPageOfABrowser(bool isRich)
    {
        using var desk = new LinkedDesktop(Marathon.Snippets);
        AllRight(Marathon.InPage(desk, new BrowserField(desk.Desktop, isRich), Expansions));
    }

    private static void AllRight((int Done, IReadOnlyList<string> Wrong) run)
    {
        Assert.Empty(run.Wrong);
        Assert.Equal(Expansions, run.Done);
    }
}
