namespace Bandeja.Formats.Lists;

/// <summary>Delimited text.</summary>
sealed class CsvSource(string path, byte[] head, bool headIsWhole) : ISource
{
    (string Encoding, IReadOnlyList<EncodingReading> Readings)? recognized;

    (string Encoding, IReadOnlyList<EncodingReading> Readings) Recognized => recognized ??= Encodings.Recognize(path, head, headIsWhole);

    public string Kind => "csv";

    public IReadOnlyList<EncodingReading> Readings(SourceOptions asked) => asked.Encoding is null ? Recognized.Readings : [];

    public IReadOnlyList<SheetInfo> Parts() => [];

    public SourceOptions Complete(SourceOptions options)
    {
        var encoding = options.Encoding ?? Recognized.Encoding;
        var delimiter = options.Delimiter is { Length: 1 } d
            ? d
            : DelimiterGuess.Of(Encodings.Get(encoding).GetString(head.AsSpan(0, Math.Min(head.Length, 64 << 10)))).ToString();
        return options with { Encoding = encoding, Delimiter = delimiter, Sheet = null, Query = null };
    }

    public IRowReader Rows(SourceOptions complete) => new CsvRowReader(path, Encodings.Get(complete.Encoding!), complete.Delimiter![0]);
}
