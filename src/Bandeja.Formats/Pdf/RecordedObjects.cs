using System.Globalization;
using System.Text.RegularExpressions;

namespace Bandeja.Formats.Pdf;

/// <summary>
/// Objects that were written once and can be written again into any file: a picture is unpacked, compressed or read in for the first file
/// that shows it, not for each of thousands.
/// </summary>
sealed partial class RecordedObjects
{
    readonly List<(int Number, string Text, byte[]? Content)> objects = [];
    readonly int count,
        root;

    /// <summary>The texts with the numbers that they have from a place on.</summary>
    sealed record Placed(int Offset, string[] Texts);

    Placed? placed;

    static string Moved(string text, int offset) =>
        Reference().Replace(text, m => $"{int.Parse(m.Groups[1].ValueSpan, CultureInfo.InvariantCulture) + offset} 0 R");

    [GeneratedRegex(@"(\d+) 0 R")]
    private static partial Regex Reference();

    /// <summary>Records what is written.</summary>
    /// <param name="write">Writes and answers the number of the object that others refer to.</param>
    public RecordedObjects(Func<PdfObjects, int> write)
    {
        var target = new PdfObjects(Stream.Null) { Recorder = objects };
        root = write(target);
        count = target.Count;
    }

    /// <summary>Writes them into a file; answers the number of the object that others refer to.</summary>
    public int Write(PdfObjects target)
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
        if (at?.Offset != offset)
            placed = at = new(offset, [.. objects.Select(o => Moved(o.Text, offset))]);
        foreach (var ((number, _, content), text) in objects.Zip(at!.Texts))
            if (content is null)
                target.Object(number + offset, text);
            else
                target.Stream(number + offset, text, content, deflate: false);
        return root + offset;
    }
}
