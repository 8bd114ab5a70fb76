using System.Globalization;
using System.Threading.Channels;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Hosting;
using DashSprout.Core.Learning;
using DashSprout.Core.Libraries;
using DashSprout.Exchange.Lists;
using DashSprout.Server.Behind;
using DashSprout.Server.Data;
using DashSprout.Server.Libraries;
using DashSprout.Server.Settings;
using DashSprout.Store.Data;
using DashSprout.Store.Features;

namespace DashSprout.Server.Learning;

/// <summary>
/// Learns from what is typed, as far as the user has asked for it: beside the threads that type, which only hand texts
/// over. What is learned is kept sealed, a little after it changes.
/// </summary>
internal sealed class Learner : IHeldData, IWorksBehind
{
    private const string Setting = "learning";

    /// <summary>Texts that wait to be learned; where more come than can be, the eldest are not.</summary>
    private const int MostWaiting = 1000;

    private static readonly TimeSpan Round = TimeSpan.FromSeconds(30),
        Gathering = TimeSpan.FromMilliseconds(100),
        Back = TimeSpan.FromMinutes(10);

    private readonly LibraryService libraryService;
    private readonly LearnedStore store;
    private readonly SettingStore settings;
    private readonly TimeProvider clock;
    private readonly WorkBehind learning;
    private readonly RenderContextSource contexts;
    private readonly Channel<TypedText?> texts = Channel.CreateBounded<TypedText?>(
        new BoundedChannelOptions(MostWaiting) { SingleReader = true, FullMode = BoundedChannelFullMode.DropOldest }
    );
    private readonly Lock gate = new();
    private readonly Lazy<PhraseMemory> memory;
    private readonly MissedChances missed = new();
    private volatile LearningSettings chosen = LearningSettings.Default;
    private volatile bool snippetsChanged = true;
    private volatile bool changed;
    private (Learned Learned, DateTimeOffset At)? deleted;

    public Learner(
        LibraryService libraryService,
        LearnedStore store,
        SettingStore settings,
        RenderContextSource contexts,
        TimeProvider clock
    )
    {
        (this.libraryService, this.store, this.settings, this.contexts, this.clock) = (
            libraryService,
            store,
            settings,
            contexts,
            clock
        );
        learning = new WorkBehind(
            "Learning from your typing",
            "Learns phrases that come back, as far as you have asked for it.",
            null,
            Learn
        )
        {
            Last = async () =>
            {
                await Learn(CancellationToken.None);
                await Written();
            },
        };
        Works =
        [
            learning,
            new WorkBehind("What was learned", "Keeps what was learned, sealed, and forgets what is old.", Round, _ =>
                Written()
            ),
        ];
        // The letters of the language are looked at when something is to be learned first.
        var following = new Following { Typed = Wanted, Missed = Miss };
        memory = new(() =>
            new PhraseMemory(new SecretLook(LetterPairs.Of(WordListFile.English)))
            {
                Began = following.Phrases.Add,
                Came = following.Phrases.Came,
                Ended = following.Phrases.Remove,
            }
        );
        Following = following;
        libraryService.Changed += SnippetsChanged;
    }

    public IEnumerable<WorkBehind> Works { get; }

    /// <summary>What the followers of all hosts share.</summary>
    public Following Following { get; }

    /// <summary>What the user has chosen.</summary>
    public LearningSettings Chosen => chosen;

    /// <summary>What was wrong with what had been learned; null when nothing was.</summary>
    public string? Fault { get; private set; }

    /// <summary>How many phrases are remembered.</summary>
    public int Phrases
    {
        get
        {
            lock (gate)
                return memory.IsValueCreated ? memory.Value.Phrases.Count : 0;
        }
    }

    /// <summary>Follows what is typed at one host.</summary>
    public ITextFollower Follower() => new TextFollower(Following);

    /// <summary>Reads what was chosen and learned.</summary>
    public void Open()
    {
        chosen =
            settings.Get<LearningSettings>(Setting) is { Scope: not null, TakeKey: not null } kept && IsGood(kept)
                ? kept
                : LearningSettings.Default;
        var learned = store.Read(out var damaged);
        if (damaged)
            Fault = "What was learned from your typing could not be read, so it was dropped, and learning begins anew.";
        lock (gate)
        {
            if (learned is not null)
            {
                if (!memory.Value.Restore(learned.State))
                {
                    Fault =
                        "What was learned from your typing was of another size than it can be, so it was "
                        + "dropped, and learning begins anew.";
                    store.Delete();
                }
                // Nothing of what became private meanwhile comes back.
                if (memory.Value.Hide(PrivateTexts()))
                    changed = true;
                missed.Restore(learned.Missed);
            }
        }
        Use(chosen);
    }

    /// <summary>What the user has consented to holds as before; nothing of what is learned lies in the data file.</summary>
    public void Replace(Action replace)
    {
        lock (gate)
        {
            replace();
            settings.Set(Setting, chosen);
            snippetsChanged = true;
        }
    }

