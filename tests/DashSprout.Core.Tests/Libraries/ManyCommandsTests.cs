using CsCheck;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>What is done with many things at once.</summary>
public sealed class ManyCommandsTests
{
    private static readonly ClosingKeys Spaces = ClosingKeys.Parse("keys", [" "]);

    private static TestShelf Shelf()
    {
        var shelf = new TestShelf().WithSnippets("a", "b", "c", "d");
        shelf.Do(now => Commands.AddFolder(now, shelf.Next(), shelf["Berths"].Id, "Old"));
        shelf.Do(now => Commands.AddSnippet(now, shelf.Next(), shelf["Old"].Id, TestShelf.Snip("b")));
        shelf.Do(now => Commands.AddLibrary(now, shelf.Next(), "Fees"));
        shelf.Do(now => Commands.AddSnippet(now, shelf.Next(), shelf["Fees"].Id, TestShelf.Snip("fee")));
        return shelf;
    }

    private static HashSet<long> Ids(TestShelf shelf, params string[] names) =>
        [.. names.Select(name => shelf.Now.Libraries.SelectMany(shelf.Now.Within).Last(item => item.Name == name).Id)];

    [Fact]
    public void Many_are_moved_in_their_order_and_a_taken_name_gets_a_number()
    {
        var shelf = Shelf();
        var change = shelf.Do(now => ManyCommands.Move(now, Ids(shelf, "d", "b", "a"), shelf["Old"].Id, null));
        Assert.Equal("Moved 3 snippets to “Berths/Old”", change.What);
        Assert.Equal(["Old", "c"], shelf.Names("Berths"));
        Assert.Equal(["b", "a", "b 2", "d"], shelf.Names("Old"));
        shelf.Turn(change, back: true);
        Assert.Equal(["Old", "a", "b", "c", "d"], shelf.Names("Berths"));
        Assert.Equal(["b"], shelf.Names("Old"));
    }

    [Fact]
    public void Many_are_moved_in_front_of_one_that_is_there_folders_to_the_folders()
    {
        var shelf = Shelf();
        shelf.Do(now =>
            ManyCommands.Move(now, [shelf["Old"].Id, .. Ids(shelf, "c", "d")], shelf["Fees"].Id, shelf["fee"].Id)
        );
        Assert.Equal(["Old", "c", "d", "fee"], shelf.Names("Fees"));
    }

    [Fact]
    public void What_lies_in_something_that_is_meant_goes_with_it()
    {
        var shelf = Shelf();
        var inner = shelf.Now.Inside(shelf["Old"].Id)[0].Id;
        var change = shelf.Do(now => ManyCommands.Delete(now, [shelf["Old"].Id, inner, shelf["a"].Id]));
        Assert.Equal(2, change.Items.Count);
        Assert.Equal("Deleted 2 folders and snippets", change.What);
        Assert.Equal(["b", "c", "d"], shelf.Names("Berths"));
        shelf.Turn(change, back: true);
        Assert.Equal(["Old", "a", "b", "c", "d"], shelf.Names("Berths"));
        Assert.Equal(["b"], shelf.Names("Old"));
    }

