using System.Text;
using Bandeja.Core.Places;
using Bandeja.Core.Texts;
using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace Bandeja.Store;

/// <summary>The collation <c>NAMES</c>: order without regard to case and accents. Plain ASCII takes a short way to the same
/// order.</summary>
static class NameOrder
{
    public static void Register(SqliteConnection connection)
    {
        // A country is one country however it is written: United States, USA and U.S.A. stand together, and with those that say none.
        connection.CreateFunction(
            "country_of",
            (string? text, string home) =>
                string.IsNullOrWhiteSpace(text) ? ""
                : Countries.Named(text) is { } known
                    ? known.Code == home ? ""
                        : known.Name
                : text.Trim(),
            isDeterministic: true
        );
        raw.sqlite3__create_collation_utf8(connection.Handle, "NAMES", null, static (_, a, b) => Order(a, b));
    }

    static int Order(ReadOnlySpan<byte> a, ReadOnlySpan<byte> b)
    {
        var length = Math.Min(a.Length, b.Length);
        for (var i = 0; i < length; i++)
        {
            int x = a[i],
                y = b[i];
            if ((x | y) >= 0x80)
                return string.CompareOrdinal(FoldedText.Of(Encoding.UTF8.GetString(a)), FoldedText.Of(Encoding.UTF8.GetString(b)));
            if (x == y)
                continue;
            if (x is >= 'A' and <= 'Z')
                x |= 32;
            if (y is >= 'A' and <= 'Z')
                y |= 32;
            if (x != y)
                return x - y;
        }
        return a.Length - b.Length;
    }
}
