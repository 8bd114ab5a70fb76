using DashSprout.Core.Libraries;
using DashSprout.Core.Safety;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Finding;

/// <summary>A rule with a value behind a colon, such as <c>case:exact</c>.</summary>
/// <param name="Values">The values there are among some snippets.</param>
/// <param name="Of">The test for a value; null when it is none of them.</param>
internal sealed record FilterKey(
    string Key,
    string Meaning,
    Func<LibraryTree, IEnumerable<string>> Values,
    Func<string, Func<FilterSubject, bool>?> Of
)
{
    /// <summary>All of them.</summary>
    public static IReadOnlyList<FilterKey> All { get; } =
    [
        Kinds<Timing>("timing", "when it goes off", rules => rules.Timing),
        Kinds<LetterCase>("case", "how it treats capitals", rules => rules.Case),
        Kinds<LeftEdge>("edge", "what may stand before it", rules => rules.LeftEdge),
        new(
            "grade",
            "how often it goes off by accident",
            _ => Enum.GetValues<MisfireGrade>().Select(Wording.Of),
            value => Kind<MisfireGrade>(value) is { } grade ? subject => subject.Grade == grade : null
        ),
        new(
            "delivery",
            "how it goes in",
            _ => Enum.GetValues<DeliveryWay>().Select(Wording.Of),
            value => Kind<DeliveryWay>(value) is { } way ? subject => subject.Snippet.Delivery == way : null
        ),
        new(
            "scope",
            "an application it is bound to or kept out of",
            now =>
                now.Snippets.SelectMany(item => item.Snippet.Triggers)
                    .SelectMany(trigger => Apps(trigger.Scope))
                    .Distinct(),
            value =>
                subject =>
                    subject.Snippet.Triggers.Any(trigger =>
                        Apps(trigger.Scope).Contains(value, StringComparer.OrdinalIgnoreCase)
                    )
        ),
        new(
            "tag",
            "has this tag",
            now => now.Snippets.SelectMany(item => item.Snippet.Tags).Distinct(StringComparer.OrdinalIgnoreCase),
            value => subject => subject.Snippet.Tags.Contains(value, StringComparer.OrdinalIgnoreCase)
        ),
        new(
            "in",
            "lies in this library or folder",
            now =>
                now.Libraries.SelectMany(now.Within)
                    .Where(item => item is not SnippetItem)
                    .Select(item => item.Name)
                    .Distinct(StringComparer.OrdinalIgnoreCase),
            value =>
                subject =>
                    subject.Tree.LibraryOf(subject.Item).Name.Equals(value, StringComparison.OrdinalIgnoreCase)
                    || subject
                        .Tree.FoldersOf(subject.Item)
                        .Any(folder => folder.Name.Equals(value, StringComparison.OrdinalIgnoreCase))
        ),
    ];

    private static FilterKey Kinds<T>(string key, string meaning, Func<TypingRules, T> of)
        where T : struct, Enum =>
        new(
            key,
            meaning,
            _ => Enum.GetValues<T>().Select(Wording.Of),
            value =>
                Kind<T>(value) is { } kind
                    ? subject =>
                        subject.Snippet.Triggers.Any(trigger => trigger.Typing is { } rules && of(rules).Equals(kind))
                    : null
        );

    private static T? Kind<T>(string value)
        where T : struct, Enum =>
        Enum.GetValues<T>()
            .Where(kind => Wording.Of(kind).Equals(value, StringComparison.OrdinalIgnoreCase))
            .Select(kind => (T?)kind)
            .FirstOrDefault();

    private static IEnumerable<string> Apps(Scope scope) =>
        scope switch
        {
            Scope.OnlyIn only => only.Apps,
            Scope.NotIn not => not.Apps,
            _ => [],
        };
}
