using System.Text;

namespace DashSprout.Core.Bodies;

/// <summary>What a snippet puts in, as its owner wrote it.</summary>
public abstract record Body
{
    /// <summary>The largest body, in bytes of UTF-8.</summary>
    public const int MaxBytes = 1024 * 1024;

    private Body() { }

    /// <summary>The source as kept in files.</summary>
    public abstract string Source { get; }

    /// <summary>A text without formatting; line ends are lines.</summary>
    public sealed record Plain : Body
    {
        /// <summary>Makes a plain body; line ends become <c>\n</c>.</summary>
        public Plain(string text) => Text = CheckSize("text", text.ReplaceLineEndings("\n"));

        /// <summary>The text.</summary>
        public string Text { get; }

        /// <inheritdoc/>
        public override string Source => Text;
    }

    /// <summary>An HTML fragment.</summary>
    public sealed record Html : Body
    {
        /// <summary>Makes a formatted body.</summary>
        public Html(string source) => Markup = CheckSize("body", source);

        /// <summary>The fragment.</summary>
        public string Markup { get; }

        /// <inheritdoc/>
        public override string Source => Markup;
    }

    private static string CheckSize(string field, string source)
    {
        var bytes = Encoding.UTF8.GetByteCount(source);
        return bytes <= MaxBytes
            ? source
            : throw new InvalidInputException(field,
                $"The body has {bytes / 1024} KiB; 1024 KiB are allowed. Shorten it or split it into several snippets.");
    }
}
