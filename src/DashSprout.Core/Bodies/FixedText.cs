namespace DashSprout.Core.Bodies;

/// <summary>What a body puts in before anything has to be worked out: the text that is the same every time.</summary>
/// <param name="Text">The text up to the first live part; lines are kept.</param>
/// <param name="IsWhole">Whether that is all it puts in.</param>
public readonly record struct FixedText(string Text, bool IsWhole)
{
    /// <summary>The fixed text of a body.</summary>
    public static FixedText Of(Body body)
    {
        if (body is Body.Plain plain)
            return new FixedText(plain.Text, true);
        var text = new System.Text.StringBuilder();
        var whole = true;
        foreach (var block in body.Tree.Blocks)
        {
            if (text.Length > 0)
                text.Append('\n');
            whole = block switch
            {
                Block.Paragraph paragraph => Add(text, paragraph.Content),
                Block.Heading heading => Add(text, heading.Content),
                Block.Preformatted preformatted => Add(text, preformatted.Content),
                _ => false,
            };
            if (!whole)
                break;
        }
        return new FixedText(text.ToString(), whole);
    }

    /// <summary>Adds what is fixed of a line; false when something in it is not.</summary>
    private static bool Add(System.Text.StringBuilder text, IEnumerable<Inline> parts)
    {
        foreach (var part in parts)
        {
            var isFixed = part switch
            {
                Inline.Text words => Written(text, words.Value),
                Inline.Break => Written(text, "\n"),
                Inline.Emphasised emphasised => Add(text, emphasised.Content),
                Inline.Styled styled => Add(text, styled.Content),
                Inline.Link link => Add(text, link.Content),
                Inline.Caret => true,
                _ => false,
            };
            if (!isFixed)
                return false;
        }
        return true;
    }

    private static bool Written(System.Text.StringBuilder text, string words)
    {
        text.Append(words);
        return true;
    }
}
