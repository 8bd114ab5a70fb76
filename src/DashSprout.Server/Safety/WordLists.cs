using DashSprout.Core;
using DashSprout.Core.Safety;
using DashSprout.Exchange.Lists;
using DashSprout.Server.Data;
using DashSprout.Store.Data;
using DashSprout.Store.Features;

namespace DashSprout.Server.Safety;

/// <summary>A word list that can be chosen; the English one has no id.</summary>
public sealed record WordListAnswer(long? Id, string Name, int Words);

/// <summary>The word lists and which of them forecasts use.</summary>
public sealed record WordListsAnswer(long? Chosen, IReadOnlyList<WordListAnswer> Lists);

/// <summary>A word list to load.</summary>
/// <param name="TakeTheRest">Whether broken lines are left out; otherwise they are named and nothing is kept.</param>
public sealed record NewWordList(string Name, string Csv, bool TakeTheRest = false);

/// <summary>The list to use.</summary>
public sealed record WordListChoice(long? Id = null);

/// <summary>
/// The word list that forecasts use: the English one that comes with the program, or one the user loaded.
/// </summary>
internal sealed class WordLists(SafetyStore store, SettingStore settings) : IHeldData
{
    private const string Setting = "safety.word-list";
    private const int MostNamed = 20;
    private volatile WordList? current;

    public WordList Current =>
        current ??=
            Chosen is { } id
            && store.WordListCsv(id) is { } csv
            && WordListFile.ReadCsv(csv).Words is { Words.Count: > 0 } words
                ? words
                : WordListFile.English;

    private long? Chosen => long.TryParse(settings.Get(Setting), out var id) ? id : null;

    /// <summary>Reads anew which list is chosen.</summary>
    public void Open() => current = null;

    public void Replace(Action replace)
    {
        replace();
        Open();
    }

    public WordListsAnswer All() =>
        new(
            Chosen,
            [
                new WordListAnswer(null, "English, as it comes with the program", WordListFile.English.Words.Count),
                .. store.WordLists().Select(list => new WordListAnswer(list.Id, list.Name, (int)list.Words)),
            ]
        );

    public WordListsAnswer Add(NewWordList given)
    {
        var name = Core.Libraries.Names.Check("name", given.Name);
        var (words, broken) = WordListFile.ReadCsv(given.Csv);
        if (words.Words.Count == 0)
            throw new InvalidInputException(
                "csv",
                "No line holds a word and its count. Write one word on each line, a comma, and how often it is used."
            );
        if (broken.Count > 0 && !given.TakeTheRest)
            throw new InvalidInputException([
                .. broken
                    .Take(MostNamed)
                    .Select(line => new InputError($"csv[{line.Line}]", $"Line {line.Line}: {line.Why}")),
                .. broken.Count > MostNamed
                    ? [new InputError("csv", $"{broken.Count - MostNamed} more lines are broken.")]
                    : Array.Empty<InputError>(),
            ]);
        Choose(store.AddWordList(name, words.Words.Count, WordListFile.WriteCsv(words)));
        return All();
    }

    public WordListsAnswer Choose(long? id)
    {
        if (id is { } wanted && store.WordListCsv(wanted) is null)
            throw new InvalidInputException("id", $"There is no word list {id}. Choose one that exists.");
        settings.Set(Setting, id is null ? "" : $"{id}");
        current = null;
        return All();
    }

    public WordListsAnswer Remove(long id)
    {
        if (Chosen == id)
            Choose(null);
        store.RemoveWordList(id);
        return All();
    }
}
