using DashSprout.Core.Bodies;
using DashSprout.Core.Delivery;
using DashSprout.Core.Engine;
using DashSprout.Core.Hosting;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Text;
using static DashSprout.Core.Tests.Engine.Typing;

namespace DashSprout.Core.Tests.Hosting;

/// <summary>Whatever fails around a host: what was typed stays, it is said, and typing goes on.</summary>
public sealed class HostFaultTests
{
    private static readonly PlacedSnippet Regards = PlacedSnippet
        .All([Lib("Harbour", Snip("mfg", "Kind regards"))])
        .Single();

    private static readonly TriggerIndex Harbour = Index(
        Snip("mfg", "Kind regards"),
        AtOnce("br", "berth"),
        Snip("brk", "breakwater"),
        HoldTests.Fields,
        HoldTests.Opens,
        HoldTests.Fields with
        {
            Name = "Welcome",
            Triggers = Snip("wel", "").Triggers,
        },
        AtOnce(";c", "") with
        {
            Name = "Copied",
            Body = Body.Html.Parse("<p><slot name=\"clipboard\"></slot> and <slot name=\"selection\"></slot></p>"),
        }
    );

    private static readonly string[] Scripts =
    [
        "m f g Space x",
        "m f g Enter Ctrl+Alt+Z",
        "b r pause x",
        "b r ArrowLeft",
        "b r k . a",
        "; s fill x",
        "; s leave x",
        "; s click x",
        "w e l Enter fill x",
        "w e l Enter leave x",
        "; o confirm x",
        "; c x",
        "compose:teh_mfg_abc x",
        "compose:;sxy fill x",
        "compose:;sxy leave x",
        "compose:mfg_mfg_b x",
        "compose:mfg_;sb fill x",
        "focus m f g Space",
        "choose x",
    ];

    /// <summary>
    /// Each question that a host asks of its surroundings fails once, at every point of every script: what was typed by
    /// then stays or what goes in for it is whole, somebody is told, and the next abbreviation works.
    /// </summary>
    [Fact]
    public void It_may_fail_at_every_point()
    {
        var points = 0;
        foreach (var script in Scripts)
        {
            var whole = new FailingRun(script, int.MaxValue, null);
            for (var point = 1; point <= whole.Asked; point++, points++)
            {
                var run = new FailingRun(script, point, whole);
                Assert.True(
                    run.Problems.Exists(problem => problem.Contains("the rope is cut", StringComparison.Ordinal)),
                    $"{script}: nobody was told at {point}"
                );
                Assert.Equal(run.Text.Length + " Kind regards ".Length, run.TypeOn().Length);
            }
        }
        Assert.InRange(points, 200, 2000);
    }

    [Fact]
    public void A_fault_that_stays_is_said_once_and_keys_go_on()
    {
        var host = new TypingHost(
            new HostServices
            {
                Index = () => throw new IOException("the rope is cut"),
                Context = () => new RenderContext(),
            }
        );
        var first = host.Press(new Keystroke(Key.Typed("a")), held: false);
        Assert.Equal(
            "What you type is not looked at here for the moment. Something in the program went wrong: the rope is cut",
            first.Problem
        );
        var second = host.Press(new Keystroke(Key.Enter), held: true);
        Assert.Equal((null, "press Enter"), (second.Problem, Keyboard.Told(second)));
    }

    [Fact]
    public void Learning_that_fails_stops_nobody_and_is_tried_again_in_the_next_field()
    {
        var made = 0;
        var keyboard = new Keyboard(Index(Snip("mfg", "Kind regards")), follow: () =>
            ++made == 1 ? new Broken() : new NoFollower()
        ).Type("m");
        Assert.Equal(
            "Learning and offers rest here until you go to another field. "
                + "Something in the program went wrong: no line is kept",
            keyboard.Last.Problem
        );
        Assert.Equal("delete 4, put in “Kind regards ”", keyboard.Type("fg ").Steps);
        Assert.Null(keyboard.Last.Problem);
        keyboard.Host.Focus("post", FieldKind.Plain);
        Assert.Equal(2, made);
    }

    /// <summary>A host whose surroundings fail once while a script is typed, with a field that does as it is told.</summary>
    private sealed class FailingRun
    {
        private readonly TextField typedInto = new(FieldKind.Plain);
        private readonly TypingHost host;
        private readonly FailingRun? whole;
        private readonly List<string> after = [];
        private int failsAt;
        private Hold next;
        private string keptBack = "";
        private long now;

