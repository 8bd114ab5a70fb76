using CsCheck;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Server.Tests;

/// <summary>Makes libraries with folders, snippets and triggers of every kind.</summary>
internal static class LibraryTrees
{
    private static readonly Gen<string> Texts = OneOf(
        "Kind regards",
        "two\nlines",
        "=SUM(A1)",
        "+44",
        "'quoted",
        "yes",
        "null",
        "12",
        "1e3",
        "~",
        "a: b",
        "- item",
        "# no comment",
        " lead",
        "trail ",
        "\"",
        "'",
        "é🙂",
        "\ttab",
        "x,y;z",
        "---",
        "\n",
        "a\n\nb\n",
        "a\u0085b",
        "a\u2028b\u2029",
        "a\rb",
        "a\fb\vc",
        "{}",
        "[]",
        "&a",
        "*a",
        "!t",
        "%",
        "@",
        "`",
        ""
    );

    private static readonly Gen<Trigger> Triggers = Gen.Select(
            OneOf(";bc", "brk", "/fee", "=a", "-x", "'q", "null", "12", "é", "\"q\"", "a,b"),
            Gen.Enum<Timing>(),
            Gen.Enum<LeftEdge>(),
            Gen.Enum<LetterCase>(),
            Gen.Bool,
            Gen.Bool,
            OneOf<ClosingKeys?>(
                null,
                ClosingKeys.None,
                ClosingKeys.Parse("k", [" ", "Enter", "."]),
                ClosingKeys.Parse("k", [",", "\""])
            ),
            Gen.Int[0, 7]
        )
        .Select(
            (text, timing, edge, letterCase, keep, gives, keys, kind) =>
            {
                var scope =
                    kind % 3 == 0 ? Scope.Everywhere
                    : kind % 3 == 1 ? new Scope.OnlyIn(new(["post", "console"]))
                    : (Scope)new Scope.NotIn(new(["fee-sheet"]));
                return kind switch
                {
                    0 => new Trigger.Hotkey("Ctrl+Alt+B", scope),
                    1 => new Trigger.Hotkey("Ctrl+Alt+ ", scope),
                    2 => new Trigger.Pattern(
                        "b(\\d{1,2}),?",
                        new TypingRules(timing, edge, letterCase, keep, keys, gives),
                        scope
                    ),
                    _ => (Trigger)
                        new Trigger.Abbreviation(
                            text,
                            new TypingRules(timing, edge, letterCase, keep, keys, gives),
                            scope
                        ),
                };
            }
        );

    private static readonly Gen<Body> Bodies = Gen.OneOf(
        Texts.Select(text => (Body)new Body.Plain(text)),
        OneOf(
                "<p>Dear <input name=\"skipper\" required>,<br>see \"you\" &lt;soon&gt;</p>",
                "<table><tr><td>1</td></tr></table>",
                "<p>x</p><ul><li>y</li></ul>"
            )
            .Select(html => (Body)Body.Html.Parse(html))
    );

    private static readonly Gen<Snippet> Snippets = Gen.Select(
            Bodies,
            Triggers.Array[0, 3],
            Gen.Enum<DeliveryWay>(),
            Gen.Enum<LinkWriting>(),
            Gen.Bool,
            Texts,
            Gen.OneOf(Gen.Const((Body?)null), Bodies.Select(body => (Body?)body)),
            OneOf("Fees", "letters end", "é").Array[0, 2]
        )
        .Select(
            (body, triggers, delivery, links, flag, note, twin, tags) =>
                new Snippet("", flag, note, !flag, delivery, flag, body, new(triggers), twin, links)
                {
                    Tags = SnippetTags.Check("tags", tags),
                }
        );

    /// <summary>One to three libraries.</summary>
    public static Gen<Library[]> All { get; } =
        Gen.Select(
                Place(2),
                Gen.Bool,
                Gen.Bool,
                Defaults(),
                OneOf(ClosingKeys.Default, ClosingKeys.None, ClosingKeys.Parse("k", [" "]))
            )
            .Select(
                (place, enabled, flag, defaults, keys) =>
                    new Library(
                        "",
                        enabled,
                        new LibraryRules(keys, flag, !flag, defaults),
                        place.Folders,
                        place.Snippets
                    )
            )
            .Array[1, 3]
            .Select(libraries => libraries.Select((library, at) => library with { Name = $"Library {at}" }).ToArray());

    internal static Gen<T> OneOf<T>(params T[] choices) => Gen.Int[0, choices.Length - 1].Select(at => choices[at]);

    public static Snippet Snip(string name) =>
        new(name, true, "", false, DeliveryWay.Automatic, false, new Body.Plain("text"), EquatableList<Trigger>.Empty);

    private static Gen<TriggerDefaults?> Defaults() =>
        OneOf<TriggerDefaults?>(
            null,
            new TriggerDefaults(Timing: Timing.AtOnce),
            new TriggerDefaults(
                Case: LetterCase.Mirror,
                Scope: new Scope.OnlyIn(new(["post"])),
                Delivery: DeliveryWay.Clipboard
            )
        );

    private static Gen<(EquatableList<Folder> Folders, EquatableList<Snippet> Snippets)> Place(int depth)
    {
        var snippets = Snippets
            .Array[0, 3]
            .Select(some => new EquatableList<Snippet>(
                some.Select((snippet, at) => snippet with { Name = $"Snippet {at}, “=x”" })
            ));
        if (depth == 0)
            return snippets.Select(some => (EquatableList<Folder>.Empty, some));
        var folder = Gen.Select(Place(depth - 1), Gen.Bool, Defaults())
            .Select((place, enabled, defaults) => new Folder("", place.Folders, place.Snippets, enabled, defaults));
        return Gen.Select(
            folder
                .Array[0, 2]
                .Select(some => new EquatableList<Folder>(
                    some.Select((one, at) => one with { Name = $"Folder {at}" })
                )),
            snippets
        );
    }
}
