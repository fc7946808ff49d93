using System.Globalization;

namespace Aerarium.StandIn.Germany;

/// <summary>
/// The plausibility rules and the arithmetic of an employee's return as Germany's simulated authority checks them: from the lines of the document and the coefficients of the statute, not
/// from the product's rules.
/// </summary>
public sealed class EmployeeReturnRules : IDocumentRules
{
    private const decimal SurchargeRate = 0.055m, SurchargeZone = 0.119m, Unit = 10_000, TopZone = 277_825;

    /// <summary>The statute's figures by year: free amount; edge and coefficient of the second zone; edge, coefficient and start of the third; what is taken off in the fourth and fifth; limit of the surcharge.</summary>
    private static readonly Dictionary<int, (decimal Free, decimal Second, decimal A, decimal Third, decimal B, decimal Start, decimal Less42, decimal Less45, decimal Limit, decimal LumpSum)> Figures = new()
    {
        [2022] = (10_347, 14_926, 1_088.67m, 58_596, 206.43m, 869.32m, 9_336.45m, 17_671.20m, 16_956, 1_200),
        [2023] = (10_908, 15_999, 979.18m, 62_809, 192.59m, 966.53m, 9_972.98m, 18_307.73m, 17_543, 1_230),
        [2024] = (11_784, 17_005, 954.80m, 66_760, 181.19m, 991.21m, 10_636.31m, 18_971.06m, 18_130, 1_230),
        [2025] = (12_096, 17_443, 932.30m, 68_480, 176.64m, 1_015.13m, 10_911.92m, 19_246.67m, 19_950, 1_230),
    };

    private static readonly string[] WageTaxLines = ["Line4", "Line11"], SurchargeLines = ["Line5", "Line12"], ChurchLines = ["Line6", "Line7", "Line13", "Line14"];

    /// <inheritdoc />
    public DocumentHeader Header { get; } = new("Taxpayer/Number", "Taxpayer/Name", "Header/TaxYear", "Header/Kind", "Adviser/Number");

    /// <inheritdoc />
    public AssessedFigures Assessed { get; } = new(
        ["Computation/SumOfIncomes", "Computation/TotalIncome", "Computation/Income", "Computation/Taxable", "Computation/IncomeTax", "Computation/Paid", "Computation/Balance"],
        "Computation/Paid",
        "Computation/Balance");

    /// <inheritdoc />
    public bool CheckedBeforehand => true;

