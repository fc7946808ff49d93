using Aerarium.Core.Engine;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Common;
using Aerarium.Filing;

namespace Aerarium.Countries.Canada.Company;

/// <summary>
/// Writes a company's federal return in the form the authority's schema asks for; whole dollars. The return and the financial statements
/// are a file each, filed together. One schema serves both and all years.
/// </summary>
/// <param name="oneFile">With the statements within the return, as it was filed before the authority took several files; such returns are verified in that form.</param>
public sealed class CompanyEReturn(bool oneFile = false) : IEReturnMapping
{
    private const int SchemaYear = 2024;
    private const string AccountsFile = "accounts.xml";
    private const string Schema = "urn:aerarium:standin:ca:company:2024";

    /// <inheritdoc />
    public string SchemaPath(int year) => $"ca/company/{SchemaYear}.xsd";

    /// <inheritdoc />
    public EReturnFormat Format => oneFile ? EReturnFormat.Xml : EReturnFormat.Package;

    /// <inheritdoc />
    public IEReturnMapping InFormOf(byte[] file) => new CompanyEReturn(EReturnFormat.Of(file) == EReturnFormat.Xml);

    /// <inheritdoc />
    public EReturn Write(Evaluation evaluation) => oneFile ? Return(evaluation) : EReturnPackage.Of(
        new Dictionary<string, string> { ["return"] = evaluation.Definition.Id, ["year"] = $"{evaluation.Definition.Year}", ["schema"] = Schema },
        new Dictionary<string, EReturn> { [EReturnPackage.ReturnFile] = Return(evaluation), [AccountsFile] = Accounts(evaluation) });

    /// <summary>The statements with the company and the period they are of.</summary>
    private static EReturn Accounts(Evaluation evaluation)
    {
        var x = new EReturnWriter(evaluation, Schema, "CompanyAccounts");
        x.Group("AccountsHeader", () =>
        {
            x.Line("Number", "company.bn");
            x.Line("Name", "company.name");
            x.Named("scope", "begin", "end");
        });
        Statements(x);
        return x.Finish();
    }

    private static void Statements(EReturnWriter x) => x.Group("Statements", () =>
    {
        foreach (var line in FinancialItems.Chart.Lines)
        {
            x.Amount($"Item{line.Code}", $"financial.{line.Name}");
        }

        x.Amount("Rounding", "financial.rounding");
    });

    private EReturn Return(Evaluation evaluation)
    {
        var x = new EReturnWriter(evaluation, Schema, "CompanyReturn");
        bool IsOpen(string line) => evaluation.IsOpen(evaluation.Definition.LineOf(line));
        x.Group("Header", () =>
        {
            x.Fixed("TaxYear", $"{evaluation.Definition.Year}");
            x.Line("Kind", "company.kind");
            x.Line("PriorAcknowledgement", "company.prior-acknowledgement");
            x.Named("scope", "begin", "end", "first", "final", "type", "ccpc", "associated", "bc", "ab", "on", "foreign-property");
        });
        x.Group("Company", () =>
        {
            x.Line("Number", "company.bn");
            x.Named("company", "account", "name", "trade-name", "address", "activity", "product", "language", "officer", "officer-position", "officer-phone", "contact", "contact-phone");
        });
        Agent(x);
        if (oneFile)
        {
            Statements(x);
        }

        x.GroupWhen(IsOpen("depreciation.claimed"), "Depreciation", () => Depreciation(x));
        x.GroupWhen(IsOpen("gains.taxable"), "Gains", () =>
        {
            x.Rows("Property", "gains.sold", () =>
            {
                x.Line("Description", "description");
                x.Line("Date", "date");
                x.NamedAmounts("", "proceeds", "cost", "outlays", "gain");
            });
            x.NamedAmounts("gains", "net", "taxable", "loss");
        });
        x.Group("Reconciliation", () =>
        {
            x.NamedAmounts("reconciliation", "profit", "current-tax", "deferred-tax", "tax-interest", "amortisation", "recapture", "disposal-loss", "donations", "taxable-gains", "political", "club", "meals",
                "fines", "life-insurance", "reserves-closing", "disposal-gain", "allowance", "terminal", "reserves-opening");
            x.Rows("Other", "reconciliation.others", () =>
            {
                x.Line("Reason", "reason");
                x.NamedAmounts("", "added", "deducted");
            });
            x.NamedAmounts("reconciliation", "added", "deducted", "net");
        });
        x.GroupWhen(IsOpen("gifts.deducted"), "Gifts", () => Gifts(x));
        x.Group("Losses", () => Losses(x));
        x.Group("Dividends", () => Dividends(x));
        x.GroupWhen(IsOpen("group.limit"), "BusinessLimit", () => BusinessLimit(x));
        x.GroupWhen(IsOpen("allocation.revenue"), "Allocation", () =>
        {
            foreach (var province in new[] { "bc", "ab", "on" }.Where(p => IsOpen($"allocation.revenue-{p}")))
            {
                x.NamedAmounts("allocation", $"revenue-{province}", $"salaries-{province}");
            }

            x.NamedAmounts("allocation", "revenue", "salaries");
        });
        x.Group("Tax", () => Tax(x));
        x.GroupWhen(IsOpen("pools.refund"), "RefundableTax", () => x.NamedAmounts("pools",
            "part-four-eligible", "part-four-other", "part-four", "eligible-opening", "other-opening", "other-addition", "refund-eligible", "refund-other", "refund-excess", "refund", "eligible-closing", "other-closing",
            "general-opening", "general-added", "general-received", "general-closing"));
        x.Rows("Instalment", "balance.instalments", () =>
        {
            x.Line("Date", "date");
            x.Amount("Amount", "amount");
        });
        x.Group("Balance", () => x.NamedAmounts("balance", "part-one", "part-four", "provinces", "payable", "dividend-refund", "withheld", "instalments-paid", "credits", "balance"));
        RefundAccount(x, evaluation);
        x.Group("Authorisation", () =>
        {
            x.Line("Signed", "declaration.authorised");
            x.Line("SignedOn", "declaration.authorised-on");
        });
        x.Declaration();
        return x.Finish();
    }

