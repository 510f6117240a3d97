using System.Data;
using DbUp.Engine;

namespace Bandeja.Store.Migrations;

/// <summary>Gives the row tables of lists that are there already the columns <c>gone</c> (removed from the list) and <c>hand</c> (added by
/// hand, not by a file).</summary>
sealed class RowsHaveOrigin : IScript
{
    public string ProvideScript(Func<IDbCommand> dbCommandFactory)
    {
        using var command = dbCommandFactory();
        command.CommandText = "SELECT name FROM sqlite_master WHERE type = 'table' AND name GLOB 'rows_[0-9]*'";
        using var reader = command.ExecuteReader();
        var script = new System.Text.StringBuilder("SELECT 1;\n");
        while (reader.Read())
            script.Append(
                $"ALTER TABLE {reader.GetString(0)} ADD COLUMN gone INTEGER;\nALTER TABLE {reader.GetString(0)} ADD COLUMN hand INTEGER;\n"
            );
        return script.ToString();
    }
}
