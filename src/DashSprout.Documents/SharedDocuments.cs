using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;

namespace DashSprout.Documents;

/// <summary>
/// Shared libraries as library files write them: everything has its key beside its name, and references are paths.
/// </summary>
internal static class SharedDocuments
{
    /// <summary>The document of a shared library.</summary>
    public static LibraryDocument Write(SharedLibrary library)
    {
        var inside = library.Entries.ToLookup(entry => entry.Parent);
        var paths = Paths(library);
        var root = library.Root;
        return LibraryDocument.Of(root.Name, root.Enabled, root.Rules) with
        {
            Folders = Folders(SharedLibrary.Top),
            Snippets = Snippets(SharedLibrary.Top),
        };

        IReadOnlyList<FolderDocument> Folders(string parent) =>
            [
                .. inside[parent]
                    .OfType<SharedFolder>()
                    .Select(folder => new FolderDocument(
                        folder.Name,
                        Folders(folder.Key),
                        Snippets(folder.Key),
                        folder.Enabled,
                        folder.Defaults is { } defaults ? DefaultsDocument.Of(defaults) : null,
                        folder.Key
                    )),
            ];

        IReadOnlyList<SnippetDocument> Snippets(string parent) =>
            [
                .. inside[parent]
                    .OfType<SharedSnippet>()
                    .Select(entry =>
                        SnippetDocument
                            .Of(
                                Rewritten(entry.Snippet, target =>
                                    target.StartsWith('/') ? paths.GetValueOrDefault(target[1..], target) : target
                                )
                            )
                            .Shortened() with
                        {
                            Key = entry.Key,
                        }
                    ),
            ];
    }

    /// <summary>
    /// Reads the one library of a file; throws <see cref="InvalidInputException"/> that names the place and what is
    /// wrong.
    /// </summary>
    /// <param name="newKey">Makes a key, from a path, for what has none, or one that something else has
    /// already.</param>
    public static SharedLibrary Read(LibraryFile file, EquatableList<string> hidden, Func<string, string> newKey)
    {
        // Something that carries files may put two things of one name side by side; both stay.
        file = file with
        {
            Libraries =
            [
                .. (file.Libraries ?? []).Select(one =>
                    one with
                    {
                        Folders = Unique(one.Folders),
                        Snippets = Unique(one.Snippets),
                    }
                ),
            ],
        };
        var libraries = file.ToContents().Libraries;
        if (libraries is not [var library])
            throw new InvalidInputException(
                "libraries",
                $"Such a file holds one library; this one holds {libraries.Count}."
            );
        var document = file.Libraries![0];
        var seen = new HashSet<string>();
        var entries = new List<SharedEntry>();
        Inside(
            SharedLibrary.Top,
            library.Name,
            library.Folders,
            document.Folders ?? [],
            library.Snippets,
            document.Snippets ?? []
        );
        var shared = new SharedLibrary(
            new SharedRoot(library.Name, library.Enabled, library.Rules),
            new(entries),
            hidden
        );
        var keys = Paths(shared).ToDictionary(pair => pair.Value, pair => $"/{pair.Key}");
        return shared with
        {
            Entries = new(
                entries.Select(entry =>
                    entry is SharedSnippet snippet
                        ? snippet with
                        {
                            Snippet = Rewritten(snippet.Snippet, target => keys.GetValueOrDefault(target, target)),
                        }
                        : entry
                )
            ),
        };

        string Key(string? written, string path)
        {
            if (written is { Length: > 0 } && seen.Add(written))
                return written;
            var key = newKey(path);
            seen.Add(key);
            return key;
        }

        void Inside(
            string parent,
            string path,
            IReadOnlyList<Folder> folders,
            IReadOnlyList<FolderDocument> folderDocuments,
            IReadOnlyList<Snippet> snippets,
            IReadOnlyList<SnippetDocument> snippetDocuments
        )
        {
            foreach (var (folder, written) in folders.Zip(folderDocuments))
            {
                var inner = $"{path}/{folder.Name}";
                var entry = new SharedFolder(
                    Key(written.Key, $"{inner}/"),
                    parent,
                    folder.Name,
                    folder.Enabled,
                    folder.Defaults
                );
                entries.Add(entry);
                Inside(
                    entry.Key,
                    inner,
                    folder.Folders,
                    written.Folders ?? [],
                    folder.Snippets,
                    written.Snippets ?? []
                );
            }
            foreach (var (snippet, written) in snippets.Zip(snippetDocuments))
                entries.Add(new SharedSnippet(Key(written.Key, $"{path}/{snippet.Name}"), parent, snippet));
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

    private static Snippet Rewritten(Snippet snippet, Func<string, string> target) =>
        snippet.WithBodies(body => References.Rewrite(body, target));

    private static List<FolderDocument>? Unique(IReadOnlyList<FolderDocument>? folders)
    {
        var names = new FreeNames();
        return folders
            ?.Select(folder =>
                folder with
                {
                    Name = folder.Name is { } name ? names.Take(name) : null,
                    Folders = Unique(folder.Folders),
                    Snippets = Unique(folder.Snippets),
                }
            )
            .ToList();
    }

    private static List<SnippetDocument>? Unique(IReadOnlyList<SnippetDocument>? snippets)
    {
        var names = new FreeNames();
        return snippets
            ?.Select(snippet => snippet with { Name = snippet.Name is { } name ? names.Take(name) : null })
            .ToList();
    }
}
