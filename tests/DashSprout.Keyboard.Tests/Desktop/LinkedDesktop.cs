using System.Text;
using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Learning;
using DashSprout.Core.Libraries;
using DashSprout.Documents;
using DashSprout.Keyboard.Linking;

namespace DashSprout.Keyboard.Tests.Desktop;

/// <summary>A desktop with a link to it, and the snippets of a library file.</summary>
internal sealed class LinkedDesktop : IDisposable
{
    private readonly bool ownsDesktop;

    public LinkedDesktop(
        string snippets,
        VirtualDesktop? desktop = null,
        IFieldSight? sight = null,
        Following? following = null
    )
    {
        ownsDesktop = desktop is null;
        Desktop = desktop ?? new VirtualDesktop();
        var libraries = Read(snippets);
        var index = TriggerIndex.Of(PlacedSnippet.All(libraries));
        following?.Snippets = SnippetBeginnings.Of(index, SnippetBeginnings.None);
        Program = new LinkProgram
        {
            Services = new HostServices
            {
                Index = () => index,
                Context = () => new RenderContext(),
                RestsIn = app => Resting || RestingApps.Contains(app),
                Follow = () => following is null ? new NoFollower() : new TextFollower(following),
                TakeKey = () => following?.Rules.Take ?? OfferKeys.Usual,
            },
            Chords = () => new OwnChords("Ctrl+Alt+ ", "Ctrl+Alt+N", "Ctrl+Alt+R", "Ctrl+Alt+Shift+R"),
            DeliveryIn = app => Deliveries.GetValueOrDefault(app),
            Ended = ended =>
            {
                Ended.Add(ended);
                OnEnded?.Invoke();
            },
            Rest = () =>
            {
                Resting = !Resting;
                Link!.ProgramChanged();
            },
            Say = Said.Add,
            Open = Opened.Add,
            Characters = () =>
            {
                OnRenewed?.Invoke();
                return Characters(libraries);
            },
            Sight = sight,
        };
        Link = new KeyboardLink(Program, () => null, Desktop.Display);
        Link.Changed += () =>
        {
            if (Link.State.Problem is { } problem)
                Said.Add(problem);
        };
        Link.Start();
        Wait.Until("the link", () => Link.State.IsLinked);
        Desktop.Listeners.Add(Settle);
    }

    public VirtualDesktop Desktop { get; }

    public LinkProgram Program { get; }

    public KeyboardLink Link { get; }

    public HardwareKeyboard Keyboard => Desktop.Keyboard;

    public List<Ended> Ended { get; } = [];

    public List<string> Said { get; } = [];

    public List<string> Opened { get; } = [];

    public Dictionary<string, AppDelivery> Deliveries { get; } = [];

    public HashSet<string> RestingApps { get; } = [];

    public bool Resting { get; set; }

    /// <summary>Done on the link's thread when a firing has come to its end.</summary>
    public Action? OnEnded { get; set; }

    /// <summary>Done on the link's thread when it hears that snippets or settings have changed.</summary>
    public Action? OnRenewed { get; set; }

    internal static IReadOnlyList<Library> Read(string snippets)
    {
        var json =
            $$"""{ "format": "dash-sprout-library", "version": 1, "libraries": [ { "name": "Berth desk", "snippets": [ {{snippets}} ] } ] }""";
        return LibraryFile
            .Read(new MemoryStream(Encoding.UTF8.GetBytes(json)), default)
            .GetAwaiter()
            .GetResult()
            .Libraries;
    }

    private static IReadOnlyList<int> Characters(IReadOnlyList<Library> libraries) =>
        [
            .. libraries
                .SelectMany(library => library.AllSnippets())
                .SelectMany(one => PreviewText.Of(one.Snippet.Body).EnumerateRunes())
                .Select(rune => rune.Value)
                .Distinct(),
        ];

    private void Settle()
    {
        var settled = Link.Settled();
        // One that ends meanwhile settles nothing any more.
        Wait.Until("the link to have handled everything", () => settled.IsCompleted || !Link.State.IsLinked);
    }

    public void Dispose()
    {
        Desktop.Listeners.Remove(Settle);
        Link.Dispose();
        if (ownsDesktop)
            Desktop.Dispose();
    }
}
