using System.Reflection;
using DashSprout.Core.Engine;
using NetArchTest.Rules;

namespace DashSprout.Server.Tests;

/// <summary>How the program's parts depend on each other, and what they are called.</summary>
public sealed class ArchitectureTests
{
    /// <summary>The core's folders in their order: each knows only those before it.</summary>
    private static readonly string[] Folders =
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
    ];

    private static readonly string[] Assemblies =
    [
        "DashSprout.Core",
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
        "DashSprout.Exchange",
        new[] { "DashSprout.Store", "DashSprout.Server", "Microsoft.AspNetCore", "Dapper" }
    )]
    [InlineData(
        "DashSprout.Keyboard",
        new[]
        {
            "DashSprout.Exchange",
            "DashSprout.Store",
            "DashSprout.Server",
            "Microsoft.AspNetCore",
            "Dapper",
            "System.Net.Http",
        }
    )]
    [InlineData("DashSprout.Store", new[] { "DashSprout.Server", "Microsoft.AspNetCore" })]
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

    [Fact]
    public void A_folder_of_the_core_knows_only_those_before_it()
    {
        var core = typeof(TypingEngine).Assembly;
        for (var at = 0; at < Folders.Length; at++)
        {
            var later = Folders[(at + 1)..].Select(folder => $"DashSprout.Core.{folder}").ToArray();
            if (later.Length == 0)
                continue;
            var result = Types
                .InAssembly(core)
                .That()
                .ResideInNamespace($"DashSprout.Core.{Folders[at]}")
                .ShouldNot()
                .HaveDependencyOnAny(later)
                .GetResult();
            Assert.True(result.IsSuccessful, $"{Folders[at]}: {string.Join(", ", result.FailingTypeNames ?? [])}");
        }
        var root = Types
            .InAssembly(core)
            .That()
            .ResideInNamespaceMatching("^DashSprout.Core$")
            .ShouldNot()
            .HaveDependencyOnAny([.. Folders.Select(folder => $"DashSprout.Core.{folder}")])
            .GetResult();
        Assert.True(root.IsSuccessful, $"Core itself: {string.Join(", ", root.FailingTypeNames ?? [])}");
    }

    [Fact]
    public void Every_folder_of_the_core_has_its_place_in_the_order()
    {
        var found = typeof(TypingEngine)
            .Assembly.GetTypes()
            .Select(type => type.Namespace ?? "")
            .Where(name => name.StartsWith("DashSprout.Core.", StringComparison.Ordinal))
            .Select(name => name.Split('.')[2])
            .Distinct();
        Assert.Equal(Folders.Order(StringComparer.Ordinal), found.Order(StringComparer.Ordinal));
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
