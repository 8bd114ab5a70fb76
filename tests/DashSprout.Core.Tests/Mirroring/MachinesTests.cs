using CsCheck;
using DashSprout.Core.Bodies;
using DashSprout.Core.Libraries;
using DashSprout.Core.Mirroring;
using DashSprout.Core.Triggers;

namespace DashSprout.Core.Tests.Mirroring;

/// <summary>
/// Several machines that edit one library through one folder at random: in the end all agree, and nothing that anybody
/// wrote is lost without somebody having seen it.
/// </summary>
public sealed class MachinesTests
{
    [Theory]
    [InlineData(2, false)]
    [InlineData(3, false)]
    [InlineData(2, true)]
    [InlineData(3, true)]
    public void They_agree_in_the_end_and_lose_nothing(int machines, bool losingWrites) =>
        Gen.Int.Positive.Sample(seed => new Play(new Random(seed), machines, losingWrites).Run(), iter: Depth.Of(250));

    /// <summary>
    /// One machine has missed a state between, and somebody else wrote by that one: only one of them changed the text.
    /// </summary>
    [Fact]
    public void Who_missed_a_state_between_is_not_asked_about_what_only_one_changed()
    {
        var start = Library(("s", "v0"), ("o", "w0"));
        var (writer, other, reader) = (new Machine("w", start), new Machine("o", start), new Machine("r", start));
        var file = new MirrorState(MachineStates.None, start);
        for (var round = 0; round < 2; round++)
            foreach (var machine in (Machine[])[writer, other, reader])
                file = machine.Sync([file]);

        writer.Own = Library(("s", "v1"), ("o", "w0"));
        file = writer.Sync([file]);
        var between = other.Sync([file]);
        writer.Own = Library(("s", "v2"), ("o", "w0"));
        file = writer.Sync([file]);
        reader.Sync([file]);
        other.Own = Library(("s", "v1"), ("o", "w1"));
        file = other.Sync([between]);

        file = reader.Sync([file]);
        Assert.Empty(reader.Open);
        Assert.Equal(Library(("s", "v2"), ("o", "w1")), reader.Own);
        foreach (var machine in (Machine[])[other, writer])
        {
            machine.Sync([file]);
            Assert.Empty(machine.Open);
            Assert.Equal(reader.Own, machine.Own);
        }
    }

    /// <summary>What was changed and back again is an edit as well, and is never lost to one of meanwhile.</summary>
    [Fact]
    public void What_was_changed_back_is_not_lost()
    {
        var start = Library(("s", "x"), ("o", "w0"));
        var (one, other) = (new Machine("1", start), new Machine("2", start));
        var file = new MirrorState(MachineStates.None, start);
        for (var round = 0; round < 2; round++)
            file = other.Sync([one.Sync([file])]);
        one.Own = Library(("s", "y"), ("o", "w0"));
        file = other.Sync([one.Sync([file])]);
        one.Own = Library(("s", "x"), ("o", "w0"));
        other.Own = Library(("s", "z"), ("o", "w0"));
        var theirs = other.Sync([file]);
        one.Sync([file]);
        one.Sync([theirs]);
        Assert.Single(one.Open);
    }

    /// <summary>
    /// Two machines that go by one name write at once: what the second wrote is taken in, and what the first wrote comes
    /// again once it has found that there are two (<see cref="OwnName"/>).
    /// </summary>
    [Fact]
    public void What_a_copy_of_a_machine_wrote_is_no_old_news()
    {
        var start = Library(("p", "p0"), ("q", "q0"));
        var (one, copy, other) = (new Machine("a", start), new Machine("a", start), new Machine("b", start));
        var file = new MirrorState(MachineStates.None, start);
        for (var round = 0; round < 2; round++)
            file = other.Sync([one.Sync([file])]);
        copy.Take(one);
        one.Own = Library(("p", "p1"), ("q", "q0"));
        copy.Own = Library(("p", "p0"), ("q", "q1"));
        var (theirs, others) = (one.Sync([file]), copy.Sync([file]));
        Assert.Equal(theirs.States, others.States);

        other.Sync([theirs]);
        other.Sync([others]);
        Assert.Contains(Library(("q", "q1")).Entries[0], other.Own.Entries);
    }

    private static SharedLibrary Library(params (string Key, string Text)[] snippets) =>
        new(
            new SharedRoot("Berth desk", true, LibraryRules.Default),
            new(snippets.Select(one => new SharedSnippet(one.Key, SharedLibrary.Top, Snippet(one.Key, one.Text)))),
            EquatableList<string>.Empty
        );

