using System.Collections.Concurrent;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Safety;
using DashSprout.Exchange.Files;
using DashSprout.Server.Data;
using DashSprout.Server.Hosting;
using DashSprout.Server.Libraries;
using DashSprout.Server.Safety;
using DashSprout.Store.Data;
using DashSprout.Store.Items;

namespace DashSprout.Server.Exchange;

/// <summary>
/// Where files lie that are looked at before they are brought in. They are kept in memory, the last few of them.
/// </summary>
internal sealed class ImportDesk(
    LibraryService libraryService,
    SafetyBoard board,
    WordLists lists,
    MediaStore media,
    BackupStore backups,
    TimeProvider clock,
    ILogger<ImportDesk> log
) : IHeldData
{
    private const int Most = 3,
        MostLines = 300,
        MostNamed = 20,
        MisfireWords = 5;

    private readonly ConcurrentDictionary<string, Import> imports = new();
    private readonly Lock bringing = new();

    /// <summary>Takes a file and begins to look at it.</summary>
    public Import Open(
        string name,
        ImportOptions options,
        Func<ImportOptions, CancellationToken, Task<ImportContents>> read
    )
    {
        var import = new Import(Guid.NewGuid().ToString("N"), name, clock.GetTimestamp(), read) { Options = options };
        foreach (var old in imports.Values.OrderByDescending(one => one.Opened).Skip(Most - 1))
            Close(old.Id);
        imports[import.Id] = import;
        Look(import, options);
        return import;
    }

    public Import Get(string id) =>
        imports.TryGetValue(id, out var import)
            ? import
            : throw new ConflictException("This file is not here any more. Choose it again.");

    /// <summary>Looks at a file anew, read or brought in otherwise.</summary>
    public void Look(Import import, ImportOptions options)
    {
        import.Work?.Cancel();
        var cancelling = new CancellationTokenSource();
        (import.Work, import.State, import.Progress, import.Problem) = (cancelling, ImportState.Working, 0, null);
        import.Options = options;
        _ = Task.Run(() => Work(import, options, cancelling));
    }

    public void Close(string id)
    {
        if (imports.TryRemove(id, out var import))
            import.Work?.Cancel();
    }

    public void Open() { }

    /// <summary>What is looked at is planned anew when it is brought in, on what holds then.</summary>
    public void Replace(Action replace)
    {
        lock (bringing)
            replace();
    }

    /// <summary>Brings a file in, as one change.</summary>
    public Imported Bring(Import import)
    {
        if (import is not { State: ImportState.Ready or ImportState.Stopped, Contents: { } contents })
            throw new ConflictException("The file is still being looked at. Wait until it is ready.");
        // Tried first, so that a file that is refused leaves no backup behind.
        libraryService.Try((now, id) => ImportPlan.Of(now, id, contents).Change);
        backups.Make(BackupReason.BeforeImport, clock.GetUtcNow());
        ImportPlan? planned = null;
        lock (bringing)
        {
            media.Add(contents.Pictures);
            libraryService.Do(
                (now, id) =>
                {
                    planned = ImportPlan.Of(now, id, contents);
                    return planned.Change;
                },
                fromFile: true
            );
            if (contents is ImportContents.Given own)
                own.Done(planned!.Change);
        }
        Close(import.Id);
        var snippets = planned!
            .Change.Items.SelectMany(item => item.Below.Append(item.After))
            .OfType<SnippetItem>()
            .ToList();
        return new Imported(
            contents is ImportContents.Whole whole ? whole.Libraries.Count : 0,
            snippets.Count,
            [.. planned.Notes.Concat(Lost(snippets)).Take(MostNamed)]
        );
    }

    private async Task Work(Import import, ImportOptions options, CancellationTokenSource cancelling)
    {
        var cancellation = cancelling.Token;
        void Tell(double progress, Action? more = null)
        {
            cancellation.ThrowIfCancellationRequested();
            import.Progress = progress;
            more?.Invoke();
        }
        try
        {
            Tell(0.02);
            var contents = await import.Read(options, cancellation);
            Tell(0.3, () =>
                (import.Contents, import.Options, import.Table) = (contents, contents.Options, contents.Table)
            );
            var snapshot = libraryService.Snapshot;
            var planned = ImportPlan.Of(snapshot.Tree, libraryService.NextId, contents);
            Tell(0.4);
            var preview = Preview(snapshot, planned, new ProgressTold(part => Tell(0.4 + part * 0.6)), cancellation);
            Tell(1, () => (import.Preview, import.State) = (preview, ImportState.Ready));
        }
        catch (OperationCanceledException)
        {
            // Somebody stopped it, or asked for something else.
        }
        catch (Exception exception)
            when (exception is InvalidInputException or ConflictException or MissingItemException)
        {
            if (!cancellation.IsCancellationRequested)
                (import.Problem, import.State) = (exception.Message, ImportState.Failed);
        }
        catch (Exception exception)
        {
            log.LogError("Looking at a file failed: {Kind}", exception.GetType().Name);
            if (!cancellation.IsCancellationRequested)
                (import.Problem, import.State) = (FileProblem.Of(import.Name, exception), ImportState.Failed);
        }
    }

    private ImportPreview Preview(
        LibrarySnapshot snapshot,
        ImportPlan planned,
        IProgress<double> progress,
        CancellationToken cancellation
    )
    {
        var touched = planned
            .Change.Items.SelectMany(item => item.Below.Append(item.After))
            .OfType<SnippetItem>()
            .ToList();
        var next = planned.Change.Items.Count == 0 ? snapshot : snapshot.With(planned.Change);
        var ids = touched.Select(item => item.Id).ToHashSet();
        var forecasts = Forecast
            .Of(
                Core.Engine.TriggerIndex.Of(touched.Select(item => next.Placed(item.Id))),
                lists.Current,
                null,
                cancellation
            )
            .Where(forecast => forecast.Grade != MisfireGrade.Quiet)
            .OrderByDescending(forecast => forecast.Per10kWords)
            .ToList();
        progress.Report(0.3);
        var overlaps = board
            .Look()
            .Result.Overlaps.Follow(
                next.Index,
                new ProgressTold(part => progress.Report(0.3 + part * 0.7)),
                cancellation
            )
            .All.Where(overlap =>
                ids.Contains(overlap.Loser.Placed.Id)
                || (overlap.Winner is { } winner && ids.Contains(winner.Placed.Id))
            )
            .ToList();
        var gone = planned
            .Change.Items.Where(item => item.After is null)
            .SelectMany(item => snapshot.Tree.Within(item.Before!))
            .Count(item => item is SnippetItem);
        int Count(string fate) => planned.Lines.Count(line => line.Fate == fate);
        return new ImportPreview(
            Count("add"),
            Count("change"),
            Count("same") + planned.Same,
            Count("leave"),
            gone,
            Count("wrong"),
            [.. planned.Lines.Take(MostLines)],
            overlaps.Count,
            [.. overlaps.Take(MostNamed).Select(SafetyEndpoints.Answer)],
            [.. forecasts.Take(MostNamed).Select(forecast => SafetyEndpoints.Answer(forecast, MisfireWords))],
            [.. planned.Notes.Take(MostNamed)]
        );
    }

    private IEnumerable<string> Lost(IEnumerable<SnippetItem> snippets) =>
        snippets.SelectMany(item =>
            item.Snippet.Bodies.SelectMany(PictureData.In)
                .Distinct()
                .Where(id => media.Get(id) is null)
                .Select(_ => $"“{item.Name}” shows a picture that is not in the file.")
        );
}
