using AngleSharp.Html.Parser;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Exchange.Pages;

namespace DashSprout.Server.Tests;

/// <summary>
/// The cheat sheet: what stands on it, and that no sign of a text means anything there. AngleSharp and Markdig read it
/// back.
/// </summary>
public sealed class CheatSheetTests
{
    private static readonly string[] Signs =
    [
        "|",
        "`",
        "``a`",
        "<b>",
        "&amp;",
        "*x*",
        "_y_",
        "[a](b)",
        "\\",
        "#1",
        "~z~",
        "$1",
        "1. one",
        "- dash",
        "a | b",
    ];

    [Fact]
    public void Every_sign_is_read_back_as_it_was()
    {
        var snippets = Signs
            .Select(
                (sign, at) =>
                    Made($"Name {sign.Replace('/', ' ')} {at}", $"text {sign} end", $";{sign.Replace(' ', '-')}")
            )
            .ToArray();
        var library = LibrarySnapshot("Signs", snippets);
        var expected = snippets
            .Select(snippet => (snippet.Triggers[0].Text, snippet.Name, ((Body.Plain)snippet.Body).Text))
            .ToArray();
        Assert.Equal(expected, Rows(CheatSheet.Html([library])));
        Assert.Equal(
            expected,
            Rows(
                Markdig.Markdown.ToHtml(
                    CheatSheet.Markdown([library]),
                    Markdig.MarkdownExtensions.UsePipeTables(new Markdig.MarkdownPipelineBuilder()).Build()
                )
            )
        );
    }

    [Fact]
    public void What_is_off_private_or_set_off_by_nothing_does_not_stand_on_it()
    {
        var folder = new Folder(
            "Old",
            EquatableList<Folder>.Empty,
            new([Made("in a folder that is off", "x", "io")]),
            Enabled: false
        );
        var on = new Folder(
            "Bookings",
            EquatableList<Folder>.Empty,
            new([Made("Deposit", new string('x', 400), "dep")])
        );
        var library = new Library(
            "Berths",
            true,
            LibraryRules.Default,
            new([folder, on]),
            new([
                Made("off", "x", "of") with
                {
                    Enabled = false,
                },
                Made("secret", "pass", "pw") with
                {
                    Private = true,
                },
                Made("no trigger", "x"),
                Made("Moored", "Moored.\nLines checked.", "mrd"),
            ])
        );
        foreach (var sheet in (string[])[CheatSheet.Html([library]), CheatSheet.Markdown([library])])
        {
            Assert.DoesNotContain(["io", "secret", "pass", "no trigger", new string('x', 200)], text =>
                sheet.Contains(text, StringComparison.Ordinal)
            );
            Assert.Contains("Deposit", sheet, StringComparison.Ordinal);
            Assert.Contains("Bookings", sheet, StringComparison.Ordinal);
            Assert.Contains("⏎", sheet, StringComparison.Ordinal);
        }
        Assert.Empty(Rows(CheatSheet.Html([LibrarySnapshot("Empty")])));
    }

    [Fact]
    public async Task The_program_gives_it_as_a_page_and_as_a_file()
    {
        using var server = new TestServer();
        await server.AddSnippet(
            await server.AddLibrary("Berths"),
            TestServer.Snippet("Deposit", "paid", TestServer.Abbreviation("dep"))
        );
        Assert.Equal(
            [("dep", "Deposit", "paid")],
            Rows(await server.Client.GetStringAsync("/api/cheat-sheet", TestContext.Current.CancellationToken))
        );
        Assert.Contains(
            "| `dep` | Deposit | paid |",
            await server.Client.GetStringAsync("/api/cheat-sheet.md", TestContext.Current.CancellationToken),
            StringComparison.Ordinal
        );
    }

    private static (string, string, string)[] Rows(string html) =>
        [
            .. new HtmlParser()
                .ParseDocument(html)
                .QuerySelectorAll("tbody tr")
                .Select(row => row.QuerySelectorAll("td").Select(cell => cell.TextContent.Trim()).ToArray())
                .Select(cells => (cells[0], cells[1], cells[2])),
        ];

    private static Library LibrarySnapshot(string name, params Snippet[] snippets) =>
        new(name, true, LibraryRules.Default, EquatableList<Folder>.Empty, new(snippets));

    private static Snippet Made(string name, string text, params string[] codes) =>
        new(
            name,
            true,
            "",
            false,
            DeliveryWay.Automatic,
            false,
            new Body.Plain(text),
            new(codes.Select(code => (Trigger)new Trigger.Abbreviation(code, TypingRules.For(code), Scope.Everywhere)))
        );
}
