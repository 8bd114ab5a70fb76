namespace DashSprout.Server.Mirrors;

/// <summary>How a mirrored library and its file stand to each other.</summary>
internal enum MirrorCondition
{
    /// <summary>Both are the same.</summary>
    InStep,

    /// <summary>Both are the same but for what somebody has to decide.</summary>
    Undecided,

    /// <summary>The folder is not there at the moment.</summary>
    Waiting,

    /// <summary>Something has to be mended.</summary>
    Fault,
}

/// <summary>A mirrored library.</summary>
/// <param name="State"><c>in-step</c>, <c>undecided</c>, <c>waiting</c> or <c>fault</c>.</param>
/// <param name="Words">What that means, where there is more to say.</param>
/// <param name="Unreadable">Whether the file cannot be read, so that writing it anew may be wanted.</param>
/// <param name="Notes">What else came of the last meetings.</param>
public sealed record MirrorAnswer(
    long LibraryId,
    string Library,
    string Folder,
    string File,
    bool Pocket,
    string State,
    string Words,
    bool Unreadable,
    IReadOnlyList<MirrorConflictAnswer> Conflicts,
    IReadOnlyList<string> Notes
);

/// <summary>A part that was changed on two machines at once.</summary>
/// <param name="Key">What the thing is known by.</param>
/// <param name="Source">The copy that has it otherwise; empty for the mirror file.</param>
/// <param name="Title">The thing, for the user.</param>
/// <param name="Here">What this machine has.</param>
/// <param name="There">What the file has.</param>
/// <param name="Seen">Which state of the file that is; to be sent with a decision.</param>
/// <param name="SnippetId">The snippet, where it is one.</param>
public sealed record MirrorConflictAnswer(
    string Key,
    string Part,
    string Source,
    string Seen,
    string Title,
    string Here,
    string There,
    long? SnippetId
);

/// <summary>What is to be looked into.</summary>
public sealed record MirrorLook(string Folder);

/// <summary>What a folder holds, and what could be mirrored there.</summary>
/// <param name="Folder">The folder, as it is known.</param>
/// <param name="Found">The libraries in it that are not mirrored here yet.</param>
/// <param name="Problems">What cannot be read.</param>
public sealed record MirrorLookAnswer(string Folder, IReadOnlyList<FoundLibrary> Found, IReadOnlyList<string> Problems);

/// <summary>A library in a folder.</summary>
/// <param name="HereId">The library of that name here, with which it would be one; null when there is none.</param>
public sealed record FoundLibrary(string File, string Name, int Snippets, long? HereId);

/// <summary>What is to be mirrored.</summary>
/// <param name="LibraryIds">Libraries of this machine.</param>
/// <param name="Files">Files of the folder.</param>
/// <param name="Pocket">Whether the pocket file is written there too.</param>
public sealed record NewMirrors(
    string Folder,
    IReadOnlyList<long> LibraryIds,
    IReadOnlyList<string> Files,
    bool Pocket = false
);

/// <summary>How a conflict is decided.</summary>
/// <param name="Seen">The state of the file that was shown.</param>
/// <param name="Keep"><c>here</c>, <c>there</c>, or <c>both</c>: then what is there becomes a snippet of its
/// own.</param>
public sealed record MirrorDecision(string Key, string Part, string Source, string Seen, string Keep);

/// <summary>What of a mirrored library can be chosen.</summary>
public sealed record MirrorChange(bool Pocket);
