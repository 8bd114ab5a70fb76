using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Server.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Items;

namespace DashSprout.Server.Demo;

/// <summary>The harbour office of the invented port of Gullhaven; loaded once into an empty data folder.</summary>
internal static class DemoData
{
    private const string LoadedSetting = "demo.loaded";

    public static async Task LoadOnce(LibraryService libraryService, SettingStore settings, MediaStore media)
    {
        if (settings.Get(LoadedSetting) is not null || libraryService.Tree.Count > 0)
            return;
        using var file = new MemoryStream(Resource("gullhaven.json"));
        var contents = await LibraryFile.Read(file, CancellationToken.None);
        media.Add(PictureData.Of(Resource("fairway.png")));
        libraryService.Do((now, id) => Importing.Of(now, contents.Libraries, replace: false, id).Change);
        settings.Set(LoadedSetting, "true");
    }

    private static byte[] Resource(string name)
    {
        using var stream = typeof(DemoData).Assembly.GetManifestResourceStream($"DashSprout.Server.Demo.{name}")!;
        using var content = new MemoryStream();
        stream.CopyTo(content);
        return content.ToArray();
    }
}
