using CsCheck;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>What commands make of a catalogue.</summary>
public sealed class CatalogueTests
{
    [Fact]
    public void What_comes_back_from_the_bin_has_its_own_place_among_what_moved_meanwhile()
    {
        var shelf = new TestShelf().WithSnippets("A", "B", "C");
        shelf.Do(now => Commands.Delete(now, shelf["B"].Id));
        shelf.Do(now => Commands.Move(now, shelf["C"].Id, shelf["Berths"].Id, shelf["A"].Id));
        Assert.Equal(["C", "A"], shelf.Names("Berths"));
        shelf.BringBack("B");
        Assert.Equal(["C", "A", "B"], shelf.Names("Berths"));
        Assert.Equal(3, shelf.Now.Snippets.Select(item => item.Slot).Distinct().Count());
    }

    /// <summary>
    /// Whatever is moved where, the order is that of a plain list, also when there is no room left between two.
    /// </summary>
    [Fact]
    public void Moving_gives_the_order_of_a_plain_list() =>
        Gen.Select(Gen.Int[0, 5], Gen.Int[0, 6])
            .Array[1, 120]
            .Sample(
                moves =>
                {
                    var shelf = new TestShelf().WithSnippets("A", "B", "C", "D", "E", "F");
                    var list = shelf.Names("Berths").ToList();
                    foreach (var (from, before) in moves)
                    {
                        var name = list[from];
                        var other = before < list.Count && list[before] != name ? list[before] : null;
                        list.RemoveAt(from);
                        list.Insert(other is null ? list.Count : list.IndexOf(other), name);
                        shelf.Do(now =>
                            Commands.Move(
                                now,
                                shelf[name].Id,
                                shelf["Berths"].Id,
                                other is null ? null : shelf[other].Id
                            )
                        );
                        Assert.Equal(list, shelf.Names("Berths"));
                    }
                },
                iter: Depth.Of(200)
            );

    [Fact]
    public void When_there_is_no_room_between_two_all_are_placed_anew_and_otherwise_one_row_changes()
    {
        var shelf = new TestShelf().WithSnippets("A", "B", "C");
        var most = 0;
        for (var round = 0; round < 60; round++)
        {
            var names = shelf.Names("Berths");
            most = Math.Max(
                most,
                shelf
                    .Do(now => Commands.Move(now, shelf[names[2]].Id, shelf["Berths"].Id, shelf[names[1]].Id))
                    .Items.Count
            );
        }
        Assert.InRange(most, 2, 3);
        Assert.Single(shelf.Do(now => Commands.Shift(now, shelf[shelf.Names("Berths")[0]].Id, up: false)).Items);
    }

    [Fact]
    public void Shifting_stops_at_the_ends_and_stays_among_its_like()
    {
        var shelf = new TestShelf().WithSnippets("A", "B");
        shelf.Do(now => Commands.AddFolder(now, shelf.Next(), shelf["Berths"].Id, "F"));
        Assert.Equal(["F", "A", "B"], shelf.Names("Berths"));
        Assert.Empty(shelf.Do(now => Commands.Shift(now, shelf["A"].Id, up: true)).Items);
        Assert.Empty(shelf.Do(now => Commands.Shift(now, shelf["F"].Id, up: false)).Items);
        shelf.Do(now => Commands.Shift(now, shelf["A"].Id, up: false));
        Assert.Equal(["F", "B", "A"], shelf.Names("Berths"));
    }

