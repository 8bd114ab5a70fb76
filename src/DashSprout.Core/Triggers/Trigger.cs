using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using DashSprout.Core.Text;

namespace DashSprout.Core.Triggers;

/// <summary>What sets a snippet off.</summary>
public abstract record Trigger
{
    private Trigger(string text, Scope scope)
    {
        Text = text;
        Scope = scope;
    }

    /// <summary>The trigger as its owner wrote it: the abbreviation, the pattern or the chord.</summary>
    public string Text { get; }

    /// <summary>The applications in which it works.</summary>
    public Scope Scope { get; }

    /// <summary>Its rules when it is typed; null for a hotkey and for what was chosen.</summary>
    public TypingRules? Typing =>
        this switch
        {
            Abbreviation abbreviation => abbreviation.Rules,
            Pattern pattern => pattern.Rules,
            _ => null,
        };

    /// <summary>A text that is typed: 1 to 64 characters, NFC, without white space or control characters.</summary>
    public sealed record Abbreviation : Trigger
    {
        /// <summary>The longest abbreviation, in grapheme clusters.</summary>
        public const int MaxLength = 64;

        /// <summary>The longest abbreviation, in UTF-16 units: a grapheme may have many.</summary>
        public const int MaxUnits = 256;

        /// <summary>
        /// Makes an abbreviation; throws <see cref="InvalidInputException"/> when the text cannot be one.
        /// </summary>
        public Abbreviation(string text, TypingRules rules, Scope scope)
            : base(Check(text), scope) => Rules = rules;

        private Abbreviation(TypingRules rules, string text, Scope scope)
            : base(text, scope) => Rules = rules;

        /// <summary>
        /// An abbreviation as a store kept it: it was checked when it was saved, and a limit that came later locks
        /// nobody out.
        /// </summary>
        public static Abbreviation Stored(string text, TypingRules rules, Scope scope) => new(rules, text, scope);

        /// <summary>Its rules.</summary>
        public TypingRules Rules { get; }

        private static string Check(string text)
        {
            if (string.IsNullOrWhiteSpace(text))
                throw new InvalidInputException(
                    "text",
                    "The abbreviation is empty. Type at least one character that is not white space."
                );
            if (text.Length > 4 * MaxUnits)
                throw new InvalidInputException(
                    "text",
                    $"The abbreviation has {text.Length} units; {MaxUnits} are allowed. Shorten it."
                );
            if (!Graphemes.IsWellFormed(text))
                throw new InvalidInputException(
                    "text",
                    "The abbreviation holds half of a character (a lone surrogate). Type it anew."
                );
            if (!text.IsNormalized())
                text = text.Normalize();
            var place = 0;
            foreach (var rune in text.EnumerateRunes())
            {
                place++;
                if (Rune.IsWhiteSpace(rune))
                    throw new InvalidInputException(
                        "text",
                        $"White space at place {place}: an abbreviation is one word. Leave it out or put a "
                            + "sign such as - there."
                    );
                if (Rune.IsControl(rune) || rune == Rune.ReplacementChar)
                    throw new InvalidInputException(
                        "text",
                        $"A control character (U+{rune.Value:X4}) stands at place {place}. Remove it; only "
                            + "characters that can be typed are allowed."
                    );
            }
            var length = Graphemes.Count(text);
            if (length > MaxLength)
                throw new InvalidInputException(
                    "text",
                    $"The abbreviation has {length} characters; {MaxLength} are allowed. Shorten it."
                );
            if (text.Length > MaxUnits)
                throw new InvalidInputException(
                    "text",
                    $"The abbreviation has {text.Length} units ({length} characters with many marks); "
                        + $"{MaxUnits} are allowed. Shorten it."
                );
            return text;
        }
    }

    /// <summary>A regular expression matched at the end of what was typed, on the non-backtracking engine.</summary>
    public sealed record Pattern : Trigger
    {
        /// <summary>The longest pattern, in UTF-16 units.</summary>
        public const int MaxLength = 200;

        /// <summary>How much of the typed tail a pattern sees, in UTF-16 units.</summary>
        public const int Window = 64;

        /// <summary>
        /// Makes a pattern; throws <see cref="InvalidInputException"/> with position and reason when it cannot be used.
        /// </summary>
        public Pattern(string text, TypingRules rules, Scope scope)
            : base(text, scope)
        {
            Rules = rules;
            Expression = Compile(text, rules.Case);
        }

        /// <summary>Its rules.</summary>
        public TypingRules Rules { get; }

        /// <summary>The pattern, anchored at the end of its input.</summary>
        internal Regex Expression { get; }

