using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Common.Accounts;

/// <summary>
/// The trial balance with the item of the statements each account goes to. Accounts and shares of accounts are added up by item in one walk each; statements read the sums.
/// </summary>
public sealed class TrialBalanceForm : Form
{
    private sealed record Account(TextLine Number, AmountLine Debit, AmountLine Credit, ChoiceLine Item);

    private sealed record Adjusted(AmountLine Change, AmountLine Balance);

    private sealed record Share(RowLine Of, ChoiceLine Item, AmountLine Amount);

    private readonly RepeatingSection<Account> _accounts;
    private readonly Chart _chart;
    private Tally _byItem = null!, _sharesByItem = null!;

    /// <summary>The accounts, for journal entries that point at them.</summary>
    public RepeatingSection Accounts => _accounts;

    /// <summary>Balances of accounts that go to no item yet; debits above zero.</summary>
    public AmountLine Unmapped { get; private set; } = null!;

    /// <summary>Declares accounts as they are brought; <see cref="Complete"/> follows when the adjustments are declared.</summary>
    public TrialBalanceForm(Definition definition, Chart chart)
        : base(definition, "trial-balance", "Trial balance", "One row for each account, typed, pasted or imported; each goes to an item of the statements.")
    {
        _chart = chart;
        _accounts = Repeating("accounts", "Accounts", "account", row =>
        {
            var number = row.Text("number", "Account").AtMost(20).From("trial balance").AlsoCalled("Account number", "Account no", "Number", "No", "Code").Required();
            row.KnownBy(number);
            row.NamedBy(row.Text("name", "Name").From("trial balance").AlsoCalled("Account name", "Description").Required());
            var debit = row.Entry("debit", "Debit").MayBeNegative().From("trial balance").AlsoCalled("Debits", "Dr", "Balance", "Amount");
            var credit = row.Entry("credit", "Credit").MayBeNegative().From("trial balance").AlsoCalled("Credits", "Cr");
            var item = row.Choice("item", "Goes to", chart.Codes).AlsoCalled("Item");
            row.MapsTo(item);
            row.Error("account-twice", row.RepeatsEarlier(number), $"Account {number} stands twice in the trial balance; keep one row, or give one of them its own number.", number);
            row.Warn("debit-and-credit", debit.DiffersFrom(0) & credit.DiffersFrom(0), $"The account has a debit of {debit} and a credit of {credit}; the difference counts.", debit);
            return new Account(number, debit, credit, item);
        }).AsGrid();
    }

    /// <summary>Declares what rests on the adjustments: balances, accounts split over several items, totals.</summary>
    public void Complete(Tally adjustments)
    {
        Tally sharesByAccount = null!;
        var adjusted = Continue(_accounts, row =>
        {
            var (_, debit, credit, item) = _accounts.Columns;
            var change = row.Line("adjustment", "Adjustments", adjustments.OfThisRow());
            var balance = row.Line("balance", "Adjusted", debit - credit + change);
            item.RequiredWhen(balance.DiffersFrom(0), "Say which item of the statements this account goes to.");
            return new Adjusted(change, balance);
        });

        var shares = Repeating("shares", "Accounts split over several items", "share", row =>
        {
            var of = row.RowOf("account", "Account", _accounts).Required();
            row.Splits(of);
            var item = row.Choice("item", "This part goes to", _chart.Codes).Required();
            var percent = row.Measure("percent", "Part of the account", 4).Unit("%").Between(0, 100).Required();
            var amount = row.Line("amount", "Amount", of.The(adjusted.Balance) * percent / 100, ToCents);
            row.NamedBy(of);
            return (Of: of, Item: item, Percent: percent, Amount: amount);
        }).AsGrid();
        sharesByAccount = shares.Tally(s => s.Amount, s => s.Of);
        var percents = shares.Tally(s => s.Percent, s => s.Of);
        var kept = Continue(_accounts, row =>
        {
            var split = percents.OfThisRow();
            row.Error("split-above-whole", split > 100, $"More than the whole account is split off: {split}%. The parts together are at most 100%; what is left goes to the item of the account.", _accounts.Columns.Item);
            return row.Line("kept", "To the item", adjusted.Balance - sharesByAccount.OfThisRow());
        });
        _byItem = _accounts.Tally(_ => kept, a => a.Item);
        _sharesByItem = shares.Tally(s => s.Amount, s => s.Item);

        Section("Totals");
        var debits = Line("debits", "Debits", _accounts.Sum(a => a.Debit));
        var credits = Line("credits", "Credits", _accounts.Sum(a => a.Credit));
        var difference = Line("difference", "Difference, debits less credits", debits - credits).Subtotal();
        NumberLine("to-map", "Accounts with a balance and no item", _accounts.CountWhere(a => adjusted.Balance.DiffersFrom(0) & a.Item.IsBlank()));
        Unmapped = Line("unmapped", "Their balances, debits less credits", _accounts.Sum(_ => adjusted.Balance, a => a.Item.IsBlank()));
        Error("no-accounts", _accounts.RowCount.Equals(0), "Enter the trial balance: import a file, paste it, or type the accounts.", debits);
        Error("out-of-balance", difference.DiffersFrom(0), $"The trial balance does not balance: debits of {debits}, credits of {credits}, a difference of {difference}. Compare it with the books.", difference);
    }

    /// <summary>What stands on an item, shown positive on the side on which it grows.</summary>
    public Amount Of(StatementItem item)
    {
        var debit = _byItem.WithCode(item.Code) + _sharesByItem.WithCode(item.Code);
        return item.Side == Side.Debit ? debit : 0 - debit;
    }
}
