using System.Text.Json.Nodes;
using Bandeja.Core.Composition;

namespace Bandeja.Core.Starters;

/// <summary>What the organization is called in a starter: its words stand in the design as text, and can be changed there.</summary>
/// <param name="Name">The organization's name; blank where it is not set yet.</param>
/// <param name="Address">Its postal address, a line each.</param>
/// <param name="Signer">Who signs letters; blank where nobody is set.</param>
/// <param name="SignerTitle">What the signer is called under the name.</param>
/// <param name="Email">The address that emails come from; blank where none is set.</param>
/// <param name="Sheet">The paper of letters, a key of <see cref="LetterReader.Sheets"/>.</param>
public sealed record StarterWords(
    string Name,
    IReadOnlyList<string> Address,
    string Signer = "",
    string SignerTitle = "",
    string Email = "",
    string Sheet = "letter"
)
{
    /// <summary>Whether its letters are on US paper, and so its envelopes and labels are of American sizes.</summary>
    public bool IsAmerican => Sheet != "a4";

    /// <summary>The name, or a word in its place that shows what belongs there.</summary>
    public string NameShown => Name.Length > 0 ? Name : SampleText.Organization;

    /// <summary>The address, or lines in its place.</summary>
    public IReadOnlyList<string> AddressShown => Address.Count > 0 ? Address : [SampleText.Street, SampleText.Place(IsAmerican)];

    /// <summary>The signer, or a word in its place.</summary>
    public string SignerShown => Signer.Length > 0 ? Signer : SampleText.Signer;
}

/// <summary>A design that is ready to be changed: no field in it needs a column of a certain name, only the roles of columns.</summary>
/// <param name="Id">Under which it is asked for.</param>
/// <param name="Kind">What it becomes.</param>
/// <param name="Name">What the design is called at first.</param>
/// <param name="Description">What it is for, in a sentence.</param>
/// <param name="Write">Its document, with the words of an organization.</param>
public sealed record Starter(string Id, PieceKind Kind, string Name, string Description, Func<StarterWords, JsonObject> Write)
{
    /// <summary>All of them, in the order in which they are offered.</summary>
    public static IReadOnlyList<Starter> All { get; } = [.. LetterStarters.All, .. SurfaceStarters.All, .. EmailStarters.All];
}
