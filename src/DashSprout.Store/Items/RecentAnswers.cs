using Dapper;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Store.Data;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Items;

/// <summary>Answers given last in slips, by the field's name, to be offered again.</summary>
public sealed class RecentAnswers(Database database)
{
    /// <summary>The most that are kept for one field.</summary>
    public const int MostForOne = 8;

    private const int LongestAnswer = 200;

    /// <summary>The answers to some fields, the latest first.</summary>
    public ILookup<string, string> Of(IEnumerable<string> fields)
    {
        using var connection = database.Open();
        return connection
            .Query<(string Field, string Answer)>(
                "SELECT field, answer FROM recent_answer WHERE field IN @fields ORDER BY id DESC",
                new { fields }
            )
            .ToLookup(row => row.Field, row => row.Answer);
    }

    /// <summary>Keeps answers; the eldest of a field give way. Long texts are none to be offered.</summary>
    public void Add(IEnumerable<(string Field, string Answer)> answers) =>
        database.InTransaction(connection =>
        {
            var kept = 0;
            foreach (var (field, answer) in answers.Where(one => one.Answer.Trim().Length is > 0 and <= LongestAnswer))
            {
                connection.Execute(
                    "DELETE FROM recent_answer WHERE field = @field AND answer = @answer",
                    new { field, answer }
                );
                kept += connection.Execute(
                    "INSERT INTO recent_answer (field, answer) VALUES (@field, @answer)",
                    new { field, answer }
                );
                connection.Execute(
                    "DELETE FROM recent_answer WHERE field = @field AND id NOT IN (SELECT id FROM "
                        + "recent_answer WHERE field = @field ORDER BY id DESC LIMIT @MostForOne)",
                    new { field, MostForOne }
                );
            }
            return kept;
        });

    /// <summary>Forgets what was answered to the fields of a snippet.</summary>
    internal static void Forget(SqliteConnection connection, Snippet snippet)
    {
        connection.Execute("PRAGMA secure_delete = ON");
        connection.Execute(
            "DELETE FROM recent_answer WHERE field = @Name",
            snippet.Bodies.OfType<Body.Html>().SelectMany(body => BodyFields.Of(body.Tree, _ => null))
        );
    }

    /// <summary>Forgets all of them.</summary>
    public void Forget()
    {
        using var connection = database.Open();
        connection.Execute("DELETE FROM recent_answer");
    }
}
