using System.Diagnostics;
using DashSprout.Keyboard.Accessibility;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Services;
using DashSprout.Keyboard.Tests.Desktop;
using Tmds.DBus.Protocol;
using Xunit;

namespace DashSprout.Keyboard.Tests;

/// <summary>
/// What the link has of a desktop session: fields that their applications describe, notices, the tray.
/// </summary>
public sealed class SessionTests
{
    private const string Snippets = """
        { "name": "The", "text": "the", "triggers": [ { "kind": "abbreviation", "text": "teh" } ] },
        { "name": "At once", "text": "EST", "triggers": [ { "kind": "abbreviation", "text": "est", "timing": "at-once", "leftEdge": "word" } ] }
        """;

    [Fact]
    public void WhatIsOpenedGoesOnWhateverItSays()
    {
        var folder = Directory.CreateTempSubdirectory("dash-sprout-opening-").FullName;
        var (program, done) = (Path.Combine(folder, "program"), Path.Combine(folder, "done"));
        File.WriteAllText(
            program,
            """
            #!/bin/sh
            sleep 0.2
            for line in 1 2 3; do echo "$line"; echo "$line" >&2; done
            echo "$1" > "$(dirname "$0")/done"
            """
        );
        File.SetUnixFileMode(program, UnixFileMode.UserRead | UnixFileMode.UserExecute);
        Assert.Null(DesktopOpening.Start(program, "a list; of 'berths'"));
        Wait.Until("its end", () => File.Exists(done) && !Wait.IsOpen(done));
        Assert.Equal("a list; of 'berths'\n", File.ReadAllText(done));
        Assert.Contains(
            "not installed",
            DesktopOpening.Start(Path.Combine(folder, "none"), "x")!,
            StringComparison.Ordinal
        );
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public Task APassPhraseIsLeftAlone() =>
        Free(async () =>
        {
            using var desktop = new VirtualDesktop(tellsFields: true);
            using var bus = new DBusConnection(desktop.Bus);
            await bus.ConnectAsync();
            var sightings = new FieldSightings();
            await sightings.Begin(bus);
            // The bus goes on by itself while the desktop is waited for.
            await Task.Delay(1);
            using var desk = new LinkedDesktop(Snippets, desktop, sightings);
            sightings.Changed += desk.Link.SightChanged;
            var start = new ProcessStartInfo("zenity", ["--password"])
            {
                RedirectStandardOutput = true,
                RedirectStandardError = true,
            };
            desktop.Surround(start);
            using var asks = Process.Start(start)!;
            desktop.Await("Zenity");
            await Until("the field to be known", () => sightings.Now is { Kind: SightKind.Secret });
            desktop.Settle();
            desk.Keyboard.Type("teh x");
            desk.Keyboard.Tap("Return");
            Assert.Equal("teh x", (await asks.StandardOutput.ReadToEndAsync()).TrimEnd('\n'));
            Assert.Empty(desk.Ended);
            // A terminal tells nothing of its fields, and the pass-phrase's was another program's.
            var terminal = desktop.Terminal();
            desk.Keyboard.Type("teh\n");
            await Until("the line", () => terminal.Lines() is ["the"]);
            sightings.End();
        });

    [Fact]
    public Task AfterACaretKeyTheApplicationTellsWhatStandsBefore() =>
        Free(async () =>
        {
            using var desktop = new VirtualDesktop(tellsFields: true);
            using var bus = new DBusConnection(desktop.Bus);
            await bus.ConnectAsync();
            var sightings = new FieldSightings();
            await sightings.Begin(bus);
            // The bus goes on by itself while the desktop is waited for.
            await Task.Delay(1);
            using var desk = new LinkedDesktop(Snippets, desktop, sightings);
            var editor = desktop.GtkEditor();
            desk.Keyboard.Type("for x");
            await Until("the field to be known", () =>
                sightings.Now is not null && sightings.TextBeforeCaret() == "for x"
            );
            // Between r and the space: what is typed there stands inside a word.
            desk.Keyboard.Tap("Left");
            desk.Keyboard.Tap("Left");
            await Until("the caret", () => sightings.TextBeforeCaret() == "for");
            Looked();
            desk.Keyboard.Type("est ");
            Assert.Equal("forest  x", editor.Saved());
            desk.Keyboard.Tap("End");
            Looked();
            desk.Keyboard.Type(" est ");
            Assert.Equal("forest  x EST ", editor.Saved());
            await Until("the place of the caret", () => sightings.Caret() is not null);
            sightings.End();

            // The link looks a moment after a caret key, when the application has moved the caret.
            void Looked()
            {
                Thread.Sleep(100);
                desktop.Settle();
            }
        });

    [Fact]
    public Task NoticesAreShownByTheDesktop() =>
        Free(async () =>
        {
            using var desktop = new VirtualDesktop();
            using var bus = new DBusConnection(desktop.Bus);
            await bus.ConnectAsync();
            var shown = new List<string>();
            bus.AddMethodHandler(new Notices(shown));
            Assert.True(await bus.TryRequestNameAsync("org.freedesktop.Notifications", RequestNameOptions.None));
            await WithSession(desktop, async session =>
            {
                session.Say("Not put in: <b> & more");
                await Until("the notice", () => shown.Count == 1);
            });
            Assert.Equal("Not put in: &lt;b&gt; &amp; more", shown[0]);
        });

    [Fact]
    public Task TheTrayItemTellsItsStateAndItsMenuRests() =>
        Free(async () =>
        {
            using var desktop = new VirtualDesktop();
            using var bus = new DBusConnection(desktop.Bus);
            await bus.ConnectAsync();
            var watcher = new TrayWatcher();
            bus.AddMethodHandler(watcher);
            Assert.True(await bus.TryRequestNameAsync("org.kde.StatusNotifierWatcher", RequestNameOptions.None));
            var rests = new List<int?>();
            var listens = true;
            await WithSession(
                desktop,
                async session =>
                {
                    await Until("the item", () => watcher.Owner.Length > 0);
                    var item = (watcher.Owner, "/StatusNotifierItem", "org.kde.StatusNotifierItem");
                    Assert.Equal("Dash Sprout: listening", (await bus.Property(item, "Title")).GetString());
                    // The third line of the menu lets the engine rest for a quarter of an hour.
                    await bus.Call(
                        (watcher.Owner, "/Menu", "com.canonical.dbusmenu"),
                        "Event",
                        "isvu",
                        (ref MessageWriter writer) =>
                        {
                            writer.WriteInt32(4);
                            writer.WriteString("clicked");
                            writer.WriteVariantString("");
                            writer.WriteUInt32(0);
                        }
                    );
                    await Until("the rest", () => rests.Count == 1);
                    Assert.Equal(15, rests[0]);
                    listens = false;
                    session.TrayChanged();
                    Assert.Equal("Dash Sprout: resting", (await bus.Property(item, "Title")).GetString());
                    var lines = await bus.Call(
                        (watcher.Owner, "/Menu", "com.canonical.dbusmenu"),
                        "GetLayout",
                        "iias",
                        (ref MessageWriter writer) =>
                        {
                            writer.WriteInt32(0);
                            writer.WriteInt32(-1);
                            writer.WriteArray(Array.Empty<string>());
                        },
                        (Message message, object? _) => message.SignatureAsString
                    );
                    Assert.Equal("u(ia{sv}av)", lines);
                },
                () => listens,
                rests.Add
            );
        });

    /// <summary>Outside the tests' own context, which would wait for itself while a test waits.</summary>
    private static Task Free(Func<Task> test) => Task.Run(test);

    /// <summary>Waits without keeping the thread, on which a bus may be about to tell something.</summary>
    private static async Task Until(string what, Func<bool> done)
    {
        for (var clock = Stopwatch.StartNew(); !done(); await Task.Delay(10))
            if (clock.Elapsed > Patience.Longest)
                throw new TimeoutException($"Waited {Patience.Longest} for {what}.");
    }

    private static async Task WithSession(
        VirtualDesktop desktop,
        Func<DesktopSession, Task> use,
        Func<bool>? listens = null,
        Action<int?>? rest = null
    )
    {
        using var session = new DesktopSession(
            "http://localhost",
            listens ?? (() => true),
            rest ?? (_ => { }),
            () => { },
            desktop.Bus
        );
        session.Begin(showTray: true);
        await use(session);
    }

    private sealed class Notices(List<string> shown) : IPathMethodHandler
    {
        public string Path => "/org/freedesktop/Notifications";

        public bool HandlesChildPaths => false;

        public ValueTask HandleMethodAsync(MethodContext context)
        {
            var reader = context.Request.GetBodyReader();
            reader.ReadString();
            reader.ReadUInt32();
            reader.ReadString();
            reader.ReadString();
            shown.Add(reader.ReadString());
            using var writer = context.CreateReplyWriter("u");
            writer.WriteUInt32(1);
            context.Reply(writer.CreateMessage());
            return ValueTask.CompletedTask;
        }
    }

    private sealed class TrayWatcher : IPathMethodHandler
    {
        public string Path => "/StatusNotifierWatcher";

        public bool HandlesChildPaths => false;

        public string Owner { get; private set; } = "";

        public ValueTask HandleMethodAsync(MethodContext context)
        {
            Owner = context.Request.SenderAsString ?? "";
            using var writer = context.CreateReplyWriter(null!);
            context.Reply(writer.CreateMessage());
            return ValueTask.CompletedTask;
        }
    }
}