    [Fact]
    public void What_cannot_be_is_refused_with_words_and_changes_nothing()
    {
        var shelf = new TestShelf().WithSnippets("A");
        var library = shelf["Berths"].Id;
        var deepest = library;
        for (var depth = 1; depth <= Catalogue.MaxDepth; depth++)
        {
            var parent = deepest;
            deepest = shelf.Do(now => Commands.AddFolder(now, shelf.Next(), parent, $"F{depth}")).Items[0].Id;
        }
        var top = shelf["F1"].Id;
        shelf.Do(now => Commands.AddFolder(now, shelf.Next(), library, "Other"));
        var before = shelf.Now;

        Assert.Contains(
            "nest at most 12",
            shelf.Refused(now => Commands.AddFolder(now, 99, deepest, "Too deep")),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "nest at most 12",
            shelf.Refused(now => Commands.Move(now, top, shelf["Other"].Id, null)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "into itself",
            shelf.Refused(now => Commands.Move(now, top, deepest, null)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "into itself",
            shelf.Refused(now => Commands.Move(now, top, top, null)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "no library or folder",
            shelf.Refused(now => Commands.Move(now, top, shelf["A"].Id, null)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "here already",
            shelf.Refused(now => Commands.AddSnippet(now, 99, library, TestShelf.Snip("a"))),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "here already",
            shelf.Refused(now => Commands.AddLibrary(now, 99, "BERTHS")),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "There is no snippet 77",
            shelf.Refused(now => Commands.Move(now, shelf["A"].Id, library, 77)),
            StringComparison.Ordinal
        );
        Assert.Throws<MissingItemException>(() => Commands.Move(shelf.Now, 77, library, null));
        Assert.Throws<MissingItemException>(() => Commands.Delete(shelf.Now, 77));
        Assert.Same(before, shelf.Now);
    }

    [Fact]
    public void Renaming_and_moving_break_no_reference()
    {
        var shelf = new TestShelf().WithSnippets("Signature");
        var letter = TestShelf.Snip("Letter") with
        {
            Body = Body.Html.Parse("<p>Dear <slot name='snippet' data-ref='Berths/Signature'></slot></p>"),
        };
        shelf.Do(now => Commands.AddSnippet(now, shelf.Next(), shelf["Berths"].Id, letter));
        var signature = shelf["Signature"].Id;
        shelf.Do(now =>
            Commands.ChangeSnippet(
                now,
                signature,
                now.Get<SnippetItem>(signature).Snippet with
                {
                    Name = "Sign \"off\" & go",
                }
            )
        );
        shelf.Do(now => Commands.AddLibrary(now, shelf.Next(), "Elsewhere"));
        shelf.Do(now => Commands.Move(now, signature, shelf["Elsewhere"].Id, null));

        var kept = ((SnippetItem)shelf["Letter"]).Snippet;
        Assert.Contains($"data-ref=\"#{signature}\"", kept.Body.Source, StringComparison.Ordinal);
        Assert.Equal("text of Signature", shelf.Now.FindBody(References.In(kept.Body)[0])!.Source);
        Assert.Equal(["Elsewhere/Sign \"off\" & go"], References.In(shelf.Now.Outward(kept).Body));
        Assert.Equal(kept, shelf.Now.Inward(shelf.Now.Outward(kept)));
    }

    [Fact]
    public void Snippets_that_would_contain_each_other_are_refused_by_name()
    {
        var shelf = new TestShelf().WithSnippets("A", "B");
        shelf.Refer("A", "Berths/B");
        Assert.Contains(
            "Berths/B → Berths/A → Berths/B",
            shelf.Refused(_ => shelf.Referring("B", "Berths/A")),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Berths/A → Berths/A",
            shelf.Refused(_ => shelf.Referring("A", "Berths/A")),
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// A store may hold anything: folders that lie in each other, or in what is not there, are left aside and end no
    /// program.
    /// </summary>
    [Fact]
    public void What_cannot_be_reached_is_given_back_beside_the_catalogue()
    {
        Item[] items =
        [
            new LibraryItem(1, new Slot(Slot.Shelf, 1), "Berths", true, LibraryRules.Default),
            new FolderItem(2, new Slot(3, 1), "One"),
            new FolderItem(3, new Slot(2, 1), "Other"),
            new SnippetItem(4, new Slot(2, 1), 1, TestShelf.Snip("lost")),
            new SnippetItem(5, new Slot(99, 1), 1, TestShelf.Snip("orphan")),
            new SnippetItem(6, new Slot(1, 1), 1, TestShelf.Snip("there")),
            new FolderItem(7, new Slot(6, 1), "in a snippet"),
            new FolderItem(8, new Slot(Slot.Shelf, 1), "on the shelf"),
        ];
        var (catalogue, unreachable) = Catalogue.Of(items);
        Assert.Equal(["Berths", "there"], catalogue.Within(catalogue.Libraries.Single()).Select(item => item.Name));
        Assert.Equal([2, 3, 4, 5, 7, 8], unreachable.Select(item => item.Id).Order());
    }

    [Fact]
    public void A_catalogue_stays_as_it_was_when_another_is_made_of_it()
    {
        var shelf = new TestShelf().WithSnippets("A", "B");
        var before = shelf.Now;
        shelf.Do(now => Commands.Delete(now, shelf["Berths"].Id));
        Assert.Equal(0, shelf.Now.Count);
        Assert.Equal(["Berths", "A", "B"], before.Within(before.Libraries.Single()).Select(item => item.Name));
    }

    [Fact]
    public void A_change_of_something_that_has_become_another_is_refused()
    {
        var shelf = new TestShelf().WithSnippets("A");
        var late = Commands.Delete(shelf.Now, shelf["A"].Id);
        shelf.Do(now => Commands.ChangeSnippet(now, shelf["A"].Id, TestShelf.Snip("A") with { Note = "new" }));
        Assert.Throws<ConflictException>(() => shelf.Now.With(late));
    }
}
