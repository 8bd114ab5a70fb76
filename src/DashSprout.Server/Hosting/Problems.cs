using System.Text.Json;
using DashSprout.Core;
using DashSprout.Exchange;
using DashSprout.Server.Libraries;
using DashSprout.Store;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;

namespace DashSprout.Server.Hosting;

/// <summary>Turns what goes wrong into RFC 9457 problem documents that name the field and say what is wrong.</summary>
internal sealed class Problems(IProblemDetailsService service, Catalog catalog) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext context, Exception exception, CancellationToken cancellationToken)
    {
        var problem = Of(exception);
        if (problem is null) return false;
        context.Response.StatusCode = problem.Status!.Value;
        return await service.TryWriteAsync(new ProblemDetailsContext { HttpContext = context, ProblemDetails = problem });
    }

    private ProblemDetails? Of(Exception exception) => exception switch
    {
        InvalidInputException invalid => Invalid(invalid),
        BadHttpRequestException { InnerException: JsonException json } => Invalid(LibraryFile.InvalidJson(json)),
        BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => new ProblemDetails
        {
            Status = StatusCodes.Status413PayloadTooLarge,
            Title = "The request is too large",
            Detail = "What was sent is larger than this program takes. Split it into smaller parts.",
        },
        BadHttpRequestException bad => new ProblemDetails { Status = bad.StatusCode, Title = "The request cannot be read", Detail = bad.Message },
        MissingItemException missing => new ProblemDetails
        {
            Status = StatusCodes.Status404NotFound,
            Title = "Not found",
            Detail = $"{missing.Message} It may have been deleted elsewhere; reload the page.",
        },
        OutdatedVersionException outdated => Outdated(outdated),
        _ => null,
    };

    private static HttpValidationProblemDetails Invalid(InvalidInputException exception) => new(
        exception.Errors.GroupBy(error => error.Field).ToDictionary(group => group.Key, group => group.Select(error => error.Message).ToArray()))
    {
        Status = StatusCodes.Status400BadRequest,
        Title = "Something given is not right",
        Detail = exception.Message,
    };

    private ProblemDetails Outdated(OutdatedVersionException exception)
    {
        var problem = new ProblemDetails
        {
            Status = StatusCodes.Status409Conflict,
            Title = "Changed elsewhere in the meantime",
            Detail = $"{exception.Message} Look at both versions and choose one.",
        };
        if (exception.Kind == ItemKind.Snippet)
            problem.Extensions["current"] = SnippetEndpoints.Answer(catalog.Shelf, catalog.Shelf.Snippet(exception.Id));
        return problem;
    }
}
