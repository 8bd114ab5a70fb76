using CsCheck;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Libraries;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Engine;

/// <summary>What holds whatever is typed.</summary>
public sealed class EngineProperties
{
    private static readonly Gen<string> Letters = OneOf("a", "b", "A", "é", "e\u0301", ";", "🙂");

    private static readonly Gen<Snippet> Snippets =
        from abbreviation in Letters.Array[1, 3]
        from text in OneOf("X", "two words ", "é🙂", "a\nb", "")
        from timing in Gen.Enum<Timing>()
        from edge in Gen.Enum<LeftEdge>()
        from letterCase in Gen.Enum<LetterCase>()
        from keep in Gen.Bool
        from givesWay in Gen.Bool
        select Snip(string.Concat(abbreviation), text, timing, edge, letterCase, keep, givesWay: givesWay);

    private static readonly Gen<string[]> TypedKeys = Gen.Frequency(
        (8, Letters),
        (3, OneOf(" ", ".", "Enter")),
        (1, OneOf("Backspace", "Ctrl+Alt+Z", "Escape", "pause 800", "click"))
    ).Array[0, 30];

    /// <summary>
    /// Text is never lost: what is in the field is what was typed, changed only as the firings say. A model that knows
    /// nothing of triggers replays the keys and the firings' figures and must arrive at the same text.
    /// </summary>
    [Fact]
    public void The_field_holds_what_was_typed_but_for_what_the_firings_say() =>
        Gen.Select(Snippets.Array[1, 6], TypedKeys)
            .Sample(
                (snippets, keys) =>
                {
                    var result = Index(snippets).Keys(keys);
                    Assert.Equal(Replay(keys, result.Firings), result.Text);
                },
                iter: Depth.Of(20_000)
            );

    [Fact]
    public void The_same_keys_always_give_the_same_result() =>
        Gen.Select(Snippets.Array[1, 6], TypedKeys)
            .Sample(
                (snippets, keys) =>
                {
                    var index = Index(snippets);
                    Assert.Equal(index.Keys(keys).Text, index.Keys(keys).Text);
                },
                iter: Depth.Of(2_000)
            );

    [Fact]
    public void With_no_trigger_every_text_arrives_as_typed() =>
        Gen
            .String.Select(text =>
                text.ReplaceLineEndings("\n").Replace('\r', '\n').Replace("\u0000", "", StringComparison.Ordinal)
            )
            .Sample(
                text =>
                {
                    Assert.Equal(text, TriggerIndex.Empty.Type(text).Text);
                },
                iter: Depth.Of(5_000)
            );

    /// <summary>Longest match first, whatever else is defined.</summary>
    [Fact]
    public void A_firing_is_never_shorter_than_another_that_fits_the_same_key() =>
        Gen.Select(OneOf("a", "b", "c").Array[1, 4], Gen.Int[1, 3])
            .Sample(
                (word, cut) =>
                {
                    var whole = string.Concat(word);
                    var part = whole[Math.Min(cut, whole.Length - 1)..];
                    var result = Index(
                            AtOnce(part, "part", LeftEdge.Any, givesWay: false),
                            Snip(whole, "whole", closing: "+", edge: LeftEdge.Any),
                            Snip(part, "p", closing: "+", edge: LeftEdge.Any)
                        )
                        .Type(whole + "+");
                    if (part != whole && !whole[..^1].Contains(part, StringComparison.Ordinal))
                        Assert.Equal("part+", result.Text[^5..]);
                },
                iter: Depth.Of(500)
            );

    private static Gen<string> OneOf(params string[] choices) =>
        Gen.Int[0, choices.Length - 1].Select(at => choices[at]);

    private static string Replay(string[] keys, IReadOnlyList<RehearsedFiring> firings)
    {
        var field = new TextField(FieldKind.Plain);
        var taken = new Stack<string>();
        for (var at = 0; at < keys.Length; at++)
        {
            var key = keys[at] is "click" or "pause 800" ? (Key?)null : Key.Parse("", keys[at]);
            var here = firings.Where(firing => firing.Step == at).ToList();
            if (here.Count == 0)
            {
                var lastKey = Array.FindLastIndex(keys, at - 1 < 0 ? 0 : at - 1, step => step != "pause 800");
                var firing = firings.LastOrDefault(firing =>
                    firing.Step >= lastKey && firing.Step < at && firing.Outcome == Outcome.TakenBack
                );
                if (key?.Value == "Ctrl+Alt+Z" && firing is not null)
                {
                    field.Apply(new DeliveryStep.Delete(Graphemes.Count(firing.Inserted)));
                    field.Apply(new DeliveryStep.PutIn(taken.Pop(), null));
                }
                else if (key is { } pressed)
                {
                    field.Press(pressed);
                }
                continue;
            }
            var typesKey = key is { AddsText: true };
            foreach (var fired in here)
            {
                // The key itself counts as typed before it is removed again.
                if (typesKey)
                    field.Press(key!.Value);
                var all = Graphemes.Split(field.Text).ToArray();
                taken.Push(string.Concat(all[^fired.Deleted..]));
                field.Apply(new DeliveryStep.Delete(fired.Deleted));
                field.Apply(new DeliveryStep.PutIn(fired.Inserted, null));
                if (!typesKey && key is { } again)
                    field.Press(again);
            }
        }
        return field.Text;
    }
}
