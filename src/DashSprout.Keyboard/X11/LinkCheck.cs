using System.Diagnostics;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Native;
using DashSprout.Keyboard.X11.Native;
using static DashSprout.Keyboard.X11.Native.Xlib;

namespace DashSprout.Keyboard.X11;

/// <summary>Types into a window of its own and looks at what arrives.</summary>
internal sealed unsafe class LinkCheck(
    string? display,
    DesktopWindows windows,
    Injection injection,
    KeyReader reader,
    Action waiting
)
{
    private const string Sample = "dash sprout 0123 ;,.";
    private const int KeyMs = 150,
        MostLost = 3;

    /// <summary>Checks what the link needs; the keyboards must be held and blank.</summary>
    /// <param name="extra">Characters that the layout lacks and snippets use.</param>
    /// <param name="keyboards">How many keyboards are heard.</param>
    /// <param name="isWatched">Whether keys are given back by somebody outside.</param>
    /// <param name="tells">Whether the application in front tells of its fields.</param>
    public LinkCheckAnswer Run(
        IReadOnlyList<int> extra,
        int keyboards,
        bool isWatched,
        CompanionWindow? companion,
        bool tells
    )
    {
        var (median, typing) = Typing(extra);
        List<LinkCheckLine> lines =
        [
            .. typing,
            keyboards > 0
                ? new("Keyboards", true, $"{keyboards} heard, layout {string.Join(", ", reader.Layout.Names)}.")
                : new(
                    "Keyboards",
                    false,
                    "The display has no keyboard of its own, so keys cannot be held back while text goes in."
                ),
            isWatched
                ? new("Watch", true, "Keys are given back even if the program is stopped from outside.")
                : new(
                    "Watch",
                    false,
                    "A program that is stopped from outside could keep Enter and Tab. Install xkill (package "
                        + "x11-utils) and start Dash Sprout again."
                ),
            Slips(companion),
            tells
                ? new("Fields", true, "This application tells of its fields: pass-phrase fields are left alone.")
                : new(
                    "Fields",
                    true,
                    "This application tells nothing of its fields: pass-phrase fields are not recognised "
                        + "there, and after a click what is typed begins anew."
                ),
        ];
        return new LinkCheckAnswer(lines.TrueForAll(line => line.IsGood), median, lines);
    }

    private static LinkCheckLine Slips(CompanionWindow? companion) =>
        companion switch
        {
            null or { HasWindow: false } => new(
                "Window for slips",
                false,
                "No Chromium-family browser was found, so slips and the finder open in your usual "
                    + "browser and not over the application. Install one, such as the package chromium."
            ),
            { IsReady: true } => new("Window for slips", true, "It is ready."),
            _ => new("Window for slips", false, "It has not come up yet. Wait a moment, then check again."),
        };

    /// <summary>Types the sample into a window of its own.</summary>
    private (double? MedianMs, IReadOnlyList<LinkCheckLine> Lines) Typing(IReadOnlyList<int> extra)
    {
        var layout = reader.Layout;
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
