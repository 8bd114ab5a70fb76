using System.Runtime.InteropServices;

namespace DashSprout.Keyboard.X11.Native;

/// <summary>Cairo and Pango, which draw the hint.</summary>
internal static partial class Drawing
{
    private const string Cairo = "libcairo.so.2",
        Pango = "libpango-1.0.so.0",
        PangoCairo = "libpangocairo-1.0.so.0",
        Object = "libgobject-2.0.so.0";

    [LibraryImport(Cairo)]
    public static partial nint cairo_xlib_surface_create(
        nint display,
        nint drawable,
        nint visual,
        int width,
        int height
    );

    [LibraryImport(Cairo)]
    public static partial void cairo_surface_destroy(nint surface);

    [LibraryImport(Cairo)]
    public static partial nint cairo_create(nint surface);

    [LibraryImport(Cairo)]
    public static partial void cairo_destroy(nint cairo);

    [LibraryImport(Cairo)]
    public static partial void cairo_set_source_rgb(nint cairo, double red, double green, double blue);

    [LibraryImport(Cairo)]
    public static partial void cairo_rectangle(nint cairo, double x, double y, double width, double height);

    [LibraryImport(Cairo)]
    public static partial void cairo_fill(nint cairo);

    [LibraryImport(Cairo)]
    public static partial void cairo_move_to(nint cairo, double x, double y);

    [LibraryImport(PangoCairo)]
    public static partial nint pango_cairo_create_layout(nint cairo);

    [LibraryImport(PangoCairo)]
    public static partial void pango_cairo_show_layout(nint cairo, nint layout);

    [LibraryImport(Pango, StringMarshalling = StringMarshalling.Utf8)]
    public static partial void pango_layout_set_text(nint layout, string text, int length);

    [LibraryImport(Pango, StringMarshalling = StringMarshalling.Utf8)]
    public static partial nint pango_font_description_from_string(string description);

    [LibraryImport(Pango)]
    public static partial void pango_font_description_free(nint description);

    [LibraryImport(Pango)]
    public static partial void pango_layout_set_font_description(nint layout, nint description);

    [LibraryImport(Pango)]
    public static partial void pango_layout_get_pixel_size(nint layout, out int width, out int height);

    [LibraryImport(Object)]
    public static partial void g_object_unref(nint what);
}
