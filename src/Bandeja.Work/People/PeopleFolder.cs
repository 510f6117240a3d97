using Bandeja.Work.Hosting;

namespace Bandeja.Work.People;

/// <summary>The folder of what is kept with recipients: beside the database, so that it can be removed with them.</summary>
public sealed class PeopleFolder(ServerOptions options)
{
    readonly Lock one = new();

    /// <summary>Where a file is, by its digest or by the id of the picture made of it. Both stand in hexadecimal.</summary>
    public string PathOf(string id) => Path.Combine(options.Folder("people"), id);

    /// <summary>Writes files, and notes them; nothing is swept meanwhile.</summary>
    public T Keep<T>(IReadOnlyDictionary<string, byte[]> files, Func<T> note)
    {
        lock (one)
        {
            foreach (var (id, data) in files)
            {
                var path = PathOf(id);
                if (File.Exists(path))
                    continue;
                var part = $"{path}.{Guid.NewGuid():N}.part";
                File.WriteAllBytes(part, data);
                File.Move(part, path, overwrite: true);
            }
            return note();
        }
    }

    /// <summary>Removes what nobody has any more.</summary>
    /// <param name="wanted">The names of the files that are kept.</param>
    public void Sweep(Func<IReadOnlySet<string>> wanted)
    {
        lock (one)
        {
            var keep = wanted();
            foreach (var path in Directory.EnumerateFiles(options.Folder("people")))
                if (!keep.Contains(Path.GetFileName(path)))
                    File.Delete(path);
        }
    }
}
