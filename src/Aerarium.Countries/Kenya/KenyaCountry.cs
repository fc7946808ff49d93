using Aerarium.Core.Definitions;
using Aerarium.Countries.Kenya.EmploymentIncome;
using Aerarium.Countries.Kenya.Parameters;
using Aerarium.Filing;

namespace Aerarium.Countries.Kenya;

/// <summary>What is kept about clients and about the practice for returns of Kenya.</summary>
public static class KenyaCountry
{
    /// <summary>The country.</summary>
    public static readonly Country Country = new(
        "ke",
        "Kenya",
        KenyaIdentifiers.IndividualPin,
        KenyaIdentifiers.CompanyPin,
        OfIndividuals:
        [
            new("identity-document", "Identity card or passport number", "as on the registration certificate"),
            CommonParticulars.Notices,
        ],
        OfCompanies:
        [
            new("registration-number", "Company registration number", "certificate of incorporation"),
            CommonParticulars.Notices,
        ],
        OfPractice:
        [
            new("agent-pin", "Agent's identification number", "the practice's own registration", KenyaIdentifiers.PayerPin, Mandatory: true),
            new("agent-name", "Agent's name", "as registered with the authority", Mandatory: true),
            new("contact-name", "Person to ask about a return", "named in every return", Mandatory: true),
            new("contact-phone", "That person's telephone", "with area code", Mandatory: true),
            new("declarant-name", "Usual declarant", "leave blank when clients declare themselves"),
            new("declarant-capacity", "Capacity of the declarant", null, null,
                [new("taxpayer", "Taxpayer"), new("agent", "Authorised agent"), new("representative", "Personal representative")]),
        ],
        new Retention(5, "TPA s. 23; from the day of filing, from memory", Confidence.Certain),
        new Creditor("Simulated revenue collection, Kenya", "SIMKE0001000"),
        Returns:
        [
            new(EmploymentIncomeReturn.ReturnId, "Kenya, employee's return", "individual", EmploymentIncomeLaw.Years,
                (year, _) => new EmploymentIncomeReturn(year), new EmploymentIncomeEReturn(), EmployerCertificates.Record),
        ]);
}
