using Aerarium.Core.Identifiers;

namespace Aerarium.Countries.Kenya;

/// <summary>Identifiers used in Kenya. No control-letter algorithm is published for the personal identification number: only the pattern can be checked.</summary>
public static class KenyaIdentifiers
{
    /// <summary>Personal identification number of an individual.</summary>
    public static readonly IdentifierRule IndividualPin = new(
        "ke-pin-individual",
        "personal identification number",
        "^A[0-9]{9}[A-Z]$",
        "A taxpayer number is the letter A, nine digits and a letter, such as A001234567B; copy it from the registration certificate.",
        "Pattern from memory; the control letter's rule is not published");

    /// <summary>Personal identification number of a company.</summary>
    public static readonly IdentifierRule CompanyPin = new(
        "ke-pin-company",
        "personal identification number",
        "^P[0-9]{9}[A-Z]$",
        "A company's taxpayer number is the letter P, nine digits and a letter, such as P051987654Q; copy it from the registration certificate.",
        "Pattern from memory; the control letter's rule is not published");

    /// <summary>Personal identification number of an employer, lender or insurer; individuals may employ.</summary>
    public static readonly IdentifierRule PayerPin = new(
        "ke-pin-payer",
        "personal identification number",
        "^[AP][0-9]{9}[A-Z]$",
        "This number is the letter P (or A for an individual), nine digits and a letter, such as P051987654Q; copy it from the certificate.",
        "Pattern from memory; the control letter's rule is not published");

    /// <summary>Mobile number for mobile money, national or with country code.</summary>
    public static readonly IdentifierRule MobileNumber = new(
        "ke-mobile",
        "mobile number",
        "^(0[71][0-9]{8}|254[71][0-9]{8})$",
        "A mobile number is 07 or 01 and eight digits, or 2547 or 2541 and eight digits, such as 0712345678.",
        "Numbering plan, from memory (likely)");
}
