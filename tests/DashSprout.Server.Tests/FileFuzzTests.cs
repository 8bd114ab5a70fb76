using System.Text;
using CsCheck;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Exchange.Lists;
using DashSprout.Exchange.Tables;
using DashSprout.Exchange.Yaml;
using DashSprout.Server.Exchange;

namespace DashSprout.Server.Tests;

/// <summary>
/// Files of every kind with bytes changed at random: each is read, or refused in words that name what is wrong; nothing
/// else comes out. <c>DASH_SPROUT_DEPTH</c> sets how many.
/// </summary>
public sealed class FileFuzzTests
{
    private static readonly string[] Pieces =
    [
        "null",
        "{",
        "}",
        "[",
        "]",
        "\"",
        ":",
        ",",
        "&a ",
        "*a",
        "- ",
        "? ",
        "| ",
        "> ",
        "%",
        "!!int ",
        "\t",
        "\r",
        "\n",
        "\\",
        "\\ud800",
        "\0",
        "\uFEFF",
        "é",
        "🙂",
        "<",
        ">",
        "<p>",
        "</p>",
        "<table><td>",
        "<svg>",
        "<input name=x>",
        "`",
        "```",
        "9999999999999999999",
        "-1",
        "1e999",
        "BEGIN:VCARD\n",
        "END:VCARD\n",
        "BEGIN:VEVENT\n",
        "RRULE:FREQ=DAILY\n",
        "=",
        ";",
        "true",
        "~",
        "\"libraries\":[null]",
        "<<<<<<< a\n",
        "=======\n",
        ">>>>>>> b\n",
        "data:image/png;base64,",
    ];

    private static readonly int Rounds = Depth.Of(2000);

    [Theory]
    [InlineData("a.json")]
    [InlineData("a.yaml")]
    [InlineData("a.csv")]
    [InlineData("a.txt")]
    [InlineData("a.vcf")]
    [InlineData("a.md")]
    [InlineData("a.html")]
    public async Task A_file_to_bring_in(string name)
    {
        var samples = await Samples(name);
        await Fuzzed(samples, async bytes =>
        {
            var contents = await ImportReading.Read(name, bytes, new ImportOptions(), CancellationToken.None);
            if (contents is ImportContents.Whole whole)
                Importing.Of(LibraryTree.Empty, whole.Libraries, replace: false, 1);
            if (contents is ImportContents.Rows rows)
                foreach (var row in rows.Snippets)
                    row.Checked(TriggerDefaults.None);
        });
    }

    [Fact]
    public async Task A_mirror_file_and_a_pack()
    {
        var samples = await Samples("a.json");
        await Fuzzed(samples, bytes =>
        {
            MirrorFile.Read(Encoding.UTF8.GetString(bytes), () => "k");
            return Task.CompletedTask;
        });
        await Fuzzed(samples, bytes =>
        {
            PackFile.Read(Encoding.UTF8.GetString(bytes));
            return Task.CompletedTask;
        });
    }

    [Fact]
    public Task A_calendar_of_holidays() =>
        Fuzzed(
            [
                "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nUID:1@example.org\r\nDTSTART;VALUE=DATE:20260406\r\n"
                    + "RRULE:FREQ=YEARLY;COUNT=3\r\nSUMMARY:Easter Monday\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n",
            ],
            bytes =>
            {
                HolidayFile.Read("holidays", Encoding.UTF8.GetString(bytes), 2024, 2036);
                return Task.CompletedTask;
            }
        );

    [Fact]
    public Task A_word_list() =>
        Fuzzed(
            ["word,count\nthe,100\nberth,20\nquay,3\n"],
            bytes =>
            {
                WordListFile.ReadCsv(Encoding.UTF8.GetString(bytes));
                return Task.CompletedTask;
            },
            // Lines that cannot be used are told beside those that can.
            refuses: false
        );