    private sealed class Machine(string name, SharedLibrary own)
    {
        public string Name => name;
        public SharedLibrary Own { get; set; } = own;
        public List<MirrorState> Known { get; private set; } = [];
        public HashSet<MirrorConflict> Open { get; private set; } = [];
        public HashSet<MirrorVerdict> Decided { get; } = [];
        public bool CopyDone { get; private set; }

        public void Take(Machine other) => (Own, Known) = (other.Own, other.Known);

        public MirrorState Sync(IReadOnlyList<MirrorState> files)
        {
            var plan = SyncPlan.Of(
                name,
                Known,
                [.. files.Select((file, at) => new FoundMirror(at == 0 ? "" : "copy", file))],
                Own,
                Open,
                Decided,
                "other",
                Guid.NewGuid().ToString()
            );
            (Own, Open, CopyDone) = (plan.Here, [.. plan.Conflicts], plan.Done.Count > 0);
            Decided.RemoveWhere(verdict => verdict.Conflict.Source.Length == 0 || CopyDone);
            Known = [.. SyncPlan.Remember(Known, plan)];
            return plan.Write ?? files[0];
        }
    }

    private sealed class Play
    {
        private readonly Random random;
        private readonly bool losing;
        private readonly Machine[] machines;
        private readonly HashSet<string> written = [];
        private readonly HashSet<string> settled = [];
        private MirrorState file;
        private MirrorState? copy;
        private int count;

        public Play(Random random, int count, bool losing)
        {
            this.random = random;
            this.losing = losing;
            var start = new SharedLibrary(
                new SharedRoot("Berth desk", true, LibraryRules.Default),
                EquatableList<SharedEntry>.Empty,
                EquatableList<string>.Empty
            );
            file = new MirrorState(MachineStates.None, start);
            machines = [.. Enumerable.Range(0, count).Select(at => new Machine($"machine-{at}", start))];
            foreach (var machine in machines)
                file = machine.Sync([file]);
        }

        public void Run()
        {
            for (var step = 0; step < 60; step++)
            {
                var machine = machines[random.Next(machines.Length)];
                if (random.Next(3) > 0)
                    Edit(machine);
                else
                    Sync(machine);
            }
            for (var round = 0; round < 12; round++)
                foreach (var machine in machines)
                {
                    foreach (var conflict in machine.Open.ToList())
                        Choose(machine, conflict);
                    Sync(machine, calm: true);
                }
            foreach (var machine in machines)
            {
                Assert.Empty(machine.Open);
                Assert.Equal(Words(file.Library), Words(machine.Own));
                Assert.Equal(file.Library, machine.Own.Outward());
                Assert.Equal(
                    machine.Own.Entries.Count,
                    machine
                        .Own.Entries.Select(entry =>
                            (entry.Parent, entry is SharedFolder, entry.Name.ToUpperInvariant())
                        )
                        .Distinct()
                        .Count()
                );
            }
            var alive = machines
                .SelectMany(machine => machine.Own.Entries)
                .OfType<SharedSnippet>()
                .Select(Text)
                .ToHashSet();
            Assert.DoesNotContain(written, token => !alive.Contains(token) && !settled.Contains(token));
        }

        private void Sync(Machine machine, bool calm = false)
        {
            var before = file;
            var kept = copy;
            file = machine.Sync(kept is null || random.Next(2) == 0 && !calm ? [file] : [file, kept]);
            // Whoever took the copy in has written it.
            if (machine.CopyDone)
            {
                copy = null;
                return;
            }
            if (!losing || calm || ReferenceEquals(before, file) || random.Next(3) > 0)
                return;
            // What was written is overwritten by what was there before, or set beside it as a copy.
            if (random.Next(2) == 0 && copy is null)
                copy = file;
            file = before;
        }

