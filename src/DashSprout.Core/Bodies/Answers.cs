using System.Globalization;
using NodaTime;
using NodaTime.Text;

namespace DashSprout.Core.Bodies;

/// <summary>The answers to a slip's fields, with defaults for what was not answered.</summary>
public sealed class Answers(IEnumerable<BodyField> fields, IReadOnlyDictionary<string, string> given)
{
    private readonly Dictionary<string, BodyField> fields = fields.GroupBy(field => field.Name).ToDictionary(group => group.Key, group => group.First());

    /// <summary>The answer to a field as it was typed.</summary>
    public string Of(BodyField field) => given.TryGetValue(field.Name, out var answer) ? answer : fields.GetValueOrDefault(field.Name, field).Default;

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

    internal static decimal? Number(string text) =>
        decimal.TryParse(text.Trim(), NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) ? number : null;

    internal static LocalDate? Date(string text) => LocalDatePattern.Iso.Parse(text) is { Success: true } parsed ? parsed.Value : null;
}
