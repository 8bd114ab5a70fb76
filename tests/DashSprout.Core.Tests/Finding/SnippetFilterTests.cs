using DashSprout.Core.Bodies;
using DashSprout.Core.Finding;
using DashSprout.Core.Libraries;
using DashSprout.Core.Safety;
using DashSprout.Core.Tests.Libraries;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using NodaTime;

namespace DashSprout.Core.Tests.Finding;

/// <summary>What is typed to find snippets among all.</summary>
public sealed class SnippetFilterTests
{
    /// <summary>A Monday morning in London.</summary>
    private static readonly ZonedDateTime Now = new LocalDateTime(2026, 3, 2, 9, 15).InZoneStrictly(
        DateTimeZoneProviders.Tzdb["Europe/London"]
    );

    private static readonly TestTree Tree = Made();

    private static TestTree Made()
    {
        var testTree = new TestTree();
        testTree.Do(now => Commands.AddLibrary(now, testTree.Next(), "Berth desk"));
        testTree.Do(now => Commands.AddFolder(now, testTree.Next(), testTree["Berth desk"].Id, "Old letters"));
        Add(
            "Confirmation",
            "<p>Dear <input name='skipper'>, see you <time data-pattern='d MMMM'></time></p>",
            "Berth desk",
            ";bc",
            TypingRules.For(";bc", Timing.AtOnce)
        );
        Add(
            "Regards",
            "Kind regards",
            "Old letters",
            "kr",
            TypingRules.For("kr") with
            {
                Case = LetterCase.Exact,
            },
            tags: ["polite", "letters end"]
        );
        Add("Off one", "off we go", "Berth desk", "oo", TypingRules.For("oo"), enabled: false);
        Add("Console", "ls -l", "Berth desk", "ll", TypingRules.For("ll"), new Scope.OnlyIn(new(["console"])));
        return testTree;

        void Add(
            string name,
            string body,
            string place,
            string code,
            TypingRules rules,
            Scope? scope = null,
            bool enabled = true,
            string[]? tags = null
        ) =>
            testTree.Do(now =>
                Commands.AddSnippet(
                    now,
                    testTree.Next(),
                    testTree[place].Id,
                    TestTree.Snip(name, new Trigger.Abbreviation(code, rules, scope ?? Scope.Everywhere)) with
                    {
                        Body = body.StartsWith('<') ? Body.Html.Parse(body) : new Body.Plain(body),
                        Enabled = enabled,
                        Tags = new(tags ?? []),
                    }
                )
            );
    }

    private static string Left(string filter)
    {
        var parsed = SnippetFilter.Parse(filter, Now);
        return string.Join(
            ", ",
            Tree.Now.Libraries.SelectMany(Tree.Now.Within)
                .OfType<SnippetItem>()
                .Where(item => parsed.Keeps(Subject(item)))
                .Select(item => item.Name)
        );
    }

    /// <summary>
    /// The confirmation went off on Sunday and is nagging; the regards were changed a week ago and are beaten by it.
    /// </summary>
    private static FilterSubject Subject(SnippetItem item)
    {
        var snippet = item.Snippet;
        var words = CaseFolding.Fold(
            string.Join(
                '\n',
                [
                    snippet.Name,
                    PreviewText.Of(snippet.Body),
                    .. snippet.Triggers.Select(trigger => trigger.Text),
                    .. snippet.Tags,
                ]
            )
        );
        var confirms = item.Name == "Confirmation";
        return new FilterSubject(
            Tree.Now,
            item,
            words,
            confirms ? MisfireGrade.Nagging : MisfireGrade.Quiet,
            item.Name is "Confirmation" or "Regards" ? 1 : 0,
            item.Name == "Regards",
            confirms ? new DateTimeOffset(2026, 3, 1, 12, 0, 0, TimeSpan.Zero) : null,
            item.Name == "Regards"
                ? new DateTimeOffset(2026, 2, 23, 0, 0, 0, TimeSpan.Zero)
                : new DateTimeOffset(2026, 3, 2, 8, 0, 0, TimeSpan.Zero)
        );
    }

