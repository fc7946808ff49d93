using System.Globalization;

namespace Aerarium.StandIn.Canada;

/// <summary>The arithmetic of an individual's return as Canada's simulated authority checks it, federal and for the province: from the lines of the document, not from the product's rules.</summary>
public sealed class IndividualReturnRules : IDocumentRules
{
    private sealed record Table(decimal[] Tops, decimal[] Rates)
    {
        public decimal On(decimal income)
        {
            var tax = 0m;
            for (var bracket = 0; bracket < Rates.Length; bracket++)
            {
                var from = bracket == 0 ? 0 : Tops[bracket - 1];
                var to = bracket < Tops.Length ? Tops[bracket] : decimal.MaxValue;
                tax += Math.Max(0, Math.Min(income, to) - from) * Rates[bracket];
            }

            return Cents(tax);
        }
    }

    private static readonly decimal[] FederalRates = [0.15m, 0.205m, 0.26m, 0.29m, 0.33m];

    private static readonly Dictionary<int, Table> Federal = new()
    {
        [2016] = new([45_282, 90_563, 140_388, 200_000], FederalRates),
        [2023] = new([53_359, 106_717, 165_430, 235_675], FederalRates),
        [2024] = new([55_867, 111_733, 173_205, 246_752], FederalRates),
        [2025] = new([57_375, 114_750, 177_882, 253_414], [0.145m, .. FederalRates[1..]]),
    };

    private static readonly Dictionary<(string Province, int Year), (Table Table, decimal CreditRate)> Provinces = new()
    {
        [("Ontario", 2024)] = (new([51_446, 102_894, 150_000, 220_000], [0.0505m, 0.0915m, 0.1116m, 0.1216m, 0.1316m]), 0.0505m),
        [("Ontario", 2025)] = (new([52_886, 105_775, 150_000, 220_000], [0.0505m, 0.0915m, 0.1116m, 0.1216m, 0.1316m]), 0.0505m),
        [("BritishColumbia", 2024)] = (new([47_937, 95_875, 110_076, 133_664, 181_232, 252_752], [0.0506m, 0.077m, 0.105m, 0.1229m, 0.147m, 0.168m, 0.205m]), 0.0506m),
        [("BritishColumbia", 2025)] = (new([49_279, 98_560, 113_158, 137_407, 186_306, 259_829], [0.0506m, 0.077m, 0.105m, 0.1229m, 0.147m, 0.168m, 0.205m]), 0.0506m),
        [("Alberta", 2024)] = (new([148_269, 177_922, 237_230, 355_845], [0.10m, 0.12m, 0.13m, 0.14m, 0.15m]), 0.10m),
        [("Alberta", 2025)] = (new([60_000, 151_234, 181_481, 241_974, 362_961], [0.08m, 0.10m, 0.12m, 0.13m, 0.14m, 0.15m]), 0.08m),
    };

    private static readonly string[] Deductions =
        ["EmployerPensionPlan", "Retirement", "FirstHome", "PensionGiven", "Dues", "ChildCare", "Carrying", "SelfContributions", "Enhanced", "WorkCosts"];

    private static readonly string[] Boxes = ["EmploymentBox", "BenefitBox", "InvestmentBox"];

    private static readonly string[] Kinds =
    [
        "Employment", "OldAgeSecurity", "PublicPlan", "Pensions", "PensionReceived", "InsuranceBenefits", "Dividends", "Interest", "Rent", "TaxableGains", "RetirementSavings", "FirstHomeSavings",
        "Scholarships", "Other", "SelfEmployment", "Exempt",
    ];

    private static readonly string[] FederalAmounts =
    [
        "Basic", "Age", "Spouse", "EligibleDependant", "Caregiver", "InfirmChildren", "Contributions", "Employment", "Pension", "HomeBuyers", "Accessibility", "Volunteer", "Disability",
        "DisabilityTransferred", "Tuition", "TuitionReceived", "FromSpouse", "Medical", "StudentLoan",
    ];

    private static readonly string[] ProvincialAmounts =
    [
        "Basic", "Age", "Spouse", "EligibleDependant", "Contributions", "Pension", "Disability", "DisabilityTransferred", "Tuition", "TuitionReceived", "FromSpouse", "Medical", "StudentLoan",
    ];

    /// <inheritdoc />
    public DocumentHeader Header { get; } = new("Taxpayer/Number", "Taxpayer/Name", "Header/TaxYear", "Header/Kind", "Agent/Number");