    private static async Task Fuzzed(IReadOnlyList<string> samples, Func<byte[], Task> read, bool refuses = true)
    {
        var seed = Random.Shared.Next();
        var chance = new Random(seed);
        var refused = 0;
        for (var round = 0; round < Rounds; round++)
        {
            var bytes = Changed(samples[chance.Next(samples.Count)], chance);
            try
            {
                await read(bytes);
            }
            catch (InvalidInputException exception)
            {
                refused++;
                Assert.All(exception.Errors, error => Assert.False(string.IsNullOrWhiteSpace(error.Message)));
            }
            catch (Exception exception)
            {
                Assert.Fail($"seed {seed}, round {round}: {exception}\n{Encoding.UTF8.GetString(bytes)}");
            }
        }
        Assert.True(refused > 0 || !refuses, "Nothing was ever refused.");
    }

    private static byte[] Changed(string sample, Random chance)
    {
        var bytes = Encoding.UTF8.GetBytes(sample).ToList();
        for (var changes = chance.Next(1, 6); changes > 0; changes--)
        {
            var at = chance.Next(bytes.Count + 1);
            var length = chance.Next(Math.Min(bytes.Count - at, chance.Next(2) == 0 ? 3 : 300) + 1);
            switch (chance.Next(5))
            {
                case 0:
                    bytes.RemoveRange(at, length);
                    break;
                case 1:
                    bytes.InsertRange(at, Encoding.UTF8.GetBytes(Pieces[chance.Next(Pieces.Length)]));
                    break;
                case 2:
                    bytes.InsertRange(at, bytes.GetRange(at, length));
                    break;
                case 3 when at < bytes.Count:
                    bytes[at] = (byte)chance.Next(256);
                    break;
                default:
                    bytes.RemoveRange(at, length);
                    bytes.InsertRange(at, Encoding.UTF8.GetBytes(Pieces[chance.Next(Pieces.Length)]));
                    break;
            }
        }
        return [.. bytes];
    }

    private static async Task<IReadOnlyList<string>> Samples(string name)
    {
        switch (name)
        {
            case "a.vcf":
                return
                [
                    "BEGIN:VCARD\nVERSION:4.0\nFN:Inga Marram\nN:Marram;Inga;;;\nTEL;TYPE=cell:+1 555 0100\n"
                        + "EMAIL:inga@example.org\nADR:;;1 Quay;Gullhaven;;0001;\nEND:VCARD\n",
                ];
            case "a.txt":
                return ["brk\tbreakwater\n;bc = Berth confirmation\nom, on my way\n"];
            case "a.md":
                return
                [
                    "---\nname: Berth\ntags: [a, b]\n---\n# Berth\n\n- one\n  - two\n\n|a|b|\n|-|-|\n|1|2|\n\n`code` **b** [l](https://example.org)\n",
                ];
            case "a.html":
                return
                [
                    "<!doctype html><body><p>Dear <input name=\"skipper\">,</p><ul><li>one</li></ul><table><tr><td>1</td></tr></table></body>",
                ];
            default:
                var samples = new List<string>();
                LibraryTrees.All.Sample(
                    libraries =>
                    {
                        lock (samples)
                            samples.Add(
                                name switch
                                {
                                    "a.csv" => SnippetTableWriter.Write(libraries, _ => null),
                                    "a.yaml" => YamlFile
                                        .Write(libraries, new Dictionary<string, PictureData>(), default)
                                        .GetAwaiter()
                                        .GetResult(),
                                    _ => Json(libraries),
                                }
                            );
                    },
                    iter: 20
                );
                return samples;
        }
    }

    private static string Json(IEnumerable<Library> libraries)
    {
        using var bytes = new MemoryStream();
        LibraryFile.Write(bytes, libraries, new Dictionary<string, PictureData>(), default).GetAwaiter().GetResult();
        return Encoding.UTF8.GetString(bytes.ToArray());
    }
}
