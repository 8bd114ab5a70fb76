using System.Text.Json;
using System.Text.RegularExpressions;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;

namespace DashSprout.Exchange;

/// <summary>What a mirror file says beside its library.</summary>
/// <param name="Key">What the library is known by on all machines.</param>
/// <param name="Machines">How many states of it each machine has written that this one knows. Lines that do not change lie between the counts, so that a version
/// control merges them.</param>
/// <param name="Private">The keys of private snippets, of which nothing else is told.</param>
public sealed record MirrorDocument(string? Key = null, IReadOnlyDictionary<string, WrittenStates>? Machines = null, IReadOnlyList<string>? Private = null);

/// <summary>How many states of a library a machine has written.</summary>
public sealed record WrittenStates(int States);

/// <summary>A library with what a mirror file says of it.</summary>
/// <param name="Key">Null for a library file that no machine has mirrored yet.</param>
/// <param name="Other">The other side, where a version control left conflict marks.</param>
public sealed record MirrorContents(string? Key, MirrorState State, SharedLibrary? Other);

/// <summary>
/// The mirror file: a library file that holds one library, in which everything has a key. Its pictures lie beside it. It is written in one stable order, so that
/// what did not change is the same line.
/// </summary>
public static partial class MirrorFile
{
    /// <summary>The file of a library.</summary>
    public static string Write(string key, MirrorState state)
    {
        var inside = state.Library.Entries.ToLookup(entry => entry.Parent);
        var paths = Paths(state.Library);
        var root = state.Library.Root;
        var library = LibraryDocument.Of(root.Name, root.Enabled, root.Rules) with { Folders = Folders(SharedLibrary.Top), Snippets = Snippets(SharedLibrary.Top) };
        var mirror = new MirrorDocument(key, state.States.Written.ToDictionary(pair => pair.Key, pair => new WrittenStates(pair.Value)), state.Library.Hidden.Count == 0 ? null : state.Library.Hidden);
        return JsonSerializer.Serialize(new LibraryFile(LibraryFile.FormatName, LibraryFile.CurrentVersion, [library], Mirror: mirror), LibraryFile.Json) + "\n";

        IReadOnlyList<FolderDocument> Folders(string parent) => [.. inside[parent].OfType<SharedFolder>().Select(folder =>
            new FolderDocument(folder.Name, Folders(folder.Key), Snippets(folder.Key), folder.Enabled, folder.Defaults is { } defaults ? DefaultsDocument.Of(defaults) : null, folder.Key))];

        IReadOnlyList<SnippetDocument> Snippets(string parent) => [.. inside[parent].OfType<SharedSnippet>().Select(entry =>
            SnippetDocument.Of(entry.Snippet.WithBodies(body => Core.Bodies.References.Rewrite(body, target => target.StartsWith('/') ? paths.GetValueOrDefault(target[1..], target) : target))).Shortened() with { Key = entry.Key })];
    }

    /// <summary>Whether a version control left its conflict marks in a text.</summary>
    public static bool HasMarks(string text) => Marks().IsMatch(text);

    /// <summary>Reads a file; throws <see cref="InvalidInputException"/> that names the place and what is wrong.</summary>
    /// <param name="newKey">Makes a key for what has none, or one that something else has already.</param>
    public static MirrorContents Read(string text, Func<string> newKey)
    {
        if (!HasMarks(text))
        {
            var (key, states, library) = One(text, newKey);
            return new MirrorContents(key, new MirrorState(states, library), null);
        }
        var (ours, theirs) = Sides(text);
        var (ownKey, own, one) = InvalidInputException.Within("ours", () => One(ours, newKey));
        var (_, _, other) = InvalidInputException.Within("theirs", () => One(theirs, newKey));
        return new MirrorContents(ownKey, new MirrorState(own, one), other);
    }

    private static (string? Key, MachineStates States, SharedLibrary Library) One(string text, Func<string> newKey)
    {
        LibraryFile file;
        try
        {
            file = JsonSerializer.Deserialize<LibraryFile>(text, LibraryFile.Json) ?? new LibraryFile();
        }
        catch (JsonException exception)
        {
            throw LibraryFile.InvalidJson(exception);
        }
        // A version control may put two things of one name side by side; both stay.
        file = file with { Libraries = [.. (file.Libraries ?? []).Select(one => one with { Folders = Unique(one.Folders), Snippets = Unique(one.Snippets) })] };
        var libraries = file.ToContents().Libraries;
        if (libraries is not [var library]) throw new InvalidInputException("libraries", $"A mirror file holds one library; this one holds {libraries.Count}.");
        var machines = file.Mirror?.Machines ?? new Dictionary<string, WrittenStates>();
        var states = new MachineStates(machines.Select(pair => KeyValuePair.Create(pair.Key, pair.Value?.States ?? 0)));
        return (file.Mirror?.Key, states, Shared(library, file.Libraries![0], new(file.Mirror?.Private ?? []), newKey));
    }

