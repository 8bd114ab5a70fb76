using System.Runtime.InteropServices;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.X11;
using DashSprout.Keyboard.X11.Native;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>
/// Keyboards that come and go, as the display tells of them: the one there is can be taken out and put in, and a second
/// seat comes with keyboards of its own.
/// </summary>
internal static unsafe partial class Plugging
{
    private const int AddMaster = 1,
        RemoveMaster = 2,
        AttachToMaster = 1;
    private const nint Integer = 19;

    /// <summary>Takes the hardware keyboard out, or puts it in.</summary>
    public static void Plug(string display, bool plugged)
    {
        using var connection = Opened(display);
        var value = (byte)(plugged ? 1 : 0);
        XIChangeProperty(
            connection.Display,
            DeviceNamed(connection, "Xvfb keyboard"),
            connection.Atom("Device Enabled"),
            Integer,
            8,
            0,
            &value,
            1
        );
        connection.Sync();
    }

    /// <summary>A connection of its own; a display that is busy may not answer at once.</summary>
    private static XConnection Opened(string display)
    {
        XConnection? connection = null;
        Wait.Until($"the display {display}", () =>
        {
            try
            {
                connection = XConnection.Open(display);
                return true;
            }
            catch (LinkException)
            {
                return false;
            }
        });
        return connection!;
    }

    /// <summary>Adds a second pair of pointer and keyboard.</summary>
    public static void AddSeat(string display)
    {
        using var connection = Opened(display);
        var name = Marshal.StringToCoTaskMemUTF8("Second");
        var change = new AddedMaster
        {
            Type = AddMaster,
            Name = name,
            SendsCore = 1,
            Enable = 1,
        };
        _ = XIChangeHierarchy(connection.Display, &change, 1);
        connection.Sync();
        Marshal.FreeCoTaskMem(name);
    }

    /// <summary>Takes it away again.</summary>
    public static void RemoveSeat(string display)
    {
        using var connection = Opened(display);
        var change = new RemovedMaster
        {
            Type = RemoveMaster,
            Device = DeviceNamed(connection, "Second keyboard"),
            Mode = AttachToMaster,
            Pointer = DeviceNamed(connection, "Virtual core pointer"),
            Keyboard = DeviceNamed(connection, "Virtual core keyboard"),
        };
        _ = XIChangeHierarchy(connection.Display, &change, 1);
        connection.Sync();
    }

    /// <summary>Lets modifiers stay for the next key when they are pressed by themselves.</summary>
    public static void StickyModifiers(string display)
    {
        const uint core = 0x100,
            sticky = 1 << 3;
        using var connection = Opened(display);
        _ = XkbChangeEnabledControls(connection.Display, core, sticky, sticky);
        connection.Sync();
    }

    private static int DeviceNamed(XConnection connection, string name)
    {
        var infos = XInput.XIQueryDevice(connection.Display, XInput.AllDevices, out var count);
        var found = 0;
        for (var at = 0; at < count; at++)
            if (Marshal.PtrToStringUTF8(infos[at].Name) == name)
                found = infos[at].Device;
        XInput.XIFreeDeviceInfo(infos);
        return found != 0 ? found : throw new InvalidOperationException($"The display has no {name}.");
    }

    [StructLayout(LayoutKind.Sequential)]
    private struct AddedMaster
    {
        public int Type;
        public nint Name;
        public int SendsCore;
        public int Enable;
    }

    /// <summary>As large as the largest change, of which the library takes an array.</summary>
    [StructLayout(LayoutKind.Sequential, Size = 24)]
    private struct RemovedMaster
    {
        public int Type;
        public int Device;
        public int Mode;
        public int Pointer;
        public int Keyboard;
    }

    [LibraryImport("libXi.so.6")]
    private static partial int XIChangeHierarchy(nint display, void* changes, int count);

    [LibraryImport("libXi.so.6")]
    private static partial void XIChangeProperty(
        nint display,
        int device,
        nint property,
        nint type,
        int format,
        int mode,
        byte* data,
        int count
    );

    [LibraryImport("libX11.so.6")]
    private static partial int XkbChangeEnabledControls(nint display, uint device, uint affect, uint values);
}
