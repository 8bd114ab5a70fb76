using DashSprout.Core.Text;
using NodaTime;

namespace DashSprout.Core.Bodies;

/// <summary>A value in a formula: a number, a text, a date or a truth value.</summary>
public abstract record FormulaValue
{
    private FormulaValue() { }

    /// <summary>An exact decimal number.</summary>
    public sealed record Number(decimal Value) : FormulaValue;

    /// <summary>A text.</summary>
    public sealed record Text(string Value) : FormulaValue
    {
        /// <summary>The number that the text is where it was typed; null when it is none.</summary>
        public decimal? AsNumber { get; init; } = TypedNumber.ReadPlain(Value);
    }

    /// <summary>A date.</summary>
    public sealed record Date(LocalDate Value) : FormulaValue;

    /// <summary>Yes or no.</summary>
    public sealed record Truth(bool Value) : FormulaValue;
}
