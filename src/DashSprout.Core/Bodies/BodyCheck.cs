namespace DashSprout.Core.Bodies;

/// <summary>What must hold of a body among the others before it is saved.</summary>
public static class BodyCheck
{
    /// <summary>
    /// Refuses a body whose formulas or dates use fields that are not there, that contains a snippet that is not there, or
    /// that contains itself, directly or through others.
    /// </summary>
    /// <param name="self">How other bodies refer to it: by its identity, or by its path <c>Library/Folder/Name</c>.</param>
    /// <param name="findSnippet">Finds the others; what it finds under the body's own reference is of no account.</param>
    /// <param name="nameOf">What a reference means, for the user.</param>
    public static void Check(Body body, string self, Func<string, Body?> findSnippet, Func<string, string>? nameOf = null)
    {
        if (body is Body.Plain) return;
        Body? Find(string other) => other == self ? body : findSnippet(other);
        NoCircle(self, [self], [], Find, nameOf ?? (target => target));
        DeliveryLimits.Check(body.Tree, Find);

        var fields = BodyFields.Of(body.Tree, Find);
        var known = fields.Count == 0 ? "There is no field yet." : $"The fields here are: {string.Join(", ", fields.Select(field => field.Name))}.";
        foreach (var formula in body.Tree.Formulas())
            foreach (var name in formula.Names)
                if (fields.All(field => field.Name != name))
                    throw new InvalidInputException("body", $"The formula “{formula.Source}” uses “{name}”, which is no field. {known}");
        foreach (var date in body.Tree.Inlines().OfType<Inline.Date>())
            if (date.Part.From is { } from && !fields.Any(field => field.Name == from && field.Type == FieldType.Date))
                throw new InvalidInputException("body", $"A date starts from “{from}”, which is no date field. {known}");
    }

    private static void NoCircle(string target, IReadOnlyList<string> way, HashSet<string> done, Func<string, Body?> find, Func<string, string> nameOf)
    {
        if (done.Contains(target)) return;
        var body = find(target) ?? throw new InvalidInputException("body", References.Id(target) is null
            ? $"There is no snippet “{target}” to put in. Choose one that exists."
            : "A snippet that goes in here is not there any more. Bring it back from the bin, or choose another one.");
        foreach (var inner in References.In(body))
        {
            if (way.Contains(inner))
                throw new InvalidInputException("body", $"The snippets would contain each other without end: {string.Join(" → ", way.Append(inner).Select(nameOf))}. Take one of them out.");
            NoCircle(inner, [.. way, inner], done, find, nameOf);
        }
        done.Add(target);
    }
}
