using System.Globalization;
using NodaTime;
using static DashSprout.Core.Bodies.FormulaValues;

namespace DashSprout.Core.Bodies;

/// <summary>A part of a formula that is ready to be worked out.</summary>
internal delegate FormulaValue FormulaNode(FormulaNames names);

/// <summary>Recursive descent over the grammar: or, and, not, comparison, sum, product, sign, atom.</summary>
internal sealed class FormulaReader(string field, string source)
{
    private static readonly Dictionary<string, (int Least, int Most, Func<FormulaNode[], FormulaNode> Make)> Functions =
        new(StringComparer.Ordinal)
        {
            ["round"] = (1, 2, args =>
                values => new FormulaValue.Number(
                    decimal.Round(
                        Number(args[0](values)),
                        args.Length > 1 ? Places(Number(args[1](values))) : 0,
                        MidpointRounding.AwayFromZero
                    )
                )
            ),
            ["floor"] = (1, 1, args => values => new FormulaValue.Number(decimal.Floor(Number(args[0](values))))),
            ["ceiling"] = (1, 1, args => values => new FormulaValue.Number(decimal.Ceiling(Number(args[0](values))))),
            ["abs"] = (1, 1, args => values => new FormulaValue.Number(Math.Abs(Number(args[0](values))))),
            ["min"] = (1, 99, args => values => new FormulaValue.Number(args.Min(arg => Number(arg(values))))),
            ["max"] = (1, 99, args => values => new FormulaValue.Number(args.Max(arg => Number(arg(values))))),
            ["if"] = (3, 3, args => values => Truthy(args[0](values)) ? args[1](values) : args[2](values)),
            ["sum"] = (1, 1, args => args[0]),
            ["days"] = (2, 2, args =>
                values => new FormulaValue.Number(Period.DaysBetween(Date(args[0](values)), Date(args[1](values))))
            ),
        };

    private readonly List<string> names = [];

    /// <summary>Every use of a name, in order.</summary>
    private readonly List<string> uses = [];
    private int at;
    private int depth;

    public IReadOnlyList<string> Names => names;

    public FormulaNode Whole()
    {
        var node = Or();
        Space();
        return at == source.Length ? node : throw Wrong($"“{source[at]}” was not expected here");
    }

    private static int Places(decimal places) =>
        places is >= 0 and <= 28 && places == decimal.Truncate(places)
            ? (int)places
            : throw new FormulaException("Rounding takes 0 to 28 places.");

    private InvalidInputException Wrong(string why) => new(field, $"The formula is wrong at position {at + 1}: {why}.");

    private void Space()
    {
        while (at < source.Length && char.IsWhiteSpace(source[at]))
            at++;
    }

    private bool Sign(string sign)
    {
        Space();
        if (string.CompareOrdinal(source, at, sign, 0, sign.Length) != 0)
            return false;
        at += sign.Length;
        return true;
    }

    private bool Word(string word)
    {
        Space();
        var end = at + word.Length;
        if (string.CompareOrdinal(source, at, word, 0, word.Length) != 0)
            return false;
        if (end < source.Length && (char.IsLetterOrDigit(source[end]) || source[end] == '_'))
            return false;
        at = end;
        return true;
    }

    private FormulaNode Or()
    {
        if (++depth > 60)
            throw Wrong("it nests too deeply");
        var left = And();
        while (Word("or"))
        {
            var (a, b) = (left, And());
            left = values => new FormulaValue.Truth(Truthy(a(values)) || Truthy(b(values)));
        }
        depth--;
        return left;
    }

    private FormulaNode And()
    {
        var left = Not();
        while (Word("and"))
        {
            var (a, b) = (left, Not());
            left = values => new FormulaValue.Truth(Truthy(a(values)) && Truthy(b(values)));
        }
        return left;
    }

    private FormulaNode Not()
    {
        if (!Word("not"))
            return Comparison();
        if (++depth > 60)
            throw Wrong("it nests too deeply");
        var inner = Not();
        depth--;
        return values => new FormulaValue.Truth(!Truthy(inner(values)));
    }

    private FormulaNode Comparison()
    {
        var left = Sum();
        foreach (var sign in (string[])["<=", ">=", "<>", "!=", "==", "=", "<", ">"])
        {
            if (!Sign(sign))
                continue;
            var right = Sum();
            return sign switch
            {
                "=" or "==" => values => new FormulaValue.Truth(Same(left(values), right(values))),
                "<>" or "!=" => values => new FormulaValue.Truth(!Same(left(values), right(values))),
                "<" => values => new FormulaValue.Truth(Compare(left(values), right(values)) < 0),
                ">" => values => new FormulaValue.Truth(Compare(left(values), right(values)) > 0),
                "<=" => values => new FormulaValue.Truth(Compare(left(values), right(values)) <= 0),
                _ => values => new FormulaValue.Truth(Compare(left(values), right(values)) >= 0),
            };
        }
        return left;
    }

