using System.Globalization;
using DashSprout.Core.Bodies;
using NodaTime;

namespace DashSprout.Core.Tests.Bodies;

/// <summary>Formulas against System.Decimal worked by hand.</summary>
public sealed class FormulaTests
{
    [Theory]
    [InlineData("1 + 2 * 3", "7")]
    [InlineData("(1 + 2) * 3", "9")]
    [InlineData("0.1 + 0.2", "0.3")]
    [InlineData("10 - 2 - 3", "5")]
    [InlineData("7 / 2", "3.5")]
    [InlineData("7 % 4", "3")]
    [InlineData("-2 * -3", "6")]
    [InlineData("nights * length * rate", "90.00")]
    [InlineData("round(2.345, 2)", "2.35")]
    [InlineData("round(-2.5)", "-3")]
    [InlineData("floor(2.9) + ceiling(2.1) + abs(-1)", "6")]
    [InlineData("min(3, 1, 2) + max(3, 1, 2)", "4")]
    [InlineData("if(nights > 2, 10, 20)", "10")]
    [InlineData("if(quay = \"A\", 1, 2)", "1")]
    [InlineData("if(insured and not (nights < 3) or false, 1, 0)", "1")]
    [InlineData("if(quay <> 'B', 1, 0)", "1")]
    [InlineData("days(arrival, \"2026-04-10\")", "7")]
    [InlineData("if(arrival >= \"2026-04-03\", 1, 0)", "1")]
    [InlineData("insured + 1", "2")]
    public void Numbers(string formula, string result) =>
        Assert.Equal(
            decimal.Parse(result, CultureInfo.InvariantCulture),
            Assert.IsType<FormulaValue.Number>(Formula.Parse("", formula).Evaluate(new FormulaNames(Value))).Value
        );

    [Theory]
    [InlineData("1 +", "position 4")]
    [InlineData("(1", "position 3")]
    [InlineData("1 2", "position 3")]
    [InlineData("a ? b", "position 3")]
    [InlineData("tax(1)", "there is no function “tax”")]
    [InlineData("round()", "takes 1 to 2 values")]
    [InlineData("'a", "closing quotation mark")]
    [InlineData("1.2.3", "position 1: this is not a number")]
    [InlineData("", "position 1")]
    public void What_does_not_parse_says_where(string formula, string why) =>
        Assert.Contains(
            why,
            Assert.Throws<InvalidInputException>(() => Formula.Parse("", formula)).Message,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData("1 / (nights - 3)", "divide by zero")]
    [InlineData("quay * 2", "“A” is not a number")]
    [InlineData("arrival * 2", "A date stands where a number is needed")]
    [InlineData("79228162514264337593543950335 * 2", "too large")]
    [InlineData("round(1, 99)", "0 to 28 places")]
    public void What_cannot_be_worked_out_says_why(string formula, string why) =>
        Assert.Contains(
            why,
            Assert.Throws<FormulaException>(() => Formula.Parse("", formula).Evaluate(new FormulaNames(Value))).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void Nesting_has_a_limit() =>
        Assert.Throws<InvalidInputException>(() =>
            Formula.Parse("", new string('(', 500) + "1" + new string(')', 500))
        );

    private static FormulaValue Value(string name) =>
        name switch
        {
            "nights" => new FormulaValue.Number(3),
            "length" => new FormulaValue.Number(12.5m),
            "rate" => new FormulaValue.Number(2.40m),
            "quay" => new FormulaValue.Text("A"),
            "insured" => new FormulaValue.Truth(true),
            "arrival" => new FormulaValue.Date(new LocalDate(2026, 4, 3)),
            _ => throw new FormulaException($"There is no field “{name}”."),
        };
}
