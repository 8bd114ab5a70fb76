namespace DashSprout.Keyboard.X11;

/// <summary>
/// Something that can be on the clipboard: for each target its type's name, its format and its bytes.
/// </summary>
internal sealed record ClipboardContent(IReadOnlyDictionary<string, ClipboardPart> Parts)
{
    /// <summary>Targets that say something of the clipboard and are no content.</summary>
    public static readonly HashSet<string> NoContent =
    [
        "TARGETS",
        "MULTIPLE",
        "TIMESTAMP",
        "SAVE_TARGETS",
        "DELETE",
        "INSERT_SELECTION",
        "INSERT_PROPERTY",
    ];

    private static readonly string[] PlainTargets =
    [
        "UTF8_STRING",
        "text/plain;charset=utf-8",
        "text/plain",
        "STRING",
        "TEXT",
    ];

    /// <summary>A text, with its formatting as HTML where it has some.</summary>
    public static ClipboardContent Of(string plain, string? html)
    {
        var parts = PlainTargets.ToDictionary(
            target => target,
            target => new ClipboardPart("UTF8_STRING", 8, System.Text.Encoding.UTF8.GetBytes(plain))
        );
        // STRING is Latin-1 by ICCCM; what it cannot hold is asked for by a better target.
        parts["STRING"] = new ClipboardPart("STRING", 8, System.Text.Encoding.Latin1.GetBytes(plain));
        // Programs that keep a history of the clipboard leave a text alone that says it is in passing.
        parts["x-kde-passwordManagerHint"] = new ClipboardPart("x-kde-passwordManagerHint", 8, "secret"u8.ToArray());
        if (html is not null)
            parts["text/html"] = new ClipboardPart(
                "text/html",
                8,
                System.Text.Encoding.UTF8.GetBytes(
                    "<meta http-equiv=\"content-type\" content=\"text/html; charset=utf-8\">" + html
                )
            );
        return new ClipboardContent(parts);
    }

    /// <summary>The plain text; null when there is none.</summary>
    public string? Text =>
        PlainTargets
            .Where(Parts.ContainsKey)
            .Select(target =>
                Parts[target] is { Type: "STRING" } latin
                    ? System.Text.Encoding.Latin1.GetString(latin.Bytes)
                    : System.Text.Encoding.UTF8.GetString(Parts[target].Bytes)
            )
            .FirstOrDefault();
}

/// <summary>One target's content.</summary>
/// <param name="Format">8, 16 or 32 bits; words of 32 bits are C longs.</param>
internal sealed record ClipboardPart(string Type, int Format, byte[] Bytes);
