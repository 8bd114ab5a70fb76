using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;

namespace DashSprout.Server.Mirrors;

/// <summary>Both sides of a conflict in words.</summary>
internal static class MirrorWords
{
    public static MirrorConflictAnswer Of(MirrorConflict conflict, SharedLibrary here, MirrorState file, long? id)
    {
        var (seen, there) = (file.States.ToString(), file.Library);
        if (conflict.Key == SharedLibrary.Top)
            return new MirrorConflictAnswer(
                conflict.Key,
                conflict.Part,
                conflict.Source,
                seen,
                $"library “{here.Root.Name}”",
                Words(here.Root, conflict.Part),
                Words(there.Root, conflict.Part),
                null
            );
        var own = here.Entries.FirstOrDefault(entry => entry.Key == conflict.Key);
        var other = there.Entries.FirstOrDefault(entry => entry.Key == conflict.Key);
        return new MirrorConflictAnswer(
            conflict.Key,
            conflict.Part,
            conflict.Source,
            seen,
            own?.Title ?? other?.Title ?? "",
            Words(own, conflict.Part),
            Words(other, conflict.Part),
            own is SharedSnippet ? id : null
        );
    }

    private static string Words(SharedRoot root, string part) =>
        part switch
        {
            SnippetParts.Name => root.Name,
            SnippetParts.Switch => Switch(root.Enabled),
            _ => "closing keys, Caps Lock, Backspace and what new snippets begin with, as they are set here",
        };

    private static string Words(SharedEntry? entry, string part) =>
        (entry, part) switch
        {
            (null, _) => "deleted",
            (_, SnippetParts.Name) => entry.Name,
            (SharedFolder folder, SnippetParts.Switch) => Switch(folder.Enabled),
            (SharedSnippet { Snippet: var snippet }, _) => SnippetParts.Of(part).Shown(snippet),
            _ => "what new snippets begin with",
        };

    private static string Switch(bool on) => on ? "on" : "off";
}