    /// <inheritdoc />
    public IEnumerable<Reason> Arithmetic(Document document)
    {
        decimal Of(string name) => document.Amount($"Computation/{name}");
        var year = int.Parse(document.Text(Header.Year)!, CultureInfo.InvariantCulture);
        var joint = document.Text("Header/Joint") == "true";
        var splitting = joint || document.Text("Header/WidowSplitting") == "true";
        var figures = Figures[year];
        decimal Withheld(string[] lines) => lines.Sum(l => document.Sum("Work/WageStatement", l) + document.Sum("SpouseWork/WageStatement", l));

        List<(string Path, decimal Expected, string Rule)> checks =
        [
            ("Computation/SumOfIncomes", document.Amount("Work/Income") + document.Amount("SpouseWork/Income") + Of("OtherIncome") + document.Amount("Capital/ByTariff") + document.Amount("Capital/ByTariffOfSpouse"), "the sum of the incomes"),
            ("Computation/TotalIncome", Of("SumOfIncomes") - Of("AgeRelief") - Of("SpouseAgeRelief") - document.Amount("Children/LoneParent"), "the sum of incomes less reliefs"),
            ("Computation/Income",
                Of("TotalIncome") - Of("Losses") + Of("ChurchExcess") - document.Amount("SpecialExpenses/Allowed") - Of("OldAgeDeducted") - Of("OtherInsuranceDeducted") - document.Amount("Burdens/Allowed") - Of("PensionTaken"),
                "total income less special and provident expenses and burdens"),
            ("Computation/Taxable", Math.Max(0, decimal.Floor(Of("Income") - Of("Hardship") - Of("AllowancesTaken"))), "income less hardship relief and child allowances, cut to euro"),
            ("Computation/Allowances", document.Sum("Children/Child", "Allowance"), "the allowances of all children"),
            ("Computation/AllowancesTaken", Math.Min(Of("AllowancesTaken"), Of("Allowances")), "no more than the allowances of all children"),
            ("Computation/IncomeTax", decimal.Ceiling(Of("ByTariff") - Of("Credits") + Of("BenefitAdded") + Of("PensionAdded")) + document.Amount("Capital/Flat"), "tax less credits, with child benefit, pension allowances and the tax on capital income"),
            ("Computation/Surcharge", Surcharge(Of("SurchargeBase"), figures.Limit * (joint ? 2 : 1)) + document.Amount("Capital/Surcharge"), "the surcharge of SolZG s. 3 and 4"),
            ("Computation/Withheld", decimal.Ceiling(Withheld(WageTaxLines)), "the wage tax of all wage statements"),
            ("Computation/SurchargeWithheld", Withheld(SurchargeLines) + document.Amount("Capital/SurchargeWithheld"), "the surcharge of all wage statements and tax certificates"),
            ("Computation/ChurchTaxWithheld", Withheld(ChurchLines) + document.Amount("Capital/ChurchTaxWithheld"), "the church tax of all wage statements and tax certificates"),
            ("Computation/Taxes", Of("IncomeTax") + Of("Surcharge") + Of("ChurchTax"), "the three taxes"),
            ("Computation/Balance", Of("Taxes") - Of("Paid"), "the taxes less what was withheld and paid"),
        ];
        if (Of("Benefits") == 0 && Of("OneFifth") == 0)
        {
            var tax = splitting ? 2 * Tariff(figures, Of("Taxable") / 2) : Tariff(figures, Of("Taxable"));
            checks.Add(("Computation/ByTariff", tax, "the tax by the tariff"));
        }

        checks.AddRange(Capital(document, joint, year));
        foreach (var work in joint ? ["Work", "SpouseWork"] : new[] { "Work" })
        {
            checks.Add(($"{work}/Deducted", Math.Max(document.Amount($"{work}/Expenses"), Math.Min(figures.LumpSum, document.Amount($"{work}/GrossWage"))), "the expenses, or the lump sum"));
            checks.Add(($"{work}/Income", document.Amount($"{work}/GrossWage") - document.Amount($"{work}/Deducted"), "the wage less expenses"));
            checks.Add(($"{work}/Expenses",
                new[] { "Commuting", "HomeOffice", "EquipmentAndCosts", "Travel", "SecondHousehold", "Removal" }.Sum(n => document.Amount($"{work}/{n}")), "the sum of the expenses"));
        }

        foreach (var reason in checks.Select(c => document.Differs(c.Path, c.Expected, c.Rule)).OfType<Reason>())
        {
            yield return reason;
        }

        if (Of("Balance") < 0 && document.Text("Account/Iban") is null)
        {
            yield return new Reason("ACCOUNT", document.Path("Computation/Balance"), "A refund needs a bank account.");
        }

        if (document.Text("Header/FirstReturn") == "false" && document.Text("Taxpayer/TaxNumber") is null)
        {
            yield return new Reason("TAX-NUMBER", document.Path("Taxpayer/TaxNumber"), "The tax number is missing; it may be left out of a first return only.");
        }
    }

    /// <summary>Capital income by EStG s. 32d: what is assessed, the allowance left for it, and the quarter of the rest; of a couple the allowance moves between two, which is left to the officer.</summary>
    private static IEnumerable<(string Path, decimal Expected, string Rule)> Capital(Document document, bool joint, int year)
    {
        decimal Assessed(string column) => document.SumWhere("Capital/Certificate", column, "Assessed", "true");
        yield return ("Capital/Withheld", decimal.Ceiling(Assessed("Tax")), "the capital tax of the certificates assessed");
        if (joint)
        {
            yield break;
        }

        var allowance = Math.Max(0, (year == 2022 ? 801 : 1_000) - document.SumWhere("Capital/Certificate", "AllowanceUsed", "Assessed", "false"));
        var above = Math.Max(0, Assessed("Income") - allowance);
        if (document.Text("Capital/Way") == "tariff")
        {
            yield return ("Capital/ByTariff", above, "capital income above the saver's allowance");
            yield break;
        }

        var church = document.Text("Taxpayer/Religion") == "none" ? 0 : document.Text("Taxpayer/State") is "bw" or "by" ? 0.08m : 0.09m;
        var tax = decimal.Truncate(Math.Max(0, above - (4 * Assessed("ForeignTax"))) / (4 + church) * 100) / 100;
        yield return ("Capital/Flat", tax, "the tax of EStG s. 32d(1)");
        yield return ("Capital/Surcharge", decimal.Truncate(SurchargeRate * tax * 100) / 100, "the surcharge on it");
        yield return ("Capital/ChurchTax", decimal.Truncate(church * tax * 100) / 100, "the church tax on it");
    }

