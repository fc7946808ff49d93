using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Countries.Philippines.IndividualAnnual;
using Aerarium.Countries.Philippines.IndividualQuarterly;
using Aerarium.Countries.Philippines.Parameters;
using Aerarium.Countries.Philippines.PercentageTax;
using Aerarium.Countries.Philippines.WithholdingCredits;
using Aerarium.Filing;

namespace Aerarium.Countries.Philippines;

/// <summary>What is kept about clients and about the practice for returns of the Philippines.</summary>
public static class PhilippinesCountry
{
    /// <summary>Dates in figures are written month first, as on the authority's forms (from memory, certain).</summary>
    public const DateOrder Dates = DateOrder.MonthFirst;

    /// <summary>The country.</summary>
    public static readonly Country Country = new(
        "ph",
        "Philippines",
        PhilippinesIdentifiers.Tin,
        PhilippinesIdentifiers.Tin,
        OfIndividuals:
        [
            new("district-office", "District office code", "registration certificate", PhilippinesIdentifiers.DistrictOffice),
            new("citizenship", "Citizenship", "registration certificate"),
            new("surname", "Surname", "the name in parts, as some forms want it"),
            new("first-name", "First name", "as on the registration certificate"),
            new("middle-name", "Middle name", "if any"),
            new("taxpayer-type", "Taxpayer type", "registration certificate", null, Individual.TaxpayerForm.Types),
            new("trade-name", "Trade name", "registration certificate, if any"),
            CommonParticulars.Notices,
        ],
        OfCompanies:
        [
            new("district-office", "District office code", "registration certificate", PhilippinesIdentifiers.DistrictOffice),
            new("registration-number", "Company registration number", "certificate of incorporation"),
            CommonParticulars.Notices,
        ],
        OfPractice:
        [
            new("agent-pin", "Representative's taxpayer number", "the practice's own registration", PhilippinesIdentifiers.Tin, Mandatory: true),
            new("agent-name", "Representative's name", "as registered with the authority", Mandatory: true),
            new("accreditation", "Accreditation number", "of the tax agent"),
            new("contact-name", "Person to ask about a return", "named in every return", Mandatory: true),
            new("contact-phone", "That person's telephone", "with area code", Mandatory: true),
            new("declarant-name", "Usual declarant", "leave blank when clients declare themselves"),
        ],
        new Retention(10, "NIRC s. 235 with RR 17-2013: ten years for books; counted here from the day of filing, from memory", Confidence.Unsure),
        new Creditor("Simulated revenue collection, Philippines", "SIMPH0001000"),
        Returns:
        [
            new(IndividualAnnualReturn.ReturnId, "Philippines, annual return of an individual", "individual", IncomeTaxLaw.AnnualYears,
                (year, _) => new IndividualAnnualReturn(year), new IndividualAnnualEReturn(), CompensationCertificates.Record),
            new(IndividualQuarterlyReturn.ReturnId, "Philippines, quarterly return of an individual", "individual", IncomeTaxLaw.Years,
                (year, period) => new IndividualQuarterlyReturn(year, period), new IndividualQuarterlyEReturn(EReturnFormat.Xml)) { Periods = IndividualQuarterlyReturn.Quarters },
            new(WithholdingCreditsReturn.ReturnId, "Philippines, list of tax withheld at source", "individual", IncomeTaxLaw.Years,
                (year, period) => new WithholdingCreditsReturn(year, period), new WithholdingCreditsFile()) { Periods = Periods.Quarters },
            new(PercentageTaxReturn.ReturnId, "Philippines, quarterly percentage tax", "individual", IncomeTaxLaw.Years,
                (year, period) => new PercentageTaxReturn(year, period), new PercentageTaxEReturn()) { Periods = Periods.Quarters },
        ])
    {
        Dates = Dates,
        Article = "the ",
    };
}
