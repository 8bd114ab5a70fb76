using DashSprout.Core.Bodies;
using DashSprout.Core.Text;

namespace DashSprout.Core.Slips;

/// <summary>The small form that asks for a snippet's fields before it is put in.</summary>
/// <param name="Fields">Its fields in order of first appearance; at least one.</param>
public sealed record Slip(IReadOnlyList<BodyField> Fields)
{
    /// <summary>The slip of a body; null when it asks for nothing.</summary>
    public static Slip? Of(Body body, Func<string, Body?> findSnippet) =>
        body is Body.Html && BodyFields.Of(body.Tree, findSnippet) is { Count: > 0 } fields ? new Slip(fields) : null;

    /// <summary>What is wrong with an answer, in words for the user; null when nothing is.</summary>
    /// <param name="row">The row, for a field that is asked in each.</param>
    public static string? Problem(BodyField field, Answers answers, int row = 1)
    {
        var answer = answers.Of(field, row).Trim();
        if (answer.Length == 0)
            return field.Required ? $"{field.Label} is needed." : null;
        switch (field.Type)
        {
            case FieldType.Checkbox:
                return field.Required && answer != "true" ? $"{field.Label} must be ticked." : null;
            case FieldType.Choice:
                return field.Choices.Any(choice => choice.Label == answer)
                    ? null
                    : $"“{answer}” is none of the choices.";
            case FieldType.Date:
                if (Answers.Date(answer) is not { } date)
                    return $"“{answer}” is not a date. Write it like 2026-03-02.";
                if (Answers.Date(field.Min ?? "") is { } first && date < first)
                    return $"The earliest is {field.Min}.";
                return Answers.Date(field.Max ?? "") is { } last && date > last ? $"The latest is {field.Max}." : null;
            case FieldType.Number:
                if (answers.Number(answer) is not { } number)
                    return answers.NoNumber(answer);
                if (TypedNumber.ReadPlain(field.Min ?? "") is { } least && number < least)
                    return $"The least is {field.Min}.";
                if (TypedNumber.ReadPlain(field.Max ?? "") is { } most && number > most)
                    return $"The most is {field.Max}.";
                return
                    TypedNumber.ReadPlain(field.Step ?? "") is { } step
                    && step > 0
                    && (number - (TypedNumber.ReadPlain(field.Min ?? "") ?? 0)) % step != 0
                    ? $"It goes in steps of {field.Step}."
                    : null;
            default:
                return field.Pattern is { } pattern && !Answers.Fits(pattern, answers.Of(field, row))
                    ? $"“{answer}” does not fit. It must be like this: {pattern}"
                    : null;
        }
    }
}
