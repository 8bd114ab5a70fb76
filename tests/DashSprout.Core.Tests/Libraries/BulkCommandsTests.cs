using CsCheck;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>What is done with many things at once.</summary>
public sealed class BulkCommandsTests
{
    private static readonly ClosingKeys Spaces = ClosingKeys.Parse("keys", [" "]);

    private static TestTree Tree()
    {
        var testTree = new TestTree().WithSnippets("a", "b", "c", "d");
        testTree.Do(now => Commands.AddFolder(now, testTree.Next(), testTree["Berths"].Id, "Old"));
        testTree.Do(now => Commands.AddSnippet(now, testTree.Next(), testTree["Old"].Id, TestTree.Snip("b")));
        testTree.Do(now => Commands.AddLibrary(now, testTree.Next(), "Fees"));
        testTree.Do(now => Commands.AddSnippet(now, testTree.Next(), testTree["Fees"].Id, TestTree.Snip("fee")));
        return testTree;
    }

    private static HashSet<long> Ids(TestTree testTree, params string[] names) =>
        [
            .. names.Select(name =>
                testTree.Now.Libraries.SelectMany(testTree.Now.Within).Last(item => item.Name == name).Id
            ),
        ];

    [Fact]
    public void Many_are_moved_in_their_order_and_a_taken_name_gets_a_number()
    {
        var testTree = Tree();
        var change = testTree.Do(now => BulkCommands.Move(now, Ids(testTree, "d", "b", "a"), testTree["Old"].Id, null));
        Assert.Equal("Moved 3 snippets to “Berths/Old”", change.What);
        Assert.Equal(["Old", "c"], testTree.Names("Berths"));
        Assert.Equal(["b", "a", "b 2", "d"], testTree.Names("Old"));
        testTree.SetUndone(change, undone: true);
        Assert.Equal(["Old", "a", "b", "c", "d"], testTree.Names("Berths"));
        Assert.Equal(["b"], testTree.Names("Old"));
    }

    [Fact]
    public void Many_are_moved_in_front_of_one_that_is_there_folders_to_the_folders()
    {
        var testTree = Tree();
        testTree.Do(now =>
            BulkCommands.Move(
                now,
                [testTree["Old"].Id, .. Ids(testTree, "c", "d")],
                testTree["Fees"].Id,
                testTree["fee"].Id
            )
        );
        Assert.Equal(["Old", "c", "d", "fee"], testTree.Names("Fees"));
    }

    [Fact]
    public void What_lies_in_something_that_is_meant_goes_with_it()
    {
        var testTree = Tree();
        var inner = testTree.Now.Inside(testTree["Old"].Id)[0].Id;
        var change = testTree.Do(now => BulkCommands.Delete(now, [testTree["Old"].Id, inner, testTree["a"].Id]));
        Assert.Equal(2, change.Items.Count);
        Assert.Equal("Deleted 2 folders and snippets", change.What);
        Assert.Equal(["b", "c", "d"], testTree.Names("Berths"));
        testTree.SetUndone(change, undone: true);
        Assert.Equal(["Old", "a", "b", "c", "d"], testTree.Names("Berths"));
        Assert.Equal(["b"], testTree.Names("Old"));
    }

    [Fact]
    public void A_folder_is_not_moved_into_itself_and_libraries_not_with_snippets()
    {
        var testTree = Tree();
        Assert.Contains(
            "into itself",
            testTree.Refused(now =>
                BulkCommands.Move(now, [testTree["Old"].Id, testTree["a"].Id], testTree["Old"].Id, null)
            ),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "by themselves",
            testTree.Refused(now =>
                BulkCommands.Move(now, [testTree["Fees"].Id, testTree["a"].Id], testTree["Old"].Id, null)
            ),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "at least one",
            testTree.Refused(now => BulkCommands.Delete(now, [])),
            StringComparison.Ordinal
        );
        Assert.Throws<MissingItemException>(() => BulkCommands.Delete(testTree.Now, [999]));
    }

    [Fact]
    public void Copies_stand_behind_what_they_are_copies_of_and_are_off()
    {
        var testTree = Tree();
        var change = testTree.Do(now =>
            BulkCommands.Duplicate(now, 100, [testTree["a"].Id, .. Ids(testTree, "c"), testTree["Old"].Id])
        );
        Assert.Equal(["Old", "Old 2", "a", "a 2", "b", "c", "c 2", "d"], testTree.Names("Berths"));
        Assert.Equal(["b"], testTree.Names("Old 2"));
        Assert.False(((SnippetItem)testTree["a 2"]).Snippet.Enabled);
        Assert.False(((FolderItem)testTree["Old 2"]).Enabled);
        Assert.True(((SnippetItem)testTree.Now.Inside(testTree["Old 2"].Id)[0]).Snippet.Enabled);
        Assert.Equal(4, change.Items.Sum(item => 1 + item.Below.Count));
        testTree.SetUndone(change, undone: true);
        Assert.Equal(["Old", "a", "b", "c", "d"], testTree.Names("Berths"));
    }

