using System.Reflection;
using DashSprout.Core.Engine;
using NetArchTest.Rules;

namespace DashSprout.Server.Tests;

/// <summary>How the program's parts depend on each other, and what they are called.</summary>
public sealed class ArchitectureTests
{
    /// <summary>The rooms of the core and of the keyboard in their order: each knows only those before it.</summary>
    public static TheoryData<string, string[]> Rooms =>
        new()
        {
            {
                "DashSprout.Core",
                [
                    "Text",
                    "Triggers",
                    "Dates",
                    "Bodies",
                    "Slips",
                    "Libraries",
                    "Mirroring",
                    "Engine",
                    "Delivery",
                    "Hosting",
                    "Rehearsals",
                    "Safety",
                    "Finding",
                    "Learning",
                    "Savings",
                ]
            },
            { "DashSprout.Exchange", ["Files", "Tables", "Prose", "Yaml", "Lists", "Pages"] },
            { "DashSprout.Store", ["Files", "Data", "Items", "Features"] },
            { "DashSprout.Keyboard", ["Native", "Linking", "Services", "Accessibility", "X11"] },
            {
                "DashSprout.Server",
                [
                    "Hosting",
                    "Behind",
                    "Libraries",
                    "Data",
                    "Media",
                    "Engine",
                    "Live",
                    "Settings",
                    "History",
                    "Backups",
                    "Bodies",
                    "Savings",
                    "Safety",
                    "Learning",
                    "Typing",
                    "Keyboard",
                    "Exchange",
                    "Mirrors",
                    "Packs",
                    "Finding",
                    "Rehearsals",
                    "Rows",
                    "Notices",
                    "Demo",
                    "Wiring",
                ]
            },
        };

    private static readonly string[] Assemblies =
    [
        "DashSprout.Core",
        "DashSprout.Documents",
        "DashSprout.Exchange",
        "DashSprout.Store",
        "DashSprout.Keyboard",
        "DashSprout.Server",
    ];

    [Theory]
    [InlineData(
        "DashSprout.Core",
        new[]
        {
            "DashSprout.Documents",
            "DashSprout.Exchange",
            "DashSprout.Store",
            "DashSprout.Server",
            "Microsoft.AspNetCore",
            "Microsoft.Data.Sqlite",
            "Dapper",
            "System.Net.Http",
            "System.IO.File",
        }
    )]
    [InlineData(
        "DashSprout.Documents",
        new[]
        {
            "DashSprout.Exchange",
            "DashSprout.Store",
            "DashSprout.Server",
            "Microsoft.AspNetCore",
            "Dapper",
            "YamlDotNet",
        }
    )]
    [InlineData(
        "DashSprout.Exchange",
        new[] { "DashSprout.Store", "DashSprout.Server", "Microsoft.AspNetCore", "Dapper" }
    )]
    [InlineData(
        "DashSprout.Keyboard",
        new[]
        {
            "DashSprout.Documents",
            "DashSprout.Exchange",
            "DashSprout.Store",
            "DashSprout.Server",
            "Microsoft.AspNetCore",
            "Dapper",
            "System.Net.Http",
        }
    )]
    [InlineData("DashSprout.Store", new[] { "DashSprout.Exchange", "DashSprout.Server", "Microsoft.AspNetCore" })]
    public void Arrows_point_one_way(string assembly, string[] mayNotKnow)
    {
        _ = typeof(TypingEngine);
        var result = Types
            .InAssembly(System.Reflection.Assembly.Load(assembly))
            .ShouldNot()
            .HaveDependencyOnAny(mayNotKnow)
            .GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }

    [Theory]
    [MemberData(nameof(Rooms))]
    public void A_room_knows_only_those_before_it(string assembly, string[] rooms)
    {
        var types = Assembly.Load(assembly);
        for (var at = 0; at < rooms.Length - 1; at++)
        {
            var result = Types
                .InAssembly(types)
                .That()
                .ResideInNamespace($"{assembly}.{rooms[at]}")
                .ShouldNot()
                .HaveDependencyOnAny([.. rooms[(at + 1)..].Select(room => $"{assembly}.{room}")])
                .GetResult();
            Assert.True(result.IsSuccessful, $"{rooms[at]}: {string.Join(", ", result.FailingTypeNames ?? [])}");
        }
    }

    [Fact]
    public void What_stands_in_no_room_of_the_core_knows_none()
    {
        var rooms = Rooms.First(row => row.Data.Item1 == "DashSprout.Core").Data.Item2;
        var result = Types
            .InAssembly(typeof(TypingEngine).Assembly)
            .That()
            .ResideInNamespaceMatching("^DashSprout.Core$")
            .ShouldNot()
            .HaveDependencyOnAny([.. rooms.Select(room => $"DashSprout.Core.{room}")])
            .GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }

    [Theory]
    [MemberData(nameof(Rooms))]
    public void Every_room_has_its_place_in_the_order(string assembly, string[] rooms)
    {
        var found = Assembly
            .Load(assembly)
            .GetTypes()
            .Select(type => type.Namespace ?? "")
            .Where(name => name.StartsWith($"{assembly}.", StringComparison.Ordinal))
            .Select(name => name[(assembly.Length + 1)..].Split('.')[0])
            .Distinct();
        Assert.Equal(rooms.Order(StringComparer.Ordinal), found.Order(StringComparer.Ordinal));
    }

    /// <summary>
    /// One concept, one name: no two types share one. The kinds of a union are named by it (<c>Block.Table</c>).
    /// </summary>
    [Fact]
    public void No_two_things_share_a_name()
    {
        var types = Assemblies
            .SelectMany(name => Assembly.Load(name).GetTypes())
            .Where(type =>
                !type.IsDefined(typeof(System.Runtime.CompilerServices.CompilerGeneratedAttribute))
                && type.Namespace?.StartsWith("DashSprout", StringComparison.Ordinal) == true
                && !type.Name.Contains('<', StringComparison.Ordinal)
            )
            .ToLookup(IsKind);
        var kinds = types[true].Select(kind => kind.Name).ToHashSet();
        Assert.Empty(
            types[false]
                .GroupBy(type => type.Name)
                .Where(group => group.Count() > 1 || kinds.Contains(group.Key))
                .Select(group => string.Join(" and ", group.Select(type => type.FullName)))
        );
    }

    private static bool IsKind(Type type) =>
        type.DeclaringType is { IsAbstract: true, IsSealed: false } union && type.BaseType == union;
}
