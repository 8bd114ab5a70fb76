using NodaTime;

namespace DashSprout.Core.Bodies;

/// <summary>
/// What the live parts of a body come to that are worked out: answers, dates, formulas, conditions, values from outside.
/// What cannot be worked out throws <see cref="RenderingException"/> with the field it is about.
/// </summary>
internal sealed class RenderedValues(BodyTree tree, RenderContext context)
{
    private readonly Answers answers = new(BodyFields.Of(tree, context.FindSnippet), context.Answers, context.Locale);

    /// <summary>Whether a row was repeated so far.</summary>
    public bool HasRepeats { get; private set; }

    /// <summary>A row as often as it is repeated, each time with the answers given in it.</summary>
    public IEnumerable<BodyRow> Repeated(BodyRow row)
    {
        if (
            row.Repeats is null
            || BodyTree
                .InlinesOf(row)
                .OfType<Inline.Field>()
                .Select(field => answers.RowOf(field.Slip))
                .FirstOrDefault(one => one is not null)
                is not { } repeated
        )
        {
            yield return row;
            yield break;
        }
        HasRepeats = true;
        for (var at = 1; at <= answers.RowsOf(repeated); at++)
        {
            answers.Row = at;
            yield return row;
        }
        answers.Row = 0;
    }

    /// <summary>A date, counted from now or from an answer.</summary>
    public string Date(Inline.Date date)
    {
        var start = context.Now;
        if (date.Part.From is { } from)
            start = Answered(() => answers.DateOf(from), from).AtMidnight().InZoneLeniently(context.Now.Zone);
        return Answered(() => date.Part.Format(start, context.Locale, context.WorkingDays), date.Part.From);
    }

    /// <summary>A value from outside; one that cannot be had now comes with its age.</summary>
    public string Live(Inline.Live live) =>
        context.ReadLive(live.Source, live.Path) switch
        {
            LiveValue.Now now => now.Text,
            LiveValue.Before before => $"{before.Text} ({before.Age})",
            LiveValue.Missing missing => throw new RenderingException(missing.Why),
            _ => "",
        };

    /// <summary>The answer to a field as it goes in.</summary>
    public string Answer(BodyField field) =>
        field.Type switch
        {
            FieldType.Checkbox => "",
            FieldType.Date when Answers.Date(answers.Of(field)) is { } date => Long(date),
            FieldType.Date when answers.Of(field).Length > 0 => throw new RenderingException(
                $"{field.Label}: “{answers.Of(field)}” is not a date such as 2026-03-02.",
                field.Name
            ),
            _ => answers.Of(field),
        };

    /// <summary>What a formula comes to.</summary>
    public string Calculation(Inline.Calculation calculation) =>
        Answered(() => calculation.Formula.Evaluate(answers.Names), null) switch
        {
            FormulaValue.Number number => number.Value.ToString(
                calculation.Pattern ?? "0.############",
                context.Locale
            ),
            FormulaValue.Text text => text.Value,
            FormulaValue.Date date => Long(date.Value),
            FormulaValue.Truth truth => truth.Value ? "yes" : "no",
            _ => "",
        };

    private string Long(LocalDate date) =>
        Dates.DatePattern.Parse("", "d MMMM y").Format(date.AtMidnight().InUtc(), context.Locale);

    /// <summary>Whether a condition holds; none does that cannot be worked out yet.</summary>
    public bool Holds(Formula formula)
    {
        try
        {
            return Answered(() => formula.Holds(answers.Names), null);
        }
        catch (RenderingException) when (context.MarksEmpty)
        {
            return false;
        }
    }

    private static T Answered<T>(Func<T> work, string? field)
    {
        try
        {
            return work();
        }
        catch (Exception exception) when (exception is FormulaException or Dates.DateException)
        {
            throw new RenderingException(exception.Message, field);
        }
    }
}
