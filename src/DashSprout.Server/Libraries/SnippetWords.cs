using System.Runtime.CompilerServices;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Text;

namespace DashSprout.Server.Libraries;

/// <summary>
/// What the texts of snippets come to at a glance. Made once for each version of a snippet and gone with it.
/// </summary>
internal static class SnippetWords
{
    private const int BeginningLength = 90;

    private static readonly ConditionalWeakTable<SnippetItem, string> Beginnings = [];
    private static readonly ConditionalWeakTable<SnippetItem, string> FoldedWords = [];

    /// <summary>
    /// How a snippet begins; nothing of a private one. What holds others is told each time, since those may have been
    /// renamed.
    /// </summary>
    public static string Beginning(LibraryTree now, SnippetItem item)
    {
        if (item.Snippet.Private)
            return "";
        return References.Any(item.Snippet.Body)
            ? Cut(item.Snippet.Preview(now.NameOf))
            : Beginnings.GetValue(item, static item => Cut(item.Snippet.Preview()));
    }

    /// <summary>
    /// Its name, triggers, text, note and tags, folded, a line each; of a private one without what goes in.
    /// </summary>
    public static string Folded(SnippetItem item) => FoldedWords.GetValue(item, static item =>
        {
            var snippet = item.Snippet;
            var texts = snippet.Private
                ? [snippet.Name]
                : snippet.Bodies.Select(body => PreviewText.Of(body)).Append(snippet.Note).Prepend(snippet.Name);
            return CaseFolding.Fold(
                string.Join('\n', [.. texts, .. snippet.Triggers.Select(trigger => trigger.Text), .. snippet.Tags])
            );
        });

    private static string Cut(string text) =>
        Graphemes.Shortened(Graphemes.Shortened(text, BeginningLength).ReplaceLineEndings(" ⏎ "), BeginningLength);
}
