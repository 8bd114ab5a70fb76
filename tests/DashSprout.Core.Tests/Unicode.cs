namespace DashSprout.Core.Tests;

/// <summary>The Unicode character database as Debian's package unicode-data installs it.</summary>
internal static class Unicode
{
    private const string Folder = "/usr/share/unicode";

    /// <summary>The lines of a file without comments and blank lines.</summary>
    public static IEnumerable<string> Lines(string file)
    {
        var path = Path.Combine(Folder, file);
        Assert.True(File.Exists(path), $"{path} is missing: install Debian's package unicode-data (./test does).");
        return File.ReadLines(path).Select(line => line.Split('#')[0].Trim()).Where(line => line.Length > 0);
    }

    /// <summary>One line of a break test: the text, and the UTF-16 offsets at which it breaks.</summary>
    public static (string Text, HashSet<int> Breaks) BreakTest(string line)
    {
        var text = "";
        var breaks = new HashSet<int>();
        foreach (var token in line.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            if (token == "÷")
                breaks.Add(text.Length);
            else if (token != "×")
                text += char.ConvertFromUtf32(Convert.ToInt32(token, 16));
        }
        return (text, breaks);
    }
}
