using Bandeja.Core.Returns;

namespace Bandeja.Core.Tests;

public class ReturnReasonTests
{
    [Theory]
    [InlineData("MOVED, LEFT NO ADDRESS", ReturnReason.Moved)]
    [InlineData("Unable to Forward", ReturnReason.Moved)]
    [InlineData("attempted - not known", ReturnReason.Unknown)]
    [InlineData("NO SUCH NUMBER", ReturnReason.Insufficient)]
    [InlineData("not-deliverable-as-addressed", ReturnReason.Insufficient)]
    [InlineData("moved, new address on the label", ReturnReason.NewAddress)]
    [InlineData("newAddress", ReturnReason.NewAddress)]
    [InlineData(" Deceased. ", ReturnReason.Deceased)]
    [InlineData("UNCLAIMED", ReturnReason.Refused)]
    [InlineData("vacant", ReturnReason.Vacant)]
    [InlineData("other reason", ReturnReason.Other)]
    public void A_reason_is_read_as_labels_and_files_have_it(string text, ReturnReason reason) =>
        Assert.Equal(reason, ReturnReasons.Read(text));

    [Theory]
    [InlineData("")]
    [InlineData("eaten by a dog")]
    [InlineData("97412")]
    public void What_is_no_reason_is_none(string text) => Assert.Null(ReturnReasons.Read(text));

    [Fact]
    public void Each_reason_is_read_from_its_own_words() =>
        Assert.All(ReturnReasons.All, r => Assert.Equal(r, ReturnReasons.Read(r.Words())));
}
