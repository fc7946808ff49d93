using System.Globalization;

namespace Aerarium.Core.Identifiers;

/// <summary>
/// Structured creditor reference of ISO 11649: RF, two check digits, and up to 21 letters and digits. The check digits make the
/// whole, RF and check digits moved to the end and letters read as 10 to 35, leave 1 when divided by 97 (ISO/IEC 7064, MOD 97-10).
/// </summary>
public static class CreditorReference
{
    private const int Longest = 21;

    /// <summary>The reference for a text of capital letters and digits.</summary>
    /// <exception cref="ArgumentException">The text is empty, too long, or holds anything else.</exception>
    public static string For(string text)
    {
        if (text.Length is 0 or > Longest || !text.All(c => char.IsAsciiDigit(c) || char.IsAsciiLetterUpper(c)))
        {
            throw new ArgumentException($"A creditor reference is made of 1 to {Longest} capital letters and digits, not of '{text}'.", nameof(text));
        }

        return string.Create(CultureInfo.InvariantCulture, $"RF{98 - Remainder($"{text}RF00"):00}{text}");
    }

    /// <summary>Whether a text, spaces aside, is a reference with right check digits.</summary>
    public static bool IsValid(string text)
    {
        var reference = text.Replace(" ", "", StringComparison.Ordinal);
        return reference.Length is > 4 and <= Longest + 4
            && reference.StartsWith("RF", StringComparison.Ordinal)
            && char.IsAsciiDigit(reference[2]) && char.IsAsciiDigit(reference[3])
            && reference.All(c => char.IsAsciiDigit(c) || char.IsAsciiLetterUpper(c))
            && Remainder(reference[4..] + reference[..4]) == 1;
    }

    private static int Remainder(string text) => text.Aggregate(0, (rest, c) => char.IsAsciiDigit(c) ? ((rest * 10) + c - '0') % 97 : ((rest * 100) + c - 'A' + 10) % 97);
}
