using System.Globalization;
using System.Text;

namespace DashSprout.Core.Bodies;

/// <summary>
/// Writes one line of a flow as Markdown. Where CommonMark's rules of flanking would not read a sign of emphasis as
/// one, as in <c>**Note:**text</c>, the element of HTML stands in its place, which Markdown takes as well.
/// </summary>
/// <param name="lineBreak">What ends a line within the block.</param>
internal sealed class MarkdownLine(WrittenText output, IReadOnlyList<Piece> pieces, string lineBreak)
{
    private readonly List<Atom> atoms = [];
    private readonly List<IReadOnlyList<Mark>> written = [];
    private readonly List<(Mark Mark, string Sign)> open = [];

    /// <summary>Where the last letter begins, as long as it is the last thing written and no blank; else -1.</summary>
    private int letterAt = -1;
    private Rune lastLetter;
    private char lastSign;
    private bool lineBegins = true;

    /// <summary>From which atom on there is nothing but signs that could close a heading.</summary>
    private int signsFrom;
    private int digits;

    /// <summary>Whether it is a heading, where signs at the end count.</summary>
    public bool IsHeading { get; init; }

    /// <summary>Whether it stands in a cell of a table.</summary>
    public bool IsCell { get; init; }

    /// <summary>
    /// A letter, a line's end, a picture, or a place, with the formatting that Markdown has signs for.
    /// </summary>
    private sealed record Atom(Rune Letter, Piece? Other, IReadOnlyList<Mark> Marks, bool IsCode)
    {
        public bool IsBlank => Other is Piece.Break || (Other is null && !IsCode && Rune.IsWhiteSpace(Letter));

        /// <summary>Whether it is nothing that is read.</summary>
        public bool IsPlace => Other is not (null or Piece.Break or Piece.Picture);
    }

    /// <summary>Writes the line.</summary>
    public void Write()
    {
        foreach (var piece in pieces)
            Take(piece);
        PutBlanksOutside();
        signsFrom = 1 + atoms.FindLastIndex(atom => !atom.IsPlace && !atom.IsBlank && atom.Letter.Value != '#');
        for (var at = 0; at < atoms.Count; at++)
        {
            var atom = atoms[at];
            if (atom.Other is Piece.Caret)
                Caret(at);
            else if (atom.IsPlace)
                output.Mark(atom.Other!);
            else if (atom.Other is Piece.Break)
                Break(at);
            else if (atom.Other is Piece.Picture picture)
                Picture(picture, at);
            else if (atom.IsCode)
                at = Code(at);
            else
                Letter(at);
        }
        Change(atoms.Count);
    }

    /// <summary>The longest run of one sign in a text.</summary>
    public static int LongestRun(string text, char unit)
    {
        int longest = 0,
            run = 0;
        foreach (var other in text)
            longest = Math.Max(longest, run = other == unit ? run + 1 : 0);
        return longest;
    }

    // ---- what there is to write ----------------------------------------------------------------------------------

    private void Take(Piece piece)
    {
        if (piece is not Piece.Words words)
        {
            atoms.Add(new Atom(default, piece, piece is Piece.Caret caret ? Shown(caret.Marks) : [], false));
            return;
        }
        var marks = Shown(words.Marks);
        var isCode = words.Marks.Any(mark => mark is Mark.Emphasised { Emphasis: Emphasis.Code });
        foreach (var letter in words.Text.EnumerateRunes())
            atoms.Add(
                letter.Value == '\n'
                    ? new Atom(default, new Piece.Break(), marks, false)
                    : new Atom(letter, null, marks, isCode)
            );
    }

    /// <summary>The formatting with signs of its own; code is written otherwise, and a kind counts once.</summary>
    private static IReadOnlyList<Mark> Shown(IEnumerable<Mark> marks) =>
        [
            .. marks
                .Where(mark =>
                    mark is Mark.Link or Mark.Emphasised { Emphasis: Emphasis.Strong or Emphasis.Em or Emphasis.S }
                )
                .Distinct(),
        ];

