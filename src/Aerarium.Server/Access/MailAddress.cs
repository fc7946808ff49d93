using Aerarium.Core.Entries;
using MimeKit;

namespace Aerarium.Server.Access;

/// <summary>What counts as an e-mail address: one address as RFC 5322 writes it, in a domain with a dot, without a name, comments or quotes around it.</summary>
internal static class MailAddress
{
    /// <summary>The longest that a path may be: RFC 5321, section 4.5.3.1.3.</summary>
    private const int Longest = 254;

    public static bool IsOne(string text) =>
        text.Length <= Longest
        && EntryReader.Clean(text) == text
        && MailboxAddress.TryParse(text, out var address)
        && address.Name is null or ""
        && address.Address == text
        && address.Domain.IndexOf('.', StringComparison.Ordinal) > 0
        && !address.Domain.EndsWith('.')
        && !text.Any(c => char.IsWhiteSpace(c) || c is '"' or '(' or ')' or ',' or ';' or '<' or '>');

    public static string Problem(string text) => $"'{text}' is not an e-mail address such as name@example.org.";
}
