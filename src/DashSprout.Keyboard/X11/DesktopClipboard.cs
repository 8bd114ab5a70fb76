using System.Diagnostics;
using System.Runtime.InteropServices;
using DashSprout.Keyboard.Native;
using DashSprout.Keyboard.X11.Native;
using static DashSprout.Keyboard.X11.Native.Xlib;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// The selections of X (ICCCM 2): reads what another program has there, puts something there and serves it, and puts
/// back what was there. On a connection of its own, served by the thread that waits for it.
/// </summary>
internal sealed unsafe class DesktopClipboard : IDisposable
{
    /// <summary>The longest that another program may take for one target, and for all of them.</summary>
    private const int OneMs = 400,
        AllMs = 800;

    /// <summary>The most that is kept of what was there.</summary>
    private const int MostBytes = 64 * 1024 * 1024;

    private readonly XConnection connection;
    private readonly nint window,
        clipboard,
        primary,
        incr,
        transfer,
        targets;
    private readonly int fixesEvent;
    private readonly List<Sending> sendings = [];
    private readonly int chunk;
    private ClipboardContent? served;
    private string? text;
    private bool textIsOld = true,
        changed;

    public DesktopClipboard(string? display)
    {
        connection = XConnection.Open(display);
        window = connection.HiddenWindow();
        (clipboard, primary, incr) = (
            connection.Atom("CLIPBOARD"),
            connection.Atom("PRIMARY"),
            connection.Atom("INCR")
        );
        (transfer, targets) = (connection.Atom("_DASH_SPROUT_TRANSFER"), connection.Atom("TARGETS"));
        chunk = (int)Math.Min(XMaxRequestSize(connection.Display) * 4 - 256, 256 * 1024);
        _ = XSelectInput(connection.Display, window, PropertyChangeMask);
        if (XInput.XFixesQueryExtension(connection.Display, out fixesEvent, out _) != 0)
            XInput.XFixesSelectSelectionInput(connection.Display, window, clipboard, 1);
        else
            fixesEvent = -1;
        connection.Sync();
    }

    /// <summary>A large content on its way in pieces.</summary>
    private sealed record Sending(nint Requestor, nint Property, nint Type, int Format, byte[] Bytes)
    {
        public int At { get; set; }
    }

    public int Socket => connection.Socket;

    /// <summary>Called now and then while something is waited for.</summary>
    public Action Waiting { get; set; } = () => { };

    /// <summary>Who asked for content since it was put there, by the targets they asked for.</summary>
    public List<(nint Requestor, string Target)> Asked { get; } = [];

    /// <summary>When anything was asked last, also what there is, in the program's milliseconds.</summary>
    public long AskedAtMs { get; private set; }

    /// <summary>Whether the link's own content is on the clipboard.</summary>
    public bool IsServing => served is not null;

    /// <summary>The text on the clipboard; null when it is longer than a snippet may take.</summary>
    public string? Text(int most)
    {
        Serve();
        if (textIsOld || fixesEvent < 0)
        {
            text =
                Owner(clipboard) == 0 ? ""
                : served is { } own ? own.Text ?? ""
                : ReadText(clipboard);
            textIsOld = false;
        }
        return text!.Length > most ? null : text;
    }

    /// <summary>The text of PRIMARY: what is selected somewhere, with the window that says so.</summary>
    public (string Text, nint Owner) Selected()
    {
        Serve();
        var owner = Owner(primary);
        return owner == 0 ? ("", 0) : (ReadText(primary), owner);
    }

    /// <summary>Whether something was put on the clipboard since <see cref="ForgetChange"/>.</summary>
    public bool HasChanged
    {
        get
        {
            Serve();
            return changed;
        }
    }

    /// <summary>Begins to look for a change.</summary>
    public void ForgetChange()
    {
        Serve();
        changed = false;
    }

