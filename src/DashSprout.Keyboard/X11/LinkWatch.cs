using System.ComponentModel;
using System.Diagnostics;
using DashSprout.Keyboard.Native;
using DashSprout.Keyboard.X11.Native;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// Watches that the link never keeps keys. A link that hangs loses its connection within two seconds, by a thread of
/// its own; a program that is stopped as a whole loses it by a small watcher outside. The display then gives everything
/// back by itself.
/// </summary>
internal sealed class LinkWatch : IDisposable
{
    /// <summary>How often the watcher outside is told that the program lives, in milliseconds.</summary>
    public const int BeatMs = 100;

    /// <summary>
    /// How many beats the link may take for one thing. They are counted and not timed: where the machine is so busy that
    /// the link does not get on, the beats do not either.
    /// </summary>
    private const int HangBeats = 12;

    /// <summary>In the place of a number of beats: the link waits for something to happen.</summary>
    private const int Waits = -1;

    /// <summary>
    /// Ends the link's connection when no beat has come for a second; the end of the beats is the end of the watch.
    /// </summary>
    private const string OutsideScript = """
        command -v xkill >/dev/null || exit 3
        while :; do
          IFS= read -r -t 1 _
          told=$?
          [ $told -eq 0 ] && continue
          [ $told -gt 128 ] && exec xkill -display "$1" -id "$2"
          exit
        done
        """;

    private readonly XConnection connection;
    private readonly Thread thread;
    private readonly Process? outside;

    /// <summary>How many beats there were since the link got on.</summary>
    private int beats = Waits;
    private volatile bool ended;

    public LinkWatch(XConnection connection)
    {
        this.connection = connection;
        outside = StartOutside(connection);
        thread = new Thread(Watch) { IsBackground = true, Name = "keyboard link's watch" };
        thread.Start();
    }

    /// <summary>
    /// Whether the watcher outside is at work; without it a stopped program (SIGSTOP) keeps the keys that act.
    /// </summary>
    public bool HasOutside => outside is { HasExited: false };

    /// <summary>The link has got on.</summary>
    public void Working() => Volatile.Write(ref beats, 0);

    /// <summary>The link waits for something to happen.</summary>
    public void Waiting() => Volatile.Write(ref beats, Waits);

    public void Dispose()
    {
        ended = true;
        thread.Join();
        if (outside is null)
            return;
        // The end of its input is the end of the watcher.
        outside.StandardInput.Close();
        outside.Dispose();
    }

    private void Watch()
    {
        while (!ended)
        {
            var now = Volatile.Read(ref beats);
            // The link may get on at this very moment: what it writes stays then.
            if (now != Waits)
                Interlocked.CompareExchange(ref beats, now + 1, now);
            if (now >= HangBeats)
            {
                _ = Posix.shutdown(connection.Socket, Posix.ShutBoth);
                return;
            }
            Beat();
            Thread.Sleep(BeatMs);
        }
    }

    private void Beat()
    {
        if (outside is not { HasExited: false })
            return;
        try
        {
            outside.StandardInput.Write('\n');
            outside.StandardInput.Flush();
        }
        catch (IOException)
        {
            // It has ended between the question and the beat; HasOutside tells from now on.
        }
    }

    /// <summary>
    /// A shell in a session of its own, so that stopping the program in a terminal does not stop it too.
    /// </summary>
    private static Process? StartOutside(XConnection connection)
    {
        var window = connection.HiddenWindow();
        connection.Sync();
        var display = System.Runtime.InteropServices.Marshal.PtrToStringUTF8(Xlib.XDisplayString(connection.Display));
        var start = new ProcessStartInfo("setsid")
        {
            RedirectStandardInput = true,
            RedirectStandardError = true,
            RedirectStandardOutput = true,
        };
        foreach (
            var argument in (string[])["bash", "-c", OutsideScript, "dash-sprout-watch", display ?? "", $"0x{window:x}"]
        )
            start.ArgumentList.Add(argument);
        try
        {
            return Process.Start(start);
        }
        catch (Win32Exception)
        {
            return null;
        }
    }
}
