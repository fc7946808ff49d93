using System.Globalization;

namespace Aerarium.StandIn.Canada;

/// <summary>The arithmetic of a company's return as Canada's simulated authority checks it, from the lines of the document: statements, reconciliation, pools, tax.</summary>
public sealed class CompanyReturnRules : IDocumentRules
{
    private const int MostDays = 371, WholeLimitDays = 357;
    private const decimal Limit = 500_000;

    private static readonly (string Total, string[] Added, string[] Subtracted)[] Totals =
    [
        ("1599", ["1001", "1060", "1120", "1480", "1484"], []), ("2589", ["2008", "2009", "2178", "2179"], []), ("2599", ["1599", "2589"], []), ("3450", ["3140"], []), ("3499", ["3139", "3450"], []),
        ("3600", ["3849"], []), ("3620", ["3500", "3600"], []), ("3640", ["3499", "3620"], []), ("3680", ["9999"], []), ("3849", ["3660", "3680"], ["3700"]), ("8089", ["8000"], []), ("8299", ["8089", "8090", "8230"], []),
        ("8518", ["8300", "8320"], ["8500"]), ("8519", ["8089"], ["8518"]), ("9368", ["8518", "9367"], []), ("9369", ["8299"], ["9368"]), ("9970", ["9369"], []), ("9999", ["9970"], ["9990", "9995"]),
        ("9367", ["8521", "8522", "8523", "8590", "8670", "8690", "8710", "8715", "8810", "8860", "8910", "8960", "9060", "9130", "9180", "9200", "9220", "9225", "9270", "9281"], []),
    ];

    /// <inheritdoc />
    public DocumentHeader Header { get; } = new("Company/Number", "Company/Name", "Header/TaxYear", "Header/Kind", "Agent/Number") { End = "Header/End" };

    /// <inheritdoc />
    public AssessedFigures Assessed { get; } = new(
        ["Reconciliation/Net", "Tax/Taxable", "Tax/PartOne", "Tax/Provinces", "Balance/Payable", "Balance/Credits", "Balance/Balance"], "Balance/Credits", "Balance/Balance");

    /// <inheritdoc />
    public IEnumerable<Reason> Arithmetic(Document document) =>
        Statements(document).Concat(Sums(document)).Concat(FederalTax(document)).Concat(Provinces(document)).Concat(CompanyParts.Depreciation(document)).Concat(CompanyParts.Losses(document))
            .Select(c => document.Differs(c.Path, c.Expected, c.Rule)).OfType<Reason>().Concat(Others(document));

    private static IEnumerable<(string Path, decimal Expected, string Rule)> Statements(Document document)
    {
        decimal Item(string code) => document.Amount($"Statements/Item{code}");
        foreach (var (total, added, subtracted) in Totals)
        {
            yield return ($"Statements/Item{total}", added.Sum(Item) - subtracted.Sum(Item), $"the sum of {string.Join(", ", added)}{(subtracted.Length > 0 ? $" less {string.Join(", ", subtracted)}" : "")}");
        }

        yield return ("Statements/Item3139", Item("2620") + Item("2680") + Item("2780") + document.Amount("Statements/Rounding"), "the sum of 2620, 2680 and 2780 with the rounding");
        yield return ("Statements/Item3640", Item("2599"), "total assets");
    }

    private static IEnumerable<(string Path, decimal Expected, string Rule)> Sums(Document document)
    {
        decimal Of(string name) => document.Amount($"Reconciliation/{name}");
        decimal Item(string code) => document.Amount($"Statements/Item{code}");
        yield return ("Reconciliation/Profit", Item("9999"), "net income after tax of the statements");
        yield return ("Reconciliation/CurrentTax", Item("9990"), "current tax of the statements");
        yield return ("Reconciliation/DeferredTax", Item("9995"), "deferred tax of the statements");
        yield return ("Reconciliation/Amortisation", Item("8670"), "amortisation of the statements");
        yield return ("Reconciliation/Donations", Item("8522"), "gifts of the statements");
        yield return ("Reconciliation/Meals", Dollars(Math.Max(0, Item("8523")) / 2), "half of meals");
        yield return ("Reconciliation/Allowance", document.Amount("Depreciation/Claimed"), "the claims of all classes");
        yield return ("Reconciliation/Recapture", document.Amount("Depreciation/Recapture"), "the recapture of all classes");
        yield return ("Reconciliation/Terminal", document.Amount("Depreciation/Terminal"), "the terminal losses of all classes");
        yield return ("Reconciliation/TaxableGains", document.Amount("Gains/Taxable"), "the taxable gains");
        yield return ("Gains/Taxable", Dollars(Math.Max(0, document.Sum("Gains/Property", "Gain")) / 2), "half of the gains");
        string[] added = ["CurrentTax", "DeferredTax", "TaxInterest", "Amortisation", "Recapture", "DisposalLoss", "Donations", "TaxableGains", "Political", "Club", "Meals", "Fines", "LifeInsurance", "ReservesClosing"];
        string[] deducted = ["DisposalGain", "Allowance", "Terminal", "ReservesOpening"];
        yield return ("Reconciliation/Added", added.Sum(Of) + document.Sum("Reconciliation/Other", "Added"), "the sum of what is added");
        yield return ("Reconciliation/Deducted", deducted.Sum(Of) + document.Sum("Reconciliation/Other", "Deducted"), "the sum of what is deducted");
        yield return ("Reconciliation/Net", Of("Profit") + Of("Added") - Of("Deducted"), "profit with what is added and less what is deducted");
        decimal Balance(string name) => document.Amount($"Balance/{name}");
        yield return ("Balance/PartOne", document.Amount("Tax/PartOne"), "Part I tax");
        yield return ("Balance/PartFour", document.Amount("RefundableTax/PartFour"), "Part IV tax");
        yield return ("Balance/Provinces", document.Amount("Tax/Provinces"), "the tax of the provinces");
        yield return ("Balance/Payable", Balance("PartOne") + Balance("PartFour") + Balance("Provinces"), "the sum of the taxes");
        yield return ("Balance/InstalmentsPaid", document.Sum("Instalment", "Amount"), "the sum of the instalments");
        yield return ("Balance/Credits", Balance("DividendRefund") + Balance("Withheld") + Balance("InstalmentsPaid"), "the sum of what was refunded, withheld and paid");
        yield return ("Balance/Balance", Balance("Payable") - Balance("Credits"), "payable less credits");
    }

