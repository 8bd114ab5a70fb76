using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;
using DashSprout.Core.Triggers;
using DashSprout.Documents;

namespace DashSprout.Server.Tests;

/// <summary>A mirror file tells where each entry comes from, unless somebody has changed it by hand since.</summary>
public sealed class MirrorOriginsTests
{
    private static readonly MirrorState State = new(
        new MachineStates([KeyValuePair.Create("a", 3), KeyValuePair.Create("b", 5)]),
        new SharedLibrary(
            new SharedRoot("Berth desk", true, LibraryRules.Default),
            new([
                new SharedFolder("f", SharedLibrary.Top, "Greetings", true, null),
                Snippet("one", "f", new Body.Plain("Kind regards")),
                Snippet("two", "f", new Body.Html("<p><slot name=\"snippet\" data-ref=\"/one\"></slot></p>")),
                Snippet("three", SharedLibrary.Top, new Body.Plain("of nobody known")),
            ]),
            EquatableList<string>.Empty
        )
    )
    {
        Origins = new Dictionary<string, Origin>
        {
            ["f"] = new("a", 1),
            ["one"] = new("a", 3),
            ["two"] = new("b", 5),
        },
    };

    [Fact]
    public void They_come_back_as_they_were()
    {
        var read = MirrorFile.Read(MirrorFile.Write("k", State), () => "new").State;
        Assert.Equal(State, read);
        Assert.Equal(State.Origins.OrderBy(pair => pair.Key), read.Origins.OrderBy(pair => pair.Key));
    }

    [Theory]
    [InlineData("\"Kind regards\"", "\"Best regards\"", "one")]
    [InlineData("\"name\": \"Greetings\"", "\"name\": \"Regards\"", "f two")]
    [InlineData("\"machine\": \"b\"", "\"machine\": \"\"", "two")]
    [InlineData("\"state\": 5", "\"state\": 0", "two")]
    public void What_was_changed_by_hand_comes_from_nowhere(string was, string now, string keys)
    {
        var text = MirrorFile.Write("k", State);
        Assert.Contains(was, text, StringComparison.Ordinal);
        var read = MirrorFile.Read(text.Replace(was, now, StringComparison.Ordinal), () => "new").State;
        // A snippet that named another by its folder's name says something else now as well.
        Assert.Equal(State.Origins.Keys.Except(keys.Split(' ')).Order(), read.Origins.Keys.Order());
    }

    private static SharedSnippet Snippet(string key, string parent, Body body) =>
        new(
            key,
            parent,
            new Snippet(key, true, "", false, DeliveryWay.Automatic, false, body, EquatableList<Trigger>.Empty)
        );
}
