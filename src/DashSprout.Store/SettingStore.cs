using Dapper;

namespace DashSprout.Store;

/// <summary>Named settings, each a short text.</summary>
public sealed class SettingStore(Database database)
{
    /// <summary>The value of a setting; null when it was never set.</summary>
    public string? Get(string name)
    {
        using var connection = database.Open();
        return connection.QuerySingleOrDefault<string>("SELECT value FROM setting WHERE name = @name", new { name });
    }

    /// <summary>Keeps a value.</summary>
    public void Set(string name, string value)
    {
        using var connection = database.Open();
        connection.Execute(
            "INSERT INTO setting (name, value) VALUES (@name, @value) ON CONFLICT (name) DO UPDATE SET value = excluded.value",
            new { name, value });
    }
}