    private static IEnumerable<(string Path, decimal Expected, string Rule)> FederalTax(Document document)
    {
        decimal Of(string name) => document.Amount($"Tax/{name}");
        var investment = document.Amount("Dividends/Aggregate");
        var isPrivate = document.Text("Header/Ccpc") == "true";
        var after = Of("Taxable") - Of("Small");
        yield return ("Tax/Net", document.Amount("Reconciliation/Net"), "net income for tax");
        yield return ("Tax/Deducted", document.Amount("Gifts/Deducted") + document.Amount("Dividends/Deductible") + document.Amount("Losses/UsedTotal") + document.Amount("Losses/CapitalUsed"), "gifts, dividends and losses");
        yield return ("Tax/Taxable", Math.Max(0, Of("Net") - Of("Deducted")), "net income less what is deducted from it");
        yield return ("Tax/Base", Dollars(Of("Taxable") * 0.38m), "38% of taxable income");
        yield return ("Tax/Refundable", isPrivate ? Dollars(Math.Min(investment, Math.Max(0, after)) * 32 / 300) : 0, "10 2/3% of investment income");
        yield return ("Tax/Deduction", Dollars(Of("Small") * 0.19m), "19% of the small business amount");
        yield return ("Tax/Abatement", Dollars(Of("Taxable") * 0.10m), "10% of taxable income");
        yield return ("Tax/FullRate", Math.Max(0, after - (isPrivate ? investment : 0)), "income at the full rate");
        yield return ("Tax/Reduction", Dollars(Of("FullRate") * 0.13m), "13% of income at the full rate");
        yield return ("Tax/PartOne", Math.Max(0, Of("Base") + Of("Refundable") - Of("Deduction") - Of("Abatement") - Of("Reduction")), "base tax with its additions and deductions");
    }

    private static IEnumerable<(string Path, decimal Expected, string Rule)> Provinces(Document document)
    {
        decimal Of(string name) => document.Amount($"Tax/{name}");
        foreach (var (income, province) in new[] { ("BcIncome", "Bc"), ("AbIncome", "Ab"), ("OnIncome", "On") })
        {
            yield return ($"Tax/{income}", document.Text($"Header/{province}") == "true" ? Dollars(Of("Taxable") * CompanyParts.Factor(document, province)) : 0, "the part of taxable income earned there");
        }

        var small = Dollars(Of("Small") * CompanyParts.Factor(document, "Bc"));
        yield return ("Tax/BcTax", document.Text("Header/Bc") == "true" ? Dollars(small * 0.02m) + Dollars((Of("BcIncome") - small) * 0.12m) : 0, "2% of the small business part and 12% of the rest");
        yield return ("Tax/OnBefore", Dollars(Of("OnIncome") * 0.115m), "11.5% of Ontario's income");
        yield return ("Tax/OnTax", Of("OnBefore") - Of("OnDeduction"), "tax less deduction");
        yield return ("Tax/Provinces", Of("OnTax") + Of("BcTax"), "the tax of Ontario and British Columbia");
    }

