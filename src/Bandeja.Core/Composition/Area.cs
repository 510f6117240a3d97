namespace Bandeja.Core.Composition;

/// <summary>A rectangle in points from the left and top edges of what it stands on.</summary>
public readonly record struct Area(double X, double Y, double Width, double Height)
{
    /// <summary>Its right edge.</summary>
    public double Right => X + Width;

    /// <summary>Its lower edge.</summary>
    public double Bottom => Y + Height;

    /// <summary>The same with all edges moved outwards; inwards where negative.</summary>
    public Area Grown(double by) => new(X - by, Y - by, Width + 2 * by, Height + 2 * by);

    /// <summary>The same at another place.</summary>
    public Area Moved(double right, double down) => this with { X = X + right, Y = Y + down };

    /// <summary>True where the two have more than an edge in common.</summary>
    public bool Overlaps(Area other) =>
        X < other.Right - 0.01 && other.X < Right - 0.01 && Y < other.Bottom - 0.01 && other.Y < Bottom - 0.01;

    /// <summary>True where the other lies within, an edge in common allowed.</summary>
    public bool Holds(Area other) =>
        other.X >= X - 0.01 && other.Y >= Y - 0.01 && other.Right <= Right + 0.01 && other.Bottom <= Bottom + 0.01;
}