        public FailingRun(string script, int failsAt, FailingRun? whole)
        {
            (this.failsAt, this.whole) = (failsAt, whole);
            host = new TypingHost(
                new HostServices
                {
                    Index = () => Ask(Harbour),
                    Context = () => Ask(new RenderContext { FindSnippet = _ => null }),
                    RestsIn = _ => Ask(false),
                    TakeBackChord = () => Ask<string?>(TypingEngine.DefaultTakeBackChord),
                    Hints = () => Ask(true),
                    Typed = _ => Ask(true),
                    TakeKey = () => Ask(OfferKeys.Usual),
                    MayOpen = _ => Ask(false),
                }
            )
            {
                ReadClipboard = () => Ask("tide"),
                ReadSelection = () => Ask("quay"),
            };
            foreach (var step in script.Split(' '))
                Step(step);
        }

        public int Asked { get; private set; }

        public List<string> Problems { get; } = [];

        public string Text => typedInto.Text;

        /// <summary>Goes to another field with the same text, types an abbreviation there, and gives the text.</summary>
        public string TypeOn()
        {
            failsAt = int.MaxValue;
            foreach (var step in "focus End Space m f g Space".Split(' '))
                Step(step);
            return typedInto.Text;
        }

        private T Ask<T>(T answer) => ++Asked == failsAt ? throw new IOException("the rope is cut") : answer;

        private void Step(string step)
        {
            var question = host.Question?.Number ?? 0;
            var parts = step.Split(':');
            switch (parts[0])
            {
                case "compose":
                    var text = parts[1].Replace('_', ' ');
                    foreach (var key in Key.ForText(text))
                        typedInto.Press(key);
                    Do("", () =>
                        host.Compose([.. Key.ForText(text).Select(key => new Keystroke(key, AtMs: now += 50))])
                    );
                    return;
                case "pause":
                    Do("", host.Settle);
                    return;
                case "fill":
                    Do("", () => host.Fill(question, new Dictionary<string, string>()));
                    return;
                case "confirm":
                    Do("", () => host.Confirm(question));
                    return;
                case "leave":
                    Do("", () => host.Leave());
                    return;
                case "click":
                    Do("", host.Click);
                    return;
                case "focus":
                    Do("", () => host.Focus("post", FieldKind.Plain));
                    return;
                case "choose":
                    Do("", () => host.Choose(Regards, ""));
                    return;
            }
            var pressed = step == "Space" ? Key.Typed(" ") : Key.Parse("key", step);
            var held =
                next == Hold.Everything
                || (next == Hold.ActingKeys && pressed.Kind != KeyKind.Typed)
                || pressed.Value == TypingEngine.DefaultTakeBackChord;
            if (!held)
                typedInto.Press(pressed);
            Do(held ? pressed.Text : "", () => host.Press(new Keystroke(pressed, AtMs: now += 50), held));
        }

        /// <summary>
        /// Carries an answer out. One that a fault came into leaves what was typed, a key that was held back with it, or
        /// some of it replaced by the whole of what goes in, or what there is without the fault.
        /// </summary>
        private void Do(string held, Func<HostAnswer> happens)
        {
            var (before, asked) = (typedInto.Text, Asked);
            var answer = happens();
            foreach (var step in answer.Steps)
                typedInto.Apply(step);
            next = answer.Next;
            if (answer.Problem is { } problem)
                Problems.Add(problem);
            if (asked < failsAt && failsAt <= Asked)
                Assert.Contains(
                    typedInto.Text,
                    Variants(before + held).Concat(Variants(before + keptBack)).Append(whole!.after[after.Count])
                );
            after.Add(typedInto.Text);
            keptBack = answer.Question is null ? "" : keptBack + held;
        }

        private static IEnumerable<string> Variants(string typed)
        {
            yield return typed;
            for (var at = typed.IndexOf("mfg ", StringComparison.Ordinal); at >= 0; )
            {
                typed = typed[..at] + "Kind regards " + typed[(at + 4)..];
                yield return typed;
                at = typed.IndexOf("mfg ", StringComparison.Ordinal);
            }
        }
    }

    private sealed class Broken : ITextFollower
    {
        public IReadOnlyList<Offer> Offers => [];
        public ActiveTrigger? Missed => null;

        public void Focus(string app, FieldKind field, bool runsCommands) { }

        public void Pressed(Key key, bool atLineEnd) => throw new IOException("no line is kept");

        public void PutIn(int graphemes) { }

        public void Moved() { }

        public void TakenBack() { }

        public void Taken(Offer offer) { }
    }
}
