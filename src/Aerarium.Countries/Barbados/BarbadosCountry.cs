using Aerarium.Core.Definitions;
using Aerarium.Filing;

namespace Aerarium.Countries.Barbados;

/// <summary>What is kept about clients and about the practice for returns of Barbados.</summary>
public static class BarbadosCountry
{
    /// <summary>In what relation to the taxpayer somebody declares.</summary>
    public static readonly IReadOnlyList<Choice> Capacities = [new("taxpayer", "Taxpayer"), new("agent", "Agent"), new("representative", "Personal representative")];

    /// <summary>The country.</summary>
    public static readonly Country Country = new(
        "bb",
        "Barbados",
        BarbadosIdentifiers.TaxpayerNumber,
        BarbadosIdentifiers.TaxpayerNumber,
        OfIndividuals:
        [
            new("national-registration", "National registration number", "identification card", BarbadosIdentifiers.NationalRegistration),
            new("marital-status", "Marital status", null, null, Individual.TaxpayerForm.MaritalStatuses),
            new("payout-account-kind", "Kind of bank account", "for a refund", null, Individual.PayoutForm.AccountKinds),
            CommonParticulars.Notices,
        ],
        OfCompanies:
        [
            new("registration-number", "Company registration number", "certificate of incorporation"),
            CommonParticulars.Notices,
        ],
        OfPractice:
        [
            new("agent-pin", "Agent's taxpayer identification number", "the practice's own registration", BarbadosIdentifiers.TaxpayerNumber, Mandatory: true),
            new("agent-name", "Agent's name", "as registered with the authority", Mandatory: true),
            new("contact-name", "Person to ask about a return", "named in every return", Mandatory: true),
            new("contact-phone", "That person's telephone", "with area code", Mandatory: true),
            new("declarant-name", "Usual declarant", "leave blank when clients declare themselves"),
            new("declarant-capacity", "Capacity of the declarant", null, null, Capacities),
        ],
        new Retention(5, "Income Tax Act, Cap. 73; from the day of filing, from memory", Confidence.Unsure),
        new Creditor("Simulated revenue collection, Barbados", "SIMBB0001000"),
        Returns:
        [
            new(Individual.IndividualReturn.ReturnId, "Barbados, resident individual", "individual", Parameters.IncomeTaxLaw.Years,
                (year, _) => new Individual.IndividualReturn(year), new Individual.IndividualEReturn(), Individual.PayerStatements.Record),
        ]);
}
