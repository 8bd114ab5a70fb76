using System.Diagnostics;
using DashSprout.Keyboard.Native;
using static DashSprout.Keyboard.Native.Xlib;

namespace DashSprout.Keyboard;

/// <summary>One thing that was checked.</summary>
/// <param name="What">What, in a few words.</param>
/// <param name="Words">How it went, and what to do when it is not good.</param>
public sealed record LinkCheckLine(string What, bool IsGood, string Words);

/// <summary>How a check went.</summary>
/// <param name="MedianMs">From a key to the window that got it, in the middle; null when none arrived.</param>
public sealed record LinkCheckAnswer(bool IsGood, double? MedianMs, IReadOnlyList<LinkCheckLine> Lines)
{
    /// <summary>There is nothing to check.</summary>
    public static LinkCheckAnswer NotLinked(string? problem) =>
        new(
            false,
            null,
            [
                new LinkCheckLine(
                    "Link",
                    false,
                    problem ?? "The keyboard link is switched off. Switch it on, then check again."
                ),
            ]
        );
}

/// <summary>Types into a window of its own and looks at what arrives.</summary>
internal static unsafe class LinkCheck
{
    private const string Sample = "dash sprout 0123 ;,.";
    private const int KeyMs = 150,
        MostLost = 3;

    /// <summary>Types the sample; the keyboards must be held and blank.</summary>
    /// <param name="extra">Characters that the layout lacks and snippets use.</param>
    public static (double? MedianMs, IReadOnlyList<LinkCheckLine> Lines) Typing(
        string? display,
        DesktopWindows windows,
        Injection injection,
        Layout layout,
        IReadOnlyList<int> extra,
        Action waiting
    )
    {
        using var own = XConnection.Open(display);
        var attributes = new XSetWindowAttributes { OverrideRedirect = 1 };
        var window = XCreateWindow(
            own.Display,
            own.Root,
            0,
            0,
            1,
            1,
            0,
            0,
            0,
            0,
            XSetWindowAttributes.WithOverrideRedirect,
            &attributes
        );
        _ = XSelectInput(own.Display, window, KeyPressMask);
        var before = windows.Focused();
        _ = XMapRaised(own.Display, window);
        own.Sync();
        _ = XSetInputFocus(own.Display, window, RevertToParent, 0);
        own.Sync();
        var reachable = extra
            .Where(point => layout.StrokeFor(injection.Group, point) is not null)
            .Take(5)
            .Select(char.ConvertFromUtf32);
        var times = new List<double>();
        var lost = new List<string>();
        foreach (var text in Sample.Select(letter => letter.ToString()).Concat(reachable))
        {
            waiting();
            // Where nothing arrives, the rest need not be tried.
            if (lost.Count > MostLost)
                break;
            // The sample is for nobody else.
            if (windows.Focused() != window)
            {
                lost.Add("another window took the focus");
                break;
            }
            var began = Stopwatch.GetTimestamp();
            injection.Type(text, 0);
            if (Arrives(own, layout, text))
                times.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
            else
                lost.Add(text);
        }
        windows.Focus(before);
        times.Sort();
        double? median = times.Count == 0 ? null : Math.Round(times[times.Count / 2], 2);
        var lacking = extra
            .Where(point => layout.StrokeFor(injection.Group, point) is null)
            .Select(char.ConvertFromUtf32)
            .ToList();
        return (
            median,
            [
                lost.Count == 0
                    ? new LinkCheckLine(
                        "Typing",
                        true,
                        $"All {times.Count} keys arrived, each within {times[^1]:0.0} ms."
                    )
                    : new LinkCheckLine(
                        "Typing",
                        false,
                        $"{lost.Count} of {times.Count + lost.Count} keys did not arrive as they should: "
                            + $"{string.Join(' ', lost)}. Another program may hold the keyboard, or the layout has "
                            + "just changed: check again."
                    ),
                lacking.Count == 0
                    ? new LinkCheckLine("Characters", true, "Every character of your snippets can be typed.")
                    : new LinkCheckLine(
                        "Characters",
                        true,
                        "These go in through the clipboard, since neither the layout nor a spare key types "
                            + $"them: {string.Join(' ', lacking.Take(20))}."
                    ),
            ]
        );
    }

    /// <summary>Whether the window gets a key that types a text, within a while.</summary>
    private static bool Arrives(XConnection own, Layout layout, string text)
    {
        var until = Environment.TickCount64 + KeyMs;
        while (Environment.TickCount64 < until)
        {
            while (own.HasEvent())
            {
                var next = own.Next();
                if (next.Type != KeyPress)
                    continue;
                // The event's state has the modifiers in its low byte and the group in bits 13 and 14.
                var state = next.At<uint>(80);
                var key = layout.KeyOf(
                    (byte)next.At<uint>(84),
                    new LayoutState(state & 0xff, 0, 0, 0, 0, (state >> 13) & 3),
                    new HashSet<string>()
                );
                if (key?.Value == text)
                    return true;
            }
            var entry = new PollEntry { File = own.Socket, Events = Posix.PollIn };
            _ = Posix.poll(&entry, 1, 5);
        }
        return false;
    }
}
