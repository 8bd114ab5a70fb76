namespace DashSprout.Core;

/// <summary>One thing wrong with what was given: which field, and how to mend it in words for the user.</summary>
/// <param name="Field">A path such as <c>triggers[0].text</c>; empty for the whole input.</param>
public sealed record InputError(string Field, string Message)
{
    /// <summary>
    /// The same error seen from outside: <c>text</c> within <c>triggers[0]</c> is <c>triggers[0].text</c>.
    /// </summary>
    public InputError Within(string prefix) =>
        this with
        {
            Field =
                Field.Length == 0 ? prefix
                : Field[0] == '[' ? prefix + Field
                : $"{prefix}.{Field}",
        };
}

/// <summary>Thrown where input enters the core and cannot be accepted; nothing has been changed then.</summary>
public sealed class InvalidInputException(IReadOnlyList<InputError> errors)
    : Exception(string.Join(" ", errors.Select(error => error.Message)))
{
    /// <summary>A single error.</summary>
    public InvalidInputException(string field, string message)
        : this([new InputError(field, message)]) { }

    /// <summary>What is wrong; at least one entry.</summary>
    public IReadOnlyList<InputError> Errors { get; } = errors;

    /// <summary>Runs a parser for a part of the input and names the part in its errors.</summary>
    public static T Within<T>(string prefix, Func<T> parse)
    {
        try
        {
            return parse();
        }
        catch (InvalidInputException exception)
        {
            throw new InvalidInputException([.. exception.Errors.Select(error => error.Within(prefix))]);
        }
    }
}
