namespace Aerarium.Core.Identifiers;

/// <summary>How the last digit of a number is reckoned from the others.</summary>
/// <param name="Name">Stable name.</param>
/// <param name="Holds">Whether it fits a normalised text that satisfies the pattern.</param>
public sealed record CheckDigit(string Name, Func<string, bool> Holds)
{
    /// <summary>The Luhn formula over the whole number, modulus 10 with double-add-double: ISO/IEC 7812-1, Annex B.</summary>
    public static readonly CheckDigit Luhn = new("luhn", FitsLuhn);

    /// <summary>The Luhn formula over so many digits at the beginning.</summary>
    public static CheckDigit LuhnOfFirst(int digits) => new($"luhn-{digits}", text => FitsLuhn(text[..digits]));

    private static bool FitsLuhn(string digits) => digits.Reverse().Index().Sum(d => Counted(d.Item - '0', doubled: d.Index % 2 == 1)) % 10 == 0;

    private static int Counted(int digit, bool doubled) => !doubled ? digit : digit * 2 > 9 ? (digit * 2) - 9 : digit * 2;
}
