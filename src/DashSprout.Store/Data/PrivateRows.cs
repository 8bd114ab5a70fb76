using System.Text.Json.Nodes;
using Dapper;
using DashSprout.Documents;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Data;

/// <summary>
/// Seals what is on disk already of snippets that become private, and sees to it that nothing readable of them stays
/// there.
/// </summary>
internal static class PrivateRows
{
    /// <summary>
    /// Seals what there is of one snippet from before: its earlier versions, and its states in the list of changes. Where
    /// it has another name now, the old one may tell of the text, and goes too.
    /// </summary>
    public static void Seal(SqliteConnection connection, Vault vault, long id, string oldName, string name)
    {
        // What is deleted is written over.
        connection.Execute("PRAGMA secure_delete = ON");
        foreach (
            var (version, document) in connection
                .Query<(long, string)>("SELECT version, document FROM snippet_version WHERE item_id = @id", new { id })
                .ToList()
        )
            connection.Execute(
                "UPDATE snippet_version SET document = @document WHERE item_id = @id AND version = @version",
                new
                {
                    id,
                    version,
                    document = Vault.KeptDocument.Sealed(vault, Renamed(document, oldName, name)).ToString(),
                }
            );
        foreach (
            var (change, what, items) in connection
                .Query<(long, string, string)>(
                    "SELECT id, what, items FROM change WHERE items LIKE '%\"Id\":' || @id || ',%'",
                    new { id }
                )
                .ToList()
        )
            connection.Execute(
                "UPDATE change SET what = @what, items = @items WHERE id = @change",
                new
                {
                    change,
                    what = what.Replace($"“{oldName}”", $"“{name}”", StringComparison.Ordinal),
                    items = Sealed(vault, items, id, oldName, name),
                }
            );
        // The index keeps what it was told until it is put together anew.
        connection.Execute("INSERT INTO snippet_text (snippet_text) VALUES ('optimize')");
    }

    /// <summary>
    /// Seals all private snippets of a file from before there was sealing; the search finds their names anew.
    /// </summary>
    public static void SealAll(SqliteConnection connection, Vault vault)
    {
        var open = connection
            .Query<(long Id, string Document)>(
                """
                SELECT id, document FROM item WHERE kind = 'snippet'
                  AND json_valid(document) AND document ->> '$.private' = 1 AND document ->> '$.sealed' IS NULL
                """
            )
            .ToList();
        if (open.Count == 0)
            return;
        using var transaction = connection.BeginTransaction();
        foreach (var (id, document) in open)
        {
            connection.Execute(
                "UPDATE item SET document = @document WHERE id = @id",
                new { id, document = Vault.KeptDocument.Sealed(vault, document).ToString() }
            );
            connection.Execute("DELETE FROM snippet_text WHERE rowid = @id", new { id });
            Seal(connection, vault, id, "", "");
        }
        transaction.Commit();
    }

    private static string Renamed(string document, string oldName, string name)
    {
        if (
            oldName == name
            || JsonNode.Parse(document) is not JsonObject snippet
            || (string?)snippet["name"] != oldName
        )
            return document;
        snippet["name"] = name;
        return snippet.ToJsonString(ItemCodec.Json);
    }

    private static string Sealed(Vault vault, string items, long id, string oldName, string name)
    {
        var entries = JsonNode.Parse(items)!.AsArray();
        foreach (var entry in entries.Where(entry => (long)entry!["Id"]! == id))
        foreach (var state in (string[])["Before", "After"])
            if (entry![state] is JsonObject there && (string?)entry["Kind"] == "snippet")
                there["Document"] = Vault
                    .KeptDocument.Sealed(vault, Renamed((string)there["Document"]!, oldName, name))
                    .ToString();
        return entries.ToJsonString();
    }
}
