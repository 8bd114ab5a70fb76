using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>Snippets on their way in from a file.</summary>
public sealed class IncomingTests
{
    private static IncomingSnippet In(string name, string text, params string[] folders) =>
        new(
            1,
            new(folders),
            TestTree.Snip(name) with
            {
                Body = new Body.Plain(text),
                Note = "from the file",
            },
            new([SnippetParts.Text])
        );

    private static (TestTree Tree, string Fates) Bring(
        TestTree testTree,
        SameName same,
        params IncomingSnippet[] incoming
    )
    {
        IReadOnlyList<IncomingOutcome> outcomes = [];
        testTree.Do(now =>
        {
            (var change, outcomes) = Incoming.Bring(now, 100, testTree["Berths"].Id, incoming, same);
            return change;
        });
        return (testTree, string.Join(", ", outcomes.Select(outcome => $"{Wording.Of(outcome.Fate)} {outcome.Name}")));
    }

    [Fact]
    public void What_is_new_is_added_and_folders_are_made_once()
    {
        var (testTree, fates) = Bring(
            new TestTree().WithSnippets("a"),
            SameName.Change,
            In("x", "X", "Letters", "Formal"),
            In("y", "Y", "letters"),
            In("z", "Z"),
            In("w", "W", "Letters", "Formal")
        );
        Assert.Equal("add x, add y, add z, add w", fates);
        Assert.Equal(["Letters", "a", "z"], testTree.Names("Berths"));
        Assert.Equal(["Formal", "y"], testTree.Names("Letters"));
        Assert.Equal(["x", "w"], testTree.Names("Formal"));
        testTree.SetUndone(testTree.Done[^1], undone: true);
        Assert.Equal(["a"], testTree.Names("Berths"));
    }

    [Fact]
    public void One_whose_name_is_here_changes_it_in_the_parts_that_the_file_speaks_of()
    {
        var (testTree, fates) = Bring(
            new TestTree().WithSnippets("a", "b"),
            SameName.Change,
            In("A", "new"),
            In("b", "text of b")
        );
        Assert.Equal("change a, same b", fates);
        var snippet = ((SnippetItem)testTree["a"]).Snippet;
        Assert.Equal(("a", "new", ""), (snippet.Name, snippet.Body.Source, snippet.Note));
        Assert.Equal(2, ((SnippetItem)testTree["a"]).Version);
    }

    [Theory]
    [InlineData(SameName.Number, "add a 2, add a 3", "a a 2 a 3")]
    [InlineData(SameName.Leave, "leave a, add a 2", "a a 2")]
    [InlineData(SameName.Change, "change a, add a 2", "a a 2")]
    public void A_name_that_comes_twice_is_two_snippets(SameName same, string fates, string names)
    {
        var (testTree, outcome) = Bring(new TestTree().WithSnippets("a"), same, In("a", "one"), In("a", "two"));
        Assert.Equal(fates, outcome);
        Assert.Equal(names, string.Join(' ', testTree.Names("Berths")));
    }

    [Fact]
    public void References_to_what_is_here_go_by_identity_and_others_are_kept()
    {
        var testTree = new TestTree().WithSnippets("a");
        var body = Body.Html.Parse(
            "<p><slot name='snippet' data-ref='Berths/a'></slot><slot name='snippet' data-ref='Berths/later'>"
                + "</slot></p>"
        );
        Bring(
            testTree,
            SameName.Change,
            new IncomingSnippet(
                1,
                EquatableList<string>.Empty,
                TestTree.Snip("x") with
                {
                    Body = body,
                },
                new([SnippetParts.Text])
            )
        );
        Assert.Equal(
            [References.To(testTree["a"].Id), "Berths/later"],
            References.In(((SnippetItem)testTree["x"]).Snippet.Body)
        );
    }
}
