namespace DashSprout.Core.Bodies;

/// <summary>
/// The fields that a body asks for, those of snippets inside it included, in order of first appearance.
/// </summary>
public static class BodyFields
{
    /// <summary>The fields of a tree, each name once.</summary>
    public static IReadOnlyList<BodyField> Of(BodyTree tree, Func<string, Body?> findSnippet)
    {
        var fields = new List<BodyField>();
        var repeatedRows = 0;
        var (names, seen) = (new HashSet<string>(), new HashSet<string>());
        Collect(tree);
        return fields;

        void Collect(BodyTree part)
        {
            // A field in a repeated row is asked for in each.
            var rows = new Dictionary<BodyField, FieldRow>(ReferenceEqualityComparer.Instance);
            foreach (var row in part.RepeatedRows())
            {
                var repeated = new FieldRow(++repeatedRows, row.Repeats!);
                foreach (var inner in BodyTree.InlinesOf(row).OfType<Inline.Field>())
                    rows.TryAdd(inner.Slip, repeated);
            }
            foreach (var inline in part.Inlines())
            {
                if (inline is Inline.Field { Slip: var field } && names.Add(field.Name))
                    fields.Add(field with { Row = rows.GetValueOrDefault(field) });
                // A missing snippet or a circle is said when the body is rendered.
                if (
                    inline is Inline.Reference { Target: var target }
                    && seen.Add(target)
                    && findSnippet(target) is { } body
                )
                    Collect(body.Tree);
            }
        }
    }
}
