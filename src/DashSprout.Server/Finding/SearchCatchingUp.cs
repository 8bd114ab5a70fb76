using System.Threading.Channels;
using DashSprout.Server.Libraries;
using DashSprout.Store;

namespace DashSprout.Server.Finding;

/// <summary>
/// Lets the search follow, in the background, what came in at once: the finder finds it by its content a little later.
/// </summary>
internal sealed class SearchCatchingUp(
    Catalog catalog,
    SnippetSearch search,
    DataFolder folder,
    ILogger<SearchCatchingUp> log
) : BackgroundService
{
    private readonly Channel<bool> wanted = Channel.CreateBounded<bool>(
        new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite }
    );

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        catalog.CameIn += () => wanted.Writer.TryWrite(true);
        wanted.Writer.TryWrite(true);
        try
        {
            await foreach (var _ in wanted.Reader.ReadAllAsync(stoppingToken))
                await CatchUp(stoppingToken);
        }
        catch (OperationCanceledException)
        {
            // The program ends; the rest follows at the next start.
        }
    }

    private async Task CatchUp(CancellationToken stoppingToken)
    {
        try
        {
            await Task.Run(() => search.CatchUp(catalog.Catalogue, stoppingToken), stoppingToken);
        }
        catch (Exception exception) when (StorageFault.Words(exception, folder.Path) is not null)
        {
            log.LogError(
                "The finder's search could not follow: {Fault}. It tries again when something comes in, and "
                    + "at the next start",
                exception.Message
            );
        }
    }
}