    /// <summary>The formatting in which an atom is written.</summary>
    private IReadOnlyList<Mark> MarksAt(int at) => written[at];

    /// <summary>
    /// Blanks and pictures at the edge of emphasis stand outside of it, since no sign closes behind a blank: what lies
    /// between two letters has the formatting that all of it and both letters share.
    /// </summary>
    private void PutBlanksOutside()
    {
        IReadOnlyList<Mark> before = [];
        for (var at = 0; at < atoms.Count; )
        {
            if (IsRead(at))
            {
                written.Add(before = atoms[at].Marks);
                at++;
                continue;
            }
            var end = at;
            while (end < atoms.Count && !IsRead(end))
                end++;
            var shared = Shared(before, end < atoms.Count ? atoms[end].Marks : []);
            for (var blank = at; blank < end; blank++)
                if (atoms[blank] is { Other: null } own)
                    shared = Shared(shared, own.Marks);
            // A place keeps its own formatting: signs open around the caret even when nothing is written between them
            // yet.
            for (; at < end; at++)
                written.Add(atoms[at].Other is Piece.Caret ? atoms[at].Marks : shared);
        }
    }

    private bool IsRead(int at) => !atoms[at].IsPlace && !atoms[at].IsBlank && atoms[at].Other is not Piece.Picture;

    private IReadOnlyList<Mark> Beside(int at, int step)
    {
        for (at += step; at >= 0 && at < atoms.Count; at += step)
            if (IsRead(at))
                return atoms[at].Marks;
        return [];
    }

    private static IReadOnlyList<Mark> Shared(IReadOnlyList<Mark> a, IReadOnlyList<Mark> b)
    {
        var shared = 0;
        while (shared < a.Count && shared < b.Count && a[shared] == b[shared])
            shared++;
        return [.. a.Take(shared)];
    }

    // ---- signs ---------------------------------------------------------------------------------------------------

    /// <summary>Closes and opens formatting before an atom; behind the last one everything closes.</summary>
    private void Change(int next)
    {
        var wanted = next < atoms.Count ? MarksAt(next) : [];
        var shared = Shared([.. open.Select(one => one.Mark)], wanted).Count;
        for (var at = open.Count - 1; at >= shared; at--)
        {
            var (mark, sign) = open[at];
            open.RemoveAt(at);
            Sign(
                mark is Mark.Link link
                    ? $"]({Destination(link.Target)})"
                    : sign.Replace("<", "</", StringComparison.Ordinal)
            );
        }
        for (var at = shared; at < wanted.Count; at++)
        {
            // A ! before it would make it a picture.
            if (wanted[at] is Mark.Link && letterAt >= 0 && lastLetter.Value == '!')
                output.Rewrite(letterAt, "\\!");
            var sign = wanted[at] is Mark.Link ? "[" : SignFor(wanted, at, next);
            Sign(sign);
            open.Add((wanted[at], sign));
        }
    }

    /// <summary>
    /// The sign of emphasis, or an element where none would be read as one. Signs of one kind never lie in or beside
    /// each other, so that nobody has to guess which belong together.
    /// </summary>
    private string SignFor(IReadOnlyList<Mark> wanted, int depth, int from)
    {
        var emphasis = ((Mark.Emphasised)wanted[depth]).Emphasis;
        var sign =
            emphasis == Emphasis.S
                ? "~~"
                : new string(
                    lastSign == '*' || open.Exists(one => one.Sign[0] == '*') ? '_' : '*',
                    emphasis == Emphasis.Strong ? 2 : 1
                );
        return Opens(sign[0], wanted.Count > depth + 1, from) && Closes(sign[0], wanted.Take(depth + 1).ToList(), from)
            ? sign
            : emphasis switch
            {
                Emphasis.Strong => "<strong>",
                Emphasis.Em => "<em>",
                _ => "<s>",
            };
    }

