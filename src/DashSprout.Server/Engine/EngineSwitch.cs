using DashSprout.Core;
using DashSprout.Server.Data;
using DashSprout.Store.Data;

namespace DashSprout.Server.Engine;

/// <summary>How the engine treats everybody who types.</summary>
/// <param name="TakeBack">Whether a chord takes a firing back.</param>
/// <param name="Hints">Whether an abbreviation that waits for its closing key shows what it would become.</param>
/// <param name="Chords">The chords of the program.</param>
/// <param name="LinkTargets">Whether a link's address follows its words in fields without formatting.</param>
/// <param name="RecentAnswers">Whether answers given in slips are kept, to be offered again.</param>
public sealed record TypingSettings(
    bool TakeBack,
    bool Hints,
    ProgramChords Chords,
    bool LinkTargets = false,
    bool RecentAnswers = true
)
{
    internal static TypingSettings Default { get; } = new(true, true, ProgramChords.Default);

    /// <summary>The chord that takes a firing back; null when none does.</summary>
    internal string? TakesBack => TakeBack ? Chords.TakeBack : null;
}

/// <summary>Whether and where the engine rests.</summary>
/// <param name="Resting">Whether it rests everywhere.</param>
/// <param name="Until">When it listens again by itself; null when it is told to.</param>
/// <param name="Apps">The applications in which it rests anyway.</param>
internal sealed record Rest(bool Resting, DateTimeOffset? Until, IReadOnlyList<string> Apps);

/// <summary>The engine's switch.</summary>
/// <param name="ForMinutes">How long it rests; null until it is told to listen.</param>
/// <param name="App">The application in which it rests or listens again; null for everywhere.</param>
public sealed record EngineChange(bool Listening, int? ForMinutes = null, string? App = null);

/// <summary>
/// Whether the engine is listening or resting, and its settings, for everybody who types; kept across restarts.
/// </summary>
internal sealed class EngineSwitch(SettingStore settings, TimeProvider clock) : IHeldData
{
    private const string RestSetting = "rest",
        TypingSetting = "typing";
    private readonly Lock gate = new();
    private volatile Rest rest = new(false, null, []);
    private volatile TypingSettings typing = TypingSettings.Default;

    /// <summary>How things stand now; a rest whose time is over has ended.</summary>
    public Rest Rest =>
        rest is { Resting: true, Until: { } until } and var timed && until <= clock.GetUtcNow()
            ? timed with
            {
                Resting = false,
                Until = null,
            }
            : rest;

    public TypingSettings Typing => typing;

    /// <summary>Told when anything here has changed.</summary>
    public event Action? Changed;

    /// <summary>Whether nothing goes off in an application now.</summary>
    public bool RestsIn(string app) => Rest is var now && (now.Resting || now.Apps.Contains(app));

    public void Open()
    {
        rest = settings.Get<Rest>(RestSetting) is { Apps: not null } kept ? kept : new Rest(false, null, []);
        typing =
            settings.Get<TypingSettings>(TypingSetting) is { } chosen && IsGood(chosen)
                ? chosen
                : TypingSettings.Default;
    }

    public void Replace(Action replace)
    {
        lock (gate)
        {
            replace();
            Open();
        }
        Changed?.Invoke();
    }

    /// <summary>Listens or rests, everywhere and for a time, or in one application.</summary>
    public void Change(EngineChange change)
    {
        if (change.ForMinutes is <= 0 or > 7 * 24 * 60)
            throw new InvalidInputException("forMinutes", "A rest lasts from a minute to a week.");
        if (change.App is { Length: 0 or > 80 })
            throw new InvalidInputException("app", "Name the application in at most 80 characters.");
        lock (gate)
        {
            var now = Rest;
            if (change.App is { } app)
                now = now with
                {
                    Apps = [.. now.Apps.Where(other => other != app), .. change.Listening ? [] : (string[])[app]],
                };
            else
                now = now with
                {
                    Resting = !change.Listening,
                    Until =
                        !change.Listening && change.ForMinutes is { } minutes
                            ? clock.GetUtcNow().AddMinutes(minutes)
                            : null,
                };
            settings.Set(RestSetting, now);
            rest = now;
        }
        Changed?.Invoke();
    }

    public void Set(TypingSettings given)
    {
        lock (gate)
        {
            given = Checked(given, typing);
            settings.Set(TypingSetting, given);
            typing = given;
        }
        Changed?.Invoke();
    }

    private static TypingSettings Checked(TypingSettings given, TypingSettings before) =>
        given with
        {
            Chords = given.Chords.Checked(before.Chords),
        };

    /// <summary>
    /// Whether settings that were kept can be used; chords that cannot be pressed any more give way to the usual ones.
    /// </summary>
    private static bool IsGood(TypingSettings kept)
    {
        try
        {
            return kept.Chords is not null && Checked(kept, TypingSettings.Default) == kept;
        }
        catch (InvalidInputException)
        {
            return false;
        }
    }
}
