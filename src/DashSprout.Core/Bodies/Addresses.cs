namespace DashSprout.Core.Bodies;

/// <summary>Which addresses a body may link to and open.</summary>
public static class Addresses
{
    private static readonly string[] Linked = ["http:", "https:", "mailto:"];
    private static readonly string[] Opened = ["http:", "https:", "mailto:", "file:", "app:"];

    /// <summary>Whether text may link to it.</summary>
    public static bool CanLink(string address) => Has(Linked, address);

    /// <summary>Whether a snippet may open it.</summary>
    public static bool CanOpen(string address) => Has(Opened, address);

    private static bool Has(string[] schemes, string address) =>
        !address.Any(char.IsControl)
        && Array.Exists(schemes, scheme => address.StartsWith(scheme, StringComparison.OrdinalIgnoreCase));
}
