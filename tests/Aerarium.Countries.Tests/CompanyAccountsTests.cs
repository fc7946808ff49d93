using System.Globalization;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Canada.Company;
using Aerarium.Countries.Common.Accounts;

namespace Aerarium.Countries.Tests;

/// <summary>
/// Trial balance, mapping, adjustments, statements, register. What must hold of any books (the accounting identities; common practice, no source) is asked of random trial balances.
/// </summary>
public class CompanyAccountsTests
{
    private static decimal Of(Evaluation evaluation, string line) => evaluation.Amount(line);

    /// <summary>The company of example C1 of the sheet, from its trial balance in cents.</summary>
    private static AccountsCase Harbour() => new AccountsCase(2024)
        .Account("Bank", 48_200.25m, "1001").Account("Receivables", 61_500, "1060").Account("Stock", 39_800, "1120").Account("Prepaid", 2_499.75m, "1484").Account("Equipment", 150_000, "2008").Account("Equipment, amortised", -62_000, "2009")
        .Account("Payables", -44_300, "2620").Account("Tax due", -7_600, "2680").Account("Shareholder", -16_000, "2780").Account("Loan", -27_150, "3140").Account("Shares", -100, "3500").Account("Retained", -41_000, "3660").Account("Dividends", 30_000, "3700")
        .Account("Sales", -820_000, "8000").Account("Stock, opening", 35_000, "8300").Account("Purchases", 310_000, "8320").Account("Stock, closing", -39_800, "8500").Account("Amortisation", 22_000, "8670").Account("Meals", 5_200, "8523")
        .Account("Gifts", 3_000, "8522").Account("Wages", 331_750, "9060").Account("Income tax", 19_000, "9990");

    [Fact]
    public void Statements_follow_from_the_trial_balance()
    {
        var of = Harbour().Evaluate();
        Assert.Equal((0, 0, 0), (Of(of, "trial-balance.difference"), Of(of, "trial-balance.unmapped"), Of(of, "statements.difference")));
        Assert.Equal((240_000, 95_050, 144_850, 152_850, 133_850), (
            Of(of, "statements.item-2599"), Of(of, "statements.item-3499"), Of(of, "statements.item-3849"), Of(of, "statements.item-9970"), Of(of, "statements.item-9999")));
        Assert.DoesNotContain(of.Findings, f => f.Id.StartsWith("statements", StringComparison.Ordinal) || f.Id == "out-of-balance");
    }

    [Fact]
    public void An_account_that_goes_nowhere_is_told_with_the_difference_it_makes()
    {
        var of = Harbour().Account("Drone survey", 4_150).Account("Suspense", -4_150, "2620").Evaluate();
        Assert.Equal((1, 4_150, -4_150), (Of(of, "trial-balance.to-map"), Of(of, "trial-balance.unmapped"), Of(of, "statements.difference")));
        Assert.Contains(of.Findings, f => f.Id == "statements-differ" && f.Message.Contains("4,150", StringComparison.Ordinal));
        Assert.Contains(of.Findings, f => f.Id == "trial-balance.accounts.item:missing" && f.Row == "23");
    }

    [Fact]
    public void A_trial_balance_that_does_not_balance_says_by_how_much()
    {
        var of = new AccountsCase(2024).Account("Bank", 100, "1001").Account("Shares", -99.99m, "3500").Evaluate();
        Assert.Contains(of.Findings, f => f.Id == "out-of-balance" && f.Message.Contains("0.01", StringComparison.Ordinal));
        Assert.Contains(of.Findings, f => f.Id == "statements-out-of-balance");
    }

    [Fact]
    public void Adjustments_move_balances_until_they_are_taken_back()
    {
        var adjusted = Harbour().Entry(19, 1, 300).Evaluate();
        Assert.Equal((47_900.25m, 5_500, 300), (Of(adjusted, "statements.item-1001"), Of(adjusted, "statements.item-8523"), adjusted.Amount("trial-balance.accounts.adjustment", 18)));
        var back = Harbour().Entry(19, 1, 300, takenBack: "booked already").Evaluate();
        Assert.Equal((48_200.25m, 5_200), (Of(back, "statements.item-1001"), Of(back, "statements.item-8523")));
        var lopsided = Harbour().Entry(19, 1, 300).Row("adjustments.lines", ("of", 1), ("account", 2), ("debit", 5)).Evaluate();
        Assert.Contains(lopsided.Findings, f => f.Id == "entry-out-of-balance");
    }

