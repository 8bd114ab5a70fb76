using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Triggers;

/// <summary>What is refused, and in which words.</summary>
public sealed class TriggerTests
{
    [Theory]
    [InlineData("", "empty")]
    [InlineData("   ", "empty")]
    [InlineData("a b", "White space at place 2")]
    [InlineData("ab\u0007", "U+0007) stands at place 3")]
    [InlineData("aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa", "65 characters; 64 are allowed")]
    public void Abbreviations_that_cannot_be(string text, string why) =>
        Assert.Contains(
            why,
            Error(() => new Trigger.Abbreviation(text, TypingRules.For("a"), Scope.Everywhere)),
            StringComparison.Ordinal
        );

    [Fact]
    public void An_abbreviation_is_kept_in_NFC() =>
        Assert.Equal("é", new Trigger.Abbreviation("e\u0301", TypingRules.For("e"), Scope.Everywhere).Text);

    [Theory]
    [InlineData("a(", "At its end: a group that was opened is not closed")]
    [InlineData("a)b", "“)” closes a group that was never opened")]
    [InlineData("x[ab", "a set of characters is not closed")]
    [InlineData("+a", "nothing before this to repeat")]
    [InlineData("a{2}{3}", "repeated twice over")]
    [InlineData("a{3,2}", "the wrong way round")]
    [InlineData("[z-a]", "runs backwards")]
    [InlineData("[a-\\d]", "kind of character such as \\d")]
    [InlineData("a\\", "has nothing behind it")]
    [InlineData("a\\y", "means nothing behind")]
    [InlineData("\\x1", "too few digits")]
    [InlineData("\\p{Zorro}", "kind of character is not known")]
    [InlineData("(?<1a>x)", "the name of this group")]
    [InlineData("(?&x)", "kind of group is not known")]
    [InlineData("(?<=x)a", "place 1")]
    [InlineData("(a)\\1", "place 4")]
    [InlineData("a*", "matches the empty text")]
    [InlineData("", "empty")]
    public void Patterns_that_cannot_be(string text, string why) =>
        Assert.Contains(
            why,
            Error(() => new Trigger.Pattern(text, TypingRules.For("a"), Scope.Everywhere)),
            StringComparison.Ordinal
        );

    /// <summary>What .NET calls a fault is nothing for a user: each one has words of its own, with the place.</summary>
    [Theory]
    [InlineData("ab[c", "At its end")]
    [InlineData("ab+*c", "At place 4, “ab+*”")]
    public void A_fault_of_a_pattern_is_told_with_its_place_and_without_names_of_errors(string text, string place)
    {
        var said = Error(() => new Trigger.Pattern(text, TypingRules.For("a"), Scope.Everywhere));
        Assert.StartsWith(place, said, StringComparison.Ordinal);
        Assert.DoesNotContain(Enum.GetNames<System.Text.RegularExpressions.RegexParseError>(), name =>
            said.Contains(name, StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("D", "neither Ctrl, Alt nor Meta")]
    [InlineData("Shift+F3", "neither Ctrl, Alt nor Meta")]
    [InlineData("Ctrl+Alt", "modifiers only")]
    [InlineData("Shift", "modifier only")]
    [InlineData("Ctrl+Alt+Bananas", "not a key")]
    public void Hotkeys_that_cannot_be(string text, string why) =>
        Assert.Contains(why, Error(() => new Trigger.Hotkey(text, Scope.Everywhere)), StringComparison.Ordinal);

    [Theory]
    [InlineData("Alt+Ctrl+d", "Ctrl+Alt+D")]
    [InlineData("Ctrl++", "Ctrl++")]
    [InlineData("Meta+Shift+F5", "Shift+Meta+F5")]
    [InlineData("Ctrl+ ", "Ctrl+ ")]
    public void Chords_are_written_in_one_way(string text, string written) =>
        Assert.Equal(written, Key.Parse("text", text).Value);

    private static string Error(Func<object> make) => Assert.Throws<InvalidInputException>(make).Errors[0].Message;
}
