namespace DashSprout.Keyboard.Linking;

/// <summary>A window of an application.</summary>
/// <param name="App">The application's id: the class of its <c>WM_CLASS</c>.</param>
/// <param name="Instance">The instance of its <c>WM_CLASS</c>, mostly the program's file name.</param>
public sealed record DesktopWindow(nint Id, string App, string Instance, string Title, int Pid)
{
    /// <summary>No window: nothing has the focus.</summary>
    public static DesktopWindow None { get; } = new(0, "", "", "", 0);
}
