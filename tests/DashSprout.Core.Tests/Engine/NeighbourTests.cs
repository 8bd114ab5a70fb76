using DashSprout.Core.Bodies;
using DashSprout.Core.Hosting;
using DashSprout.Core.Libraries;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Engine;

/// <summary>
/// What the tail holds after something happened: what was put in is a left neighbour only, what was put back counts as
/// typed.
/// </summary>
public sealed class NeighbourTests
{
    [Fact]
    public void What_was_put_in_is_part_of_no_match() =>
        Assert.Equal("Wbr", Index(AtOnce("bc", "Wb"), AtOnce("br", "X")).Type("bcr").Text);

    [Fact]
    public void What_was_put_back_counts_as_typed()
    {
        Assert.Equal("the;om ", Index(Snip("teh", "the"), Snip(";om", "X")).Type("teh;om ").Text);
        Assert.Equal("the/fee ", Index(Snip("teh", "the"), Snip("/fee", "X")).Type("teh/fee ").Text);
        Assert.Equal(
            "the -ab ",
            Index(Snip("teh", "the"), Snip("ab", "X", edge: LeftEdge.Space)).Type("teh -ab ").Text
        );
        Assert.Equal("the X ", Index(Snip("teh", "the"), Snip("ab", "X")).Type("teh ab ").Text);
        Assert.Equal("theX ", Index(Snip("teh", "the"), Snip("-ab", "X", edge: LeftEdge.Any)).Type("teh-ab ").Text);
    }

    [Fact]
    public void Where_nothing_was_put_in_the_character_before_is_the_neighbour()
    {
        Assert.Equal("xbr ", Index(AtOnce("bc", "", LeftEdge.Any), Snip("br", "X")).Type("xbcbr ").Text);
        Assert.Equal("(X ", Index(AtOnce("bc", ""), Snip("br", "X", edge: LeftEdge.Space)).Type("(bcbr ").Text);
    }

    [Fact]
    public void A_kept_space_stays_behind_an_empty_text() =>
        Assert.Equal(("a  b", 4), Position(Index(Snip("bc", "")).Type("a bc b")));

    /// <summary>A caret set back, or a selection: what stands before the caret decides what may follow.</summary>
    [Theory]
    [InlineData("<p>berth(<wbr data-caret>)</p>", "berth(X)")]
    [InlineData("<p>berth<wbr data-caret>()</p>", "berthab()")]
    [InlineData("<p>(<mark data-select>berth</mark>)</p>", "(X)")]
    [InlineData("<p>x<mark data-select>(</mark>)</p>", "xab)")]
    [InlineData("<p>berth<kbd>Enter</kbd></p>", "berth\nX")]
    [InlineData("<p>(<wbr data-caret>berth<kbd>Enter</kbd>x</p>", "(berth\nxab")]
    public void The_character_before_the_caret_is_the_one_that_stands_there(string body, string text)
    {
        var snippet = AtOnce(";b", "") with { Body = Body.Html.Parse(body) };
        Assert.Equal(text, Index(snippet, AtOnce("ab", "X", LeftEdge.Space)).Type(";bab").Text);
    }

    [Fact]
    public void Taking_back_gives_the_tail_back_as_it_was()
    {
        var index = Index(AtOnce("b", "X", LeftEdge.Any), Snip("cd", "Y"));
        Assert.Equal("xcd ", index.Keys("x", "b", "Ctrl+Alt+Z", "Backspace", "c", "d", " ").Text);
        Assert.Equal("xb-Y ", index.Keys("x", "b", "Ctrl+Alt+Z", "-", "c", "d", " ").Text);
    }

    [Fact]
    public void Quiet_is_the_word_that_was_taken_back_and_no_other()
    {
        var index = Index(Snip("brb", "X"));
        Assert.Equal(
            "X ",
            index
                .Keys(
                    "type brb",
                    " ",
                    "Ctrl+Alt+Z",
                    "Backspace",
                    "Backspace",
                    "Backspace",
                    "Backspace",
                    "type brb",
                    " "
                )
                .Text
        );
        Assert.Equal(
            "br X ",
            index.Keys("type brb", " ", "Ctrl+Alt+Z", "Backspace", "Backspace", " ", "type brb", " ").Text
        );
        Assert.Equal("brb  ", index.Keys("type brb", " ", "Ctrl+Alt+Z", "Backspace", " ", " ").Text);
        Assert.Equal("brb X ", index.Keys("type brb", " ", "Ctrl+Alt+Z", "type brb", " ").Text);
    }

    [Fact]
    public void The_first_of_two_triggers_of_one_snippet_wins()
    {
        var rules = TypingRules.For("ab");
        for (var round = 0; round < 3; round++)
        {
            var both = With(
                "X",
                new Trigger.Abbreviation("ab", rules with { KeepClosingKey = round == 1 }, Scope.Everywhere),
                new Trigger.Abbreviation("ab", rules with { KeepClosingKey = round != 1 }, Scope.Everywhere)
            );
            Assert.Equal(round == 1 ? "X " : "X", Index(both).Type("ab ").Text);
        }
    }

    [Fact]
    public void Backspace_in_a_correction_takes_back_and_deletes_nothing_more()
    {
        var corrections = Lib("Spelling", Snip("teh", "the")) with
        {
            Rules = LibraryRules.Default with { BackspaceTakesBack = true },
        };
        Assert.Equal("x teh ", Index(corrections).Keys("x", " ", "t", "e", "h", " ", "Backspace").Text);
        Assert.Equal("x teh", Index(corrections).Keys("x", " ", "t", "e", "h", " ", "Backspace", "Backspace").Text);
    }

    [Fact]
    public void Shift_Enter_counts_as_Enter_and_stays_what_it_is()
    {
        var result = Index(Snip("teh", "the")).Keys("t", "e", "h", "Shift+Enter");
        Assert.Equal("the\n", result.Text);
        Assert.Equal(Outcome.Inserted, Assert.Single(result.Firings).Outcome);
        Assert.Equal(
            "twice",
            Index(Snip("brk", "twice", Timing.DoubleClosingKey)).Keys("b", "r", "k", "Enter", "Shift+Enter").Text
        );
    }

    private static (string, int) Position(RehearsalResult result) => (result.Text, result.Caret);
}
