using System.Security.Cryptography;
using Bandeja.Store;
using Bandeja.Store.Designs;
using Bandeja.Work.Hosting;

namespace Bandeja.Work.Documents;

/// <summary>The word processor files that letters were made of, as they came, named by their digest.</summary>
public sealed class DocumentFiles(ServerOptions server, Database database, DesignFiles files)
{
    string Folder => server.Folder("documents");

    /// <summary>Keeps a file; answers its digest.</summary>
    public string Keep(string path)
    {
        using var stream = File.OpenRead(path);
        var digest = Convert.ToHexStringLower(SHA256.HashData(stream));
        var to = Path.Combine(Folder, digest);
        if (!File.Exists(to))
        {
            var part = $"{to}.{Guid.NewGuid():N}.part";
            File.Copy(path, part);
            File.Move(part, to, overwrite: true);
        }
        return digest;
    }

    /// <summary>The path of a file.</summary>
    /// <exception cref="NotFoundException">It is not there.</exception>
    public string PathOf(string digest) =>
        Path.Combine(Folder, digest) is var path && File.Exists(path)
            ? path
            : throw new NotFoundException("The file this letter was imported from no longer exists.");

    /// <summary>Removes the files of letters that are gone, once that is committed.</summary>
    public void SweepLater() =>
        database.AfterCommit(() =>
        {
            var known = files.Digests();
            foreach (var path in Directory.EnumerateFiles(Folder))
                if (Path.GetFileName(path) is var name && name.Length == 64 && !known.Contains(name))
                    File.Delete(path);
        });
}
