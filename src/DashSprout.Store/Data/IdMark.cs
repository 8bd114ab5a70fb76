using System.Globalization;
using System.Text;
using Dapper;
using DashSprout.Store.Files;
using Microsoft.Data.Sqlite;

namespace DashSprout.Store.Data;

/// <summary>
/// How far ids have been given, in a file of its own beside the data file: ids, and with them the keys by which things
/// are known on other machines, are never given twice, also when the data file gives way to an older backup or to an
/// empty one. Ids are reserved some at a time, so that few changes wait for it.
/// </summary>
public sealed class IdMark
{
    /// <summary>How many ids are reserved at once; those that are not given before the program ends never are.</summary>
    private const int Ahead = 32;

    /// <summary>
    /// The largest id: ids are given one after another, so that a larger one was written by somebody else.
    /// </summary>
    internal const long MostId = int.MaxValue;

    private readonly string file;
    private readonly Lock gate = new();
    private long next;
    private long reserved;

    /// <summary>The mark of a data folder; what cannot be read counts as no mark.</summary>
    internal IdMark(string folder)
    {
        file = Path.Combine(folder, "next-id");
        if (
            File.Exists(file)
            && long.TryParse(File.ReadAllText(file), NumberStyles.None, CultureInfo.InvariantCulture, out var kept)
            && kept is > 0 and <= MostId
        )
            next = reserved = kept;
    }

    /// <summary>The first id that was never given, as far as this file knows; 0 when it knows nothing.</summary>
    public long Next
    {
        get
        {
            lock (gate)
                return next;
        }
    }

    /// <summary>Notes that ids below the given one are given; to be called before they are used.</summary>
    public void Given(long upTo)
    {
        lock (gate)
        {
            next = Math.Max(next, upTo);
            if (next > reserved)
                Write(next + Ahead);
        }
    }

    /// <summary>Sees to it that no id before the given one is given any more.</summary>
    internal static void BeginAt(SqliteConnection connection, long nextId) =>
        connection.Execute(
            """
            INSERT INTO sqlite_sequence (name, seq) SELECT 'item', 0
              WHERE NOT EXISTS (SELECT 1 FROM sqlite_sequence WHERE name = 'item');
            UPDATE sqlite_sequence SET seq = max(seq, @last) WHERE name = 'item';
            """,
            new { last = nextId - 1 }
        );

    private void Write(long upTo)
    {
        OwnFiles.WriteWhole(file, Encoding.ASCII.GetBytes(upTo.ToString(CultureInfo.InvariantCulture)));
        reserved = upTo;
    }
}
