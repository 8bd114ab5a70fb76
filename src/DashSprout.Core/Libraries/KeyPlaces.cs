using DashSprout.Core.Triggers;

namespace DashSprout.Core.Libraries;

/// <summary>
/// Where closing keys hold: in libraries, in what places want of new triggers, and in triggers with keys of their own.
/// Keys are a value: those that are the same are meant the same, whatever name they have.
/// </summary>
public static class KeyPlaces
{
    /// <summary>In how many places some closing keys hold.</summary>
    public static int Count(LibraryTree now, ClosingKeys keys) =>
        now
            .Libraries.SelectMany(now.Within)
            .Sum(item =>
                item switch
                {
                    LibraryItem library => One(library.Rules.ClosingKeys, keys)
                        + One(library.Rules.Defaults?.ClosingKeys, keys),
                    FolderItem folder => One(folder.Defaults?.ClosingKeys, keys),
                    SnippetItem snippet => snippet.Snippet.Triggers.Sum(trigger => One(OwnKeys(trigger), keys)),
                    _ => 0,
                }
            );

    /// <summary>Puts other keys in the place of some everywhere.</summary>
    /// <param name="name">What the keys are called, for the user.</param>
    public static Change Replace(LibraryTree now, string name, ClosingKeys keys, ClosingKeys with)
    {
        ClosingKeys? Other(ClosingKeys? own) => keys.Equals(own) ? with : own;
        TriggerDefaults? OfDefaults(TriggerDefaults? said) =>
            said is null ? null : said with { ClosingKeys = Other(said.ClosingKeys) };
        Item Changed(Item item) =>
            item switch
            {
                LibraryItem library => library with
                {
                    Rules = library.Rules with
                    {
                        ClosingKeys = Other(library.Rules.ClosingKeys)!,
                        Defaults = OfDefaults(library.Rules.Defaults),
                    },
                },
                FolderItem folder => folder with { Defaults = OfDefaults(folder.Defaults) },
                SnippetItem snippet when snippet.Snippet.Triggers.Any(trigger => keys.Equals(OwnKeys(trigger))) =>
                    snippet with
                    {
                        Version = snippet.Version + 1,
                        Snippet = snippet.Snippet with
                        {
                            Triggers = new(
                                snippet.Snippet.Triggers.Select(trigger =>
                                    keys.Equals(OwnKeys(trigger)) ? With(trigger, with) : trigger
                                )
                            ),
                        },
                    },
                _ => item,
            };
        return new Change(
            $"Changed the closing keys “{name}” where they hold",
            now.Libraries.SelectMany(now.Within)
                .Select(item => new ItemChange(item, Changed(item)))
                .Where(change => !change.Before!.Equals(change.After))
        );
    }

    private static int One(ClosingKeys? own, ClosingKeys keys) => keys.Equals(own) ? 1 : 0;

    private static ClosingKeys? OwnKeys(Trigger trigger) => trigger.Typing?.ClosingKeys;

    private static Trigger With(Trigger trigger, ClosingKeys keys) =>
        trigger switch
        {
            Trigger.Abbreviation abbreviation => Trigger.Abbreviation.Stored(
                trigger.Text,
                abbreviation.Rules with
                {
                    ClosingKeys = keys,
                },
                trigger.Scope
            ),
            Trigger.Pattern pattern => new Trigger.Pattern(
                trigger.Text,
                pattern.Rules with
                {
                    ClosingKeys = keys,
                },
                trigger.Scope
            ),
            _ => trigger,
        };
}
