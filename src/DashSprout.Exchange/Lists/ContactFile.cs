using System.Globalization;
using System.Text;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Exchange.Files;

namespace DashSprout.Exchange.Lists;

/// <summary>
/// People from a vCard file (RFC 6350, and version 3.0 of RFC 2426) as snippets: name, phone, e-mail and a block of all
/// for each, with abbreviations made of a sign, their initials and a letter: <c>;shp</c>.
/// </summary>
public static class ContactFile
{
    /// <summary>The folder they lie in.</summary>
    public const string Folder = "Contacts";

    /// <summary>The sign that abbreviations begin with unless another one is chosen.</summary>
    public const string UsualSign = ";";

    /// <summary>
    /// Section 6.2.2 has family, given and additional names, then honorific prefixes and suffixes; spoken, the prefixes
    /// come first.
    /// </summary>
    private static readonly int[] NameOrder = [3, 1, 2, 0, 4];

    private static readonly EquatableList<string> Parts = new([SnippetParts.Text, SnippetParts.Triggers]);

    /// <summary>The snippets of a file; a card that cannot be used is told as a row with a problem.</summary>
    public static IReadOnlyList<IncomingRow> Read(
        string text,
        string sign = UsualSign,
        CancellationToken cancellation = default
    )
    {
        if (!text.Contains("BEGIN:VCARD", StringComparison.OrdinalIgnoreCase))
            throw new InvalidInputException("file", "This is no vCard file: BEGIN:VCARD is missing.");
        var codes = new FreeNames();
        return
        [
            .. Cards(text)
                .SelectMany(card =>
                {
                    cancellation.ThrowIfCancellationRequested();
                    return Rows(card, sign, codes);
                }),
        ];
    }

    private sealed record Card(int Line, IReadOnlyList<ContactLine> Lines, bool Ended)
    {
        public IEnumerable<string> Texts(string name) =>
            Lines
                .Where(line => line.Name == name)
                .Select(line => ContactLine.Text(line.Value))
                .Where(value => value.Length > 0);

        public ContactLine? First(string name) => Lines.FirstOrDefault(line => line.Name == name);
    }

    private static IEnumerable<Card> Cards(string text)
    {
        var (begun, lines) = (0, new List<ContactLine>());
        foreach (var line in ContactLine.Read(text))
        {
            var isCard = line.Value.Trim().Equals("VCARD", StringComparison.OrdinalIgnoreCase);
            if (line.Name == "BEGIN" && isCard)
            {
                if (begun > 0)
                    yield return new Card(begun, lines, false);
                (begun, lines) = (line.Line, []);
            }
            else if (line.Name == "END" && isCard && begun > 0)
            {
                yield return new Card(begun, lines, true);
                (begun, lines) = (0, []);
            }
            else if (begun > 0)
                lines.Add(line);
        }
        if (begun > 0)
            yield return new Card(begun, lines, false);
    }

    private static IEnumerable<IncomingRow> Rows(Card card, string sign, FreeNames codes)
    {
        if (Problem(card) is { } problem)
        {
            yield return new IncomingRow(
                card.Line,
                null,
                [Folder],
                new SnippetDocument(NameOf(card), Text: "", Triggers: []),
                [],
                problem
            );
            yield break;
        }
        var name = NameOf(card)!;
        var code = Code(name, sign, codes);
        var shown = name.Replace('/', '-');
        var phones = card
            .Lines.Where(line => line.Name == "TEL")
            .Select(line => (Kind: Kind(line), Value: Number(line.Value)))
            .Where(phone => phone.Value.Length > 0)
            .ToList();
        var mails = card.Texts("EMAIL").Select(Address).ToList();
        yield return Row(card, $"{shown}: name", name, code + "n");
        foreach (var (phone, at) in phones.Select((phone, at) => (phone, at)))
            yield return Row(
                card,
                $"{shown}: phone{(phone.Kind is null ? "" : $" ({phone.Kind})")}{Behind(at)}",
                phone.Value,
                $"{code}p{Behind(at)}"
            );
        foreach (var (mail, at) in mails.Select((mail, at) => (mail, at)))
            yield return Row(card, $"{shown}: e-mail{Behind(at)}", mail, $"{code}e{Behind(at)}");
        yield return Row(card, $"{shown}: all", All(card, name, phones, mails), code + "a");
    }

