using System.Globalization;
using CsCheck;
using CsvHelper;
using CsvHelper.Configuration;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Exchange.Files;
using DashSprout.Exchange.Tables;
using DashSprout.Exchange.Yaml;

namespace DashSprout.Server.Tests;

/// <summary>Libraries as tables: what went out comes back, and tables from elsewhere are understood.</summary>
public sealed class SnippetTableTests
{
    /// <summary>The examples of RFC 4180, section 2.</summary>
    [Theory]
    [InlineData("aaa,bbb,ccc\nzzz,yyy,xxx\n", "aaa|bbb|ccc zzz|yyy|xxx")]
    [InlineData("aaa,bbb,ccc\nzzz,yyy,xxx", "aaa|bbb|ccc zzz|yyy|xxx")]
    [InlineData("\"aaa\",\"bbb\",\"ccc\"\nzzz,yyy,xxx", "aaa|bbb|ccc zzz|yyy|xxx")]
    [InlineData("\"aaa\",\"b\nbb\",\"ccc\"\nzzz,yyy,xxx", "aaa|b\nbb|ccc zzz|yyy|xxx")]
    [InlineData("\"aaa\",\"b\"\"bb\",\"ccc\"", "aaa|b\"bb|ccc")]
    public void Records_are_read_as_RFC_4180_has_them(string text, string records) =>
        Assert.Equal(
            records,
            string.Join(' ', DelimitedText.Read(text, ',').Select(row => string.Join('|', row.Cells)))
        );

    [Fact]
    public void Records_know_the_line_they_begin_at()
    {
        var rows = DelimitedText.Read("a,b\n\n\"c\nd\",e\nf,g\n\nh,i", ',').ToList();
        Assert.Equal([1, 3, 5, 7], rows.Select(row => row.Line));
        Assert.All(rows, row => Assert.Null(row.Problem));
        Assert.NotNull(DelimitedText.Read("a,b\nc,\"d\ne,f\n", ',').Last().Problem);
    }

    [Theory]
    [InlineData("code;text\n;kr;Kind regards, Rook", ';')]
    [InlineData("code,text\n;kr,\"a; b; c\"\n;bc,x", ',')]
    [InlineData("kr\tKind regards, and; more\nbc\tx, y", '\t')]
    [InlineData("a|b\nc|d", '|')]
    public void The_separator_is_recognised(string text, char separator) =>
        Assert.Equal(separator, DelimitedText.SeparatorOf(text));

    [Theory]
    [InlineData("Abbreviation,Text\n;kr,Kind regards", "trigger text", true)]
    [InlineData("Title;Code;Long form;Notes\nx;y;z;w", "name trigger text note", true)]
    [InlineData(";kr,Kind regards from the harbour office\n;bc,Your berth is confirmed", "trigger text", false)]
    [InlineData(
        "Regards,kr,Kind regards from the harbour office\nBerth confirmed,bc,Your berth is confirmed",
        "name trigger text",
        false
    )]
    [InlineData("Text,Text,Code\na,b,c", "text - trigger", true)]
    public void Columns_are_told_by_their_heads_or_by_what_stands_in_them(string text, string columns, bool heading)
    {
        var shape = SnippetTable.ShapeOf(text);
        Assert.Equal(
            (columns, heading),
            (string.Join(' ', shape.Columns.Select(column => column ?? "-")), shape.Heading)
        );
    }

    [Fact]
    public void A_line_that_is_wrong_is_told_and_holds_nothing_else_back()
    {
        const string Text =
            "trigger,text,timing,on\n;a,one,at-once,yes\n;b,two,sometimes,no\n;c,three,,maybe\n"
            + ";d,four,closing-key,no,more\n,,,\n;e,\"five\nlines\",,\n";
        var contents = SnippetTable.Read(Text, SnippetTable.ShapeOf(Text));
        var rows = contents.Rows.Select(row => row.Checked(TriggerDefaults.None)).ToList();
        Assert.Equal([2, 3, 4, 5, 7], rows.Select(row => row.Row.Line));
        Assert.Equal([true, false, false, false, true], rows.Select(row => row.Snippet is not null));
        Assert.Contains("“sometimes” is not known", rows[1].Row.Problem, StringComparison.Ordinal);
        Assert.Contains("“maybe” under “enabled” is neither yes nor no", rows[2].Row.Problem, StringComparison.Ordinal);
        Assert.Contains("5 cells here and 4 columns", rows[3].Row.Problem, StringComparison.Ordinal);
        Assert.Equal("five\nlines", rows[4].Snippet!.Snippet.Body.Source);
        Assert.Equal("five lines", rows[4].Snippet!.Snippet.Name);
    }

