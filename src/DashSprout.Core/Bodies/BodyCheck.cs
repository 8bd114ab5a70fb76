
namespace DashSprout.Core.Bodies;

/// <summary>What must hold of a body among the others before it is saved.</summary>
public static class BodyCheck
{
    /// <summary>
    /// Refuses a body whose formulas or dates use fields that are not there, that contains a snippet that is not there, or
    /// that contains itself, directly or through others.
    /// </summary>
    /// <param name="path">Its own path, <c>Library/Folder/Name</c>.</param>
    /// <param name="findSnippet">Finds the others; what it finds under the own path is of no account.</param>
    public static void Check(Body body, string path, Func<string, Body?> findSnippet)
    {
        if (body is Body.Plain) return;
        Body? Find(string other) => other == path ? body : findSnippet(other);
        NoCircle(path, [path], Find);
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

    private static void NoCircle(string path, IReadOnlyList<string> way, Func<string, Body?> find)
    {
        var body = find(path) ?? throw new InvalidInputException("body", $"There is no snippet “{path}” to put in. Choose one that exists.");
        if (body is Body.Plain) return;
        foreach (var inner in body.Tree.Inlines().OfType<Inline.Reference>().Select(reference => reference.Path).Distinct())
        {
            if (way.Contains(inner))
                throw new InvalidInputException("body", $"The snippets would contain each other without end: {string.Join(" → ", way.Append(inner))}. Take one of them out.");
            NoCircle(inner, [.. way, inner], find);
        }
    }
}
