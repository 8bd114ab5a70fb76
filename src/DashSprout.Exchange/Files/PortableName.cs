using System.Globalization;
using System.Text;

namespace DashSprout.Exchange.Files;

/// <summary>
/// Names of files that every system can hold, since folders travel: without the signs, the endings and the reserved
/// words that Windows refuses (Microsoft, “Naming Files, Paths, and Namespaces”), without signs that do not show or
/// turn the direction of what follows (Unicode's category Cf), and short enough for 255 bytes with an ending.
/// </summary>
public static class PortableName
{
    private const string Refused = "\\/:*?\"<>|";

    /// <summary>How many bytes of UTF-8 a name has at most; the rest is for numbers and endings.</summary>
    private const int MaxBytes = 160;

    private static readonly string[] Reserved = ["CON", "PRN", "AUX", "NUL", "CONIN$", "CONOUT$"];

    /// <summary>The name of a file, without its ending, for something of a name.</summary>
    /// <param name="otherwise">What it is called when nothing of the name is left.</param>
    public static string Of(string wanted, string otherwise)
    {
        var name = new StringBuilder();
        var bytes = 0;
        foreach (var rune in wanted.Normalize().EnumerateRunes())
        {
            if (Rune.GetUnicodeCategory(rune) is UnicodeCategory.Format or UnicodeCategory.Control)
                continue;
            if ((bytes += rune.Utf8SequenceLength) > MaxBytes)
                break;
            name.Append(
                rune.IsBmp && Refused.Contains((char)rune.Value, StringComparison.Ordinal) ? "-" : rune.ToString()
            );
        }
        // A file that begins with a dot is hidden, and Windows takes dots and blanks at the end away.
        var trimmed = name.ToString().Trim().Trim('.', ' ');
        if (trimmed.Length == 0)
            return otherwise;
        return IsReserved(trimmed) ? $"{trimmed[..StemLength(trimmed)]}_{trimmed[StemLength(trimmed)..]}" : trimmed;
    }

    /// <summary>Whether a device of Windows is called so, with whatever ending.</summary>
    private static bool IsReserved(string name)
    {
        var stem = name[..StemLength(name)].TrimEnd();
        return Reserved.Contains(stem, StringComparer.OrdinalIgnoreCase)
            || stem.Length == 4
                && (
                    stem.StartsWith("COM", StringComparison.OrdinalIgnoreCase)
                    || stem.StartsWith("LPT", StringComparison.OrdinalIgnoreCase)
                )
                && "0123456789¹²³".Contains(stem[3], StringComparison.Ordinal);
    }

    private static int StemLength(string name) =>
        name.IndexOf('.', StringComparison.Ordinal) is >= 0 and var dot ? dot : name.Length;
}
