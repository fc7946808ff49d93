using Aerarium.Core.Identifiers;

namespace Aerarium.Countries.Barbados;

/// <summary>Identifiers used in Barbados. No check digits are published; only length and form can be checked.</summary>
public static class BarbadosIdentifiers
{
    /// <summary>Taxpayer identification number.</summary>
    public static readonly IdentifierRule TaxpayerNumber = new(
        "bb-tin",
        "taxpayer identification number",
        "^[0-9]{13}$",
        "A taxpayer identification number has 13 digits, such as 1000000000017; copy it from the registration.",
        "Length from memory (likely)");

    /// <summary>National registration number: the day of birth as six digits, and four more.</summary>
    public static readonly IdentifierRule NationalRegistration = new(
        "bb-nrn",
        "national registration number",
        "^[0-9]{10}$",
        "A national registration number has six digits for the day of birth and four more, such as 850314-0007; copy it from the identification card.",
        "Form from memory (likely)");
}
