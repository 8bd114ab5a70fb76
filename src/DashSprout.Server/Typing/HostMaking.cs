using DashSprout.Core.Bodies;
using DashSprout.Core.Hosting;
using DashSprout.Core.Triggers;
using DashSprout.Server.Libraries;
using DashSprout.Server.Settings;
using DashSprout.Store;

namespace DashSprout.Server.Typing;

/// <summary>What every keyboard's host asks of the program, and what the program does with what a host has done: the same for pages and the keyboard link.</summary>
internal sealed class HostMaking(Catalog catalog, EngineSwitch engineSwitch, Surroundings surroundings, FiringLog log, SafetyStore store, TurnStore turns)
{
    /// <summary>The surroundings of a host.</summary>
    public HostSurroundings Surroundings { get; } = new()
    {
        Index = () => catalog.Shelf.Index,
        Context = surroundings.Now,
        RestsIn = engineSwitch.RestsIn,
        TakeBackChord = () => engineSwitch.Typing.TakeBack ? engineSwitch.Typing.TakeBackChord : null,
        Hints = () => engineSwitch.Typing.Hints,
        MayOpen = opening => store.MayOpen(References.Id(opening.Origin) ?? 0, opening.Target),
    };

    /// <summary>Counts a firing that has come to its end.</summary>
    public void Count(Ended ended)
    {
        if (ended.Outcome is Outcome.Inserted or Outcome.Opened) log.Fired(ended.Firing.Trigger);
        if (ended.Turns.Count > 0) turns.Take(ended.Turns);
        // A snippet that was chosen by hand did not go off by accident.
        if (ended.Outcome == Outcome.TakenBack && ended.Firing.Trigger.Trigger is not Trigger.Chosen) log.TakenBack(ended.Firing.Trigger);
    }

    /// <summary>What waits to be opened may be opened, from now on without asking.</summary>
    public void Confirm(HostQuestion.MayOpen question)
    {
        foreach (var opening in question.Openings) store.ConfirmOpen(References.Id(opening.Origin) ?? 0, opening.Target);
    }
}