    /// <summary>What is on the clipboard, with all its targets; null when nothing is.</summary>
    public ClipboardContent? Save()
    {
        Serve();
        if (Owner(clipboard) == 0)
            return null;
        if (served is { } own)
            return own;
        if (Read(clipboard, targets) is not { } list)
            return null;
        var parts = new Dictionary<string, ClipboardPart>();
        var clock = Stopwatch.StartNew();
        var size = 0;
        foreach (var atom in MemoryMarshal.Cast<byte, nint>(list.Bytes).ToArray())
        {
            var name = connection.AtomName(atom);
            if (ClipboardContent.NoContent.Contains(name) || clock.ElapsedMilliseconds > AllMs)
                continue;
            if (Read(clipboard, atom) is not { } part)
                continue;
            size += part.Bytes.Length;
            if (size > MostBytes)
                break;
            parts[name] = part;
        }
        return parts.Count == 0 ? null : new ClipboardContent(parts);
    }

    /// <summary>
    /// Puts something on the clipboard, and on PRIMARY too where a terminal pastes from there; null takes everything
    /// away.
    /// </summary>
    public void Put(ClipboardContent? content, bool alsoPrimary = false)
    {
        Asked.Clear();
        served = content;
        textIsOld = true;
        var owner = content is null ? 0 : window;
        _ = XSetSelectionOwner(connection.Display, clipboard, owner, 0);
        if (alsoPrimary)
            _ = XSetSelectionOwner(connection.Display, primary, owner, 0);
        connection.Sync();
    }

    /// <summary>Gives PRIMARY up if the link has it.</summary>
    public void LeavePrimary()
    {
        if (Owner(primary) == window)
            _ = XSetSelectionOwner(connection.Display, primary, 0, 0);
        connection.Sync();
    }

    /// <summary>Answers whoever asks for content.</summary>
    public void Serve()
    {
        while (connection.HasEvent())
            Take(connection.Next());
    }

    public void Dispose() => connection.Dispose();

    private nint Owner(nint selection) => XGetSelectionOwner(connection.Display, selection);

    private string ReadText(nint selection)
    {
        foreach (var target in (ReadOnlySpan<string>)["UTF8_STRING", "STRING"])
        {
            if (Read(selection, connection.Atom(target)) is not { Format: 8 } part)
                continue;
            return part.Type == "STRING"
                ? System.Text.Encoding.Latin1.GetString(part.Bytes)
                : System.Text.Encoding.UTF8.GetString(part.Bytes);
        }
        return "";
    }

    /// <summary>Asks the owner of a selection for a target; large contents come in pieces (INCR).</summary>
    private ClipboardPart? Read(nint selection, nint target)
    {
        _ = XDeleteProperty(connection.Display, window, transfer);
        _ = XConvertSelection(connection.Display, selection, target, transfer, window, 0);
        connection.Flush();
        if (
            Await(OneMs, one =>
                one.Type == SelectionNotify && one.At<nint>(40) == selection && one.At<nint>(48) == target
            )
            is not { } told
        )
            return null;
        if (told.At<nint>(56) == 0 || connection.Property(window, transfer, delete: true) is not { } first)
            return null;
        if (first.Type != incr)
            return new ClipboardPart(connection.AtomName(first.Type), first.Format, first.Bytes);
        using var all = new MemoryStream();
        while (true)
        {
            // The owner writes a piece whenever the last one was taken; an empty one is the end.
            if (
                Await(OneMs, one =>
                    one.Type == PropertyNotify
                    && one.At<nint>(32) == window
                    && one.At<nint>(40) == transfer
                    && one.At<int>(56) == 0
                )
                is null
            )
                return null;
            if (connection.Property(window, transfer, delete: true) is not { } piece)
                continue;
            if (piece.Bytes.Length == 0)
                return new ClipboardPart(connection.AtomName(piece.Type), piece.Format, all.ToArray());
            all.Write(piece.Bytes);
            if (all.Length > MostBytes)
                return null;
        }
    }

    private XEvent? Await(int mostMs, Func<XEvent, bool> wanted)
    {
        var clock = Stopwatch.StartNew();
        while (true)
        {
            while (connection.HasEvent())
            {
                var next = connection.Next();
                if (wanted(next))
                    return next;
                Take(next);
            }
            var left = mostMs - (int)clock.ElapsedMilliseconds;
            if (left <= 0)
                return null;
            Waiting();
            var entry = new PollEntry { File = connection.Socket, Events = Posix.PollIn };
            _ = Posix.poll(&entry, 1, Math.Min(left, 50));
        }
    }

