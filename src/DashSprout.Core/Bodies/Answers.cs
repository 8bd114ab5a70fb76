using System.Globalization;
using System.Text.RegularExpressions;
using DashSprout.Core.Text;
using NodaTime;
using NodaTime.Text;

namespace DashSprout.Core.Bodies;

/// <summary>
/// The answers to a slip's fields, with defaults for what was not answered. Numbers are read as the user's language
/// writes them; a default is written as files write numbers, or worked out from the other answers.
/// </summary>
public sealed class Answers
{
    private const int LongestPattern = 200;
    private readonly Dictionary<string, BodyField> fields;
    private readonly IReadOnlyDictionary<string, string> given;
    private readonly CultureInfo language;
    private readonly HashSet<string> working = [];

    /// <summary>Answers to some fields.</summary>
    public Answers(IEnumerable<BodyField> fields, IReadOnlyDictionary<string, string> given, CultureInfo language)
    {
        this.fields = fields.GroupBy(field => field.Name).ToDictionary(group => group.Key, group => group.First());
        (this.given, this.language) = (given, language);
    }

    /// <summary>The row that is being worked out, from 1; 0 outside of repeated rows.</summary>
    public int Row { get; set; }

    /// <summary>The answer to a field as it was typed; in a repeated row the one given there.</summary>
    public string Of(BodyField field) => Of(field, Row);

    /// <summary>The answer to a field in a row.</summary>
    public string Of(BodyField field, int row) =>
        Given(field, row) ?? DefaultOf(fields.GetValueOrDefault(field.Name, field), row);

    /// <summary>How many rows a repeated row comes to.</summary>
    public int RowsOf(FieldRow row)
    {
        var counted =
            given.TryGetValue(row.Key, out var said)
            && int.TryParse(said, NumberStyles.None, CultureInfo.InvariantCulture, out var count)
                ? count
                : fields
                    .Values.Where(field => field.Row?.Number == row.Number)
                    .Select(field =>
                        Enumerable.Range(1, row.Range.Most).LastOrDefault(at => given.ContainsKey(field.KeyIn(at)))
                    )
                    .DefaultIfEmpty(0)
                    .Max();
        return Math.Clamp(counted, row.Range.Least, row.Range.Most);
    }

    /// <summary>The repeated row that a field is asked in; null for one that is asked once.</summary>
    public FieldRow? RowOf(BodyField field) => fields.GetValueOrDefault(field.Name, field).Row;

    /// <summary>The default of every field, as one would type it, by the key of its answer.</summary>
    public IReadOnlyDictionary<string, string> Defaults()
    {
        var defaults = new Dictionary<string, string>();
        foreach (var field in fields.Values)
            for (var row = 1; row <= (field.Row is { } repeated ? RowsOf(repeated) : 1); row++)
                defaults[field.KeyIn(row)] = DefaultOf(field, row);
        return defaults;
    }

    /// <summary>The names of a formula, with the answers as they are.</summary>
    public FormulaNames Names => new(Value, InRows);

    /// <summary>The date a date field was answered with.</summary>
    public LocalDate DateOf(string name) =>
        Value(name) is FormulaValue.Date date ? date.Value : throw new FormulaException($"“{name}” is no date field.");

    /// <summary>The number a text is in the user's language; null when it is none.</summary>
    public decimal? Number(string text) => TypedNumber.Read(text, language);

    /// <summary>Why a text is no number, in words for the user.</summary>
    public string NoNumber(string text) =>
        text.Contains(',', StringComparison.Ordinal) || text.Contains('.', StringComparison.Ordinal)
            ? $"“{text}” is not a number here. Write a fraction like {2.4m.ToString("0.00", language)}."
            : $"“{text}” is not a number.";

    /// <summary>Checks the pattern of a field; it runs on an engine that never stalls.</summary>
    public static string CheckPattern(string name, string pattern)
    {
        if (pattern.Length > LongestPattern)
            throw new InvalidInputException(
                "body",
                $"The pattern of the field “{name}” has {pattern.Length} characters; {LongestPattern} are allowed."
            );
        try
        {
            _ = Whole(pattern);
            return pattern;
        }
        catch (Exception exception) when (exception is ArgumentException or NotSupportedException)
        {
            throw new InvalidInputException(
                "body",
                $"The pattern of the field “{name}” does not work: {exception.Message.Split('\n')[0]}"
            );
        }
    }

