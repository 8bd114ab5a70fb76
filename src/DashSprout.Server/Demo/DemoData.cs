using System.Text;
using DashSprout.Exchange;
using DashSprout.Server.Libraries;
using DashSprout.Store;

namespace DashSprout.Server.Demo;

/// <summary>The harbour office of the invented port of Gullhaven; loaded once into an empty data folder.</summary>
internal static class DemoData
{
    private const string LoadedSetting = "demo.loaded";

    public static void LoadOnce(Catalog catalog, SettingStore settings, MediaStore media)
    {
        if (settings.Get(LoadedSetting) is not null || !catalog.Shelf.Libraries.IsEmpty) return;
        catalog.Import(LibraryFile.Read(Encoding.UTF8.GetString(Resource("gullhaven.json"))), replace: false, fromFile: false);
        media.Add(new StoredMedia("image/png", Resource("fairway.png")));
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
