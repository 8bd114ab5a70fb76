using Tmds.DBus.Protocol;

namespace DashSprout.Keyboard.Services;

/// <summary>
/// An item in the desktop's tray, by freedesktop.org's StatusNotifierItem with a menu by <c>com.canonical.dbusmenu</c>:
/// whether the engine listens, resting for a while, the page, and the end.
/// </summary>
internal sealed class TrayItem(DBusConnection bus, Func<bool> listens, Action<int?> rest, Action open, Action quit)
{
    private const string Item = "org.kde.StatusNotifierItem",
        Menu = "com.canonical.dbusmenu",
        Properties = "org.freedesktop.DBus.Properties";
    private const string ItemPath = "/StatusNotifierItem",
        MenuPath = "/Menu";
    private uint revision = 1;

    private sealed class Handler(string path, Action<MethodContext> handle) : IPathMethodHandler
    {
        public string Path => path;

        public bool HandlesChildPaths => false;

        public ValueTask HandleMethodAsync(MethodContext context)
        {
            handle(context);
            return ValueTask.CompletedTask;
        }
    }

    /// <summary>The menu's lines, by number; an empty one is a rule.</summary>
    private IReadOnlyList<(int Id, string Label, Action Act)> Lines =>
        listens()
            ?
            [
                (1, "Open Dash Sprout", open),
                (2, "", () => { }),
                (3, "Rest", () => rest(0)),
                (4, "Rest for 15 minutes", () => rest(15)),
                (5, "Rest for an hour", () => rest(60)),
                (6, "", () => { }),
                (7, "Quit", quit),
            ]
            :
            [
                (1, "Open Dash Sprout", open),
                (2, "", () => { }),
                (3, "Listen again", () => rest(null)),
                (6, "", () => { }),
                (7, "Quit", quit),
            ];

    /// <summary>Shows the item; throws when the desktop has no tray.</summary>
    public async Task Show()
    {
        bus.AddMethodHandlers([new Handler(ItemPath, HandleItem), new Handler(MenuPath, HandleMenu)]);
        await bus.Call(
            ("org.kde.StatusNotifierWatcher", "/StatusNotifierWatcher", "org.kde.StatusNotifierWatcher"),
            "RegisterStatusNotifierItem",
            "s",
            (ref MessageWriter writer) => writer.WriteString(ItemPath)
        );
    }

    /// <summary>Takes the item away.</summary>
    public void Hide()
    {
        bus.Signal(ItemPath, Item, "NewStatus", "s", (ref MessageWriter writer) => writer.WriteString("Passive"));
        bus.RemoveMethodHandlers([ItemPath, MenuPath]);
    }

    /// <summary>Whether the engine listens has changed.</summary>
    public void Refresh()
    {
        revision++;
        bus.Signal(ItemPath, Item, "NewTitle");
        bus.Signal(ItemPath, Item, "NewIcon");
        bus.Signal(MenuPath, Menu, "LayoutUpdated", "ui", (ref MessageWriter writer) =>
        {
            writer.WriteUInt32(revision);
            writer.WriteInt32(0);
        });
    }

    private Dictionary<string, VariantValue> ItemProperties() =>
        new()
        {
            ["Category"] = VariantValue.String("ApplicationStatus"),
            ["Id"] = VariantValue.String("dash-sprout"),
            ["Title"] = VariantValue.String(listens() ? "Dash Sprout: listening" : "Dash Sprout: resting"),
            ["Status"] = VariantValue.String("Active"),
            ["IconName"] = VariantValue.String(listens() ? "dash-sprout" : "dash-sprout-resting"),
            ["Menu"] = VariantValue.ObjectPath(new ObjectPath(MenuPath)),
            ["ItemIsMenu"] = VariantValue.Bool(false),
        };

