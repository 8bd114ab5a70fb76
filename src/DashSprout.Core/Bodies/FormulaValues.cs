using NodaTime;
using NodaTime.Text;

namespace DashSprout.Core.Bodies;

/// <summary>What the values of a formula count as; throws <see cref="FormulaException"/> where they do not.</summary>
internal static class FormulaValues
{
    public static bool Truthy(FormulaValue value) =>
        value switch
        {
            FormulaValue.Truth truth => truth.Value,
            FormulaValue.Number number => number.Value != 0,
            FormulaValue.Text text => text.Value.Length > 0,
            _ => true,
        };

    public static decimal Number(FormulaValue value) =>
        value switch
        {
            FormulaValue.Number number => number.Value,
            FormulaValue.Truth truth => truth.Value ? 1 : 0,
            FormulaValue.Text { Value: "" } => throw new FormulaException("A number is missing."),
            FormulaValue.Text text => text.AsNumber ?? throw new FormulaException($"“{text.Value}” is not a number."),
            _ => throw new FormulaException("A date stands where a number is needed."),
        };

    public static LocalDate Date(FormulaValue value) =>
        value switch
        {
            FormulaValue.Date date => date.Value,
            FormulaValue.Text { Value: "" } => throw new FormulaException("A date is missing."),
            FormulaValue.Text text when LocalDatePattern.Iso.Parse(text.Value) is { Success: true } parsed =>
                parsed.Value,
            _ => throw new FormulaException("A date is needed here, such as 2026-03-02."),
        };

    public static int Compare(FormulaValue a, FormulaValue b) =>
        (a, b) switch
        {
            (FormulaValue.Date or FormulaValue.Text, FormulaValue.Date) or (FormulaValue.Date, FormulaValue.Text) =>
                Date(a).CompareTo(Date(b)),
            (FormulaValue.Text x, FormulaValue.Text y) => string.Compare(x.Value, y.Value, StringComparison.Ordinal),
            _ => Number(a).CompareTo(Number(b)),
        };

    public static bool Same(FormulaValue a, FormulaValue b) =>
        (a, b) switch
        {
            (FormulaValue.Text x, FormulaValue.Text y) => x.Value == y.Value,
            (FormulaValue.Truth x, FormulaValue.Truth y) => x.Value == y.Value,
            (FormulaValue.Text { Value: "" }, _) or (_, FormulaValue.Text { Value: "" }) => false,
            _ => Compare(a, b) == 0,
        };
}
