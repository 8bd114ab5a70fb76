using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Services;
using Tmds.DBus.Protocol;

namespace DashSprout.Keyboard.Accessibility;

/// <summary>
/// What applications tell of their fields through AT-SPI, freedesktop.org's interface for assistive technology: whether
/// a field is for pass-phrases, what stands before the caret, and where the caret is. An application that tells nothing
/// is typed in as before.
/// </summary>
internal sealed class FieldSightings : IFieldSight
{
    private const string Accessible = "org.a11y.atspi.Accessible",
        Text = "org.a11y.atspi.Text";

    /// <summary>The role of a field for pass-phrases (<c>ATSPI_ROLE_PASSWORD_TEXT</c>).</summary>
    private const uint PasswordText = 40;

    /// <summary>How long the link waits for an application's answer, and how much text it asks for.</summary>
    private const int AnswerMs = 100,
        MostCharacters = 40;

    /// <summary>
    /// How long a field may take to tell what it is; one of an application that stands still counts as any other then.
    /// </summary>
    private const int PatienceMs = 2000;

    private DBusConnection? bus;
    private Seen? seen;

    private sealed record Seen(string Service, string Path, FieldSight Sight);

    /// <summary>Told when another field has the focus.</summary>
    public event Action? Changed;

    /// <inheritdoc/>
    public FieldSight? Now => Volatile.Read(ref seen)?.Sight;

    /// <summary>Begins to hear which field has the focus.</summary>
    public async Task Begin(DBusConnection session)
    {
        var address = await session.Call(
            ("org.a11y.Bus", "/org/a11y/bus", "org.a11y.Bus"),
            "GetAddress",
            null,
            null,
            (Message message, object? _) => message.GetBodyReader().ReadString()
        );
        var made = new DBusConnection(address);
        await made.ConnectAsync();
        bus = made;
        // Applications tell nothing as long as nobody says that somebody listens.
        await session.Call(
            ("org.a11y.Bus", "/org/a11y/bus", "org.freedesktop.DBus.Properties"),
            "Set",
            "ssv",
            (ref MessageWriter writer) =>
            {
                writer.WriteString("org.a11y.Status");
                writer.WriteString("IsEnabled");
                writer.WriteVariantBool(true);
            }
        );
        await made.Call(
            ("org.a11y.atspi.Registry", "/org/a11y/atspi/registry", "org.a11y.atspi.Registry"),
            "RegisterEvent",
            "s",
            (ref MessageWriter writer) => writer.WriteString("object:state-changed:focused")
        );
        await made.AddMatchAsync(
            new MatchRule
            {
                Type = MessageType.Signal,
                Interface = "org.a11y.atspi.Event.Object",
                Member = "StateChanged",
                Arg0 = "focused",
            },
            (Message message, object? _) =>
            {
                var reader = message.GetBodyReader();
                reader.ReadString();
                return (
                    Sender: message.SenderAsString ?? "",
                    Path: message.PathAsString ?? "",
                    Got: reader.ReadInt32() == 1
                );
            },
            told =>
            {
                if (told.HasValue && told.Value.Got)
                    _ = Look(told.Value.Sender, told.Value.Path);
            },
            emitOnCapturedContext: false,
            ObserverFlags.None,
            null
        );
    }

    public void End()
    {
        bus?.Dispose();
        (bus, seen) = (null, null);
    }

    /// <inheritdoc/>
    public string? TextBeforeCaret() =>
        Ask(
            async (connected, field) =>
            {
                var caret = (await connected.Property((field.Service, field.Path, Text), "CaretOffset")).GetInt32();
                if (caret <= 0)
                    return "";
                return await connected.Call(
                    (field.Service, field.Path, Text),
                    "GetText",
                    "ii",
                    (ref MessageWriter writer) =>
                    {
                        writer.WriteInt32(Math.Max(0, caret - MostCharacters));
                        writer.WriteInt32(caret);
                    },
                    (Message message, object? _) => message.GetBodyReader().ReadString()
                );
            }
        );

