using System.Collections.Immutable;
using System.Text;
using System.Text.RegularExpressions;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>
/// Patterns in groups. Each group has one expression that is any of its patterns, so that a key on which none of them
/// matches costs one look for the group and not one for each pattern. Immutable.
/// </summary>
internal sealed class PatternSet
{
    private const int MostInGroup = 64;

    public static readonly PatternSet Empty = new([]);

    private PatternSet(ImmutableArray<PatternGroup> groups) => Groups = groups;

    public ImmutableArray<PatternGroup> Groups { get; }

    public bool IsEmpty => Groups.IsEmpty;

    public IEnumerable<ActiveTrigger> All => Groups.SelectMany(group => group.Patterns);

    public static PatternSet Of(IEnumerable<ActiveTrigger> patterns) =>
        new([.. patterns.Chunk(MostInGroup).Select(chunk => new PatternGroup([.. chunk]))]);

    public PatternSet With(IReadOnlyList<ActiveTrigger> patterns)
    {
        var last = Groups is [.., { Patterns.Length: < MostInGroup } some] ? some.Patterns : [];
        var full = last.IsEmpty ? Groups : Groups.RemoveAt(Groups.Length - 1);
        return new([
            .. full,
            .. last.Concat(patterns).Chunk(MostInGroup).Select(chunk => new PatternGroup([.. chunk])),
        ]);
    }

    public PatternSet Without(IReadOnlyCollection<ActiveTrigger> patterns)
    {
        if (patterns.Count == 0 || IsEmpty)
            return this;
        var gone = patterns.ToHashSet();
        return new([.. Groups.Select(group => group.Without(gone)).OfType<PatternGroup>()]);
    }

    /// <summary>Some patterns, and the expression that is any of them.</summary>
    internal sealed class PatternGroup(ImmutableArray<ActiveTrigger> patterns)
    {
        private readonly Lazy<Regex?> any = new(() => patterns.Length == 1 ? null : Together(patterns));

        public ImmutableArray<ActiveTrigger> Patterns => patterns;

        /// <summary>
        /// The group without some patterns: itself when it holds none of them, null when nothing is left.
        /// </summary>
        public PatternGroup? Without(HashSet<ActiveTrigger> gone)
        {
            var left = patterns.RemoveAll(gone.Contains);
            return left.Length == patterns.Length ? this
                : left.IsEmpty ? null
                : new PatternGroup(left);
        }

        /// <summary>False when none of the patterns matches at the end of what was typed.</summary>
        public bool MayMatch(ReadOnlySpan<char> typed) => any.Value?.IsMatch(typed) ?? true;

        private static Regex? Together(ImmutableArray<ActiveTrigger> patterns)
        {
            var text = new StringBuilder("(?:");
            foreach (var trigger in patterns)
            {
                if (text.Length > 3)
                    text.Append('|');
                text.Append(trigger.Rules!.Case == LetterCase.Exact ? "(?:" : "(?i:")
                    .Append(trigger.Trigger.Text)
                    .Append(')');
            }
            try
            {
                return new Regex(
                    text.Append(")\\z").ToString(),
                    RegexOptions.NonBacktracking | RegexOptions.CultureInvariant
                );
            }
            catch (Exception exception) when (exception is ArgumentException or NotSupportedException)
            {
                // Each is good by itself, but together they are more than one automaton takes: then each is asked by
                // itself.
                return null;
            }
        }
    }
}
