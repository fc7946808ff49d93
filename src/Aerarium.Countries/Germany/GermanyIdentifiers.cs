using Aerarium.Core.Identifiers;

namespace Aerarium.Countries.Germany;

/// <summary>Identifiers used in Germany.</summary>
public static class GermanyIdentifiers
{
    /// <summary>Identification number of a person, for life.</summary>
    public static readonly IdentifierRule Person = new(
        "de-idnr",
        "identification number",
        "^[1-9][0-9]{10}$",
        "An identification number (Identifikationsnummer) has eleven digits of which the last is a check digit, such as 72 041 963 532; of the first ten exactly one occurs twice or three times. Copy it from the authority's letter or a wage statement.",
        "AO s. 139b; check digit by ISO/IEC 7064, MOD 11,10 (certain)")
    {
        CheckDigit = CheckDigit.Mod11And10With("de-idnr", RepeatsOneDigit),
    };

    /// <summary>Tax number in the nationwide form of thirteen digits; its check digits are the states' own and are not checked.</summary>
    public static readonly IdentifierRule TaxNumber = new(
        "de-tax-number",
        "tax number",
        "^(28|9[0-9]|11|30|24|22|26|40|23|5[0-9]|27|10|32|31|21|41)[0-9]{2}0[0-9]{8}$",
        "A tax number (Steuernummer) in its nationwide form has thirteen digits, the fifth a 0, such as 9214 0 317 4052 6; the state's form of ten or eleven digits is not taken. Copy it from the last notice.",
        "Layouts of the states from memory (certain); check digits differ by state and are not checked");

    /// <summary>With what the nationwide form of a tax number begins in each state.</summary>
    public static readonly IReadOnlyDictionary<string, string> BeginningsByState = new Dictionary<string, string>
    {
        ["bw"] = "28",
        ["by"] = "9",
        ["be"] = "11",
        ["bb"] = "30",
        ["hb"] = "24",
        ["hh"] = "22",
        ["he"] = "26",
        ["mv"] = "40",
        ["ni"] = "23",
        ["nw"] = "5",
        ["rp"] = "27",
        ["sl"] = "10",
        ["sn"] = "32",
        ["st"] = "31",
        ["sh"] = "21",
        ["th"] = "41",
    };

    /// <summary>Account for a refund.</summary>
    public static readonly IdentifierRule Account = new(
        "de-iban",
        "bank account",
        "^DE[0-9]{20}$",
        "A bank account is given as IBAN: DE and twenty digits, such as DE02 1203 0000 0000 2020 51; copy it from a statement of account.",
        "Check digits by ISO 7064, MOD 97-10 (certain)")
    {
        CheckDigit = CheckDigit.Mod97And10,
    };

    /// <summary>Number of an adviser, as the practice is registered with the simulated authority.</summary>
    public static readonly IdentifierRule Adviser = new(
        "de-adviser",
        "adviser's number",
        "^[0-9]{10}$",
        "An adviser's number has ten digits, such as 4711000990; copy it from the practice's registration.",
        "Of the simulated authority");

    /// <summary>Postal code.</summary>
    public static readonly IdentifierRule PostalCode = new(
        "de-postal-code", "postal code", "^[0-9]{5}$", "A postal code has five digits, such as 24103.", "Form from memory (certain)");

    /// <summary>Of the first ten digits exactly one occurs more than once, twice or three times, and never three times in a row.</summary>
    private static bool RepeatsOneDigit(string number)
    {
        var groups = number[..10].GroupBy(d => d).Where(g => g.Count() > 1).ToList();
        return groups is [var only] && (only.Count() == 2 || (only.Count() == 3 && !number[..10].Contains(new string(only.Key, 3), StringComparison.Ordinal)));
    }
}
