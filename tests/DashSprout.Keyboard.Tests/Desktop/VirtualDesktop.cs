using System.Diagnostics;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.X11;
using DashSprout.Keyboard.X11.Native;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>
/// A display of its own (Xvfb) with a window manager (openbox), applications in it, and a folder for their files.
/// </summary>
internal sealed class VirtualDesktop : IDisposable
{
    private readonly List<Process> processes = [];
    private readonly bool tellsFields;

    /// <param name="repeats">
    /// Whether a key that is held down repeats after the usual time. Elsewhere it does not: on a busy machine the hand of
    /// a test may be held up with a key down.
    /// </param>
    public VirtualDesktop(string layout = "us", string? variant = null, bool tellsFields = false, bool repeats = false)
    {
        this.tellsFields = tellsFields;
        Folder = Directory.CreateTempSubdirectory("dash-sprout-desktop-").FullName;
        Display = StartServer(repeats ? "" : "-ardelay 600000");
        Bus = StartBus();
        // A display forgets everything when its last client leaves, so one is there first.
        Connection = XConnection.Open(Display);
        if (layout != "us" || variant is not null)
            SetLayout(layout, variant);
        // Another window manager is tried by hand: DASH_SPROUT_WINDOWS="xfwm4 --compositor=off" ./test
        var manager = (Environment.GetEnvironmentVariable("DASH_SPROUT_WINDOWS") ?? "openbox --sm-disable").Split(' ');
        Start(manager[0], manager[1..]);
        Windows = new DesktopWindows(Connection);
        Keyboard = new HardwareKeyboard(Display);
        Wait.Until("a window manager", () => Connection.Words(Connection.Root, "_NET_SUPPORTING_WM_CHECK").Length > 0);
    }

    public string Display { get; }

    /// <summary>The address of its D-Bus session.</summary>
    public string Bus { get; }

    public string Folder { get; }

    public XConnection Connection { get; }

    public DesktopWindows Windows { get; }

    public HardwareKeyboard Keyboard { get; }

    /// <summary>Waits until those who hear this display's keys have handled what reached it.</summary>
    public List<Action> Listeners { get; } = [];

    /// <summary>
    /// Waits until every key that was typed has been handled, as somebody does who sees the text before going on.
    /// </summary>
    public void Settle()
    {
        Keyboard.Sync();
        foreach (var settled in Listeners)
            settled();
    }

    public void SetLayout(string layout, string? variant = null, string? options = null) =>
        Run(
            "setxkbmap",
            [
                "-layout",
                layout,
                .. variant is null ? (string[])[] : ["-variant", variant],
                .. options is null ? (string[])[] : ["-option", "", "-option", options],
            ]
        );

    /// <summary>Another program has copied a text.</summary>
    public void Copy(string text)
    {
        File.WriteAllText(Path.Combine(Folder, "note.txt"), text);
        Start("xclip", "-selection", "clipboard", "-i", "note.txt");
        Wait.Until("the copied text", () => Selected("clipboard") == text);
    }

    /// <summary>What a selection holds: <c>clipboard</c> or <c>primary</c>.</summary>
    public string Selected(string selection) => Run("xclip", "-selection", selection, "-o");

    /// <summary>
    /// Waits until a link has read a keymap that has just changed, which it does once it has been at rest for a moment.
    /// </summary>
    public void SettleKeymap()
    {
        Keyboard.ReadLayout();
        Settle();
        Thread.Sleep(100);
        Settle();
    }

    /// <summary>Presses the Menu key that switches to the second of two layouts, until it is in force.</summary>
    public void SwitchGroup()
    {
        const byte menu = 135;
        for (var tries = 0; tries < 20; tries++)
        {
            Keyboard.Press(menu, true);
            Keyboard.Press(menu, false);
            Settle();
            if (Group() == 1)
                return;
        }
        throw new TimeoutException("The Menu key does not switch the layout.");
    }

