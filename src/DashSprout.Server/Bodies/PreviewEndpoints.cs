using System.Globalization;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Dates;
using DashSprout.Core.Delivery;
using DashSprout.Core.Libraries;
using DashSprout.Core.Slips;
using DashSprout.Core.Text;
using DashSprout.Documents;
using DashSprout.Server.Settings;
using NodaTime;
using NodaTime.Text;

namespace DashSprout.Server.Bodies;

/// <summary>A body to look at before it is saved.</summary>
/// <param name="Now">A local date and time such as <c>2026-03-02T09:15:00</c>, or one with its offset; null for
/// now.</param>
public sealed record PreviewRequest(
    string? Body = null,
    string? Text = null,
    string? Now = null,
    string? Zone = null,
    string? Locale = null,
    string? Clipboard = null,
    string? Selection = null,
    IReadOnlyDictionary<string, string>? Answers = null,
    TwinDocument? Twin = null,
    string? Links = null
);

/// <summary>What a body comes to in each kind of field.</summary>
/// <param name="Problem">Why it cannot be put in as things are; the texts are empty then.</param>
/// <param name="Warnings">What was dropped, and where.</param>
/// <param name="Defaults">The default of every field with the answers as they are, by the key of its answer.</param>
public sealed record PreviewAnswer(
    string Rich,
    string Plain,
    string Markdown,
    IReadOnlyList<FieldAnswer> Fields,
    IReadOnlyList<FieldProblem> Problems,
    string? Problem,
    IReadOnlyList<string> Notices,
    IReadOnlyList<string> Opened,
    IReadOnlyList<WarningAnswer> Warnings,
    IReadOnlyDictionary<string, string> Defaults
);

/// <summary>A field of the fill slip.</summary>
/// <param name="Row">The repeated row that asks for it, with an answer <c>name[1]</c>, <c>name[2]</c> … in each; null
/// for a field that is asked once.</param>
public sealed record FieldAnswer(
    string Name,
    string Type,
    string Label,
    string Default,
    bool Required,
    string? Min,
    string? Max,
    string? Step,
    int? Size,
    IReadOnlyList<string> Choices,
    FieldRowAnswer? Row
)
{
    internal static FieldAnswer Of(BodyField field, CultureInfo language) =>
        new(
            field.Name,
            Wording.Of(field.Type),
            field.Label,
            field.Type == FieldType.Number ? TypedNumber.Write(field.Default, language) : field.Default,
            field.Required,
            field.Min,
            field.Max,
            field.Step,
            field.Size,
            [.. field.Choices.Select(choice => choice.Label)],
            field.Row is { } row ? new FieldRowAnswer(row.Number, row.Key, row.Range.Least, row.Range.Most) : null
        );
}

/// <summary>A row that is repeated in the slip.</summary>
/// <param name="Key">The key under which the number of rows is answered.</param>
public sealed record FieldRowAnswer(int Number, string Key, int Least, int Most);

/// <summary>What is wrong with an answer, by its key; the field is null when it belongs to none.</summary>
public sealed record FieldProblem(string? Field, string Message);

/// <summary>Something that was dropped from a body.</summary>
public sealed record WarningAnswer(string Message, int Line, int Column);

/// <summary>Live parts to work out by themselves, each as HTML.</summary>
public sealed record PartsRequest(IReadOnlyList<string> Parts);

/// <summary>What a live part comes to now, or what is wrong with it.</summary>
public sealed record PartAnswer(string Text, string? Problem);

/// <summary>A text in Markdown.</summary>
public sealed record MarkdownRequest(string Text);

/// <summary>What it looks like, as HTML.</summary>
public sealed record MarkdownAnswer(string Html);

/// <summary>A body's HTML as it was typed.</summary>
public sealed record BodyRequest(string Body);

/// <summary>A body in the form in which it is kept, and as plain text without live parts.</summary>
public sealed record BodyForms(string Body, string Text);

internal static class PreviewEndpoints
{
    private const int MostParts = 500;

    public static void MapPreview(this IEndpointRouteBuilder api)
    {
        api.MapPost("/preview", (PreviewRequest request, RenderContextSource contexts) =>
        {
            Body body;
            IReadOnlyList<BodyWarning> warnings = [];
            if (request.Body is { } source)
            {
                warnings = BodyParser.Parse(source).Warnings;
                body = Body.Html.Parse(source);
            }
            else
            {
                body = new Body.Plain(request.Text ?? "");
            }
            var context = Context(request, contexts);
            if (request.Links is { } links)
                context = context.Writing(Wording.Parse<LinkWriting>("links", links));
            var preview = Preview(body, context, warnings);
            return request.Twin is null
                ? preview
                : WithTwin(preview, Preview(InvalidInputException.Within("twin", request.Twin.ToBody), context, []));
        });

        api.MapPost("/body-forms", (BodyRequest request) =>
        {
            var body = Body.Html.Parse(request.Body);
            return new BodyForms(body.Markup, WordsOnly.Of(body));
        });

        api.MapPost("/markdown", (MarkdownRequest request) =>
            new MarkdownAnswer(DashSprout.Exchange.Prose.MarkdownText.ToHtml(request.Text))
        );

        api.MapPost("/preview/parts", (PartsRequest request, RenderContextSource contexts) =>
        {
            if (request.Parts.Count > MostParts)
                throw new InvalidInputException("parts", $"There are more than {MostParts} parts.");
            var context = contexts.Now();
            return request.Parts.Select(part => Part(part, context)).ToArray();
        });
    }

