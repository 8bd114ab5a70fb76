using DashSprout.Core;
using DashSprout.Core.Bodies;
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
            SnippetMerge.Name => root.Name,
            SnippetMerge.Switch => Switch(root.Enabled),
            _ => "closing keys, Caps Lock, Backspace and what new snippets begin with, as they are set here",
        };

    private static string Words(SharedEntry? entry, string part) =>
        (entry, part) switch
        {
            (null, _) => "deleted",
            (_, SnippetMerge.Name) => entry.Name,
            (SharedFolder folder, SnippetMerge.Switch) => Switch(folder.Enabled),
            (SharedSnippet { Snippet.Private: true }, SnippetMerge.Text or SnippetMerge.Twin or SnippetMerge.Note) =>
                Snippet.Hidden,
            (SharedSnippet { Snippet: var snippet }, _) => part switch
            {
                SnippetMerge.Switch => Switch(snippet.Enabled),
                SnippetMerge.Text => snippet.Glance(),
                SnippetMerge.Twin => snippet.Twin is { } twin ? Sketch.Of(twin) : "none",
                SnippetMerge.Note => snippet.Note,
                SnippetMerge.Private => snippet.Private ? "private" : "not private",
                SnippetMerge.Triggers => snippet.Triggers.Count == 0
                    ? "nothing"
                    : string.Join(", ", snippet.Triggers.Select(trigger => trigger.Text)),
                SnippetMerge.Delivery => Wording.Of(snippet.Delivery),
                _ => "",
            },
            _ => "what new snippets begin with",
        };

    private static string Switch(bool on) => on ? "on" : "off";
}