    [Fact]
    public void An_account_is_split_over_items_to_the_cent()
    {
        var of = new AccountsCase(2024).Account("Sponsorship", 100.01m, "8521").Account("Bank", -100.01m, "1001").Split(1, "8523", 40).Split(1, "8810", 33.3333m).Evaluate();
        Assert.Equal((26.67m, 40.00m, 33.34m), (Of(of, "statements.item-8521"), Of(of, "statements.item-8523"), Of(of, "statements.item-8810")));
        Assert.Equal(0, Of(of, "statements.difference"));
        Assert.Contains(new AccountsCase(2024).Account("Sponsorship", 100, "8521").Split(1, "8523", 60).Split(1, "8810", 40.01m).Evaluate().Findings, f => f.Id == "split-above-whole");
    }

    /// <summary>Whatever the books hold, when they balance and every account goes somewhere the statements balance, also split, adjusted and in another order; and each item is the sum of its accounts.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    public void Books_that_balance_give_statements_that_balance(int seed)
    {
        var random = new Random(seed);
        var items = FinancialItems.Chart.Items.ToList();
        var accounts = Enumerable.Range(0, 200).Select(n => (Name: $"A{n}", Balance: random.Next(-9_999_999, 9_999_999) / 100m, Item: items[random.Next(items.Count)].Code)).ToList();
        accounts.Add(("Rest", -accounts.Sum(a => a.Balance), "1001"));
        var drawn = Books(accounts);
        Assert.Equal((0, 0), (Of(drawn, "trial-balance.difference"), Of(drawn, "statements.difference")));
        var reversed = Books(Enumerable.Reverse(accounts));
        foreach (var item in items)
        {
            var debit = accounts.Where(a => a.Item == item.Code).Sum(a => a.Balance);
            Assert.Equal(item.Side == Side.Debit ? debit : -debit, Of(drawn, $"statements.{item.Name}"));
            Assert.Equal(Of(drawn, $"statements.{item.Name}"), Of(reversed, $"statements.{item.Name}"));
        }

        var @case = Case(accounts);
        for (var n = 0; n < 20; n++)
        {
            @case.Split(random.Next(1, 200), items[random.Next(items.Count)].Code, random.Next(1, 40) / 10m).Entry(random.Next(1, 200), random.Next(1, 200), random.Next(1, 99_999) / 100m);
        }

        Assert.Equal(0, Of(@case.Evaluate(), "statements.difference"));

        static AccountsCase Case(IEnumerable<(string Name, decimal Balance, string Item)> accounts) => accounts.Aggregate(new AccountsCase(2024), (c, a) => c.Account(a.Name, a.Balance, a.Item));
        static Evaluation Books(IEnumerable<(string Name, decimal Balance, string Item)> accounts) => Case(accounts).Evaluate();
    }

    [Fact]
    public void Retained_earnings_follow_last_year()
    {
        Assert.DoesNotContain(Harbour().With("statements-last-year.item-3660", 41_000).Evaluate().Findings, f => f.Id == "retained-do-not-roll");
        Assert.Contains(Harbour().With("statements-last-year.item-3660", 40_000).Evaluate().Findings, f => f.Id == "retained-do-not-roll");
    }

    [Fact]
    public void The_register_amortises_and_hands_on_what_was_bought_and_sold()
    {
        var of = Harbour()
            .Row("assets.register", ("number", "1"), ("description", "Crane"), ("class", "8"), ("acquired", "2024-04-10"), ("cost", 12_000), ("private", 25), ("method", "straight-line"), ("rate", 10))
            .Row("assets.register", ("number", "2"), ("description", "Van"), ("class", "10"), ("acquired", "2021-02-01"), ("cost", 30_000), ("opening", 18_000), ("method", "declining"), ("rate", 30), ("disposed", "2024-06-30"), ("proceeds", 9_000))
            .Row("assets.register", ("number", "3"), ("description", "Desk"), ("class", "8"), ("acquired", "2015-02-01"), ("cost", 1_000), ("opening", 950), ("method", "straight-line"), ("rate", 10)).Evaluate();
        decimal At(string column, int row) => of.Amount($"assets.register.{column}", row);
        Assert.Equal((900, 9_000, 0, 12_000, 900), (At("of-period", 0), At("bought", 0), At("sold", 0), At("kept", 0), At("carried", 0)));
        Assert.Equal((1_800, 0, 9_000, 0, 0), (At("of-period", 1), At("bought", 1), At("sold", 1), At("kept", 1), At("carried", 1)));
        Assert.Equal((50, 1_000), (At("of-period", 2), At("carried", 2)));
        Assert.Contains(of.Findings, f => f.Id == "cost-differs");
    }

