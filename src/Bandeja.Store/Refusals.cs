namespace Bandeja.Store;

/// <summary>Something that was asked for and is not there. The message is for the user.</summary>
public sealed class NotFoundException(string message) : Exception(message);

/// <summary>Something that cannot be done as things are. The message says why, for the user.</summary>
public sealed class ConflictException(string message) : Exception(message);

/// <summary>Input that cannot be worked with. The message is for the user.</summary>
public sealed class BadInputException(string message) : Exception(message);

/// <summary>Something that was changed by somebody else since it was read. The message says so, for the user.</summary>
public sealed class StaleException(string message) : Exception(message);
