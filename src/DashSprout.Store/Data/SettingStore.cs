using System.Text.Json;
using Dapper;

namespace DashSprout.Store.Data;

/// <summary>Settings. Those that belong together are one value, so that they are kept together or not at all.</summary>
public sealed class SettingStore(Database database)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
    };

    /// <summary>A short setting; null when it was never set.</summary>
    public string? Get(string name)
    {
        using var connection = database.Open();
        return connection.QuerySingleOrDefault<string>("SELECT value FROM setting WHERE name = @name", new { name });
    }

    /// <summary>Keeps a short setting.</summary>
    public void Set(string name, string value)
    {
        using var connection = database.Open();
        connection.Execute(
            "INSERT INTO setting (name, value) VALUES (@name, @value) ON CONFLICT (name) DO UPDATE SET value "
                + "= excluded.value",
            new { name, value }
        );
    }

    /// <summary>Settings that belong together; null when they were never set, or cannot be read any more.</summary>
    public T? Get<T>(string name)
        where T : class
    {
        try
        {
            return Get(name) is { } value ? JsonSerializer.Deserialize<T>(value, Json) : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <summary>Keeps settings that belong together.</summary>
    public void Set<T>(string name, T settings)
        where T : class => Set(name, JsonSerializer.Serialize(settings, Json));
}
