using Bandeja.Core.Checks;

namespace Bandeja.Acts.Checks;

/// <summary>Issues that a check found.</summary>
/// <param name="Recipients">Whose; all of the check where there are none.</param>
public sealed record OnIssues(long ListId, CheckKind Kind, IReadOnlyList<long>? Recipients = null);
