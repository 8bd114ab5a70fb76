using System.Globalization;

namespace DashSprout.Core.Text;

/// <summary>
/// Numbers as somebody types them in a language: <c>2,40</c> is two and forty hundredths in German. Groups are read
/// only where the language has them, in its own sizes, so that no comma or point is passed over; where it cannot be
/// told what is meant, it is no number.
/// </summary>
public static class TypedNumber
{
    /// <summary>Reads a number; null when it is none, or could be read in two ways.</summary>
    public static decimal? Read(string text, CultureInfo language)
    {
        var number = text.Trim();
        var isNegative = number is ['-' or '−', ..];
        if (number is ['-' or '−' or '+', ..])
            number = number[1..];
        var format = language.NumberFormat;
        var (whole, fraction) = Parts(number, format.NumberDecimalSeparator);
        if (IsDigits(fraction) && Whole(whole, format) is { } digits)
            return Make(digits, fraction, isNegative);
        // A point that cannot be one between groups is a decimal point wherever one types, as on a number pad.
        (whole, fraction) = Parts(number, ".");
        return fraction.Length > 0 && IsDigits(fraction) && IsDigits(whole) && whole.Length > 0
            ? Make(whole, fraction, isNegative)
            : null;
    }

    /// <summary>Reads a number as files write it: digits, with a point before the fraction.</summary>
    public static decimal? ReadPlain(string text) =>
        decimal.TryParse(
            text.Trim(),
            NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var number
        )
            ? number
            : null;

    /// <summary>A number as files write it, as the language writes it; what is no number stays as it is.</summary>
    public static string Write(string plain, CultureInfo language) =>
        ReadPlain(plain) is null
            ? plain
            : plain.Replace(".", language.NumberFormat.NumberDecimalSeparator, StringComparison.Ordinal);

    private static (string Whole, string Fraction) Parts(string number, string separator)
    {
        var at = number.IndexOf(separator, StringComparison.Ordinal);
        return at < 0 ? (number, "") : (number[..at], number[(at + separator.Length)..]);
    }

    /// <summary>
    /// The digits of a whole number, with or without groups; null when they are not set as the language sets them.
    /// </summary>
    private static string? Whole(string number, NumberFormatInfo format)
    {
        if (IsDigits(number))
            return number;
        var groups = new List<string>();
        foreach (var part in Separated(number, format.NumberGroupSeparator))
        {
            if (part.Length == 0 || !IsDigits(part))
                return null;
            groups.Add(part);
        }
        var sizes = format.NumberGroupSizes;
        for (var at = groups.Count - 1; at >= 0; at--)
        {
            var size = sizes.Length == 0 ? 0 : sizes[Math.Min(groups.Count - 1 - at, sizes.Length - 1)];
            if (
                size == 0 ? at > 0
                : at > 0 ? groups[at].Length != size
                : groups[at].Length > size
            )
                return null;
        }
        return string.Concat(groups);
    }

    /// <summary>
    /// Some languages write a space or an apostrophe that few keyboards have; people type the common one.
    /// </summary>
    private static IEnumerable<string> Separated(string number, string separator)
    {
        string[] asTyped =
            separator is " " or "\u00A0" or "\u202F" ? [" ", "\u00A0", "\u202F"]
            : separator is "’" or "'" ? ["’", "'"]
            : [separator];
        return number.Split(asTyped, StringSplitOptions.None);
    }

    private static bool IsDigits(string text) => text.AsSpan().IndexOfAnyExceptInRange('0', '9') < 0;

    private static decimal? Make(string whole, string fraction, bool isNegative) =>
        whole.Length + fraction.Length > 0
        && ReadPlain(
            $"{(isNegative ? "-" : "")}{(whole.Length == 0 ? "0" : whole)}.{(fraction.Length == 0 ? "0" : fraction)}"
        )
            is { } number
            ? number
            : null;
}
