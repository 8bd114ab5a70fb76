namespace DashSprout.Server.Tests;

/// <summary>Where things lie that tests read.</summary>
internal static class Folders
{
    /// <summary>The folder of the whole project.</summary>
    public static string Root
    {
        get
        {
            var folder = AppContext.BaseDirectory;
            while (!File.Exists(Path.Combine(folder, "DashSprout.slnx")))
                folder = Path.GetDirectoryName(folder)!;
            return folder;
        }
    }
}
