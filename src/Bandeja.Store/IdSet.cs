namespace Bandeja.Store;

/// <summary>
/// Many ids as one parameter of a query: <c>recipient_id IN (SELECT value FROM json_each(@ids))</c>. The query's text is then the same
/// whatever the ids are, so the code that reads its rows is made once and not for each thousand of a list.
/// </summary>
static class IdSet
{
    /// <summary>The ids as a JSON array (https://sqlite.org/json1.html#jeach).</summary>
    public static string Json(IEnumerable<long> ids) => $"[{string.Join(',', ids)}]";

    /// <summary>What follows the name of a column: it is one of the ids in the parameter <c>@ids</c>.</summary>
    public const string In = "IN (SELECT value FROM json_each(@ids))";
}
