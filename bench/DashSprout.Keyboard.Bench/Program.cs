// The keyboard link's figures, on a display of its own with a simulated hardware keyboard:
//   dotnet run --project bench/DashSprout.Keyboard.Bench -c Release [-- EXPANSIONS [ROUNDS]]
// or only what the link weighs, beside the same program without it:
//   dotnet run --project bench/DashSprout.Keyboard.Bench -c Release -- weight
using System.Diagnostics;
using System.Globalization;
using DashSprout.Keyboard.Tests.Desktop;

CultureInfo.CurrentCulture = CultureInfo.InvariantCulture;
if (args is ["weight"])
{
    Weigh();
    return;
}

// Only expansions, at other paces than 20 ms a key, and in the places whose names are given:
//   … -- expansions 1000 20,60,140 "GTK 4"
var onlyExpansions = args is ["expansions", ..];
if (onlyExpansions)
    args = args[1..];
int[] paces = onlyExpansions && args.Length > 1 ? [.. args[1].Split(',').Select(int.Parse)] : [20];
var expansions = args.Length > 0 ? int.Parse(args[0], CultureInfo.InvariantCulture) : 10_000;
var rounds = !onlyExpansions && args.Length > 1 ? int.Parse(args[1], CultureInfo.InvariantCulture) : 200;
var chords = Math.Min(1000, expansions);

Console.WriteLine("| what | done | wrong |");
Console.WriteLine("| --- | ---: | ---: |");
var places = MarathonPlaces.All.Where(place => !onlyExpansions || args.Length < 3 || args.Skip(2).Contains(place.Name));
foreach (var place in places)
{
    if (!place.IsThere)
    {
        Console.WriteLine($"| expansions in {place.Name} | {place.Program} is not installed | |");
        continue;
    }
    foreach (
        var (everyMs, isPasted) in paces.SelectMany(pace => (IEnumerable<(int, bool)>)[(pace, false), (pace, true)])
    )
    {
        using var desk = new LinkedDesktop(isPasted ? Marathon.PastedSnippets : Marathon.Snippets);
        Marathon.Pace(desk, everyMs);
        var (done, wrong) = place.Run(desk, expansions / MarathonPlaces.All.Count);
        Console.WriteLine(
            $"| expansions in {place.Name}, {(isPasted ? "pasted" : "typed")}, {everyMs} ms a key with rollover | {done} | {wrong.Count} |"
        );
        foreach (var one in wrong)
            Console.Error.WriteLine(one);
    }
}
if (onlyExpansions)
    return;

Console.WriteLine();
Console.WriteLine("| from the last key to the text shown | rounds | median | 95th percentile |");
Console.WriteLine("| --- | ---: | ---: | ---: |");
var long500 = string.Concat(Enumerable.Repeat("fifty letters of a text that is pasted at once. ", 11))[..499] + ".";
var snippets =
    Marathon.Snippets
    + $$""", { "name": "Long", "text": "{{long500}}", "triggers": [ { "kind": "abbreviation", "text": ";lo", "timing": "at-once" } ] }""";
using (var desk = new LinkedDesktop(snippets))
{
    using var terminal = new ByteTerminal(desk.Desktop);
    desk.Keyboard.EveryMs = 8;
    Print("20 characters, typed", rounds, () => desk.Keyboard.Type(" ;bc"), "ready.", desk, terminal);
    Print("500 characters, pasted", rounds, () => desk.Keyboard.Type(" ;lo"), long500[^20..], desk, terminal);
    Print(
        "a hotkey with 20 characters",
        chords,
        () => desk.Keyboard.Chord("Control_L", "Alt_L", "h"),
        "Gull.",
        desk,
        terminal
    );
}

using (var desktop = new VirtualDesktop())
{
    var editor = desktop.GtkEditor();
    using var program = new LinkedProgram(desktop);
    program.AwaitCompanion();
    foreach (
        var (name, open) in new (string, Action)[]
        {
            ("the finder shown with the focus", () => desktop.Keyboard.Chord("Control_L", "Alt_L", "space")),
            ("a slip shown with the focus", () => desktop.Keyboard.Type(" ;bcf")),
        }
    )
    {
        var times = new List<double>();
        for (var round = 0; round < rounds; round++)
        {
            open();
            var pressed = desktop.Keyboard.LastPress;
            Wait.Until("the window", () => desktop.Windows.Active().App == "DashSproutCompanion");
            times.Add(Stopwatch.GetElapsedTime(pressed).TotalMilliseconds);
            Thread.Sleep(120);
            desktop.Keyboard.Tap("Escape");
            Wait.Until("the editor", () => desktop.Windows.ActiveId() == editor.Window.Id);
            Thread.Sleep(120);
        }
        Report(name, times);
    }
}

Weigh();

// Memory and processor time of the program while somebody types a key every 150 ms, with the link and without it, one
// after the other.
static void Weigh()
{
    const int seconds = 30;
    Console.WriteLine();
    Console.WriteLine("| while a person types, 30 s | memory | processor |");
    Console.WriteLine("| --- | ---: | ---: |");
    foreach (var linked in (bool[])[false, true, false, true])
    {
        using var desktop = new VirtualDesktop();
        var editor = desktop.GtkEditor();
        using var program = new LinkedProgram(desktop, linked);
        if (linked)
            program.AwaitCompanion();
        desktop.Keyboard.EveryMs = 150;
        desktop.Keyboard.HoldMs = 80;
        // What is compiled once is no part of it.
        Type(desktop, seconds);
        using var process = Process.GetProcessById(program.Pid);
        var before = process.TotalProcessorTime;
        Type(desktop, seconds);
        process.Refresh();
        Console.WriteLine(
            $"| {(linked ? "with the link" : "without it")} | {process.WorkingSet64 / 1024 / 1024} MiB | "
                + $"{(process.TotalProcessorTime - before).TotalSeconds / seconds:0.0 %} |"
        );
    }

    static void Type(VirtualDesktop desktop, int seconds)
    {
        var until = Environment.TickCount64 + seconds * 1000;
        while (Environment.TickCount64 < until)
            desktop.Keyboard.Type("the berth is free teh ");
    }
}

static void Print(string name, int rounds, Action type, string end, LinkedDesktop desk, ByteTerminal terminal)
{
    var times = new List<double>();
    for (var round = 0; round < rounds + 5; round++)
    {
        type();
        var pressed = desk.Keyboard.LastPress;
        terminal.Await(end);
        // The first ones warm the application up.
        if (round >= 5)
            times.Add((terminal.LastAt - pressed) * 1000.0 / Stopwatch.Frequency);
        Thread.Sleep(30);
    }
    Report(name, times);
}

static void Report(string name, List<double> times)
{
    times.Sort();
    Console.WriteLine(
        $"| {name} | {times.Count} | {times[times.Count / 2]:0.0} ms | {times[(int)(times.Count * 0.95)]:0.0} ms |"
    );
}
