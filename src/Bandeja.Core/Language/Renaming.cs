namespace Bandeja.Core.Language;

/// <summary>Gives a column another name within an expression, so that what reads it goes on reading it.</summary>
public static class Renaming
{
    /// <summary>The expression with the column at a position called by another name.</summary>
    public static Expression Of(Expression expression, int column, string name)
    {
        Expression In(Expression e) => Of(e, column, name);
        return expression switch
        {
            ColumnReference c => c.Index == column ? c with { Name = name } : c,
            Negation e => new Negation(In(e.Inner)),
            LogicalNot e => new LogicalNot(In(e.Inner)),
            Binary e => e with { Left = In(e.Left), Right = In(e.Right) },
            BlankTest e => e with { Inner = In(e.Inner) },
            OneOf e => new OneOf(In(e.Inner), new([.. e.Choices.Select(In)])),
            Between e => new Between(In(e.Inner), In(e.Low), In(e.High)),
            Formatted e => e with { Inner = In(e.Inner) },
            Call e => e with { Arguments = new([.. e.Arguments.Select(In)]) },
            _ => expression,
        };
    }
}
