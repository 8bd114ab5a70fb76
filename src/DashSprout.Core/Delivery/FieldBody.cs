using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;

namespace DashSprout.Core.Delivery;

/// <summary>What of a snippet goes into a kind of field.</summary>
public static class FieldBody
{
    /// <summary>
    /// The snippet as a kind of field takes it: where there is no formatting, its plain twin stands for its body.
    /// </summary>
    public static Snippet For(this Snippet snippet, FieldKind field) =>
        snippet.Twin is { } twin && field is FieldKind.Plain or FieldKind.SingleLine or FieldKind.Secret
            ? snippet with
            {
                Body = twin,
            }
            : snippet;

    /// <summary>The context with what a snippet itself wants of links.</summary>
    public static RenderContext Writing(this RenderContext context, LinkWriting links) =>
        links == LinkWriting.AsSet ? context : context with { ShowsLinkTargets = links == LinkWriting.WithAddress };
}