    /// <summary>Whether an answer matches a field's pattern as a whole.</summary>
    public static bool Fits(string pattern, string answer) => Whole(pattern).IsMatch(answer);

    internal static LocalDate? Date(string text) =>
        LocalDatePattern.Iso.Parse(text) is { Success: true } parsed ? parsed.Value : null;

    private static Regex Whole(string pattern) =>
        new($"\\A(?:{pattern})\\z", RegexOptions.NonBacktracking | RegexOptions.CultureInvariant);

    /// <summary>What was answered in a row; the first row takes an answer that names none.</summary>
    private string? Given(BodyField field, int row)
    {
        var repeated = RowOf(field) is not null;
        if (
            repeated
            && row > 0
            && given.TryGetValue($"{field.Name}[{row.ToString(CultureInfo.InvariantCulture)}]", out var inRow)
        )
            return inRow;
        return (!repeated || row <= 1) && given.TryGetValue(field.Name, out var answer) ? answer : null;
    }

    private string DefaultOf(BodyField field, int row)
    {
        if (field.DefaultFormula is not { } formula)
            return field.Type == FieldType.Number ? TypedNumber.Write(field.Default, language) : field.Default;
        if (!working.Add(field.KeyIn(row)))
            throw new FormulaException($"The default of {field.Label} waits for itself.");
        var outer = Row;
        try
        {
            Row = row;
            return formula.Evaluate(Names) switch
            {
                FormulaValue.Number number => TypedNumber.Write(
                    number.Value.ToString("0.############", CultureInfo.InvariantCulture),
                    language
                ),
                FormulaValue.Date date => LocalDatePattern.Iso.Format(date.Value),
                FormulaValue.Truth truth => truth.Value ? "true" : "false",
                FormulaValue.Text text => text.Value,
                _ => "",
            };
        }
        catch (FormulaException)
        {
            // What it is worked out from is not answered yet.
            return field.Default;
        }
        finally
        {
            Row = outer;
            working.Remove(field.KeyIn(row));
        }
    }

    /// <summary>The value of a name in a formula.</summary>
    private FormulaValue Value(string name)
    {
        if (!fields.TryGetValue(name, out var field))
            throw new FormulaException($"There is no field “{name}”.");
        if (field.Row is not null && Row == 0)
            throw new FormulaException($"{field.Label} is asked in each row. Write sum({name}) for all of them.");
        var answer = Of(field);
        return field.Type switch
        {
            FieldType.Number when answer.Trim().Length == 0 => throw new FormulaException(
                $"{field.Label}: a number is missing."
            ),
            FieldType.Number => Number(answer) is { } number
                ? new FormulaValue.Number(number)
                : throw new FormulaException($"{field.Label}: {NoNumber(answer)}"),
            FieldType.Date when answer.Length == 0 => throw new FormulaException($"{field.Label}: a date is missing."),
            FieldType.Date => Date(answer) is { } date
                ? new FormulaValue.Date(date)
                : throw new FormulaException($"{field.Label}: “{answer}” is not a date such as 2026-03-02."),
            FieldType.Checkbox => new FormulaValue.Truth(answer == "true"),
            FieldType.Choice
                when field.Choices.FirstOrDefault(choice => choice.Label == answer) is { Value: { } value } =>
                new FormulaValue.Text(value),
            _ => new FormulaValue.Text(answer) { AsNumber = Number(answer) },
        };
    }

    /// <summary>The names as they are in each row in which one of them is asked.</summary>
    private IEnumerable<FormulaNames> InRows(IReadOnlyList<string> names)
    {
        var row = names.Select(name => fields.GetValueOrDefault(name)?.Row).FirstOrDefault(one => one is not null)
            ?? throw new FormulaException("sum adds up over rows, and none of its names is asked in a row.");
        for (var at = 1; at <= RowsOf(row); at++)
        {
            var here = at;
            yield return new FormulaNames(name =>
            {
                var outer = Row;
                Row = here;
                try
                {
                    return Value(name);
                }
                finally
                {
                    Row = outer;
                }
            });
        }
    }
}
