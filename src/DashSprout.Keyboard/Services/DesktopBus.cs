using Tmds.DBus.Protocol;

namespace DashSprout.Keyboard.Services;

/// <summary>Short forms for calls on a D-Bus connection.</summary>
internal static class DesktopBus
{
    /// <summary>The longest that anybody on the bus is waited for.</summary>
    public static readonly TimeSpan Patience = TimeSpan.FromSeconds(2);

    /// <summary>Calls a method and reads its answer.</summary>
    public static Task<T> Call<T>(
        this DBusConnection bus,
        (string Service, string Path, string Interface) at,
        string member,
        string? signature,
        WriteBody? body,
        MessageValueReader<T> read
    )
    {
        var writer = bus.GetMessageWriter();
        MessageBuffer message;
        try
        {
            writer.WriteMethodCallHeader(at.Service, at.Path, at.Interface, member, signature);
            body?.Invoke(ref writer);
            message = writer.CreateMessage();
        }
        finally
        {
            writer.Dispose();
        }
        return bus.CallMethodAsync(message, read).WaitAsync(Patience);
    }

    /// <summary>Calls a method that answers nothing.</summary>
    public static Task Call(
        this DBusConnection bus,
        (string Service, string Path, string Interface) at,
        string member,
        string? signature,
        WriteBody? body
    ) => bus.Call(at, member, signature, body, (Message _, object? _) => true);

    /// <summary>Sends a signal.</summary>
    public static void Signal(
        this DBusConnection bus,
        string path,
        string @interface,
        string member,
        string? signature = null,
        WriteBody? body = null
    )
    {
        var writer = bus.GetMessageWriter();
        try
        {
            writer.WriteSignalHeader(null, path, @interface, member, signature);
            body?.Invoke(ref writer);
            bus.TrySendMessage(writer.CreateMessage());
        }
        finally
        {
            writer.Dispose();
        }
    }

    /// <summary>A property of an object.</summary>
    public static Task<VariantValue> Property(
        this DBusConnection bus,
        (string Service, string Path, string Interface) at,
        string name
    ) =>
        bus.Call(
            (at.Service, at.Path, "org.freedesktop.DBus.Properties"),
            "Get",
            "ss",
            (ref MessageWriter writer) =>
            {
                writer.WriteString(at.Interface);
                writer.WriteString(name);
            },
            (Message message, object? _) => message.GetBodyReader().ReadVariantValue()
        );

    /// <summary>Writes a message's body.</summary>
    public delegate void WriteBody(ref MessageWriter writer);

    /// <summary>Whether a fault is one of the bus or of somebody on it, and not of the program.</summary>
    public static bool IsFault(Exception exception) =>
        exception
            is DBusConnectionException
                or DBusErrorReplyException
                or TimeoutException
                or IOException
                or ObjectDisposedException
                or System.Net.Sockets.SocketException
                or AggregateException
                {
                    InnerException: DBusConnectionException or DBusErrorReplyException or TimeoutException
                };
}
