using Aerarium.Core.Engine;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Canada.Company;
using Aerarium.Countries.Canada.CompanyAlberta;

namespace Aerarium.Countries.Tests;

/// <summary>Cases of Canada's return of a company, by default a Canadian-controlled private corporation whose period is the calendar year.</summary>
public sealed class CompanyCase : ReturnCase<CompanyCase>
{
    public CompanyCase(int year, params string[] provinces)
        : base(Catalogue.Get(CompanyReturn.ReturnId, year), new DateOnly(year + 1, 2, 1))
    {
        Period($"{year}-01-01", $"{year}-12-31").Scope("ccpc", "resident").Scope(provinces);
        foreach (var no in new[] { "first", "final", "associated", "associated-last-year", "special", "elsewhere", "depreciable", "investments", "capital-gains", "dividends-paid", "gifts", "losses", "instalments", "foreign-property" })
        {
            With($"scope.{no}", "no");
        }

        With("scope.type", "ccpc").With("tax.claim-small", "yes").With("group.capital-before", 0).With("group.investment-before", 0);
    }

    /// <summary>The period.</summary>
    public CompanyCase Period(string begin, string end) => With("scope.begin", begin).With("scope.end", end);

    /// <summary>Items of the statements.</summary>
    public CompanyCase Items(params (string Code, decimal Amount)[] items)
    {
        foreach (var (code, amount) in items)
        {
            With($"financial.item-{code}", amount);
        }

        return this;
    }

    /// <summary>Sales without a cost: the profit, and with nothing to adjust the taxable income.</summary>
    public CompanyCase Income(decimal income) => Items(("8000", income), ("1001", income));

    /// <summary>An addition to a class; bought and in use on a day.</summary>
    public CompanyCase Bought(string @class, decimal cost, string day, params (string, object)[] more) => Scope("depreciable").Row(
        "depreciation.additions", [("description", $"Asset {Entries.RowsOf("depreciation.additions").Count}"), ("class", @class), ("acquired", day), ("cost", cost), .. more]);

    /// <summary>An asset disposed of.</summary>
    public CompanyCase Sold(string @class, decimal proceeds) => Scope("depreciable").Row("depreciation.disposals", ("description", $"Asset {Entries.RowsOf("depreciation.disposals").Count}"), ("class", @class), ("proceeds", proceeds));

    /// <summary>A class.</summary>
    public CompanyCase Class(string @class, decimal opening = 0, bool left = true, params (string, object)[] more) => Scope("depreciable").Row("depreciation.classes", [("class", @class), ("opening", opening), ("left", left ? "yes" : "no"), .. more]);

    /// <summary>A finding is there on one side of its edge and not on the other.</summary>
    public static void Turns(string finding, CompanyCase with, CompanyCase without)
    {
        Assert.Contains(with.Evaluate().Findings, f => f.Id == finding);
        Assert.DoesNotContain(without.Evaluate().Findings, f => f.Id == finding);
    }
}

/// <summary>Cases of Alberta's return of a company.</summary>
public sealed class AlbertaCase : ReturnCase<AlbertaCase>
{
    public AlbertaCase(int year, decimal federalIncome, decimal limit = 500_000)
        : base(Catalogue.Get(AlbertaReturn.ReturnId, year), new DateOnly(year + 1, 2, 1))
    {
        With("scope.begin", $"{year}-01-01").With("scope.end", $"{year}-12-31").Scope("establishment", "federal-filed", "third-party");
        foreach (var no in new[] { "first", "depreciation-differs", "others-differ", "gifts", "losses", "instalments" })
        {
            With($"scope.{no}", "no");
        }

        With("reconciliation.federal", federalIncome).With("tax.provinces", 1).With("tax.ccpc", "yes").With("tax.claim-small", "yes").With("tax.active", federalIncome).With("tax.limit", limit);
    }
}

/// <summary>Cases of the accounts of a company in Canada.</summary>
public sealed class AccountsCase : ReturnCase<AccountsCase>
{
    private int _number = 1_000;

    public AccountsCase(int year)
        : base(Catalogue.Get(AccountsReturn.ReturnId, year), new DateOnly(year + 1, 2, 1)) =>
        With("scope.first", "no").With("scope.begin", $"{year}-01-01").With("scope.end", $"{year}-12-31").With("scope.assurance", "none");

    /// <summary>An account: a debit above zero, a credit below.</summary>
    public AccountsCase Account(string name, decimal balance, string? item = null) => Row(
        "trial-balance.accounts",
        [("number", $"{_number++}"), ("name", name), balance < 0 ? ("credit", -balance) : ("debit", balance), .. item is null ? [] : new (string, object)[] { ("item", item) }]);

    /// <summary>Part of an account that goes elsewhere, by position of the account from one.</summary>
    public AccountsCase Split(int account, string item, decimal percent) => Row("trial-balance.shares", ("account", account), ("item", item), ("percent", percent));

    /// <summary>An adjustment between two accounts by their positions.</summary>
    public AccountsCase Entry(int debit, int credit, decimal amount, string? takenBack = null)
    {
        var number = Entries.RowsOf("adjustments.entries").Count + 1;
        return Row("adjustments.entries", [("number", number), ("reason", $"Reason {number}"), .. takenBack is null ? [] : new (string, object)[] { ("reversed", takenBack) }])
            .Row("adjustments.lines", ("of", number), ("account", debit), ("debit", amount)).Row("adjustments.lines", ("of", number), ("account", credit), ("credit", amount));
    }
}