    private static string Behind(int at) => at == 0 ? "" : (at + 1).ToString(CultureInfo.InvariantCulture);

    private static IncomingRow Row(Card card, string name, string text, string code) =>
        new(
            card.Line,
            null,
            [Folder],
            new SnippetDocument(name, Text: text, Triggers: [new TriggerDocument("abbreviation", code)]),
            Parts
        );

    private static string? Problem(Card card)
    {
        var version = card.First("VERSION")?.Value.Trim();
        if (!card.Ended)
            return "The card has no end: END:VCARD is missing.";
        if (version is not ("3.0" or "4.0"))
            return $"The card is of version {version ?? "(none)"}; 3.0 and 4.0 are read. Export it again in "
                + "one of them.";
        return NameOf(card) is null ? "The card has no name: FN and N are missing or empty." : null;
    }

    private static string? NameOf(Card card)
    {
        if (card.Texts("FN").FirstOrDefault() is { } full)
            return full.ReplaceLineEndings(" ");
        var parts = card.First("N") is { } line ? ContactLine.Parts(line.Value) : [];
        var name = string.Join(
            ' ',
            NameOrder.Select(at => parts.ElementAtOrDefault(at)).Where(part => !string.IsNullOrEmpty(part))
        );
        return name.Length > 0 ? name : card.Texts("ORG").FirstOrDefault()?.Replace(';', ' ').Trim();
    }

    private static string All(Card card, string name, List<(string? Kind, string Value)> phones, List<string> mails)
    {
        var lines = new List<string> { name };
        lines.AddRange(card.Texts("TITLE"));
        if (card.First("ORG") is { } organisation)
            lines.Add(string.Join(", ", ContactLine.Parts(organisation.Value).Where(part => part.Length > 0)));
        foreach (var address in card.Lines.Where(line => line.Name == "ADR"))
        {
            // Section 6.3.1: box, extended, street, locality, region, code, country.
            var parts = ContactLine.Parts(address.Value);
            string? Part(int at) =>
                parts.ElementAtOrDefault(at) is { Length: > 0 } part ? part.Replace('\n', ' ') : null;
            lines.AddRange(
                new[] { Part(0), Part(1), Part(2), Joined(Part(5), Part(3)), Part(4), Part(6) }.OfType<string>()
            );
        }
        lines.AddRange(phones.Select(phone => phone.Kind is null ? phone.Value : $"{phone.Value} ({phone.Kind})"));
        lines.AddRange(mails);
        lines.AddRange(card.Texts("URL"));
        return string.Join('\n', lines.Where(line => line.Length > 0));
    }

    private static string? Joined(string? one, string? other) =>
        one is null ? other
        : other is null ? one
        : $"{one} {other}";

    /// <summary>
    /// The sign and the initials, with more letters of the last name or a number where others have them already.
    /// </summary>
    private static string Code(string name, string sign, FreeNames codes)
    {
        var words = name.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
            .Select(Letters)
            .Where(word => word.Length > 0)
            .ToList();
        if (words.Count == 0)
            words.Add("x");
        var initials = sign + string.Concat(words.Select(word => word[..1]));
        return codes.Take(
            Enumerable
                .Range(1, words[^1].Length)
                .Select(length => initials + words[^1][1..length])
                .FirstOrDefault(code => !codes.IsTaken(code))
                ?? initials,
            between: ""
        );
    }

    /// <summary>The letters and digits of a word in lower case, without marks.</summary>
    private static string Letters(string word) =>
        string.Concat(word.Normalize(NormalizationForm.FormD).Where(char.IsLetterOrDigit)).ToLowerInvariant();

    private static string? Kind(ContactLine line) =>
        line
            .Types.Select(type =>
                type switch
                {
                    "cell" => "mobile",
                    "work" => "work",
                    "home" => "home",
                    "fax" => "fax",
                    _ => null,
                }
            )
            .FirstOrDefault(kind => kind is not null);

    /// <summary>A number, also where it is a <c>tel:</c> address (section 6.4.1).</summary>
    private static string Number(string value)
    {
        var text = ContactLine.Text(value);
        return text.StartsWith("tel:", StringComparison.OrdinalIgnoreCase) ? text[4..].Split(';')[0] : text;
    }

    private static string Address(string value) =>
        value.StartsWith("mailto:", StringComparison.OrdinalIgnoreCase) ? value[7..] : value;
}
