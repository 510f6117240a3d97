using System.Globalization;
using System.Text.RegularExpressions;

namespace Bandeja.Formats.Pdf;

/// <summary>
/// Objects that were written once and can be written again into any file: a picture is unpacked, compressed or read in for the first file
/// that shows it, not for each of thousands.
/// </summary>
sealed partial class RecordedObjects
{
    /// <summary>Stands where an object says under which key its marked parts are found in a file's structure.</summary>
    /// <param name="place">Its place among those that are recorded together, from 0.</param>
    public static string Marked(int place) => string.Create(CultureInfo.InvariantCulture, $"/StructParents -{place + 1}");

    [GeneratedRegex(@"/StructParents -(\d+)")]
    private static partial Regex Marks();

    readonly List<(int Number, string Text, byte[]? Content)> objects = [];
    readonly int count;
    readonly IReadOnlyList<(int Root, int Content)> made;

    /// <summary>The texts with the numbers that they have from a place on.</summary>
    sealed record Placed(int Offset, int? Key, string[] Texts);

    Placed? placed;

    static string Moved(string text, int offset, int? key) =>
        Reference()
            .Replace(
                Marks().Replace(text, m => key is { } first ? $"/StructParents {first + Whole(m) - 1}" : ""),
                m => $"{Whole(m) + offset} 0 R"
            );

    static int Whole(Match m) => int.Parse(m.Groups[1].ValueSpan, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"(\d+) 0 R")]
    private static partial Regex Reference();

    /// <summary>Records what is written.</summary>
    /// <param name="write">Writes and answers the numbers of the objects that others refer to, and of those that have their
    /// content.</param>
    public RecordedObjects(Func<PdfObjects, IReadOnlyList<(int Root, int Content)>> write)
    {
        var target = new PdfObjects(Stream.Null) { Recorder = objects };
        made = write(target);
        count = target.Count;
    }

    /// <summary>How many objects others can refer to.</summary>
    public int Roots => made.Count;

    /// <summary>Writes them into a file; answers the numbers of the objects that others refer to, and of those that have their
    /// content.</summary>
    /// <param name="key">Under which the marked parts of the first are found in the file's structure, those of the others under the keys
    /// after it; null where the file has none.</param>
    public IReadOnlyList<(int Root, int Content)> Write(PdfObjects target, int? key)
    {
        var offset = 0;
        for (var i = 0; i < count; i++)
        {
            var number = target.Reserve();
            if (i == 0)
                offset = number - 1;
        }
        // Most files of a run have it at the same place.
        var at = placed;
        if (at?.Offset != offset || at.Key != key)
            placed = at = new(offset, key, [.. objects.Select(o => Moved(o.Text, offset, key))]);
        foreach (var ((number, _, content), text) in objects.Zip(at!.Texts))
            if (content is null)
                target.Object(number + offset, text);
            else
                target.Stream(number + offset, text, content, deflate: false);
        return [.. made.Select(m => (m.Root + offset, m.Content + offset))];
    }
}
