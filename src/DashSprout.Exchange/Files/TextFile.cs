using System.Text;
using DashSprout.Core;

namespace DashSprout.Exchange.Files;

/// <summary>A file as text.</summary>
/// <param name="Encoding">How it was read: <c>utf-8</c>, <c>utf-16le</c>, <c>utf-16be</c> or
/// <c>windows-1252</c>.</param>
public sealed record DecodedText(string Text, string Encoding);

/// <summary>
/// Reads files as text. The encoding is told by a byte-order mark, else by whether the bytes are UTF-8 (WHATWG Encoding
/// calls the rest <c>windows-1252</c>).
/// </summary>
public static class TextFile
{
    /// <summary>The largest file of rows, in bytes.</summary>
    public const int MaxBytes = 32 * 1024 * 1024;

    private static readonly UTF8Encoding Utf8 = new(false, throwOnInvalidBytes: true);

    private static readonly Dictionary<string, Func<Encoding>> Known = new()
    {
        ["utf-8"] = () => Utf8,
        ["utf-16le"] = () => new UnicodeEncoding(bigEndian: false, byteOrderMark: false, throwOnInvalidBytes: true),
        ["utf-16be"] = () => new UnicodeEncoding(bigEndian: true, byteOrderMark: false, throwOnInvalidBytes: true),
        ["windows-1252"] = () => CodePagesEncodingProvider.Instance.GetEncoding(1252)!,
    };

    /// <summary>The encodings that can be chosen.</summary>
    public static IReadOnlyList<string> Encodings => [.. Known.Keys];

    /// <summary>
    /// The text of a file; throws <see cref="InvalidInputException"/> for one that is none, is too large, or mixes
    /// encodings.
    /// </summary>
    /// <param name="encoding">How it is to be read; null to find out.</param>
    public static DecodedText Decode(ReadOnlySpan<byte> bytes, string? encoding = null)
    {
        if (bytes.Length > MaxBytes)
            throw new InvalidInputException(
                "file",
                $"The file has {bytes.Length / 1024 / 1024} MiB; {MaxBytes / 1024 / 1024} are read at once. Divide it."
            );
        var (marked, mark) = Mark(bytes);
        var name = encoding ?? marked ?? (IsUtf8(bytes) ? "utf-8" : Other(bytes));
        if (!Known.TryGetValue(name, out var known))
            throw new InvalidInputException(
                "encoding",
                $"“{name}” is not known here. Use one of: {string.Join(", ", Known.Keys)}."
            );
        if (name == marked)
            bytes = bytes[mark..];
        try
        {
            var text = known().GetString(bytes);
            return text.Contains('\0', StringComparison.Ordinal)
                ? throw new InvalidInputException("file", "This is no text file: it holds zero bytes.")
                : new(WithOwnLineEnds(text), name);
        }
        catch (DecoderFallbackException)
        {
            throw new InvalidInputException("encoding", $"The file cannot be read as {name}. Choose another encoding.");
        }
    }

    /// <summary>
    /// A text whose lines end as they do here. Only what ends lines in files is changed: other signs that some readers
    /// take for a line's end are signs of the text, and so is a lone carriage return among lines that end otherwise.
    /// </summary>
    public static string WithOwnLineEnds(string text)
    {
        text = text.Replace("\r\n", "\n", StringComparison.Ordinal);
        return text.Contains('\n', StringComparison.Ordinal) ? text : text.Replace('\r', '\n');
    }

    private static (string? Name, int Length) Mark(ReadOnlySpan<byte> bytes) =>
        bytes switch
        {
            [0xEF, 0xBB, 0xBF, ..] => ("utf-8", 3),
            [0xFF, 0xFE, ..] => ("utf-16le", 2),
            [0xFE, 0xFF, ..] => ("utf-16be", 2),
            _ => (null, 0),
        };

    private static bool IsUtf8(ReadOnlySpan<byte> bytes)
    {
        try
        {
            Utf8.GetCharCount(bytes);
            return true;
        }
        catch (DecoderFallbackException)
        {
            return false;
        }
    }

    /// <summary>
    /// What is not UTF-8 is taken for Windows-1252, unless some lines are the one and some the other.
    /// </summary>
    private static string Other(ReadOnlySpan<byte> bytes)
    {
        var (line, wrong, right) = (0, 0, 0);
        foreach (var range in bytes.Split((byte)'\n'))
        {
            line++;
            var one = bytes[range];
            if (System.Text.Ascii.IsValid(one))
                continue;
            if (IsUtf8(one))
                right = line;
            else if (wrong == 0)
                wrong = line;
        }
        return right == 0
            ? "windows-1252"
            : throw new InvalidInputException(
                "encoding",
                $"The file mixes encodings: line {right} is UTF-8 and line {wrong} is not. Save it as UTF-8, "
                    + "or choose the encoding it is to be read with."
            );
    }
}