    [Theory]
    [InlineData("", "Regards, Confirmation, Off one, Console")]
    [InlineData("dear", "Confirmation")]
    [InlineData("KIND kr", "Regards")]
    [InlineData("polite", "Regards")]
    [InlineData("\"see you\"", "Confirmation")]
    [InlineData("\"you see\"", "")]
    [InlineData("off", "Off one")]
    [InlineData("\"off\"", "Off one")]
    [InlineData("\"off\" not off", "")]
    [InlineData("never used", "Regards, Off one, Console")]
    [InlineData("not never used", "Confirmation")]
    [InlineData("overlaps", "Regards, Confirmation")]
    [InlineData("beaten", "Regards")]
    [InlineData("nagging", "Confirmation")]
    [InlineData("has fields", "Confirmation")]
    [InlineData("has dates", "Confirmation")]
    [InlineData("not has formatting", "Regards, Off one, Console")]
    [InlineData("case:exact", "Regards")]
    [InlineData("timing:at-once", "Confirmation")]
    [InlineData("CASE:Exact", "Regards")]
    [InlineData("grade:quiet not off", "Regards, Console")]
    [InlineData("scope:console", "Console")]
    [InlineData("tag:\"letters end\"", "Regards")]
    [InlineData("in:\"old letters\"", "Regards")]
    [InlineData("in:\"berth desk\" not in:\"old letters\"", "Confirmation, Off one, Console")]
    [InlineData("changed since today", "Confirmation, Off one, Console")]
    [InlineData("changed since 2026-02-23", "Regards, Confirmation, Off one, Console")]
    [InlineData("changed since 6 days", "Confirmation, Off one, Console")]
    [InlineData("changed since 1 week dear", "Confirmation")]
    [InlineData("used since yesterday", "Confirmation")]
    [InlineData("used since monday", "")]
    [InlineData("http://x", "")]
    [InlineData("not", "Regards, Confirmation, Off one, Console")]
    public void Leaves_what_everything_holds_for(string filter, string left) => Assert.Equal(left, Left(filter));

    [Theory]
    [InlineData("case:sideways", "“sideways” is not known behind “case:”. Use one of: either, exact, mirror.")]
    [InlineData("case:", "“case:” wants a value behind it.")]
    [InlineData(
        "changed since",
        "“changed since” wants a day such as 2026-03-02, today, monday, or a time such as 2 weeks behind it."
    )]
    public void What_cannot_be_read_is_told_and_left_out(string filter, string problem)
    {
        Assert.Equal(problem, SnippetFilter.Parse(filter, Now).Problem);
        Assert.Equal("Regards, Confirmation, Off one, Console", Left(filter));
        Assert.Equal("Regards", Left("kind " + filter));
    }

    [Theory]
    [InlineData("neve", "never used ")]
    [InlineData("never u", "never used ")]
    [InlineData("dear nev", "dear never used ")]
    [InlineData("ca", "case:")]
    [InlineData("case:ex", "case:exact ")]
    [InlineData("scope:", "scope:console ")]
    [InlineData("tag:lett", "tag:\"letters end\" ")]
    [InlineData("in:ol", "in:\"Old letters\" ")]
    [InlineData("not beat", "not beaten ")]
    public void What_is_begun_is_offered_whole(string typed, string first) =>
        Assert.Equal(first, FilterText.Suggest(typed, Tree.Now)[0].Filter);

    [Fact]
    public void Each_thing_that_is_offered_can_be_read()
    {
        foreach (var suggestion in FilterText.Suggest("", Tree.Now))
        {
            var whole = suggestion.Filter.EndsWith(':')
                ? FilterText.Suggest(suggestion.Filter, Tree.Now)[0].Filter
                : suggestion.Filter;
            if (whole is "changed since " or "used since " or "not ")
                continue;
            var parsed = SnippetFilter.Parse(whole, Now);
            Assert.Null(parsed.Problem);
            Assert.False(parsed.IsEmpty);
        }
        Assert.Empty(FilterText.Suggest("\"nev", Tree.Now));
    }
}
