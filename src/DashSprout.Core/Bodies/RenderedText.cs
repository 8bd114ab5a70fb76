using System.Text;
using DashSprout.Core.Text;

namespace DashSprout.Core.Bodies;

/// <summary>Text on its way into a body: its capitals, and how much of it there may be.</summary>
/// <param name="mayGrow">Whether more may go in than is written: other snippets, or repeated rows.</param>
internal sealed class RenderedText(RenderContext context, Capitals capitals, Func<bool> mayGrow)
{
    private bool firstLetterPending = capitals == Capitals.First;
    private int characters,
        outside;

    /// <summary>The snippet's own words take the typed capitals.</summary>
    public string Own(string text)
    {
        Grow(text.Length);
        if (capitals == Capitals.All)
            return FullCasing.Upper(text, context.Locale);
        if (!firstLetterPending)
            return text;
        text = CapitalShapes.FirstInTitleCase(text, context.Locale, out var found);
        firstLetterPending = !found;
        return text;
    }

    /// <summary>Snippets that hold others many times over are stopped before they become too much.</summary>
    public void Grow(int by)
    {
        characters += by;
        if (characters > BodyLimits.MostCharacters && mayGrow())
            throw new RenderingException(BodyLimits.TooLong);
    }

    /// <summary>What comes from outside stays as it is.</summary>
    public string Outside(string text)
    {
        outside += text.Length;
        if (outside > RenderContext.MostUnits)
            throw new RenderingException(
                $"More than {RenderContext.MostUnits:N0} characters of the clipboard, the selection and "
                    + "answers would go in. Put them in less often."
            );
        if (firstLetterPending && text.EnumerateRunes().Any(Rune.IsLetter))
            firstLetterPending = false;
        return text.ReplaceLineEndings("\n");
    }
}
