namespace DashSprout.Core.Libraries;

/// <summary>
/// One part of what a snippet consists of: how it is compared, taken from another snippet, merged, and told to a
/// person. Saving, merging, history, files, tables and the vault follow from <see cref="SnippetParts"/>.
/// </summary>
/// <param name="Key">What saving, history, merging and the API call it.</param>
/// <param name="Title">What a person calls it.</param>
/// <param name="Fields">The members of a library file's snippet that hold it.</param>
/// <param name="Columns">The columns by which a table speaks of it.</param>
/// <param name="Secret">Whether it is nobody else's business when the snippet is private: sealed on disk, and shown
/// nowhere.</param>
public abstract record SnippetPart(
    string Key,
    string Title,
    IReadOnlyList<string> Fields,
    IReadOnlyList<string> Columns,
    bool Secret
)
{
    /// <summary>Whether two snippets have the same of it.</summary>
    public abstract bool Same(Snippet one, Snippet other);

    /// <summary>A snippet with this part of another.</summary>
    public abstract Snippet Take(Snippet to, Snippet from);

    /// <summary>What a person is told of it; nothing of what is secret and private.</summary>
    public string Shown(Snippet snippet) => Secret && snippet.Private ? Snippet.Hidden : Words(snippet);

    /// <summary>What a change of it alone is called in the history.</summary>
    public abstract string Changed(Snippet before, Snippet after);

    /// <summary>
    /// The current snippet with this part as a change from before to after makes it; null where it was changed
    /// otherwise meanwhile.
    /// </summary>
    public virtual Snippet? Merge(Snippet before, Snippet after, Snippet current) =>
        Same(before, after) || Same(after, current) ? current
        : Same(before, current) ? Take(current, after)
        : null;

    /// <summary>What it says, whoever looks on.</summary>
    protected abstract string Words(Snippet snippet);
}

/// <summary>A part by its value.</summary>
/// <param name="Get">Its value.</param>
/// <param name="With">A snippet with another value.</param>
/// <param name="InWords">Its value for a person.</param>
/// <param name="What">What a change is called, with the names before and after in it.</param>
/// <param name="Merging">What two changes of it come to, from before, after and current; null where only one of them
/// can hold.</param>
internal sealed record SnippetPart<T>(
    string Key,
    string Title,
    Func<Snippet, T> Get,
    Func<Snippet, T, Snippet> With,
    Func<Snippet, string> InWords,
    Func<Snippet, Snippet, string> What,
    IReadOnlyList<string> Fields,
    IReadOnlyList<string> Columns,
    bool Secret = false,
    Func<T, T, T, T>? Merging = null
) : SnippetPart(Key, Title, Fields, Columns, Secret)
{
    /// <inheritdoc/>
    public override bool Same(Snippet one, Snippet other) => EqualityComparer<T>.Default.Equals(Get(one), Get(other));

    /// <inheritdoc/>
    public override Snippet Take(Snippet to, Snippet from) => With(to, Get(from));

    /// <inheritdoc/>
    public override string Changed(Snippet before, Snippet after) => What(before, after);

    /// <inheritdoc/>
    public override Snippet? Merge(Snippet before, Snippet after, Snippet current) =>
        Merging is null
            ? base.Merge(before, after, current)
            : With(current, Merging(Get(before), Get(after), Get(current)));

    /// <inheritdoc/>
    protected override string Words(Snippet snippet) => InWords(snippet);
}
