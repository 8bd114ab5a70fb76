using DashSprout.Exchange;
using DashSprout.Server.Libraries;

namespace DashSprout.Server.Demo;

/// <summary>The harbour office of the invented port of Gullhaven; loaded once into an empty data folder.</summary>
internal static class DemoData
{
    private const string LoadedSetting = "demo.loaded";

    public static void LoadOnce(Catalog catalog, Store.Settings settings)
    {
        if (settings.Get(LoadedSetting) is not null || !catalog.Shelf.Libraries.IsEmpty) return;
        using var stream = typeof(DemoData).Assembly.GetManifestResourceStream("DashSprout.Server.Demo.gullhaven.json")!;
        using var reader = new StreamReader(stream);
        catalog.Import(LibraryFile.Read(reader.ReadToEnd()), replace: false);
        settings.Set(LoadedSetting, "true");
    }
}