    private static IEnumerable<Reason> Others(Document document)
    {
        if (document.Text("Authorisation/Signed") != "true")
        {
            yield return new Reason("AUTHORISATION", document.Path("Authorisation/Signed"), "The officer has not signed the authorisation to file.");
        }

        if (document.Text("Statements/Rounding") is null)
        {
            yield return new Reason("ACCOUNTS", null, "The financial statements are missing; file them with the return.");
        }

        foreach (var (own, path, what) in new[]
        {
            ("Company/Number", "AccountsHeader/Number", "company"), ("Header/Begin", "AccountsHeader/Begin", "period"), ("Header/End", "AccountsHeader/End", "period"),
        })
        {
            if (document.Text(path) is { } stated && stated != document.Text(own))
            {
                yield return new Reason("ACCOUNTS", document.Path(path), $"The financial statements are of another {what} than the return.");
            }
        }

        if (document.Text("Company/Account")?.StartsWith(document.Text("Company/Number") ?? " ", StringComparison.Ordinal) is false)
        {
            yield return new Reason("ACCOUNT", document.Path("Company/Account"), "The account is not one of this business number.");
        }

        var days = CompanyParts.Days(document);
        if (days is < 1 or > MostDays)
        {
            yield return new Reason("PERIOD", document.Path("Header/End"), $"The period has {days} days; a tax year has at least one and at most {MostDays}.");
        }

        var group = document.Text("Header/Associated") == "true" ? (document.Amount("BusinessLimit/Percent") + document.Amount("BusinessLimit/PercentOfOthers") + document.Sum("BusinessLimit/Member", "Percent")) : 100;
        if (group > 100)
        {
            yield return new Reason("AGREEMENT", document.Path("BusinessLimit/Percent"), string.Create(CultureInfo.InvariantCulture, $"The group shares out {group}% of the business limit."));
        }

        var most = days < WholeLimitDays ? Limit * days / 365 : Limit;
        if (document.Amount("Tax/Small") > 0 && (document.Text("Header/Ccpc") != "true" || document.Amount("Tax/Small") > decimal.Ceiling(most)))
        {
            yield return new Reason("SMALLBUSINESS", document.Path("Tax/Small"), "The small business deduction is claimed by a company that may not, or on more than the business limit.");
        }
    }

    private static decimal Dollars(decimal amount) => CompanyParts.Dollars(amount);
}

/// <summary>Parts that the federal return and Alberta's have alike.</summary>
internal static class CompanyParts
{
    private static readonly Dictionary<string, decimal> Rates = new() { ["1"] = 0.04m, ["1-6"] = 0.06m, ["1-10"] = 0.10m, ["8"] = 0.20m, ["10"] = 0.30m, ["10.1"] = 0.30m, ["12"] = 1m, ["14.1"] = 0.05m, ["43"] = 0.30m, ["50"] = 0.55m, ["53"] = 0.50m };

    public static decimal Dollars(decimal amount) => decimal.Round(amount, 0, MidpointRounding.AwayFromZero);

    /// <summary>Days of the period.</summary>
    public static int Days(Document document) => Day(document.Text("Header/End")) - Day(document.Text("Header/Begin")) + 1;

    /// <summary>The part of the income that is earned in a province.</summary>
    public static decimal Factor(Document document, string province)
    {
        if (document.Text("Allocation/Revenue") is null)
        {
            return 1;
        }

        var (revenue, salaries) = (document.Amount("Allocation/Revenue"), document.Amount("Allocation/Salaries"));
        var (byRevenue, bySalaries) = (revenue == 0 ? 0 : document.Amount($"Allocation/Revenue{province}") / revenue, salaries == 0 ? 0 : document.Amount($"Allocation/Salaries{province}") / salaries);
        return salaries == 0 ? byRevenue : revenue == 0 ? bySalaries : (byRevenue + bySalaries) / 2;
    }

    /// <summary>Balances of the classes, and that no claim is above what the rate and the increases of the first year can give.</summary>
    public static IEnumerable<(string Path, decimal Expected, string Rule)> Depreciation(Document document)
    {
        var path = "Depreciation/Class";
        yield return ("Depreciation/Claimed", document.Sum(path, "Claimed"), "the sum of the claims");
        yield return ("Depreciation/Recapture", document.Sum(path, "Recapture"), "the sum of the recapture");
        yield return ("Depreciation/Terminal", document.Sum(path, "Terminal"), "the sum of the terminal losses");
        var rows = document.Rows(path, "Opening", "Increased", "Plain", "Halved", "Proceeds", "Balance", "Rate", "ByLease", "Claimed", "Expensed");
        foreach (var (row, code) in rows.Zip(document.TextsOf(path, "Code")))
        {
            var balance = row[0] + row[1] + row[2] + row[3] - row[4];
            var most = row[9] + (code == "13" ? row[7] : Dollars((Math.Max(0, row[5]) + (row[1] / 2)) * (code == "other" ? row[6] / 100 : Rates.GetValueOrDefault(code ?? "", 1))));
            if (balance != row[5])
            {
                yield return ($"{path}/Balance", balance, "the balance at the beginning with additions less disposals");
            }
            else if (row[8] > most)
            {
                yield return ($"{path}/Claimed", most, "the most the class can give");
            }
        }
    }

    /// <summary>Losses of earlier years and of this one.</summary>
    public static IEnumerable<(string Path, decimal Expected, string Rule)> Losses(Document document)
    {
        yield return ("Losses/UsedTotal", document.Sum("Losses/NonCapital", "Used"), "the losses used of all years");
        yield return ("Losses/CapitalUsed", document.Sum("Losses/Capital", "Used"), "the capital losses used of all years");
        yield return ("Losses/LossCarried", Math.Max(0, document.Amount("Losses/Loss") - document.Sum("Losses/Back", "Amount")), "the loss less what is carried back");
    }

    private static int Day(string? text) => DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day.DayNumber : 0;
}
