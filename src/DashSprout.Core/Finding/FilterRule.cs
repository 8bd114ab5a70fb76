using DashSprout.Core.Bodies;
using DashSprout.Core.Safety;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Finding;

/// <summary>A rule that stands in a filter for itself, such as <c>never used</c>.</summary>
/// <param name="Text">As it is typed, in lower case.</param>
/// <param name="Meaning">Which snippets it leaves, for the user.</param>
internal sealed record FilterRule(string Text, string Meaning, Func<FilterSubject, bool> Keeps)
{
    /// <summary>All of them.</summary>
    public static IReadOnlyList<FilterRule> All { get; } =
    [
        new("off", "switched off, or lying in something that is", subject =>
            !subject.Snippet.Enabled
            || !subject.Tree.LibraryOf(subject.Item).Enabled
            || subject.Tree.OffFolderOf(subject.Item) is not null
        ),
        new("never used", "never went off", subject => subject.LastUsed is null),
        new("overlaps", "gets in the way of another, or another in its way", subject => subject.Overlaps > 0),
        new("beaten", "another one wins over it", subject => subject.Beaten),
        new("nagging", "goes off by accident once in 10 000 words or more", subject =>
            subject.Grade >= MisfireGrade.Nagging
        ),
        new("unusable", "goes off by accident ten times in 10 000 words or more", subject =>
            subject.Grade >= MisfireGrade.Unusable
        ),
        new("private", "hidden until shown", subject => subject.Snippet.Private),
        new("has fields", "asks for something before it goes in", subject => Has<Inline.Field>(subject)),
        new("has dates", "puts in a date or time", subject => Has<Inline.Date>(subject)),
        new("has calculations", "works something out", subject => Has<Inline.Calculation>(subject)),
        new("has pictures", "shows a picture", subject => Has<Inline.Picture>(subject)),
        new("has snippets", "puts in another snippet", subject => Has<Inline.Reference>(subject)),
        new("has formatting", "is more than plain text", subject => subject.Snippet.Body is Body.Html),
        new("has a plain twin", "has a text of its own for plain fields", subject => subject.Snippet.Twin is not null),
        new("has a note", "has a note", subject => subject.Snippet.Note.Length > 0),
        new("has tags", "has tags", subject => subject.Snippet.Tags.Count > 0),
        new("has a trigger", "is set off by something", subject => subject.Snippet.Triggers.Count > 0),
        new("has an abbreviation", "is set off by an abbreviation", subject =>
            subject.Snippet.Triggers.Any(trigger => trigger is Trigger.Abbreviation)
        ),
        new("has a pattern", "is set off by a pattern", subject =>
            subject.Snippet.Triggers.Any(trigger => trigger is Trigger.Pattern)
        ),
        new("has a hotkey", "is set off by a hotkey", subject =>
            subject.Snippet.Triggers.Any(trigger => trigger is Trigger.Hotkey)
        ),
    ];

    private static bool Has<T>(FilterSubject subject)
        where T : Inline =>
        subject.Snippet.Bodies.Any(body => body is Body.Html && body.Tree.Inlines().Any(part => part is T));
}
