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

    /// <summary>The body as a tree.</summary>
    public abstract BodyTree Tree { get; }

    /// <summary>A text without formatting; line ends are lines.</summary>
    public sealed record Plain : Body
    {
        /// <summary>Makes a plain body; line ends become <c>\n</c>.</summary>
        public Plain(string text) => Text = CheckSize("text", text.ReplaceLineEndings("\n"));

        /// <summary>The text.</summary>
        public string Text { get; }

        /// <inheritdoc/>
        public override string Source => Text;

        /// <inheritdoc/>
        public override BodyTree Tree => BodyTree.OfText(Text);
    }

    /// <summary>An HTML fragment.</summary>
    public sealed record Html : Body
    {
        /// <summary>
        /// Trees are much larger than their markup: one that is not in use is let go and made again when it is wanted.
        /// </summary>
        private WeakReference<BodyTree>? tree;

        /// <summary>
        /// A fragment that was checked before, as a store keeps it; it is parsed when it is first used.
        /// </summary>
        public Html(string markup) => Markup = CheckSize("body", markup);

        /// <summary>The fragment.</summary>
        public string Markup { get; }

        /// <inheritdoc/>
        public override string Source => Markup;

        /// <inheritdoc/>
        public override BodyTree Tree
        {
            get
            {
                if (tree is not null && tree.TryGetTarget(out var kept))
                    return kept;
                var made = BodyParser.ParseKept(Markup);
                tree = new(made);
                return made;
            }
        }

        /// <summary>Checks a fragment and writes it again from its tree, without what the tree does not know.</summary>
        public static Html Parse(string source)
        {
            var markup = BodyWriter.Write(BodyParser.Parse(CheckSize("body", source)).Tree);
            // What is kept must be read again, and saved again.
            return MarkupScan.Problem(markup) is { } problem
                ? throw new InvalidInputException("body", problem)
                : new(markup);
        }

        /// <inheritdoc/>
        public bool Equals(Html? other) => other is not null && Markup == other.Markup;

        /// <inheritdoc/>
        public override int GetHashCode() => Markup.GetHashCode(StringComparison.Ordinal);
    }

    private static string CheckSize(string field, string source)
    {
        var bytes = Encoding.UTF8.GetByteCount(source);
        return bytes <= MaxBytes
            ? source
            : throw new InvalidInputException(
                field,
                $"The body has {bytes / 1024} KiB; 1024 KiB are allowed. Shorten it or split it into several snippets."
            );
    }
}