    [Fact]
    public void The_same_rules_hold_for_all_triggers_and_what_is_not_said_stays()
    {
        var testTree = new TestTree();
        testTree.Do(now => Commands.AddLibrary(now, testTree.Next(), "Berths"));
        var own = TypingRules.For("brk") with { Case = LetterCase.Exact, ClosingKeys = Spaces };
        testTree.Do(now =>
            Commands.AddSnippet(
                now,
                testTree.Next(),
                testTree["Berths"].Id,
                TestTree.Snip(
                    "one",
                    new Trigger.Abbreviation("brk", own, Scope.Everywhere),
                    new Trigger.Hotkey("Ctrl+Alt+B", Scope.Everywhere)
                )
            )
        );
        testTree.Do(now =>
            Commands.AddSnippet(
                now,
                testTree.Next(),
                testTree["Berths"].Id,
                TestTree.Snip("two", new Trigger.Pattern("b[0-9]", TypingRules.For("b"), Scope.Everywhere))
            )
        );
        var edit = new BulkEdit(Timing: Timing.DoubleClosingKey, Scope: new Scope.OnlyIn(new(["post"])))
        {
            MoreTags = new(["Fees", "berths"]),
        };
        testTree.Do(now => BulkCommands.Edit(now, [testTree["Berths"].Id], edit));

        var (one, two) = (((SnippetItem)testTree["one"]).Snippet, ((SnippetItem)testTree["two"]).Snippet);
        var abbreviation = (Trigger.Abbreviation)one.Triggers[0];
        Assert.Equal(own with { Timing = Timing.DoubleClosingKey, KeepClosingKey = false }, abbreviation.Rules);
        Assert.All(one.Triggers.Concat(two.Triggers), trigger =>
            Assert.True(trigger.Scope.Admits("post") && !trigger.Scope.Admits("console"))
        );
        Assert.Equal(["Fees", "berths"], one.Tags);

        testTree.Do(now =>
            BulkCommands.Edit(
                now,
                [testTree["one"].Id],
                new BulkEdit(ClosingKeys: new KeysToGive(null))
                {
                    MoreTags = new(["FEES"]),
                    FewerTags = new(["Berths"]),
                }
            )
        );
        one = ((SnippetItem)testTree["one"]).Snippet;
        Assert.Null(((Trigger.Abbreviation)one.Triggers[0]).Rules.ClosingKeys);
        Assert.Equal(["Fees"], one.Tags);
        Assert.Empty(BulkCommands.Edit(testTree.Now, [testTree["one"].Id], new BulkEdit()).Items);
    }

    [Fact]
    public void A_double_closing_key_that_is_kept_stays_kept_when_the_timing_changes()
    {
        var kept = TypingRules.For("x", Timing.DoubleClosingKey) with { KeepClosingKey = true };
        var snippet = TestTree.Snip("x", new Trigger.Abbreviation("x", kept, Scope.Everywhere));
        var changed = (Trigger.Abbreviation)new BulkEdit(Timing: Timing.ClosingKey).Of(snippet).Triggers[0];
        Assert.True(changed.Rules.KeepClosingKey);
        Assert.Equal(kept, ((Trigger.Abbreviation)new BulkEdit(Case: LetterCase.Either).Of(snippet).Triggers[0]).Rules);
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
                    var testTree = Tree();
                    var names = Names(testTree.Now);
                    var done = new List<Change>();
                    var next = 1000L;
                    foreach (var (kind, picks, place, inFront) in steps)
                    {
                        var all = testTree.Now.Libraries.SelectMany(testTree.Now.Within).ToList();
                        var ids = picks
                            .Select(pick => all[pick % all.Count])
                            .Where(item => item.Kind != ItemKind.Library)
                            .Select(item => item.Id)
                            .ToHashSet();
                        var holders = all.Where(item => item is not SnippetItem).ToList();
                        var to = holders[place % holders.Count];
                        long? before = inFront ? testTree.Now.Inside(to.Id).FirstOrDefault()?.Id : null;
                        try
                        {
                            done.Add(
                                testTree.Do(now =>
                                    kind switch
                                    {
                                        0 => BulkCommands.Move(now, ids, to.Id, ids.Count > 1 ? before : null),
                                        1 => BulkCommands.Duplicate(now, next, ids),
                                        2 => BulkCommands.Switch(now, ids, inFront),
                                        _ => BulkCommands.Delete(now, ids),
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
                            var holder in testTree
                                .Now.Libraries.SelectMany(testTree.Now.Within)
                                .Where(item => item is not SnippetItem)
                        )
                            Assert.Equal(
                                testTree.Now.Inside(holder.Id).Count,
                                testTree
                                    .Now.Inside(holder.Id)
                                    .DistinctBy(item => (item.Kind, item.Name.ToUpperInvariant()))
                                    .Count()
                            );
                    }
                    for (var at = done.Count - 1; at >= 0; at--)
                        testTree.SetUndone(done[at], undone: true);
                    Assert.Equal(names, Names(testTree.Now));
                },
                iter: Depth.Of(300)
            );

        static string Names(LibraryTree now) =>
            string.Join(
                ' ',
                now.Libraries.SelectMany(now.Within)
                    .Select(item => $"{now.PathOf(item)}:{(item as SnippetItem)?.Snippet.Enabled}")
            );
    }
}