    [Fact]
    public void A_folder_is_not_moved_into_itself_and_libraries_not_with_snippets()
    {
        var shelf = Shelf();
        Assert.Contains(
            "into itself",
            shelf.Refused(now => ManyCommands.Move(now, [shelf["Old"].Id, shelf["a"].Id], shelf["Old"].Id, null)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "by themselves",
            shelf.Refused(now => ManyCommands.Move(now, [shelf["Fees"].Id, shelf["a"].Id], shelf["Old"].Id, null)),
            StringComparison.Ordinal
        );
        Assert.Contains("at least one", shelf.Refused(now => ManyCommands.Delete(now, [])), StringComparison.Ordinal);
        Assert.Throws<MissingItemException>(() => ManyCommands.Delete(shelf.Now, [999]));
    }

    [Fact]
    public void Copies_stand_behind_what_they_are_copies_of_and_are_off()
    {
        var shelf = Shelf();
        var change = shelf.Do(now =>
            ManyCommands.Duplicate(now, 100, [shelf["a"].Id, .. Ids(shelf, "c"), shelf["Old"].Id])
        );
        Assert.Equal(["Old", "Old 2", "a", "a 2", "b", "c", "c 2", "d"], shelf.Names("Berths"));
        Assert.Equal(["b"], shelf.Names("Old 2"));
        Assert.False(((SnippetItem)shelf["a 2"]).Snippet.Enabled);
        Assert.False(((FolderItem)shelf["Old 2"]).Enabled);
        Assert.True(((SnippetItem)shelf.Now.Inside(shelf["Old 2"].Id)[0]).Snippet.Enabled);
        Assert.Equal(4, change.Items.Sum(item => 1 + item.Below.Count));
        shelf.Turn(change, back: true);
        Assert.Equal(["Old", "a", "b", "c", "d"], shelf.Names("Berths"));
    }

    [Fact]
    public void The_same_rules_hold_for_all_triggers_and_what_is_not_said_stays()
    {
        var shelf = new TestShelf();
        shelf.Do(now => Commands.AddLibrary(now, shelf.Next(), "Berths"));
        var own = TypingRules.For("brk") with { Case = LetterCase.Exact, ClosingKeys = Spaces };
        shelf.Do(now =>
            Commands.AddSnippet(
                now,
                shelf.Next(),
                shelf["Berths"].Id,
                TestShelf.Snip(
                    "one",
                    new Trigger.Abbreviation("brk", own, Scope.Everywhere),
                    new Trigger.Hotkey("Ctrl+Alt+B", Scope.Everywhere)
                )
            )
        );
        shelf.Do(now =>
            Commands.AddSnippet(
                now,
                shelf.Next(),
                shelf["Berths"].Id,
                TestShelf.Snip("two", new Trigger.Pattern("b[0-9]", TypingRules.For("b"), Scope.Everywhere))
            )
        );
        var edit = new ManyEdit(Timing: Timing.DoubleClosingKey, Scope: new Scope.OnlyIn(new(["post"])))
        {
            MoreTags = new(["Fees", "berths"]),
        };
        shelf.Do(now => ManyCommands.Edit(now, [shelf["Berths"].Id], edit));

        var (one, two) = (((SnippetItem)shelf["one"]).Snippet, ((SnippetItem)shelf["two"]).Snippet);
        var abbreviation = (Trigger.Abbreviation)one.Triggers[0];
        Assert.Equal(own with { Timing = Timing.DoubleClosingKey, KeepClosingKey = false }, abbreviation.Rules);
        Assert.All(one.Triggers.Concat(two.Triggers), trigger =>
            Assert.True(trigger.Scope.Admits("post") && !trigger.Scope.Admits("console"))
        );
        Assert.Equal(["Fees", "berths"], one.Tags);

        shelf.Do(now =>
            ManyCommands.Edit(
                now,
                [shelf["one"].Id],
                new ManyEdit(ClosingKeys: new KeysToGive(null))
                {
                    MoreTags = new(["FEES"]),
                    FewerTags = new(["Berths"]),
                }
            )
        );
        one = ((SnippetItem)shelf["one"]).Snippet;
        Assert.Null(((Trigger.Abbreviation)one.Triggers[0]).Rules.ClosingKeys);
        Assert.Equal(["Fees"], one.Tags);
        Assert.Empty(ManyCommands.Edit(shelf.Now, [shelf["one"].Id], new ManyEdit()).Items);
    }

    [Fact]
    public void A_double_closing_key_that_is_kept_stays_kept_when_the_timing_changes()
    {
        var kept = TypingRules.For("x", Timing.DoubleClosingKey) with { KeepClosingKey = true };
        var snippet = TestShelf.Snip("x", new Trigger.Abbreviation("x", kept, Scope.Everywhere));
        var changed = (Trigger.Abbreviation)new ManyEdit(Timing: Timing.ClosingKey).Of(snippet).Triggers[0];
        Assert.True(changed.Rules.KeepClosingKey);
        Assert.Equal(kept, ((Trigger.Abbreviation)new ManyEdit(Case: LetterCase.Either).Of(snippet).Triggers[0]).Rules);
    }

    /// <summary>
    /// Moving, duplicating and deleting at random: what lies side by side stays in one order, and undoing everything
    /// gives back what was.
    /// </summary>
    [Fact]
    public void Whatever_is_done_with_many_can_be_undone()
    {
        var step = Gen.Select(Gen.Int[0, 3], Gen.Int[0, 1000].Array[1, 5], Gen.Int[0, 1000], Gen.Bool);
        step.Array[1, 12]
            .Sample(
                steps =>
                {
                    var shelf = Shelf();
                    var names = Names(shelf.Now);
                    var done = new List<Change>();
                    var next = 1000L;
                    foreach (var (kind, picks, place, inFront) in steps)
                    {
                        var all = shelf.Now.Libraries.SelectMany(shelf.Now.Within).ToList();
                        var ids = picks
                            .Select(pick => all[pick % all.Count])
                            .Where(item => item.Kind != ItemKind.Library)
                            .Select(item => item.Id)
                            .ToHashSet();
                        var holders = all.Where(item => item is not SnippetItem).ToList();
                        var to = holders[place % holders.Count];
                        long? before = inFront ? shelf.Now.Inside(to.Id).FirstOrDefault()?.Id : null;
                        try
                        {
                            done.Add(
                                shelf.Do(now =>
                                    kind switch
                                    {
                                        0 => ManyCommands.Move(now, ids, to.Id, ids.Count > 1 ? before : null),
                                        1 => ManyCommands.Duplicate(now, next, ids),
                                        2 => ManyCommands.Switch(now, ids, inFront),
                                        _ => ManyCommands.Delete(now, ids),
                                    }
                                )
                            );
                        }
                        catch (InvalidInputException)
                        {
                            // Nothing was chosen, or a folder would lie in itself: nothing has happened then.
                        }
                        next += 1000;
                        foreach (
                            var holder in shelf
                                .Now.Libraries.SelectMany(shelf.Now.Within)
                                .Where(item => item is not SnippetItem)
                        )
                            Assert.Equal(
                                shelf.Now.Inside(holder.Id).Count,
                                shelf
                                    .Now.Inside(holder.Id)
                                    .DistinctBy(item => (item.Kind, item.Name.ToUpperInvariant()))
                                    .Count()
                            );
                    }
                    for (var at = done.Count - 1; at >= 0; at--)
                        shelf.Turn(done[at], back: true);
                    Assert.Equal(names, Names(shelf.Now));
                },
                iter: Depth.Of(300)
            );

        static string Names(Catalogue now) =>
            string.Join(
                ' ',
                now.Libraries.SelectMany(now.Within)
                    .Select(item => $"{now.PathOf(item)}:{(item as SnippetItem)?.Snippet.Enabled}")
            );
    }
}
