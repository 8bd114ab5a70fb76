using System.Globalization;
using DashSprout.Core.Bodies;
using NodaTime;
using NodaTime.Text;

namespace DashSprout.Core.Slips;

/// <summary>The answers to a slip's fields, with defaults for what was not answered.</summary>
public sealed class Answers(IEnumerable<SlipField> fields, IReadOnlyDictionary<string, string> given)
{
    private readonly Dictionary<string, SlipField> fields = fields.GroupBy(field => field.Name).ToDictionary(group => group.Key, group => group.First());

    /// <summary>The answer to a field as it was typed.</summary>
    public string Of(SlipField field) => given.TryGetValue(field.Name, out var answer) ? answer : fields.GetValueOrDefault(field.Name, field).Default;

    /// <summary>The value of a name in a formula.</summary>
    public FormulaValue Value(string name)
    {
        if (!fields.TryGetValue(name, out var field)) throw new FormulaException($"There is no field “{name}”.");
        var answer = Of(field);
        return field.Type switch
        {
            FieldType.Number when answer.Trim().Length == 0 => throw new FormulaException($"{field.Label}: a number is missing."),
            FieldType.Number => Number(answer) is { } number
                ? new FormulaValue.Number(number)
                : throw new FormulaException($"{field.Label}: “{answer}” is not a number."),
            FieldType.Date when answer.Length == 0 => throw new FormulaException($"{field.Label}: a date is missing."),
            FieldType.Date => Date(answer) is { } date
                ? new FormulaValue.Date(date)
                : throw new FormulaException($"{field.Label}: “{answer}” is not a date such as 2026-03-02."),
            FieldType.Checkbox => new FormulaValue.Truth(answer == "true"),
            _ => new FormulaValue.Text(answer),
        };
    }

    /// <summary>The date a date field was answered with.</summary>
    public LocalDate DateOf(string name) => Value(name) is FormulaValue.Date date ? date.Value : throw new FormulaException($"“{name}” is no date field.");

    /// <summary>What is wrong with an answer, in words for the user; null when nothing is.</summary>
    public string? Problem(SlipField field)
    {
        var answer = Of(field).Trim();
        if (answer.Length == 0) return field.Required ? $"{field.Label} is needed." : null;
        switch (field.Type)
        {
            case FieldType.Checkbox:
                return field.Required && answer != "true" ? $"{field.Label} must be ticked." : null;
            case FieldType.Choice:
                return field.Choices.Contains(answer) ? null : $"“{answer}” is none of the choices.";
            case FieldType.Date:
                if (Date(answer) is not { } date) return $"“{answer}” is not a date. Write it like 2026-03-02.";
                if (Date(field.Min ?? "") is { } first && date < first) return $"The earliest is {field.Min}.";
                return Date(field.Max ?? "") is { } last && date > last ? $"The latest is {field.Max}." : null;
            case FieldType.Number:
                if (Number(answer) is not { } number) return $"“{answer}” is not a number.";
                if (Number(field.Min ?? "") is { } least && number < least) return $"The least is {field.Min}.";
                if (Number(field.Max ?? "") is { } most && number > most) return $"The most is {field.Max}.";
                return Number(field.Step ?? "") is { } step && step > 0 && (number - (Number(field.Min ?? "") ?? 0)) % step != 0 ? $"It goes in steps of {field.Step}." : null;
            default:
                return null;
        }
    }

    private static decimal? Number(string text) =>
        decimal.TryParse(text.Trim(), NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) ? number : null;

    private static LocalDate? Date(string text) => LocalDatePattern.Iso.Parse(text) is { Success: true } parsed ? parsed.Value : null;
}
