using System.Text.Json;
using DashSprout.Core;
using YamlDotNet.Core;
using YamlDotNet.Core.Events;

namespace DashSprout.Exchange.Yaml;

/// <summary>
/// One YAML document as the row of its events, read with a bound on everything: how many values there are, also behind
/// aliases, and how deep they lie. What lies in itself is refused by its name.
/// </summary>
internal sealed class YamlTree
{
    /// <summary>How many values a file holds at most; an alias counts as what it stands for.</summary>
    private const int MostValues = 2_000_000;

    /// <summary>How deep they lie at most: folders nest half as deep.</summary>
    private const int MostDepth = 80;

    private readonly List<ParsingEvent> events = [];

    /// <summary>What each alias stands for: the place of the event, and of the value it was named at.</summary>
    private readonly Dictionary<int, int> aliases = [];

    private YamlTree() { }

    /// <summary>Reads a text; throws <see cref="InvalidInputException"/> with the place.</summary>
    public static YamlTree Read(string text, CancellationToken cancellation)
    {
        var tree = new YamlTree();
        try
        {
            tree.Take(new Parser(new StringReader(text)), cancellation);
        }
        catch (YamlException exception)
        {
            throw new InvalidInputException(
                "file",
                $"This is not well-formed YAML (line {exception.Start.Line}, column {exception.Start.Column}): "
                    + exception.Message
            );
        }
        return tree;
    }

    /// <summary>Writes it as JSON.</summary>
    /// <param name="plain">What a text without quotation marks stands for in a field: null, a truth, a number or a
    /// text.</param>
    public void Write(Utf8JsonWriter json, Func<string, string, object?> plain, CancellationToken cancellation)
    {
        var at = 0;
        new Writing(this, json, plain, cancellation).Value(ref at, "", 0);
    }

    /// <summary>Where the value of a path such as <c>libraries[0].name</c> stands, in brackets; empty when it is not
    /// there.</summary>
    public string PlaceOf(string path)
    {
        var at = 0;
        foreach (var step in path.Split(['.', '['], StringSplitOptions.RemoveEmptyEntries))
        {
            if (aliases.TryGetValue(at, out var named))
                at = named;
            var inside =
                step.EndsWith(']') && int.TryParse(step[..^1], out var number) ? Entry(at, number) : Field(at, step);
            if (inside < 0)
                break;
            at = inside;
        }
        return $" (line {events[at].Start.Line}, column {events[at].Start.Column})";
    }

    private void Take(Parser parser, CancellationToken cancellation)
    {
        var named = new Dictionary<string, int>();
        var open = new Stack<int>();
        var documents = 0;
        while (Next(parser) is { } next)
        {
            if (next is DocumentStart && ++documents > 1)
                throw Wrong("The file holds several YAML documents. Keep one.", next.Start);
            if (next is StreamStart or StreamEnd or DocumentStart or DocumentEnd or Comment)
                continue;
            if (next.NestingIncrease < 0)
                open.Pop();
            if (open.Count >= MostDepth)
                throw Wrong($"Here the values lie more than {MostDepth} deep. Move some of them up.", next.Start);
            if (events.Count >= 2 * MostValues)
                throw Wrong($"The file holds more than {MostValues} values. Divide it.", next.Start);
            if (events.Count % 1024 == 0)
                cancellation.ThrowIfCancellationRequested();
            if (next is NodeEvent { Anchor.IsEmpty: false } node)
                named[node.Anchor.Value] = events.Count;
            if (next is AnchorAlias alias)
            {
                var name = alias.Value.Value;
                if (!named.TryGetValue(name, out var value))
                    throw Wrong($"“*{name}” stands for nothing that was named before.", next.Start);
                if (open.Contains(value))
                    throw Wrong(
                        $"“{name}” lies in itself. Write out what is meant, or take “*{name}” away.",
                        next.Start
                    );
                aliases[events.Count] = value;
            }
            if (next.NestingIncrease > 0)
                open.Push(events.Count);
            events.Add(next);
        }
        if (events.Count == 0)
            throw new InvalidInputException("file", "The file holds no YAML document. Is it empty?");
    }

