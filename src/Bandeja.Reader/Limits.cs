namespace Bandeja.Reader;

/// <summary>
/// What reading one file may take. The limits hold whatever a parser does; what each format may hold (cells, depth, what unpacks) is
/// limited where it is read, long before these are reached.
/// </summary>
/// <param name="Heap">Bytes of objects (DOTNET_GCHeapHardLimit). A workbook of a million rows takes half of it.</param>
/// <param name="Data">Bytes of memory of every kind (RLIMIT_DATA): pixels and SQLite's pages lie outside the heap.</param>
/// <param name="Database">Bytes that SQLite may take, for sorting what a SELECT asks for.</param>
/// <param name="Silence">Processor time without an answer, or a further part of one. The largest lists begin to answer after a few
/// seconds.</param>
public sealed record Limits(long Heap, long Data, long Database, TimeSpan Silence)
{
    /// <summary>The limits that hold unless somebody says otherwise.</summary>
    public static readonly Limits Usual = new(1L << 30, 2L << 30, 256L << 20, TimeSpan.FromSeconds(60));
}