    /// <inheritdoc />
    public AssessedFigures Assessed { get; } = new(
        ["Income/Total", "Income/Net", "Income/Taxable", "FederalTax/Net", "Balance/ProvincialTax", "Balance/Payable", "Balance/Credits", "Balance/Balance"],
        "Balance/Credits",
        "Balance/Balance");

    /// <inheritdoc />
    public IEnumerable<Reason> Arithmetic(Document document)
    {
        var year = int.Parse(document.Text(Header.Year)!, CultureInfo.InvariantCulture);
        var province = document.Text("Header/Province") switch { "on" => "Ontario", "bc" => "BritishColumbia", _ => "Alberta" };
        return Sums(document).Concat(FederalTax(document, year)).Concat(ProvincialTax(document, province, year))
            .Select(c => document.Differs(c.Path, c.Expected, c.Rule)).OfType<Reason>().Concat(Others(document, province));
    }

    private static IEnumerable<(string Path, decimal Expected, string Rule)> Sums(Document document)
    {
        decimal Income(string name) => document.Amount($"Income/{name}");
        yield return ("Income/Employment", document.Sum("Slips/Employment", "Income") + document.Sum("Slips/EmploymentBox", "Income") + document.Amount("Slips/OtherEmployment"), "the pay of all slips");
        yield return ("Income/Pensions", document.Sum("Slips/Pension", "Amount") + document.Sum("Slips/BenefitBox", "Income"), "the sum of the pension slips");
        yield return ("Income/InsuranceBenefits", document.Sum("Slips/InsuranceBenefits", "Total"), "the sum of the benefit slips");
        yield return ("Income/Interest", document.Sum("Slips/Investment", "Interest") + document.Sum("Slips/InvestmentOfSpouse", "Interest") + document.Sum("Slips/InvestmentBox", "Income") + document.Amount("Slips/AuthorityInterest"),
            "the sum of the interest");
        yield return ("Income/Rent", document.Sum("Schedules/PropertyLet", "Net"), "the net rent of all properties");
        yield return ("Income/TaxableGains", Cents(Math.Max(0, Income("Gains")) / 2), "half of the gains");
        yield return ("Income/Total", Kinds.Sum(Income), "the sum of the kinds of income");
        yield return ("Income/Deductions", Deductions.Sum(Income), "the sum of the deductions");
        yield return ("Income/NetBefore", Math.Max(0, Income("Total") - Income("Deductions")), "total income less deductions");
        yield return ("Income/Net", Income("NetBefore") - Income("Repayment"), "net income before repayments less repayments");
        yield return ("Income/Taxable", Math.Max(0, Income("Net") - Income("Exempted") - Income("Losses") - Income("CapitalLosses")), "net income less what is deducted from it");
        foreach (var tuition in new[] { "FederalTuition", "BritishColumbiaTuition", "OntarioTuition", "AlbertaTuition" })
        {
            decimal Of(string name) => document.Amount($"Schedules/{tuition}/{name}");
            yield return ($"Schedules/{tuition}/Carried", Of("Unused") + Of("OfYear") - Of("Used") - Of("Transferred"), "what is neither used nor transferred");
        }

        decimal Balance(string name) => document.Amount($"Balance/{name}");
        yield return ("Balance/FederalTax", document.Amount("FederalTax/Net"), "net federal tax");
        yield return ("Balance/Payable", Balance("FederalTax") + Balance("SelfEmployedContributions") + Balance("Repayment") + Balance("ProvincialTax"), "the sum of what is payable");
        yield return ("Balance/Deducted",
            document.Sum("Slips/Employment", "Tax") + document.Amount("Slips/OldAgeSecurityTax") + document.Amount("Slips/PublicPlanTax") + document.Sum("Slips/Pension", "Tax")
                + document.Sum("Slips/InsuranceBenefits", "Tax") + document.Sum("Slips/OtherIncome", "Tax")
                + Boxes.Sum(b => document.Sum($"Slips/{b}", "Tax")) - document.Amount("Slips/TaxOnPensionGiven") + document.Amount("Slips/TaxOnPensionReceived"),
            "the tax deducted on all slips");
        yield return ("Balance/Instalments", document.Sum("Instalment", "Amount"), "the sum of the instalments");
        yield return ("Balance/Credits",
            Balance("Deducted") + Balance("PlanOverpaid") + Balance("PremiumsOverpaid") + Balance("MedicalSupplement") + Balance("TrainingCredit") + Balance("WorkersBenefit") + Balance("Instalments") + Balance("RentersCredit"),
            "the sum of what was deducted, refunded and paid");
        var difference = Balance("Payable") - Balance("Credits");
        yield return ("Balance/Balance", Math.Abs(difference) <= 2 ? 0 : difference, "payable less credits, nothing up to 2");
    }

