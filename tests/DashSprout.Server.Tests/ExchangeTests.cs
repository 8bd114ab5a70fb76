using DashSprout.Core;
using DashSprout.Core.Safety;
using DashSprout.Exchange.Lists;
using DashSprout.Exchange.Prose;

namespace DashSprout.Server.Tests;

/// <summary>Word lists and Markdown from outside.</summary>
public sealed class ExchangeTests
{
    /// <summary>
    /// The examples of RFC 4180, section 2: quoted fields, doubled quotation marks, with and without a last line end.
    /// </summary>
    [Theory]
    [InlineData("aaa,1\r\nbbb,2\r\n", "bbb 2, aaa 1")]
    [InlineData("aaa,1\r\nbbb,2", "bbb 2, aaa 1")]
    [InlineData("field,count\r\naaa,1", "aaa 1")]
    [InlineData("\"aaa\",\"1\"", "aaa 1")]
    [InlineData("\"b\"\"bb\",3", "b\"bb 3")]
    [InlineData("aaa;1\nbbb;2", "bbb 2, aaa 1")]
    [InlineData("aaa\t1\nbbb\t2", "bbb 2, aaa 1")]
    public void Word_lists_are_read_as_CSV(string csv, string words)
    {
        var (list, broken) = WordListFile.ReadCsv(csv);
        Assert.Empty(broken);
        Assert.Equal(words, string.Join(", ", list.Words.Select(word => $"{word.Word} {word.Count}")));
    }

    [Theory]
    [InlineData("brb\tbe right back", "brb|be right back")]
    [InlineData("brb, be right back, soon", "brb|be right back, soon")]
    [InlineData("brb = be right back", "brb|be right back")]
    [InlineData("  brb=be = right  ", "brb|be = right")]
    [InlineData(",om, on my way", ",om|on my way")]
    [InlineData("=om = on my way", "=om|on my way")]
    [InlineData("brb\tbe right back, a = b\n\n\nomw\ton my way, soon", "brb|be right back, a = b omw|on my way, soon")]
    [InlineData("om, a = b\nbr, c\nco, d", "om|a = b br|c co|d")]
    [InlineData("\uFEFFbrb\tbe right back\r\n", "brb|be right back")]
    public void A_pasted_list_is_read_line_by_line(string list, string read) =>
        Assert.Equal(
            read,
            string.Join(' ', PlainList.Read(list).Select(line => line.Problem ?? $"{line.Code}|{line.Text}"))
        );

    [Fact]
    public void A_line_of_a_list_without_a_text_says_so_with_its_number()
    {
        var lines = PlainList.Read("brb\tbe right back\n\njust words here\nbrb\t");
        Assert.Equal([1, 3, 4], lines.Select(line => line.Line));
        Assert.Null(lines[0].Problem);
        Assert.All(lines.Skip(1), line =>
            Assert.Contains("no tab, = or comma", line.Problem, StringComparison.Ordinal)
        );
        Assert.Throws<InvalidInputException>(() => PlainList.Read(new string('\n', PlainList.MostLines)));
    }

    [Fact]
    public void Broken_lines_are_numbered_as_an_editor_numbers_them()
    {
        var (list, broken) = WordListFile.ReadCsv("aaa,1\n\nbbb\nccc,-1\nddd,1,2\n,5\neee,2\n");
        Assert.Equal(["eee", "aaa"], list.Words.Select(word => word.Word));
        Assert.Equal([3, 4, 5, 6], broken.Select(line => line.Line));
    }

    [Fact]
    public void A_list_that_was_written_is_read_again()
    {
        var list = new WordList([("a,b", 3), ("c\"d", 2.5), ("é", 1)]);
        Assert.Equal(list.Words, WordListFile.ReadCsv(WordListFile.WriteCsv(list)).Words.Words);
    }

    /// <summary>The English list, as SUBTLEX-US counts it: “the” is about 3 % of all words.</summary>
    [Fact]
    public void The_shipped_list_has_the_frequencies_of_English()
    {
        var list = WordListFile.English;
        var the = list.Words.Single(word => word.Word == "the");
        Assert.InRange(list.Words.Count, 70_000, 80_000);
        Assert.Equal(302.1, list.Per10kWords(the.Count), 1);
        Assert.Equal(10_000, list.Words.Sum(word => list.Per10kWords(word.Count)), 6);
    }

    /// <summary>CommonMark as it is, but nothing that runs, loads or opens anything by itself.</summary>
    [Theory]
    [InlineData("**a** *b* `c` ~~d~~", "<p><strong>a</strong> <em>b</em> <code>c</code> <s>d</s></p>")]
    [InlineData("# H\n\n- x\n- y", "<h1>H</h1><ul><li><p>x</p></li><li><p>y</p></li></ul>")]
    [InlineData("<script>alert(1)</script>", "<p>&lt;script&gt;alert(1)&lt;/script&gt;</p>")]
    [InlineData("[x](javascript:alert(1))", "<p>x</p>")]
    [InlineData("[x](https://example.org/)", "<p><a href=\"https://example.org/\">x</a></p>")]
    public void Markdown_is_shown_safely(string markdown, string html) =>
        Assert.Equal(html, MarkdownText.ToHtml(markdown).ReplaceLineEndings(""));
}
