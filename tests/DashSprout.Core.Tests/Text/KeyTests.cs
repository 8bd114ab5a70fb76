using DashSprout.Core.Text;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Text;

/// <summary>What a keyboard says (W3C UI Events <c>key</c> values), and what of it is typed.</summary>
public sealed class KeyTests
{
    [Theory]
    [InlineData("a", KeyKind.Typed, "a")]
    [InlineData("é", KeyKind.Typed, "é")]
    [InlineData("👩‍👩‍👧", KeyKind.Typed, "👩‍👩‍👧")]
    [InlineData(" ", KeyKind.Typed, " ")]
    [InlineData("+", KeyKind.Typed, "+")]
    [InlineData("Enter", KeyKind.Named, "\n")]
    [InlineData("Tab", KeyKind.Named, "\t")]
    [InlineData("ArrowLeft", KeyKind.Named, "")]
    [InlineData("F12", KeyKind.Named, "")]
    [InlineData("Shift+Enter", KeyKind.Chord, "\n")]
    [InlineData("Ctrl++", KeyKind.Chord, "")]
    [InlineData("Ctrl+Alt+Shift+Meta+x", KeyKind.Chord, "")]
    [InlineData("Shift+Tab", KeyKind.Chord, "")]
    [InlineData("Dead", KeyKind.Silent, "")]
    [InlineData("Ctrl+Shift", KeyKind.Silent, "")]
    [InlineData("Ctrl+Unknown", KeyKind.Chord, "")]
    public void One_key(string value, KeyKind kind, string text)
    {
        var key = Assert.Single(Key.ReadAll("key", value));
        Assert.Equal((kind, text, text.Length > 0), (key.Kind, key.Text, key.AddsText));
    }

    [Theory]
    [InlineData("لا", new[] { "ل", "ا" })]
    [InlineData("e\u0301b", new[] { "e\u0301", "b" })]
    [InlineData("Foo", new[] { "F", "o", "o" })]
    [InlineData("a\nb", new[] { "a", "Enter", "b" })]
    public void A_value_of_several_letters_is_its_graphemes(string value, string[] keys) =>
        Assert.Equal(keys, Key.ReadAll("key", value).Select(key => key.Value));

    [Fact]
    public void Letters_of_a_chord_are_upper_case_and_modifiers_have_one_order()
    {
        Assert.Equal("Ctrl+Alt+D", Key.Parse("key", "Alt+Ctrl+d").Value);
        Assert.Equal(Key.Parse("key", "Shift+Enter"), Key.ShiftEnter);
        Assert.Equal(Key.Enter, Key.ShiftEnter.Closing);
        Assert.Equal(Key.Tab, Key.Tab.Closing);
    }

    [Fact]
    public void What_no_keyboard_sends_is_refused()
    {
        // Halves of characters cannot stand in an attribute.
        foreach (var value in (string[])["", "\uD83D", "a\uDE00"])
        {
            var refused = Assert.Throws<InvalidInputException>(() => Key.ReadAll("keys[3]", value));
            Assert.Equal("keys[3]", Assert.Single(refused.Errors).Field);
        }
    }

    /// <summary>
    /// A grapheme may have any number of marks; one that is typed has not, and what it was is not repeated.
    /// </summary>
    [Fact]
    public void A_grapheme_without_end_is_refused()
    {
        var endless = "z" + new string('\u0301', 100_000);
        Assert.DoesNotContain(
            "z",
            Assert
                .Throws<InvalidInputException>(() => Key.ReadAll("key", endless))
                .Message.Replace("size", "", StringComparison.Ordinal),
            StringComparison.Ordinal
        );
        Assert.Throws<InvalidInputException>(() => Key.ReadAll("key", new string('x', Key.MaxTextUnits + 1)));
        var refused = Assert.Throws<InvalidInputException>(() =>
            new Trigger.Abbreviation(endless, TypingRules.For("z"), Scope.Everywhere)
        );
        Assert.Contains("256 are allowed", refused.Message, StringComparison.Ordinal);
        var marked = new Trigger.Abbreviation("q" + new string('\u0301', 200), TypingRules.For("z"), Scope.Everywhere);
        Assert.Equal(201, marked.Text.Length);
        Assert.Throws<InvalidInputException>(() =>
            new Trigger.Abbreviation("q" + new string('\u0301', 256), TypingRules.For("z"), Scope.Everywhere)
        );
        Assert.Throws<InvalidInputException>(() =>
            new Trigger.Abbreviation("a\uD83D", TypingRules.For("a"), Scope.Everywhere)
        );
    }

    [Fact]
    public void Closing_keys_know_the_keys_that_act()
    {
        Assert.True(ClosingKeys.Default.HoldsActingKeys);
        Assert.True(ClosingKeys.Default.Contains(Key.ShiftEnter));
        Assert.False(ClosingKeys.Parse("closingKeys", [".", " "]).HoldsActingKeys);
        Assert.True(ClosingKeys.Parse("closingKeys", ["Tab"]).HoldsActingKeys);
        Assert.Single(ClosingKeys.Parse("closingKeys", ["Enter", "Shift+Enter"]).Keys);
    }
}
