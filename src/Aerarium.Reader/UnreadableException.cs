namespace Aerarium.Reader;

/// <summary>A file that cannot be taken; the message says why and what to do.</summary>
internal sealed class UnreadableException(string message) : Exception(message);
