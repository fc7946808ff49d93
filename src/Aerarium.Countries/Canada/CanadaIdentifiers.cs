using Aerarium.Core.Identifiers;

namespace Aerarium.Countries.Canada;

/// <summary>Identifiers used in Canada. Check digits by the Luhn formula, ISO/IEC 7812-1, Annex B.</summary>
public static class CanadaIdentifiers
{
    /// <summary>Social insurance number of an individual; 0 begins numbers the authority itself issues, 9 those of temporary residents, 8 is not issued to individuals.</summary>
    public static readonly IdentifierRule SocialInsurance = new(
        "ca-sin",
        "social insurance number",
        "^[0-79][0-9]{8}$",
        "A social insurance number has nine digits of which the last is a check digit, such as 012 345 674, and does not begin with 8; copy it from the card.",
        "ITA 237; check digit by ISO/IEC 7812-1, Annex B (certain); first digits (likely)")
    {
        CheckDigit = CheckDigit.Luhn,
    };

    /// <summary>Business number.</summary>
    public static readonly IdentifierRule BusinessNumber = new(
        "ca-bn",
        "business number",
        "^[0-9]{9}$",
        "A business number has nine digits of which the last is a check digit, such as 100000017; copy it from the registration.",
        "Check digit by ISO/IEC 7812-1, Annex B (certain)")
    {
        CheckDigit = CheckDigit.Luhn,
    };

    /// <summary>Payroll account of an employer.</summary>
    public static readonly IdentifierRule PayrollAccount = new(
        "ca-payroll",
        "payroll account",
        "^[0-9]{9}RP[0-9]{4}$",
        "A payroll account is a business number, RP and four digits, such as 100000017RP0001; copy it from box 54 of the slip.",
        "Form from memory (certain)")
    {
        CheckDigit = CheckDigit.LuhnOfFirst(9),
    };

    /// <summary>Corporation income tax account.</summary>
    public static readonly IdentifierRule CorporationAccount = new(
        "ca-corporation-account",
        "corporation income tax account",
        "^[0-9]{9}RC(000[1-9]|00[1-9][0-9]|0[1-9][0-9]{2}|[1-9][0-9]{3})$",
        "A corporation income tax account is a business number, RC and four digits from 0001 on, such as 100000017RC0001; copy it from the registration.",
        "Form from memory (certain)")
    {
        CheckDigit = CheckDigit.LuhnOfFirst(9),
    };

    /// <summary>Alberta's corporate account number; no check digit is published.</summary>
    public static readonly IdentifierRule AlbertaAccount = new(
        "ca-alberta-account",
        "Alberta corporate account number",
        "^[0-9]{9,10}$",
        "An Alberta corporate account number has nine or ten digits and differs from the business number; copy it from a notice of Alberta's authority.",
        "Form from memory (unsure)");

    /// <summary>Industry code.</summary>
    public static readonly IdentifierRule Industry = new(
        "ca-industry",
        "industry code",
        "^[0-9]{6}$",
        "An industry code has six digits (NAICS), such as 541990; find it in the published list.",
        "North American Industry Classification System; length (certain)");

    /// <summary>Postal code.</summary>
    public static readonly IdentifierRule PostalCode = new(
        "ca-postal-code",
        "postal code",
        "^[ABCEGHJ-NPRSTVXY][0-9][ABCEGHJ-NPRSTV-Z][0-9][ABCEGHJ-NPRSTV-Z][0-9]$",
        "A postal code alternates letters and digits, such as V8W 1A4; D, F, I, O, Q and U are never used.",
        "Form from memory (certain)");

    /// <summary>Bank account for a refund: branch, institution and account.</summary>
    public static readonly IdentifierRule BankAccount = new(
        "ca-bank-account",
        "bank account",
        "^[0-9]{9,20}$",
        "A bank account is given as branch (5 digits), institution (3 digits) and account (up to 12 digits) one after the other; copy it from a void cheque.",
        "Form from memory (certain)");

    /// <summary>Access code printed on the notice of the year before.</summary>
    public static readonly IdentifierRule AccessCode = new(
        "ca-access-code",
        "access code",
        "^[A-Z0-9]{8}$",
        "An access code has eight letters and digits, such as 4QX7B2M9; copy it from last year's notice, or leave it blank.",
        "Form from memory (unsure)");
}