    /// <summary>Who files.</summary>
    internal static void Agent(EReturnWriter x) => x.Group("Agent", () =>
    {
        x.Line("Number", "declaration.agent-number");
        x.Line("Name", "declaration.agent-name");
        x.Line("Contact", "declaration.contact-name");
        x.Line("Telephone", "declaration.contact-phone");
    });

    /// <summary>Where a refund is paid to.</summary>
    internal static void RefundAccount(EReturnWriter x, Evaluation evaluation) =>
        x.GroupWhen(evaluation.Balance < 0 && evaluation.Value(evaluation.Definition.LineOf("payout.account-number")) is not null, "RefundAccount", () =>
        {
            x.Line("Bank", "payout.bank");
            x.Line("AccountNumber", "payout.account-number");
        });

    /// <summary>Classes, additions and disposals.</summary>
    internal static void Depreciation(EReturnWriter x)
    {
        x.Rows("Addition", "depreciation.additions", () =>
        {
            x.Named("", "number", "description", "class", "acquired", "in-use");
            x.NamedAmounts("", "cost", "counted", "increased", "plain", "halved", "expensed");
        });
        x.Rows("Disposal", "depreciation.disposals", () =>
        {
            x.Named("", "number", "description", "class", "disposed");
            x.Amount("Proceeds", "proceeds");
        });
        x.Rows("Class", "depreciation.classes", () =>
        {
            x.Line("Code", "class");
            x.Named("", "asset", "rate");
            x.NamedAmounts("", "by-lease", "opening", "increased", "plain", "halved", "expensed", "proceeds", "balance", "recapture", "terminal", "most", "claimed", "closing");
        });
        x.NamedAmounts("depreciation", "claimed", "recapture", "terminal");
    }

    /// <summary>Gifts of the period and of earlier years.</summary>
    internal static void Gifts(EReturnWriter x)
    {
        x.Amount("OfYear", "gifts.of-year");
        Carried(x, "Carried", "gifts.carried");
        x.NamedAmounts("gifts", "available", "most", "deducted", "left-of-year");
    }

    /// <summary>Losses by kind and year.</summary>
    internal static void Losses(EReturnWriter x)
    {
        x.Amount("Loss", "losses.loss");
        x.Rows("Back", "losses.back", () =>
        {
            x.Line("Year", "year");
            x.Amount("Amount", "amount");
        });
        Carried(x, "NonCapital", "losses.non-capital");
        Carried(x, "Capital", "losses.capital");
        x.NamedAmounts("losses", "capital-used", "used-total", "loss-carried", "capital-loss-carried");
    }

    private static void Carried(EReturnWriter x, string name, string table) => x.Rows(name, table, () =>
    {
        x.Line("Year", "year");
        x.NamedAmounts("", "amount", "used", "left");
    });

    private static void Dividends(EReturnWriter x)
    {
        x.Rows("Received", "dividends.received", () =>
        {
            x.Named("", "payer", "payer-bn", "eligible", "connected");
            x.Amount("Amount", "amount");
        });
        x.NamedAmounts("dividends", "aggregate", "deductible", "portfolio-eligible", "portfolio-other", "paid-eligible", "paid-other");
    }

    private static void BusinessLimit(EReturnWriter x)
    {
        x.Line("Percent", "group.percent");
        x.Line("PercentOfOthers", "group.percent-of-others");
        x.Rows("Member", "group.members", () =>
        {
            x.Line("Name", "name");
            x.Line("Number", "bn");
            x.Line("Percent", "percent");
            x.NamedAmounts("", "capital", "investment");
        });
        x.NamedAmounts("group", "by-days", "capital-counted", "capital-reduction", "investment-counted", "investment-reduction", "limit");
    }

    private static void Tax(EReturnWriter x) => x.NamedAmounts("tax",
        "net", "deducted", "taxable", "active-counted", "small", "base", "refundable", "deduction", "abatement", "full-rate", "reduction", "part-one", "on-income", "on-before", "on-deduction", "on-tax", "bc-income", "bc-small",
        "bc-tax", "ab-income", "provinces");
}
