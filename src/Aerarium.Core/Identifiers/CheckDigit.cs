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

    /// <summary>The hybrid system MOD 11,10 over the whole number, the last digit being the check: ISO/IEC 7064.</summary>
    /// <param name="name">Name of the rule.</param>
    /// <param name="besides">What else the number must satisfy.</param>
    public static CheckDigit Mod11And10With(string name, Func<string, bool> besides) => new(name, digits => FitsMod11And10(digits) && besides(digits));

    /// <summary>The check digits of an IBAN, MOD 97-10 with country and check digits moved to the end: ISO 13616, ISO/IEC 7064.</summary>
    public static readonly CheckDigit Mod97And10 = new("mod-97-10", iban => iban.Length > 4 && RestOf97($"{iban[4..]}{iban[..4]}") == 1);

    private static bool FitsMod11And10(string digits)
    {
        var product = 10;
        foreach (var digit in digits[..^1])
        {
            var sum = (digit - '0' + product) % 10;
            product = 2 * (sum == 0 ? 10 : sum) % 11;
        }

        return (11 - product) % 10 == digits[^1] - '0';
    }

    private static int RestOf97(string characters) => characters.Aggregate(0, (rest, c) => char.IsAsciiDigit(c) ? ((rest * 10) + c - '0') % 97 : ((rest * 100) + c - 'A' + 10) % 97);

    private static bool FitsLuhn(string digits) => digits.Reverse().Index().Sum(d => Counted(d.Item - '0', doubled: d.Index % 2 == 1)) % 10 == 0;

    private static int Counted(int digit, bool doubled) => !doubled ? digit : digit * 2 > 9 ? (digit * 2) - 9 : digit * 2;
}
