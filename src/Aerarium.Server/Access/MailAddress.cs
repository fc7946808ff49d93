namespace Aerarium.Server.Access;

/// <summary>What counts as an e-mail address: enough to catch a slip, never a judge of what a mail server accepts.</summary>
internal static class MailAddress
{
    public static bool IsOne(string text) =>
        text.IndexOf('@', StringComparison.Ordinal) is > 0 and var at && text.LastIndexOf('@') == at && text.LastIndexOf('.') > at + 1 && !text.Contains(' ', StringComparison.Ordinal);

    public static string Problem(string text) => $"'{text}' is not an e-mail address such as name@example.org.";
}
