using DashSprout.Core.Text;
using DashSprout.Keyboard.X11.Native;
using static DashSprout.Keyboard.X11.Native.Drawing;
using static DashSprout.Keyboard.X11.Native.Xlib;

namespace DashSprout.Keyboard.X11;

/// <summary>
/// A small line near the caret that shows what a word would become, or how a text may go on. It never takes the focus,
/// and no window manager knows it.
/// </summary>
internal sealed unsafe class HintWindow(XConnection connection)
{
    private const int Padding = 6,
        MostCharacters = 60;
    private nint window;
    private string? shown;

    /// <summary>Whether it is on the screen.</summary>
    public bool IsShown => shown is not null;

    /// <summary>Shows a text at a place of the screen, under a caret of some height; null hides it.</summary>
    public void Show(string? text, Func<(int X, int Y)> place)
    {
        if (text is not null)
            text = Graphemes.Shortened(text.ReplaceLineEndings(" ⏎ "), MostCharacters);
        if (text == shown)
            return;
        shown = text;
        if (text is null)
        {
            if (window != 0)
                _ = XUnmapWindow(connection.Display, window);
            connection.Flush();
            return;
        }
        if (window == 0)
            window = Make();
        var (x, y) = place();
        Draw(text, x, y);
    }

    private nint Make()
    {
        var attributes = new XSetWindowAttributes { OverrideRedirect = 1 };
        // CopyFromParent for depth, class and visual.
        var made = XCreateWindow(
            connection.Display,
            connection.Root,
            0,
            0,
            1,
            1,
            0,
            0,
            0,
            0,
            XSetWindowAttributes.WithOverrideRedirect,
            &attributes
        );
        connection.SetWords(
            made,
            connection.Atom("_NET_WM_WINDOW_TYPE"),
            connection.Atom("ATOM"),
            connection.Atom("_NET_WM_WINDOW_TYPE_TOOLTIP")
        );
        return made;
    }

    /// <summary>Draws into a picture that becomes the window's background before it shows: it never flickers.</summary>
    private void Draw(string text, int x, int y)
    {
        var display = connection.Display;
        var (screenWidth, screenHeight) = (XDisplayWidth(display, 0), XDisplayHeight(display, 0));
        var width = screenWidth / 2;
        const int roomy = 64;
        var picture = XCreatePixmap(display, connection.Root, (uint)width, roomy, (uint)XDefaultDepth(display, 0));
        var surface = cairo_xlib_surface_create(display, picture, XDefaultVisual(display, 0), width, roomy);
        var cairo = cairo_create(surface);
        var layout = pango_cairo_create_layout(cairo);
        var font = pango_font_description_from_string("sans-serif 10");
        pango_layout_set_font_description(layout, font);
        pango_layout_set_text(layout, text, -1);
        pango_layout_get_pixel_size(layout, out var textWidth, out var textHeight);
        width = Math.Min(width, textWidth + 2 * Padding);
        var height = Math.Min(roomy, textHeight + Padding);
        // Ink-green on warm paper, with an edge of shoot-green.
        cairo_set_source_rgb(cairo, 0.24, 0.55, 0.32);
        cairo_rectangle(cairo, 0, 0, width, height);
        cairo_fill(cairo);
        cairo_set_source_rgb(cairo, 0.985, 0.972, 0.945);
        cairo_rectangle(cairo, 1, 1, width - 2, height - 2);
        cairo_fill(cairo);
        cairo_set_source_rgb(cairo, 0.09, 0.22, 0.17);
        cairo_move_to(cairo, Padding, Padding / 2.0);
        pango_cairo_show_layout(cairo, layout);
        pango_font_description_free(font);
        g_object_unref(layout);
        cairo_destroy(cairo);
        cairo_surface_destroy(surface);
        _ = XMoveResizeWindow(
            display,
            window,
            Math.Clamp(x, 0, Math.Max(0, screenWidth - width)),
            Math.Clamp(y, 0, Math.Max(0, screenHeight - height)),
            (uint)width,
            (uint)height
        );
        _ = XSetWindowBackgroundPixmap(display, window, picture);
        _ = XFreePixmap(display, picture);
        _ = XMapRaised(display, window);
        _ = XClearWindow(display, window);
        connection.Flush();
    }
}
