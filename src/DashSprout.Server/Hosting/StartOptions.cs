using System.Globalization;

namespace DashSprout.Server.Hosting;

/// <summary>What can be said on the command line.</summary>
/// <param name="Port">The loopback port.</param>
/// <param name="DataFolder">Where the data lies.</param>
/// <param name="Demo">Whether the demo data is loaded into an empty data folder.</param>
/// <param name="Keyboard">Whether the keyboard link is made; null when the settings say.</param>
internal sealed record StartOptions(int Port, string DataFolder, bool Demo, bool? Keyboard)
{
    public const int DefaultPort = 5270;

    public static StartOptions Read(IConfiguration configuration)
    {
        var port = configuration["port"] is { } text
            ? int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            && number is > 0 and < 65536
                ? number
                : throw new InvalidOperationException($"--port {text} is not a port. Give a number from 1 to 65535.")
            : DefaultPort;
        return new StartOptions(
            port,
            configuration["data"] ?? DefaultFolder(),
            configuration["empty"] is null,
            Switch(configuration["keyboard"])
        );
    }

    private static bool? Switch(string? text) =>
        text switch
        {
            null => null,
            "true" or "on" => true,
            "false" or "off" => false,
            _ => throw new InvalidOperationException($"--keyboard {text} is not known. Say on or off."),
        };

    /// <summary>The XDG base directory for a user's data.</summary>
    private static string DefaultFolder()
    {
        var home = Environment.GetEnvironmentVariable("XDG_DATA_HOME");
        if (string.IsNullOrEmpty(home) || !Path.IsPathRooted(home))
            home = Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.UserProfile), ".local", "share");
        return Path.Combine(home, "dash-sprout");
    }
}
