using DashSprout.Core;
using DashSprout.Core.Engine;
using DashSprout.Core.Libraries;
using DashSprout.Core.Safety;
using DashSprout.Core.Text;
using DashSprout.Core.Triggers;
using DashSprout.Keyboard.Linking;

namespace DashSprout.Server.Engine;

/// <summary>The chords that the program itself answers to, wherever one types; no two are the same.</summary>
/// <param name="Finder">Opens the finder.</param>
/// <param name="Gather">Makes a snippet of what is selected or copied.</param>
/// <param name="Rest">Lets the engine rest, and listen again.</param>
/// <param name="Record">Begins to record keys, and makes a snippet of them.</param>
/// <param name="TakeBack">Takes a firing back.</param>
/// <param name="ProofLine">Goes to the proof line.</param>
/// <param name="Why">Asks why nothing happened.</param>
/// <param name="Help">Shows the keys of the program; a function key by itself will do.</param>
public sealed record ProgramChords(
    string Finder,
    string Gather,
    string Rest,
    string Record,
    string TakeBack,
    string ProofLine,
    string Why,
    string Help
)
{
    internal static ProgramChords Default { get; } =
        new(
            "Ctrl+Alt+ ",
            "Ctrl+Alt+N",
            "Ctrl+Alt+R",
            "Ctrl+Alt+Shift+R",
            TypingEngine.DefaultTakeBackChord,
            "Ctrl+Alt+P",
            "Ctrl+Alt+W",
            "F1"
        );

    /// <summary>Those that the link to a desktop's keyboard listens to.</summary>
    internal OwnChords Linked => new(Finder, Gather, Rest, Record);

    /// <summary>
    /// Each command by its name, with what it does and its chord, in the order of the overview of keys.
    /// </summary>
    internal IReadOnlyList<(string Command, string Does, string Chord)> All =>
        [
            ("help", "Show all keys", Help),
            ("finder", "Find a snippet and put it in", Finder),
            ("gather", "Make a snippet of what is selected or copied", Gather),
            ("rest", "Let the engine rest, and listen again", Rest),
            ("record", "Record keys, and make a snippet of them", Record),
            ("proofLine", "Go to the proof line", ProofLine),
            ("why", "Ask why nothing happened", Why),
            ("takeBack", "Take back what just went in", TakeBack),
        ];

    /// <summary>
    /// The same with every chord in its one form; throws <see cref="InvalidInputException"/> for what cannot be
    /// pressed, or twice the same.
    /// </summary>
    /// <param name="before">The chords so far: of two that are the same now, the one that was so already has
    /// it.</param>
    internal ProgramChords Checked(ProgramChords before)
    {
        var given = new ProgramChords(
            Chord("finder", Finder),
            Chord("gather", Gather),
            Chord("rest", Rest),
            Chord("record", Record),
            Chord("takeBack", TakeBack),
            Chord("proofLine", ProofLine),
            Chord("why", Why),
            Chord("help", Help)
        );
        foreach (var same in given.All.GroupBy(one => one.Chord).Where(group => group.Count() > 1))
        {
            var owner = same.FirstOrDefault(one => before.All.Contains(one), same.First());
            var other = same.First(one => one != owner);
            throw new InvalidInputException(
                $"chords.{other.Command}",
                $"{same.Key} is taken: “{owner.Does}” has it. Choose another chord for one of the two."
            );
        }
        return given;
    }

    /// <summary>
    /// Who else answers to a chord: a snippet, or something outside that commonly owns it; null when nobody is known
    /// to.
    /// </summary>
    internal static string? OwnerOf(string chord, LibraryTree tree)
    {
        var hotkey = tree.Snippets.FirstOrDefault(item =>
            item.Snippet.Triggers.Any(trigger =>
                trigger is Trigger.Hotkey { Chord.Value: var pressed } && pressed == chord
            )
        );
        return hotkey is null ? TakenChords.OwnerOutside(chord) : $"The snippet “{hotkey.Name}”";
    }

    private static string Chord(string command, string text) =>
        InvalidInputException
            .Within($"chords.{command}", () =>
                Key.Parse("", text) is { Kind: KeyKind.Named, Value: ['F', >= '1' and <= '9', ..] } function
                    ? function
                    : new Trigger.Hotkey(text, Scope.Everywhere).Chord
            )
            .Value;
}

/// <summary>A chord of the program.</summary>
/// <param name="Command">Its name in the settings.</param>
/// <param name="Does">What it does, in words.</param>
/// <param name="Usual">The chord it has unless another is chosen.</param>
/// <param name="Owner">Who else answers to it; null when nobody is known to.</param>
public sealed record ProgramChord(string Command, string Does, string Chord, string Usual, string? Owner);
