using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Libraries;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Tests.Engine;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Delivery;

/// <summary>The plain twin of a snippet, and how links and pictures are written where there are none.</summary>
public sealed class PlainTwinTests
{
    private static readonly Snippet Tides = Typing.Snip("ti", "") with
    {
        Body = Body.Html.Parse(
            "<p>The <strong>tide table</strong> is <a href=\"https://example.org/tides\">here</a>.</p>"
        ),
        Twin = Body.Html.Parse("<p>Tides for <input name=\"day\" value=\"today\">: example.org/tides</p>"),
    };

    [Theory]
    [InlineData(FieldKind.Rich, "The tide table is here.")]
    [InlineData(FieldKind.Markdown, "The **tide table** is [here](https://example.org/tides).")]
    [InlineData(FieldKind.Plain, "Tides for today: example.org/tides")]
    [InlineData(FieldKind.SingleLine, "Tides for today: example.org/tides")]
    [InlineData(FieldKind.Secret, "Tides for today: example.org/tides")]
    public void A_field_without_formatting_takes_the_twin(FieldKind field, string text) =>
        Assert.Equal(text, Typed(Tides, field, new Dictionary<string, string>()).Text.TrimEnd());

    [Fact]
    public void The_twin_asks_its_own_questions_and_only_where_it_goes_in()
    {
        Assert.Equal("ti ", Typed(Tides, FieldKind.Plain, null).Text);
        Assert.Equal("The tide table is here. ", Typed(Tides, FieldKind.Rich, null).Text);
    }

    [Theory]
    [InlineData(LinkWriting.AsSet, false, "Look here.")]
    [InlineData(LinkWriting.AsSet, true, "Look here (https://example.org/tides).")]
    [InlineData(LinkWriting.WithAddress, false, "Look here (https://example.org/tides).")]
    [InlineData(LinkWriting.WordsOnly, true, "Look here.")]
    public void A_snippet_decides_how_its_links_are_written(LinkWriting links, bool set, string text)
    {
        var snippet = Typing.Snip("lo", "") with
        {
            Body = Body.Html.Parse("<p>Look <a href=\"https://example.org/tides\">here</a>.</p>"),
            Links = links,
        };
        Assert.Equal(
            text,
            Typed(snippet, FieldKind.Plain, null, new RenderContext { ShowsLinkTargets = set }).Text.TrimEnd()
        );
    }

    [Fact]
    public void A_picture_leaves_its_description()
    {
        var snippet = Typing.Snip("pi", "") with
        {
            Body = Body.Html.Parse("<p>See <img src=\"media:abc\" alt=\"the fairway\"></p>"),
        };
        Assert.Equal("See the fairway", Typed(snippet, FieldKind.Plain, null).Text.TrimEnd());
    }

    private static RehearsalResult Typed(
        Snippet snippet,
        FieldKind field,
        IReadOnlyDictionary<string, string>? answers,
        RenderContext? context = null
    )
    {
        var text = ((Trigger.Abbreviation)snippet.Triggers[0]).Text;
        var setting = new RehearsalSetting("post", field, false, context ?? new RenderContext(), answers);
        return Typing.Index(snippet).Keys(setting, $"type {text}", " ");
    }
}
