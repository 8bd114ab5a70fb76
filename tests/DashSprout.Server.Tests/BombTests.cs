using System.Globalization;
using System.Text;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Server.Exchange;

namespace DashSprout.Server.Tests;

/// <summary>
/// Small files that stand for very much, or that cost a careless reader more than their length: each is read, or refused
/// in words, and neither takes the program down nor holds it. What took them tens of seconds or all of the stack before
/// would end this test too.
/// </summary>
public sealed class BombTests
{
    public static TheoryData<string, string, int> Files =>
        new()
        {
            { "a.yaml", "&a [*a]", 1 },
            { "a.yaml", "&a {b: *a}", 1 },
            { "a.yaml", "[", 20_000 },
            { "a.yaml", "- ", 20_000 },
            { "a.yaml", "? ", 20_000 },
            { "a.yaml", "{a: ", 20_000 },
            { "a.json", "[", 100_000 },
            { "a.json", "{\"a\":", 100_000 },
            { "a.txt", " ", 200_000 },
            { "a.txt", "a", 200_000 },
            { "a.txt", "a ", 200_000 },
            { "a.txt", "=\t,", 100_000 },
            { "a.html", "<body", 400_000 },
            { "a.html", "<body>", 400_000 },
            { "a.html", "<div>", 100_000 },
            { "a.html", "<!--", 100_000 },
            { "a.html", " ", 1_000_000 },
            { "a.html", "<a href=\"", 100_000 },
            { "a.html", "<p><b><i><u>", 20_000 },
            { "a.html", "src=\"data:image/png;base64,", 50_000 },
            { "a.md", "[a](", 20_000 },
            { "a.md", "- ", 20_000 },
            { "a.md", "> ", 20_000 },
            { "a.md", "1. ", 20_000 },
            { "a.md", "`a``b", 40_000 },
            { "a.md", "*a **b", 40_000 },
            { "a.md", "![", 40_000 },
            { "a.md", "<", 200_000 },
            { "a.md", "|a", 50_000 },
            { "a.md", "# #", 100_000 },
            { "a.md", "---\n", 50_000 },
            { "a.csv", ",", 1_000_000 },
            { "a.csv", "\"", 1_000_000 },
            { "a.csv", "\n", 1_000_000 },
            { "a.vcf", "BEGIN:VCARD\n", 100_000 },
            { "a.vcf", "BEGIN:VCARD\nVERSION:4.0\nFN:Marram\nEND:VCARD\n", 30_000 },
            { "a.vcf", "BEGIN:VCARD\n ", 200_000 },
            { "a.vcf", ";", 200_000 },
        };

    [Theory]
    [MemberData(nameof(Files))]
    public Task A_piece_many_times(string name, string piece, int times) =>
        Holds(name, string.Concat(Enumerable.Repeat(piece, times)));

    [Fact]
    public async Task Lists_that_stand_further_and_further_in()
    {
        var text = new StringBuilder();
        for (var level = 0; level < 1500; level++)
            text.Append(' ', 2 * level).Append("- a\n");
        await Holds("a.md", text.ToString());
        await Holds("a.yaml", text.ToString());
    }

    /// <summary>Each alias stands for ten of the one before.</summary>
    [Fact]
    public async Task Aliases_of_aliases()
    {
        var text = new StringBuilder("a0: &a0 [x, x, x, x, x, x, x, x, x, x]\n");
        for (var level = 1; level < 12; level++)
            text.Append(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"a{level}: &a{level} [{string.Join(", ", Enumerable.Repeat($"*a{level - 1}", 10))}]\n"
                )
            );
        Assert.Contains("more than", await Holds("a.yaml", text.ToString()), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Tables_with_very_many_of_one_kind()
    {
        await Holds("a.csv", Table(30_000, at => $"L{at},,s,;a{at},x"));
        await Holds("a.csv", Table(60_000, at => at == 0 ? "L,,s,;a,x" : $"L,,s,;a{at},"));
        await Holds("a.csv", Table(60_000, at => $"L,,s,;a{at},x"));
        await Holds("a.csv", Table(60_000, _ => ",,s,,x"));
        await Holds("a.csv", Table(2, _ => $"L,{string.Concat(Enumerable.Repeat("a/", 100_000))},s,;a,x"));
        await Holds("a.csv", Table(20_000, at => $"L,F{at},s,;a{at},x"));

        static string Table(int rows, Func<int, string> row) =>
            $"library,folder,name,trigger,text\n{string.Join('\n', Enumerable.Range(0, rows).Select(row))}\n";
    }

    [Fact]
    public async Task Library_files_with_very_many_of_one_name()
    {
        var snippets = string.Join(',', Enumerable.Repeat("{\"name\":\"s\",\"text\":\"x\"}", 60_000));
        var text =
            $"{{\"format\":\"dash-sprout-library\",\"version\":1,\"libraries\":[{{\"name\":\"L\",\"snippets\":[{snippets}]}}]}}";
        await Holds("a.json", text);
        var number = 0;
        Assert.Equal(60_000, MirrorFile.Read(text, () => $"{number++}").State.Library.Entries.Count);
    }

    /// <summary>A heading of signs that only count at its end, and blanks without an end.</summary>
    [Fact]
    public void Bodies_of_one_sign()
    {
        foreach (
            var text in (string[])
                [new('#', 100_000), new(' ', 400_000), "\t" + new string(' ', 400_000), new('`', 200_000)]
        )
        foreach (var markup in (string[])[$"<h1>{text}</h1>", $"<p>{text}</p>", $"<code>{text}</code>"])
        {
            Assert.NotEmpty(Body.Html.Parse(markup).Markup);
        }
    }

    /// <summary>Reads a file as it is read when it is brought in, and plans to bring it in; gives what is said against it.</summary>
    private static async Task<string> Holds(string name, string text)
    {
        using var patience = new CancellationTokenSource(Patience.Longest);
        try
        {
            var contents = await ImportReading.Read(
                name,
                Encoding.UTF8.GetBytes(text),
                new ImportOptions(),
                patience.Token
            );
            if (contents is ImportContents.Whole whole)
                Importing.Of(LibraryTree.Empty, whole.Libraries, replace: false, 1);
            if (contents is ImportContents.Rows rows)
            {
                var now = LibraryTree.Empty.With(Commands.AddLibrary(LibraryTree.Empty, 1, "L"));
                var snippets = rows.Snippets.Select(row => row.Checked(TriggerDefaults.None).Snippet);
                Incoming.Bring(now, 2, 1, [.. snippets.OfType<IncomingSnippet>()], SameName.Number);
            }
            return "";
        }
        catch (InvalidInputException exception)
        {
            return exception.Message;
        }
    }
}
