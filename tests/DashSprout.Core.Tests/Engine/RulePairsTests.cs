using System.Globalization;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Engine;

/// <summary>
/// Every rule together with every other: each timing, left edge, letter case and closing-key rule, typed in each letter
/// case behind each kind of character. What must come of it is written down here rule by rule, without the engine's
/// help.
/// </summary>
public sealed class RulePairsTests
{
    private const string Text = "two words";

    /// <summary>What stands before the abbreviation, and which left edges let it pass.</summary>
    private static readonly (string Before, bool Space, bool Word)[] Edges =
    [
        ("", true, true),
        (" ", true, true),
        ("x ", true, true),
        ("\n", true, true),
        ("(", true, true),
        ("“", true, true),
        ("'", true, true),
        ("-", false, true),
        (".", false, true),
        ("…", false, true),
        ("🙂", false, true),
        ("a", false, false),
        ("7", false, false),
        ("_", false, false),
        ("don'", true, false),
        ("gate.", false, false),
    ];

    public static TheoryData<Timing, LeftEdge, LetterCase, bool> Rules
    {
        get
        {
            var rules = new TheoryData<Timing, LeftEdge, LetterCase, bool>();
            foreach (var timing in Enum.GetValues<Timing>())
            foreach (var edge in Enum.GetValues<LeftEdge>())
            foreach (var letterCase in Enum.GetValues<LetterCase>())
            foreach (var keep in (bool[])[true, false])
                rules.Add(timing, edge, letterCase, keep);
            return rules;
        }
    }

    [Theory]
    [MemberData(nameof(Rules))]
    public void What_is_typed_comes_to_what_the_rules_say(
        Timing timing,
        LeftEdge edge,
        LetterCase letterCase,
        bool keep
    )
    {
        var index = Index(Snip("bc", Text, timing, edge, letterCase, keep));
        foreach (var (before, space, word) in Edges)
        foreach (var typed in (string[])["bc", "Bc", "BC", "bC"])
        foreach (var closing in Closings(timing))
        {
            var passes =
                edge switch
                {
                    LeftEdge.Space => space,
                    LeftEdge.Word => word,
                    _ => true,
                } && (letterCase != LetterCase.Exact || typed == "bc");
            var text = passes
                ? Shaped(letterCase, typed) + (timing == Timing.AtOnce || keep ? closing : "")
                : typed + closing;
            Assert.Equal(before + text, index.Type(before + typed + closing).Text);
        }
    }

    /// <summary>
    /// Caps Lock turns what is typed into capitals: exact stays quiet, mirror shouts, and either does if the library
    /// says so.
    /// </summary>
    [Theory]
    [InlineData(LetterCase.Either, false, Text)]
    [InlineData(LetterCase.Either, true, "TWO WORDS")]
    [InlineData(LetterCase.Exact, false, "BC")]
    [InlineData(LetterCase.Exact, true, "BC")]
    [InlineData(LetterCase.Mirror, false, "TWO WORDS")]
    [InlineData(LetterCase.Mirror, true, "TWO WORDS")]
    public void Caps_lock(LetterCase letterCase, bool shouts, string text)
    {
        var library = Lib("A", AtOnce("bc", Text, letterCase: letterCase));
        var index = Index(library with { Rules = library.Rules with { CapsLockShouts = shouts } });
        Assert.Equal(text, index.Type("BC", caps: true).Text);
    }

    private static string[] Closings(Timing timing) =>
        timing switch
        {
            Timing.AtOnce => ["", "z"],
            Timing.ClosingKey => [" ", ".", "\n"],
            _ => ["  ", ".."],
        };

    private static string Shaped(LetterCase letterCase, string typed) =>
        (letterCase, typed) switch
        {
            (LetterCase.Mirror, "BC") => Text.ToUpper(CultureInfo.InvariantCulture),
            (LetterCase.Mirror, "Bc") => "Two words",
            _ => Text,
        };
}
