namespace Bandeja.Formats.Pdf;

/// <summary>Where each object of a file stands. A file of a hundred thousand pieces has a million: they are kept in blocks, because a list
/// that grows holds everything twice while it does.</summary>
sealed class ObjectPlaces
{
    const int Block = 512;
    readonly List<long[]> blocks = [];

    /// <summary>How many there are.</summary>
    public int Count { get; private set; }

    /// <summary>The place of an object, by its number.</summary>
    public long this[int number]
    {
        get => blocks[number / Block][number % Block];
        set => blocks[number / Block][number % Block] = value;
    }

    /// <summary>Adds one; answers its number.</summary>
    public int Add()
    {
        if (Count % Block == 0)
            blocks.Add(new long[Block]);
        return Count++;
    }
}
