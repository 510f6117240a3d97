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
        foreach (var (number, text, content) in objects)
        {
            var moved = Reference().Replace(text, m => $"{int.Parse(m.Groups[1].ValueSpan, CultureInfo.InvariantCulture) + offset} 0 R");
            if (content is null)
                target.Object(number + offset, moved);
            else
                target.Stream(number + offset, moved, content, deflate: false);
        }
        return root + offset;
    }
}
