using DashSprout.Store.Data;
using Microsoft.AspNetCore.DataProtection;

namespace DashSprout.Server.Hosting;

/// <summary>
/// The keys that seal private snippets: ASP.NET Core Data Protection, with its keys in the data folder, for its owner
/// alone.
/// </summary>
internal static class DataKeys
{
    public static Vault In(string folder)
    {
        var protector = DataProtectionProvider
            .Create(new DirectoryInfo(folder), keys => keys.SetApplicationName("Dash Sprout"))
            .CreateProtector("private snippets");
        // The first use makes a key.
        if (!Directory.EnumerateFiles(folder).Any())
            protector.Protect([]);
        foreach (var file in Directory.EnumerateFiles(folder))
            File.SetUnixFileMode(file, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        return new Vault(protector.Protect, protector.Unprotect);
    }
}
