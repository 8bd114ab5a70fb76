using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Server.Engine;
using DashSprout.Server.Learning;
using DashSprout.Server.Libraries;
using DashSprout.Server.Savings;
using DashSprout.Server.Settings;
using DashSprout.Store.Features;
using DashSprout.Store.Items;

namespace DashSprout.Server.Typing;

/// <summary>
/// What every keyboard's host asks of the program, and what the program does with what a host has done: the same for
/// pages and the keyboard link.
/// </summary>
internal sealed class HostWiring(
    LibraryService libraryService,
    EngineSwitch engineSwitch,
    RenderContextSource contexts,
    FiringLog log,
    SavingsLog savings,
    SafetyStore store,
    RotationStore rotations,
    RecentAnswers recent,
    Learner learner
)
{
    /// <summary>Where triggers are tried out.</summary>
    public const string ProofLine = "proof-line";

    /// <summary>The surroundings of a host.</summary>
    public HostServices Services { get; } =
        new()
        {
            Index = () => libraryService.Snapshot.Index,
            Context = contexts.Now,
            RestsIn = engineSwitch.RestsIn,
            TakeBackChord = () => engineSwitch.Typing.TakesBack,
            Hints = () => engineSwitch.Typing.Hints,
            Typed = savings.Pace.Typed,
            Follow = learner.Follower,
            TakeKey = () => learner.Following.Rules.Take,
            MayOpen = opening => store.MayOpen(References.Id(opening.Origin) ?? 0, opening.Target),
        };

    /// <summary>What a page needs to show the slip of a question; null for another one.</summary>
    public SlipMessage? Slip(HostQuestion? question)
    {
        if (question is not HostQuestion.FillIn fill)
            return null;
        var offered = engineSwitch.Typing.RecentAnswers
            ? recent.Of(fill.Slip.Fields.Select(field => field.Name))
            : Enumerable.Empty<string>().ToLookup(name => name);
        return SlipMessage.Of(question, contexts.Now().Locale, offered);
    }

    /// <summary>Keeps the answers to a slip, to be offered again; none of a private snippet's.</summary>
    public void Filled(HostQuestion? question, IReadOnlyDictionary<string, string> answers)
    {
        if (
            !engineSwitch.Typing.RecentAnswers
            || question is not HostQuestion.FillIn fill
            || IsPrivate(fill.Snippet.Snippet, [])
        )
            return;
        recent.Add(
            fill.Slip.Fields.Where(field => field.Type is FieldType.Text or FieldType.Number)
                .SelectMany(field =>
                    Enumerable
                        .Range(1, field.Row?.Range.Most ?? 1)
                        .Select(row => (field.Name, Answer: answers.GetValueOrDefault(field.KeyIn(row), "")))
                )
        );
    }

    /// <summary>Whether a snippet or one that goes into it is private.</summary>
    private bool IsPrivate(Snippet snippet, HashSet<string> seen) =>
        snippet.Private
        || snippet
            .Bodies.SelectMany(References.In)
            .Where(seen.Add)
            .Select(target => libraryService.Tree.Referred(target)?.Snippet)
            .Any(inner => inner is not null && IsPrivate(inner, seen));

    /// <summary>Counts a firing that has come to its end.</summary>
    public void Count(Ended ended)
    {
        // Practice is no work.
        if (ended.App == DrillEndpoints.App)
            return;
        // A phrase that was taken is no snippet, but it saves keys.
        if (
            ended.Outcome is Outcome.Inserted or Outcome.Opened
            && ended.Firing.Trigger.Placed.Id != PlacedSnippet.Unkept
        )
            log.Fired(ended.Firing.Trigger);
        if (ended.App != ProofLine)
            savings.Count(ended);
        if (ended.Rotations.Count > 0)
            rotations.Take(ended.Rotations);
        // A snippet that was chosen or taken by hand did not go off by accident.
        if (ended.Outcome == Outcome.TakenBack && ended.Firing.Trigger.Trigger is not (Trigger.Chosen or Trigger.Begun))
            log.TakenBack(ended.Firing.Trigger);
    }

    /// <summary>What waits to be opened may be opened, from now on without asking.</summary>
    public void Confirm(HostQuestion.MayOpen question)
    {
        foreach (var opening in question.Openings)
            store.ConfirmOpen(References.Id(opening.Origin) ?? 0, opening.Target);
    }
}
