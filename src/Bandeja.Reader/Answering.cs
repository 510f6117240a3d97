using System.Globalization;
using Bandeja.Core.Composition;
using Bandeja.Core.Documents;
using Bandeja.Core.Places;
using Bandeja.Formats;
using Bandeja.Formats.Documents;
using Bandeja.Formats.Lists;
using Bandeja.Formats.Mail;
using Bandeja.Formats.Pdf;
using MimeKit;

namespace Bandeja.Reader;

/// <summary>Does what an order says, and answers.</summary>
static class Answering
{
    /// <param name="bytes">Those that follow the order.</param>
    public static void Do(Order order, byte[] bytes, Stream answers)
    {
        CultureInfo.CurrentCulture = CultureInfo.CurrentUICulture = CultureInfo.GetCultureInfo(order.Culture);
        try
        {
            Answer(order, bytes, answers);
        }
        catch (ListFileException e)
        {
            Refuse(RefusalKind.List, e.Message);
        }
        catch (LockedPdfException e)
        {
            Refuse(RefusalKind.Locked, e.Message);
        }
        catch (PictureException e)
        {
            Refuse(RefusalKind.Picture, e.Message);
        }
        catch (DocumentException e)
        {
            Refuse(RefusalKind.Document, e.Message);
        }
        catch (FontFileException e)
        {
            Refuse(RefusalKind.Typeface, e.Message);
        }
        catch (OutOfMemoryException e)
        {
            Refuse(RefusalKind.Memory, e.Message);
        }
        catch (Exception e) when (e.InnerException is OutOfMemoryException)
        {
            Refuse(RefusalKind.Memory, e.Message);
        }
        catch (Exception e)
        {
            Refuse(RefusalKind.Unforeseen, e.ToString());
        }

        void Refuse(RefusalKind kind, string message) => Wire.WriteValue(answers, Frame.Refusal, new Refusal(kind, message));
    }

    static void Answer(Order order, byte[] bytes, Stream answers)
    {
        switch (order)
        {
            case AcceptList list:
                SourceFile.Open(list.Path, list.Name);
                Wire.WriteValue(answers, Frame.Json, true);
                break;
            case LookAtList look:
                Wire.WriteValue(
                    answers,
                    Frame.Json,
                    SourceFile.Open(look.Path, look.Name).Look(look.Options, new(look.Dates, Countries.Named(look.Home)!, look.Currency))
                );
                break;
            case ReadRows rows:
                Rows(rows, answers);
                break;
            case AcceptPicture accept:
                var picture = PictureFile.Accept(bytes, accept.Password);
                var same = ReferenceEquals(picture.Data, bytes);
                Wire.WriteValue(
                    answers,
                    Frame.Json,
                    new AcceptedPicture(
                        picture.MediaType,
                        picture.Width,
                        picture.Height,
                        picture.Gray,
                        picture.Pages,
                        same,
                        picture.WrittenSize()
                    )
                );
                Wire.Write(answers, Frame.Bytes, same ? [] : picture.Data);
                break;
            case ReadDocument document:
                var read = DocumentFile.Read(document.Path, document.Name, document.Faces);
                Wire.WriteValue(
                    answers,
                    Frame.Json,
                    new DocumentAnswer(read.Document, [.. read.Pictures.Select(p => new PictureOfDocument(p.Key, p.Name))])
                );
                foreach (var inside in read.Pictures)
                    Wire.Write(answers, Frame.Bytes, inside.Data);
                break;
            case AcceptFace face:
                Wire.WriteValue(answers, Frame.Json, FaceFile.Accept(bytes, face.Name));
                break;
            case LookAtForm form:
                Wire.WriteValue(answers, Frame.Json, FormReading.Of(bytes, form.Password));
                break;
            case ReadReport report:
                Wire.WriteValue(answers, Frame.Json, Report(bytes, report.ReturnAddress));
                break;
        }
    }

    static void Rows(ReadRows order, Stream answers)
    {
        using var reader = SourceFile.Open(order.Path, order.Name).Rows(order.Options);
        var frame = new RowFrame();
        // The first rows go out at once: whoever waits for them sees that something happens.
        for (var rows = 0; reader.Read(); rows++)
        {
            frame.Add(reader.RowNumber, reader.Cells());
            if (frame.IsFull || rows == 0)
                Wire.Write(answers, Frame.Rows, frame.Take(reader.Progress));
        }
        Wire.Write(answers, Frame.Rows, frame.Take(1));
        Wire.WriteValue(answers, Frame.Json, new RowsEnd(reader.Notes.All));
    }

    static ReportRead Report(byte[] bytes, string? returnAddress)
    {
        MimeMessage message;
        try
        {
            message = MimeMessage.Load(new MemoryStream(bytes, writable: false));
        }
        catch (FormatException)
        {
            return new(false, false, []);
        }
        return new(true, DeliveryReport.Is(message), DeliveryReport.Read(message, bytes, returnAddress));
    }
}
