using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.X11.Native;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// The link's place on a display, which only one can have: a selection that it owns as long as it lives.
/// </summary>
internal static class LinkPlace
{
    /// <summary>Takes the place; throws <see cref="LinkException"/> when another link has it.</summary>
    public static void Take(XConnection connection)
    {
        var place = connection.Atom("_DASH_SPROUT_LINK");
        if (Xlib.XGetSelectionOwner(connection.Display, place) != 0)
            throw new LinkException(
                "Another Dash Sprout is linked to this display already. End it first, or use its page."
            );
        _ = Xlib.XSetSelectionOwner(connection.Display, place, connection.HiddenWindow(), 0);
        connection.Sync();
    }
}
