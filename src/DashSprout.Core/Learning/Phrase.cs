using DashSprout.Core.Finding;

namespace DashSprout.Core.Learning;

/// <summary>A text that came back while somebody typed.</summary>
/// <param name="Code">What it is known by; other capitals and other punctuation around words make no other
/// phrase.</param>
/// <param name="Varies">Whether it differs in names, numbers or dates each time it comes.</param>
/// <param name="Texts">How it was typed: once for a phrase that never varies, else the last ways, the newest at the
/// end.</param>
/// <param name="Times">How often it was typed.</param>
/// <param name="Use">How much it is typed lately.</param>
/// <param name="Apps">The applications in which it was typed.</param>
public sealed record Phrase(
    ulong Code,
    bool Varies,
    EquatableList<string> Texts,
    int Times,
    DateTimeOffset FirstAt,
    FadingUse Use,
    EquatableList<string> Apps
)
{
    /// <summary>The fewest and most words of a phrase.</summary>
    public const int FewestWords = 3,
        MostWords = 12;

    /// <summary>The shortest and longest phrase, in characters.</summary>
    public const int Shortest = 15,
        Longest = 400;

    /// <summary>How many ways of typing are kept of one that varies.</summary>
    public const int MostTexts = 6;

    private const int MostApps = 8;

    /// <summary>How it was typed last.</summary>
    public string Text => Texts[^1];

    /// <summary>
    /// How often a week it is typed, from the first time on, counted as a week at least; a clock that went back makes
    /// it no more often.
    /// </summary>
    public double TimesAWeek(DateTimeOffset now) => Times / Math.Max(1, (now - FirstAt) / TimeSpan.FromDays(7));

    /// <summary>It was typed once more.</summary>
    internal Phrase Seen(string text, string app, DateTimeOffset now) =>
        this with
        {
            Texts = Varies
                ? new([.. Texts.Where(known => known != text).TakeLast(MostTexts - 1), text])
                : new([WithCommonEnd(Text, text)]),
            Times = Times + 1,
            Use = Use.Used(now),
            Apps = Apps.Contains(app) || Apps.Count >= MostApps ? Apps : new([.. Apps, app]),
        };

    /// <summary>What ends a sentence belongs to a phrase only where it is always there.</summary>
    private static string WithCommonEnd(string known, string seen) =>
        known[^1] == seen[^1] ? known : known.TrimEnd('.', '!', '?');
}
