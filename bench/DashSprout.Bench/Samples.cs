using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Bench;

/// <summary>Made-up abbreviations and text to type; always the same.</summary>
internal static class Samples
{
    private const string Consonants = "bcdfghjklmnpqrstvwxz";

    /// <summary>Text without any of the abbreviations, so that every key sets nothing off.</summary>
    public const string Prose =
        "The tide is at seven and the quay is clear; nobody waits at the bridge, and it's quiet. Berth three "
        + "(the long one) is free until noon – come in when you like. ";

    /// <summary>An abbreviation for each number: a semicolon or nothing in front, then consonants.</summary>
    public static string Abbreviation(int number)
    {
        var text = number % 2 == 0 ? ";" : "q";
        for (var rest = number; rest > 0 || text.Length < 3; rest /= Consonants.Length)
            text += Consonants[rest % Consonants.Length];
        return text;
    }

    public static Snippet Snippet(int number)
    {
        var text = Abbreviation(number);
        var rules = TypingRules.For(text, number % 3 == 0 ? Timing.AtOnce : Timing.ClosingKey);
        return new Snippet(
            $"Snippet {number}",
            true,
            "",
            false,
            DeliveryWay.Automatic,
            false,
            new Body.Plain($"The text of snippet {number}."),
            new([new Trigger.Abbreviation(text, rules, Scope.Everywhere)])
        );
    }

    public static Library Library(int count) =>
        new(
            "Bench",
            true,
            LibraryRules.Default,
            EquatableList<Folder>.Empty,
            new(Enumerable.Range(0, count).Select(Snippet))
        );
}
