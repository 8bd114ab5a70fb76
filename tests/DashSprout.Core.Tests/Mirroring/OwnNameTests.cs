using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;

namespace DashSprout.Core.Tests.Mirroring;

/// <summary>How a machine notices that it was copied, and what several states known to both sides come to.</summary>
public sealed class OwnNameTests
{
    private static SharedLibrary Library(params (string Key, string Text)[] snippets) =>
        new(
            new SharedRoot("Notices", true, LibraryRules.Default),
            new(
                snippets.Select(one => new SharedSnippet(
                    one.Key,
                    SharedLibrary.Top,
                    Snippet.Named(one.Key) with
                    {
                        Body = new Body.Plain(one.Text),
                    }
                ))
            ),
            EquatableList<string>.Empty
        );

    private static MirrorState State(string text, params (string Machine, int Count, string? Mark)[] written) =>
        new(
            written.Aggregate(MachineStates.None, (states, one) => states.With(one.Machine, one.Count, one.Mark)),
            Library(("a", text))
        );

    [Fact]
    public void A_copy_is_told_by_its_number_or_its_mark()
    {
        MirrorState[] known = [State("0", ("m", 4, "p")), State("1", ("m", 5, "q"))];
        var name = new OwnName("m", 4);
        Assert.False(name.HasCopy(known, [new FoundMirror("", State("1", ("m", 5, "q")))]));
        // Written by hand, it has the mark that it had.
        Assert.False(name.HasCopy(known, [new FoundMirror("", State("by hand", ("m", 5, "q")))]));
        Assert.False(name.HasCopy(known, [new FoundMirror("", State("no mark", ("m", 5, null)))]));
        Assert.True(name.HasCopy(known, [new FoundMirror("", State("x", ("m", 5, "r")))]));
        Assert.True(name.HasCopy(known, [new FoundMirror("", State("x", ("m", 6, "r")))]));
    }

    [Fact]
    public void What_was_written_since_is_known_by_another_name_so_that_nothing_of_it_is_lost()
    {
        MirrorState[] known = [State("0", ("m", 4, "p")), State("mine", ("m", 5, "q"))];
        var file = new FoundMirror("", State("theirs", ("m", 5, "r")));
        var parted = new OwnName("m", 4).Parted(known, [file], "n");
        Assert.Equal(["m:4", "m:4 n:1"], parted.Select(state => state.States.ToString()));
        var plan = SyncPlan.Of("n", parted, [file], Library(("a", "mine")), new HashSet<MirrorConflict>(), [], "c");
        Assert.Equal(new MirrorConflict("a", SnippetParts.Text), Assert.Single(plan.Conflicts));
    }

    /// <summary>
    /// One machine finds an older text of its own in a file of two others that wrote at once: no state that both knew has
    /// all of it, but one of them says that this text has not moved.
    /// </summary>
    [Fact]
    public void An_older_text_of_ones_own_is_nobodys_change()
    {
        MirrorState[] known =
        [
            State("first", ("a", 9, null), ("b", 9, null), ("c", 1, null)),
            State("second", ("a", 1, null), ("b", 1, null), ("c", 2, null)),
        ];
        var file = new FoundMirror("", State("second", ("a", 9, null), ("b", 9, null), ("c", 2, null)));
        var plan = SyncPlan.Of("c", known, [file], Library(("a", "third")), new HashSet<MirrorConflict>(), [], "c");
        Assert.Empty(plan.Conflicts);
        Assert.Equal(Library(("a", "third")), plan.Here);
        Assert.Equal(Library(("a", "third")), plan.Write!.Library);
    }
}
