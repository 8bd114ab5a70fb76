namespace DashSprout.Core.Learning;

/// <summary>
/// Tells what looks like a pass-phrase or the number of a card or account, which is never learned wherever it is typed.
/// </summary>
/// <param name="pairs">The letters of a language.</param>
public sealed class SecretLook(LetterPairs pairs)
{
    /// <summary>Shorter words are too short to say anything.</summary>
    private const int ShortestMixed = 6,
        ShortestLetters = 8,
        LongestWord = 64;

    /// <summary>So many digits together are a number of something.</summary>
    private const int MostDigitsTogether = 5,
        MostDigits = 7;

    /// <summary>
    /// The lengths of numbers with a check digit, from ISO/IEC 7812-1: at least the issuer's eight digits, at most
    /// nineteen.
    /// </summary>
    private const int ShortestNumber = 8,
        LongestNumber = 19;

    /// <summary>
    /// Letters by chance carry more than words of any language; measured in the tests with words of several.
    /// </summary>
    private const double MostBitsALetter = 5.3;

    /// <summary>Marks the words of a line that are not to be learned.</summary>
    public void Mark(string line, IReadOnlyList<Range> words, Span<bool> secret)
    {
        for (var at = 0; at < words.Count; at++)
            if (LooksUnguessable(line.AsSpan()[words[at]]))
                secret[at] = true;
        // A number may be written in groups.
        for (var from = 0; from < words.Count; )
        {
            var to = from;
            for (
                var next = from;
                next < words.Count
                    && (IsDigits(line.AsSpan()[words[next]]) || (to > from && IsSigns(line.AsSpan()[words[next]])));
                next++
            )
                if (!IsSigns(line.AsSpan()[words[next]]))
                    to = next + 1;
            if (to > from && IsNumber(line, words, from, to))
                secret[from..to].Fill(true);
            from = Math.Max(to, from + 1);
        }
    }

    /// <summary>
    /// Whether a word has more information than words have: letters mixed with digits and signs, or letters by chance.
    /// </summary>
    public bool LooksUnguessable(ReadOnlySpan<char> word)
    {
        if (word.Length > LongestWord)
            return true;
        word = word[WordCode.Core(word)];
        if (word.Length < ShortestMixed)
            return false;
        var (letters, digits, signs, capitals, lower, turns) = (0, 0, 0, 0, 0, 0);
        for (var at = 0; at < word.Length; at++)
        {
            var unit = word[at];
            if (char.IsAsciiDigit(unit))
                digits++;
            else if (char.IsLetter(unit))
                letters++;
            else if (unit is not ('-' or '\'' or '’' or '.' or ',' or ':' or '/' or '@' or '_' or '·'))
                signs++;
            if (at > 0 && char.IsUpper(unit))
                capitals++;
            if (char.IsLower(unit))
                lower++;
            if (at > 0 && char.IsAsciiDigit(unit) != char.IsAsciiDigit(word[at - 1]))
                turns++;
        }
        if (letters > 1 && digits > 0 && (signs > 0 || turns >= 3 || (capitals > 0 && lower > 0)))
            return true;
        if (signs > 0 && letters > 0 && capitals > 0 && lower > 0)
            return true;
        return letters >= ShortestLetters && digits == 0 && pairs.BitsALetter(word) > MostBitsALetter;
    }

    /// <summary>Whether digits end with the check digit of ISO/IEC 7812-1 (the formula of Luhn).</summary>
    public static bool HasCheckDigit(ReadOnlySpan<char> digits)
    {
        if (digits.Length is < ShortestNumber or > LongestNumber)
            return false;
        var sum = 0;
        for (var at = 0; at < digits.Length; at++)
        {
            var digit = digits[^(at + 1)] - '0';
            if (at % 2 == 1)
                digit = digit * 2 > 9 ? digit * 2 - 9 : digit * 2;
            sum += digit;
        }
        return sum % 10 == 0;
    }

    /// <summary>Whether a word has digits and no word beside them: <c>1,250.00</c>, <c>DE89</c>, <c>(3)</c>.</summary>
    private static bool IsDigits(ReadOnlySpan<char> word)
    {
        var (digits, letters) = (0, 0);
        foreach (var unit in word)
        {
            if (char.IsDigit(unit))
                digits++;
            else if (char.IsLetter(unit))
                letters++;
        }
        return digits > 0 && letters <= 4;
    }

    /// <summary>Whether a word has neither letters nor digits, as a hyphen between groups of digits.</summary>
    private static bool IsSigns(ReadOnlySpan<char> word)
    {
        foreach (var unit in word)
            if (char.IsLetterOrDigit(unit))
                return false;
        return true;
    }

    private static bool IsNumber(string line, IReadOnlyList<Range> words, int from, int to)
    {
        var digits = new List<char>();
        var together = 0;
        for (var at = from; at < to; at++)
        {
            var run = 0;
            foreach (var unit in line.AsSpan()[words[at]])
            {
                run = char.IsDigit(unit) ? run + 1 : 0;
                together = Math.Max(together, run);
                // Digits of other scripts count like those of this one.
                if (char.IsDigit(unit))
                    digits.Add((char)('0' + (int)char.GetNumericValue(unit)));
            }
        }
        if (together > MostDigitsTogether)
            return true;
        if (digits.Count <= MostDigits)
            return false;
        var all = System.Runtime.InteropServices.CollectionsMarshal.AsSpan(digits);
        // Numbers that follow one another may hold one that has a check digit.
        for (var start = 0; start < all.Length; start++)
        for (var length = ShortestNumber; length <= LongestNumber && start + length <= all.Length; length++)
            if (HasCheckDigit(all.Slice(start, length)))
                return true;
        return !IsDatesOnly(line, words, from, to);
    }

    /// <summary>
    /// Whether all of it is dates and times: groups of one, two or four digits between points, slashes, colons or
    /// hyphens.
    /// </summary>
    private static bool IsDatesOnly(string line, IReadOnlyList<Range> words, int from, int to)
    {
        for (var at = from; at < to; at++)
        {
            var word = line.AsSpan()[words[at]];
            word = word[WordCode.Core(word)];
            if (IsSigns(word))
                continue;
            var (run, groups) = (0, 0);
            foreach (var unit in word)
            {
                if (char.IsDigit(unit))
                {
                    if (++run == 1)
                        groups++;
                    continue;
                }
                if (unit is not ('.' or '/' or ':' or '-' or 'T') || run is not (1 or 2 or 4))
                    return false;
                run = 0;
            }
            if (run is not (1 or 2 or 4) || groups is < 1 or > 6)
                return false;
        }
        return true;
    }
}
