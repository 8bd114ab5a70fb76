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
        Assert.Contains(why, Error(() => new Trigger.Abbreviation(text, TypingRules.For("a"), Scope.Everywhere)), StringComparison.Ordinal);

    [Fact]
    public void An_abbreviation_is_kept_in_NFC() =>
        Assert.Equal("é", new Trigger.Abbreviation("e\u0301", TypingRules.For("e"), Scope.Everywhere).Text);

    [Theory]
    [InlineData("a(", "position 3")]
    [InlineData("(?<=x)a", "position 1")]
    [InlineData("(a)\\1", "position 4")]
    [InlineData("a*", "matches the empty text")]
    [InlineData("", "empty")]
    public void Patterns_that_cannot_be(string text, string why) =>
        Assert.Contains(why, Error(() => new Trigger.Pattern(text, TypingRules.For("a"), Scope.Everywhere)), StringComparison.Ordinal);

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
