using System.Text;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;

namespace DashSprout.Core.Bodies;

/// <summary>Renders a body of paragraphs and lines to text.</summary>
public static class BodyText
{
    /// <summary>The plain text: blocks are separated by one line end, and a <c>br</c> is one too.</summary>
    public static string Render(Body body, Capitals capitals = Capitals.AsWritten) =>
        CapitalShapes.Shape(body switch
        {
            Body.Plain plain => plain.Text,
            Body.Html html => Paragraphs(html.Markup),
            _ => throw new ArgumentOutOfRangeException(nameof(body)),
        }, capitals);

    private static string Paragraphs(string markup)
    {
        var text = new StringBuilder();
        foreach (var node in new HtmlParser().ParseDocument(markup).Body!.ChildNodes)
        {
            if (node is IElement && text.Length > 0) text.Append('\n');
            Append(node, text);
        }
        return text.ToString();
    }

    private static void Append(INode node, StringBuilder text)
    {
        if (node is IText words) text.Append(words.Data);
        if (node is IElement { LocalName: "br" }) text.Append('\n');
        foreach (var child in node.ChildNodes) Append(child, text);
    }
}
