using System.Data;
using System.Globalization;
using Bandeja.Core.Lists;
using Bandeja.Core.Recognition;
using DbUp.Engine;

namespace Bandeja.Store.Migrations;

/// <summary>Gives columns in which partners stand with their whole names, <c>Spouse: Maria Lopez</c>, the role for that. Until it was
/// there they were taken for given names, and printed as “John and Maria Lopez Smith”.</summary>
sealed class PartnersHaveWholeNames : IScript
{
    public string ProvideScript(Func<IDbCommand> dbCommandFactory)
    {
        using var command = dbCommandFactory();
        command.CommandText = """
            SELECT list_id, id, coalesce(source_name, name), name FROM list_column c
            WHERE role = 'PartnerGivenName' AND EXISTS (SELECT 1 FROM pragma_table_info('rows_' || list_id) t WHERE t.name = 'c' || c.id)
                AND NOT EXISTS (SELECT 1 FROM list_column o WHERE o.list_id = c.list_id AND o.role = 'PartnerFamilyName' AND o.removed = 0)
            """;
        using var reader = command.ExecuteReader();
        var script = new System.Text.StringBuilder("SELECT 1;\n");
        while (reader.Read())
        {
            var (list, id) = (reader.GetInt64(0), reader.GetInt64(1));
            if (!new[] { reader.GetString(2), reader.GetString(3) }.Any(n => RoleRecognizer.FromHeading(n) == Role.PartnerFullName))
                continue;
            script.Append(
                CultureInfo.InvariantCulture,
                $"""
                UPDATE list_column SET role = 'PartnerFullName' WHERE list_id = {list} AND id = {id}
                    AND (SELECT avg(instr(trim(c{id}), ' ') > 0) FROM rows_{list} WHERE trim(c{id}) <> '') >= 0.5;

                """
            );
        }
        return script.ToString();
    }
}
