using System.Text.RegularExpressions;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>The office suite's writer with a flat document, which it saves by Ctrl+S.</summary>
internal sealed partial class OfficeWriter
{
    /// <summary>What would change what is typed, or stand in its way: each is off.</summary>
    private static readonly (string Path, string Name)[] Off =
    [
        ("org.openoffice.Office.Common/AutoCorrect", "CapitalAtStartSentence"),
        ("org.openoffice.Office.Common/AutoCorrect", "UseReplacementTable"),
        ("org.openoffice.Office.Common/AutoCorrect", "TwoCapitalsAtStart"),
        ("org.openoffice.Office.Common/Misc", "FirstRun"),
        ("org.openoffice.Office.Common/Misc", "ShowTipOfTheDay"),
        ("org.openoffice.Office.Writer/AutoFunction/Completion", "Enable"),
    ];

    private static string Settings =>
        $"""
            <?xml version="1.0" encoding="UTF-8"?>
            <oor:items xmlns:oor="http://openoffice.org/2001/registry">
            {string.Join('\n', Off.Select(OffItem))}
            </oor:items>
            """;

    private static string OffItem((string Path, string Name) one) =>
        $"""<item oor:path="/{one.Path}"><prop oor:name="{one.Name}" oor:op="fuse"><value>false</value></prop></item>""";

    private const string Empty = """
        <?xml version="1.0" encoding="UTF-8"?>
        <office:document xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"
          xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"
          office:version="1.3" office:mimetype="application/vnd.oasis.opendocument.text">
        <office:body><office:text><text:p/></office:text></office:body></office:document>
        """;

    private readonly OpenApplication open;

    /// <param name="toolkit"><c>gtk3</c>, or <c>gen</c> for what it draws by itself.</param>
    public OfficeWriter(VirtualDesktop desktop, string toolkit)
    {
        var profile = Path.Combine(desktop.Folder, $"office-{toolkit}");
        Directory.CreateDirectory(Path.Combine(profile, "user"));
        File.WriteAllText(Path.Combine(profile, "user", "registrymodifications.xcu"), Settings);
        var file = Path.Combine(desktop.Folder, $"office-{Guid.NewGuid():N}.fodt");
        File.WriteAllText(file, Empty);
        var process = desktop.Start(
            "env",
            $"SAL_USE_VCLPLUGIN={toolkit}",
            "soffice",
            "--norestore",
            "--nologo",
            "--nolockcheck",
            $"-env:UserInstallation=file://{profile}",
            "--writer",
            file
        );
        Wait.Until("the writer", () =>
            desktop.Windows.Active() is { Title: var title }
            && title.Contains(Path.GetFileName(file), StringComparison.Ordinal)
        );
        open = new OpenApplication(desktop, process, desktop.Windows.Active(), file) { IsWhole = IsWhole };
        // Its window is there before it hears keys.
        Wait.AtRest(process);
    }

    /// <summary>It is written in pieces, and stays open.</summary>
    private static bool IsWhole(string xml) => xml.TrimEnd().EndsWith("</office:document>", StringComparison.Ordinal);

    /// <summary>What the document holds once it has saved it.</summary>
    public string Saved()
    {
        var xml = open.Saved();
        var body = xml[xml.IndexOf("<office:text", StringComparison.Ordinal)..];
        return string.Join(
            '\n',
            Paragraphs()
                .Matches(body)
                .Select(one =>
                    System.Net.WebUtility.HtmlDecode(
                        Tags().Replace(one.Groups[1].Value.Replace("<text:s/>", " ", StringComparison.Ordinal), "")
                    )
                )
        );
    }

    [GeneratedRegex("<text:p(?:/>|[^>]*?/>|[^>]*>(.*?)</text:p>)", RegexOptions.Singleline)]
    private static partial Regex Paragraphs();

    [GeneratedRegex("<[^>]+>")]
    private static partial Regex Tags();
}
