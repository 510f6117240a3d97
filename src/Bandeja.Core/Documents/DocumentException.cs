namespace Bandeja.Core.Documents;

/// <summary>A document that cannot be brought in. The message is for the user.</summary>
public sealed class DocumentException(string message) : Exception(message);
