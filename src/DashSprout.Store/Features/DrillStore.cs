using System.Globalization;
using Dapper;
using DashSprout.Core.Learning;
using DashSprout.Store.Data;

namespace DashSprout.Store.Features;

/// <summary>How many abbreviations were known on a day, and how many not.</summary>
public sealed record DrillDay(DateOnly Day, int Known, int Unknown);

/// <summary>How well abbreviations are known, and how the drills went.</summary>
public sealed class DrillStore(Database database)
{
    /// <summary>The cards of abbreviations that were asked at least once.</summary>
    public IReadOnlyDictionary<(long SnippetId, string Trigger), DrillCard> Cards()
    {
        using var connection = database.Open();
        return connection
            .Query<(long SnippetId, string Trigger, long Box, string Due, long Known, long Unknown)>(
                "SELECT snippet_id, trigger_text, box, due, known, unknown FROM drill_card"
            )
            .ToDictionary(
                row => (row.SnippetId, row.Trigger),
                row => new DrillCard(
                    row.SnippetId,
                    row.Trigger,
                    (int)Math.Clamp(row.Box, 0, DrillCard.Days.Count - 1),
                    Day(row.Due),
                    (int)row.Known,
                    (int)row.Unknown
                )
            );
    }

    /// <summary>Keeps a card that was answered, and counts the answer for its day.</summary>
    public void Answered(DrillCard card, bool right, DateOnly today) =>
        database.InTransaction(connection =>
        {
            connection.Execute(
                """
                INSERT OR REPLACE INTO drill_card (snippet_id, trigger_text, box, due, known, unknown) VALUES (@SnippetId, @Trigger, @Box, @due, @Right, @Wrong)
                """,
                new
                {
                    card.SnippetId,
                    card.Trigger,
                    card.Box,
                    due = Text(card.Due),
                    card.Right,
                    card.Wrong,
                }
            );
            return connection.Execute(
                """
                INSERT INTO drill_day (day, known, unknown) VALUES (@day, @known, @unknown)
                ON CONFLICT (day) DO UPDATE SET known = known + excluded.known, unknown = unknown + excluded.unknown
                """,
                new
                {
                    day = Text(today),
                    known = right ? 1 : 0,
                    unknown = right ? 0 : 1,
                }
            );
        });

    /// <summary>How the drills of the last days went, the latest first.</summary>
    public IReadOnlyList<DrillDay> Days(int most)
    {
        using var connection = database.Open();
        return
        [
            .. connection
                .Query<(string Day, long Known, long Unknown)>(
                    "SELECT day, known, unknown FROM drill_day ORDER BY day DESC LIMIT @most",
                    new { most }
                )
                .Select(row => new DrillDay(Day(row.Day), (int)row.Known, (int)row.Unknown)),
        ];
    }

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static DateOnly Day(string text) => DateOnly.ParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture);
}
