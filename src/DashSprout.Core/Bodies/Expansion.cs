namespace DashSprout.Core.Bodies;

/// <summary>
/// What a body comes to with the snippets that go into it. Each of them is looked at once, however often it goes in, so
/// that snippets which hold each other many times over are known to be too large without being put together.
/// </summary>
internal sealed class Expansion(Func<string, Body?> find, Func<string, string> nameOf)
{
    /// <summary>More than this is only known to be too much.</summary>
    private const long Much = 1_000_000_000;

    private readonly Dictionary<string, Sum> known = [];

    private readonly record struct Sum(long Characters, long References, int Depth, double Seconds, long Presses)
    {
        public static Sum operator +(Sum a, Sum b) =>
            new(
                Math.Min(Much, a.Characters + b.Characters),
                Math.Min(Much, a.References + b.References),
                Math.Max(a.Depth, b.Depth),
                a.Seconds + b.Seconds,
                Math.Min(Much, a.Presses + b.Presses)
            );
    }

    /// <summary>
    /// Refuses a body that contains a snippet that is not there, or itself; that comes to more than
    /// <see cref="BodyLimits"/> allow; or that waits or presses more than <see cref="DeliveryLimits"/> do.
    /// </summary>
    public void Check(string self)
    {
        var sum = Of(self, []);
        var problem =
            sum.Depth > BodyLimits.MostNesting ? BodyLimits.NestedTooDeep([nameOf(self)])
            : sum.References > BodyLimits.MostReferences ? BodyLimits.TooManyReferences
            : sum.References > 0 && sum.Characters > BodyLimits.MostCharacters ? BodyLimits.TooLong
            : DeliveryLimits.Problem(sum.Seconds, sum.Presses);
        if (problem is not null)
            throw new InvalidInputException("body", problem);
    }

    private Sum Of(string target, IReadOnlyList<string> way)
    {
        if (known.TryGetValue(target, out var sum))
            return sum;
        if (way.Contains(target))
            throw new InvalidInputException(
                "body",
                "The snippets would contain each other without end: "
                    + $"{string.Join(" → ", way.SkipWhile(one => one != target).Append(target).Select(nameOf))}. "
                    + "Take one of them out."
            );
        if (way.Count > BodyLimits.MostNesting)
            throw new InvalidInputException("body", BodyLimits.NestedTooDeep(way.Select(nameOf)));
        var body = find(target)
            ?? throw new InvalidInputException(
                "body",
                References.Id(target) is null
                    ? $"There is no snippet “{target}” to put in. Choose one that exists."
                    : "A snippet that goes in here is not there any more. Bring it back from the bin, or "
                        + "choose another one."
            );
        if (body is Body.Plain plain)
            return known[target] = new Sum(plain.Text.Length, 0, 0, 0, 0);
        IReadOnlyList<string> inner = [.. way, target];
        foreach (var part in body.Tree.Inlines())
        {
            sum += part switch
            {
                Inline.Text text => new Sum(text.Value.Length, 0, 0, 0, 0),
                Inline.Wait wait => new Sum(1, 0, 0, wait.For.TotalSeconds, 0),
                Inline.KeyRun run => new Sum(1, 0, 0, 0, run.Keys.Count),
                Inline.KeyPress press => new Sum(1, 0, 0, 0, press.Times),
                Inline.Reference reference => Of(reference.Target, inner) is var held
                    ? held with
                    {
                        References = held.References + 1,
                        Depth = held.Depth + 1,
                    }
                    : default,
                _ => new Sum(1, 0, 0, 0, 0),
            };
        }
        return known[target] = sum;
    }
}
