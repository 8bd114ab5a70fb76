namespace DashSprout.Core.Bodies;

/// <summary>
/// The one form in which a line is kept: what it says can be nested in many ways, and two lines that say the same are
/// equal only when they are nested alike. Formatting lies in the order of <see cref="Rank"/>, no kind of it twice in
/// itself, and neighbours that are formatted alike are one; formatting around nothing is left out. The page's editor
/// keeps lines in the same form.
/// </summary>
internal static class InlineNormal
{
    /// <summary>A part that holds no other formatting, with the formatting around it, outermost first.</summary>
    private readonly record struct Formatted(Inline Leaf, Inline[] Around);

    /// <summary>The line in its one form.</summary>
    public static EquatableList<Inline> Of(IEnumerable<Inline> line)
    {
        var flat = new List<Formatted>();
        Flatten(line, [], flat);
        return Nest(flat, 0, flat.Count, 0);
    }

    private static void Flatten(IEnumerable<Inline> line, Inline[] around, List<Formatted> flat)
    {
        foreach (var part in line)
        {
            switch (part)
            {
                case Inline.Text { Value.Length: 0 }:
                    break;
                // Nothing that is left selected is a caret.
                case Inline.Selected { Content.Count: 0 }:
                    flat.Add(new(new Inline.Caret(), around));
                    break;
                case Inline.Emphasised emphasised:
                    Flatten(emphasised.Content, With(around, part), flat);
                    break;
                case Inline.Styled styled:
                    Flatten(styled.Content, With(around, part), flat);
                    break;
                case Inline.Link link:
                    Flatten(link.Content, With(around, part), flat);
                    break;
                case Inline.Passage passage:
                    Flatten(passage.Content, With(around, part), flat);
                    break;
                case Inline.Selected selected:
                    Flatten(selected.Content, With(around, part), flat);
                    break;
                case Inline.Selection selection:
                    flat.Add(new(new Inline.Selection(Of(selection.Otherwise)), around));
                    break;
                case Inline.Pick pick:
                    flat.Add(new(pick with { Choices = new(pick.Choices.Select(Of)) }, around));
                    break;
                default:
                    flat.Add(new(part, around));
                    break;
            }
        }
    }

    /// <summary>The formatting with one more inside it, in the order of the ranks.</summary>
    private static Inline[] With(Inline[] around, Inline more)
    {
        var shell = Shell(more);
        if (around.Contains(shell))
            return around;
        if (shell is Inline.Styled inner && Array.Find(around, one => one is Inline.Styled) is Inline.Styled outer)
            return
            [
                .. around.Select(one =>
                    one == outer
                        ? new Inline.Styled(Merged(outer.Style, inner.Style), EquatableList<Inline>.Empty)
                        : one
                ),
            ];
        if (shell is Inline.Link)
            around = [.. around.Where(one => one is not Inline.Link)];
        var at = around.Length;
        while (at > 0 && Rank(around[at - 1]) > Rank(shell))
            at--;
        return [.. around[..at], shell, .. around[at..]];
    }

    private static TextStyle Merged(TextStyle outer, TextStyle inner) =>
        new(
            inner.Color ?? outer.Color,
            inner.Background ?? outer.Background,
            inner.Family ?? outer.Family,
            inner.Size ?? outer.Size
        );

    /// <summary>The formatting without what it is around.</summary>
    private static Inline Shell(Inline part) => Around(part, EquatableList<Inline>.Empty);

    /// <summary>The formatting around another content.</summary>
    public static Inline Around(Inline shell, EquatableList<Inline> content) =>
        shell switch
        {
            Inline.Emphasised emphasised => emphasised with { Content = content },
            Inline.Styled styled => styled with { Content = content },
            Inline.Link link => link with { Content = content },
            Inline.Passage passage => passage with { Content = content },
            Inline.Selected => new Inline.Selected(content),
            _ => throw new ArgumentOutOfRangeException(nameof(shell)),
        };

    /// <summary>What lies further out has a lower rank: what is left selected is never cut into pieces.</summary>
    private static int Rank(Inline shell) =>
        shell switch
        {
            Inline.Selected => 0,
            Inline.Passage => 1,
            Inline.Link => 2,
            Inline.Styled => 3,
            Inline.Emphasised emphasised => 4 + (int)emphasised.Emphasis,
            _ => throw new ArgumentOutOfRangeException(nameof(shell)),
        };

    private static EquatableList<Inline> Nest(List<Formatted> flat, int from, int to, int depth)
    {
        var line = new List<Inline>();
        while (from < to)
        {
            var (leaf, around) = flat[from];
            if (around.Length <= depth)
            {
                if (leaf is Inline.Text text && line is [.., Inline.Text before])
                    line[^1] = new Inline.Text(before.Value + text.Value);
                else
                    line.Add(leaf);
                from++;
                continue;
            }
            var end = from + 1;
            while (end < to && flat[end].Around is var other && other.Length > depth && other[depth] == around[depth])
                end++;
            line.Add(Around(around[depth], Nest(flat, from, end, depth + 1)));
            from = end;
        }
        return new(line);
    }
}