    private void HandleItem(MethodContext context)
    {
        var request = context.Request;
        var reader = request.GetBodyReader();
        switch (request.InterfaceAsString, request.MemberAsString)
        {
            case (Properties, "GetAll"):
                Reply(context, "a{sv}", (ref MessageWriter writer) => writer.WriteDictionary(ItemProperties()));
                return;
            case (Properties, "Get"):
                reader.ReadString();
                var name = reader.ReadString();
                if (ItemProperties().TryGetValue(name, out var value))
                    Reply(context, "v", (ref MessageWriter writer) => writer.WriteVariant(value));
                else
                    context.ReplyError("org.freedesktop.DBus.Error.UnknownProperty", "There is no such property.");
                return;
            case (Item, "Activate"):
                Reply(context, null, null);
                open();
                return;
            case (Item, "SecondaryActivate"):
                Reply(context, null, null);
                rest(listens() ? 0 : null);
                return;
            case (Item, "ContextMenu" or "Scroll"):
                Reply(context, null, null);
                return;
            default:
                context.ReplyUnknownMethodError();
                return;
        }
    }

    private void HandleMenu(MethodContext context)
    {
        var request = context.Request;
        var reader = request.GetBodyReader();
        switch (request.InterfaceAsString, request.MemberAsString)
        {
            case (Menu, "GetLayout"):
                Reply(context, "u(ia{sv}av)", (ref MessageWriter writer) =>
                {
                    writer.WriteUInt32(revision);
                    writer.WriteStructureStart();
                    writer.WriteInt32(0);
                    writer.WriteDictionary(
                        new Dictionary<string, VariantValue> { ["children-display"] = VariantValue.String("submenu") }
                    );
                    var lines = writer.WriteArrayStart(DBusType.Variant);
                    foreach (var line in Lines)
                        WriteLine(ref writer, line);
                    writer.WriteArrayEnd(lines);
                });
                return;
            case (Menu, "GetGroupProperties"):
                Reply(context, "a(ia{sv})", (ref MessageWriter writer) =>
                {
                    var all = writer.WriteArrayStart(DBusType.Struct);
                    foreach (var line in Lines)
                    {
                        writer.WriteStructureStart();
                        writer.WriteInt32(line.Id);
                        writer.WriteDictionary(PropertiesOf(line));
                    }
                    writer.WriteArrayEnd(all);
                });
                return;
            case (Menu, "AboutToShow"):
                Reply(context, "b", (ref MessageWriter writer) => writer.WriteBool(false));
                return;
            case (Menu, "Event"):
                var id = reader.ReadInt32();
                var what = reader.ReadString();
                Reply(context, null, null);
                if (what == "clicked" && Lines.FirstOrDefault(line => line.Id == id) is { Act: { } act })
                    act();
                return;
            case (Properties, "GetAll"):
                Reply(context, "a{sv}", (ref MessageWriter writer) => writer.WriteDictionary(
                        new Dictionary<string, VariantValue>
                        {
                            ["Version"] = VariantValue.UInt32(3),
                            ["Status"] = VariantValue.String("normal"),
                            ["TextDirection"] = VariantValue.String("ltr"),
                        }
                    ));
                return;
            default:
                context.ReplyUnknownMethodError();
                return;
        }
    }

    private static Dictionary<string, VariantValue> PropertiesOf((int Id, string Label, Action Act) line) =>
        line.Label.Length == 0
            ? new() { ["type"] = VariantValue.String("separator") }
            : new() { ["label"] = VariantValue.String(line.Label) };

    /// <summary>A line as the variant of a structure, with no lines beneath it.</summary>
    private static void WriteLine(ref MessageWriter writer, (int Id, string Label, Action Act) line)
    {
        writer.WriteSignature("(ia{sv}av)");
        writer.WriteStructureStart();
        writer.WriteInt32(line.Id);
        writer.WriteDictionary(PropertiesOf(line));
        var none = writer.WriteArrayStart(DBusType.Variant);
        writer.WriteArrayEnd(none);
    }

    private static void Reply(MethodContext context, string? signature, DesktopBus.WriteBody? body)
    {
        var writer = context.CreateReplyWriter(signature!);
        try
        {
            body?.Invoke(ref writer);
            context.Reply(writer.CreateMessage());
        }
        finally
        {
            writer.Dispose();
        }
    }
}
