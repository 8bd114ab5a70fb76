using DashSprout.Core.Delivery;
using DashSprout.Core.Hosting;
using DashSprout.Core.Text;

namespace DashSprout.Core.Tests.Hosting;

public sealed class KeyRecorderTests
{
    private readonly KeyRecorder recorder = new();

    [Fact]
    public void TextKeysAndFieldsAreKeptByName()
    {
        recorder.Focused("permit-portal", "Name");
        Type("M", "a", "x", "Backspace", "r", "Tab");
        recorder.Focused("permit-portal", "Address");
        Type("<", "Ctrl+B", "q");
        recorder.Focused("log-book", "Log");
        Assert.Equal(
            "<p><slot name=\"go-to\" data-app=\"permit-portal\" data-field=\"Name\"></slot>Mar<kbd>Tab</kbd>"
                + "&lt;<kbd>Ctrl+B</kbd>q"
                + "<slot name=\"go-to\" data-app=\"log-book\" data-field=\"Log\"></slot></p>",
            recorder.ToBody().Source
        );
    }

    [Fact]
    public void WhatAnAbbreviationGrewIntoIsKeptAndNotTheAbbreviation()
    {
        Type("H", "i", " ", "k", "r");
        recorder.Decided([], [new DeliveryStep.Delete(2), new DeliveryStep.PutIn("Kind regards ", null)]);
        Assert.Equal("<p>Hi Kind regards </p>", recorder.ToBody().Source);
    }

    [Fact]
    public void HeldKeysAreKeptOnceAndWhatWasTakenBackAsItWasTyped()
    {
        recorder.Decided([], [new DeliveryStep.Press(Key.Parse("key", "a"))]);
        recorder.Decided([.. Key.ForText("br")], []);
        recorder.Decided([], [new DeliveryStep.Delete(2), new DeliveryStep.PutIn("berth", null)]);
        recorder.Decided([], [new DeliveryStep.TakeBack(5), new DeliveryStep.PutIn("brc", null)]);
        Assert.Equal("<p>abrc</p>", recorder.ToBody().Source);
    }

    [Fact]
    public void LinesAreKeptAsLinesAndAnEmptyRecordingIsKnown()
    {
        recorder.Focused("post", "To");
        Assert.True(recorder.IsEmpty);
        recorder.Decided([], [new DeliveryStep.PutIn("one\n\ntwo", null)]);
        Assert.False(recorder.IsEmpty);
        Assert.EndsWith("one<br><br>two</p>", recorder.ToBody().Source, StringComparison.Ordinal);
    }

    [Fact]
    public void AFieldThatAKeyLedToIsReachedByTheKeyAndAClickedOneByItsName()
    {
        Type("Ctrl+S");
        recorder.Focused("editor", "Save as");
        Type("a", "Enter");
        recorder.Focused("editor", "notes.txt");
        Type("Tab", "Tab", "Tab");
        recorder.Clicked();
        recorder.Focused("terminal", "gull@quay");
        Assert.Equal(
            "<p><kbd>Ctrl+S</kbd>a<kbd data-run=\"\">Enter Tab Tab Tab</kbd><slot name=\"go-to\" "
                + "data-app=\"terminal\" data-field=\"gull@quay\"></slot></p>",
            recorder.ToBody().Source
        );
    }

    [Fact]
    public void TheChordThatChoseAWindowIsLeftOutForTheWindowItself()
    {
        Type("x", "Alt+Tab", "Alt+Tab");
        recorder.Focused("terminal", "gull@quay");
        Type("Alt+F4");
        recorder.Focused("editor", "notes.txt");
        Assert.Equal(
            "<p>x<slot name=\"go-to\" data-app=\"terminal\" data-field=\"gull@quay\"></slot><kbd>Alt+F4</kbd></p>",
            recorder.ToBody().Source
        );
    }

    [Fact]
    public void ARecordingThatStaysWhereItBeganWorksAnywhere()
    {
        var here = new KeyRecorder("editor", "notes.txt");
        here.Focused("editor", "notes.txt");
        here.Decided([Key.Parse("key", "Home")], []);
        Assert.Equal("<p><kbd>Home</kbd></p>", here.ToBody().Source);
        here.Focused("terminal", "gull@quay");
        here.Focused("editor", "notes.txt");
        Assert.EndsWith(
            "data-app=\"editor\" data-field=\"notes.txt\"></slot></p>",
            here.ToBody().Source,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void ALongRecordingEndsAndSaysSo()
    {
        for (var at = 0; at < KeyRecorder.MostParts; at++)
            Type("a", "Home");
        Assert.True(recorder.IsFull);
        Assert.Equal(KeyRecorder.MostParts, recorder.ToBody().Tree.Inlines().Count());
    }

    [Theory]
    [InlineData("Alt")]
    [InlineData("Shift")]
    [InlineData("Unidentified")]
    public void AKeyThatTypesNothingIsNoPart(string key)
    {
        Type(key);
        Assert.True(recorder.IsEmpty);
    }

    private void Type(params string[] keys)
    {
        foreach (var key in keys)
            recorder.Decided([Key.Parse("key", key)], []);
    }
}
