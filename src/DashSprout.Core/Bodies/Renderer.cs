namespace DashSprout.Core.Bodies;

/// <summary>Works a body out: every live part becomes text, a key press, or something beside the text.</summary>
public static class Renderer
{
    /// <summary>
    /// Renders a body; throws <see cref="RenderingException"/> when it cannot be put in as things are.
    /// </summary>
    public static Rendering Render(Body body, RenderContext context, Capitals capitals)
    {
        if (body is Body.Plain plain)
            return new Rendering(Flow.OfText(CapitalShapes.Shape(plain.Text, capitals, context.Locale)), [], [], []);
        return Render(body.Tree, context, capitals);
    }

    /// <summary>The lines that a tree comes to.</summary>
    internal static Flow Render(BodyTree tree, RenderContext context) => Render(tree, context, Capitals.AsWritten).Flow;

    private static Rendering Render(BodyTree tree, RenderContext context, Capitals capitals)
    {
        var run = new BlockRendering(tree, context, capitals);
        run.Blocks(tree.Blocks, []);
        return new Rendering(new Flow(run.Leaves), run.Opened, run.Notices, run.Rotations, run.HoldsPrivate);
    }
}
