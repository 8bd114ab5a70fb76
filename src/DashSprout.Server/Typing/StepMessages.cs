using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;

namespace DashSprout.Server.Typing;

/// <summary>One step of a delivery.</summary>
/// <param name="Kind"><c>delete</c>, <c>remember</c>, <c>put-in</c>, <c>take-back</c>, <c>set-clipboard</c>,
/// <c>paste</c>, <c>restore-clipboard</c>, <c>press</c>, <c>move-back</c>, <c>select-back</c>, <c>wait</c> (count in
/// milliseconds), <c>go-to</c> (the application in plain, the field in key), <c>open</c> or <c>notice</c> (both in
/// plain).
/// </param>
/// <param name="Flow">The text with its formatting, for a rich field.</param>
public sealed record StepMessage(
    string Kind,
    int Count = 0,
    string? Plain = null,
    FlowMessage? Flow = null,
    string? Key = null
)
{
    internal static StepMessage Of(DeliveryStep step) =>
        step switch
        {
            DeliveryStep.Delete delete => new("delete", delete.Graphemes),
            DeliveryStep.Remember => new("remember"),
            DeliveryStep.PutIn putIn => new("put-in", 0, putIn.Plain, FlowMessage.Of(putIn.Rich)),
            DeliveryStep.TakeBack takeBack => new("take-back", takeBack.Steps),
            DeliveryStep.SetClipboard set => new("set-clipboard", 0, set.Plain, FlowMessage.Of(set.Rich)),
            DeliveryStep.Paste => new("paste"),
            DeliveryStep.RestoreClipboard => new("restore-clipboard"),
            DeliveryStep.GoTo goTo => new("go-to", 0, goTo.App, Key: goTo.Field),
            DeliveryStep.Press press => new("press", 1, Key: press.Key.Value),
            DeliveryStep.MoveBack move => new("move-back", move.Steps),
            DeliveryStep.SelectBack select => new("select-back", select.Steps),
            DeliveryStep.Wait wait => new("wait", (int)wait.For.TotalMilliseconds),
            DeliveryStep.Open open => new("open", 0, open.Target),
            DeliveryStep.ShowNotice notice => new("notice", 0, notice.Text),
            _ => throw new ArgumentOutOfRangeException(nameof(step)),
        };
}

/// <summary>A text with its formatting, as structure: lines in their blocks.</summary>
public sealed record FlowMessage(IReadOnlyList<LineMessage> Lines)
{
    internal static FlowMessage? Of(Flow? flow)
    {
        if (flow is null)
            return null;
        var ids = new Dictionary<Frame, int>(ReferenceEqualityComparer.Instance);
        return new([
            .. flow.Leaves.Select(leaf => new LineMessage(
                [.. leaf.Frames.Select(frame => FrameMessage.Of(frame, Id(frame)))],
                [.. leaf.Pieces.Select(PieceMessage.Of).OfType<PieceMessage>()]
            )),
        ]);

        int Id(Frame frame)
        {
            if (ids.TryGetValue(frame, out var id))
                return id;
            return ids[frame] = ids.Count;
        }
    }
}

/// <summary>A line in its blocks, outermost first.</summary>
public sealed record LineMessage(IReadOnlyList<FrameMessage> Frames, IReadOnlyList<PieceMessage> Pieces);

/// <summary>A block on the way down to a line; lines with the same id here lie in the same block.</summary>
/// <param name="Kind">As <see cref="FrameKind"/>.</param>
/// <param name="Number">A heading's level or an item's place.</param>
/// <param name="Align"><c>default</c>, <c>left</c>, <c>center</c>, <c>right</c> or <c>justify</c>.</param>
public sealed record FrameMessage(int Id, string Kind, int Number, string Align)
{
    internal static FrameMessage Of(Frame frame, int id) =>
        new(id, Wording.Of(frame.Kind), frame.Number, Wording.Of(frame.Align));
}

/// <summary>A piece of a line: <c>words</c> with their formatting, a <c>break</c> or a <c>picture</c>.</summary>
public sealed record PieceMessage(string Kind, string Text, IReadOnlyList<MarkMessage> Marks, PictureMessage? Picture)
{
    internal static PieceMessage? Of(Piece piece) =>
        piece switch
        {
            Piece.Words words => new("words", words.Text, [.. words.Marks.Select(MarkMessage.Of)], null),
            Piece.Break => new("break", "", [], null),
            Piece.Picture picture => new(
                "picture",
                "",
                [],
                new PictureMessage(picture.Media, picture.Alt, picture.Width)
            ),
            _ => null,
        };
}

/// <summary>A picture kept beside the libraries.</summary>
public sealed record PictureMessage(string Media, string Alt, int? Width);

/// <summary>
/// Formatting: <c>strong</c>, <c>em</c>, <c>u</c>, <c>s</c>, <c>code</c>, <c>link</c> (with its target) or
/// <c>styled</c>.
/// </summary>
public sealed record MarkMessage(string Kind, string? Target = null, StyleMessage? Style = null)
{
    internal static MarkMessage Of(Mark mark) =>
        mark switch
        {
            Mark.Emphasised emphasised => new(Wording.Of(emphasised.Emphasis)),
            Mark.Link link => new("link", link.Target),
            Mark.Styled { Style: var style } => new(
                "styled",
                Style: new StyleMessage(style.Color, style.Background, style.Family, style.Size)
            ),
            _ => throw new ArgumentOutOfRangeException(nameof(mark)),
        };
}

/// <summary>Colours and letters, as CSS values; null where nothing is said.</summary>
public sealed record StyleMessage(string? Color, string? Background, string? Family, string? Size);
