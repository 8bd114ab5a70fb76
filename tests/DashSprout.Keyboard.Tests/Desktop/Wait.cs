using System.Diagnostics;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>Waits for what other programs do.</summary>
internal static class Wait
{
    public static void Until(string what, Func<bool> done)
    {
        for (var clock = Stopwatch.StartNew(); !done(); Thread.Sleep(5))
            if (clock.Elapsed > Patience.Longest)
                throw new TimeoutException($"Waited {Patience.Longest} for {what}.");
    }

    /// <summary>Waits until a program, and what it has started, does nothing any more.</summary>
    public static void AtRest(Process process)
    {
        const int looks = 10;
        var (used, same) = ("", 0);
        Until("a program to be at rest", () =>
        {
            var now = string.Join(' ', Tree(process.Id).SelectMany(Threads));
            same = now == used && !now.Contains('R', StringComparison.Ordinal) ? same + 1 : 0;
            used = now;
            Thread.Sleep(40);
            return same >= looks;
        });
    }

    /// <summary>A process and all that it has started.</summary>
    private static IEnumerable<int> Tree(int process)
    {
        var parents = Directory
            .EnumerateDirectories("/proc")
            .Where(folder => char.IsAsciiDigit(folder[^1]))
            .Select(folder => (Id: Number(Path.GetFileName(folder)), Fields: Stat(folder)))
            .Where(one => one.Fields.Length > 0)
            .ToLookup(one => Number(one.Fields[1]), one => one.Id);
        int Number(string digits) => int.Parse(digits, System.Globalization.CultureInfo.InvariantCulture);
        IEnumerable<int> From(int id) => parents[id].SelectMany(From).Prepend(id);
        return From(process);
    }

    /// <summary>Of each thread, whether it runs (R) or waits, and the time it has had of a processor.</summary>
    private static IEnumerable<string> Threads(int process)
    {
        const int state = 0,
            user = 11,
            system = 12;
        var tasks = $"/proc/{process}/task";
        return Directory.Exists(tasks)
            ? Directory
                .GetDirectories(tasks)
                .Select(Stat)
                .Where(fields => fields.Length > 0)
                .Select(fields => $"{fields[state]}{fields[user]}+{fields[system]}")
            : [];
    }

    /// <summary>What the kernel tells of a process or thread behind its name; nothing once it has ended.</summary>
    private static string[] Stat(string folder)
    {
        try
        {
            var stat = File.ReadAllText(Path.Combine(folder, "stat"));
            return stat[(stat.LastIndexOf(')') + 2)..].Split(' ');
        }
        catch (IOException)
        {
            return [];
        }
    }

    /// <summary>Whether a program has a file open.</summary>
    public static bool IsOpen(string file)
    {
        foreach (var process in Directory.EnumerateDirectories("/proc"))
        {
            if (!char.IsAsciiDigit(process[^1]))
                continue;
            try
            {
                if (
                    Directory
                        .EnumerateFileSystemEntries(Path.Combine(process, "fd"))
                        .Any(open => new FileInfo(open).LinkTarget == file)
                )
                    return true;
            }
            catch (Exception gone) when (gone is IOException or UnauthorizedAccessException)
            {
                // It has just ended, or is another user's.
            }
        }
        return false;
    }
}
