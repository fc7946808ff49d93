namespace Aerarium.Core.Definitions;

/// <summary>A rule is wrong in itself: circular, incomplete, out of its row. Raised when a definition is loaded, or when a rule fails while computing; the message names the line.</summary>
public sealed class RuleException : Exception
{
    /// <summary>A fault in the rules, in words.</summary>
    public RuleException(string message)
        : base(message)
    {
    }

    /// <summary>A fault in the rules, with what caused it.</summary>
    public RuleException(string message, Exception cause)
        : base(message, cause)
    {
    }
}
