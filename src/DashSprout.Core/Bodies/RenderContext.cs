using System.Globalization;
using DashSprout.Core.Dates;
using NodaTime;

namespace DashSprout.Core.Bodies;

/// <summary>
/// Everything from outside that a body may use when it goes off. The core has no clock, chance or clipboard of its own.
/// </summary>
public sealed record RenderContext
{
    /// <summary>Now, in the user's zone.</summary>
    public ZonedDateTime Now { get; init; } = new LocalDateTime(2026, 3, 2, 9, 15).InUtc();

    /// <summary>The user's locale.</summary>
    public CultureInfo Locale { get; init; } = CultureInfo.GetCultureInfo("en-GB");

    /// <summary>The days that are worked.</summary>
    public WorkingDays WorkingDays { get; init; } = WorkingDays.MondayToFriday;

    /// <summary>The longest text of a clipboard or selection that goes in, in UTF-16 units.</summary>
    public const int MostUnits = 1_000_000;

    /// <summary>The text on the clipboard; null when it is longer than <see cref="MostUnits"/>.</summary>
    public string? Clipboard
    {
        get => ReadClipboard();
        init => ReadClipboard = () => value;
    }

    /// <summary>
    /// How the clipboard is read, where that takes another program's answer: only a body that uses it asks.
    /// </summary>
    public Func<string?> ReadClipboard { get; init; } = () => "";

    /// <summary>The text selected in the field; null when it is longer than <see cref="MostUnits"/>.</summary>
    public string? Selection
    {
        get => ReadSelection();
        init => ReadSelection = () => value;
    }

    /// <summary>
    /// How the selection is read, where that takes another program's answer: only a body that uses it asks.
    /// </summary>
    public Func<string?> ReadSelection { get; init; } = () => "";

    /// <summary>Whether a link's address follows its words where there are no links.</summary>
    public bool ShowsLinkTargets { get; init; }

    /// <summary>Answers by field name; what is missing takes its default.</summary>
    public IReadOnlyDictionary<string, string> Answers { get; init; } = new Dictionary<string, string>();

    /// <summary>A pattern's groups.</summary>
    public EquatableList<string> Groups { get; init; } = EquatableList<string>.Empty;

    /// <summary>Finds the body of another snippet that a reference means; null when there is none.</summary>
    public Func<string, Body?> FindSnippet { get; init; } = _ => null;

    /// <summary>Whether the snippet that a reference means is private.</summary>
    public Func<string, bool> IsPrivate { get; init; } = _ => false;

    /// <summary>What a reference means, for the user.</summary>
    public Func<string, string> NameSnippet { get; init; } = target => target;

    /// <summary>A number from 0 up to but without the given one.</summary>
    public Func<int, int> Random { get; init; } = _ => 0;

    /// <summary>
    /// How the body that is worked out is referred to, so that its parts that take turns have names; empty for one that
    /// is not kept.
    /// </summary>
    public string Self { get; init; } = "";

    /// <summary>
    /// How often a part that takes turns has gone in so far, by its name. Working a body out counts nothing.
    /// </summary>
    public Func<string, int> RotationsTaken { get; init; } = _ => 0;

    /// <summary>Whether fields that are still empty show by their names, as in the preview of a slip.</summary>
    public bool MarksEmpty { get; init; }

    /// <summary>
    /// Reads a value of a JSON document, by its address and a JSON Pointer; answers within a few seconds.
    /// </summary>
    public Func<string, string, LiveValue> ReadLive { get; init; } =
        (_, _) => new LiveValue.Missing("Values from outside cannot be read here.");

    /// <summary>A new random UUID.</summary>
    public Func<Guid> NewId { get; init; } = () => Guid.Empty;
}

/// <summary>
/// Thrown when a body cannot be put in as things are; the message is for the user. Nothing has been put in then.
/// </summary>
public sealed class RenderingException(string message, string? field = null) : Exception(message)
{
    /// <summary>The field of the slip it speaks of, if any.</summary>
    public string? Field { get; } = field;
}