    private FormulaNode Sum()
    {
        var left = Product();
        while (true)
        {
            var plus = Sign("+");
            if (!plus && !Sign("-") && !Sign("−"))
                return left;
            var (a, b) = (left, Product());
            left = plus
                ? values => new FormulaValue.Number(Number(a(values)) + Number(b(values)))
                : values => new FormulaValue.Number(Number(a(values)) - Number(b(values)));
        }
    }

    private FormulaNode Product()
    {
        var left = Signed();
        while (true)
        {
            var sign =
                Sign("*") || Sign("×") ? '*'
                : Sign("/") || Sign("÷") ? '/'
                : Sign("%") ? '%'
                : ' ';
            if (sign == ' ')
                return left;
            var (a, b) = (left, Signed());
            left = values =>
            {
                var (x, y) = (Number(a(values)), Number(b(values)));
                if (sign == '*')
                    return new FormulaValue.Number(x * y);
                if (y == 0)
                    throw new FormulaException("This would divide by zero.");
                return new FormulaValue.Number(sign == '/' ? x / y : x % y);
            };
        }
    }

    private FormulaNode Signed()
    {
        if (!Sign("-") && !Sign("−"))
            return Atom();
        if (++depth > 60)
            throw Wrong("it nests too deeply");
        var inner = Signed();
        depth--;
        return values => new FormulaValue.Number(-Number(inner(values)));
    }

    private FormulaNode Atom()
    {
        Space();
        if (at == source.Length)
            throw Wrong("something is missing at the end");
        if (Sign("("))
        {
            var inner = Or();
            return Sign(")") ? inner : throw Wrong("a closing parenthesis is missing");
        }
        if (source[at] is '"' or '\'')
            return Quoted(source[at]);
        if (char.IsAsciiDigit(source[at]) || source[at] == '.')
            return Literal();
        return char.IsLetter(source[at]) ? Named() : throw Wrong($"“{source[at]}” was not expected here");
    }

    private FormulaNode Quoted(char mark)
    {
        var end = source.IndexOf(mark, at + 1);
        if (end < 0)
            throw Wrong("the closing quotation mark is missing");
        var text = new FormulaValue.Text(source[(at + 1)..end]);
        at = end + 1;
        return _ => text;
    }

    private FormulaNode Literal()
    {
        var start = at;
        while (at < source.Length && (char.IsAsciiDigit(source[at]) || source[at] == '.'))
            at++;
        if (
            !decimal.TryParse(
                source.AsSpan(start, at - start),
                NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out var number
            )
        )
        {
            at = start;
            throw Wrong("this is not a number");
        }
        var value = new FormulaValue.Number(number);
        return _ => value;
    }

    private FormulaNode Named()
    {
        var start = at;
        while (at < source.Length && (char.IsLetterOrDigit(source[at]) || source[at] == '_'))
            at++;
        var name = source[start..at];
        if (name is "true" or "false")
        {
            var truth = new FormulaValue.Truth(name == "true");
            return _ => truth;
        }
        if (!Sign("("))
        {
            if (!names.Contains(name))
                names.Add(name);
            uses.Add(name);
            return values => values.Value(name);
        }
        if (!Functions.TryGetValue(name, out var function))
        {
            at = start;
            throw Wrong($"there is no function “{name}”. Use one of: {string.Join(", ", Functions.Keys)}");
        }
        var arguments = new List<FormulaNode>();
        var first = uses.Count;
        if (!Sign(")"))
        {
            do arguments.Add(Or());
            while (Sign(","));
            if (!Sign(")"))
                throw Wrong("a closing parenthesis is missing");
        }
        if (name == "sum" && arguments.Count == 1)
        {
            // Worked out in each row in which one of the names is asked.
            IReadOnlyList<string> inside = [.. uses.Skip(first)];
            return values => new FormulaValue.Number(values.InRows(inside).Sum(row => Number(arguments[0](row))));
        }
        if (arguments.Count >= function.Least && arguments.Count <= function.Most)
            return function.Make([.. arguments]);
        at = start;
        throw Wrong(
            $"“{name}” takes "
                + $"{function.Least}{(function.Most == function.Least ? "" : function.Most == 99 ? " or more" : $" to {function.Most}")} values"
        );
    }
}
