using DashSprout.Core.Bodies;
using DashSprout.Core.Hosting;

namespace DashSprout.Keyboard.Linking;

/// <summary>What the companion window shows.</summary>
public abstract record Shown
{
    private Shown() { }

    /// <summary>The finder.</summary>
    public sealed record Finder : Shown;

    /// <summary>A new snippet of what is selected or copied.</summary>
    public sealed record Gather(string Text) : Shown;

    /// <summary>A new snippet of recorded keys.</summary>
    public sealed record Recorded(string Body) : Shown;

    /// <summary>A slip or question of the host, and what its snippet would be worked out from.</summary>
    public sealed record Question(HostQuestion Asked, RenderContext Context) : Shown;
}

/// <summary>The page's side of the companion window: what it is to show, and that it shows it.</summary>
public interface ICompanion
{
    /// <summary>Tells the page to show something.</summary>
    void Show(int number, Shown shown);

    /// <summary>Tells the page to show nothing any more.</summary>
    void Clear();

    /// <summary>Whether the page is there and listens.</summary>
    bool IsLoaded { get; }

    /// <summary>The address of the page.</summary>
    string Address { get; }
}
