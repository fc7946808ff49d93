using Aerarium.Core.Definitions;
using static Aerarium.Core.Definitions.Confidence;

namespace Aerarium.Countries.Philippines.Parameters;

/// <summary>One alphanumeric tax code: what was paid for, and the rate at which the payer withholds.</summary>
/// <param name="Code">The code.</param>
/// <param name="Income">What was paid for.</param>
/// <param name="Rate">Rate on the income payment; where the law takes it of a part of the payment, the rate on the whole.</param>
/// <param name="LargerPayee">The code of the same income for a payee above the ceiling or registered for value-added tax, or null.</param>
/// <param name="FromYear">The first year in which it is used.</param>
public sealed record WithholdingCode(string Code, string Income, Parameter Rate, string? LargerPayee, int FromYear);

/// <summary>
/// The codes of creditable tax withheld from individuals: RR 2-98 s. 2.57.2 as amended by RR 11-2018 and RR 14-2018, and, for online
/// marketplaces, from 2024. All from memory; the confidence says how far each may be relied on.
/// </summary>
public static class WithholdingCodes
{
    private const string Source = "RR 2-98 s. 2.57.2; RR 11-2018, RR 14-2018";

    /// <summary>Ceiling of gross income between the two codes of one kind of income, in pesos.</summary>
    public static readonly Parameter Ceiling = Parameter.Money("gross income between two codes", 3_000_000, "RR 11-2018", Certain);

    /// <summary>Every code.</summary>
    public static readonly IReadOnlyList<WithholdingCode> All =
    [
        Of("WI010", "Professional fees, up to 3 million", 5, Certain, larger: "WI011"),
        Of("WI011", "Professional fees, above 3 million or VAT-registered", 10, Certain),
        Of("WI020", "Professional entertainers, up to 3 million", 5, Certain, larger: "WI021"),
        Of("WI021", "Professional entertainers, above 3 million", 10, Certain),
        Of("WI030", "Professional athletes, up to 3 million", 5, Certain, larger: "WI031"),
        Of("WI031", "Professional athletes, above 3 million", 10, Certain),
        Of("WI040", "Directors and producers of films and stage, up to 3 million", 5, Certain, larger: "WI041"),
        Of("WI041", "Directors and producers of films and stage, above 3 million", 10, Certain),
        Of("WI050", "Management and technical consultants, up to 3 million", 5, Certain, larger: "WI051"),
        Of("WI051", "Management and technical consultants, above 3 million", 10, Certain),
        Of("WI060", "Business and bookkeeping agents, up to 3 million", 5, Certain, larger: "WI061"),
        Of("WI061", "Business and bookkeeping agents, above 3 million", 10, Certain),
        Of("WI070", "Insurance agents and adjusters, up to 3 million", 5, Certain, larger: "WI071"),
        Of("WI071", "Insurance agents and adjusters, above 3 million", 10, Certain),
        Of("WI080", "Other talent fees, up to 3 million", 5, Certain, larger: "WI081"),
        Of("WI081", "Other talent fees, above 3 million", 10, Certain),
        Of("WI090", "Fees of directors who are not employees, up to 3 million", 5, Certain, larger: "WI091"),
        Of("WI091", "Fees of directors who are not employees, above 3 million", 10, Certain),
        Of("WI100", "Rent of real or personal property", 5, Certain),
        Of("WI110", "Cinematographic film rentals", 5, Likely),
        Of("WI120", "Contractors", 2, Certain),
        Of("WI130", "Distributions to beneficiaries of estates and trusts", 15, Likely),
        Of("WI139", "Commissions of brokers, up to 3 million", 5, Likely, larger: "WI140"),
        Of("WI140", "Commissions of brokers, above 3 million", 10, Likely),
        Of("WI151", "Medical practitioners through hospitals, up to 3 million", 5, Likely, larger: "WI150"),
        Of("WI150", "Medical practitioners through hospitals, above 3 million", 10, Likely),
        Of("WI152", "Partner's share of a general professional partnership, up to 720,000", 10, Likely, larger: "WI153"),
        Of("WI153", "Partner's share of a general professional partnership, above 720,000", 15, Likely),
        Of("WI156", "Card companies to merchants, 1% of one half", 0.5m, Likely),
        Of("WI157", "Government to suppliers of services", 2, Certain),
        Of("WI158", "Top withholding agents to suppliers of goods", 1, Certain),
        Of("WI159", "Government personnel's overtime, importers and carriers", 15, Likely),
        Of("WI160", "Top withholding agents to suppliers of services", 2, Certain),
        Of("WI515", "Commissions of sales representatives, up to 3 million", 5, Certain, larger: "WI516"),
        Of("WI516", "Commissions of sales representatives, above 3 million", 10, Certain),
        Of("WI530", "Embalmers by funeral parlours", 1, Likely),
        Of("WI535", "Pre-need companies to funeral parlours", 1, Likely),
        Of("WI540", "Tolling fees to refineries", 5, Likely),
        Of("WI555", "Real property, seller in the business, up to 500,000", 1.5m, Likely),
        Of("WI556", "Real property, seller in the business, up to 2 million", 3, Likely),
        Of("WI557", "Real property, seller in the business, above 2 million", 5, Likely),
        Of("WI558", "Real property, seller not in the business", 6, Likely),
        Of("WI610", "Agricultural products above 300,000 in the year", 1, Likely),
        Of("WI630", "Minerals and quarry", 5, Unsure),
        Of("WI640", "Government to suppliers of goods", 1, Certain),
        Of("WI680", "Campaign expenditure and political contributions", 5, Likely),
        Of("WI710", "Interest on debt instruments other than deposit substitutes", 15, Likely),
        Of("WI720", "Locally produced raw sugar", 1, Likely),
        Of("WI760", "Online marketplaces and digital financial operators, 1% of one half", 0.5m, Likely, source: "RR 16-2023", from: 2024),
    ];

    /// <summary>The codes in use in a year.</summary>
    public static IReadOnlyList<WithholdingCode> For(int year) => [.. All.Where(c => c.FromYear <= year)];

    /// <summary>The codes as a list lines choose from.</summary>
    public static readonly CodeList List = new("codes of creditable tax withheld from individuals", [.. All.Select(c => new ListedCode(c.Code, $"{c.Code} {c.Income}", c.FromYear))])
    {
        OfOthers = new Dictionary<string, string>
        {
            ["WC"] = "codes that begin with WC are of companies; an individual's certificate bears one that begins with WI.",
            ["WF"] = "codes that begin with WF are of final tax, which is no credit.",
            ["WB"] = "codes that begin with WB are of percentage tax, which is no credit of income tax.",
            ["WV"] = "codes that begin with WV are of value-added tax, which is no credit of income tax.",
        },
    };

    private static WithholdingCode Of(
        string code, string income, decimal percent, Confidence confidence, string? larger = null, string source = Source, int from = 2018) =>
        new(code, income, Parameter.Percent($"rate of {code}", percent, source, confidence), larger, from);
}
