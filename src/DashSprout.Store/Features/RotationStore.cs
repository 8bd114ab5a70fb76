using Dapper;
using DashSprout.Store.Data;

namespace DashSprout.Store.Features;

/// <summary>How often each part that takes turns has gone in, by its name.</summary>
public sealed class RotationStore(Database database)
{
    /// <summary>How often a part has gone in; 0 for one that never has.</summary>
    public int Taken(string part)
    {
        using var connection = database.Open();
        return connection.QuerySingleOrDefault<int>("SELECT taken FROM turn WHERE part = @part", new { part });
    }

    /// <summary>Counts that parts have gone in, each as often as it is named.</summary>
    public void Take(IReadOnlyList<string> parts) =>
        database.InTransaction(connection =>
            connection.Execute(
                "INSERT INTO turn (part, taken) VALUES (@part, 1) ON CONFLICT (part) DO UPDATE SET taken = taken + 1",
                parts.Select(part => new { part })
            )
        );
}
