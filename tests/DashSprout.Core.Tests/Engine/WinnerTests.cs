using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Engine;

/// <summary>
/// Who goes off when several could: the longest text, then scoped before everywhere, then exact case before the others,
/// then the order of libraries, folders and snippets. Each rule is set against every weaker one.
/// </summary>
public sealed class WinnerTests
{
    private static readonly Scope Post = new Scope.OnlyIn(new(["post"]));

    [Fact]
    public void A_longer_text_beats_scope_case_and_order() =>
        Assert.Equal(
            "long ",
            Index(
                    Lib("Upper", Snip("ab", "short", edge: LeftEdge.Any, letterCase: LetterCase.Exact, scope: Post)),
                    Lib("Lower", Snip("xab", "long", edge: LeftEdge.Any))
                )
                .Type("xab ")
                .Text
        );

    [Fact]
    public void A_scope_beats_case_and_order() =>
        Assert.Equal(
            "scoped ",
            Index(
                    Lib("Upper", Snip("ab", "exact", letterCase: LetterCase.Exact)),
                    Lib("Lower", Snip("ab", "scoped", scope: Post))
                )
                .Type("ab ")
                .Text
        );

    [Fact]
    public void Exact_case_beats_order() =>
        Assert.Equal(
            "exact ",
            Index(Lib("Upper", Snip("ab", "either")), Lib("Lower", Snip("ab", "exact", letterCase: LetterCase.Exact)))
                .Type("ab ")
                .Text
        );

    [Theory]
    [InlineData("console", "upper ")]
    [InlineData("post", "lower ")]
    public void A_scope_counts_only_where_it_holds(string app, string text) =>
        Assert.Equal(
            text,
            Index(Lib("Upper", Snip("ab", "upper")), Lib("Lower", Snip("ab", "lower", scope: Post)))
                .Type("ab ", app: app)
                .Text
        );

    [Fact]
    public void Libraries_then_folders_then_snippets_in_their_order()
    {
        var folder = new Folder("F", EquatableList<Folder>.Empty, new([Snip("ab", "in folder")]));
        var library = Lib("A", Snip("ab", "first"), Snip("ab", "second")) with { Folders = new([folder]) };
        Assert.Equal("in folder ", Index(library).Type("ab ").Text);
        Assert.Equal("first ", Index(library with { Folders = EquatableList<Folder>.Empty }).Type("ab ").Text);
        Assert.Equal("upper ", Index(Lib("U", Snip("ab", "upper")), library).Type("ab ").Text);
        Assert.Equal(
            "in folder ",
            Index(Lib("U", Snip("ab", "upper")) with { Enabled = false }, library).Type("ab ").Text
        );
    }

    [Fact]
    public void A_pattern_and_an_abbreviation_of_one_length_go_by_order()
    {
        var pattern = With("pattern", new Trigger.Pattern("a[bc]", TypingRules.For("a"), Scope.Everywhere));
        Assert.Equal("pattern ", Index(pattern, Snip("ab", "abbreviation")).Type("ab ").Text);
        Assert.Equal("abbreviation ", Index(Snip("ab", "abbreviation"), pattern).Type("ab ").Text);
        Assert.Equal("pattern ", Index(Snip("b", "abbreviation", edge: LeftEdge.Any), pattern).Type("ab ").Text);
    }

    [Fact]
    public void Hotkeys_go_by_scope_and_order_too()
    {
        var everywhere = With("everywhere", new Trigger.Hotkey("Ctrl+Alt+J", Scope.Everywhere));
        var later = With("later", new Trigger.Hotkey("Ctrl+Alt+J", Scope.Everywhere));
        var scoped = With("scoped", new Trigger.Hotkey("Ctrl+Alt+J", Post));
        Assert.Equal("everywhere", Index(everywhere, later).Keys("Ctrl+Alt+J").Text);
        Assert.Equal("scoped", Index(everywhere, scoped).Keys("Ctrl+Alt+J").Text);
        Assert.Equal("everywhere", Index(everywhere, scoped).Keys("app console", "Ctrl+Alt+J").Text);
    }

    /// <summary>After a firing its text sets nothing off, and only its last character counts for left edges.</summary>
    [Fact]
    public void What_goes_in_sets_nothing_off()
    {
        var index = Index(
            AtOnce("ab", "cd"),
            AtOnce("cd", "again", LeftEdge.Any),
            AtOnce("d", "tail", LeftEdge.Any),
            Snip("ef", "next")
        );
        Assert.Equal("cd", index.Type("ab").Text);
        Assert.Equal("cd ", index.Type("ab ").Text);
        Assert.Equal("cdef ", index.Type("abef ").Text);
        Assert.Equal("cd next ", index.Type("ab ef ").Text);
    }
}
