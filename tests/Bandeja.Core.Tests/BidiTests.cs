using System.Globalization;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Tests;

/// <summary>The conformance tests of the Unicode Bidirectional Algorithm, all of them (Unicode Character Database 15.0).</summary>
public sealed class BidiTests
{
    static readonly byte?[] Directions = [null, 0, 1];

    /// <summary>What is told of levels: those of characters that rule X9 takes away are not looked at.</summary>
    static bool Agree(string[] expected, byte[] levels) =>
        expected.Length == levels.Length
        && expected.Zip(levels).All(p => p.First == "x" || p.First == p.Second.ToString(CultureInfo.InvariantCulture));

    static string Order(string[] expected, byte[] levels)
    {
        var seen = Enumerable.Range(0, levels.Length).Where(i => expected[i] != "x").ToArray();
        var order = Bidi.VisualOrder([.. seen.Select(i => levels[i])]);
        return string.Join(' ', order.Select(i => seen[i]));
    }

    [Fact]
    public void All_sequences_of_types_have_the_levels_and_the_order_of_the_standard()
    {
        string[] levels = [];
        var order = "";
        var tests = 0;
        foreach (var line in UnicodeFile.Lines("BidiTest.txt"))
        {
            if (line.StartsWith("@Levels:", StringComparison.Ordinal))
                levels = line[8..].Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
            else if (line.StartsWith("@Reorder:", StringComparison.Ordinal))
                order = line[9..].Trim();
            else if (line[0] != '@')
            {
                var parts = line.Split(';');
                var types = parts[0].Trim().Split(' ').Select(Enum.Parse<BidiClass>).ToList();
                var set = int.Parse(parts[1].Trim(), NumberStyles.HexNumber, CultureInfo.InvariantCulture);
                for (var d = 0; d < Directions.Length; d++)
                {
                    if ((set & 1 << d) == 0)
                        continue;
                    tests++;
                    var got = BidiParagraph.Levels(types, new int[types.Count], Directions[d]);
                    Assert.True(Agree(levels, got), $"{line}, direction {d}: {string.Join(' ', levels)} is not {string.Join(' ', got)}");
                    Assert.Equal(order, Order(levels, got));
                }
            }
        }
        Assert.Equal(770_241, tests);
    }

    [Fact]
    public void All_texts_with_brackets_have_the_levels_and_the_order_of_the_standard()
    {
        var tests = 0;
        foreach (var line in UnicodeFile.Lines("BidiCharacterTest.txt"))
        {
            var parts = line.Split(';');
            var characters = parts[0].Split(' ').Select(h => int.Parse(h, NumberStyles.HexNumber, CultureInfo.InvariantCulture)).ToList();
            byte? direction = parts[1] switch
            {
                "0" => 0,
                "1" => 1,
                _ => null,
            };
            var expected = parts[3].Split(' ');
            var got = BidiParagraph.Levels(
                [.. characters.Select(BidiCharacters.ClassOf)],
                [.. characters.Select(BidiCharacters.Bracket)],
                direction
            );
            tests++;
            Assert.True(Agree(expected, got), $"{line}: {string.Join(' ', got)}");
            Assert.Equal(parts[4], Order(expected, got));
        }
        Assert.Equal(91_707, tests);
    }

    [Fact]
    public void Each_half_of_a_character_has_the_characters_level()
    {
        // U+10800, Cypriot, is written from right to left.
        Assert.Equal([1, 1, 1], Bidi.Levels("\U00010800\u05D0"));
        Assert.Equal([0, 0, 0, 1], Bidi.Levels("a😀\u05D0"));
    }
}
