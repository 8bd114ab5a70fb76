using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>Libraries that are brought in, as new or in the place of others.</summary>
public sealed class ImportingTests
{
    [Fact]
    public void What_replaces_a_library_takes_its_own_place_and_no_other()
    {
        var testTree = new TestTree();
        foreach (var name in (string[])["A", "B", "C"])
            testTree.Do(now => Commands.AddLibrary(now, testTree.Next(), name));
        Bring(testTree, true, Lib("C", "new in C"), Lib("a", "new in A"), Lib("D"));
        Assert.Equal(["a", "B", "C", "D"], testTree.Now.Libraries.Select(library => library.Name));
        Assert.Equal(["new in C"], testTree.Names("C"));
    }

    [Fact]
    public void What_has_the_same_path_keeps_its_identity_and_references_to_it_hold()
    {
        var testTree = new TestTree().WithSnippets("Signature", "Old");
        testTree.Do(now => Commands.AddLibrary(now, testTree.Next(), "Letters"));
        testTree.Do(now =>
            Commands.AddSnippet(now, testTree.Next(), testTree["Letters"].Id, Html("Letter", "Berths/Signature"))
        );
        var (signature, old) = (testTree["Signature"].Id, testTree["Old"].Id);
        var change = Bring(testTree, true, Lib("Berths", "New", "Signature"));
        Assert.Equal(["New", "Signature"], testTree.Names("Berths"));
        Assert.Equal(signature, testTree["Signature"].Id);
        Assert.Null(testTree.Now.Find(old));
        Assert.Equal(
            "text of Signature",
            testTree.Now.FindBody(References.In(((SnippetItem)testTree["Letter"]).Snippet.Body)[0])!.Source
        );

        testTree.SetUndone(change, undone: true);
        Assert.Equal(["Signature", "Old"], testTree.Names("Berths"));
        Assert.Equal((signature, old), (testTree["Signature"].Id, testTree["Old"].Id));
    }

    [Fact]
    public void Bringing_in_what_is_there_already_changes_nothing()
    {
        var testTree = new TestTree();
        Bring(
            testTree,
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
        Assert.Empty(Bring(testTree, true, [.. LibraryValues.Of(testTree.Now, _ => true)]).Items);
    }

    [Fact]
    public void References_in_a_file_are_paths_into_the_file_or_what_is_there()
    {
        var testTree = new TestTree().WithSnippets("There");
        var letters = new Library(
            "Letters",
            true,
            LibraryRules.Default,
            EquatableList<Folder>.Empty,
            new([Html("One", "Letters/Two"), Html("Two", "Berths/There"), Html("Three", "Nowhere/Else")])
        );
        var (change, dangling) = Importing.Of(testTree.Now, [letters], replace: false, 100);
        testTree.Do(_ => change);
        Assert.Equal(["Letters/Two"], Named("One"));
        Assert.Equal(["Berths/There"], Named("Two"));
        Assert.Equal("“Letters/Three” puts in “Nowhere/Else”, which is not here.", Assert.Single(dangling));

        // What was missing is found as soon as it is there.
        Bring(testTree, false, Lib("Nowhere", "Else"));
        Assert.NotNull(testTree.Now.FindBody(References.In(((SnippetItem)testTree["Three"]).Snippet.Body)[0]));

        string[] Named(string name) =>
            [.. References.In(((SnippetItem)testTree[name]).Snippet.Body).Select(testTree.Now.NameOf)];
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
            Assert.Throws<InvalidInputException>(() => Importing.Of(LibraryTree.Empty, [letters], false, 1)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_formula_with_an_unknown_field_is_refused_by_the_name_of_its_snippet()
    {
        var fee = TestTree.Snip("Fee") with
        {
            Body = Body.Html.Parse("<p><output data-formula='nights * 2'></output></p>"),
        };
        var fees = new Library("Fees", true, LibraryRules.Default, EquatableList<Folder>.Empty, new([fee]));
        var why = Assert.Throws<InvalidInputException>(() => Importing.Of(LibraryTree.Empty, [fees], false, 1)).Message;
        Assert.Contains("In “Fees/Fee”", why, StringComparison.Ordinal);
        Assert.Contains("“nights”, which is no field", why, StringComparison.Ordinal);
    }

    private static Change Bring(TestTree testTree, bool replace, params Library[] libraries)
    {
        var change = testTree.Do(now => Importing.Of(now, libraries, replace, testTree.Next() + 1000).Change);
        for (var used = 0; used < 50; used++)
            testTree.Next();
        return change;
    }

    private static Library Lib(string name, params string[] snippets) =>
        new(
            name,
            true,
            LibraryRules.Default,
            EquatableList<Folder>.Empty,
            new(snippets.Select(snippet => TestTree.Snip(snippet)))
        );

    private static Snippet Html(string name, string reference) =>
        TestTree.Snip(name) with
        {
            Body = Body.Html.Parse($"<p>x <slot name='snippet' data-ref='{reference}'></slot></p>"),
        };
}
