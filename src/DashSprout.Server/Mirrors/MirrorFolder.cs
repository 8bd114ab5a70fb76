using System.Text;
using DashSprout.Core;
using DashSprout.Core.Bodies;
using DashSprout.Core.Mirroring;
using DashSprout.Documents;
using DashSprout.Exchange.Files;
using DashSprout.Store.Data;
using DashSprout.Store.Files;

namespace DashSprout.Server.Mirrors;

/// <summary>A file in a mirror folder, as it was when it was read.</summary>
/// <param name="Stamp">As it was before it was read: another one means that it has become another.</param>
/// <param name="Contents">What it holds; null when it cannot be read, and then the problem says why.</param>
/// <param name="Tangled">Whether a version control has mixed both sides so that neither can be read.</param>
internal sealed record FolderFile(
    string Name,
    FileStamp Stamp,
    MirrorContents? Contents,
    string? Problem,
    bool Tangled = false
);

/// <summary>
/// A folder that something else carries between machines. What is written there is there whole or not at all; what is
/// read may be half written, and then it is looked at again when it has changed.
/// </summary>
/// <param name="writer">What this machine is called.</param>
internal sealed class MirrorFolder(string path, Func<string> writer)
{
    public const string PicturesName = "pictures",
        PocketName = "dash-sprout-pocket.html";

    private const long LargestFile = 64L * 1024 * 1024;
    private const int MostFiles = 500;

    private readonly Dictionary<string, FolderFile> read = [];
    private readonly Dictionary<string, FileStamp> written = [];

    public string Path => path;

    public bool IsThere => Directory.Exists(path);

    /// <summary>The mirror files in it, and what cannot be read of what might be one.</summary>
    public IReadOnlyList<FolderFile> Files(Func<string> newKey)
    {
        var names = new DirectoryInfo(path)
            .EnumerateFiles("*.json")
            .Where(file => !file.Name.StartsWith('.'))
            .OrderBy(file => file.Name, StringComparer.Ordinal)
            .Take(MostFiles)
            .ToList();
        var files = names
            .Select(file =>
                read.TryGetValue(file.Name, out var known) && known.Stamp == FileStamp.Of(file.FullName)
                    ? known
                    : Read(file, newKey)
            )
            .ToList();
        read.Clear();
        foreach (var file in files)
            read[file.Name] = file;
        return files;
    }

    /// <summary>A name for a new file: the library's, as far as files can have it on every system.</summary>
    public string FreeName(string library)
    {
        var name = PortableName.Of(library, "library");
        var taken = new DirectoryInfo(path)
            .EnumerateFileSystemInfos()
            .Select(file => file.Name)
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        var free = $"{name}.json";
        for (var number = 2; taken.Contains(free); number++)
            free = $"{name} {number}.json";
        return free;
    }

    /// <summary>Writes a library's file; what it holds is known then, as long as nobody else changes it.</summary>
    public void Write(string name, string key, MirrorState state)
    {
        var stamp = Write(name, Encoding.UTF8.GetBytes(MirrorFile.Write(key, state)));
        written[name] = stamp;
        read[name] = new FolderFile(name, stamp, new MirrorContents(key, state, null), null);
    }

    /// <summary>Whether a file is as it was written here last, and nobody has put another in its place.</summary>
    public bool Wrote(FolderFile file) => written.TryGetValue(file.Name, out var stamp) && stamp == file.Stamp;

    /// <summary>Writes a text unless it stands there already.</summary>
    public void WriteChanged(string name, string text)
    {
        var bytes = Encoding.UTF8.GetBytes(text);
        if (!Holds(System.IO.Path.Combine(path, name), bytes))
            Write(name, bytes);
    }

    private static bool Holds(string file, byte[] bytes)
    {
        try
        {
            return PlainFile.Read(file, LargestFile).AsSpan().SequenceEqual(bytes);
        }
        catch (IOException)
        {
            // Nothing, or no plain file: writing puts a file in its place, or says why not.
            return false;
        }
    }

    /// <summary>Takes away a copy that nobody needs any more.</summary>
    public void Delete(string name) => File.Delete(System.IO.Path.Combine(path, name));

    /// <summary>Sets a file that cannot be read aside, untouched, and says where.</summary>
    public string SetAside(string name, DataFolder data, DateTimeOffset now)
    {
        var aside = data.AsidePath(name, now);
        File.Copy(System.IO.Path.Combine(path, name), aside);
        File.Delete(System.IO.Path.Combine(path, name));
        return aside;
    }

    /// <summary>A picture that lies in it; null when it is not there, or not the one that its name says.</summary>
    public PictureData? Picture(string id)
    {
        var folder = System.IO.Path.Combine(path, PicturesName);
        if (!Directory.Exists(folder))
            return null;
        PlainFile.CheckFolder(folder);
        foreach (var file in Directory.EnumerateFiles(folder, $"{id}.*"))
        {
            try
            {
                // One that has not come whole yet has another id.
                if (PictureData.Of(PlainFile.Read(file, PictureType.MaxBytes)) is var picture && picture.Id == id)
                    return picture;
            }
            catch (Exception exception)
                when (exception is InvalidInputException or IOException or UnauthorizedAccessException)
            {
                // No picture, or not yet: it is told as missing.
            }
        }
        return null;
    }

    public void WritePicture(PictureData picture)
    {
        var folder = System.IO.Path.Combine(path, PicturesName);
        var name = $"{picture.Id}.{picture.Type.Split('/')[1]}";
        PlainFile.CheckFolder(folder);
        if (File.Exists(System.IO.Path.Combine(folder, name)))
            return;
        Directory.CreateDirectory(folder);
        Write(System.IO.Path.Combine(PicturesName, name), picture.Bytes);
    }

    /// <summary>Why nothing can be written in it; null when it can.</summary>
    public string? Fault()
    {
        try
        {
            var trial = System.IO.Path.Combine(path, $".dash-sprout-{Guid.NewGuid():N}.part");
            File.WriteAllBytes(trial, []);
            File.Delete(trial);
            return null;
        }
        catch (Exception exception) when (exception is IOException or UnauthorizedAccessException)
        {
            return $"Nothing can be written in {path}. Give this account the right to write there, or choose "
                + "another folder.";
        }
    }

    private static FolderFile Read(FileInfo file, Func<string> newKey)
    {
        var stamp = FileStamp.Of(file.FullName);
        var text = "";
        try
        {
            text = PlainFile.ReadText(file.FullName, LargestFile);
            return new FolderFile(file.Name, stamp, MirrorFile.Read(text, newKey), null);
        }
        catch (Exception exception) when (exception is not InvalidInputException)
        {
            return new FolderFile(file.Name, stamp, null, FileProblem.Of(file.Name, exception));
        }
        catch (InvalidInputException exception)
        {
            return new FolderFile(
                file.Name,
                stamp,
                null,
                $"“{file.Name}” cannot be read, or has not come whole yet: {exception.Message}",
                MirrorFile.HasMarks(text)
            );
        }
    }

    private FileStamp Write(string name, byte[] bytes) =>
        PlainFile.Write(System.IO.Path.Combine(path, name), writer(), bytes);
}
