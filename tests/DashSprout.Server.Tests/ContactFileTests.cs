using System.Text;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Exchange.Files;
using DashSprout.Exchange.Lists;
using DashSprout.Exchange.Prose;

namespace DashSprout.Server.Tests;

/// <summary>vCards, texts by their encoding, and Markdown and HTML files.</summary>
public sealed class ContactFileTests
{
    /// <summary>
    /// Made after the example in RFC 6350, section 8, with an invented person: groups, folded lines, parameters, a tel:
    /// address, an address in parts.
    /// </summary>
    private const string Version4 = """
        BEGIN:VCARD
        VERSION:4.0
        FN:Marram Quill
        N:Quill;Marram;;;ing. jr,M.Sc.
        ORG;SORT-AS="Harbour":Harbour Office\, Gullhaven;Berths
        ADR;TYPE=work:;Suite D2-630;Quay 3;Gullhaven;
         ;GH1 0AA;Nowhere
        item1.TEL;VALUE=uri;TYPE="work,voice";PREF=1:tel:+1-418-555-0101;ext=102
        TEL;VALUE=uri;TYPE="cell,voice,video,text":tel:+1-418-555-0102
        EMAIL;TYPE=work:marram@example.org
        URL;TYPE=home:https://example.org/marram
        NOTE:Prefers calls\, not mails.
        END:VCARD
        """;

    private static string Shown(string file, string sign = ";") =>
        string.Join(
            '\n',
            ContactFile
                .Read(file.ReplaceLineEndings("\n"), sign)
                .Select(row =>
                    row.Problem is { } problem
                        ? $"{row.Line} wrong: {problem}"
                        : $"{row.Snippet.Triggers![0].Text} {row.Snippet.Name} = "
                            + $"{row.Snippet.Text!.Replace("\n", " / ", StringComparison.Ordinal)}"
                )
        );

    [Fact]
    public void A_person_becomes_name_phones_mails_and_a_block_of_all() =>
        Assert.Equal(
            """
            ;mqn Marram Quill: name = Marram Quill
            ;mqp Marram Quill: phone (work) = +1-418-555-0101
            ;mqp2 Marram Quill: phone (mobile)2 = +1-418-555-0102
            ;mqe Marram Quill: e-mail = marram@example.org
            ;mqa Marram Quill: all = Marram Quill / Harbour Office, Gullhaven, Berths / Suite D2-630 / Quay 3 / GH1 0AA Gullhaven / Nowhere
             / +1-418-555-0101 (work) / +1-418-555-0102 (mobile) / marram@example.org / https://example.org/marram
            """.ReplaceLineEndings("\n").Replace("\n /", " /", StringComparison.Ordinal),
            Shown(Version4)
        );

    [Fact]
    public void Version_3_has_types_without_a_name_and_bare_numbers()
    {
        const string Card =
            "BEGIN:vCard\nVERSION:3.0\nFN:Sea Holly\nN:Holly;Sea;;;\nTEL;HOME;VOICE:555-0103\n"
            + "EMAIL;TYPE=INTERNET:sea@example.com\nEND:vCard\n";
        Assert.Equal(
            ";shn Sea Holly: name = Sea Holly\n;shp Sea Holly: phone (home) = 555-0103\n;she Sea Holly: "
                + "e-mail = sea@example.com\n;sha Sea Holly: all = Sea Holly / 555-0103 (home) / sea@example.com",
            Shown(Card)
        );
    }

    [Fact]
    public void People_with_the_same_initials_have_codes_of_their_own()
    {
        static string Card(string name) => $"BEGIN:VCARD\nVERSION:4.0\nFN:{name}\nEND:VCARD\n";
        var codes = ContactFile
            .Read(Card("Sea Holly") + Card("Sam Heath") + Card("Sam Heath") + Card("Åsa Öberg"), "/")
            .Where(row => row.Snippet.Name!.EndsWith("name", StringComparison.Ordinal))
            .Select(row => row.Snippet.Triggers![0].Text);
        Assert.Equal(["/shn", "/shen", "/shean", "/aon"], codes);
    }

    [Theory]
    [InlineData(
        "BEGIN:VCARD\nVERSION:4.0\nTEL:1\nEND:VCARD",
        "1 wrong: The card has no name: FN and N are missing or empty."
    )]
    [InlineData(
        "\n\nBEGIN:VCARD\nVERSION:2.1\nFN:X\nEND:VCARD",
        "3 wrong: The card is of version 2.1; 3.0 and 4.0 are read. Export it again in one of them."
    )]
    [InlineData("BEGIN:VCARD\nVERSION:4.0\nFN:X\n", "1 wrong: The card has no end: END:VCARD is missing.")]
    public void A_card_that_cannot_be_used_is_told_with_its_line(string card, string told) =>
        Assert.Equal(told, Shown(card));

