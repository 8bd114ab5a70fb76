using DashSprout.Core;
using DashSprout.Core.Engine;
using DashSprout.Core.Triggers;
using DashSprout.Store;

namespace DashSprout.Server.Typing;

/// <summary>How the engine treats everybody who types.</summary>
/// <param name="TakeBack">Whether the chord takes a firing back.</param>
/// <param name="TakeBackChord">The chord that takes a firing back.</param>
/// <param name="Hints">Whether an abbreviation that waits for its closing key shows what it would become.</param>
/// <param name="FinderChord">The chord that opens the finder.</param>
/// <param name="QuickAddChord">The chord that makes a snippet of what is selected.</param>
/// <param name="RestChord">The chord that lets the engine rest, and listen again.</param>
/// <param name="RecordChord">The chord that begins to record keys, and makes a snippet of them.</param>
/// <param name="LinkTargets">Whether a link's address follows its words in fields without formatting.</param>
/// <param name="RecentAnswers">Whether answers given in slips are kept, to be offered again.</param>
public sealed record TypingSettings(
    bool TakeBack, string TakeBackChord, bool Hints, string FinderChord, string QuickAddChord, string RestChord,
    string? RecordChord = null, bool LinkTargets = false, bool RecentAnswers = true)
{
    /// <summary>What records keys where nothing else was chosen, as in settings kept before it could be.</summary>
    private const string UsualRecordChord = "Ctrl+Alt+Shift+R";

    internal static TypingSettings Default { get; } = new(true, TypingEngine.DefaultTakeBackChord, true, "Ctrl+Alt+ ", "Ctrl+Alt+N", "Ctrl+Alt+R", UsualRecordChord, false);

    /// <summary>The settings with what older ones lack.</summary>
    internal TypingSettings Completed => RecordChord is null ? this with { RecordChord = UsualRecordChord } : this;
}

/// <summary>Whether and where the engine rests.</summary>
/// <param name="Resting">Whether it rests everywhere.</param>
/// <param name="Until">When it listens again by itself; null when it is told to.</param>
/// <param name="Apps">The applications in which it rests anyway.</param>
internal sealed record Rest(bool Resting, DateTimeOffset? Until, IReadOnlyList<string> Apps);

/// <summary>Whether the engine is listening or resting, and its settings, for everybody who types; kept across restarts.</summary>
internal sealed class EngineSwitch(SettingStore settings, TimeProvider clock)
{
    private const string RestSetting = "rest", TypingSetting = "typing";
    private readonly Lock gate = new();
    private volatile Rest rest = new(false, null, []);
    private volatile TypingSettings typing = TypingSettings.Default;

    /// <summary>How things stand now; a rest whose time is over has ended.</summary>
    public Rest Rest => rest is { Resting: true, Until: { } until } and var timed && until <= clock.GetUtcNow() ? timed with { Resting = false, Until = null } : rest;

    public TypingSettings Typing => typing;

    /// <summary>Told when anything here has changed.</summary>
    public event Action? Changed;

    /// <summary>Whether nothing goes off in an application now.</summary>
    public bool RestsIn(string app) => Rest is var now && (now.Resting || now.Apps.Contains(app));

    public void Open()
    {
        rest = settings.Get<Rest>(RestSetting) is { Apps: not null } kept ? kept : new Rest(false, null, []);
        typing = settings.Get<TypingSettings>(TypingSetting)?.Completed is { } chosen && IsGood(chosen) ? chosen : TypingSettings.Default;
    }

    /// <summary>Listens or rests, everywhere and for a time, or in one application.</summary>
    public void Change(EngineChange change)
    {
        if (change.ForMinutes is <= 0 or > 7 * 24 * 60) throw new InvalidInputException("forMinutes", "A rest lasts from a minute to a week.");
        if (change.App is { Length: 0 or > 80 }) throw new InvalidInputException("app", "Name the application in at most 80 characters.");
        lock (gate)
        {
            var now = Rest;
            if (change.App is { } app) now = now with { Apps = [.. now.Apps.Where(other => other != app), .. change.Listening ? [] : (string[])[app]] };
            else now = now with { Resting = !change.Listening, Until = !change.Listening && change.ForMinutes is { } minutes ? clock.GetUtcNow().AddMinutes(minutes) : null };
            settings.Set(RestSetting, now);
            rest = now;
        }
        Changed?.Invoke();
    }

    public void Set(TypingSettings given)
    {
        given = Checked(given.Completed);
        settings.Set(TypingSetting, given);
        typing = given;
        Changed?.Invoke();
    }

    private static TypingSettings Checked(TypingSettings given)
    {
        given = given with
        {
            TakeBackChord = Chord("takeBackChord", given.TakeBackChord),
            FinderChord = Chord("finderChord", given.FinderChord),
            QuickAddChord = Chord("quickAddChord", given.QuickAddChord),
            RestChord = Chord("restChord", given.RestChord),
            RecordChord = Chord("recordChord", given.RecordChord!),
        };
        string[] chords = [given.TakeBackChord, given.FinderChord, given.QuickAddChord, given.RestChord, given.RecordChord!];
        return chords.Distinct().Count() == chords.Length ? given : throw new InvalidInputException("", "Two of these have the same chord. Choose another for one of them.");
    }

    /// <summary>Whether settings that were kept can be used; chords that cannot be pressed any more give way to the usual ones.</summary>
    private static bool IsGood(TypingSettings kept)
    {
        try
        {
            return Checked(kept) == kept;
        }
        catch (Exception exception) when (exception is InvalidInputException or ArgumentNullException or NullReferenceException)
        {
            return false;
        }
    }

    private static string Chord(string field, string text) =>
        InvalidInputException.Within(field, () => new Trigger.Hotkey(text, Scope.Everywhere)).Chord.Value;
}
