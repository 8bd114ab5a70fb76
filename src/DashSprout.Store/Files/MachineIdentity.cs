using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace DashSprout.Store.Files;

/// <summary>
/// What this data folder on this machine is called in mirror files: a random id that tells nothing of either. A folder
/// that was copied gets another one, or two machines would count as one. A copy is told by the file's number and time of
/// birth, which no copy keeps, and by the machine's id, which a copied disk keeps until somebody renews it; where all of
/// them are the same all the same, whoever finds states of its own in a mirror file that it never wrote asks for another
/// id (<see cref="Take"/>).
/// </summary>
public sealed class MachineIdentity
{
    private readonly string file;

    /// <summary>The identity of a data folder.</summary>
    internal MachineIdentity(string folder)
    {
        file = Path.Combine(folder, "machine");
        Id = Known() ?? "";
        if (Id.Length == 0)
            Take(NewId());
    }

    /// <summary>Twelve hexadecimal digits.</summary>
    public string Id { get; private set; }

    /// <summary>An id that nobody has.</summary>
    public static string NewId() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(6));

    /// <summary>Takes another id from now on.</summary>
    public void Take(string id)
    {
        File.Delete(file);
        using (File.Create(file)) { }
        OwnFiles.Protect(file);
        Id = id;
        // Written into the file that is there: its number is part of what is written.
        File.WriteAllText(file, $"{Id}\n{Place()}");
    }

    private string? Known() =>
        File.Exists(file) && File.ReadAllText(file).Split('\n') is [{ Length: 12 } id, var place] && place == Place()
            ? id
            : null;

    private string Place()
    {
        var machine = File.Exists("/etc/machine-id")
            ? File.ReadAllText("/etc/machine-id").Trim()
            : Environment.MachineName;
        var hash = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(machine)))[..16];
        return $"{Birth(file)} {hash}";
    }

    /// <summary>The file's number on its disk and when it came to be there; its path where the disk does not say.</summary>
    private static string Birth(string path) =>
        FileStatus.Of(path) is { } status
            ? string.Create(
                CultureInfo.InvariantCulture,
                $"{status.Number} {status.Born.Seconds}.{status.Born.Nanoseconds}"
            )
            : path;
}
