using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Exchange.Pages;

namespace DashSprout.Server.Tests;

/// <summary>The page with all snippets for a phone.</summary>
public sealed partial class PocketFileTests
{
    private static Library LibrarySnapshot(bool enabled, params Snippet[] snippets) =>
        new("Berth desk", enabled, LibraryRules.Default, EquatableList<Folder>.Empty, new(snippets));

    private static JsonArray In(string page) => JsonNode.Parse(Data().Match(page).Groups[1].Value)!.AsArray();

    [Fact]
    public void What_the_program_would_work_out_stands_there_as_a_marked_gap()
    {
        const string Markup =
            "<p>Dear <input name=\"skipper\" title=\"Skipper\">, see you <time data-pattern=\"d MMMM\">"
            + "</time><wbr data-caret>. <strong><output data-formula=\"nights * 2\"></output></strong><input "
            + "name=\"insured\" type=\"checkbox\"><span data-when=\"insured\"> Bring it.</span><kbd>"
            + "Tab</kbd></p>"
            + "<p><slot name=\"clipboard\"></slot></p><div><menu data-pick=\"random\"><li>Hello</li><li>Good "
            + "day</li></menu><img src=\"media:ab\" alt=\"The quay\"></div>";
        var page = PocketFile.Write([
            LibrarySnapshot(true, LibraryTrees.Snip("Letter") with { Body = Body.Html.Parse(Markup) }),
        ]);
        Assert.Equal(
            "<p>Dear <mark>⟨Skipper⟩</mark>, see you <mark>⟨d MMMM⟩</mark>. <strong><mark>⟨nights * 2⟩</mark>"
                + "</strong><span> Bring it.</span></p><p><mark>⟨clipboard⟩</mark></p><div><mark>⟨Hello / Good "
                + "day⟩</mark><mark>⟨picture The quay⟩</mark></div>",
            (string)In(page)[0]!["h"]!
        );
    }

    [Fact]
    public void What_is_private_or_off_is_not_in_it()
    {
        var hidden = LibraryTrees.Snip("Hidden") with { Private = true, Body = new Body.Plain("sesame") };
        var off = LibraryTrees.Snip("Off") with { Enabled = false };
        var shown = LibraryTrees.Snip("Shown") with
        {
            Triggers = new([new Trigger.Abbreviation(";s", TypingRules.For(";s"), Scope.Everywhere)]),
        };
        var page = PocketFile.Write([
            LibrarySnapshot(true, hidden, off, shown),
            LibrarySnapshot(false, LibraryTrees.Snip("Resting")),
        ]);
        Assert.DoesNotContain("sesame", page, StringComparison.Ordinal);
        Assert.Equal(["Shown"], In(page).Select(snippet => (string)snippet!["n"]!));
        Assert.Equal("Berth desk", (string)In(page)[0]!["w"]!);
    }

    [Fact]
    public void Nothing_in_it_ends_its_data_or_asks_for_anything()
    {
        const string Nasty = "</script><script>alert(1)</script><!-- ‘é🙂";
        var page = PocketFile.Write([
            LibrarySnapshot(true, LibraryTrees.Snip("Nasty") with { Body = new Body.Plain(Nasty) }),
        ]);
        Assert.Equal(Nasty, (string)In(page)[0]!["p"]!);
        Assert.Equal(2, Regex.Count(page, "</script>"));
        Assert.Contains("default-src 'none'", page, StringComparison.Ordinal);
        Assert.DoesNotMatch("(src|href)=\"(?!media:)", Data().Replace(page, ""));
    }

    [Fact]
    public void Two_thousand_snippets_take_less_than_a_megabyte()
    {
        var snippets = Enumerable
            .Range(0, 2000)
            .Select(at =>
                LibraryTrees.Snip($"Notice {at} for the skippers") with
                {
                    Body =
                        at % 2 == 0
                            ? new Body.Plain(
                                $"The text of notice {at}: the quay is clear until further notice, and the "
                                    + "bridge opens at the hour."
                            )
                            : Body.Html.Parse($"<p>The text of <strong>notice {at}</strong>: the quay is clear.</p>"),
                    Triggers = new([new Trigger.Abbreviation($";n{at}", TypingRules.For(";n"), Scope.Everywhere)]),
                }
            );
        Assert.InRange(
            System.Text.Encoding.UTF8.GetByteCount(PocketFile.Write([LibrarySnapshot(true, [.. snippets])])),
            100_000,
            1_000_000
        );
    }

    [GeneratedRegex("<script type=\"application/json\" id=\"data\">(.*?)</script>", RegexOptions.Singleline)]
    private static partial Regex Data();
}
