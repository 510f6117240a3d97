using Dapper;

namespace Bandeja.Store.Designs;

/// <summary>A typeface of the organization: one cut of a family.</summary>
public sealed record TypefaceRow
{
    public long Id { get; init; }

    /// <summary>What the file is called in its folder: the digest of its bytes.</summary>
    public string Digest { get; init; } = "";
    public string Family { get; init; } = "";
    public bool Bold { get; init; }
    public bool Italic { get; init; }

    /// <summary>What the cut is called, for people.</summary>
    public string Style { get; init; } = "";
    public string FileName { get; init; } = "";
    public long Size { get; init; }

    /// <summary>Height of a single line as a multiple of the type size.</summary>
    public double LineHeight { get; init; }
    public string At { get; init; } = "";
    public string By { get; init; } = "";
}

/// <summary>What prints a typeface that documents name.</summary>
public sealed record TypefaceReplacement(string Named, string Printed);

/// <summary>The organization's own typefaces, and what was chosen for those that documents name.</summary>
public sealed class TypefaceStore(Database database)
{
    /// <summary>All, by family.</summary>
    public IReadOnlyList<TypefaceRow> All()
    {
        using var c = database.Open();
        return [.. c.Query<TypefaceRow>("SELECT * FROM typeface ORDER BY family COLLATE NOCASE, bold, italic")];
    }

    /// <summary>One of them.</summary>
    /// <exception cref="NotFoundException">It is not there.</exception>
    public TypefaceRow Get(long id)
    {
        using var c = database.Open();
        return c.QuerySingleOrDefault<TypefaceRow>("SELECT * FROM typeface WHERE id = @id", new { id })
            ?? throw new NotFoundException("This font no longer exists.");
    }

    /// <summary>Adds one; answers its id.</summary>
    public long Add(TypefaceRow face) =>
        database.Write(c =>
            c.ExecuteScalar<long>(
                "INSERT INTO typeface (digest, family, bold, italic, style, file_name, size, line_height, at, by) VALUES "
                    + "(@Digest, @Family, @Bold, @Italic, @Style, @FileName, @Size, @LineHeight, @At, @By) RETURNING id",
                face
            )
        );

    /// <summary>Removes one.</summary>
    public void Remove(long id) => database.Write(c => c.Execute("DELETE FROM typeface WHERE id = @id", new { id }));

    /// <summary>The names of designs that a version of names a family, and of those that name it in a recipient's own letter.</summary>
    public IReadOnlyList<string> UsedIn(string family)
    {
        using var c = database.Open();
        const string names = "SELECT 1 FROM json_tree({0}.document_json) t WHERE t.key IN ('family', 'fontFamily') AND t.value = @family";
        return
        [
            .. c.Query<string>(
                "SELECT DISTINCT d.name FROM design d WHERE EXISTS (SELECT 1 FROM design_version v WHERE v.design_id = d.id AND EXISTS ("
                    + $"{string.Format(null, names, "v")})) OR EXISTS (SELECT 1 FROM one_off o WHERE o.design_id = d.id AND EXISTS ("
                    + $"{string.Format(null, names, "o")})) OR EXISTS (SELECT 1 FROM run_one_off r WHERE r.design_id = d.id AND EXISTS ("
                    + $"{string.Format(null, names, "r")})) ORDER BY d.name",
                new { family }
            ),
        ];
    }

    /// <summary>What was chosen for typefaces that documents name.</summary>
    public IReadOnlyList<TypefaceReplacement> Replacements()
    {
        using var c = database.Open();
        return [.. c.Query<TypefaceReplacement>("SELECT named, printed FROM typeface_replacement ORDER BY named COLLATE NOCASE")];
    }

    /// <summary>Sets what was chosen; what is not among it is as the table has it.</summary>
    public void SetReplacements(IEnumerable<TypefaceReplacement> all) =>
        database.Write(c =>
        {
            c.Execute("DELETE FROM typeface_replacement");
            c.Execute("INSERT INTO typeface_replacement (named, printed) VALUES (@Named, @Printed)", all);
        });
}