    private static List<FolderDocument>? Unique(IReadOnlyList<FolderDocument>? folders)
    {
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        return folders?.Select(folder => folder with { Name = Free(taken, folder.Name), Folders = Unique(folder.Folders), Snippets = Unique(folder.Snippets) }).ToList();
    }

    private static List<SnippetDocument>? Unique(IReadOnlyList<SnippetDocument>? snippets)
    {
        var taken = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        return snippets?.Select(snippet => snippet with { Name = Free(taken, snippet.Name) }).ToList();
    }

    private static string? Free(HashSet<string> taken, string? name)
    {
        if (name is null || taken.Add(name)) return name;
        var number = 2;
        while (!taken.Add($"{name} {number}")) number++;
        return $"{name} {number}";
    }

    private static SharedLibrary Shared(Library library, LibraryDocument document, EquatableList<string> hidden, Func<string> newKey)
    {
        var seen = new HashSet<string>();
        var entries = new List<SharedEntry>();
        Inside(SharedLibrary.Top, library.Folders, document.Folders ?? [], library.Snippets, document.Snippets ?? []);
        var shared = new SharedLibrary(new SharedRoot(library.Name, library.Enabled, library.Rules), new(entries), hidden);
        var keys = Paths(shared).ToDictionary(pair => pair.Value, pair => $"/{pair.Key}");
        return shared with
        {
            Entries = new(entries.Select(entry => entry is SharedSnippet snippet
                ? snippet with { Snippet = snippet.Snippet.WithBodies(body => Core.Bodies.References.Rewrite(body, target => keys.GetValueOrDefault(target, target))) }
                : entry)),
        };

        string Key(string? written) => written is { Length: > 0 } && seen.Add(written) ? written : newKey();

        void Inside(string parent, IReadOnlyList<Folder> folders, IReadOnlyList<FolderDocument> folderDocuments, IReadOnlyList<Snippet> snippets, IReadOnlyList<SnippetDocument> snippetDocuments)
        {
            foreach (var (folder, written) in folders.Zip(folderDocuments))
            {
                var entry = new SharedFolder(Key(written.Key), parent, folder.Name, folder.Enabled, folder.Defaults);
                entries.Add(entry);
                Inside(entry.Key, folder.Folders, written.Folders ?? [], folder.Snippets, written.Snippets ?? []);
            }
            foreach (var (snippet, written) in snippets.Zip(snippetDocuments)) entries.Add(new SharedSnippet(Key(written.Key), parent, snippet));
        }
    }

    /// <summary>The paths of snippets by key, as references name them.</summary>
    private static Dictionary<string, string> Paths(SharedLibrary library)
    {
        var places = new Dictionary<string, string> { [SharedLibrary.Top] = library.Root.Name };
        var paths = new Dictionary<string, string>();
        foreach (var entry in library.Entries)
            (entry is SharedFolder ? places : paths)[entry.Key] = $"{places[entry.Parent]}/{entry.Name}";
        return paths;
    }

    /// <summary>Both sides of a text with conflict marks, as version controls write them: seven signs at a line's beginning.</summary>
    private static (string Ours, string Theirs) Sides(string text)
    {
        var (ours, theirs) = (new System.Text.StringBuilder(), new System.Text.StringBuilder());
        var side = ' ';
        foreach (var line in text.Split('\n'))
        {
            if (side == ' ' && line.StartsWith("<<<<<<<", StringComparison.Ordinal)) side = '<';
            else if (side is '<' && line.StartsWith("|||||||", StringComparison.Ordinal)) side = '|';
            else if (side is '<' or '|' && line.StartsWith("=======", StringComparison.Ordinal)) side = '>';
            else if (side is '>' && line.StartsWith(">>>>>>>", StringComparison.Ordinal)) side = ' ';
            else
            {
                if (side is ' ' or '<') ours.Append(line).Append('\n');
                if (side is ' ' or '>') theirs.Append(line).Append('\n');
            }
        }
        return (ours.ToString(), theirs.ToString());
    }

    [GeneratedRegex("^<{7}(?: |\\r?$)", RegexOptions.Multiline)]
    private static partial Regex Marks();
}
