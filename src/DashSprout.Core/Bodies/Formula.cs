namespace DashSprout.Core.Bodies;

/// <summary>
/// A formula over field names: exact decimals, <c>+ - * / %</c>, comparisons, <c>and or not</c>, texts in quotation
/// marks, and the functions <c>round floor ceiling abs min max if days sum</c>. Equal when written alike.
/// </summary>
public sealed class Formula : IEquatable<Formula>
{
    private readonly FormulaNode root;

    private Formula(string source, FormulaNode root, EquatableList<string> names)
    {
        Source = source;
        this.root = root;
        Names = names;
    }

    /// <summary>The formula as written.</summary>
    public string Source { get; }

    /// <summary>The field names it uses, each once.</summary>
    public EquatableList<string> Names { get; }

    /// <summary>Reads a formula; an error names the position, counted from 1.</summary>
    public static Formula Parse(string field, string source)
    {
        if (source.Length > 2000)
            throw new InvalidInputException(field, "The formula is longer than 2000 characters. Split it.");
        var reader = new FormulaReader(field, source);
        var root = reader.Whole();
        return new Formula(source, root, new(reader.Names));
    }

    /// <summary>Works the formula out; throws <see cref="FormulaException"/> when that is not possible.</summary>
    public FormulaValue Evaluate(FormulaNames names)
    {
        try
        {
            return root(names);
        }
        catch (OverflowException)
        {
            throw new FormulaException("The number becomes too large.");
        }
    }

    /// <summary>Works out a condition: a truth value, a number other than 0, or a text that is not empty.</summary>
    public bool Holds(FormulaNames names) => FormulaValues.Truthy(Evaluate(names));

    /// <inheritdoc/>
    public bool Equals(Formula? other) => other is not null && Source == other.Source;

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as Formula);

    /// <inheritdoc/>
    public override int GetHashCode() => Source.GetHashCode(StringComparison.Ordinal);

    /// <inheritdoc/>
    public override string ToString() => Source;
}
