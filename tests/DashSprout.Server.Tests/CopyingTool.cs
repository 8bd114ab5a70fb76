namespace DashSprout.Server.Tests;

/// <summary>
/// What makes folders of several machines alike as common tools do: of two files of one name that differ, the one that was
/// written last goes over the other. Where both were written since they were last alike, one kind of tool says nothing and
/// another leaves the older one beside, under a name of its own.
/// </summary>
/// <param name="folders">The folders, one a machine.</param>
/// <param name="leavesCopies">Whether what loses is left beside.</param>
internal sealed class CopyingTool(IReadOnlyList<string> folders, bool leavesCopies)
{
    /// <summary>What each name held when all were last alike.</summary>
    private readonly Dictionary<string, string> alike = [];
    private int copies;

    public IReadOnlyList<string> Folders => folders;

    /// <summary>Runs now and then, at random moments, as long as something else is under way.</summary>
    public async Task Until(Task working, Random chance)
    {
        while (!working.IsCompleted)
        {
            await Task.Delay(chance.Next(150));
            await Run();
        }
    }

    /// <summary>Makes all folders alike. What a program takes away meanwhile is left for the next time.</summary>
    public async Task Run()
    {
        var names = folders
            .SelectMany(folder => Directory.EnumerateFiles(folder, "*.json"))
            .Select(file => Path.GetFileName(file))
            .Distinct()
            .ToList();
        foreach (var name in names)
            try
            {
                await MakeAlike(name);
            }
            catch (IOException) when (folders.Any(folder => !File.Exists(Path.Combine(folder, name))))
            {
                // It was moved away between two looks.
            }
    }

    private async Task MakeAlike(string name)
    {
        var held = new List<(string Folder, string Text, DateTime Written)>();
        foreach (var folder in folders)
        {
            var file = Path.Combine(folder, name);
            if (File.Exists(file))
                held.Add((folder, await File.ReadAllTextAsync(file), File.GetLastWriteTimeUtc(file)));
        }
        // What was there for all and is gone somewhere was taken away there: it goes everywhere.
        if (alike.ContainsKey(name) && held.Count < folders.Count)
        {
            foreach (var (folder, _, _) in held)
                File.Delete(Path.Combine(folder, name));
            alike.Remove(name);
            return;
        }
        if (held.Count == 0)
            return;
        var newest = held.MaxBy(one => one.Written);
        foreach (var (folder, text, _) in held)
            if (leavesCopies && text != newest.Text && text != alike.GetValueOrDefault(name))
                await Put(
                    folder,
                    $"{Path.GetFileNameWithoutExtension(name)} (copy {++copies}).json",
                    text,
                    DateTime.UtcNow
                );
        foreach (var folder in folders)
            if (held.Find(one => one.Folder == folder).Text != newest.Text)
                await Put(folder, name, newest.Text, newest.Written);
        alike[name] = newest.Text;
    }

    private static async Task Put(string folder, string name, string text, DateTime written)
    {
        var half = Path.Combine(folder, $".{name}.half");
        await File.WriteAllTextAsync(half, text);
        File.SetLastWriteTimeUtc(half, written);
        File.Move(half, Path.Combine(folder, name), overwrite: true);
    }
}
