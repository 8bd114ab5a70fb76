using System.Text.Json;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Core.Triggers;

namespace DashSprout.Documents;

/// <summary>
/// Reads the documents of kept snippets straight into values: the same form that <see cref="SnippetDocument"/> has,
/// several times as fast, since a start reads all of them. What was kept was checked before; a limit that came later
/// locks nobody out.
/// </summary>
internal static class SnippetReader
{
    public static Snippet Read(ReadOnlySpan<byte> document)
    {
        var reader = new Utf8JsonReader(document);
        if (!reader.Read() || reader.TokenType != JsonTokenType.StartObject)
            throw new InvalidInputException("document", "It is no document of a snippet.");
        string? name = null,
            note = null,
            delivery = null,
            body = null,
            text = null,
            links = null;
        Core.Bodies.Body? twin = null;
        bool enabled = true,
            isPrivate = false,
            leave = false;
        var triggers = EquatableList<Trigger>.Empty;
        var tags = EquatableList<string>.Empty;
        while (Property(ref reader))
        {
            if (Is(ref reader, "name"u8))
                name = Text(ref reader);
            else if (Is(ref reader, "text"u8))
                text = Text(ref reader);
            else if (Is(ref reader, "body"u8))
                body = Text(ref reader);
            else if (Is(ref reader, "triggers"u8))
                triggers = Triggers(ref reader);
            else if (Is(ref reader, "enabled"u8))
                enabled = Bool(ref reader) ?? true;
            else if (Is(ref reader, "note"u8))
                note = Text(ref reader);
            else if (Is(ref reader, "private"u8))
                isPrivate = Bool(ref reader) ?? false;
            else if (Is(ref reader, "delivery"u8))
                delivery = Text(ref reader);
            else if (Is(ref reader, "leaveOnClipboard"u8))
                leave = Bool(ref reader) ?? false;
            else if (Is(ref reader, "twin"u8))
                twin = ReadTwin(ref reader);
            else if (Is(ref reader, "links"u8))
                links = Text(ref reader);
            else if (Is(ref reader, "tags"u8))
                tags = Texts(ref reader) is { Count: > 0 } some ? new(some) : EquatableList<string>.Empty;
            else
                throw Unknown(ref reader);
        }
        return new Snippet(
            name ?? throw new InvalidInputException("name", "The name is missing."),
            enabled,
            note ?? "",
            isPrivate,
            delivery is null ? DeliveryWay.Automatic : Wording.Parse<DeliveryWay>("delivery", delivery),
            leave,
            Kept(body, text),
            triggers,
            twin,
            links is null ? LinkWriting.AsSet : Wording.Parse<LinkWriting>("links", links)
        )
        {
            Tags = tags,
        };
    }

    private static Core.Bodies.Body Kept(string? body, string? text) =>
        body is not null ? new Core.Bodies.Body.Html(body) : new Core.Bodies.Body.Plain(text ?? "");

    private static Core.Bodies.Body? ReadTwin(ref Utf8JsonReader reader)
    {
        reader.Read();
        if (reader.TokenType == JsonTokenType.Null)
            return null;
        if (reader.TokenType != JsonTokenType.StartObject)
            throw Unknown(ref reader);
        string? body = null,
            text = null;
        while (Property(ref reader))
        {
            if (Is(ref reader, "body"u8))
                body = Text(ref reader);
            else if (Is(ref reader, "text"u8))
                text = Text(ref reader);
            else
                throw Unknown(ref reader);
        }
        return Kept(body, text);
    }

    private static EquatableList<Trigger> Triggers(ref Utf8JsonReader reader)
    {
        reader.Read();
        if (reader.TokenType == JsonTokenType.Null)
            return EquatableList<Trigger>.Empty;
        if (reader.TokenType != JsonTokenType.StartArray)
            throw Unknown(ref reader);
        var triggers = new List<Trigger>(2);
        while (reader.Read() && reader.TokenType != JsonTokenType.EndArray)
            triggers.Add(OneTrigger(ref reader));
        return triggers.Count == 0 ? EquatableList<Trigger>.Empty : new(triggers);
    }