    /// <summary>The layout's group that is locked.</summary>
    private unsafe int Group()
    {
        var state = stackalloc byte[32];
        _ = Xkb.XkbGetState(Connection.Display, Xkb.CoreKeyboard, state);
        return state[1];
    }

    /// <summary>Starts a program on this display.</summary>
    public Process Start(string program, params IEnumerable<string> arguments)
    {
        var start = new ProcessStartInfo(program)
        {
            WorkingDirectory = Folder,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        foreach (var argument in arguments)
            start.ArgumentList.Add(argument);
        Surround(start);
        var process = Process.Start(start)!;
        process.OutputDataReceived += (_, _) => { };
        process.ErrorDataReceived += (_, _) => { };
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        processes.Add(process);
        return process;
    }

    /// <summary>Runs a program to its end and gives what it printed.</summary>
    public string Run(string program, params IEnumerable<string> arguments)
    {
        var start = new ProcessStartInfo(program)
        {
            WorkingDirectory = Folder,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        foreach (var argument in arguments)
            start.ArgumentList.Add(argument);
        Surround(start);
        using var process = Process.Start(start)!;
        var output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return output;
    }

    /// <summary>A terminal whose lines are written to a file as they are entered.</summary>
    public OpenApplication Terminal()
    {
        var file = Path.Combine(Folder, $"terminal-{Guid.NewGuid():N}.txt");
        // The keyboard's erase key must be the line's.
        var process = Start(
            "xterm",
            "-xrm",
            "*backarrowKeyIsErase: true",
            "-xrm",
            "*ptyInitialErase: true",
            "-e",
            "bash",
            "-c",
            $"stty -echoctl; exec cat > {file}"
        );
        return Opened(process, "XTerm", file);
    }

    /// <summary>An editor of the GTK family that saves to a file by Ctrl+S.</summary>
    public OpenApplication GtkEditor()
    {
        var file = Path.Combine(Folder, $"editor-{Guid.NewGuid():N}.txt");
        File.WriteAllText(file, "");
        return Opened(Start("mousepad", "--disable-server", file), "Mousepad", file);
    }

    /// <summary>An editor of the Qt family that saves to a file by Ctrl+S.</summary>
    public OpenApplication QtEditor()
    {
        var file = Path.Combine(Folder, $"qt-{Guid.NewGuid():N}.txt");
        File.WriteAllText(file, "");
        return Opened(Start("featherpad", "--standalone", file), "featherpad", file);
    }

    /// <summary>An editor of GTK 4 that saves to a file by Ctrl+S.</summary>
    public OpenApplication Gtk4Editor()
    {
        var file = Path.Combine(Folder, $"gtk4-{Guid.NewGuid():N}.txt");
        File.WriteAllText(file, "");
        var editor = Opened(
            Start("env", "GDK_BACKEND=x11", "GSK_RENDERER=cairo", "gnome-text-editor", "--standalone", file),
            "gnome-text-editor",
            file
        );
        editor.AwaitFirstLetter(text => text.Contains('x', StringComparison.Ordinal));
        return editor;
    }

    /// <summary>A terminal of the VTE library whose lines are written to a file as they are entered.</summary>
    public OpenApplication VteTerminal()
    {
        var file = Path.Combine(Folder, $"vte-{Guid.NewGuid():N}.txt");
        return Opened(
            Start("lxterminal", "--no-remote", "-e", $"bash -c 'stty -echoctl erase ^?; exec cat > {file}'"),
            "Lxterminal",
            file
        );
    }

    public void Dispose()
    {
        Keyboard.Dispose();
        Connection.Dispose();
        foreach (var process in Enumerable.Reverse(processes))
        {
            try
            {
                process.Kill(entireProcessTree: true);
                process.WaitForExit(2000);
            }
            catch (InvalidOperationException)
            {
                // It has ended by itself.
            }
            process.Dispose();
        }
        try
        {
            Directory.Delete(Folder, recursive: true);
        }
        catch (IOException)
        {
            // An application that is just ending may still write there; the folder is temporary anyway.
        }
    }

    /// <summary>Waits until the window of an application is in front.</summary>
    public DesktopWindow Await(string app)
    {
        DesktopWindow? window = null;
        Wait.Until($"the window of {app}", () =>
        {
            window = Windows.Active();
            return string.Equals(window.App, app, StringComparison.OrdinalIgnoreCase) && window.Title.Length > 0;
        });
        return window!;
    }

    private OpenApplication Opened(Process process, string app, string file)
    {
        var window = Await(app);
        Wait.Until($"{app} with the keyboard", () => Windows.HasKeys(window.Id));
        // A link must have heard of the window before somebody types into it, as it has where a hand does.
        Settle();
        return new OpenApplication(this, process, window, file);
    }

    /// <summary>Folders in which programs are looked for; null for the usual ones.</summary>
    public string? ProgramFolders { get; private set; }

    /// <summary>
    /// From now on no browser of the Chromium family is found by its name, and whatever is opened opens in a usual
    /// browser, which is a window of Chromium here all the same.
    /// </summary>
    public void HideChromium()
    {
        var folder = Path.Combine(Folder, "programs");
        Directory.CreateDirectory(folder);
        foreach (
            var program in Directory
                .EnumerateFiles("/usr/bin")
                .Where(file =>
                    !Path.GetFileName(file).Contains("chrom", StringComparison.Ordinal)
                    && !file.EndsWith("/xdg-open", StringComparison.Ordinal)
                )
        )
            File.CreateSymbolicLink(Path.Combine(folder, Path.GetFileName(program)), program);
        var opener = Path.Combine(folder, "xdg-open");
        File.WriteAllText(
            opener,
            $"""
            #!/bin/bash
            exec /usr/bin/chromium --user-data-dir={Folder}/usual --ozone-platform=x11 \
                --no-first-run --no-default-browser-check --password-store=basic --no-sandbox --test-type --disable-gpu \
              --disable-dev-shm-usage --disable-background-networking --new-window "$1"
            """
        );
        File.SetUnixFileMode(opener, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        ProgramFolders = folder;
    }

    /// <summary>Sets a program's surroundings to this desktop.</summary>
    public void Surround(ProcessStartInfo start)
    {
        start.Environment["DISPLAY"] = Display;
        start.Environment["DBUS_SESSION_BUS_ADDRESS"] = Bus;
        start.Environment["HOME"] = Folder;
        start.Environment["XDG_CONFIG_HOME"] = Path.Combine(Folder, "config");
        start.Environment["XDG_RUNTIME_DIR"] = Folder;
        start.Environment["LC_ALL"] = "C.UTF-8";
        if (!tellsFields)
            start.Environment["NO_AT_BRIDGE"] = "1";
        start.Environment["GSETTINGS_BACKEND"] = "memory";
        start.Environment.Remove("WAYLAND_DISPLAY");
        if (ProgramFolders is { } folders)
            start.Environment["PATH"] = folders;
    }

    private string StartBus()
    {
        var start = new ProcessStartInfo("dbus-daemon")
        {
            ArgumentList = { "--session", "--nofork", "--nopidfile", "--print-address=1" },
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.Environment["DISPLAY"] = Display;
        start.Environment["XDG_RUNTIME_DIR"] = Folder;
        start.Environment["HOME"] = Folder;
        var process = Process.Start(start)!;
        processes.Add(process);
        return process.StandardOutput.ReadLine() ?? throw new InvalidOperationException("dbus-daemon did not start.");
    }

    private string StartServer(string options)
    {
        var start = new ProcessStartInfo("bash")
        {
            ArgumentList =
            {
                "-c",
                $"exec Xvfb -displayfd 1 -screen 0 1280x800x24 -nolisten tcp {options} 2>/dev/null",
            },
            RedirectStandardOutput = true,
        };
        var process = Process.Start(start)!;
        processes.Add(process);
        var number = process.StandardOutput.ReadLine();
        if (string.IsNullOrEmpty(number))
            throw new InvalidOperationException("Xvfb did not start.");
        return ":" + number;
    }
}
