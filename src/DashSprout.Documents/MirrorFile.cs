using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using DashSprout.Core;
using DashSprout.Core.Mirroring;

namespace DashSprout.Documents;

/// <summary>What a mirror file says beside its library.</summary>
/// <param name="Key">What the library is known by on all machines.</param>
/// <param name="Machines">How many states of it each machine has written that this one knows. Lines that do not change
/// lie between the counts, so that a version control merges them.</param>
/// <param name="Private">The keys of private snippets, of which nothing else is told.</param>
/// <param name="Origins">Which state brought each folder and snippet to what it says, by key.</param>
public sealed record MirrorDocument(
    string? Key = null,
    IReadOnlyDictionary<string, WrittenStates>? Machines = null,
    IReadOnlyList<string>? Private = null,
    IReadOnlyDictionary<string, OriginDocument>? Origins = null
);

/// <summary>Where a folder or snippet comes from.</summary>
/// <param name="Says">A digest of what it says: one that was changed by hand since comes from nowhere.</param>
public sealed record OriginDocument(string Machine, int State, string Says);

/// <summary>How many states of a library a machine has written.</summary>
/// <param name="Mark">What the last of them is marked with.</param>
public sealed record WrittenStates(int States, string? Mark = null);

/// <summary>A library with what a mirror file says of it.</summary>
/// <param name="Key">Null for a library file that no machine has mirrored yet.</param>
/// <param name="Other">The other side, where a version control left conflict marks.</param>
public sealed record MirrorContents(string? Key, MirrorState State, SharedLibrary? Other);

/// <summary>
/// The mirror file: a library file that holds one library, in which everything has a key. Its pictures lie beside it.
/// It is written in one stable order, so that what did not change is the same line.
/// </summary>
public static partial class MirrorFile
{
    /// <summary>The file of a library.</summary>
    public static string Write(string key, MirrorState state)
    {
        var mirror = new MirrorDocument(
            key,
            state.States.Written.ToDictionary(
                pair => pair.Key,
                pair => new WrittenStates(pair.Value, state.States.MarkOf(pair.Key))
            ),
            state.Library.Hidden.Count == 0 ? null : state.Library.Hidden,
            state.Origins.Count == 0 ? null : Origins(state)
        );
        return JsonSerializer.Serialize(
                new LibraryFile(
                    LibraryFile.FormatName,
                    LibraryFile.CurrentVersion,
                    [SharedDocuments.Write(state.Library)],
                    Mirror: mirror
                ),
                LibraryFile.Json
            ) + "\n";
    }

    /// <summary>Whether a version control left its conflict marks in a text.</summary>
    public static bool HasMarks(string text) => Marks().IsMatch(text);

    /// <summary>
    /// Reads a file; throws <see cref="InvalidInputException"/> that names the place and what is wrong.
    /// </summary>
    /// <param name="newKey">Makes a key for what has none, or one that something else has already.</param>
    public static MirrorContents Read(string text, Func<string> newKey)
    {
        if (!HasMarks(text))
        {
            var (key, state) = One(text, newKey);
            return new MirrorContents(key, state, null);
        }
        var (ours, theirs) = Sides(text);
        var (ownKey, own) = InvalidInputException.Within("ours", () => One(ours, newKey));
        var (_, other) = InvalidInputException.Within("theirs", () => One(theirs, newKey));
        return new MirrorContents(ownKey, own, other.Library);
    }

    private static (string? Key, MirrorState State) One(string text, Func<string> newKey)
    {
        var file = LibraryFile.Parse(text);
        var library = SharedDocuments.Read(file, new(file.Mirror?.Private ?? []), _ => newKey());
        var machines = file.Mirror?.Machines ?? new Dictionary<string, WrittenStates>();
        var states = new MachineStates(
            machines.Select(pair => KeyValuePair.Create(pair.Key, pair.Value.States)),
            machines.Where(pair => pair.Value.Mark is not null).ToDictionary(pair => pair.Key, pair => pair.Value.Mark!)
        );
        var origins = file.Mirror?.Origins ?? new Dictionary<string, OriginDocument>();
        return (
            file.Mirror?.Key,
            new MirrorState(states, library)
            {
                Origins = library
                    .Entries.Where(entry =>
                        origins.TryGetValue(entry.Key, out var origin)
                        && origin is { Machine.Length: > 0, State: > 0 }
                        && origin.Says == Digest(entry)
                    )
                    .ToDictionary(
                        entry => entry.Key,
                        entry => new Origin(origins[entry.Key].Machine, origins[entry.Key].State)
                    ),
            }
        );
    }

    private static Dictionary<string, OriginDocument> Origins(MirrorState state) =>
        state
            .Library.Entries.Where(entry => state.Origins.ContainsKey(entry.Key))
            .ToDictionary(
                entry => entry.Key,
                entry =>
                {
                    var (machine, number) = state.Origins[entry.Key];
                    return new OriginDocument(machine, number, Digest(entry));
                }
            );

    /// <summary>What tells whether an entry says what it said, wherever it is written.</summary>
    private static string Digest(SharedEntry entry)
    {
        var says = entry is SharedSnippet snippet
            ? JsonSerializer.SerializeToUtf8Bytes(SnippetDocument.Of(snippet.Snippet).Shortened(), LibraryFile.Json)
            : JsonSerializer.SerializeToUtf8Bytes(Folder((SharedFolder)entry), LibraryFile.Json);
        return Convert.ToHexStringLower(SHA256.HashData([.. Encoding.UTF8.GetBytes($"{entry.Parent}\n"), .. says]))[
            ..12
        ];
    }

    private static FolderDocument Folder(SharedFolder folder) =>
        new(
            folder.Name,
            Enabled: folder.Enabled,
            Defaults: folder.Defaults is { } defaults ? DefaultsDocument.Of(defaults) : null
        );

    /// <summary>
    /// Both sides of a text with conflict marks, as version controls write them: seven signs at a line's beginning.
    /// </summary>
    private static (string Ours, string Theirs) Sides(string text)
    {
        var (ours, theirs) = (new System.Text.StringBuilder(), new System.Text.StringBuilder());
        var side = ' ';
        foreach (var line in text.Split('\n'))
        {
            if (side == ' ' && line.StartsWith("<<<<<<<", StringComparison.Ordinal))
                side = '<';
            else if (side is '<' && line.StartsWith("|||||||", StringComparison.Ordinal))
                side = '|';
            else if (side is '<' or '|' && line.StartsWith("=======", StringComparison.Ordinal))
                side = '>';
            else if (side is '>' && line.StartsWith(">>>>>>>", StringComparison.Ordinal))
                side = ' ';
            else
            {
                if (side is ' ' or '<')
                    ours.Append(line).Append('\n');
                if (side is ' ' or '>')
                    theirs.Append(line).Append('\n');
            }
        }
        return (ours.ToString(), theirs.ToString());
    }

    [GeneratedRegex("^<{7}(?: |\\r?$)", RegexOptions.Multiline)]
    private static partial Regex Marks();
}