    [Theory]
    [InlineData("=1+1")]
    [InlineData("+44 20 7946 0101")]
    [InlineData("-5")]
    [InlineData("@home")]
    [InlineData("'=quoted")]
    [InlineData("''+twice")]
    [InlineData("\tindented")]
    public void What_a_spreadsheet_would_take_for_a_formula_is_made_safe_and_comes_back(string text)
    {
        var written = DelimitedText.Write([
            [text, "x"],
        ]);
        var other = Elsewhere(written, ',')[0];
        Assert.StartsWith("'", other[0], StringComparison.Ordinal);
        Assert.Equal([text, "x"], DelimitedText.Read(written.ReplaceLineEndings("\n"), ',').Single().Cells);
    }

    [Fact]
    public void Tables_written_here_are_read_by_another_reader_and_the_other_way()
    {
        var cell = LibraryTrees.OneOf("a", "", "b\"c", "d,e", "f\ng", " h ", "é🙂", ";", "\"", "\"\"", "i;j|k");
        cell.Array[3]
            .Array[1, 6]
            .Where(rows => rows.All(row => row.Any(text => !string.IsNullOrWhiteSpace(text))))
            .Sample(
                rows =>
                {
                    Assert.Equal(rows, Elsewhere(DelimitedText.Write(rows), ','));
                    using var text = new StringWriter { NewLine = "\n" };
                    using (
                        var writer = new CsvWriter(
                            text,
                            new CsvConfiguration(CultureInfo.InvariantCulture)
                            {
                                HasHeaderRecord = false,
                                Delimiter = ";",
                                NewLine = "\n",
                            }
                        )
                    )
                        foreach (var row in rows)
                        {
                            foreach (var one in row)
                                writer.WriteField(one);
                            writer.NextRecord();
                        }
                    Assert.Equal(rows, DelimitedText.Read(text.ToString(), ';').Select(row => row.Cells.ToArray()));
                },
                iter: 300
            );
    }

    [Fact]
    public void Libraries_come_back_from_a_table_as_they_were() =>
        LibraryTrees.All.Sample(
            libraries =>
            {
                var text = SnippetTableWriter.Write(libraries, _ => null);
                var back = SnippetTable.ToLibraries(
                    SnippetTable.Read(
                        TextFile.WithOwnLineEnds(text),
                        SnippetTable.ShapeOf(TextFile.WithOwnLineEnds(text))
                    )
                );
                Assert.Equal(Written(libraries), Written(back));
            },
            iter: 400
        );

    [Fact]
    public async Task Libraries_come_back_from_YAML_as_they_were() =>
        await LibraryTrees.All.SampleAsync(
            async libraries =>
            {
                var text = await YamlFile.Write(
                    libraries,
                    new Dictionary<string, PictureData>(),
                    CancellationToken.None
                );
                Assert.Equal(
                    Written(libraries),
                    Written((await YamlFile.Read(text, CancellationToken.None)).Libraries)
                );
            },
            iter: 300
        );

    [Fact]
    public void A_picture_travels_inside_a_table()
    {
        byte[] png =
        [
            0x89,
            0x50,
            0x4E,
            0x47,
            0x0D,
            0x0A,
            0x1A,
            0x0A,
            0,
            0,
            0,
            13,
            0x49,
            0x48,
            0x44,
            0x52,
            0,
            0,
            0,
            1,
            0,
            0,
            0,
            1,
            8,
            6,
            0,
            0,
            0,
        ];
        var picture = PictureData.Of(png);
        var snippet = LibraryTrees.Snip("Map") with
        {
            Body = Body.Html.Parse($"<p><img src=\"media:{picture.Id}\" alt=\"The harbour\"></p>"),
        };
        var libraries = new[]
        {
            new Library("L", true, LibraryRules.Default, EquatableList<Folder>.Empty, new([snippet])),
        };
        var text = SnippetTableWriter.Write(libraries, id => id == picture.Id ? picture : null);
        Assert.DoesNotContain("media:", text, StringComparison.Ordinal);
        var contents = SnippetTable.Read(text, SnippetTable.ShapeOf(text));
        Assert.Equal(png, Assert.Single(contents.Pictures).Bytes);
        Assert.Equal(Written(libraries), Written(SnippetTable.ToLibraries(contents)));
    }

    private static string Written(IEnumerable<Library> libraries) =>
        System.Text.Json.JsonSerializer.Serialize(libraries.Select(LibraryDocument.Of), LibraryFile.Json);

    /// <summary>A table as CsvHelper reads it by itself.</summary>
    private static List<string[]> Elsewhere(string text, char separator)
    {
        using var parser = new CsvParser(
            new StringReader(text),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                Delimiter = separator.ToString(),
                HasHeaderRecord = false,
            }
        );
        var rows = new List<string[]>();
        while (parser.Read())
            rows.Add(parser.Record!);
        return rows;
    }
}
