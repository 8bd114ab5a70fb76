using System.Text.Json.Nodes;
using Dapper;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Data;

/// <summary>
/// Pictures come sealed, since nobody knows yet what will show them; one that a snippet shows which is not private lies
/// open from then on, and one that only private snippets show is sealed again.
/// </summary>
internal static class PictureSeals
{
    /// <summary>Lets the seals follow a change whose rows are written already.</summary>
    public static void Follow(SqliteConnection connection, Vault vault, Change change)
    {
        var changed = change
            .Items.Where(item => !HasSamePictures(item))
            .SelectMany(item => item.Below.Append(item.After).Append(item.Before))
            .OfType<SnippetItem>()
            .SelectMany(item => item.Snippet.Bodies)
            .SelectMany(PictureData.In)
            .ToHashSet();
        // What the change itself shows openly need not be looked for, however many came at once.
        var open = change
            .Items.SelectMany(item => item.Below.Append(item.After))
            .OfType<SnippetItem>()
            .Where(item => !item.Snippet.Private)
            .SelectMany(item => item.Snippet.Bodies)
            .SelectMany(PictureData.In)
            .ToHashSet();
        foreach (var id in changed)
            Set(connection, vault, id, sealing: !open.Contains(id) && !IsShownOpenly(connection, id));
    }

    /// <summary>Seals the pictures of a file from before there was sealing that only private snippets show.</summary>
    public static void SealAll(SqliteConnection connection, Vault vault)
    {
        foreach (var id in connection.Query<string>("SELECT id FROM media WHERE NOT sealed").ToList())
            if (!IsShownOpenly(connection, id))
                Set(connection, vault, id, sealing: true);
    }

    /// <summary>
    /// Lets go of pictures that nothing shows any more, in no earlier version, change or bin either, some days of use
    /// after they came.
    /// </summary>
    public static void Tidy(SqliteConnection connection, Vault vault)
    {
        var old = connection
            .Query<string>(
                "SELECT id FROM media WHERE (SELECT count(*) FROM day_of_use WHERE day > substr(added_at, 1, 10)) > 1"
            )
            .ToHashSet();
        if (old.Count == 0)
            return;
        try
        {
            foreach (var document in Documents(connection))
                old.ExceptWith(PictureData.Named(vault.Open(document)));
        }
        catch (InvalidInputException)
        {
            // Where the key is not here nobody knows what is shown: everything stays.
            return;
        }
        connection.Execute("PRAGMA secure_delete = ON");
        connection.Execute("DELETE FROM media WHERE id = @id", old.Select(id => new { id }));
    }

    private static void Set(SqliteConnection connection, Vault vault, string id, bool sealing)
    {
        var row = connection.QuerySingleOrDefault<(byte[] Bytes, bool Sealed)?>(
            "SELECT bytes, sealed FROM media WHERE id = @id",
            new { id }
        );
        if (row is not { } kept || kept.Sealed == sealing)
            return;
        if ((sealing ? vault.SealWhole(kept.Bytes) : vault.OpenWhole(kept.Bytes)) is not { } bytes)
            return;
        connection.Execute("PRAGMA secure_delete = ON");
        connection.Execute(
            "UPDATE media SET bytes = @bytes, sealed = @sealing WHERE id = @id",
            new
            {
                id,
                bytes,
                sealing,
            }
        );
    }

    private static bool HasSamePictures(ItemChange item) =>
        item.Below.Count == 0
        && item is { Before: SnippetItem before, After: SnippetItem after }
        && before.Snippet.Private == after.Snippet.Private
        && before.Snippet.Body == after.Snippet.Body
        && before.Snippet.Twin == after.Snippet.Twin;

    /// <summary>What is sealed holds no readable reference, so only what is not private is found.</summary>
    private static bool IsShownOpenly(SqliteConnection connection, string id) =>
        connection.ExecuteScalar<bool>(
            "SELECT EXISTS (SELECT 1 FROM item WHERE kind = 'snippet' AND instr(document, @name) > 0)",
            new { name = $"media:{id}" }
        );

    private static IEnumerable<string> Documents(SqliteConnection connection)
    {
        const string Looked = "WHERE instr(document, 'media:') > 0 OR instr(document, '\"sealed\":\"') > 0";
        foreach (
            var document in connection.Query<string>(
                $"SELECT document FROM item {Looked} UNION ALL SELECT document FROM snippet_version {Looked}"
            )
        )
            yield return document;
        foreach (var items in connection.Query<string>("SELECT items FROM change"))
        foreach (var entry in JsonNode.Parse(items)!.AsArray())
        foreach (var state in (string[])["Before", "After"])
            if ((string?)entry![state]?["Document"] is { } document)
                yield return document;
    }
}
