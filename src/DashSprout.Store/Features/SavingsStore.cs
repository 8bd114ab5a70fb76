using System.Globalization;
using Dapper;
using DashSprout.Core.Savings;
using DashSprout.Store.Data;

namespace DashSprout.Store.Features;

/// <summary>Counts of what was saved, by day, and how fast was typed.</summary>
public sealed class SavingsStore(Database database)
{
    /// <summary>Adds counts and a pace to those of their days.</summary>
    public void Add(IReadOnlyCollection<SavingsCount> counts, DateOnly today, TypingPace pace) =>
        database.InTransaction(connection =>
        {
            if (pace.Keys > 0)
                connection.Execute(
                    """
                    INSERT INTO typing_pace (day, keys, milliseconds) VALUES (@day, @Keys, @Milliseconds)
                    ON CONFLICT (day) DO UPDATE SET keys = keys + excluded.keys, milliseconds = milliseconds + excluded.milliseconds
                    """,
                    new
                    {
                        day = Text(today),
                        pace.Keys,
                        pace.Milliseconds,
                    }
                );
            return connection.Execute(
                """
                INSERT INTO saving (day, snippet_id, app, expansions, taken_back, keys, characters, fields)
                VALUES (@day, @SnippetId, @App, @Expansions, @TakenBack, @Keys, @Characters, @Fields)
                ON CONFLICT (day, snippet_id, app) DO UPDATE SET expansions = expansions + excluded.expansions, taken_back = taken_back + excluded.taken_back,
                    keys = keys + excluded.keys, characters = characters + excluded.characters, fields = fields + excluded.fields
                """,
                counts.Select(count => new
                {
                    day = Text(count.Day),
                    count.SnippetId,
                    count.App,
                    count.Expansions,
                    count.TakenBack,
                    count.Keys,
                    count.Characters,
                    count.Fields,
                })
            );
        });

    /// <summary>All counts, the earliest first.</summary>
    public IReadOnlyList<SavingsCount> All()
    {
        using var connection = database.Open();
        return
        [
            .. connection
                .Query<(
                    string Day,
                    long SnippetId,
                    string App,
                    long Expansions,
                    long TakenBack,
                    long Keys,
                    long Characters,
                    long Fields
                )>(
                    "SELECT day, snippet_id, app, expansions, taken_back, keys, characters, fields FROM "
                        + "saving ORDER BY day, snippet_id, app"
                )
                .Select(row => new SavingsCount(
                    DateOnly.ParseExact(row.Day, "yyyy-MM-dd", CultureInfo.InvariantCulture),
                    row.SnippetId,
                    row.App,
                    (int)row.Expansions,
                    (int)row.TakenBack,
                    row.Keys,
                    row.Characters,
                    row.Fields
                )),
        ];
    }

    /// <summary>The pace of all days together.</summary>
    public TypingPace Pace()
    {
        using var connection = database.Open();
        var (keys, milliseconds) = connection.QuerySingle<(long, long)>(
            "SELECT coalesce(sum(keys), 0), coalesce(sum(milliseconds), 0) FROM typing_pace"
        );
        return new TypingPace(keys, milliseconds);
    }

    /// <summary>Deletes all counts, and gives them back for whoever wants them again.</summary>
    public (IReadOnlyList<SavingsCount> Counts, TypingPace Pace) Delete()
    {
        var kept = (All(), Pace());
        using var connection = database.Open();
        connection.Execute("DELETE FROM saving; DELETE FROM typing_pace;");
        return kept;
    }

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
