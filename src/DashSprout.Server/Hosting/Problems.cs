using System.Text.Json;
using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Store.Data;
using DashSprout.Store.Files;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;

namespace DashSprout.Server.Hosting;

/// <summary>Turns what goes wrong into RFC 9457 problem documents that name the field and say what is wrong.</summary>
internal sealed class Problems(IProblemDetailsService service, DataFolder folder, ILogger<Problems> log)
    : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(
        HttpContext context,
        Exception exception,
        CancellationToken cancellationToken
    )
    {
        var problem = Of(exception);
        context.Response.StatusCode = problem.Status!.Value;
        OwnPageOnly.Protect(context.Response);
        return await service.TryWriteAsync(
            new ProblemDetailsContext { HttpContext = context, ProblemDetails = problem }
        );
    }

    private ProblemDetails Of(Exception exception) =>
        exception switch
        {
            InvalidInputException invalid => Invalid(invalid),
            BadHttpRequestException { InnerException: JsonException json } => Invalid(LibraryFile.InvalidJson(json)),
            BadHttpRequestException bad => Told(bad.StatusCode, "The request cannot be read", bad.Message),
            MissingItemException missing => Told(
                StatusCodes.Status404NotFound,
                "Not found",
                $"{missing.Message} It may have been deleted elsewhere; look into the bin, or reload the page."
            ),
            ConflictException conflict => Told(
                StatusCodes.Status409Conflict,
                "Something else changed in between",
                conflict.Message
            ),
            _ when StorageFault.Words(exception, folder.Path) is { } words => Told(
                StorageFault.IsFull(exception)
                    ? StatusCodes.Status507InsufficientStorage
                    : StatusCodes.Status503ServiceUnavailable,
                "The disk refuses",
                $"{words} Typing and expanding go on meanwhile."
            ),
            _ => Mistake(exception),
        };

    /// <summary>Puts words to what the framework answers by itself with a number alone.</summary>
    public static void Complete(ProblemDetails problem)
    {
        if (problem.Detail is not null && problem.Status != StatusCodes.Status413PayloadTooLarge)
            return;
        (problem.Title, problem.Detail) = problem.Status switch
        {
            StatusCodes.Status405MethodNotAllowed => (
                "Not possible here",
                "This address does not do that. Look at the API's document for what it does."
            ),
            StatusCodes.Status413PayloadTooLarge => (
                "Too much at once",
                "What was sent is larger than this program takes. Split it into smaller parts and send them one by one."
            ),
            StatusCodes.Status415UnsupportedMediaType => (
                "Not in this form",
                "What was sent is not in a form that this address takes. Send JSON, with the content type "
                    + "application/json."
            ),
            _ => (problem.Title, problem.Detail),
        };
    }

    private static ProblemDetails Told(int status, string title, string detail) =>
        new()
        {
            Status = status,
            Title = title,
            Detail = detail,
        };

    private static HttpValidationProblemDetails Invalid(InvalidInputException exception) =>
        new(
            exception
                .Errors.GroupBy(error => error.Field)
                .ToDictionary(group => group.Key, group => group.Select(error => error.Message).ToArray())
        )
        {
            Status = StatusCodes.Status400BadRequest,
            Title = "Something given is not right",
            Detail = exception.Message,
        };

    private ProblemDetails Mistake(Exception exception)
    {
        // The kind of fault and where it happened, but not its words: they may be the user's.
        log.LogError("A request failed with {Fault} {Place}", exception.GetType().Name, exception.StackTrace);
        return Told(
            StatusCodes.Status500InternalServerError,
            "The program has made a mistake",
            "What is saved is as it was. Reload the page and try again; the program's log says where it happened."
        );
    }
}
