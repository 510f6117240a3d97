using Bandeja.Core.Tests.Corpus;

namespace Bandeja.Core.Tests;

/// <summary>Roles are recognized over a corpus of lists, and no address loses a part by it. The bench prints the same figures.</summary>
public sealed class RoleCorpusTests
{
    [Fact]
    public void Nearly_all_roles_of_two_hundred_lists_are_right_and_no_address_loses_a_part()
    {
        var outcome = RoleCorpus.Measure();
        Assert.Equal(200, outcome.Lists);
        Assert.True(outcome.Right >= 0.97, $"{outcome.Right:P1} of {outcome.Columns} columns\n{string.Join('\n', outcome.Wrong)}");
        Assert.True(outcome.Lost.Count == 0, string.Join('\n', outcome.Lost));
    }
}
