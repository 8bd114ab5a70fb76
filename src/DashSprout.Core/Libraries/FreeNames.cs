using System.Globalization;

namespace DashSprout.Core.Libraries;

/// <summary>
/// Names side by side, whatever their letter case: what is taken gets a number behind it. Very many of one name cost no
/// more than as many others.
/// </summary>
public sealed class FreeNames(IEnumerable<string> taken)
{
    private readonly HashSet<string> names = new(taken, StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<string, int> last = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>None are taken yet.</summary>
    public FreeNames()
        : this([]) { }

    /// <summary>Whether a name is taken.</summary>
    public bool IsTaken(string name) => names.Contains(name);

    /// <summary>Takes a name: the wanted one, or the same with the first number that is free.</summary>
    /// <param name="between">What stands between the name and its number.</param>
    public string Take(string wanted, string between = " ")
    {
        if (names.Add(wanted))
            return wanted;
        for (var number = last.GetValueOrDefault(wanted, 1) + 1; ; number++)
        {
            var name = string.Create(CultureInfo.InvariantCulture, $"{wanted}{between}{number}");
            if (!names.Add(name))
                continue;
            last[wanted] = number;
            return name;
        }
    }
}
