using Bandeja.Core.Returns;
using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>What is typed or scanned at the returns desk.</summary>
public sealed class ReturnTests
{
    [Theory]
    [InlineData("977", 977L, null)]
    [InlineData(" 0977\r\n", 977L, null)]
    [InlineData("#12", 12L, null)]
    [InlineData("00040901234567000001", null, "00040901234567000001")]
    [InlineData("00 040 901234567 000001 97412", null, "00040901234567000001")]
    [InlineData("0004090123456700000197412123401", null, "00040901234567000001")]
    [InlineData("https://example.org/r?m=F-00012", null, "https://example.org/r?m=F-00012")]
    [InlineData("F-00012", null, "F-00012")]
    [InlineData("00000000", null, "00000000")]
    public void A_number_is_a_piece_and_all_else_a_code(string typed, long? number, string? code) =>
        Assert.Equal(new PieceCode(number, code), PieceCode.Read(typed));

    [Theory]
    [InlineData(null)]
    [InlineData("  ")]
    [InlineData("\r\n")]
    public void Nothing_is_no_piece(string? typed) => Assert.Null(PieceCode.Read(typed));

    [Fact]
    public void Zero_is_no_number_and_what_is_endless_no_code()
    {
        Assert.Equal("0", PieceCode.Read("0")?.Code);
        Assert.Equal("#", PieceCode.Read("#")?.Code);
        Assert.Null(PieceCode.Read(new string('x', 2_001)));
    }

    [Property]
    public Property Whatever_is_scanned_is_found_by_what_is_stored_of_it() =>
        Prop.ForAll(
            ArbMap.Default.ArbFor<NonNull<string>>(),
            text =>
            {
                var read = PieceCode.Read(text.Get);
                Assert.True(read is null || read.Number is not null || read.Code == PieceCode.Stored(text.Get));
                Assert.True(read is null || read.Code is null == read.Number is not null);
                // Whoever stores what was stored finds the same.
                Assert.Equal(PieceCode.Stored(text.Get), PieceCode.Stored(PieceCode.Stored(text.Get)));
            }
        );

    [Fact]
    public void Every_reason_has_words_and_a_rule()
    {
        Assert.Equal(8, ReturnReasons.All.Select(r => r.Words()).Distinct().Count());
        Assert.All(ReturnReasons.All, r => Assert.True(Enum.IsDefined(r.Usual())));
        Assert.True(ReturnFollowUp.Remail.Corrects() && ReturnFollowUp.Correct.Corrects() && !ReturnFollowUp.Hold.Corrects());
    }
}