    /// <summary>
    /// Keeps what the user has chosen and does so from now on. What was learned in applications that are left out now
    /// is forgotten.
    /// </summary>
    public void Choose(LearningSettings given)
    {
        given = given with { Chosen = true };
        _ = given.ToRules();
        lock (gate)
        {
            settings.Set(Setting, given);
            chosen = given;
        }
        Use(given);
    }

    /// <summary>Does something with what is remembered, while nothing is learned.</summary>
    public T With<T>(Func<PhraseMemory, T> look)
    {
        lock (gate)
        {
            Refresh();
            return look(memory.Value);
        }
    }

    /// <summary>The same, where it is changed; it is kept soon.</summary>
    public T Change<T>(Func<PhraseMemory, T> change) =>
        With(remembered =>
        {
            changed = true;
            return change(remembered);
        });

    /// <summary>The texts that were typed in full although a snippet has them.</summary>
    public IReadOnlyList<MissedChance> Missed => missed.All;

    /// <summary>
    /// Deletes everything that was learned, on disk too; <see cref="Restore"/> brings it back for a while.
    /// </summary>
    public void Delete()
    {
        lock (gate)
        {
            deleted = (new Learned(memory.Value.State(), missed.All), clock.GetUtcNow());
            memory.Value.Clear();
            missed.Forget(_ => true);
            store.Delete();
            changed = false;
        }
    }

    /// <summary>Brings back what was deleted last.</summary>
    public void Restore()
    {
        lock (gate)
        {
            if (deleted is not { } gone || clock.GetUtcNow() - gone.At > Back)
                throw new ConflictException("What was deleted is gone for good by now.");
            memory.Value.Restore(gone.Learned.State);
            memory.Value.Hide(PrivateTexts());
            missed.Restore(gone.Learned.Missed);
            (deleted, changed) = (null, true);
        }
    }

    /// <summary>Learns what waits; a text that cannot be learned is not tried again.</summary>
    private async Task Learn(CancellationToken stopping)
    {
        // Whoever edits a snippet changes it with each key.
        if (snippetsChanged)
            await Task.Delay(Gathering, stopping);
        while (texts.Reader.TryRead(out var text))
            lock (gate)
            {
                Refresh();
                if (text is null || !chosen.Learns)
                    continue;
                memory.Value.Learn(text, clock.GetUtcNow());
                changed = true;
            }
    }

    private void Wanted(TypedText? text)
    {
        texts.Writer.TryWrite(text);
        learning.Ask();
    }

    /// <summary>Texts and triggers of snippets as they are now: before anything more is learned or looked at.</summary>
    private void Refresh()
    {
        if (!snippetsChanged)
            return;
        snippetsChanged = false;
        if (chosen is { Learns: false, Offers: false, Misses: false } && !memory.IsValueCreated)
            return;
        if (memory.Value.Hide(PrivateTexts()))
            changed = true;
        Following.Snippets = SnippetBeginnings.Of(libraryService.Snapshot.Index, Following.Snippets);
        missed.Forget(chance => libraryService.Tree.Find(chance.SnippetId) is not SnippetItem);
    }

    private PrivateWords PrivateTexts() =>
        new(
            libraryService
                .Tree.Snippets.Where(item => item.Snippet.Private)
                .SelectMany(item => item.Snippet.Bodies.SelectMany(body => PreviewText.Of(body).Split('\n')))
        );

    private void SnippetsChanged()
    {
        snippetsChanged = true;
        Wanted(null);
    }

    private void Use(LearningSettings given)
    {
        var rules = given.ToRules();
        lock (gate)
        {
            snippetsChanged = true;
            Following.Rules = rules;
            if (memory.IsValueCreated || given.Learns)
            {
                memory.Value.DateNames = DateWords.Of(CultureInfo.GetCultureInfo(contexts.Dates.Locale));
                if (memory.Value.ForgetApps(app => !rules.Where.Admits(app)))
                    changed = true;
            }
        }
        Wanted(null);
    }

    private bool Miss(Core.Engine.ActiveTrigger trigger, int keys)
    {
        var shows = missed.Add(trigger.Placed.Id, keys, clock.GetUtcNow());
        changed = true;
        return shows;
    }

    private Task Written()
    {
        lock (gate)
        {
            // What was deleted is gone for good once it cannot be brought back.
            if (deleted is { } gone && clock.GetUtcNow() - gone.At > Back)
                deleted = null;
            if (!memory.IsValueCreated)
                return Task.CompletedTask;
            if (memory.Value.ForgetBefore(clock.GetUtcNow().AddDays(-chosen.KeepDays)))
                changed = true;
            if (changed)
                store.Write(new Learned(memory.Value.State(), missed.All));
            changed = false;
        }
        return Task.CompletedTask;
    }

    private static bool IsGood(LearningSettings kept)
    {
        try
        {
            _ = kept.ToRules();
            return true;
        }
        catch (InvalidInputException)
        {
            return false;
        }
    }
}