    /// <summary>The context a request describes; what it leaves out is as it is now.</summary>
    public static RenderContext Context(PreviewRequest request, RenderContextSource contexts)
    {
        var context = contexts.Now() with { Clipboard = request.Clipboard ?? "", Selection = request.Selection ?? "" };
        if (request.Locale is { } locale)
            context = context with { Locale = Locales.Find("locale", locale) };
        if (request.Zone is { } zone)
            context = context with { Now = context.Now.WithZone(Zones.Find("zone", zone)) };
        if (request.Now is { } now)
            context = context with { Now = Time("now", now, context.Now.Zone) };
        return context with { Answers = request.Answers ?? new Dictionary<string, string>() };
    }

    public static PreviewAnswer Preview(Body body, RenderContext context, IReadOnlyList<BodyWarning> warnings)
    {
        IReadOnlyList<BodyField> fields = Slip.Of(body, context.FindSnippet)?.Fields ?? [];
        var answers = new Answers(fields, context.Answers, context.Locale);
        List<FieldProblem> problems =
        [
            .. fields
                .SelectMany(field =>
                    Enumerable
                        .Range(1, field.Row is { } row ? answers.RowsOf(row) : 1)
                        .Select(row => new FieldProblem(field.KeyIn(row), Slip.Problem(field, answers, row) ?? ""))
                )
                .Where(problem => problem.Message.Length > 0),
        ];
        var warned = warnings
            .Select(warning => new WarningAnswer(warning.Message, warning.Line, warning.Column))
            .ToList();
        List<FieldAnswer> asked = [.. fields.Select(field => FieldAnswer.Of(field, context.Locale))];
        string? problem = null;
        try
        {
            // Whether it can be put in is asked of it as it would be put in.
            if (context.MarksEmpty)
                _ = Renderer.Render(body, context with { MarksEmpty = false }, Capitals.AsWritten);
            return Shown();
        }
        catch (RenderingException exception)
        {
            problem = exception.Message;
            if (problems.Count == 0)
                problems.Add(new FieldProblem(exception.Field, problem));
        }
        try
        {
            if (context.MarksEmpty)
                return Shown();
        }
        catch (RenderingException)
        {
            // Nothing of it can be shown yet; why is known already.
        }
        return new PreviewAnswer("", "", "", asked, problems, problem, [], [], warned, answers.Defaults());

        PreviewAnswer Shown()
        {
            var rendering = Renderer.Render(body, context, Capitals.AsWritten);
            var plain = Writers.Plain(rendering.Flow).Text;
            return new PreviewAnswer(
                Writers.Rich(rendering.Flow, wholeBlocks: true).Text,
                plain,
                body is Body.Html ? Writers.Markdown(rendering.Flow).Text : plain,
                asked,
                problems,
                problem,
                rendering.Notices,
                [.. rendering.Opened.Select(opening => opening.Target)],
                warned,
                answers.Defaults()
            );
        }
    }

    /// <summary>What a snippet comes to whose plain twin goes into fields without formatting.</summary>
    private static PreviewAnswer WithTwin(PreviewAnswer body, PreviewAnswer twin) =>
        body with
        {
            Plain = twin.Plain,
            Fields = [.. body.Fields.Concat(twin.Fields).DistinctBy(field => field.Name)],
            Problems = [.. body.Problems.Concat(twin.Problems).Distinct()],
            Problem = body.Problem ?? twin.Problem,
            Defaults = twin
                .Defaults.Concat(body.Defaults)
                .GroupBy(pair => pair.Key)
                .ToDictionary(pairs => pairs.Key, pairs => pairs.Last().Value),
        };

    /// <summary>
    /// A time as the zone's clocks show it; with an offset behind it, it is told which of two that look alike is meant.
    /// </summary>
    private static ZonedDateTime Time(string field, string text, DateTimeZone zone) =>
        LocalDateTimePattern.ExtendedIso.Parse(text) is { Success: true } local ? local.Value.InZoneLeniently(zone)
        : OffsetDateTimePattern.ExtendedIso.Parse(text) is { Success: true } offset ? offset.Value.InZone(zone)
        : throw new InvalidInputException(
            field,
            $"“{text}” is not a local date and time. Write it like 2026-03-02T09:15:00."
        );

    /// <summary>
    /// A part by itself; what is worked out from answers has none here, and that is no problem of the part.
    /// </summary>
    private static PartAnswer Part(string source, RenderContext context)
    {
        try
        {
            var body = Body.Html.Parse(source);
            var needsAnswers =
                body.Tree.Formulas().Any()
                || body.Tree.Inlines().Any(part => part is Inline.Date { Part.From: not null });
            return needsAnswers
                ? new PartAnswer("", null)
                : new PartAnswer(Writers.Plain(Renderer.Render(body, context, Capitals.AsWritten).Flow).Text, null);
        }
        catch (InvalidInputException exception)
        {
            return new PartAnswer("", exception.Errors[0].Message);
        }
        catch (RenderingException exception)
        {
            return new PartAnswer("", exception.Message);
        }
    }
}
