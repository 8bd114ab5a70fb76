using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>Libraries that are brought in, as new or in the place of others.</summary>
public sealed class ImportingTests
{
    [Fact]
    public void What_replaces_a_library_takes_its_own_place_and_no_other()
    {
        var shelf = new TestShelf();
        foreach (var name in (string[])["A", "B", "C"])
            shelf.Do(now => Commands.AddLibrary(now, shelf.Next(), name));
        Bring(shelf, true, Lib("C", "new in C"), Lib("a", "new in A"), Lib("D"));
        Assert.Equal(["a", "B", "C", "D"], shelf.Now.Libraries.Select(library => library.Name));
        Assert.Equal(["new in C"], shelf.Names("C"));
    }

    [Fact]
    public void What_has_the_same_path_keeps_its_identity_and_references_to_it_hold()
    {
        var shelf = new TestShelf().WithSnippets("Signature", "Old");
        shelf.Do(now => Commands.AddLibrary(now, shelf.Next(), "Letters"));
        shelf.Do(now =>
            Commands.AddSnippet(now, shelf.Next(), shelf["Letters"].Id, Html("Letter", "Berths/Signature"))
        );
        var (signature, old) = (shelf["Signature"].Id, shelf["Old"].Id);
        var change = Bring(shelf, true, Lib("Berths", "New", "Signature"));
        Assert.Equal(["New", "Signature"], shelf.Names("Berths"));
        Assert.Equal(signature, shelf["Signature"].Id);
        Assert.Null(shelf.Now.Find(old));
        Assert.Equal(
            "text of Signature",
            shelf.Now.FindBody(References.In(((SnippetItem)shelf["Letter"]).Snippet.Body)[0])!.Source
        );

        shelf.Turn(change, back: true);
        Assert.Equal(["Signature", "Old"], shelf.Names("Berths"));
        Assert.Equal((signature, old), (shelf["Signature"].Id, shelf["Old"].Id));
    }

    [Fact]
    public void Bringing_in_what_is_there_already_changes_nothing()
    {
        var shelf = new TestShelf();
        Bring(
            shelf,
            false,
            Lib("Berths", "A", "B"),
            new Library(
                "Letters",
                true,
                LibraryRules.Default,
                EquatableList<Folder>.Empty,
                new([Html("Letter", "Berths/A")])
            )
        );
        Assert.Empty(Bring(shelf, true, [.. LibraryValues.Of(shelf.Now, _ => true)]).Items);
    }

    [Fact]
    public void References_in_a_file_are_paths_into_the_file_or_what_is_there()
    {
        var shelf = new TestShelf().WithSnippets("There");
        var letters = new Library(
            "Letters",
            true,
            LibraryRules.Default,
            EquatableList<Folder>.Empty,
            new([Html("One", "Letters/Two"), Html("Two", "Berths/There"), Html("Three", "Nowhere/Else")])
        );
        var (change, dangling) = Importing.Of(shelf.Now, [letters], replace: false, 100);
        shelf.Do(_ => change);
        Assert.Equal(["Letters/Two"], Named("One"));
        Assert.Equal(["Berths/There"], Named("Two"));
        Assert.Equal("“Letters/Three” puts in “Nowhere/Else”, which is not here.", Assert.Single(dangling));

        // What was missing is found as soon as it is there.
        Bring(shelf, false, Lib("Nowhere", "Else"));
        Assert.NotNull(shelf.Now.FindBody(References.In(((SnippetItem)shelf["Three"]).Snippet.Body)[0]));

        string[] Named(string name) =>
            [.. References.In(((SnippetItem)shelf[name]).Snippet.Body).Select(shelf.Now.NameOf)];
    }

    [Theory]
    [InlineData(
        "Letters/Two",
        "Letters/One",
        "contain each other without end: Letters/One → Letters/Two → Letters/One"
    )]
    [InlineData("#7", "Letters/One", "refers to another snippet by its path")]
    public void A_file_whose_snippets_cannot_be_is_refused_whole(string first, string second, string why)
    {
        var letters = new Library(
            "Letters",
            true,
            LibraryRules.Default,
            EquatableList<Folder>.Empty,
            new([Html("One", first), Html("Two", second)])
        );
        Assert.Contains(
            why,
            Assert.Throws<InvalidInputException>(() => Importing.Of(Catalogue.Empty, [letters], false, 1)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_formula_with_an_unknown_field_is_refused_by_the_name_of_its_snippet()
    {
        var fee = TestShelf.Snip("Fee") with
        {
            Body = Body.Html.Parse("<p><output data-formula='nights * 2'></output></p>"),
        };
        var fees = new Library("Fees", true, LibraryRules.Default, EquatableList<Folder>.Empty, new([fee]));
        var why = Assert.Throws<InvalidInputException>(() => Importing.Of(Catalogue.Empty, [fees], false, 1)).Message;
        Assert.Contains("In “Fees/Fee”", why, StringComparison.Ordinal);
        Assert.Contains("“nights”, which is no field", why, StringComparison.Ordinal);
    }

    private static Change Bring(TestShelf shelf, bool replace, params Library[] libraries)
    {
        var change = shelf.Do(now => Importing.Of(now, libraries, replace, shelf.Next() + 1000).Change);
        for (var used = 0; used < 50; used++)
            shelf.Next();
        return change;
    }

    private static Library Lib(string name, params string[] snippets) =>
        new(
            name,
            true,
            LibraryRules.Default,
            EquatableList<Folder>.Empty,
            new(snippets.Select(snippet => TestShelf.Snip(snippet)))
        );

    private static Snippet Html(string name, string reference) =>
        TestShelf.Snip(name) with
        {
            Body = Body.Html.Parse($"<p>x <slot name='snippet' data-ref='{reference}'></slot></p>"),
        };
}
