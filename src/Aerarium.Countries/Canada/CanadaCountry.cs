using Aerarium.Core.Definitions;
using Aerarium.Filing;

namespace Aerarium.Countries.Canada;

/// <summary>What is kept about clients and about the practice for returns of Canada.</summary>
public static class CanadaCountry
{
    /// <summary>In what relation to the taxpayer somebody declares.</summary>
    public static readonly IReadOnlyList<Choice> Capacities = [new("taxpayer", "Taxpayer"), new("representative", "Legal representative")];

    /// <summary>Alberta's own authority for companies.</summary>
    public static readonly Authority Alberta = new("Authority of Alberta", new Creditor("Simulated receiver, Alberta", "SIMCAAB001000"));

    /// <summary>The country.</summary>
    public static readonly Country Country = new(
        "ca",
        "Canada",
        CanadaIdentifiers.SocialInsurance,
        CanadaIdentifiers.BusinessNumber,
        OfIndividuals:
        [
            new("province", "Province of residence", "on 31 December", null, Individual.ScopeForm.Provinces),
            new("postal-code", "Postal code", "such as V8W 1A4", CanadaIdentifiers.PostalCode),
            new("marital-status", "Marital status", null, null, Individual.TaxpayerForm.MaritalStatuses),
            new("language", "Language of correspondence", null, null, Individual.TaxpayerForm.Languages),
            new("citizen", "Canadian citizen", null, null, [new("yes", "Yes"), new("no", "No")]),
            CommonParticulars.Notices,
        ],
        OfCompanies:
        [
            new("registration-number", "Corporation number", "certificate of incorporation"),
            new("corporation-account", "Corporation income tax account", "such as 100000017RC0001", CanadaIdentifiers.CorporationAccount),
            new("alberta-account", "Alberta corporate account number", "notice of Alberta's authority", CanadaIdentifiers.AlbertaAccount),
            new("corporation-type", "Kind of corporation", null, null, Company.ScopeForm.Types),
            new("incorporated-on", "Incorporated on", "written 2024-03-15"),
            new("trade-name", "Trade name"),
            new("activity", "Principal activity", "six digits, such as 541990", CanadaIdentifiers.Industry),
            new("product", "Main product or service"),
            new("language", "Language of correspondence", null, null, Individual.TaxpayerForm.Languages),
            new("officer-name", "Signing officer"),
            new("officer-position", "Signing officer's position"),
            new("officer-phone", "Signing officer's telephone"),
            new("contact-name", "Contact person"),
            new("contact-title", "Contact person's title"),
            new("contact-phone", "Contact person's telephone"),
            CommonParticulars.Notices,
        ],
        OfPractice:
        [
            new("agent-pin", "Representative's business number", "the practice's own registration", CanadaIdentifiers.BusinessNumber, Mandatory: true),
            new("agent-name", "Representative's name", "as registered with the authority", Mandatory: true),
            new("contact-name", "Person to ask about a return", "named in every return", Mandatory: true),
            new("contact-phone", "That person's telephone", "with area code", Mandatory: true),
            new("agent-address", "Practice's address", "for Alberta's authority"),
            new("filer-type", "Files as", "for Alberta's authority", null, CompanyAlberta.AlbertaCompanyForm.FilerTypes),
            new("declarant-name", "Usual declarant", "leave blank when clients declare themselves"),
            new("declarant-capacity", "Capacity of the declarant", null, null, Capacities),
        ],
        new Retention(6, "ITA 230(4); six years from the end of the last year they concern; counted here from the day of filing, from memory", Confidence.Likely),
        new Creditor("Simulated receiver, Canada", "SIMCA0001000"),
        Returns:
        [
            new(Individual.IndividualReturn.ReturnId, "Canada, individual", "individual", Individual.IndividualReturn.Years,
                (year, _) => new Individual.IndividualReturn(year), new Individual.IndividualEReturn(), Individual.Slips.Record) { SharedClaims = new Individual.FamilyClaims() },
            new(Accounts.AccountsReturn.ReturnId, "Canada, accounts of a company", "company", Accounts.AccountsReturn.Years, (year, period) => new Accounts.AccountsReturn(year, period), null) { FurtherPeriod = Periods.Second },
            new(Company.CompanyReturn.ReturnId, "Canada, company", "company", Company.CompanyReturn.Years, (year, period) => new Company.CompanyReturn(year, period), new Company.CompanyEReturn())
            {
                Beside = CompanyAlberta.AlbertaReturn.ReturnId,
                Agreement = new SharedPart("Agreement of the group on the business limit", "group.percent", "associated", "group.members.percent", 100),
                FurtherPeriod = Periods.Second,
            },
            new(CompanyAlberta.AlbertaReturn.ReturnId, "Canada, company in Alberta", "company", Company.CompanyReturn.Years,
                (year, period) => new CompanyAlberta.AlbertaReturn(year, period), new CompanyAlberta.AlbertaEReturn())
            {
                To = Alberta,
                Beside = Company.CompanyReturn.ReturnId,
                FurtherPeriod = Periods.Second,
            },
        ]);
}