    private ParsingEvent? Next(Parser parser)
    {
        try
        {
            return parser.MoveNext() ? parser.Current : null;
        }
        catch (Exception exception)
            when (exception is InvalidOperationException or ArgumentException or FormatException)
        {
            // The parser trips over some texts that are no YAML instead of saying so.
            throw Wrong("This is not well-formed YAML from here on.", events is [.., var last] ? last.End : Mark.Empty);
        }
    }

    /// <summary>The place behind a value.</summary>
    private int Behind(int at)
    {
        var depth = 0;
        do depth += events[at++].NestingIncrease;
        while (depth > 0);
        return at;
    }

    private int Entry(int list, int number)
    {
        if (events[list] is not SequenceStart)
            return -1;
        var at = list + 1;
        for (; events[at] is not SequenceEnd; at = Behind(at))
            if (number-- == 0)
                return at;
        return -1;
    }

    private int Field(int mapping, string name)
    {
        if (events[mapping] is not MappingStart)
            return -1;
        for (var at = mapping + 1; events[at] is not MappingEnd; at = Behind(Behind(at)))
            if (events[at] is Scalar key && key.Value == name)
                return Behind(at);
        return -1;
    }

    private static InvalidInputException Wrong(string message, Mark place) =>
        new("file", $"{message} (line {place.Line}, column {place.Column})");

    /// <summary>One pass over the events; what an alias stands for is passed again.</summary>
    private sealed class Writing(
        YamlTree tree,
        Utf8JsonWriter json,
        Func<string, string, object?> plain,
        CancellationToken cancellation
    )
    {
        private int left = MostValues;

        public void Value(ref int at, string field, int depth)
        {
            var value = tree.events[at];
            if (--left < 0)
                throw Wrong($"The file holds more than {MostValues} values, with its aliases. Divide it.", value.Start);
            if (depth > MostDepth)
                throw Wrong($"Here the values lie more than {MostDepth} deep. Move some of them up.", value.Start);
            if (left % 1024 == 0)
                cancellation.ThrowIfCancellationRequested();
            switch (value)
            {
                case AnchorAlias:
                    var named = tree.aliases[at];
                    Value(ref named, field, depth);
                    at++;
                    break;
                case MappingStart:
                    Fields(ref at, depth);
                    break;
                case SequenceStart:
                    json.WriteStartArray();
                    for (at++; tree.events[at] is not SequenceEnd; )
                        Value(ref at, field, depth + 1);
                    json.WriteEndArray();
                    at++;
                    break;
                case Scalar scalar:
                    Text(scalar, field);
                    at++;
                    break;
                default:
                    // The parser tells of some broken texts that a mapping ends behind a name.
                    throw Wrong(
                        "A value is missing before this place. Add it, or put the name in quotation marks.",
                        value.Start
                    );
            }
        }

        private void Fields(ref int at, int depth)
        {
            json.WriteStartObject();
            var seen = new HashSet<string>();
            for (at++; tree.events[at] is not MappingEnd; )
            {
                if (tree.events[at] is not Scalar key)
                    throw Wrong("A name is no text.", tree.events[at].Start);
                if (!seen.Add(key.Value))
                    throw Wrong($"“{key.Value}” stands here twice. Take one away.", key.Start);
                json.WritePropertyName(key.Value);
                at++;
                Value(ref at, key.Value, depth + 1);
            }
            json.WriteEndObject();
            at++;
        }

        private void Text(Scalar scalar, string field)
        {
            if (!Core.Text.Graphemes.IsWellFormed(scalar.Value))
                throw Wrong("Half of a character (a lone surrogate) stands here. Type it anew.", scalar.Start);
            switch (scalar.Style == ScalarStyle.Plain ? plain(scalar.Value, field) : scalar.Value)
            {
                case null:
                    json.WriteNullValue();
                    break;
                case bool flag:
                    json.WriteBooleanValue(flag);
                    break;
                case int number:
                    json.WriteNumberValue(number);
                    break;
                case var text:
                    json.WriteStringValue((string)text);
                    break;
            }
        }
    }
}
