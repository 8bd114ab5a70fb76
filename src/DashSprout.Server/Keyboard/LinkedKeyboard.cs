using DashSprout.Core.Bodies;
using DashSprout.Keyboard;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Services;
using DashSprout.Server.Engine;
using DashSprout.Server.Hosting;
using DashSprout.Server.Libraries;
using DashSprout.Server.Typing;
using DashSprout.Store.Data;
using Microsoft.AspNetCore.SignalR;

namespace DashSprout.Server.Keyboard;

/// <summary>The program's one keyboard link: made and ended as the settings and the command line say.</summary>
internal sealed class LinkedKeyboard : IHostedService, IDisposable
{
    private readonly StartOptions options;
    private readonly KeyboardChoices choices;
    private readonly EngineSwitch engineSwitch;
    private readonly LibraryService libraryService;
    private readonly IHubContext<TypingHub> hub;
    private readonly ILogger<LinkedKeyboard> log;
    private readonly DesktopSession session;
    private static readonly TimeSpan LivePatience = TimeSpan.FromMilliseconds(200);
    private IReadOnlyList<int>? characters;
    private bool begun;

    public LinkedKeyboard(
        StartOptions options,
        KeyboardChoices choices,
        EngineSwitch engineSwitch,
        LibraryService libraryService,
        HostWiring hosts,
        CompanionPage companion,
        DataFolder folder,
        Live.LiveValues live,
        IHubContext<TypingHub> hub,
        IHostApplicationLifetime lifetime,
        ILogger<LinkedKeyboard> log
    )
    {
        (this.options, this.choices, this.engineSwitch, this.libraryService, this.hub, this.log) = (
            options,
            choices,
            engineSwitch,
            libraryService,
            hub,
            log
        );
        companion.Address = $"http://localhost:{options.Port}/companion";
        session = new DesktopSession(
            $"http://localhost:{options.Port}",
            () => engineSwitch.Rest is { Resting: false },
            Rest,
            lifetime.StopApplication
        );
        var program = new LinkProgram
        {
            // While the link waits, keys may be held: a value that takes longer comes as it was before.
            Services = hosts.Services with
            {
                Context = () =>
                    hosts.Services.Context() with
                    {
                        ReadLive = (source, path) => live.Read(source, path, LivePatience),
                    },
            },
            Chords = () => engineSwitch.Typing.Chords.Linked,
            DeliveryIn = choices.DeliveryIn,
            Ended = hosts.Count,
            Rest = () => Rest(engineSwitch.Rest.Resting ? null : 0),
            Say = words => session.Say(words),
            Open = target =>
            {
                if (DesktopOpening.Open(target) is { } problem)
                    session.Say(problem);
            },
            Characters = Characters,
            Seen = app =>
            {
                if (choices.See(app))
                    Tell();
            },
            Companion = companion,
            Sight = session.Sight,
            Hints = () => choices.Chosen.Hints,
        };
        var browser = CompanionBrowser.Find();
        Link = new KeyboardLink(program, () =>
            browser is null
                ? new UsualBrowser()
                : new CompanionBrowser(browser, Path.Combine(folder.Path, "companion"), null)
        );
        // The keys are the user's again at once, however long open pages keep the server.
        lifetime.ApplicationStopping.Register(End);
        Link.Changed += Tell;
        // What went wrong in the link is for whoever mends it; nothing typed is part of it.
        Link.Failed += fault =>
            log.LogError("The keyboard link failed: {Fault} at {Where}", fault.GetType().Name, fault.StackTrace);
        session.SightChanged += Link.SightChanged;
        companion.Link = Link;
    }

    /// <summary>The link.</summary>
    public KeyboardLink Link { get; }

    public Task StartAsync(CancellationToken cancellationToken)
    {
        libraryService.Changed += ProgramChanged;
        engineSwitch.Changed += ProgramChanged;
        if (options.Keyboard ?? choices.Chosen.Enabled)
            Begin();
        return Task.CompletedTask;
    }

    public Task StopAsync(CancellationToken cancellationToken)
    {
        libraryService.Changed -= ProgramChanged;
        engineSwitch.Changed -= ProgramChanged;
        End();
        return Task.CompletedTask;
    }

    public void Dispose()
    {
        Link.Dispose();
        session.Dispose();
    }

    /// <summary>Keeps the settings and does what they say.</summary>
    public void Save(KeyboardSettings settings)
    {
        var before = choices.Chosen;
        choices.Save(settings);
        if (settings.Enabled != before.Enabled)
        {
            if (settings.Enabled)
                Begin();
            else
                End();
        }
        if (Link.State.IsLinked)
            session.ShowTray(settings.Tray);
        Link.ProgramChanged();
    }

    /// <summary>Snippets, settings or the rest have changed.</summary>
    public void ProgramChanged()
    {
        characters = null;
        Link.ProgramChanged();
        session.TrayChanged();
    }

    private void Begin()
    {
        // The command line may have begun already what the settings switch on.
        if (begun)
            return;
        begun = true;
        session.Begin(choices.Chosen.Tray);
        Link.Start();
    }

    private void End()
    {
        begun = false;
        Link.Stop();
        session.End();
    }

    /// <summary>Listens again with null, rests until told with 0, else for some minutes.</summary>
    /// <summary>
    /// What the desktop lacks that the link works without; null when it lacks nothing, or nothing is linked.
    /// </summary>
    public string? SessionProblem => Link.State.IsLinked ? session.Problem : null;

    private void Rest(int? minutes)
    {
        engineSwitch.Change(new EngineChange(Listening: minutes is null, ForMinutes: minutes is > 0 ? minutes : null));
        _ = hub.Clients.All.SendAsync("engine", EngineEndpoints.State(engineSwitch));
    }

    private void Tell() => _ = hub.Clients.All.SendAsync("keyboard");

    /// <summary>The characters that snippets use beyond ASCII, most used first.</summary>
    private IReadOnlyList<int> Characters() =>
        characters ??= [
            .. libraryService
                .Tree.Snippets.SelectMany(item =>
                    item.Snippet.Bodies.SelectMany(body => PreviewText.Of(body).EnumerateRunes())
                        .Where(rune => rune.Value > 0x7f)
                        .Select(rune => rune.Value)
                        .Distinct()
                )
                .CountBy(point => point)
                .OrderByDescending(pair => pair.Value)
                .Select(pair => pair.Key)
                .Take(64),
        ];
}
