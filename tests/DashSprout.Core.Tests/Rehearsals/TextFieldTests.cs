using DashSprout.Core.Delivery;
using DashSprout.Core.Rehearsals;
using DashSprout.Core.Text;

namespace DashSprout.Core.Tests.Rehearsals;

/// <summary>The field that rehearsals type into, against a string with a caret in it.</summary>
public sealed class TextFieldTests
{
    [Theory]
    [InlineData("Home", "|")]
    [InlineData("Enter Home", "\n|")]
    [InlineData("a b Home x", "x|ab")]
    [InlineData("a Enter b c Home x", "a\nx|bc")]
    [InlineData("a b Home End x", "abx|")]
    [InlineData("a Enter b ArrowLeft ArrowLeft x", "ax|\nb")]
    [InlineData("a b Delete", "ab|")]
    [InlineData("a b Home Delete", "|b")]
    [InlineData("a Enter b ArrowLeft Backspace", "a|b")]
    [InlineData("a b c Shift+ArrowLeft Shift+ArrowLeft x", "ax|")]
    [InlineData("a b c Shift+Home ArrowRight x", "abcx|")]
    [InlineData("a b c Shift+Home ArrowLeft x", "x|abc")]
    [InlineData("a b Home Shift+End Backspace", "|")]
    [InlineData("e \u0301 Backspace", "|")]
    [InlineData("ArrowLeft Backspace Delete ArrowRight", "|")]
    [InlineData("ArrowUp PageDown F5 Ctrl+K a", "a|")]
    public void Keys(string keys, string wanted)
    {
        foreach (var kind in (FieldKind[])[FieldKind.Plain, FieldKind.Rich, FieldKind.Markdown])
        {
            var field = new TextField(kind);
            foreach (var key in keys.Split(' '))
                field.Press(Key.Parse("", key));
            Assert.Equal(wanted, field.Text.Insert(Graphemes.Offset(field.Text, field.Caret), "|"));
        }
    }

    [Fact]
    public void One_line_takes_no_line_ends()
    {
        var field = new TextField(FieldKind.SingleLine);
        foreach (var key in (string[])["a", "Enter", "Shift+Enter", "Tab", "b"])
            field.Press(Key.Parse("", key));
        Assert.Equal("ab", field.Text);
    }

    [Fact]
    public void A_rich_line_end_is_a_block_or_a_break()
    {
        var field = new TextField(FieldKind.Rich);
        foreach (var key in (string[])["a", "Enter", "b", "Shift+Enter", "c"])
            field.Press(Key.Parse("", key));
        Assert.Equal(("a\nb\nc", "<p>a</p><p>b<br>c</p>"), (field.Text, field.Html));
    }
}