        private void Edit(Machine machine)
        {
            var entries = machine.Own.Entries.ToList();
            var folders = entries.OfType<SharedFolder>().Select(folder => folder.Key).Prepend("").ToList();
            var token = $"t{count++}";
            var at = entries.Count == 0 ? -1 : random.Next(entries.Count);
            var kind = at < 0 ? random.Next(2) : random.Next(9);
            if (kind == 0 || at < 0)
            {
                written.Add(token);
                entries.Add(
                    new SharedSnippet(
                        $"{machine.Name}-{token}",
                        folders[random.Next(folders.Count)],
                        Snippet($"Name {random.Next(6)}", token)
                    )
                );
            }
            else if (kind == 1)
            {
                entries.Add(
                    new SharedFolder(
                        $"{machine.Name}-{token}",
                        folders[random.Next(folders.Count)],
                        $"Folder {random.Next(3)}",
                        true,
                        null
                    )
                );
            }
            else if (kind == 2 && random.Next(2) == 0)
            {
                var gone = Below(entries, entries[at].Key);
                foreach (var snippet in entries.OfType<SharedSnippet>().Where(entry => gone.Contains(entry.Key)))
                    settled.Add(Text(snippet));
                entries.RemoveAll(entry => gone.Contains(entry.Key));
            }
            else if (kind == 3)
            {
                var inner = Below(entries, entries[at].Key);
                if (folders.Where(key => !inner.Contains(key)).ToList() is { Count: > 0 } places)
                    entries[at] = entries[at] with { Parent = places[random.Next(places.Count)] };
            }
            else if (entries[at] is SharedSnippet snippet)
            {
                var changed = snippet.Snippet;
                if (kind is 4 or 5)
                {
                    settled.Add(Text(snippet));
                    written.Add(token);
                    changed = changed with { Body = new Body.Plain(token) };
                }
                else if (kind == 6)
                    changed = changed with { Name = $"Name {random.Next(6)}" };
                else if (kind == 7)
                    changed = changed with
                    {
                        Triggers = new(
                            changed.Triggers.Append(
                                new Trigger.Hotkey($"Ctrl+Alt+{(char)('A' + random.Next(26))}", Scope.Everywhere)
                            )
                        ),
                    };
                else if (kind == 8)
                    changed = changed with { Enabled = !changed.Enabled };
                entries[at] = snippet with { Snippet = changed };
            }
            machine.Own = machine.Own with { Entries = new(Ordered(entries)) };
        }

        /// <summary>Somebody looks at both and takes one.</summary>
        private void Choose(Machine machine, MirrorConflict conflict)
        {
            // One that was deleted meanwhile comes back first.
            if (conflict.Key.Length > 0 && machine.Own.Entries.All(entry => entry.Key != conflict.Key))
                return;
            machine.Open.Remove(conflict);
            if (conflict.Key.Length == 0)
                return;
            var own = machine.Own.Entries.FirstOrDefault(entry => entry.Key == conflict.Key);
            var there = conflict.Source.Length == 0 ? file : copy;
            if (
                there?.Library.Entries.FirstOrDefault(entry => entry.Key == conflict.Key) is not SharedSnippet other
                || own is not SharedSnippet snippet
            )
                return;
            var theirs = random.Next(2) == 0;
            if (!theirs)
                machine.Decided.Add(new MirrorVerdict(conflict, there.States.ToString()));
            if (conflict.Part == SnippetParts.Text)
                settled.Add(theirs ? Text(snippet) : Text(other));
            if (theirs)
                machine.Own = machine.Own with
                {
                    Entries = new(
                        machine.Own.Entries.Select(entry =>
                            entry.Key == conflict.Key
                                ? snippet with
                                {
                                    Snippet = SnippetParts.Of(conflict.Part).Take(snippet.Snippet, other.Snippet),
                                }
                                : entry
                        )
                    ),
                };
        }

        private static HashSet<string> Below(IReadOnlyList<SharedEntry> entries, string key)
        {
            HashSet<string> below = [key];
            foreach (var entry in entries)
                if (below.Contains(entry.Parent))
                    below.Add(entry.Key);
            return below;
        }

        /// <summary>In the order that a tree gives, and with names that it allows.</summary>
        private static IEnumerable<SharedEntry> Ordered(IReadOnlyList<SharedEntry> entries)
        {
            var inside = entries.ToLookup(entry => entry.Parent);
            return Inside("");
            IEnumerable<SharedEntry> Inside(string parent)
            {
                var taken = new HashSet<(bool, string)>();
                foreach (var entry in inside[parent].OrderBy(entry => entry is SharedSnippet))
                {
                    var name = entry.Name;
                    for (var number = 2; !taken.Add((entry is SharedFolder, name.ToUpperInvariant())); number++)
                        name = $"{entry.Name} {number}";
                    yield return name == entry.Name ? entry
                    : entry is SharedFolder folder ? folder with { FolderName = name }
                    : ((SharedSnippet)entry) with { Snippet = ((SharedSnippet)entry).Snippet with { Name = name } };
                    foreach (var inner in Inside(entry.Key))
                        yield return inner;
                }
            }
        }

        private static string Words(SharedLibrary library) =>
            string.Join(
                '\n',
                library.Entries.Select(entry =>
                    $"{entry.Parent}/{entry.Key}: {entry.Name} {(entry is SharedSnippet snippet ? Text(snippet) : "")}"
                )
            );

        private static string Text(SharedSnippet snippet) => ((Body.Plain)snippet.Snippet.Body).Text;
    }

    internal static Snippet Snippet(string name, string text) =>
        new(name, true, "", false, DeliveryWay.Automatic, false, new Body.Plain(text), EquatableList<Trigger>.Empty);
}
