using DashSprout.Core.Safety;
using DashSprout.Server.Libraries;

namespace DashSprout.Server.Safety;

internal static class ReplayAnswers
{
    private const int MostPlaces = 100,
        Around = 36;

    /// <summary>What would go off in a text that was written before, trigger by trigger.</summary>
    public static ReplayAnswer Of(
        ReplayRequest request,
        LibraryService libraryService,
        SafetyBoard board,
        CancellationToken cancellation
    )
    {
        SafetyEndpoints.CheckText(request.Text);
        var text = request.Text.ReplaceLineEndings("\n");
        var places = Replay.Of(libraryService.Snapshot.Index, text, request.App ?? "", cancellation);
        var words = Replay.CountWords(text);
        var forecasts = board
            .Look()
            .Result.Forecasts.ToLookup(
                forecast => (forecast.Trigger.Placed.Id, forecast.Trigger.Trigger.Text),
                forecast => forecast.Per10kWords
            );
        var cut = new TextCutter(text);
        return new ReplayAnswer(
            words,
            places.Count,
            [
                .. places
                    .GroupBy(place => place.Trigger)
                    .OrderByDescending(group => group.Count())
                    .Select(group => new ReplayGroup(
                        TriggerName.Of(group.Key),
                        group.Count(),
                        words == 0 ? 0 : Math.Round(group.Count() * 10_000.0 / words, 2),
                        forecasts[(group.Key.Placed.Id, group.Key.Trigger.Text)]
                            .Select(rate => (double?)Math.Round(rate, 4))
                            .FirstOrDefault(),
                        [.. group.Take(MostPlaces).Select(place => cut.Around(place, Around))]
                    )),
            ]
        );
    }

    /// <summary>Cuts places out of a text by grapheme offsets.</summary>
    private sealed class TextCutter(string text)
    {
        private readonly int[] starts = System.Globalization.StringInfo.ParseCombiningCharacters(text);

        public ReplayPlace Around(ReplayedPlace place, int around) =>
            new(
                place.Offset,
                Cut(place.Offset - around, place.Offset),
                Cut(place.Offset, place.Offset + place.Length),
                Cut(place.Offset + place.Length, place.Offset + place.Length + around)
            );

        private string Cut(int from, int to) => text[At(from)..At(to)];

        private int At(int grapheme) =>
            grapheme <= 0 ? 0
            : grapheme >= starts.Length ? text.Length
            : starts[grapheme];
    }
}