    private static Trigger OneTrigger(ref Utf8JsonReader reader)
    {
        if (reader.TokenType != JsonTokenType.StartObject)
            throw Unknown(ref reader);
        string? kind = null,
            text = null,
            timing = null,
            leftEdge = null,
            letterCase = null;
        bool? keep = null,
            givesWay = null;
        IReadOnlyList<string>? closingKeys = null;
        ScopeDocument? scope = null;
        while (Property(ref reader))
        {
            if (Is(ref reader, "kind"u8))
                kind = Kind(ref reader);
            else if (Is(ref reader, "text"u8))
                text = Text(ref reader);
            else if (Is(ref reader, "timing"u8))
                timing = Text(ref reader);
            else if (Is(ref reader, "leftEdge"u8))
                leftEdge = Text(ref reader);
            else if (Is(ref reader, "case"u8))
                letterCase = Text(ref reader);
            else if (Is(ref reader, "keepClosingKey"u8))
                keep = Bool(ref reader);
            else if (Is(ref reader, "givesWay"u8))
                givesWay = Bool(ref reader);
            else if (Is(ref reader, "closingKeys"u8))
                closingKeys = Texts(ref reader);
            else if (Is(ref reader, "scope"u8))
                scope = ReadScope(ref reader);
            else
                throw Unknown(ref reader);
        }
        return new TriggerDocument(
            kind,
            text,
            timing,
            leftEdge,
            letterCase,
            keep,
            closingKeys,
            givesWay,
            scope
        ).ToStored();
    }

    private static ScopeDocument? ReadScope(ref Utf8JsonReader reader)
    {
        reader.Read();
        if (reader.TokenType == JsonTokenType.Null)
            return null;
        if (reader.TokenType != JsonTokenType.StartObject)
            throw Unknown(ref reader);
        string? mode = null;
        IReadOnlyList<string>? apps = null;
        while (Property(ref reader))
        {
            if (Is(ref reader, "mode"u8))
                mode = Text(ref reader);
            else if (Is(ref reader, "apps"u8))
                apps = Texts(ref reader);
            else
                throw Unknown(ref reader);
        }
        return new ScopeDocument(mode, apps);
    }

    private static bool Property(ref Utf8JsonReader reader) =>
        reader.Read() && reader.TokenType == JsonTokenType.PropertyName;

    private static bool Is(ref Utf8JsonReader reader, ReadOnlySpan<byte> name) => reader.ValueTextEquals(name);

    private static string? Text(ref Utf8JsonReader reader)
    {
        reader.Read();
        return reader.TokenType is JsonTokenType.String or JsonTokenType.Null
            ? reader.GetString()
            : throw Unknown(ref reader);
    }

    /// <summary>The kind of nearly all triggers is one text, which need not be made again and again.</summary>
    private static string? Kind(ref Utf8JsonReader reader)
    {
        reader.Read();
        if (reader.TokenType == JsonTokenType.String && reader.ValueTextEquals("abbreviation"u8))
            return "abbreviation";
        return reader.TokenType is JsonTokenType.String or JsonTokenType.Null
            ? reader.GetString()
            : throw Unknown(ref reader);
    }

    private static bool? Bool(ref Utf8JsonReader reader)
    {
        reader.Read();
        return reader.TokenType switch
        {
            JsonTokenType.True => true,
            JsonTokenType.False => false,
            JsonTokenType.Null => null,
            _ => throw Unknown(ref reader),
        };
    }

    private static List<string>? Texts(ref Utf8JsonReader reader)
    {
        reader.Read();
        if (reader.TokenType == JsonTokenType.Null)
            return null;
        if (reader.TokenType != JsonTokenType.StartArray)
            throw Unknown(ref reader);
        var texts = new List<string>();
        while (reader.Read() && reader.TokenType != JsonTokenType.EndArray)
            texts.Add(reader.GetString() ?? throw Unknown(ref reader));
        return texts;
    }

    private static InvalidInputException Unknown(ref Utf8JsonReader reader) =>
        new("document", $"Something at byte {reader.TokenStartIndex} is not known here.");
}
