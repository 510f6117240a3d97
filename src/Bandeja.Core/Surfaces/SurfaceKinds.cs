using System.Text.Json.Nodes;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Surfaces;

/// <summary>What envelopes and labels have in common: boxes on a surface.</summary>
public abstract class SurfaceKind : DesignKind
{
    /// <inheritdoc/>
    public override void Validate(string json, JsonObject? root) => SurfaceReader.Read(root!);

    /// <inheritdoc/>
    public override LetterDesign AsText(string json, JsonObject? root)
    {
        var surface = SurfaceReader.Read(root!);
        return new(new(surface.Width, surface.Height, 0, 0, 0, 0), [.. surface.Boxes.SelectMany(b => b.Blocks)], null, Letterhead.None);
    }

    /// <inheritdoc/>
    public override IBoundDesign Bind(string json, JsonObject? root, LetterSetting setting) =>
        new BoundSurface(SurfaceReader.Read(root!), setting);
}

/// <summary>Envelopes.</summary>
public sealed class EnvelopeKind : SurfaceKind
{
    /// <inheritdoc/>
    public override PieceKind Kind => PieceKind.Envelope;

    /// <inheritdoc/>
    public override string Word => "envelope";

    /// <inheritdoc/>
    public override bool HasFeed => true;
}

/// <summary>Sheets of labels.</summary>
public sealed class LabelKind : SurfaceKind
{
    /// <inheritdoc/>
    public override PieceKind Kind => PieceKind.Labels;

    /// <inheritdoc/>
    public override string Word => "label";

    /// <inheritdoc/>
    public override bool SharesSheets => true;
}

/// <summary>What of a surface others ask for, whatever the design is.</summary>
public static class SurfaceQuestions
{
    /// <summary>How its pieces lie on sheets; null where each is a sheet of its own.</summary>
    public static LabelSetup? Labels(this IBoundDesign design) => (design as BoundSurface)?.Design.Labels;

    /// <summary>The envelope, where it has a window through which a page of the package is read; null otherwise.</summary>
    public static SurfaceDesign? Windowed(this IBoundDesign design) =>
        design is BoundSurface { Design: { Window: not null } envelope } ? envelope : null;

    /// <summary>What the post wants to stay clear on it; empty where nothing.</summary>
    public static IReadOnlyList<ClearZone> Zones(this IBoundDesign design) => (design as BoundSurface)?.Zones ?? [];
}