    /// <inheritdoc/>
    public bool? EndsLine() =>
        Ask<bool?>(
            async (connected, field) =>
            {
                var caret = (await connected.Property((field.Service, field.Path, Text), "CaretOffset")).GetInt32();
                if (caret < 0)
                    return null;
                return await connected.Call(
                    (field.Service, field.Path, Text),
                    "GetText",
                    "ii",
                    (ref MessageWriter writer) =>
                    {
                        writer.WriteInt32(caret);
                        writer.WriteInt32(caret + 1);
                    },
                    (Message message, object? _) => message.GetBodyReader().ReadString()
                )
                    is ""
                        or "\n"
                        or "\r";
            }
        );

    /// <inheritdoc/>
    public (int X, int Y, int Height)? Caret() =>
        Ask<(int X, int Y, int Height)?>(
            async (connected, field) =>
            {
                var caret = (await connected.Property((field.Service, field.Path, Text), "CaretOffset")).GetInt32();
                var (x, y, height) = await connected.Call(
                    (field.Service, field.Path, Text),
                    "GetCharacterExtents",
                    "iu",
                    (ref MessageWriter writer) =>
                    {
                        // Of the character before the caret: behind a text's end there is none.
                        writer.WriteInt32(Math.Max(0, caret - 1));
                        writer.WriteUInt32(0);
                    },
                    (Message message, object? _) =>
                    {
                        var reader = message.GetBodyReader();
                        var (left, top, width, tall) = (
                            reader.ReadInt32(),
                            reader.ReadInt32(),
                            reader.ReadInt32(),
                            reader.ReadInt32()
                        );
                        return (left + width, top, tall);
                    }
                );
                return x <= 0 && y <= 0 ? null : (x, y, height);
            }
        );

    private async Task Look(string service, string path)
    {
        if (bus is not { } connected)
            return;
        // Until it has answered, nobody knows what it is, but for the one that has the focus already; an answer that
        // comes after the next one was asked is none.
        var before = Volatile.Read(ref seen);
        var asked =
            before is not null && before.Service == service && before.Path == path
                ? before with
                { }
                : new Seen(service, path, FieldSight.Asked);
        Volatile.Write(ref seen, asked);
        if (before?.Sight != asked.Sight)
            Changed?.Invoke();
        FieldSight? told = null;
        try
        {
            told = await Ask(connected, service, path).WaitAsync(TimeSpan.FromMilliseconds(PatienceMs));
        }
        catch (Exception exception) when (DesktopBus.IsFault(exception) || exception is TimeoutException)
        {
            // A field that does not answer is not known; the one before is gone.
        }
        var now = told is null ? null : new Seen(service, path, told);
        if (ReferenceEquals(Interlocked.CompareExchange(ref seen, now, asked), asked))
            Changed?.Invoke();
    }

    private static async Task<FieldSight> Ask(DBusConnection connected, string service, string path)
    {
        var role = connected.Call((service, path, Accessible), "GetRole", null, null, (Message message, object? _) =>
            message.GetBodyReader().ReadUInt32()
        );
        var pid = connected.Call(
            ("org.freedesktop.DBus", "/org/freedesktop/DBus", "org.freedesktop.DBus"),
            "GetConnectionUnixProcessID",
            "s",
            (ref MessageWriter writer) => writer.WriteString(service),
            (Message message, object? _) => message.GetBodyReader().ReadUInt32()
        );
        await Task.WhenAll(role, pid);
        return new FieldSight(await role == PasswordText ? SightKind.Secret : SightKind.Open, (int)await pid);
    }

    private T? Ask<T>(Func<DBusConnection, Seen, Task<T>> question)
    {
        if (bus is not { } connected || seen is not { } field)
            return default;
        try
        {
            var answer = Task.Run(() => question(connected, field));
            return answer.Wait(AnswerMs) ? answer.Result : default;
        }
        catch (AggregateException exception)
            when (DesktopBus.IsFault(exception.InnerException!) || exception.InnerException is InvalidOperationException
            )
        {
            // The application has no text there, or it is gone.
            return default;
        }
    }
}