    private void Take(XEvent happened)
    {
        if (happened.Type == fixesEvent)
        {
            (textIsOld, changed) = (true, true);
            return;
        }
        switch (happened.Type)
        {
            case SelectionRequest:
                Answer(happened);
                return;
            case SelectionClear when happened.At<nint>(40) == clipboard && Owner(clipboard) != window:
                // Somebody has copied something: what was there before is no longer wanted.
                served = null;
                return;
            case PropertyNotify when happened.At<int>(56) == 1:
                SendOn(happened.At<nint>(32), happened.At<nint>(40));
                return;
        }
    }

    private void Answer(XEvent request)
    {
        var (requestor, selection, target, property, time) = (
            request.At<nint>(40),
            request.At<nint>(48),
            request.At<nint>(56),
            request.At<nint>(64),
            request.At<nint>(72)
        );
        if (property == 0)
            property = target;
        AskedAtMs = Environment.TickCount64;
        var done =
            served is not null
            && (
                connection.AtomName(target) == "MULTIPLE"
                    ? Several(requestor, property)
                    : One(requestor, target, property)
            );
        var reply = default(XEvent);
        reply.Set(0, SelectionNotify);
        reply.Set(32, requestor);
        reply.Set(40, selection);
        reply.Set(48, target);
        reply.Set(56, done ? property : 0);
        reply.Set(64, time);
        _ = XSendEvent(connection.Display, requestor, 0, 0, &reply);
        connection.Flush();
        connection.ForgetFaults();
    }

    private bool Several(nint requestor, nint property)
    {
        if (connection.Property(requestor, property) is not { Format: 32 } pairs)
            return false;
        var atoms = MemoryMarshal.Cast<byte, nint>(pairs.Bytes).ToArray();
        for (var at = 0; at + 1 < atoms.Length; at += 2)
            if (!One(requestor, atoms[at], atoms[at + 1]))
                atoms[at + 1] = 0;
        connection.SetWords(requestor, property, connection.Atom("ATOM_PAIR"), atoms);
        return true;
    }

    private bool One(nint requestor, nint target, nint property)
    {
        var name = connection.AtomName(target);
        if (name == "TARGETS")
        {
            connection.SetWords(
                requestor,
                property,
                connection.Atom("ATOM"),
                [targets, connection.Atom("MULTIPLE"), .. served!.Parts.Keys.Select(connection.Atom)]
            );
            return true;
        }
        if (!served!.Parts.TryGetValue(name, out var part))
            return false;
        Asked.Add((requestor, name));
        var type = connection.Atom(part.Type);
        if (part.Bytes.Length <= chunk)
        {
            fixed (byte* start = part.Bytes)
                _ = XChangeProperty(
                    connection.Display,
                    requestor,
                    property,
                    type,
                    part.Format,
                    PropModeReplace,
                    start,
                    part.Bytes.Length / Size(part.Format)
                );
            return true;
        }
        _ = XSelectInput(connection.Display, requestor, PropertyChangeMask);
        connection.SetWords(requestor, property, incr, part.Bytes.Length);
        sendings.Add(new Sending(requestor, property, type, part.Format, part.Bytes));
        return true;
    }

    /// <summary>The next piece of a large content, once the last one was taken.</summary>
    private void SendOn(nint requestor, nint property)
    {
        if (sendings.Find(one => one.Requestor == requestor && one.Property == property) is not { } sending)
            return;
        AskedAtMs = Environment.TickCount64;
        var length = Math.Min(chunk, sending.Bytes.Length - sending.At);
        fixed (byte* start = sending.Bytes)
            _ = XChangeProperty(
                connection.Display,
                requestor,
                property,
                sending.Type,
                sending.Format,
                PropModeReplace,
                start + sending.At,
                length / Size(sending.Format)
            );
        sending.At += length;
        connection.Flush();
        if (length == 0)
            sendings.Remove(sending);
    }

    /// <summary>Whether a large content is still on its way.</summary>
    public bool IsSending => sendings.Count > 0;

    /// <summary>Gives up what nobody goes on taking.</summary>
    public void StopSending() => sendings.Clear();

    private static int Size(int format) => format == 32 ? sizeof(nint) : format / 8;
}
