using System.Globalization;
using DashSprout.Core.Text;
using NodaTime;
using NodaTime.Text;

namespace DashSprout.Core.Bodies;

/// <summary>
/// The answers to a slip's fields, with defaults for what was not answered. Numbers are read as the user's language writes them; a default
/// is written as files write numbers.
/// </summary>
public sealed class Answers(IEnumerable<BodyField> fields, IReadOnlyDictionary<string, string> given, CultureInfo language)
{
    private readonly Dictionary<string, BodyField> fields = fields.GroupBy(field => field.Name).ToDictionary(group => group.Key, group => group.First());

    /// <summary>The answer to a field as it was typed.</summary>
    public string Of(BodyField field) => given.TryGetValue(field.Name, out var answer) ? answer : DefaultOf(fields.GetValueOrDefault(field.Name, field), language);

    /// <summary>The default of a field as one would type it.</summary>
    public static string DefaultOf(BodyField field, CultureInfo language) =>
        field.Type == FieldType.Number ? TypedNumber.Write(field.Default, language) : field.Default;

    /// <summary>The number a text is in the user's language; null when it is none.</summary>
    public decimal? Number(string text) => TypedNumber.Read(text, language);

    /// <summary>Why a text is no number, in words for the user.</summary>
    public string NoNumber(string text) => text.Contains(',', StringComparison.Ordinal) || text.Contains('.', StringComparison.Ordinal)
        ? $"“{text}” is not a number here. Write a fraction like {2.4m.ToString("0.00", language)}."
        : $"“{text}” is not a number.";

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
                : throw new FormulaException($"{field.Label}: {NoNumber(answer)}"),
            FieldType.Date when answer.Length == 0 => throw new FormulaException($"{field.Label}: a date is missing."),
            FieldType.Date => Date(answer) is { } date
                ? new FormulaValue.Date(date)
                : throw new FormulaException($"{field.Label}: “{answer}” is not a date such as 2026-03-02."),
            FieldType.Checkbox => new FormulaValue.Truth(answer == "true"),
            _ => new FormulaValue.Text(answer) { AsNumber = Number(answer) },
        };
    }

    /// <summary>The date a date field was answered with.</summary>
    public LocalDate DateOf(string name) => Value(name) is FormulaValue.Date date ? date.Value : throw new FormulaException($"“{name}” is no date field.");

    internal static LocalDate? Date(string text) => LocalDatePattern.Iso.Parse(text) is { Success: true } parsed ? parsed.Value : null;
}
