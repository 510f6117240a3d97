using Bandeja.Core.Composition;

namespace Bandeja.Work.Composition;

/// <summary>A rectangle on a piece, millimetres from its left and top edges, with a name for people.</summary>
public sealed record MarkedArea(string Name, double X, double Y, double Width, double Height)
{
    internal static MarkedArea Of(string name, Area a)
    {
        static double Mm(double points) => Math.Round(points * 25.4 / 72, 3);
        return new(name, Mm(a.X), Mm(a.Y), Mm(a.Width), Mm(a.Height));
    }
}
