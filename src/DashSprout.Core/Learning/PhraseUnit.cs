namespace DashSprout.Core.Learning;

/// <summary>A word, or several that vary together, of a stretch that is counted.</summary>
internal readonly record struct PhraseUnit(int From, int To, ulong Code, bool Varies)
{
    /// <summary>The code of what varies, whatever it is.</summary>
    private const ulong Gap = 0x2545f4914f6cdd1d;

    /// <summary>The words of a stretch, one by one.</summary>
    public static List<PhraseUnit> Same(TypedLine line, int from, int to)
    {
        var units = new List<PhraseUnit>(to - from);
        for (var at = from; at < to; at++)
            units.Add(new PhraseUnit(at, at + 1, line.Codes[at], false));
        return units;
    }

    /// <summary>The same, with what varies side by side as one.</summary>
    public static List<PhraseUnit> Varying(TypedLine line, int from, int to)
    {
        var units = new List<PhraseUnit>(to - from);
        for (var at = from; at < to; )
        {
            var start = at++;
            if (line.Kinds[start] == WordKind.Varying)
                while (at < to && line.Kinds[at] == WordKind.Varying)
                    at++;
            units.Add(
                line.Kinds[start] == WordKind.Varying
                    ? new PhraseUnit(start, at, Gap, true)
                    : new PhraseUnit(start, at, line.Codes[start], false)
            );
        }
        return units;
    }

    /// <summary>The text of some units, without what stands around their words.</summary>
    public static string TextOf(TypedLine line, List<PhraseUnit> units, int start, int length)
    {
        var (first, last) = (line.Words[units[start].From], line.Words[units[start + length - 1].To - 1]);
        var from = first.Start.Value + WordCode.Core(line.Text.AsSpan()[first]).Start.Value;
        var to =
            last.Start.Value + WordCode.Core(line.Text.AsSpan()[last]).End.GetOffset(last.End.Value - last.Start.Value);
        // The end of a sentence goes with it.
        if (to < line.Text.Length && to < last.End.Value && line.Text[to] is '.' or '!' or '?')
            to++;
        return line.Text[from..to];
    }
}
