using DashSprout.Exchange.Files;

namespace DashSprout.Server.Tests;

/// <summary>Names of files that travel; the reserved ones are those of Microsoft's “Naming Files, Paths, and Namespaces”.</summary>
public sealed class PortableNameTests
{
    [Theory]
    [InlineData("Berth desk", "Berth desk")]
    [InlineData("a:b*c?", "a-b-c-")]
    [InlineData("CON", "CON_")]
    [InlineData("nul", "nul_")]
    [InlineData("Aux.old", "Aux_.old")]
    [InlineData("COM1", "COM1_")]
    [InlineData("lpt³", "lpt³_")]
    [InlineData("COM10", "COM10")]
    [InlineData("Console", "Console")]
    [InlineData("tides. . ", "tides")]
    [InlineData(".hidden", "hidden")]
    [InlineData("gale\u202egpj", "galegpj")]
    [InlineData("a\u200bb\u0001c", "abc")]
    [InlineData("\u202e", "library")]
    [InlineData("...", "library")]
    public void A_name_is_one_that_every_system_can_hold(string wanted, string name) =>
        Assert.Equal(name, PortableName.Of(wanted, "library"));

    [Fact]
    public void A_long_name_fits_with_its_ending_into_255_bytes()
    {
        var name = PortableName.Of(string.Concat(Enumerable.Repeat("海港", 100)), "library");
        Assert.InRange(System.Text.Encoding.UTF8.GetByteCount(name), 150, 200);
    }
}
