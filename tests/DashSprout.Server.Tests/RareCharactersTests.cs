using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;
using DashSprout.Server.Keyboard;
using DashSprout.Server.Libraries;
using DashSprout.Store;
using Microsoft.Extensions.Logging.Abstractions;
using Microsoft.Extensions.Time.Testing;

namespace DashSprout.Server.Tests;

/// <summary>Which characters the keyboard link lends spare keys to follows the snippets, behind.</summary>
public sealed class RareCharactersTests : IDisposable
{
    private readonly DirectoryInfo folder = Directory.CreateTempSubdirectory("dash-sprout-");
    private readonly FakeTimeProvider clock = new();

    public void Dispose() => folder.Delete(recursive: true);

    [Fact]
    public async Task They_are_counted_when_snippets_change_and_told_only_when_they_are_others()
    {
        using var data = DataFolder.Open(folder.FullName, "a test", clock.GetUtcNow(), DataKeys.In);
        var catalog = new Catalog(new ItemStore(data.Database), new ChangeLog(data.Database), clock);
        catalog.Open();
        catalog.Do((now, id) => Commands.AddLibrary(now, id, "Berths"));
        var characters = new RareCharacters(catalog);
        var (told, added) = (0, 0);
        characters.Changed += () => Interlocked.Increment(ref told);
        using var stopping = new CancellationTokenSource();
        var work = Assert.Single(characters.Works);
        var running = work.Run(clock, NullLogger.Instance, "/data", stopping.Token);

        await Follows([]);
        Add(new Body.Plain("Gate → quay"));
        Add(new Body.Html("<p>caf&eacute; → <b>pier</b></p>"));
        await Follows(['→', 'é']);
        Add(new Body.Plain("nothing but letters"));
        await Follows(['→', 'é']);
        Assert.Equal(1, told);

        await stopping.CancelAsync();
        await running;

        void Add(Body body) =>
            catalog.Do(
                (now, id) =>
                    Commands.AddSnippet(
                        now,
                        id,
                        1,
                        new Snippet(
                            $"Snippet {++added}",
                            true,
                            "",
                            false,
                            DeliveryWay.Automatic,
                            false,
                            body,
                            EquatableList<Trigger>.Empty
                        )
                    )
            );

        async Task Follows(int[] wanted)
        {
            var before = work.Report.LastAt;
            await Patience.Until(() =>
            {
                clock.Advance(TimeSpan.FromSeconds(1));
                return work.Report is { State: Behind.WorkState.Waiting, LastAt: { } at }
                    && at != before
                    && characters.Now.SequenceEqual(wanted);
            });
        }
    }
}