    /// <summary>
    /// Whether a sign is read as opening here: CommonMark's left-flanking, and for _ not within a word.
    /// </summary>
    private bool Opens(char sign, bool signFollows, int from)
    {
        var isApart = letterAt < 0 || IsSurelyApart(lastLetter);
        return isApart || (sign != '_' && !signFollows && !IsPunctuation(from));
    }

    /// <summary>
    /// Whether it is read as closing where its stretch ends: right-flanking, and for _ not within a word.
    /// </summary>
    private bool Closes(char sign, List<Mark> marks, int from)
    {
        int last = from,
            next = from;
        IReadOnlyList<Mark> inside = marks;
        for (; next < atoms.Count; next++)
        {
            if (atoms[next].IsPlace)
                continue;
            var here = MarksAt(next);
            if (Shared(here, marks).Count < marks.Count)
                break;
            (last, inside) = (next, here);
        }
        var behind = next < atoms.Count ? atoms[next] : null;
        var isApart =
            behind is null
            || behind.IsBlank
            || behind.Other is not null
            || behind.IsCode
            || IsSpecial(next)
            || IsSurelyApart(behind.Letter)
            // Another sign comes between.
            || MarksAt(next).Count != marks.Count - 1
            || Shared(MarksAt(next), marks).Count != marks.Count - 1;
        return isApart || (sign != '_' && inside.Count == marks.Count && !IsPunctuation(last));
    }

    private bool IsPunctuation(int at) =>
        atoms[at] is { Other: not null } or { IsCode: true } || IsSpecial(at) || MayBePunctuation(atoms[at].Letter);

    private void Sign(string sign)
    {
        output.Add(sign);
        (letterAt, lastSign, lineBegins, digits) = (-1, sign[^1], false, 0);
    }

    private static bool MayBePunctuation(Rune letter) =>
        Rune.GetUnicodeCategory(letter) is >= UnicodeCategory.ConnectorPunctuation and <= UnicodeCategory.OtherSymbol;

    /// <summary>
    /// Whether every version of the rules takes it for a blank or for punctuation; symbols are taken for it by some
    /// only.
    /// </summary>
    private static bool IsSurelyApart(Rune letter) =>
        Rune.IsWhiteSpace(letter)
        || (
            MayBePunctuation(letter)
            && (letter.IsAscii || Rune.GetUnicodeCategory(letter) <= UnicodeCategory.OtherPunctuation)
        );

    private static string Destination(string target)
    {
        target = target.Replace("\\", "%5C", StringComparison.Ordinal).Replace("&", "&amp;", StringComparison.Ordinal);
        return target.AsSpan().IndexOfAny(" ()<>") < 0
            ? target
            : $"<{target.Replace("<", "%3C", StringComparison.Ordinal).Replace(">", "%3E", StringComparison.Ordinal)}>";
    }

    // ---- what is read --------------------------------------------------------------------------------------------

    private void Letter(int at)
    {
        var letter = atoms[at].Letter;
        var isBlank = Rune.IsWhiteSpace(letter);
        Change(at);
        // A blank at the start of a line lays it out for readers; as a reference it is one that is read.
        var text =
            isBlank && lineBegins && !IsHeading && !IsCell
                ? string.Create(CultureInfo.InvariantCulture, $"&#{letter.Value};")
            : IsSpecial(at) ? $"\\{letter}"
            : letter.ToString();
        // Digits at the start of a line with . or ) behind them would begin a list.
        digits = letter.IsAscii && char.IsAsciiDigit((char)letter.Value) && (lineBegins || digits > 0) ? digits + 1 : 0;
        (letterAt, lastLetter) = (isBlank ? -1 : output.Length, letter);
        output.Add(text);
        (lastSign, lineBegins) = (' ', false);
    }

