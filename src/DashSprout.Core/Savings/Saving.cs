using DashSprout.Core.Hosting;
using DashSprout.Core.Text;

namespace DashSprout.Core.Savings;

/// <summary>What one firing saved, as counts; no text is kept.</summary>
/// <param name="Keys">Keys that need not be pressed: the characters that went in, without those that were typed for
/// it.</param>
/// <param name="Characters">Characters that went in.</param>
/// <param name="Fields">Fields that were filled.</param>
public readonly record struct Saving(int Keys, int Characters, int Fields)
{
    /// <summary>
    /// What a firing saved: each character that went in is a key (common practice), less the keys of its abbreviation
    /// and of the answers in its slip, of which a hotkey is one. Nothing is saved where it took more keys than it gave,
    /// as a corrected letter does.
    /// </summary>
    public static Saving Of(Ended ended)
    {
        if (ended.Outcome is not Outcome.Inserted)
            return default;
        var characters = Graphemes.Count(ended.Inserted);
        var typed = Math.Max(1, ended.Firing.Typed.Count);
        var answered = ended.Answers.Sum(answer => Graphemes.Count(answer));
        return new Saving(
            Math.Max(0, characters - typed - answered),
            Math.Max(0, characters - ended.Firing.PutBack.Count),
            ended.Answers.Count(answer => answer.Length > 0)
        );
    }
}