    private const decimal DaysWithoutDiary = 180, NearKilometres = 20, Near = 0.30m, Far = 0.38m;

    /// <summary>Ways to work on more days than an officer counts without a diary: the expenses, or the lump sum, and what follows. Of returns with more to decide nothing is decided here.</summary>
    public IReadOnlyDictionary<string, (decimal Amount, string Reason)>? DecidedByHand(Document document)
    {
        decimal Of(string name) => document.Amount($"Computation/{name}");
        var figures = Figures[int.Parse(document.Text(Header.Year)!, CultureInfo.InvariantCulture)];
        var cut = document.Rows("Work/Way", "Days", "Kilometres").Sum(way =>
        {
            var kilometres = decimal.Floor(way[1]);
            return Math.Max(0, way[0] - DaysWithoutDiary) * ((Math.Min(kilometres, NearKilometres) * Near) + (Math.Max(0, kilometres - NearKilometres) * Far));
        });
        var lost = document.Amount("Work/Deducted") - Math.Max(document.Amount("Work/Expenses") - cut, Math.Min(figures.LumpSum, document.Amount("Work/GrossWage")));
        if (lost <= 0 || document.Text("Header/Joint") == "true" || document.Text("Taxpayer/Religion") != "none" || Of("Benefits") + Of("OneFifth") + Of("Allowances") > 0)
        {
            return null;
        }

        var taxable = decimal.Floor(Of("Income") + lost - Of("Hardship"));
        var more = Tariff(figures, taxable) - Of("ByTariff");
        var surcharge = Surcharge(Of("SurchargeBase") + more, figures.Limit) - Surcharge(Of("SurchargeBase"), figures.Limit);
        const string Follows = "It follows from the ways to work.";
        return new Dictionary<string, (decimal, string)>
        {
            ["Computation/SumOfIncomes"] = (Of("SumOfIncomes") + lost, string.Create(CultureInfo.InvariantCulture, $"Ways to work are counted on {DaysWithoutDiary:0} days, since no diary shows more; {lost:0.00} of the expenses is not deducted.")),
            ["Computation/TotalIncome"] = (Of("TotalIncome") + lost, Follows),
            ["Computation/Income"] = (Of("Income") + lost, Follows),
            ["Computation/Taxable"] = (taxable, Follows),
            ["Computation/IncomeTax"] = (Of("IncomeTax") + more, Follows),
            ["Computation/Balance"] = (Of("Balance") + more + surcharge, Follows),
        };
    }

    private static decimal Surcharge(decimal tax, decimal limit) =>
        tax <= limit ? 0 : decimal.Truncate(Math.Min(SurchargeRate * tax, SurchargeZone * (tax - limit)) * 100) / 100;

    private static decimal Tariff((decimal Free, decimal Second, decimal A, decimal Third, decimal B, decimal Start, decimal Less42, decimal Less45, decimal Limit, decimal LumpSum) f, decimal taxable)
    {
        var x = decimal.Floor(taxable);
        var (y, z) = ((x - f.Free) / Unit, (x - f.Second) / Unit);
        return decimal.Floor(x <= f.Free ? 0
            : x <= f.Second ? ((f.A * y) + 1_400) * y
            : x <= f.Third ? (((f.B * z) + 2_397) * z) + f.Start
            : x <= TopZone ? (0.42m * x) - f.Less42
            : (0.45m * x) - f.Less45);
    }
}
