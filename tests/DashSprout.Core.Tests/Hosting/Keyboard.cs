using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;

namespace DashSprout.Core.Tests.Hosting;

/// <summary>A host with a keyboard in front of it that does as it is told, without a field behind.</summary>
internal sealed class Keyboard
{
    private long now;

    public Keyboard(
        TriggerIndex index,
        FieldKind field = FieldKind.Plain,
        bool hints = true,
        string app = "post",
        Func<string, bool>? rests = null,
        Func<ITextFollower>? follow = null
    )
    {
        Index = index;
        Host = new TypingHost(
            new HostServices
            {
                Index = () => Index,
                Context = () => new RenderContext { FindSnippet = _ => null },
                Hints = () => hints,
                RestsIn = rests ?? (_ => false),
                Follow = follow ?? (() => new NoFollower()),
                MayOpen = opening => MayOpen || !opening.Target.Contains("example", StringComparison.Ordinal),
            }
        );
        Last = Host.Focus(app, field);
    }

    public TriggerIndex Index { get; set; }

    public bool MayOpen { get; set; }

    public TypingHost Host { get; }

    public HostAnswer Last { get; set; }

    /// <summary>Presses keys, one for each grapheme; each is held back if the host wants it so.</summary>
    public Keyboard Type(string text)
    {
        foreach (var key in Key.ForText(text))
            Press(key.Value);
        return this;
    }

    public Keyboard Press(string value)
    {
        var key = Key.Parse("key", value);
        var held =
            Last.Next == Hold.Everything
            || (Last.Next == Hold.ActingKeys && key.Kind != KeyKind.Typed)
            || Host.Chords().Contains(key.Value);
        return Press(value, held);
    }

    public Keyboard Press(string value, bool held, bool endsLine = true)
    {
        now += 50;
        Last = Host.Press(new Keystroke(Key.Parse("key", value), AtMs: now), held, endsLine: endsLine);
        return this;
    }

    public static string Told(HostAnswer answer) =>
        string.Join(
            ", ",
            answer
                .Steps.Where(step => step is not DeliveryStep.Remember)
                .Select(step =>
                    step switch
                    {
                        DeliveryStep.Delete delete => $"delete {delete.Graphemes}",
                        DeliveryStep.PutIn putIn => $"put in “{putIn.Plain}”",
                        DeliveryStep.Press press => $"press {press.Key}",
                        DeliveryStep.TakeBack takeBack => $"take back {takeBack.Steps}",
                        DeliveryStep.Open open => $"open {open.Target}",
                        _ => step.GetType().Name,
                    }
                )
        );

    public string Steps => Told(Last);
}
