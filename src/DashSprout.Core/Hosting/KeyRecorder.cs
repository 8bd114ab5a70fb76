using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Text;

namespace DashSprout.Core.Hosting;

/// <summary>
/// Records what is typed, as a snippet can do it again: text, keys, and fields by their names. What an abbreviation
/// grew into is recorded as its text, since nothing that a snippet puts in sets off another. Whoever uses it keeps
/// fields away that hide what is typed.
/// </summary>
public sealed class KeyRecorder
{
    /// <summary>The most parts of a recording; what comes behind them is left out.</summary>
    public const int MostParts = 1000;

    private const int LongestName = 80,
        LongestRun = 200;
    private static readonly HashSet<string> Movers = ["Tab", "Shift+Tab", "Enter", "Escape"];
    private static readonly HashSet<string> Switchers =
    [
        "Alt+Tab",
        "Alt+Shift+Tab",
        "Meta+Tab",
        "Shift+Meta+Tab",
        "Alt+Escape",
        "Alt+Shift+Escape",
    ];
    private readonly List<Inline> parts = [];
    private (string App, string Field) field;
    private bool moving;

    /// <summary>Begins in a place that is not named: what stays there can be done again anywhere.</summary>
    public KeyRecorder() { }

    /// <summary>Begins in a field that has the focus already; only leaving it is recorded.</summary>
    public KeyRecorder(string app, string name) => field = (app, Short(name));

    /// <summary>Whether nothing was typed.</summary>
    public bool IsEmpty => parts.TrueForAll(part => part is Inline.GoTo);

    /// <summary>Whether keys were left out, because there are too many.</summary>
    public bool IsFull => parts.Count >= MostParts;

    /// <summary>Another field has the focus. One that a key has led to is reached again by that key.</summary>
    /// <param name="app">The application's id.</param>
    /// <param name="name">The field's name, or a window's title.</param>
    public void Focused(string app, string name)
    {
        name = Short(name);
        // The keys that choose among windows lead elsewhere another time; the window is found by its name.
        while (parts is [.., Inline.KeyPress { Key: var last }] && Switchers.Contains(last.Value))
        {
            parts.RemoveAt(parts.Count - 1);
            moving = false;
        }
        if ((app, name) != field && !moving && app.Length > 0)
            Add(new Inline.GoTo(app, name));
        field = (app, name);
        moving = false;
    }

    /// <summary>Something was clicked, so that no key leads where the focus goes next.</summary>
    public void Clicked() => moving = false;

    /// <summary>Something came of a key or of an answer.</summary>
    /// <param name="keys">Those that are in the field already; a key that was held back reaches it by the steps
    /// alone.</param>
    /// <param name="steps">What is carried out.</param>
    public void Decided(IReadOnlyList<Key> keys, IReadOnlyList<DeliveryStep> steps)
    {
        foreach (var key in keys)
            Press(key);
        foreach (var step in steps)
        {
            switch (step)
            {
                case DeliveryStep.Delete delete:
                    Remove(delete.Graphemes);
                    break;
                case DeliveryStep.TakeBack back:
                    Remove(back.Steps);
                    break;
                case DeliveryStep.PutIn put:
                    Type(put.Plain);
                    break;
                // What is set on the clipboard on the way is pasted right behind.
                case DeliveryStep.SetClipboard set:
                    Type(set.Plain);
                    break;
                case DeliveryStep.Press press:
                    Press(press.Key);
                    break;
                case DeliveryStep.GoTo goTo:
                    Add(new Inline.GoTo(goTo.App, goTo.Field));
                    field = (goTo.App, goTo.Field);
                    break;
            }
        }
    }

    /// <summary>The body that does it again.</summary>
    public Body.Html ToBody() =>
        new(BodyWriter.Write(new BodyTree(new([new Block.Paragraph(new(Runs().SelectMany(Lines)))]))));

    /// <summary>The parts with keys that follow each other as runs.</summary>
    private IEnumerable<Inline> Runs()
    {
        for (var at = 0; at < parts.Count; )
        {
            var end = at;
            while (end < parts.Count && parts[end] is Inline.KeyPress)
                end++;
            var keys = parts[at..end]
                .Cast<Inline.KeyPress>()
                .SelectMany(press => Enumerable.Repeat(press.Key, press.Times))
                .ToList();
            if (end - at < 2 || keys.Count > LongestRun)
                yield return parts[at++];
            else
            {
                yield return new Inline.KeyRun(new(keys));
                at = end;
            }
        }
    }

    private static string Short(string name) => name[..Graphemes.Offset(name, LongestName)];

    private static IEnumerable<Inline> Lines(Inline part) =>
        part is Inline.Text text
            ? text
                .Value.Split('\n')
                .SelectMany(
                    (line, at) =>
                        (IEnumerable<Inline>)
                            [
                                .. at > 0 ? (Inline[])[new Inline.Break()] : [],
                                .. line.Length > 0 ? (Inline[])[new Inline.Text(line)] : [],
                            ]
                )
            : [part];

    private void Press(Key key)
    {
        if (key.Kind == KeyKind.Silent)
            return;
        moving = Movers.Contains(key.Value) || key.Kind == KeyKind.Chord;
        if (key.Kind == KeyKind.Typed)
            Type(key.Value);
        else if (key.Value == "Backspace" && Remove(1))
            return;
        else if (parts is [.., Inline.KeyPress { Times: < 100 } last] && last.Key == key)
            parts[^1] = last with { Times = last.Times + 1 };
        else
            Add(new Inline.KeyPress(key, 1));
    }

    private void Type(string text)
    {
        if (text.Length == 0)
            return;
        if (parts is [.., Inline.Text last])
            parts[^1] = new Inline.Text(last.Value + text);
        else
            Add(new Inline.Text(text));
    }

    private void Add(Inline part)
    {
        if (!IsFull)
            parts.Add(part);
    }

    /// <summary>Takes graphemes off the end of what was typed; false when there is no text there.</summary>
    private bool Remove(int count)
    {
        if (parts is not [.., Inline.Text { Value: var text }])
            return false;
        var left = Graphemes.Count(text) - count;
        if (left <= 0)
            parts.RemoveAt(parts.Count - 1);
        else
            parts[^1] = new Inline.Text(text[..Graphemes.Offset(text, left)]);
        return true;
    }
}
