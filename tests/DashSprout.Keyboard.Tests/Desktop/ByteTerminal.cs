using System.Diagnostics;
using System.Text;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>A terminal that tells each byte as it comes: the time from a key to the text shown.</summary>
internal sealed class ByteTerminal : IDisposable
{
    private readonly FileStream bytes;
    private readonly StringBuilder text = new();
    private readonly Lock gate = new();

    public ByteTerminal(VirtualDesktop desktop)
    {
        var pipe = Path.Combine(desktop.Folder, "bytes");
        desktop.Run("mkfifo", pipe);
        desktop.Start(
            "xterm",
            "-xrm",
            "*backarrowKeyIsErase: true",
            "-e",
            "bash",
            "-c",
            $"stty raw -echo; exec cat > {pipe}"
        );
        bytes = new FileStream(pipe, FileMode.Open, FileAccess.Read);
        new Thread(Read) { IsBackground = true }.Start();
        desktop.Await("XTerm");
    }

    /// <summary>When the last byte came, in <see cref="Stopwatch"/> ticks.</summary>
    public long LastAt { get; private set; }

    /// <summary>Waits until a text has come, and forgets it.</summary>
    public void Await(string end)
    {
        Wait.Until($"“{end}”", () =>
        {
            lock (gate)
                return text.ToString().EndsWith(end, StringComparison.Ordinal);
        });
        lock (gate)
            text.Clear();
    }

    public void Dispose() => bytes.Dispose();

    private void Read()
    {
        var buffer = new byte[4096];
        try
        {
            while (bytes.Read(buffer) is var count and > 0)
            {
                var now = Stopwatch.GetTimestamp();
                lock (gate)
                {
                    LastAt = now;
                    text.Append(Encoding.UTF8.GetString(buffer, 0, count));
                }
            }
        }
        catch (ObjectDisposedException)
        {
            // The terminal is done with.
        }
    }
}
