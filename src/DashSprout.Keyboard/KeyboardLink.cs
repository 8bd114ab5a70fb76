using DashSprout.Core.Engine;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Services;
using DashSprout.Keyboard.X11;

namespace DashSprout.Keyboard;

/// <summary>
/// The keyboard link: ties the engine to the keyboard of an X11 desktop. A link that fails says why and is tried again;
/// it never takes the program down with it.
/// </summary>
public sealed class KeyboardLink(LinkProgram program, Func<ICompanionBrowser?> browser, string? display = null)
    : IDisposable
{
    private const int AgainMs = 1000;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);
    private readonly Lock gate = new();
    private readonly Applications applications = new();

    /// <summary>Ends the link that is wanted; null as long as none is.</summary>
    private CancellationTokenSource? stopping;

    /// <summary>Where the link works, or worked last.</summary>
    private Thread? last;
    private volatile LinkLoop? loop;

    /// <summary>How it stands.</summary>
    public LinkState State { get; private set; } = LinkState.Off;

    /// <summary>Whether the companion window can be shown at once.</summary>
    public bool IsCompanionReady => loop?.IsCompanionReady == true;

    /// <summary>Told when <see cref="State"/> changes, on any thread.</summary>
    public event Action? Changed;

    /// <summary>Links; what comes of it is told by <see cref="State"/>.</summary>
    public void Start()
    {
        lock (gate)
        {
            if (stopping is not null)
                return;
            stopping = new CancellationTokenSource();
            var (stop, before) = (stopping.Token, last);
            last = new Thread(() =>
            {
                // One that was told to stop gives everything back before the next one takes it.
                before?.Join();
                Run(stop);
                Tell(LinkState.Off);
            })
            {
                IsBackground = true,
                Name = "keyboard link",
            };
            last.Start();
        }
    }

    /// <summary>Ends the link and waits until everything is given back, whatever it was about to do.</summary>
    public void Stop()
    {
        CancellationTokenSource? ending;
        Thread? thread;
        lock (gate)
        {
            (ending, thread, stopping) = (stopping, last, null);
        }
        ending?.Cancel();
        thread?.Join();
        ending?.Dispose();
    }

    public void Dispose() => Stop();

    /// <summary>Settings, snippets or the rest have changed.</summary>
    public void ProgramChanged() => Post(one => one.ProgramChanged());

    /// <summary>The field with the focus has told something of itself.</summary>
    public void SightChanged() => Post(one => one.SightChanged());

    /// <summary>The companion page shows what it was told to.</summary>
    public void PageIsReady(int number, bool focused) => loop?.PageIsReady(number, focused);

    /// <summary>A snippet was chosen in the companion window.</summary>
    /// <param name="shown">What it showed by its number, here and below.</param>
    public void Choose(int shown, PlacedSnippet snippet) => Post(one => one.Dialogue.Choose(shown, snippet));

    /// <summary>The slip in the companion window is filled in.</summary>
    public void Fill(int shown, IReadOnlyDictionary<string, string> answers) =>
        Post(one => one.Dialogue.Fill(shown, answers));

    /// <summary>What the companion window asks about may be opened.</summary>
    public void Confirm(int shown) => Post(one => one.Dialogue.Confirm(shown));

    /// <summary>The companion window is left.</summary>
    public void Leave(int shown) => Post(one => one.Dialogue.Leave(shown));

    /// <summary>Types into a window of its own and tells how it went.</summary>
    public Task<LinkCheckAnswer> Check()
    {
        var told = new TaskCompletionSource<LinkCheckAnswer>(TaskCreationOptions.RunContinuationsAsynchronously);
        if (loop is not { } now)
            return Task.FromResult(LinkCheckAnswer.NotLinked(State.Problem));
        now.Post(() => now.Check(told));
        return told.Task.WaitAsync(Patience);
    }

    /// <summary>
    /// Done once everything is handled that had reached the display before; at once where nothing is linked.
    /// </summary>
    internal Task Settled()
    {
        var settled = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        if (loop is not { } now)
            return Task.CompletedTask;
        // What is posted is done before the keys of a turn are read: the second comes behind all of them.
        now.Post(() => now.Post(settled.SetResult));
        return settled.Task;
    }

    private void Post(Action<LinkLoop> what)
    {
        if (loop is { } now)
            now.Post(() => what(now));
    }

    private void Run(CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                if (NoDisplay() is { } words)
                {
                    Tell(new LinkState(false, "", [], words));
                    stop.WaitHandle.WaitOne();
                    return;
                }
                using var linked = new LinkLoop(program, applications, display, browser());
                using var ending = stop.Register(linked.End);
                loop = linked;
                linked.Run(() =>
                    Tell(
                        new LinkState(
                            true,
                            display ?? Environment.GetEnvironmentVariable("DISPLAY") ?? "",
                            linked.Layouts.Names,
                            null
                        )
                    )
                );
            }
            catch (Exception exception)
                when (exception is LinkException or DllNotFoundException or EntryPointNotFoundException)
            {
                Tell(
                    new LinkState(
                        false,
                        display ?? Environment.GetEnvironmentVariable("DISPLAY") ?? "",
                        [],
                        Words(exception)
                    )
                );
            }
            catch (Exception exception)
            {
                // Whatever went wrong, the program goes on and the keys are the user's again.
                Tell(
                    new LinkState(
                        false,
                        display ?? "",
                        [],
                        $"The link has ended by a fault of its own ({exception.GetType().Name}). It is tried again."
                    )
                );
                Failed?.Invoke(exception);
            }
            finally
            {
                loop = null;
            }
            stop.WaitHandle.WaitOne(AgainMs);
        }
    }

    /// <summary>Told of a fault in the link itself, for the log; nothing typed is part of it.</summary>
    public event Action<Exception>? Failed;

    /// <summary>Why there is no display to link to; null when there is one.</summary>
    private string? NoDisplay()
    {
        if (display is not null || !string.IsNullOrEmpty(Environment.GetEnvironmentVariable("DISPLAY")))
            return null;
        return string.IsNullOrEmpty(Environment.GetEnvironmentVariable("WAYLAND_DISPLAY"))
            ? "There is no display: Dash Sprout was started outside a desktop. The page, the desk and the "
                + "proof line work. To expand everywhere, start it from a terminal of the desktop."
            : "This desktop runs on Wayland without X11 windows, where no program may hear another's keys. The "
                + "page, the desk and the proof line work. To expand everywhere, log in to an X11 session.";
    }

    private static string Words(Exception exception) =>
        exception is DllNotFoundException missing
            ? "A library of the X Window System is missing. Install libx11-6, libx11-xcb1, libxi6, libxtst6, "
                + $"libxfixes3, libxkbcommon0 and libxkbcommon-x11-0. ({missing.Message.Split('\n')[0]})"
            : exception.Message;

    private void Tell(LinkState state)
    {
        if (State == state)
            return;
        State = state;
        Changed?.Invoke();
    }
}
