using Aerarium.Core.Identifiers;

namespace Aerarium.Countries.Philippines;

/// <summary>Identifiers used in the Philippines. No check-digit algorithm is published for the taxpayer identification number: length and digits can be checked.</summary>
public static class PhilippinesIdentifiers
{
    /// <summary>Taxpayer identification number: nine digits, and the branch code of three or five digits; without one, the head office is meant (common practice, no source).</summary>
    public static readonly IdentifierRule Tin = new(
        "ph-tin",
        "taxpayer identification number",
        "^[0-9]{9}([0-9]{3}|[0-9]{5})$",
        "A taxpayer number needs nine digits and a branch code of three or five, such as 123-456-789-00000; copy it from the registration certificate.",
        "Format from memory (certain); a check digit's rule is not published")
    {
        LeftOff = (9, "00000"),
        Digits = [12, 14],
    };

    /// <summary>Code of the revenue district office.</summary>
    public static readonly IdentifierRule DistrictOffice = new(
        "ph-district-office",
        "district office code",
        "^[0-9]{2,3}[A-Z]?$",
        "A district office code is two or three digits, sometimes with a letter, such as 039 or 25A; copy it from the registration certificate.",
        "Format from memory (likely)");
}
