using Bandeja.Core.Composition;
using Bandeja.Core.Language;
using Bandeja.Core.Lists;
using Bandeja.Core.Texts;

namespace Bandeja.Core.Tests;

/// <summary>Fonts that few mailings need: which form of a character is lent, and that nothing is opened that no text asks for.</summary>
public sealed class HanFormTests
{
    [Theory]
    [InlineData("ja", "US", HanForm.Japanese)]
    [InlineData("", "JP", HanForm.Japanese)]
    [InlineData("en", "KR", HanForm.Korean)]
    [InlineData("zh-Hant", "", HanForm.Traditional)]
    [InlineData("zh_TW", "CN", HanForm.Traditional)]
    [InlineData("zh-HK", "", HanForm.HongKong)]
    [InlineData("zh", "TW", HanForm.Traditional)]
    [InlineData("zh", "US", HanForm.Simplified)]
    [InlineData(null, "MO", HanForm.HongKong)]
    [InlineData("de", "DE", HanForm.None)]
    [InlineData("-", null, HanForm.None)]
    public void The_form_follows_the_language_then_the_country(string? language, string? country, HanForm form) =>
        Assert.Equal(form, HanForms.Of(language, country));

    [Theory]
    [InlineData("東京タワー", HanForm.Japanese)]
    [InlineData("김민준", HanForm.Korean)]
    [InlineData("北京市", HanForm.None)]
    [InlineData("・", HanForm.None)]
    public void A_text_may_show_its_form(string text, HanForm form) => Assert.Equal(form, HanForms.OfText(text));

    static FontLibrary Fonts() => TestFonts.Load();

    [Fact]
    public void A_letter_in_Latin_letters_opens_none_of_the_large_fonts()
    {
        var opened = 0;
        var fonts = new FontLibrary(
            [TestFonts.Library.Find("Source Serif 4", false, false)],
            null,
            [
                new(
                    "Large",
                    false,
                    HanForm.Simplified,
                    [(0x4E00, 0x9FFF)],
                    () =>
                    {
                        opened++;
                        throw new InvalidOperationException();
                    }
                ),
            ]
        );
        var notes = new LayoutNotes();
        fonts.Shape(fonts.Fonts[0], "Dear Zoë Müller — 5 € \u0416", [], notes);
        Assert.Equal(0, opened);
    }

    /// <summary>The families that lend glyphs to a recipient's name.</summary>
    static string[] Families(string name, string country, string language)
    {
        Column[] columns =
        [
            new(1, "Name", ColumnType.Text, Role.FullName),
            new(2, "Country", ColumnType.Text, Role.Country),
            new(3, "Language", ColumnType.Text, Role.Language),
        ];
        var letter = new BoundLetter(TestFonts.Letter(["{Name}"]), columns, OrganizationLocale.UnitedStates, Fonts());
        var piece = new LetterComposer(letter, new(2027, 1, 4)).Compose(new ArrayRow([name, country, language]), 1);
        return [.. LaidOutPage.Lines(piece.Pages[0].Items).SelectMany(l => l.Runs).Select(r => r.Font.Family).Distinct()];
    }

    [Theory]
    [InlineData("直美 骨", "Japan", "", "Noto Sans JP")]
    [InlineData("骨", "Korea", "ko", "Noto Sans KR")]
    [InlineData("骨", "Taiwan", "", "Noto Sans TC")]
    [InlineData("骨", "Hong Kong", "", "Noto Sans HK")]
    [InlineData("骨", "China", "", "Noto Sans SC")]
    [InlineData("骨", "", "", "Noto Sans SC")]
    [InlineData("骨ひ", "China", "zh", "Noto Sans JP")]
    [InlineData("สวัสดี", "Thailand", "", "Noto Sans Thai")]
    [InlineData("श्री", "India", "", "Noto Sans Devanagari")]
    [InlineData("😀", "", "", "Noto Emoji")]
    public void Each_recipient_gets_the_form_they_read(string name, string country, string language, string family) =>
        Assert.Contains(family, Families(name, country, language));

    [Fact]
    public void No_assigned_Han_character_of_the_basic_plane_is_missing()
    {
        var fonts = Fonts();
        var missing = Enumerable.Range(0x4E00, 0x9FA5 - 0x4E00 + 1).Where(c => !fonts.Prints(new(c))).Select(c => $"U+{c:X4}").ToList();
        Assert.True(missing.Count == 0, string.Join(" ", missing.Take(20)));
        Assert.All(Enumerable.Range(0xAC00, 0xD7A3 - 0xAC00 + 1), c => Assert.True(fonts.Prints(new(c))));
    }
}
