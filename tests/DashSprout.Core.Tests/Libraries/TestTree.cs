using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Libraries;

/// <summary>A tree with a bin, on which commands are carried out.</summary>
internal sealed class TestTree
{
    private readonly Dictionary<long, ItemChange> bin = [];
    private long next;

    public LibraryTree Now { get; private set; } = LibraryTree.Empty;

    /// <summary>The changes so far.</summary>
    public List<Change> Done { get; } = [];

    /// <summary>The first item of a name.</summary>
    public Item this[string name] => Now.Libraries.SelectMany(Now.Within).First(item => item.Name == name);

    public static Snippet Snip(string name, params Trigger[] triggers) =>
        new(name, true, "", false, DeliveryWay.Automatic, false, new Body.Plain($"text of {name}"), new(triggers));

    public long Next() => ++next;

    public TestTree WithSnippets(params string[] names)
    {
        Do(now => Commands.AddLibrary(now, Next(), "Berths"));
        foreach (var name in names)
            Do(now => Commands.AddSnippet(now, Next(), this["Berths"].Id, Snip(name)));
        return this;
    }

    public IReadOnlyList<string> Names(string holder) => [.. Now.Inside(this[holder].Id).Select(item => item.Name)];

    public Change Do(Func<LibraryTree, Change> command)
    {
        var change = command(Now);
        foreach (var item in change.Items.Where(item => item.After is null))
            bin[item.Id] = new ItemChange(null, item.Before, new(Now.Within(item.Before!).Skip(1)));
        Now = Now.With(change);
        Done.Add(change);
        return change;
    }

    public void BringBack(string name) =>
        Do(_ => new Change("back", bin.Values.Single(item => item.After!.Name == name)));

    /// <summary>Undoes a change, or does it again.</summary>
    public void SetUndone(Change change, bool undone) =>
        Do(now => change.On(now, undone, item => bin.GetValueOrDefault(item.Id)));

    public string Refused(Func<LibraryTree, Change> command) =>
        Assert.Throws<InvalidInputException>(() => Now.With(command(Now))).Message;

    public Change Referring(string from, string to)
    {
        var item = (SnippetItem)this[from];
        return Commands.ChangeSnippet(
            Now,
            item.Id,
            item.Snippet with
            {
                Body = Body.Html.Parse($"<p><slot name='snippet' data-ref='{to}'></slot></p>"),
            }
        );
    }

    public void Refer(string from, string to) => Do(_ => Referring(from, to));
}
