using DashSprout.Core.Bodies;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;
using DashSprout.Keyboard.Linking;
using DashSprout.Keyboard.Tests.Desktop;
using Xunit;

namespace DashSprout.Keyboard.Tests.Linking;

/// <summary>What the host says is carried out whole, or what was typed is there again, whatever fails when.</summary>
public sealed class HostDriverTests
{
    private const string Snippets = """
        { "name": "Typed", "text": "Your berth is confirmed.",
          "triggers": [ { "kind": "abbreviation", "text": ";b", "timing": "at-once" } ] },
        { "name": "Pasted", "text": "Gate → 4",
          "triggers": [ { "kind": "abbreviation", "text": ";g", "timing": "at-once" } ] },
        { "name": "Lines", "text": "one\ntwo",
          "triggers": [ { "kind": "abbreviation", "text": ";l", "timing": "at-once" } ] },
        { "name": "Caret", "body": "<p>berth (<wbr data-caret>) free</p>",
          "triggers": [ { "kind": "abbreviation", "text": ";c", "timing": "at-once" } ] },
        { "name": "Closed", "text": "harbour office",
          "triggers": [ { "kind": "abbreviation", "text": "hof" } ] }
        """;

    private readonly List<string> said = [];
    private readonly List<Ended> ended = [];

    public static TheoryData<string, string> Texts =>
        new()
        {
            { "at ;b", "at Your berth is confirmed." },
            { "at ;g", "at Gate → 4" },
            { "at ;l", "at one\ntwo" },
            { "at hof ", "at harbour office " },
        };

    [Theory]
    [MemberData(nameof(Texts))]
    public void WhatGoesOffGoesInWhole(string typed, string shown)
    {
        var application = new ModelApplication();
        Typist(application).Invoke(typed);
        Assert.Equal(shown, application.Text);
        Assert.Equal("copied before", application.Clipboard);
        Assert.Single(ended);
        Assert.Empty(said);
    }

    /// <summary>At every point: the application refuses, loses the focus, or the link itself has a fault.</summary>
    [Theory]
    [MemberData(nameof(Texts))]
    public void WhateverStopsItNothingIsLost(string typed, string shown)
    {
        Action<ModelApplication>[] faults =
        [
            _ => throw new DeliveryStopped("It does not take it."),
            application =>
            {
                application.IsInFront = false;
                throw new DeliveryStopped(null);
            },
            _ => throw new InvalidOperationException("a fault of the link"),
        ];
        foreach (var fault in faults)
            for (var at = 0; ; at++)
            {
                var application = new ModelApplication();
                var failed = false;
                application.At = point =>
                {
                    if (point != at || failed)
                        return;
                    failed = true;
                    fault(application);
                };
                var type = Typist(application);
                said.Clear();
                ended.Clear();
                type(typed);
                if (!failed)
                    break;
                Assert.Equal("copied before", application.Clipboard);
                Assert.Empty(ended);
                if (application.IsInFront)
                {
                    Assert.Equal(typed, application.Text);
                    Assert.Single(said);
                }
                // Nothing more is done where somebody has gone away, and typing goes on there as before.
                application.IsInFront = true;
                var left = application.Text;
                type(" " + typed);
                Assert.Equal($"{left} {shown}", application.Text);
            }
    }

    [Fact]
    public void WhatSlippedPastComesBehindTheText()
    {
        var application = new ModelApplication();
        var type = Typist(application);
        application.Slipping = " so";
        type("at ;g");
        Assert.Equal("at Gate → 4 so", application.Text);
        // What moved the caret cannot be made undone, so nothing goes in.
        application.Moves = true;
        type(" ;g");
        Assert.Equal("at Gate → 4 so ;g so", application.Text);
        Assert.Single(ended);
    }

    [Fact]
    public void AnApplicationThatTakesThePlainTextIsOfferedNoOther()
    {
        var application = new ModelApplication { PastesPlain = true };
        var type = Typist(application);
        type(";g");
        Assert.Equal(DashSprout.Core.Delivery.FieldKind.Plain, host!.Field);
        type(" ;g");
        Assert.Equal("Gate → 4 Gate → 4", application.Text);
    }

    [Fact]
    public void TheCaretIsTakenBack()
    {
        var application = new ModelApplication();
        var type = Typist(application);
        type(";c");
        type("12");
        Assert.Equal("berth (12) free", application.Text);
    }

    private TypingHost? host;

    /// <summary>Somebody who types in an application that has each key before the host hears of it.</summary>
    private Action<string> Typist(ModelApplication application)
    {
        var index = TriggerIndex.Of(PlacedSnippet.All(LinkedDesktop.Read(Snippets)));
        var program = new LinkProgram
        {
            Services = new HostServices { Index = () => index, Context = () => new RenderContext() },
            Chords = () => new OwnChords("Ctrl+Alt+ ", "Ctrl+Alt+N", "Ctrl+Alt+R", "Ctrl+Alt+Shift+R"),
            Say = said.Add,
            Ended = ended.Add,
        };
        var focus = new FocusTracker(program, new Applications());
        var typing = host = new TypingHost(program.Services);
        var driver = new HostDriver(
            typing,
            focus,
            new DeliveryRunner(application, application, program),
            application,
            application,
            program
        )
        {
            Asks = _ => throw new InvalidOperationException("None of these asks anything."),
            KeysChanged = () => { },
        };
        focus.Take(new DesktopWindow(7, "Editor", "editor", "Berth list", 1));
        driver.Focus();
        return text =>
        {
            foreach (var key in Key.ForText(text))
            {
                application.Insert(key.Text);
                driver.Take(typing.Press(new Keystroke(key, CapsLock: false, AtMs: 0), held: false));
            }
        };
    }
}
