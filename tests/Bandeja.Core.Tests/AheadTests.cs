using Bandeja.Core.Composition;
using FsCheck;
using FsCheck.Xunit;

namespace Bandeja.Core.Tests;

/// <summary>What is made ahead comes in order, its mistakes come with it, and whoever stops stops the source.</summary>
public sealed class AheadTests
{
    [Property(MaxTest = 100)]
    public void Everything_comes_in_order(int[] numbers, PositiveInt most) =>
        Assert.Equal(numbers ?? [], Ahead.Of(numbers ?? [], most.Get % 70 + 1));

    [Fact]
    public void What_the_source_throws_is_thrown_after_what_came_before_it()
    {
        static IEnumerable<int> Source()
        {
            for (var i = 0; i < 40; i++)
                yield return i;
            throw new InvalidOperationException("no more");
        }
        var got = new List<int>();
        Assert.Equal("no more", Assert.Throws<InvalidOperationException>(() => got.AddRange(Ahead.Of(Source()))).Message);
        Assert.Equal(Enumerable.Range(0, got.Count), got);
    }

    [Fact]
    public void Whoever_stops_in_the_middle_stops_the_source_and_waits_for_its_end()
    {
        var (made, ended) = (0, false);
        IEnumerable<int> Source()
        {
            try
            {
                for (; ; )
                    yield return Interlocked.Increment(ref made);
            }
            finally
            {
                ended = true;
            }
        }
        Assert.Equal([1, 2, 3], Ahead.Of(Source(), 64).Take(3));
        Assert.True(ended);
        Assert.InRange(made, 3, 200);
    }
}
