using DashSprout.Core;

namespace DashSprout.Server.Hosting;

/// <summary>A folder of this machine that the user names.</summary>
internal static class NamedFolder
{
    /// <summary>
    /// The whole path of a folder that is there; <c>~/</c> stands for the user's own. Throws
    /// <see cref="InvalidInputException"/>.
    /// </summary>
    public static string Read(string field, string path)
    {
        path = path.Trim();
        if (path.StartsWith("~/", StringComparison.Ordinal))
            path = Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.UserProfile), path[2..]);
        if (path.Length == 0 || !Path.IsPathRooted(path))
            throw new InvalidInputException(
                field,
                "Give the whole path of a folder, such as /home/you/shared/snippets or ~/shared/snippets."
            );
        path = Path.TrimEndingDirectorySeparator(Path.GetFullPath(path));
        if (Directory.Exists(path))
            return path;
        throw new InvalidInputException(
            field,
            File.Exists(path)
                ? $"{path} is a file. Give a folder."
                : $"There is no folder {path}. Make it first, or check its spelling."
        );
    }
}
