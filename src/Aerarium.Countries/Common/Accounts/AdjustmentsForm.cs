using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Common.Accounts;

/// <summary>The journal of adjustments: numbered entries with a reason, each of lines that balance.</summary>
public sealed class AdjustmentsForm : Form
{
    private sealed record JournalLine(RowLine Account, AmountLine Debit, AmountLine Credit);

    /// <summary>What each account is changed by; debits above zero.</summary>
    public Tally ByAccount { get; }

    /// <summary>Declares the form.</summary>
    public AdjustmentsForm(Definition definition, TrialBalanceForm trialBalance)
        : base(definition, "adjustments", "Adjustments", "Journal entries that are not in the books yet, each with its reason; the books themselves stay as they were brought.")
    {
        RepeatingSection<JournalLine>? lines = null;
        var entries = Pages("entries", "Entries", "entry", page =>
        {
            page.Part("The entry");
            var number = page.Count("number", "Number").Between(1, 9_999).Required();
            page.NamedBy(page.Text("reason", "Reason").Required());
            page.Date("date", "Date").OfOneYear();
            page.StandsBy(page.Answer("standing", "Made in every period?").Hint("then it is rolled forward with its lines"));
            var reversed = page.Text("reversed", "Taken back, because").Hint("the entry stays and no longer counts").OfOneYear();
            lines = page.RowsWithin("lines", "Lines", "line", row =>
            {
                var account = row.RowOf("account", "Account", trialBalance.Accounts).Required();
                row.NamedBy(account);
                var debit = row.Entry("debit", "Debit");
                var credit = row.Entry("credit", "Credit");
                row.Error("line-both-sides", debit > 0 & credit > 0, "A line stands on one side; give debit and credit a line each.", debit);
                row.Error("line-empty", debit.IsBlank() & credit.IsBlank(), "Enter the debit or the credit of this line.", debit);
                return new JournalLine(account, debit, credit);
            }).AsGrid();
            page.Part("Balance check");
            var debits = page.Line("debits", "Debits", PageScope.Sum(lines, l => l.Debit));
            var credits = page.Line("credits", "Credits", PageScope.Sum(lines, l => l.Credit));
            page.Error("entry-out-of-balance", debits.DiffersFrom(credits), $"Entry {number} does not balance: debits of {debits}, credits of {credits}.", credits);
            page.Error("entry-number-twice", page.RepeatsEarlier(number), $"The number {number} is given twice; number the entries one after the other.", number);
            return (Debits: debits, Counts: page.NumberLine("counts", "Counts, 0 when taken back", Core.Formulas.Law.If(reversed.IsFilled(), 0, 1)));
        });
        var change = Continue(lines!, row => row.Line("change", "Change", (lines!.Columns.Debit - lines.Columns.Credit) * lines.OfPage!.The(entries.Columns.Counts)));
        ByAccount = lines!.Tally(_ => change, l => l.Account);

        Section("All entries");
        NumberLine("count", "Entries", entries.RowCount);
        Line("moved", "Debits of the entries that count", entries.Sum(e => e.Debits * e.Counts));
    }
}
