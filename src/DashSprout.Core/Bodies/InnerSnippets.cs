using System.Globalization;

namespace DashSprout.Core.Bodies;

/// <summary>The snippets that go into one that is worked out: which one it is at now, and how they are nested.</summary>
internal sealed class InnerSnippets(BodyTree tree, RenderContext context)
{
    private readonly List<string> inside = [];
    private readonly Dictionary<string, (Body Body, BodyTree Tree)> bodies = [];
    private readonly Stack<BodyTree> trees = new([tree]);
    private readonly Dictionary<string, List<Inline.Pick>> picks = [];
    private int references;

    /// <summary>Whether another snippet went in so far.</summary>
    public bool HasAny => references > 0;

    /// <summary>Whether a private snippet did.</summary>
    public bool HoldsPrivate { get; private set; }

    /// <summary>The snippet that is being worked out, as others refer to it.</summary>
    public string Here => inside.Count > 0 ? inside[^1] : context.Self;

    /// <summary>
    /// A part that takes turns is named by its snippet and its place there, whatever else goes in.
    /// </summary>
    public string NameOf(Inline.Pick pick)
    {
        if (!picks.TryGetValue(Here, out var known))
            picks[Here] = known = [.. trees.Peek().Inlines().OfType<Inline.Pick>()];
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{Here}/{known.FindIndex(one => ReferenceEquals(one, pick))}"
        );
    }

    /// <summary>Whether a snippet is more than lines.</summary>
    public bool HasBlocks(string target) =>
        Find(target) is { Body: Body.Html } found
        && found.Tree.Blocks.Any(block => block is not (Block.Paragraph or Block.Notice));

    private (Body Body, BodyTree Tree)? Find(string target)
    {
        if (bodies.TryGetValue(target, out var found))
            return found;
        return context.FindSnippet(target) is { } body ? bodies[target] = (body, body.Tree) : null;
    }

    /// <summary>
    /// Works with another snippet; throws <see cref="RenderingException"/> when it is not there, contains itself, or goes
    /// too deep or too often.
    /// </summary>
    public void Within(string target, Action<(Body Body, BodyTree Tree)> work)
    {
        if (++references > BodyLimits.MostReferences)
            throw new RenderingException(BodyLimits.TooManyReferences);
        if (inside.Contains(target))
            throw new RenderingException(
                "The snippets contain each other: "
                    + $"{string.Join(" → ", inside.Append(target).Select(context.NameSnippet))}."
            );
        if (inside.Count >= BodyLimits.MostNesting)
            throw new RenderingException(BodyLimits.NestedTooDeep(inside.Select(context.NameSnippet)));
        HoldsPrivate |= context.IsPrivate(target);
        var found = Find(target)
            ?? throw new RenderingException(
                References.Id(target) is null
                    ? $"The snippet “{target}” inside this one is not there any more. Choose another one or "
                        + "take the part out."
                    : "A snippet inside this one is not there any more. Bring it back from the bin, choose "
                        + "another one or take the part out."
            );
        inside.Add(target);
        trees.Push(found.Tree);
        work(found);
        trees.Pop();
        inside.RemoveAt(inside.Count - 1);
    }
}
