using Aerarium.Core.Definitions;
using Aerarium.Filing;

namespace Aerarium.Countries.Germany;

/// <summary>What is kept about clients and about the practice for returns of Germany.</summary>
public static class GermanyCountry
{
    /// <summary>In what relation to the taxpayer somebody declares.</summary>
    public static readonly IReadOnlyList<Choice> Capacities = [new("taxpayer", "Taxpayer"), new("adviser", "Adviser, with the taxpayer's approval"), new("representative", "Legal representative")];

    /// <summary>The country.</summary>
    public static readonly Country Country = new(
        "de",
        "Germany",
        GermanyIdentifiers.Person,
        GermanyIdentifiers.TaxNumber,
        OfIndividuals:
        [
            new("tax-number", "Tax number (Steuernummer)", "thirteen digits; of the place of residence", GermanyIdentifiers.TaxNumber),
            new("tax-office", "Tax office (Finanzamt)", "of the place of residence"),
            new("state", "State of residence", null, null, Individual.ScopeForm.States),
            new("marital-status", "Family circumstances", null, null, Individual.ScopeForm.Families),
            new("religion", "Church membership", null, null, Individual.TaxpayerForm.Religions),
            new("occupation", "Occupation", "as in the return"),
            CommonParticulars.Notices,
        ],
        OfCompanies:
        [
            new("registration-number", "Commercial register number", "extract of the register"),
            CommonParticulars.Notices,
        ],
        OfPractice:
        [
            new("agent-pin", "Adviser's number", "the practice's own registration", GermanyIdentifiers.Adviser, Mandatory: true),
            new("agent-name", "Adviser's name", "as registered with the authority", Mandatory: true),
            new("contact-name", "Person to ask about a return", "named in every return", Mandatory: true),
            new("contact-phone", "That person's telephone", "with area code", Mandatory: true),
            new("declarant-name", "Usual declarant", "leave blank when clients declare themselves"),
            new("declarant-capacity", "Capacity of the declarant", null, null, Capacities),
            PracticeChoices.Numbers,
        ],
        new Retention(10, "AO s. 147(3), StBerG s. 66; counted here from the day of filing, from memory", Confidence.Likely),
        new Creditor("Simulated tax office cash desk, Germany", "SIMDE0001000"),
        Returns:
        [
            new(Individual.IndividualReturn.ReturnId, "Germany, employee", "individual", Parameters.IncomeTaxLaw.Years,
                (year, _) => new Individual.IndividualReturn(year), new Individual.IndividualEReturn(), Individual.WageStatements.Record),
        ]);
}
