namespace DashSprout.Server.Packs;

/// <summary>How a pack and the libraries stand to each other.</summary>
internal enum PackState
{
    /// <summary>It is only offered.</summary>
    Offered,

    /// <summary>It was added, and has not changed since.</summary>
    Added,

    /// <summary>It was added, and has changed since.</summary>
    Changed,
}

/// <summary>A pack that is offered.</summary>
/// <param name="State"><c>offered</c>, <c>added</c> or <c>changed</c>.</param>
/// <param name="LibraryId">The library it has become; null when it was not added.</param>
/// <param name="Library">What that library is called now.</param>
/// <param name="Own">Whether it lies in the folder of the user's own.</param>
/// <param name="Examples">Some of what it has: what is typed, and what goes in.</param>
public sealed record PackAnswer(
    string Id,
    string Name,
    string About,
    string Licence,
    string Source,
    int Snippets,
    string State,
    long? LibraryId,
    string? Library,
    bool Own,
    IReadOnlyList<PackExample> Examples
);

/// <summary>Something that a pack has.</summary>
public sealed record PackExample(string Typed, string GoesIn);

/// <summary>The list of packs.</summary>
/// <param name="Folder">The folder of the user's own packs; null for none.</param>
/// <param name="Problems">What cannot be used of what lies there.</param>
public sealed record PackListAnswer(IReadOnlyList<PackAnswer> Packs, string? Folder, IReadOnlyList<string> Problems);
