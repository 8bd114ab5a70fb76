namespace DashSprout.Core.Bodies;

/// <summary>What must hold of a body among the others before it is saved.</summary>
public static class BodyCheck
{
    /// <summary>
    /// Refuses a body whose formulas or dates use fields that are not there, that contains a snippet that is not there,
    /// or that contains itself, directly or through others; and one that comes to more than <see cref="BodyLimits"/>
    /// and <see cref="DeliveryLimits"/> allow with the snippets that go into it.
    /// </summary>
    /// <param name="self">How other bodies refer to it: by its identity, or by its path
    /// <c>Library/Folder/Name</c>.</param>
    /// <param name="findSnippet">Finds the others; what it finds under the body's own reference is of no
    /// account.</param>
    /// <param name="nameOf">What a reference means, for the user.</param>
    public static void Check(
        Body body,
        string self,
        Func<string, Body?> findSnippet,
        Func<string, string>? nameOf = null
    )
    {
        if (body is Body.Plain)
            return;
        Body? Find(string other) => other == self ? body : findSnippet(other);
        new Expansion(Find, nameOf ?? (target => target)).Check(self);

        var fields = BodyFields.Of(body.Tree, Find);
        HashSet<string> names = [.. fields.Select(field => field.Name)];
        var known =
            fields.Count == 0
                ? "There is no field yet."
                : $"The fields here are: {string.Join(", ", fields.Take(20).Select(field => field.Name))}.";
        foreach (var formula in body.Tree.Formulas())
        foreach (var name in formula.Names)
            if (!names.Contains(name))
                throw new InvalidInputException(
                    "body",
                    $"The formula “{formula.Source}” uses “{name}”, which is no field. {known}"
                );
        DefaultsEnd(fields);
        foreach (var date in body.Tree.Inlines().OfType<Inline.Date>())
            if (date.Part.From is { } from && !fields.Any(field => field.Name == from && field.Type == FieldType.Date))
                throw new InvalidInputException(
                    "body",
                    $"A date starts from “{from}”, which is no date field. {known}"
                );
    }

    /// <summary>Refuses defaults that are worked out from each other.</summary>
    private static void DefaultsEnd(IReadOnlyList<BodyField> fields)
    {
        var worked = fields.Where(field => field.DefaultFormula is not null).ToDictionary(field => field.Name);
        var done = new HashSet<string>();
        foreach (var name in worked.Keys)
            Follow(name, []);

        void Follow(string name, IReadOnlyList<string> way)
        {
            if (way.Contains(name))
                throw new InvalidInputException(
                    "body",
                    $"The defaults of {string.Join(", ", way.SkipWhile(one => one != name))} wait for each "
                        + "other. Give one of them a default of its own."
                );
            if (!worked.TryGetValue(name, out var field) || done.Contains(name))
                return;
            foreach (var other in field.DefaultFormula!.Names)
                Follow(other, [.. way, name]);
            done.Add(name);
        }
    }
}
