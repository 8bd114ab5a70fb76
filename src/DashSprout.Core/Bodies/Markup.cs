using System.Globalization;

namespace DashSprout.Core.Bodies;

/// <summary>What HTML is made of here: text, attributes, styles, elements.</summary>
public static class Markup
{
    /// <summary>Text as HTML writes it.</summary>
    public static string Escape(string text) =>
        text.Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace(">", "&gt;", StringComparison.Ordinal)
            .Replace("\u00A0", "&nbsp;", StringComparison.Ordinal);

    /// <summary>An attribute; nothing when the value is null.</summary>
    public static string Attribute(string name, string? value) => value is null ? "" : $" {name}=\"{Escaped(value)}\"";

    /// <summary>A value as it stands between the quotation marks of an attribute.</summary>
    public static string Escaped(string value) =>
        Escape(value)
            .Replace("\"", "&quot;", StringComparison.Ordinal)
            .Replace("\n", "&#10;", StringComparison.Ordinal);

    /// <summary>The style attribute of an alignment.</summary>
    public static string Aligned(Align align) =>
        align == Align.Default ? "" : $" style=\"text-align: {Wording.Of(align)}\"";

    /// <summary>The style attribute of colours and letters.</summary>
    public static string Styled(TextStyle style)
    {
        var parts = new List<string>();
        if (style.Color is not null)
            parts.Add($"color: {style.Color}");
        if (style.Background is not null)
            parts.Add($"background-color: {style.Background}");
        if (style.Family is not null)
            parts.Add($"font-family: {style.Family}");
        if (style.Size is not null)
            parts.Add($"font-size: {style.Size}");
        return Attribute("style", string.Join("; ", parts));
    }

    /// <summary>The element of a picture.</summary>
    public static string Picture(string media, string alt, int? width) =>
        $"<img{Attribute("src", "media:" + media)}{Attribute("alt", alt)}{Attribute("width", width?.ToString(CultureInfo.InvariantCulture))}>";

    /// <summary>The element name of a way to set text off.</summary>
    public static string Name(Emphasis emphasis) => Wording.Of(emphasis);
}
