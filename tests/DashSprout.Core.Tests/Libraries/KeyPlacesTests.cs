using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>Closing keys with a name, where they hold.</summary>
public sealed class KeyPlacesTests
{
    private static readonly ClosingKeys Space = ClosingKeys.Parse("keys", [" "]),
        Enter = ClosingKeys.Parse("keys", ["Enter"]);

    private static TestShelf Shelf()
    {
        var shelf = new TestShelf();
        shelf.Do(now => Commands.AddLibrary(now, shelf.Next(), "Berths"));
        shelf.Do(now =>
            Commands.ChangeLibrary(
                now,
                shelf["Berths"].Id,
                null,
                null,
                LibraryRules.Default with
                {
                    ClosingKeys = Space,
                    Defaults = new TriggerDefaults(ClosingKeys: Enter),
                }
            )
        );
        shelf.Do(now => Commands.AddFolder(now, shelf.Next(), shelf["Berths"].Id, "Fees"));
        shelf.Do(now =>
            Commands.ChangeFolder(
                now,
                shelf["Fees"].Id,
                null,
                null,
                new TriggerDefaults(ClosingKeys: ClosingKeys.Parse("keys", [" "]))
            )
        );
        var own = TypingRules.For("brk") with { ClosingKeys = Space };
        shelf.Do(now =>
            Commands.AddSnippet(
                now,
                shelf.Next(),
                shelf["Fees"].Id,
                TestShelf.Snip(
                    "own",
                    new Trigger.Abbreviation("brk", own, Scope.Everywhere),
                    new Trigger.Pattern("b[0-9]", own, Scope.Everywhere),
                    new Trigger.Abbreviation("usual", TypingRules.For("usual"), Scope.Everywhere)
                )
            )
        );
        return shelf;
    }

    [Fact]
    public void They_are_counted_in_libraries_defaults_and_triggers()
    {
        var now = Shelf().Now;
        Assert.Equal(4, KeyPlaces.Count(now, ClosingKeys.Parse("keys", [" "])));
        Assert.Equal(1, KeyPlaces.Count(now, Enter));
        Assert.Equal(0, KeyPlaces.Count(now, ClosingKeys.Default));
    }

    [Fact]
    public void They_change_where_they_hold_and_nowhere_else_and_come_back_by_undoing()
    {
        var shelf = Shelf();
        var change = shelf.Do(now => KeyPlaces.Replace(now, "Only Space", Space, Enter));
        Assert.Equal(3, change.Items.Count);
        Assert.Equal((0, 5), (KeyPlaces.Count(shelf.Now, Space), KeyPlaces.Count(shelf.Now, Enter)));
        Assert.Null(((Trigger.Abbreviation)((SnippetItem)shelf["own"]).Snippet.Triggers[2]).Rules.ClosingKeys);
        shelf.Turn(change, back: true);
        Assert.Equal((4, 1), (KeyPlaces.Count(shelf.Now, Space), KeyPlaces.Count(shelf.Now, Enter)));
        Assert.Empty(KeyPlaces.Replace(shelf.Now, "None", ClosingKeys.None, Enter).Items);
    }
}
