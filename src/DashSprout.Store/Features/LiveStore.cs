using Dapper;
using DashSprout.Store.Data;

namespace DashSprout.Store.Features;

/// <summary>The sources outside that the user has allowed to be read.</summary>
public sealed class LiveStore(Database database)
{
    /// <summary>Every source that is allowed.</summary>
    public IReadOnlySet<string> Allowed()
    {
        using var connection = database.Open();
        return connection.Query<string>("SELECT source FROM live_source ORDER BY source").ToHashSet();
    }

    /// <summary>Allows a source, or no longer.</summary>
    public void Allow(string source, bool allowed)
    {
        using var connection = database.Open();
        connection.Execute(
            allowed
                ? "INSERT OR IGNORE INTO live_source (source) VALUES (@source)"
                : "DELETE FROM live_source WHERE source = @source",
            new { source }
        );
    }
}
