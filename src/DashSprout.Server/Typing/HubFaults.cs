using DashSprout.Core;
using DashSprout.Core.Libraries;
using DashSprout.Store.Data;
using DashSprout.Store.Files;
using Microsoft.AspNetCore.SignalR;

namespace DashSprout.Server.Typing;

/// <summary>
/// Says in words what was wrong with a message to the hub. What was typed is part of no error and so of no log: the
/// words that the core uses about keys never hold it, and nothing else is passed on.
/// </summary>
internal sealed class HubFaults(DataFolder folder, ILogger<HubFaults> log) : IHubFilter
{
    public async ValueTask<object?> InvokeMethodAsync(
        HubInvocationContext invocation,
        Func<HubInvocationContext, ValueTask<object?>> next
    )
    {
        try
        {
            return await next(invocation);
        }
        catch (InvalidInputException exception)
        {
            throw new HubException(exception.Message);
        }
        catch (MissingItemException exception)
        {
            throw new HubException($"{exception.Message} It may have been deleted elsewhere.");
        }
        catch (Exception exception) when (StorageFault.Words(exception, folder.Path) is not null)
        {
            throw new HubException(StorageFault.Words(exception, folder.Path)!);
        }
        catch (Exception exception) when (exception is not HubException)
        {
            // The kind of fault and where it happened, but not its words: they may be somebody's.
            log.LogError(
                "{Method} failed with {Fault} {Place}",
                invocation.HubMethodName,
                exception.GetType().Name,
                exception.StackTrace
            );
            throw new HubException("The program has made a mistake. What was typed is as it was; the log says where.");
        }
    }
}