        /// <inheritdoc/>
        public bool Equals(Pattern? other) =>
            other is not null && Text == other.Text && Rules == other.Rules && Scope == other.Scope;

        /// <inheritdoc/>
        public override int GetHashCode() => HashCode.Combine(Text, Rules, Scope);

        private static Regex Compile(string text, LetterCase letterCase)
        {
            if (text.Length == 0)
                throw new InvalidInputException("text", "The pattern is empty. Write what should be typed.");
            if (text.Length > MaxLength)
                throw new InvalidInputException(
                    "text",
                    $"The pattern has {text.Length} characters; {MaxLength} are allowed. Shorten it."
                );
            var options = RegexOptions.NonBacktracking | RegexOptions.CultureInvariant;
            if (letterCase != LetterCase.Exact)
                options |= RegexOptions.IgnoreCase;
            if (Repeats(text) > MostRepeats)
                throw new InvalidInputException(
                    "text",
                    "The pattern repeats too much: all its repetitions together may come to at most "
                        + $"{MostRepeats}, since no more than {Window} characters are looked at. Write a smaller "
                        + "number between the braces."
                );
            try
            {
                // Parsed alone first, so that positions in errors are the writer's own.
                if (new Regex(text, options).IsMatch(""))
                    throw new InvalidInputException(
                        "text",
                        "The pattern matches the empty text, so it would go off always. Make a part of it "
                            + "required, for example with + instead of *."
                    );
                return new Regex($"(?:{text})\\z", options);
            }
            catch (RegexParseException exception)
            {
                throw new InvalidInputException("text", PatternFault.Of(text, exception));
            }
            catch (NotSupportedException)
            {
                throw new InvalidInputException(
                    "text",
                    $"{UnsupportedPart(text)} Patterns must never keep you waiting, so parts that look around "
                        + "or back (look-around, back-references, atomic groups) are not available."
                );
            }
        }

        /// <summary>
        /// The most that the repetitions of a pattern come to, multiplied where they may lie in each other.
        /// </summary>
        private const int MostRepeats = 1000;

        /// <summary>The numbers between braces, multiplied: what a pattern could grow to.</summary>
        private static double Repeats(string text)
        {
            var product = 1.0;
            foreach (Match braces in Regex.Matches(text, @"\{(\d+)(,(\d*))?\}", RegexOptions.CultureInvariant))
            {
                var most = double.Parse(
                    braces.Groups[3].Value is { Length: > 0 } upper ? upper : braces.Groups[1].Value,
                    CultureInfo.InvariantCulture
                );
                if (most > 1)
                    product *= most;
            }
            return product;
        }

        private static string UnsupportedPart(string text)
        {
            foreach (
                var part in (string[])["(?=", "(?!", "(?<=", "(?<!", "(?>", "(?(", "\\1", "\\2", "\\3", "\\k", "\\G"]
            )
                if (text.IndexOf(part, StringComparison.Ordinal) is var at and >= 0)
                    return $"“{part}” at place {at + 1} cannot be used.";
            return "A part of this pattern cannot be used.";
        }
    }

    /// <summary>A chord that is pressed.</summary>
    public sealed record Hotkey : Trigger
    {
        /// <summary>Makes a hotkey; throws <see cref="InvalidInputException"/> for what is no chord.</summary>
        public Hotkey(string text, Scope scope)
            : base(Check(text, out var chord), scope) => Chord = chord;

        /// <summary>The chord.</summary>
        public Key Chord { get; }

        private static string Check(string text, out Key chord)
        {
            chord = Key.Parse("text", text);
            if (chord.Kind == KeyKind.Silent)
                throw new InvalidInputException("text", $"“{text}” is a modifier only. Add a key to press with it.");
            var hasModifier =
                chord.Kind == KeyKind.Chord
                && (
                    chord.Value.StartsWith("Ctrl+", StringComparison.Ordinal)
                    || chord.Value.StartsWith("Alt+", StringComparison.Ordinal)
                    || chord.Value.Contains("Meta+", StringComparison.Ordinal)
                );
            if (!hasModifier)
                throw new InvalidInputException(
                    "text",
                    $"“{text}” holds neither Ctrl, Alt nor Meta, so it would be lost for typing. Add a "
                        + $"modifier, for example Ctrl+Alt+{chord.Value.ToUpperInvariant()}."
                );
            return chord.Value;
        }
    }

    /// <summary>No trigger that is kept: the snippet was chosen by its name or content.</summary>
    public sealed record Chosen() : Trigger("", Scope.Everywhere);

    /// <summary>
    /// No trigger that is kept: the text was begun by hand, and its rest was taken when it was offered.
    /// </summary>
    public sealed record Begun() : Trigger("", Scope.Everywhere);
}
