using CsCheck;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Hosting;

/// <summary>Snippets and keys for tests over everything that can happen at a keyboard.</summary>
internal static class HostModel
{
    private static readonly string[] Bodies =
    [
        "X",
        "two words ",
        " led by a space",
        "é🙂",
        "",
        " ",
        "a\nb",
        "<p> a <strong>bold</strong> word</p>",
        "<p>one</p><p>two</p>",
        "<ul><li>one</li><li>two</li></ul>",
        "<ol><li>one</li></ol>",
        "<p>above</p><hr><p>below</p>",
        "<hr>",
        "<h2>head</h2>",
        "<p style=\"text-align: center\">mid</p>",
        "<pre>  code</pre>",
        "<blockquote><p>said</p></blockquote>",
        "<p>left<wbr data-caret>right</p>",
        "<p>a<mark data-select>bc</mark>d</p>",
        "<p>a<br>b</p>",
        "<p>x<kbd>ArrowLeft</kbd>y</p>",
        "<p>Dear <input name=\"n\" value=\"Marram\"></p>",
    ];

    public static Gen<Snippet[]> Snippets { get; } =
        (
            from letters in Gen.Char["ab;é"].Array[1, 3]
            from body in Gen.Int[0, Bodies.Length - 1]
            from timing in Gen.Enum<Timing>()
            from edge in Gen.Enum<LeftEdge>()
            from letterCase in Gen.Enum<LetterCase>()
            from keep in Gen.Bool
            from givesWay in Gen.Bool
            select Snip(new string(letters), "", timing, edge, letterCase, keep, givesWay: givesWay) with
            {
                Name = Bodies[body],
                Body = Bodies[body].StartsWith('<') ? Body.Html.Parse(Bodies[body]) : new Body.Plain(Bodies[body]),
            }
        ).Array[1, 5];

    public static Gen<string[]> Keys { get; } =
        Gen.Frequency(
            (12, OneOf("a", "b", ";", "é", "A", "u")),
            (5, OneOf(" ", ".", "Enter")),
            (3, OneOf("Backspace", "Ctrl+Alt+Z", "Escape", "pause 800", "Shift+Enter")),
            (2, OneOf("ArrowLeft", "ArrowRight", "Home", "End", "Delete", "Shift+ArrowLeft", "Ctrl+J", "\u0301"))
        ).Array[1, 24];

    /// <summary>Runs a check over many snippets and keys.</summary>
    public static void Sample(
        this Gen<string[]> keys,
        Gen<Snippet[]> snippets,
        Action<Snippet[], string[]> check,
        int times = 10_000
    ) => Gen.Select(snippets, keys).Sample(check, iter: Depth.Of(times));

    public static Gen<string> OneOf(params string[] choices) =>
        Gen.Int[0, choices.Length - 1].Select(at => choices[at]);
}
