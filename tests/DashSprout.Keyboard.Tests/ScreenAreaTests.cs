using DashSprout.Keyboard.X11;
using Xunit;

namespace DashSprout.Keyboard.Tests;

public sealed class ScreenAreaTests
{
    [Theory]
    // In the middle of a window, a third of the way down.
    [InlineData(100, 100, 1000, 800, 210, 200)]
    // A window that reaches beyond the monitor, on each side.
    [InlineData(-400, -300, 600, 400, 0, 0)]
    [InlineData(1100, 900, 900, 900, 1140, 580)]
    // A window that is smaller than what stands over it.
    [InlineData(500, 300, 100, 100, 160, 167)]
    public void WhatStandsOverAWindowStaysOnItsMonitor(int x, int y, int width, int height, int atX, int atY)
    {
        var monitor = new ScreenArea(0, 0, 1920, 1080);
        var over = monitor.Over(new ScreenArea(x, y, width, height), 780, 500);
        Assert.Equal(new ScreenArea(atX, atY, 780, 500), over);
        Assert.True(monitor.Holds(over));
    }

    [Fact]
    public void ItIsNoLargerThanTheMonitor()
    {
        var monitor = new ScreenArea(640, 0, 640, 480);
        Assert.Equal(monitor, monitor.Over(new ScreenArea(700, 100, 300, 200), 780, 500));
    }
}
