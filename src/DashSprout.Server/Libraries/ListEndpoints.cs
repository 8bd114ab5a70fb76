using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Documents;
using DashSprout.Exchange.Prose;

namespace DashSprout.Server.Libraries;

/// <summary>A pasted list of abbreviations with their texts.</summary>
public sealed record ListRequest(string Text);

/// <summary>What a line of a list becomes.</summary>
/// <param name="Problem">Why it cannot be added; null when it can.</param>
/// <param name="Caution">What is worth knowing before it is added; null for nothing.</param>
public sealed record ListLineAnswer(int Line, string Code, string Text, string? Problem, string? Caution);

/// <summary>
/// Snippets to add at the end of a library or folder, all or none; names that are taken get a number behind them.
/// </summary>
/// <param name="ParentId">The library or folder; null for the first library, which is made when there is none.</param>
public sealed record NewSnippets(IReadOnlyList<SnippetDocument> Snippets, long? ParentId = null);

/// <summary>How many snippets were added.</summary>
public sealed record SnippetsMade(int Count);

internal static class ListEndpoints
{
    public static void MapLists(this IEndpointRouteBuilder api)
    {
        api.MapPost("/lists/preview", (ListRequest request, LibraryService libraryService) =>
        {
            var lines = PlainList.Read(request.Text);
            var wanted = lines.Select(line => line.Code).ToHashSet(StringComparer.OrdinalIgnoreCase);
            var here = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
            foreach (var snippet in libraryService.Tree.Snippets)
            foreach (var trigger in snippet.Snippet.Triggers)
                if (trigger is Trigger.Abbreviation && wanted.Contains(trigger.Text))
                    here.TryAdd(trigger.Text, snippet.Name);
            var seen = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
            return lines
                .Select(line => new ListLineAnswer(
                    line.Line,
                    line.Code,
                    line.Text,
                    line.Problem ?? Problem(line.Code),
                    line.Code.Length == 0 ? null : Caution(line)
                ))
                .ToArray();

            string? Caution(ListLine line)
            {
                var before = seen.TryAdd(line.Code, line.Line) ? 0 : seen[line.Code];
                return before > 0 ? $"Line {before} has the same abbreviation; the upper one will win."
                    : here.TryGetValue(line.Code, out var name) ? $"“{name}” has this abbreviation already."
                    : null;
            }
        });

        api.MapPost("/snippets/list", (NewSnippets given, LibraryService libraryService) =>
        {
            var parent = given.ParentId ?? SnippetEndpoints.FirstLibrary(libraryService);
            var change = libraryService.Do(
                (now, id) =>
                    Commands.AddSnippets(
                        now,
                        id,
                        parent,
                        [
                            .. given.Snippets.Select(
                                (document, at) =>
                                    InvalidInputException.Within($"snippets[{at}]", () =>
                                        (document with { Name = document.Name ?? SnippetEndpoints.NewName })
                                            .Under(now.DefaultsIn(parent))
                                            .ToSnippet()
                                    )
                            ),
                        ]
                    )
            );
            return new SnippetsMade(change.Items.Count);
        });
    }

    private static string? Problem(string code)
    {
        try
        {
            _ = new Trigger.Abbreviation(code, TypingRules.For(code), Scope.Everywhere);
            return null;
        }
        catch (InvalidInputException exception)
        {
            return exception.Message;
        }
    }
}