    /// <summary>The period follows the one before; a month end is followed by a month end.</summary>
    [Theory]
    [InlineData("2023-07-01", "2024-06-30", "2024-07-01", "2025-06-30")]
    [InlineData("2023-03-01", "2024-02-29", "2024-03-01", "2025-02-28")]
    [InlineData("2023-08-24", "2024-08-23", "2024-08-24", "2025-08-23")]
    public void The_next_period_is_proposed(string begin, string end, string nextBegin, string nextEnd)
    {
        var of = new AccountsCase(2024).With("scope.begin", begin).With("scope.end", end).Evaluate();
        Assert.Equal((nextBegin, nextEnd), (of.Value("scope.next-begin"), of.Value("scope.next-end")));
        bool TooLong(string from) => new AccountsCase(2024).With("scope.begin", from).Evaluate().Findings.Any(f => f.Id == "too-long");
        Assert.Equal((false, true), (TooLong("2023-12-27"), TooLong("2023-12-26")));
    }

    /// <summary>Five thousand accounts: the statements read one walk, and an edit gives what a fresh evaluation gives.</summary>
    [Fact]
    public void Five_thousand_accounts_are_added_up_by_item()
    {
        var items = FinancialItems.Chart.Items.Select(i => i.Code).ToList();
        var @case = new AccountsCase(2025);
        for (var n = 0; n < 5_000; n++)
        {
            @case.Account($"Account {n}", n % 2 == 0 ? n + 1.25m : -n - 0.25m, items[n % items.Count]);
        }

        var definition = Catalogue.Get(AccountsReturn.ReturnId, 2025);
        var before = @case.Evaluate();
        var rows = @case.Entries.Rows["trial-balance.accounts"];
        var moved = new EntryRow(rows[4_321].Id) { Values = new(rows[4_321].Values) { ["item"] = "9270" } };
        var changed = new EntrySet { Values = @case.Entries.Values, Rows = new(@case.Entries.Rows) { ["trial-balance.accounts"] = [.. rows.Select((r, index) => index == 4_321 ? moved : r)] } };
        var edited = definition.Evaluate(changed, new DateOnly(2026, 2, 1), before);
        var fresh = definition.Evaluate(changed, new DateOnly(2026, 2, 1));
        Assert.Equal(FrozenReturnFigures(fresh), FrozenReturnFigures(edited));
        Assert.NotEqual(FrozenReturnFigures(before)["statements.item-9270"], FrozenReturnFigures(edited)["statements.item-9270"]);
    }

    [Fact]
    public void A_statement_line_is_derived_from_its_accounts()
    {
        var of = Harbour().Account("Petty cash", 10.50m, "1001").Account("Rounding", -10.50m, "2620").Evaluate();
        var derivation = Derivation.Of(of, of.Definition.LineOf("statements.item-1001"), null);
        Assert.Contains("Bank", Names(derivation.Root!));
        Assert.Contains("Petty cash", Names(derivation.Root!));
        Assert.DoesNotContain("Receivables", Names(derivation.Root!));

        static IEnumerable<string> Names(DerivationNode node) => [node.Words, .. node.Operands.SelectMany(Names)];
    }

    /// <summary>Every tie of the company's returns names a line that is there, and none runs in a circle; the catalogue checks it when a definition is asked for.</summary>
    [Fact]
    public void The_tax_return_follows_every_item_of_the_accounts()
    {
        var accounts = Catalogue.Get(AccountsReturn.ReturnId, 2024);
        var federal = Catalogue.Get(CompanyReturn.ReturnId, 2024);
        Assert.All(FinancialItems.Chart.Items, item => Assert.Equal($"statements.{item.Name}", federal.LineOf($"financial.{item.Name}").Ties.Single().Line));
        Assert.All(FinancialItems.Chart.Items, item => Assert.NotNull(accounts.FindLine($"statements.{item.Name}")));
        Assert.Equal(FinancialItems.Chart.Lines.Count(), FinancialItems.Chart.Lines.Select(l => l.Code).Distinct().Count());
    }

    private static Dictionary<string, string> FrozenReturnFigures(Evaluation evaluation) =>
        evaluation.Definition.Lines.Where(l => l.Table is null).ToDictionary(l => l.Key, l => evaluation.Amount(l).ToString(CultureInfo.InvariantCulture));

    /// <summary>A part of an account, and a line of an entry, is called by the account it points at, never by an id.</summary>
    [Fact]
    public void Parts_are_called_by_the_account_they_are_of()
    {
        var of = Harbour().Split(1, "8523", 40).Row("trial-balance.shares", ("account", 2)).Evaluate();
        Assert.Equal("1001 Receivables", of.OwnName(of.Definition.FindTable("trial-balance.shares")!, 1));
        Assert.Contains(of.Findings, f => f.Id == "trial-balance.shares.item:missing" && f.Message.StartsWith("1001 Receivables: ", StringComparison.Ordinal));
    }
}
