using System.Text.Json;
using System.Text.Json.Nodes;
using DashSprout.Documents;

namespace DashSprout.Server.Tests;

/// <summary>The JSON Schema of the library file says what is read and written, no more and no less.</summary>
public sealed class SchemaTests
{
    private static readonly JsonObject Schema = JsonNode
        .Parse(File.ReadAllText(Path.Combine(Folders.Root, "docs", "library-file.schema.json")))!
        .AsObject();

    [Theory]
    [InlineData("library", typeof(LibraryDocument))]
    [InlineData("folder", typeof(FolderDocument))]
    [InlineData("snippet", typeof(SnippetDocument))]
    [InlineData("trigger", typeof(TriggerDocument))]
    [InlineData("picture", typeof(PictureDocument))]
    [InlineData("mirror", typeof(MirrorDocument))]
    [InlineData("pack", typeof(PackDocument))]
    public void Every_field_of_a_document_is_described(string definition, Type document)
    {
        var written = document
            .GetConstructors()
            .MaxBy(made => made.GetParameters().Length)!
            .GetParameters()
            .Select(parameter => JsonNamingPolicy.CamelCase.ConvertName(parameter.Name!));
        var forms = Forms(Schema["$defs"]![definition]!).ToList();
        Assert.Equal(
            written.Order(),
            forms.SelectMany(form => form["properties"]!.AsObject().Select(property => property.Key)).Distinct().Order()
        );
        Assert.All(forms, form => Assert.False(form["additionalProperties"]!.GetValue<bool>()));
    }

    [Fact]
    public void Every_reference_leads_somewhere()
    {
        var definitions = Schema["$defs"]!.AsObject().Select(definition => $"#/$defs/{definition.Key}").ToHashSet();
        var references = System
            .Text.RegularExpressions.Regex.Matches(Schema.ToJsonString(), "\"\\$ref\":\"([^\"]+)\"")
            .Select(found => found.Groups[1].Value)
            .ToList();
        Assert.NotEmpty(references);
        Assert.All(references, reference => Assert.Contains(reference, definitions));
    }

    private static IEnumerable<JsonNode> Forms(JsonNode definition) =>
        definition["oneOf"] is JsonArray forms ? forms.Select(form => form!) : [definition];
}
