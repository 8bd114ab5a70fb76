using CsCheck;
using DashSprout.Core.Learning;
using DashSprout.Core.Tests.Hosting;

namespace DashSprout.Core.Tests.Learning;

/// <summary>What looks like a number or a pass-phrase, and what does not.</summary>
public sealed class SecretLookTests
{
    /// <summary>
    /// The number that is worked through in descriptions of ISO/IEC 7812-1's formula: of its ten last digits one is
    /// right.
    /// </summary>
    [Fact]
    public void The_check_digit_is_worked_out_as_the_standard_says()
    {
        Assert.Equal(
            ["79927398713"],
            Enumerable
                .Range(0, 10)
                .Select(last => $"7992739871{last}")
                .Where(number => SecretLook.HasCheckDigit(number))
        );
        Assert.False(SecretLook.HasCheckDigit("18"));
        Assert.False(SecretLook.HasCheckDigit(new string('0', 20)));
    }

    [Theory]
    [InlineData("xK9#mQ2v")]
    [InlineData("Tr0ub4dor&3")]
    [InlineData("a1b2c3d4e5")]
    [InlineData("qzxvkwjpfh")]
    [InlineData("Gx7Tq-pW4z!")]
    [InlineData("AKJ8sdf9Kx0sdf")]
    public void Pass_phrases_are_seen(string word) => Assert.True(OpenWords.Secrets.LooksUnguessable(word));

    [Theory]
    [InlineData("confirmation")]
    [InlineData("Gullhaven-Harbour-Office")]
    [InlineData("clerk@harbour.example")]
    [InlineData("berth-office/notices")]
    [InlineData("12.03.2026")]
    [InlineData("don’t")]
    [InlineData("Liegeplatzbestätigung")]
    [InlineData("McHarbour")]
    [InlineData("B12")]
    [InlineData("2026-03-02T09:15")]
    public void Words_dates_and_addresses_are_none(string word) =>
        Assert.False(OpenWords.Secrets.LooksUnguessable(word));

    [Theory]
    [InlineData("your card 4000 1234 5678 9017 please", "····")]
    [InlineData("account DE89 3704 0044 0532 0130 00 is", "······")]
    [InlineData("code 123456 again", "·")]
    [InlineData("call 0555 0100 1234 5 now", "····")]
    [InlineData("from 12 March 2026 to 14 March 2026", "")]
    [InlineData("at 09:30 on 02.03.2026", "")]
    [InlineData("fee 1,250.00 for 12 m", "")]
    public void Numbers_are_seen_however_they_are_grouped(string line, string secrets)
    {
        var words = TypedLine.WordsOf(line);
        var secret = new bool[words.Count];
        OpenWords.Secrets.Mark(line, words, secret);
        Assert.Equal(secrets.Length, secret.Count(one => one));
    }

    /// <summary>Letters by chance are seen nearly always, words of an open text nearly never.</summary>
    [Fact]
    public void Words_of_a_text_are_told_from_letters_by_chance()
    {
        var words = OpenWords
            .Paragraphs.SelectMany(line => line.Split(' '))
            .Where(word => word.Length >= 8 && word.All(char.IsLetter))
            .Distinct()
            .ToList();
        Assert.True(words.Count > 500);
        Assert.InRange(words.Count(word => OpenWords.Secrets.LooksUnguessable(word)), 0, words.Count / 100);
        var random = new Random(7);
        var chance = Enumerable
            .Range(0, 2000)
            .Select(_ => string.Concat(Enumerable.Range(0, 12).Select(_ => (char)('a' + random.Next(26)))));
        Assert.InRange(chance.Count(word => OpenWords.Secrets.LooksUnguessable(word)), 1700, 2000);
    }

    /// <summary>A number with a valid check digit is seen wherever its digits are parted.</summary>
    [Fact]
    public void No_number_with_a_check_digit_is_passed_over() =>
        Gen.Select(Gen.Char['0', '9'].Array[7, 18], Gen.Bool.Array[19], HostModel.OneOf(" ", "-", ".", " - "))
            .Sample(
                (digits, gaps, gap) =>
                {
                    var number = new string(digits);
                    number += Enumerable.Range(0, 10).First(last => SecretLook.HasCheckDigit($"{number}{last}"));
                    var written = string.Concat(
                        number.Select((digit, at) => at > 0 && gaps[at] ? gap + digit : $"{digit}")
                    );
                    var line = $"please use {written} for it";
                    var words = TypedLine.WordsOf(line);
                    var secret = new bool[words.Count];
                    OpenWords.Secrets.Mark(line, words, secret);
                    for (var at = 0; at < words.Count; at++)
                        Assert.True(secret[at] || !line[words[at]].Any(char.IsDigit), line);
                }
            );
}
