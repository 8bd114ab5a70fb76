using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Server.Libraries;
using DashSprout.Store.Data;

namespace DashSprout.Server.Settings;

/// <summary>Closing keys with a name.</summary>
/// <param name="Places">In how many libraries, places and triggers these keys hold.</param>
/// <param name="Fixed">Whether it is the usual set, which stays as it is.</param>
public sealed record KeySetAnswer(string Name, IReadOnlyList<string> Keys, int Places, bool Fixed);

/// <summary>What a set is to be.</summary>
/// <param name="Everywhere">Whether the keys change where the set's keys hold now.</param>
public sealed record KeySetChange(string Name, IReadOnlyList<string> Keys, bool Everywhere = false);

/// <summary>The closing-key sets: the usual one, and those of the user.</summary>
internal sealed class KeySets(SettingStore store, LibraryService libraryService)
{
    private const string Setting = "closing-key-sets",
        UsualName = "Usual";
    private const int Most = 30;

    private static readonly IReadOnlyList<KeySetChange> Shipped =
    [
        new("Only Space", [" "]),
        new("Space, Tab and Enter", [" ", "Tab", "Enter"]),
        new("Only Enter", ["Enter"]),
    ];

    public IReadOnlyList<KeySetAnswer> All()
    {
        var now = libraryService.Tree;
        return
        [
            new KeySetAnswer(UsualName, Written(ClosingKeys.Default), KeyPlaces.Count(now, ClosingKeys.Default), true),
            .. Own().Select(own => new KeySetAnswer(own.Name, own.Keys, KeyPlaces.Count(now, Read(own)), false)),
        ];
    }

    /// <summary>Changes a set, or adds it when there is none of that name.</summary>
    public void Put(string name, KeySetChange change)
    {
        var keys = Read(change);
        if (keys.Keys.Count == 0)
            throw new InvalidInputException("keys", "The set has no key. Press at least one.");
        var wanted = Names.Check("name", change.Name);
        var own = Own().ToList();
        var at = own.FindIndex(one => Same(one.Name, name));
        if (Same(wanted, UsualName) || own.Where((_, place) => place != at).Any(one => Same(one.Name, wanted)))
            throw new InvalidInputException("name", $"There is a set named “{wanted}” already. Choose another name.");
        if (at < 0 && own.Count == Most)
            throw new InvalidInputException("name", $"There are {Most} sets already. Take one away first.");
        if (at >= 0 && change.Everywhere)
            libraryService.Do((now, _) => KeyPlaces.Replace(now, wanted, Read(own[at]), keys));
        var next = new KeySetChange(wanted, Written(keys));
        if (at < 0)
            own.Add(next);
        else
            own[at] = next;
        store.Set(Setting, own);
    }

    public void Remove(string name) => store.Set(Setting, Own().Where(one => !Same(one.Name, name)).ToList());

    private IReadOnlyList<KeySetChange> Own() => store.Get<List<KeySetChange>>(Setting) is { } kept ? kept : Shipped;

    private static ClosingKeys Read(KeySetChange set) => ClosingKeys.Parse("keys", set.Keys);

    private static IReadOnlyList<string> Written(ClosingKeys keys) => [.. keys.Keys.Select(key => key.Value)];

    private static bool Same(string one, string other) => one.Equals(other, StringComparison.OrdinalIgnoreCase);
}

internal static class KeySetEndpoints
{
    public static void MapKeySets(this IEndpointRouteBuilder api)
    {
        api.MapGet("/key-sets", (KeySets sets) => sets.All());
        api.MapPut("/key-sets/{name}", (string name, KeySetChange change, KeySets sets) =>
        {
            sets.Put(name, change);
            return sets.All();
        });
        api.MapDelete("/key-sets/{name}", (string name, KeySets sets) =>
        {
            sets.Remove(name);
            return sets.All();
        });
    }
}
