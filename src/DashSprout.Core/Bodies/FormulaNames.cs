namespace DashSprout.Core.Bodies;

/// <summary>What the names in a formula stand for.</summary>
/// <param name="Value">The value of a name; throws <see cref="FormulaException"/> when there is none.</param>
/// <param name="Rows">The names as they are in each row in which some of them are asked; null where there are no
/// rows.</param>
public sealed record FormulaNames(
    Func<string, FormulaValue> Value,
    Func<IReadOnlyList<string>, IEnumerable<FormulaNames>>? Rows = null
)
{
    /// <summary>The names as they are in each row.</summary>
    public IEnumerable<FormulaNames> InRows(IReadOnlyList<string> names) =>
        Rows?.Invoke(names) ?? throw new FormulaException("sum cannot be used within a row.");
}
