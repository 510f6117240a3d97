using System.Security.Cryptography;

namespace Bandeja.Work.Production;

/// <summary>A file that is only ever added to, so that whoever reads along sees nothing that changes later; its digest is made on the
/// way.</summary>
public sealed class ForwardFile : Stream
{
    readonly FileStream file;
    readonly IncrementalHash hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
    long length;

    /// <summary>Begins a file; one of that name is replaced.</summary>
    public ForwardFile(string path) => file = new(path, FileMode.Create, FileAccess.Write, FileShare.Read | FileShare.Delete, 1 << 16);

    /// <summary>Bytes written.</summary>
    public long Written => length;

    /// <summary>Puts everything onto the disk; answers the SHA-256 in hex.</summary>
    public string Finish()
    {
        file.Flush(flushToDisk: true);
        return Convert.ToHexStringLower(hash.GetHashAndReset());
    }

    /// <inheritdoc/>
    public override void Write(byte[] buffer, int offset, int count) => Write(buffer.AsSpan(offset, count));

    /// <inheritdoc/>
    public override void Write(ReadOnlySpan<byte> buffer)
    {
        file.Write(buffer);
        hash.AppendData(buffer);
        length += buffer.Length;
    }

    /// <inheritdoc/>
    public override void Flush() => file.Flush();

    /// <inheritdoc/>
    public override bool CanRead => false;

    /// <inheritdoc/>
    public override bool CanSeek => false;

    /// <inheritdoc/>
    public override bool CanWrite => true;

    /// <inheritdoc/>
    public override long Length => length;

    /// <inheritdoc/>
    public override long Position
    {
        get => length;
        set => throw new NotSupportedException();
    }

    /// <inheritdoc/>
    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void SetLength(long value) => throw new NotSupportedException();

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        if (disposing)
        {
            file.Dispose();
            hash.Dispose();
        }
        base.Dispose(disposing);
    }
}
