using System.Collections.Concurrent;
using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Learning;

/// <summary>The phrases that may be begun. One thread tells what changes; others may look.</summary>
public sealed class PhraseBeginnings
{
    private readonly ConcurrentDictionary<ulong, Beginning[]> byFirst = new();
    private readonly Dictionary<ulong, Beginning> byCode = [];

    /// <summary>Those whose first words are these.</summary>
    public ReadOnlySpan<Beginning> Find(ulong firstCode) => byFirst.TryGetValue(firstCode, out var found) ? found : [];

    /// <summary>A phrase is known from now on.</summary>
    public void Add(Phrase phrase, IReadOnlyList<int> firstWords)
    {
        var beginning = new Beginning(phrase, firstWords);
        byCode[phrase.Code] = beginning;
        byFirst.AddOrUpdate(beginning.FirstCode, [beginning], (_, others) =>
            [.. others.Where(other => other.Code != phrase.Code), beginning]
        );
    }

    /// <summary>A phrase was typed again: at least as often as it came, its first words did.</summary>
    public void Came(Phrase phrase)
    {
        if (byCode.TryGetValue(phrase.Code, out var beginning))
            beginning.Came(phrase.Times);
    }

    /// <summary>Phrases are known no more.</summary>
    public void Remove(IEnumerable<ulong> codes)
    {
        foreach (var code in codes)
        {
            if (!byCode.Remove(code, out var gone))
                continue;
            Beginning[] left = [.. byFirst[gone.FirstCode].Where(other => other != gone)];
            if (left.Length == 0)
                byFirst.TryRemove(gone.FirstCode, out _);
            else
                byFirst[gone.FirstCode] = left;
        }
    }
}

/// <summary>
/// The texts of all snippets that can be set off here, by their first words. Immutable, but for what their beginnings
/// count.
/// </summary>
public sealed class SnippetBeginnings
{
    private readonly Dictionary<
        long,
        (Body Body, IReadOnlyList<ActiveTrigger> Triggers, Beginning Beginning)
    > bySnippet = [];
    private readonly Dictionary<ulong, Beginning[]> byFirst;

    private SnippetBeginnings(TriggerIndex index, SnippetBeginnings? before)
    {
        foreach (var triggers in index.All.Where(IsOf).GroupBy(trigger => trigger.Placed.Id))
        {
            var body = triggers.First().Placed.Snippet.Body;
            if (
                before is not null
                && before.bySnippet.TryGetValue(triggers.Key, out var known)
                && known.Body.Equals(body)
                && known.Triggers.SequenceEqual(triggers)
            )
            {
                bySnippet[triggers.Key] = known;
                continue;
            }
            var (text, isWhole) = FixedText.Of(body);
            var beginning = new Beginning(text, isWhole, [.. triggers]);
            if (beginning.Words.Length > 0)
                bySnippet[triggers.Key] = (body, beginning.Triggers, beginning);
        }
        byFirst = bySnippet
            .Values.GroupBy(known => known.Beginning.FirstCode, known => known.Beginning)
            .ToDictionary(group => group.Key, group => group.ToArray());
    }

    /// <summary>No snippets.</summary>
    public static SnippetBeginnings None { get; } = new(TriggerIndex.Empty, null);

    /// <summary>
    /// The texts of an index's snippets; those that are as they were before are taken over, with what was counted of
    /// them.
    /// </summary>
    public static SnippetBeginnings Of(TriggerIndex index, SnippetBeginnings before) => new(index, before);

    /// <summary>Those whose first words are these.</summary>
    public ReadOnlySpan<Beginning> Find(ulong firstCode) => byFirst.TryGetValue(firstCode, out var found) ? found : [];

    /// <summary>Whether a snippet puts a text in, or begins with it.</summary>
    public bool Has(string text)
    {
        var phrase = new Beginning(text, isWhole: true, []);
        return bySnippet.Values.Any(known => known.Beginning.Words.AsSpan().StartsWith(phrase.Words));
    }

    /// <summary>
    /// Whether a trigger's text is worth following: nobody wants to be offered what is corrected, and what is private
    /// is not shown.
    /// </summary>
    private static bool IsOf(ActiveTrigger trigger) =>
        trigger.Placed is { Active: true, Snippet.Private: false, Rules.BackspaceTakesBack: false }
        && trigger.Trigger is Trigger.Abbreviation or Trigger.Hotkey;
}
