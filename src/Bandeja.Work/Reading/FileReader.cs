using System.Globalization;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Core.Forms;
using Bandeja.Core.Lists;
using Bandeja.Core.Places;
using Bandeja.Formats.Documents;
using Bandeja.Formats.Lists;
using Bandeja.Formats.Pdf;
using Bandeja.Reader;

namespace Bandeja.Work.Reading;

/// <summary>
/// Reads files that people brought, in a process of its own each: a file that would end a process, fill its memory, or keep it busy
/// without end comes to a message here. What it refuses it refuses as the readers do, with <see cref="ListFileException"/> or <see
/// cref="PictureException"/>.
/// </summary>
public sealed class FileReader(ReaderPool pool, ILogger<FileReader> log)
{
    static string Culture => CultureInfo.CurrentCulture.Name;

    /// <summary>Sees whether a list can be read from a file at all.</summary>
    /// <exception cref="ListFileException">It cannot.</exception>
    public void Accept(string path, string name, CancellationToken cancel) =>
        Ask<bool>(new AcceptList(path, name, Culture), [], name, cancel, out _);

    /// <inheritdoc cref="SourceFile.Look"/>
    public SourceLook Look(string path, string name, SourceOptions options, ListCustoms customs, CancellationToken cancel) =>
        Ask<SourceLook>(
            new LookAtList(path, name, options, customs.Dates, customs.Home.Code, customs.Currency, Culture),
            [],
            name,
            cancel,
            out _
        );

    /// <summary>A file whose rows are read elsewhere. Each opening of the rows is a reading of its own.</summary>
    public IListFile List(string path, string name, CancellationToken cancel) =>
        new ListElsewhere(options => new(pool, new ReadRows(path, name, options, Culture), [], name, log, cancel));

    /// <summary>Takes a picture in: looked through, upright, drawn once.</summary>
    /// <exception cref="PictureException">It cannot be used.</exception>
    public (PictureFile Picture, long Written) Picture(byte[] data, string name, CancellationToken cancel, string? password = null)
    {
        try
        {
            var read = Ask<AcceptedPicture>(new AcceptPicture(password, Culture), data, name, cancel, out var bytes, bytesFollow: true);
            return (
                new(read.Same ? data : bytes, read.MediaType, read.Width, read.Height, read.Gray, read.Pages) { Password = password },
                read.Written
            );
        }
        catch (ListFileException e)
        {
            throw new PictureException(e.Message);
        }
    }

    /// <summary>Reads a word processor document.</summary>
    /// <exception cref="DocumentException">It cannot be read; the sentence says why.</exception>
    /// <param name="faces">Which faces print those that it names.</param>
    public DocumentRead Document(string path, string name, FaceBook faces, CancellationToken cancel)
    {
        try
        {
            using var reading = new OneReading(pool, new ReadDocument(path, name, faces, Culture), [], name, log, cancel);
            var answer = Wire.Value<DocumentAnswer>(reading.Next().Content);
            var pictures = answer.Pictures.Select(p => new DocumentPicture(p.Key, p.Name, reading.Next().Content)).ToList();
            reading.Complete();
            return new(answer.Document, pictures);
        }
        catch (ListFileException e)
        {
            // A limit of the process was reached.
            throw new DocumentException(e.Message);
        }
    }

    /// <summary>Looks at a typeface.</summary>
    /// <exception cref="FontFileException">It cannot be used; the sentence says why.</exception>
    public FontFacts Typeface(byte[] data, string name, CancellationToken cancel)
    {
        try
        {
            return Ask<FontFacts>(new AcceptFace(name, Culture), data, name, cancel, out _);
        }
        catch (ListFileException e)
        {
            throw new FontFileException(e.Message);
        }
    }

    /// <summary>Looks at a PDF that is to be a form.</summary>
    /// <param name="password">What opens it where it is locked; null for none.</param>
    /// <exception cref="PictureException">It cannot be used; the sentence says why.</exception>
    public FormFacts Form(byte[] data, string name, CancellationToken cancel, string? password)
    {
        try
        {
            return Ask<FormFacts>(new LookAtForm(password, Culture), data, name, cancel, out _);
        }
        catch (ListFileException e)
        {
            throw new PictureException(e.Message);
        }
    }

    /// <summary>What a message that came back says of deliveries.</summary>
    /// <exception cref="ListFileException">It cannot be read within the limits.</exception>
    public ReportRead Report(byte[] data, string? returnAddress, CancellationToken cancel) =>
        Ask<ReportRead>(new ReadReport(returnAddress, Culture), data, "The message", cancel, out _);

    T Ask<T>(Order order, byte[] data, string name, CancellationToken cancel, out byte[] bytes, bool bytesFollow = false)
    {
        using var reading = new OneReading(pool, order, data, name, log, cancel);
        var answer = Wire.Value<T>(reading.Next().Content);
        bytes = bytesFollow ? reading.Next().Content : [];
        reading.Complete();
        return answer;
    }

    sealed class ListElsewhere(Func<SourceOptions, OneReading> begin) : IListFile
    {
        public IRowReader Rows(SourceOptions complete) => new RowsElsewhere(begin(complete));
    }

    /// <summary>Rows that come from another process.</summary>
    sealed class RowsElsewhere(OneReading reading) : IRowReader
    {
        IEnumerator<(int Number, string?[] Cells)> rows = Enumerable.Empty<(int, string?[])>().GetEnumerator();
        bool ended;

        public SourceNotes Notes { get; } = new();
        public double Progress { get; private set; }
        public int RowNumber => rows.Current.Number;

        public string?[] Cells() => rows.Current.Cells;

        public bool Read()
        {
            while (!ended)
            {
                if (rows.MoveNext())
                    return true;
                var (kind, content) = reading.Next();
                if (kind is Frame.Rows)
                    (rows, Progress) = (RowFrame.Rows(content).GetEnumerator(), RowFrame.Progress(content));
                else
                {
                    Notes.AddAll(Wire.Value<RowsEnd>(content).Notes);
                    reading.Complete();
                    ended = true;
                }
            }
            return false;
        }

        public void Dispose()
        {
            rows.Dispose();
            reading.Dispose();
        }
    }
}