    [Fact]
    public void A_name_is_put_together_from_its_parts_where_it_is_not_given_whole() =>
        Assert.StartsWith(
            ";dssn Dr Sea Star: name = Dr Sea Star\n",
            Shown("BEGIN:VCARD\nVERSION:3.0\nN:Star;Sea;;Dr;\nEND:VCARD"),
            StringComparison.Ordinal
        );

    [Fact]
    public void What_is_no_vCard_says_so() =>
        Assert.Contains(
            "BEGIN:VCARD is missing",
            Assert.Throws<InvalidInputException>(() => ContactFile.Read("x")).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void Texts_are_read_by_their_mark_else_as_UTF_8_else_as_Windows_1252()
    {
        Assert.Equal(new DecodedText("é", "utf-8"), TextFile.Decode("é"u8));
        Assert.Equal(new DecodedText("é", "utf-8"), TextFile.Decode([0xEF, 0xBB, 0xBF, .. "é"u8]));
        Assert.Equal(
            new DecodedText("é", "utf-16le"),
            TextFile.Decode([0xFF, 0xFE, .. Encoding.Unicode.GetBytes("é")])
        );
        Assert.Equal(
            new DecodedText("é", "utf-16be"),
            TextFile.Decode([0xFE, 0xFF, .. Encoding.BigEndianUnicode.GetBytes("é")])
        );
        Assert.Equal(new DecodedText("a\n€é", "windows-1252"), TextFile.Decode([(byte)'a', 13, 10, 0x80, 0xE9]));
    }

    [Fact]
    public void A_text_that_mixes_encodings_names_the_lines()
    {
        byte[] mixed = [.. "one é\n"u8, .. "two\n"u8, (byte)'t', 0xE9, (byte)'\n'];
        Assert.Contains(
            "line 1 is UTF-8 and line 3 is not",
            Assert.Throws<InvalidInputException>(() => TextFile.Decode(mixed)).Message,
            StringComparison.Ordinal
        );
        Assert.Equal("windows-1252", TextFile.Decode(mixed, "windows-1252").Encoding);
        Assert.Contains(
            "zero bytes",
            Assert.Throws<InvalidInputException>(() => TextFile.Decode([1, 0, 2])).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "32 are read",
            Assert.Throws<InvalidInputException>(() => TextFile.Decode(new byte[TextFile.MaxBytes + 1])).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "cannot be read as utf-8",
            Assert.Throws<InvalidInputException>(() => TextFile.Decode([0xE9], "utf-8")).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Markdown_and_HTML_files_are_snippets_with_the_folders_they_lie_in()
    {
        var pictures = new List<Core.Bodies.PictureData>();
        var rows = DocumentFiles
            .Read(
                [
                    new NamedText(
                        "Letters/Regards.md",
                        "---\nabbreviation: [\";kr\", kr]\ntags: polite, end\nnote: for letters\n---\nKind regards"
                    ),
                    new NamedText(
                        "Notice.html",
                        "<!doctype html><html><head><title>x</title></head><body class=\"a\"><h1>Notice</h1>"
                            + "<p>Gale <b>warning</b></p><script>1</script></body></html>"
                    ),
                    new NamedText("List.md", "Bring:\n\n- papers\n- *lines*\n"),
                ],
                pictures
            )
            .ToDictionary(row => row.Snippet.Name!);
        Assert.Equal(
            ("Letters", "Kind regards", "for letters"),
            (Assert.Single(rows["Regards"].Folders), rows["Regards"].Snippet.Text, rows["Regards"].Snippet.Note)
        );
        Assert.Equal([";kr", "kr"], rows["Regards"].Snippet.Triggers!.Select(trigger => trigger.Text));
        Assert.Equal(
            "<h1>Notice</h1><p>Gale <strong>warning</strong></p>",
            rows["Notice"]
                .Checked(TriggerDefaults.None)
                .Snippet!.Snippet.Body.Source.Replace("1</p>", "</p>", StringComparison.Ordinal)
        );
        Assert.Equal(
            "<p>Bring:</p><ul><li><p>papers</p></li><li><p><em>lines</em></p></li></ul>",
            rows["List"].Checked(TriggerDefaults.None).Snippet!.Snippet.Body.Source.ReplaceLineEndings("")
        );
    }
}