    private bool IsSpecial(int at)
    {
        var letter = atoms[at].Letter;
        if (!letter.IsAscii)
            return false;
        var next =
            at + 1 < atoms.Count && atoms[at + 1] is { Other: null, IsCode: false } beside
                ? (char)Math.Min(beside.Letter.Value, char.MaxValue)
                : ' ';
        return (char)letter.Value switch
        {
            '\\' or '`' or '*' or '_' or '[' or ']' or '<' or '~' => true,
            '|' => IsCell || lineBegins,
            '&' => char.IsAsciiLetter(next) || next == '#',
            '#' => lineBegins || (IsHeading && at >= signsFrom),
            '>' or '+' or '-' or '=' or ':' => lineBegins,
            '.' or ')' => digits > 0,
            _ => false,
        };
    }

    /// <summary>What is read next behind an atom; null when nothing is.</summary>
    private Atom? Beyond(int at) => atoms.Skip(at + 1).FirstOrDefault(atom => !atom.IsPlace);

    private void Break(int at)
    {
        Change(at);
        // At the end of a block a backslash is just one.
        output.Add(Beyond(at) is null && lineBreak[0] == '\\' ? "<br>" : lineBreak);
        (letterAt, lastSign, lineBegins, digits) = (-1, ' ', !IsHeading && !IsCell, 0);
    }

    private void Picture(Piece.Picture picture, int at)
    {
        Change(at);
        output.Add("![");
        foreach (var letter in picture.Alt.ReplaceLineEndings(" ").EnumerateRunes())
            output.Add(
                letter.Value is '\\' or '[' or ']' or '`' or '<' or '*' or '_' or '&' || (IsCell && letter.Value == '|')
                    ? $"\\{letter}"
                    : letter.ToString()
            );
        Sign($"](media:{picture.Media})");
    }

    /// <summary>Signs open before the caret even when nothing is written between them yet.</summary>
    private void Caret(int at)
    {
        var marks = atoms[at].Marks;
        var stands = Beside(at, -1).SequenceEqual(marks) || Beside(at, 1).SequenceEqual(marks);
        if (marks.Count > 0 && !stands)
            Change(at);
        output.Mark(atoms[at].Other!);
    }

    /// <summary>A stretch of code with the same formatting around it; gives its last atom.</summary>
    private int Code(int at)
    {
        var marks = atoms[at].Marks;
        var end = at;
        while (
            end + 1 < atoms.Count
            && (atoms[end + 1].IsPlace || (atoms[end + 1].IsCode && atoms[end + 1].Marks.SequenceEqual(marks)))
        )
            end++;
        while (atoms[end].IsPlace)
            end--;
        var text = string.Concat(
            atoms.Skip(at).Take(end - at + 1).Where(atom => !atom.IsPlace).Select(atom => atom.Letter.ToString())
        );
        Change(at);
        // A bar within code ends the cell for some readers, and a backtick before code is taken for a part of its
        // fence.
        if ((IsCell && text.Contains('|', StringComparison.Ordinal)) || (letterAt >= 0 && lastLetter.Value == '`'))
        {
            Inside(at, end, "<code>", "</code>", letter =>
                letter.Value is '|' or '<' or '&' or '*' or '_' or '`' or '[' or ']' or '\\' or '~'
                    ? string.Create(CultureInfo.InvariantCulture, $"&#{letter.Value};")
                    : letter.ToString()
            );
            return end;
        }
        var fence = new string('`', LongestRun(text, '`') + 1);
        var isPadded =
            text[0] == '`' || text[^1] == '`' || (text[0] == ' ' && text[^1] == ' ' && text.Trim(' ').Length > 0);
        var pad = isPadded ? " " : "";
        Inside(at, end, fence + pad, pad + fence, letter => letter.ToString());
        return end;
    }

    private void Inside(int at, int end, string begin, string finish, Func<Rune, string> write)
    {
        output.Add(begin);
        foreach (var atom in atoms.Skip(at).Take(end - at + 1))
        {
            if (atom.IsPlace)
                output.Mark(atom.Other!);
            else
                output.Add(write(atom.Letter));
        }
        Sign(finish);
    }
}