    private static IEnumerable<(string Path, decimal Expected, string Rule)> FederalTax(Document document, int year)
    {
        decimal Of(string name) => document.Amount($"FederalTax/{name}");
        yield return ("FederalTax/Gross", Federal[year].On(document.Amount("Income/Taxable")), "the tax by the federal brackets");
        yield return ("FederalTax/Amounts", FederalAmounts.Sum(Of), "the sum of the credit amounts");
        yield return ("FederalTax/Credits", Cents(Of("Amounts") * Federal[year].Rates[0]), "the lowest rate of the credit amounts");
        yield return ("FederalTax/BasicTax", Math.Max(0, Of("Gross") - Of("Credits") - Of("GiftCredit") - Of("DividendCredit") - Of("TopUp")), "the tax less credits");
        yield return ("FederalTax/Net", Math.Max(0, Of("BasicTax") - Of("PoliticalCredit")), "basic tax less the political credit");
    }

    private static IEnumerable<(string Path, decimal Expected, string Rule)> ProvincialTax(Document document, string province, int year)
    {
        decimal Of(string name) => document.Amount($"{province}/{name}");
        yield return ("Balance/ProvincialTax", Of("Tax"), "the tax of the province");
        if (!Provinces.TryGetValue((province, year), out var rules))
        {
            yield break;
        }

        yield return ($"{province}/Gross", rules.Table.On(document.Amount("Income/Taxable")), "the tax by the province's brackets");
        yield return ($"{province}/Amounts", ProvincialAmounts.Sum(Of), "the sum of the credit amounts");
        yield return ($"{province}/Credits", Cents(Of("Amounts") * rules.CreditRate), "the lowest rate of the credit amounts");
        yield return ($"{province}/AfterCredits", Math.Max(0, Of("Gross") - Of("Credits") - Of("GiftCredit")), "the tax less credits");
        yield return ($"{province}/Tax",
            province switch
            {
                "Ontario" => Math.Max(0, Of("AfterCredits") + Of("Surtax") - Of("DividendCredit")) - Of("Reduction") - Of("LowIncomeCredit") + Of("HealthPremium"),
                "BritishColumbia" => Math.Max(0, Math.Max(0, Of("AfterCredits") - Of("DividendCredit")) - Of("Reduction") - Of("PoliticalCredit")),
                _ => Math.Max(0, Math.Max(0, Of("AfterCredits") - Of("DividendCredit") - Of("Supplemental")) - Of("PoliticalCredit")),
            },
            "the tax less what the province takes off");
    }

    private static IEnumerable<Reason> Others(Document document, string province)
    {
        if (document.Text("Authorisation/Signed") != "true")
        {
            yield return new Reason("AUTHORISATION", document.Path("Authorisation/Signed"), "The client has not signed the authorisation to file.");
        }

        foreach (var other in new[] { "Ontario", "BritishColumbia", "Alberta" }.Where(p => p != province && document.Text($"{p}/Tax") is not null))
        {
            yield return new Reason("PROVINCE", document.Path($"{other}/Tax"), $"Tax of {other} is given for a resident of another province.");
        }

        var federal = document.Amount("Schedules/FederalTuition/Transferred");
        if (federal > 0 && document.Text("Schedules/TuitionDesignee") is not ("parent" or "grandparent" or "spouse"))
        {
            yield return new Reason("DESIGNATION", document.Path("Schedules/FederalTuition/Transferred"), "Tuition is transferred and nobody is named.");
        }

        if (federal > 5_000 || federal > document.Amount("Schedules/FederalTuition/OfYear"))
        {
            yield return new Reason("TRANSFER", document.Path("Schedules/FederalTuition/Transferred"), "At most 5,000 of the year's own tuition can be transferred.");
        }
    }

    private static decimal Cents(decimal amount) => decimal.Round(amount, 2, MidpointRounding.AwayFromZero);
}
