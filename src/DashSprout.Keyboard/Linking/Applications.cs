namespace DashSprout.Keyboard.Linking;

/// <summary>An application of the desktop, as its desktop entry describes it.</summary>
/// <param name="Id">The class of its windows.</param>
/// <param name="Name">Its name for the user.</param>
/// <param name="Icon">The icon's name or file; empty when it has none.</param>
/// <param name="IsTerminal">Whether it is a terminal: text is pasted otherwise there, and Enter runs the line.</param>
public sealed record DesktopApplication(string Id, string Name, string Icon, bool IsTerminal)
{
    /// <summary>Whether its windows may show pages of the web; of what has no entry, nobody knows.</summary>
    public bool MayShowPages { get; init; } = true;
}

/// <summary>
/// The desktop entries of this machine (freedesktop.org's Desktop Entry Specification), found by the class of a window.
/// </summary>
public sealed class Applications
{
    private static readonly string[] IconSizes = ["32x32", "48x48", "scalable", "24x24", "64x64", "16x16"],
        IconKinds = [".png", ".svg"];
    private readonly Lock gate = new();
    private readonly Dictionary<string, DesktopApplication> known = [];
    private List<Entry>? entries;

    private sealed record Entry(
        string File,
        string Name,
        string Icon,
        string Class,
        string Program,
        bool IsTerminal,
        bool IsBrowser
    );

    /// <summary>The application whose windows have a class.</summary>
    /// <param name="instance">The instance name beside the class, mostly the program's file name.</param>
    public DesktopApplication Of(string app, string instance)
    {
        lock (gate)
        {
            if (known.TryGetValue(app, out var application))
                return application;
            entries ??= [.. Read()];
            var entry = entries.Find(one => Same(one.Class, app))
                ?? entries.Find(one => Same(one.File, app) || Same(one.File, instance))
                ?? entries.Find(one =>
                    one.Program.Length > 0 && (Same(one.Program, instance) || Same(one.Program, app))
                );
            return known[app] = entry is null
                ? new DesktopApplication(app, app, "", false)
                : new DesktopApplication(app, entry.Name, entry.Icon, entry.IsTerminal)
                {
                    MayShowPages = entry.IsBrowser,
                };
        }
    }

    /// <summary>
    /// The file of a desktop entry by its id, to start the application with; null when there is none.
    /// </summary>
    public static string? FileOf(string id) =>
        Folders().Select(folder => Path.Combine(folder, id + ".desktop")).FirstOrDefault(File.Exists);

    /// <summary>
    /// The file of an icon by its name, in the sizes that a list shows; null when there is none that a browser can
    /// show.
    /// </summary>
    public static string? IconFile(string icon)
    {
        if (icon.Length == 0 || icon.Contains("..", StringComparison.Ordinal))
            return null;
        if (Path.IsPathRooted(icon))
            return File.Exists(icon) && Path.GetExtension(icon) is ".png" or ".svg" ? icon : null;
        var places = DataFolders()
            .SelectMany(folder =>
                IconSizes.SelectMany(size =>
                    IconKinds.Select(kind => Path.Combine(folder, "icons", "hicolor", size, "apps", icon + kind))
                )
            )
            .Concat(IconKinds.Select(kind => Path.Combine("/usr/share/pixmaps", icon + kind)));
        return places.FirstOrDefault(File.Exists);
    }

    private static bool Same(string one, string other) => string.Equals(one, other, StringComparison.OrdinalIgnoreCase);

    private static IEnumerable<string> DataFolders()
    {
        var home = Environment.GetEnvironmentVariable("XDG_DATA_HOME");
        yield return string.IsNullOrEmpty(home)
            ? Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.UserProfile), ".local", "share")
            : home;
        var shared = Environment.GetEnvironmentVariable("XDG_DATA_DIRS");
        foreach (
            var folder in (string.IsNullOrEmpty(shared) ? "/usr/local/share:/usr/share" : shared).Split(
                ':',
                StringSplitOptions.RemoveEmptyEntries
            )
        )
            yield return folder;
    }

    private static IEnumerable<string> Folders() =>
        DataFolders().Select(folder => Path.Combine(folder, "applications"));

    private static IEnumerable<Entry> Read()
    {
        foreach (var folder in Folders().Where(Directory.Exists))
        foreach (var file in Directory.EnumerateFiles(folder, "*.desktop", SearchOption.AllDirectories))
            if (ReadOne(file) is { } entry)
                yield return entry;
    }

    private static Entry? ReadOne(string file)
    {
        var values = new Dictionary<string, string>();
        try
        {
            var inEntry = false;
            foreach (var line in File.ReadLines(file))
            {
                if (line.StartsWith('['))
                    inEntry = line == "[Desktop Entry]";
                else if (inEntry && line.IndexOf('=', StringComparison.Ordinal) is var at and > 0)
                    values.TryAdd(line[..at].Trim(), line[(at + 1)..].Trim());
            }
        }
        catch (Exception exception) when (exception is IOException or UnauthorizedAccessException)
        {
            // An entry that cannot be read gives no name; the window's class stands in for it.
            return null;
        }
        var language = System.Globalization.CultureInfo.CurrentUICulture.TwoLetterISOLanguageName;
        var name = values.GetValueOrDefault($"Name[{language}]") ?? values.GetValueOrDefault("Name");
        if (name is null)
            return null;
        bool Is(string category) => values.GetValueOrDefault("Categories", "").Split(';').Contains(category);
        var program = values
            .GetValueOrDefault("Exec", "")
            .Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .FirstOrDefault()
            ?? "";
        return new Entry(
            Path.GetFileNameWithoutExtension(file),
            name,
            values.GetValueOrDefault("Icon", ""),
            values.GetValueOrDefault("StartupWMClass", ""),
            Path.GetFileName(program.Trim('"')),
            Is("TerminalEmulator"),
            Is("WebBrowser")
        );
    }
}
