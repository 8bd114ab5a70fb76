using CsCheck;

namespace DashSprout.Core.Tests;

/// <summary>A table by id against a dictionary.</summary>
public sealed class IdTableTests
{
    [Fact]
    public void It_holds_what_a_dictionary_holds_and_older_ones_stay_as_they_were() =>
        Gen.Select(Gen.Int[0, 1500], Gen.Bool)
            .Array[1, 40]
            .Array[1, 8]
            .Sample(
                batches =>
                {
                    var table = IdTable<string>.Empty;
                    var model = new Dictionary<long, string>();
                    var older = new List<(IdTable<string> Table, Dictionary<long, string> Model)>();
                    foreach (var batch in batches)
                    {
                        older.Add((table, new(model)));
                        var builder = table.ToBuilder();
                        foreach (var (id, put) in batch)
                        {
                            if (put)
                                builder[id] = model[id] = $"{id}.{older.Count}";
                            else
                                builder.Remove(id);
                            if (!put)
                                model.Remove(id);
                        }
                        table = builder.ToTable();
                    }
                    foreach (var (kept, wanted) in older.Append((table, model)))
                    {
                        Assert.Equal(wanted.OrderBy(pair => pair.Key).Select(pair => (pair.Key, pair.Value)), kept);
                        Assert.Equal(wanted.Count, kept.Count);
                        Assert.True(wanted.All(pair => kept.Find(pair.Key) == pair.Value && pair.Key < kept.Above));
                    }
                    Assert.Null(table.Find(-1));
                    Assert.Null(table.Find(long.MaxValue));
                },
                iter: Depth.Of(300)
            );

    [Fact]
    public void Two_of_one_id_are_refused()
    {
        var builder = IdTable<string>.Empty.ToBuilder();
        builder.Add(3, "x");
        Assert.Throws<ArgumentException>(() => builder.Add(3, "y"));
    }
}
