using System.Buffers;
using System.Globalization;
using System.Text;

namespace DashSprout.Core.Text;

/// <summary>
/// Capitals by Unicode's full case mapping: one letter can become several, as <c>ß</c> becomes <c>SS</c>. The table has
/// the unconditional mappings of the Unicode Character Database's <c>SpecialCasing.txt</c>, each as code, title case
/// and capitals; Turkish and Azeri tell <c>i</c> and <c>ı</c> apart.
/// </summary>
public static class FullCasing
{
    private static readonly Dictionary<char, (string Title, string Upper)> Special = Read(
        """
        00DF/0053+0073/0053+0053 FB00/0046+0066/0046+0046 FB01/0046+0069/0046+0049 FB02/0046+006C/0046+004C
        FB03/0046+0066+0069/0046+0046+0049 FB04/0046+0066+006C/0046+0046+004C FB05/0053+0074/0053+0054
        FB06/0053+0074/0053+0054 0587/0535+0582/0535+0552 FB13/0544+0576/0544+0546 FB14/0544+0565/0544+0535
        FB15/0544+056B/0544+053B FB16/054E+0576/054E+0546 FB17/0544+056D/0544+053D 0149/02BC+004E/02BC+004E
        0390/0399+0308+0301/0399+0308+0301 03B0/03A5+0308+0301/03A5+0308+0301 01F0/004A+030C/004A+030C
        1E96/0048+0331/0048+0331 1E97/0054+0308/0054+0308 1E98/0057+030A/0057+030A 1E99/0059+030A/0059+030A
        1E9A/0041+02BE/0041+02BE 1F50/03A5+0313/03A5+0313 1F52/03A5+0313+0300/03A5+0313+0300
        1F54/03A5+0313+0301/03A5+0313+0301 1F56/03A5+0313+0342/03A5+0313+0342 1FB6/0391+0342/0391+0342
        1FC6/0397+0342/0397+0342 1FD2/0399+0308+0300/0399+0308+0300 1FD3/0399+0308+0301/0399+0308+0301
        1FD6/0399+0342/0399+0342 1FD7/0399+0308+0342/0399+0308+0342 1FE2/03A5+0308+0300/03A5+0308+0300
        1FE3/03A5+0308+0301/03A5+0308+0301 1FE4/03A1+0313/03A1+0313 1FE6/03A5+0342/03A5+0342
        1FE7/03A5+0308+0342/03A5+0308+0342 1FF6/03A9+0342/03A9+0342 1F80/1F88/1F08+0399 1F81/1F89/1F09+0399
        1F82/1F8A/1F0A+0399 1F83/1F8B/1F0B+0399 1F84/1F8C/1F0C+0399 1F85/1F8D/1F0D+0399 1F86/1F8E/1F0E+0399
        1F87/1F8F/1F0F+0399 1F88/1F88/1F08+0399 1F89/1F89/1F09+0399 1F8A/1F8A/1F0A+0399 1F8B/1F8B/1F0B+0399
        1F8C/1F8C/1F0C+0399 1F8D/1F8D/1F0D+0399 1F8E/1F8E/1F0E+0399 1F8F/1F8F/1F0F+0399 1F90/1F98/1F28+0399
        1F91/1F99/1F29+0399 1F92/1F9A/1F2A+0399 1F93/1F9B/1F2B+0399 1F94/1F9C/1F2C+0399 1F95/1F9D/1F2D+0399
        1F96/1F9E/1F2E+0399 1F97/1F9F/1F2F+0399 1F98/1F98/1F28+0399 1F99/1F99/1F29+0399 1F9A/1F9A/1F2A+0399
        1F9B/1F9B/1F2B+0399 1F9C/1F9C/1F2C+0399 1F9D/1F9D/1F2D+0399 1F9E/1F9E/1F2E+0399 1F9F/1F9F/1F2F+0399
        1FA0/1FA8/1F68+0399 1FA1/1FA9/1F69+0399 1FA2/1FAA/1F6A+0399 1FA3/1FAB/1F6B+0399 1FA4/1FAC/1F6C+0399
        1FA5/1FAD/1F6D+0399 1FA6/1FAE/1F6E+0399 1FA7/1FAF/1F6F+0399 1FA8/1FA8/1F68+0399 1FA9/1FA9/1F69+0399
        1FAA/1FAA/1F6A+0399 1FAB/1FAB/1F6B+0399 1FAC/1FAC/1F6C+0399 1FAD/1FAD/1F6D+0399 1FAE/1FAE/1F6E+0399
        1FAF/1FAF/1F6F+0399 1FB3/1FBC/0391+0399 1FBC/1FBC/0391+0399 1FC3/1FCC/0397+0399 1FCC/1FCC/0397+0399
        1FF3/1FFC/03A9+0399 1FFC/1FFC/03A9+0399 1FB2/1FBA+0345/1FBA+0399 1FB4/0386+0345/0386+0399
        1FC2/1FCA+0345/1FCA+0399 1FC4/0389+0345/0389+0399 1FF2/1FFA+0345/1FFA+0399 1FF4/038F+0345/038F+0399
        1FB7/0391+0342+0345/0391+0342+0399 1FC7/0397+0342+0345/0397+0342+0399 1FF7/03A9+0342+0345/03A9+0342+0399
        """
    );

    private static readonly SearchValues<char> Specials = SearchValues.Create([.. Special.Keys]);

    /// <summary>A text in capitals.</summary>
    public static string Upper(string text, CultureInfo language)
    {
        var letters = Letters(language);
        if (text.AsSpan().IndexOfAny(Specials) < 0)
            return letters.ToUpper(text);
        var capitals = new StringBuilder(text.Length + 8);
        var rest = text.AsSpan();
        while (rest.IndexOfAny(Specials) is >= 0 and var at)
        {
            capitals.Append(letters.ToUpper(rest[..at].ToString())).Append(Special[rest[at]].Upper);
            rest = rest[(at + 1)..];
        }
        return capitals.Append(letters.ToUpper(rest.ToString())).ToString();
    }

    /// <summary>One letter in title case, which is the capital for most.</summary>
    public static string Title(Rune letter, CultureInfo language) =>
        letter.IsBmp && Special.TryGetValue((char)letter.Value, out var special)
            ? special.Title
            : Letters(language).ToTitleCase(letter.ToString());

    private static TextInfo Letters(CultureInfo language) =>
        (language.TwoLetterISOLanguageName is "tr" or "az" ? language : CultureInfo.InvariantCulture).TextInfo;

    private static Dictionary<char, (string Title, string Upper)> Read(string table) =>
        table
            .Split((char[])[' ', '\n', '\r'], StringSplitOptions.RemoveEmptyEntries)
            .Select(row => row.Split('/'))
            .ToDictionary(row => Text(row[0])[0], row => (Text(row[1]), Text(row[2])));

    private static string Text(string codes) =>
        string.Concat(
            codes
                .Split('+')
                .Select(code => (char)int.Parse(code, NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture))
        );
}
