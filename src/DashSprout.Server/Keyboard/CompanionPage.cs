using DashSprout.Core.Delivery;
using DashSprout.Core.Hosting;
using DashSprout.Keyboard;
using DashSprout.Keyboard.Linking;
using DashSprout.Server.Bodies;
using DashSprout.Server.Libraries;
using DashSprout.Server.Typing;
using Microsoft.AspNetCore.SignalR;

namespace DashSprout.Server.Keyboard;

/// <summary>
/// The companion window's page, wherever it runs: told what to show, and asked again when it was loaded anew.
/// </summary>
internal sealed class CompanionPage(IHubContext<CompanionHub> hub, HostWiring hosts) : ICompanion
{
    /// <inheritdoc/>
    public string Address { get; set; } = "";

    private int loaded;

    /// <inheritdoc/>
    public bool IsLoaded => Volatile.Read(ref loaded) > 0;

    /// <summary>The link whose questions the page answers.</summary>
    public KeyboardLink? Link { get; set; }

    /// <summary>What is shown now; null for nothing.</summary>
    public CompanionMessage? Now { get; private set; }

    /// <summary>The open question, to work its answers out: the link itself is busy showing it.</summary>
    public Shown.Question? Question { get; private set; }

    /// <summary>A page has come, or gone.</summary>
    public void Came(int more) => Interlocked.Add(ref loaded, more);

    /// <inheritdoc/>
    public void Show(int number, Shown shown)
    {
        Question = shown as Shown.Question;
        Now = shown switch
        {
            Shown.Finder => new CompanionMessage(number, "finder", null, null, null),
            Shown.Gather gather => new CompanionMessage(number, "gather", gather.Text, null, null),
            Shown.Recorded recorded => new CompanionMessage(number, "recorded", recorded.Body, null, null),
            Shown.Question { Asked: HostQuestion.MayOpen open } => new CompanionMessage(
                number,
                "open",
                null,
                null,
                open.Targets
            ),
            Shown.Question { Asked: var asked } => new CompanionMessage(number, "slip", null, hosts.Slip(asked), null),
            _ => throw new ArgumentOutOfRangeException(nameof(shown)),
        };
        _ = hub.Clients.All.SendAsync("show", Now);
    }

    /// <inheritdoc/>
    public void Clear()
    {
        (Now, Question) = (null, null);
        _ = hub.Clients.All.SendAsync("clear");
    }
}

/// <summary>The wire to the companion window's page.</summary>
internal sealed class CompanionHub(CompanionPage page, LibraryService libraryService, HostWiring hosts) : Hub
{
    /// <inheritdoc/>
    public override Task OnDisconnectedAsync(Exception? exception)
    {
        if (Context.Items.Remove(nameof(Begin)))
            page.Came(-1);
        return Task.CompletedTask;
    }

    /// <summary>The page is there; gives what is to be shown now, null for nothing.</summary>
    public CompanionMessage? Begin()
    {
        if (Context.Items.TryAdd(nameof(Begin), true))
            page.Came(1);
        return page.Now;
    }

    /// <summary>Something is on the page; focused: its first field has the keyboard.</summary>
    public void Ready(int number, bool focused) => page.Link?.PageIsReady(number, focused);

    /// <summary>What the open slip's snippet comes to with some answers.</summary>
    /// <param name="shown">What the page showed by its number, here and below: what comes late is no answer to what is
    /// shown now.</param>
    public PreviewAnswer Preview(int shown, Dictionary<string, string> answers) =>
        page.Now?.Number == shown && page.Question is { Asked: HostQuestion.FillIn asked, Context: var context }
            ? PreviewEndpoints.Preview(
                asked.Snippet.Snippet.Body,
                context.Writing(asked.Snippet.Snippet.Links) with
                {
                    Answers = answers,
                    MarksEmpty = true,
                },
                []
            )
            : throw new HubException("No slip is open.");

    /// <summary>Puts the open slip's snippet in.</summary>
    public void Fill(int shown, Dictionary<string, string> answers)
    {
        if (page.Now?.Number != shown)
            return;
        hosts.Filled(page.Question?.Asked, answers);
        page.Link?.Fill(shown, answers);
    }

    /// <summary>What is asked about may be opened, from now on without asking.</summary>
    public void Confirm(int shown)
    {
        if (page.Now?.Number != shown)
            return;
        if (page.Question is { Asked: HostQuestion.MayOpen question })
            hosts.Confirm(question);
        page.Link?.Confirm(shown);
    }

    /// <summary>Puts a snippet in where the user came from.</summary>
    public void Choose(int shown, long snippetId) =>
        page.Link?.Choose(shown, libraryService.Snapshot.Placed(snippetId));

    /// <summary>Leaves what is shown.</summary>
    public void Leave(int shown) => page.Link?.Leave(shown);
}
