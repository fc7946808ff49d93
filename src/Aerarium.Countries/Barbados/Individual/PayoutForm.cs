using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>The bank account a refund is paid into; mandatory as soon as there is one.</summary>
public sealed class PayoutForm : Form
{
    /// <summary>Kinds of bank account.</summary>
    public static readonly IReadOnlyList<Choice> AccountKinds = [new("chequing", "Chequing"), new("savings", "Savings")];

    /// <summary>Declares the form.</summary>
    public PayoutForm(Definition definition, BalanceForm balance)
        : base(definition, "payout", "Refund account", "Needed for a refund. The client's particulars fill these lines.")
    {
        var refund = balance.Balance < 0;
        Section("Account", "ITA");
        var bank = Text("bank", "Institution").From("bank letter").RequiredWhen(refund).FollowsClient("payout-bank");
        Text("branch", "Branch").From("bank letter").RequiredWhen(refund).FollowsClient("payout-branch");
        var account = Text("account-number", "Account number").From("bank letter").RequiredWhen(refund).FollowsClient("payout-account-number");
        Choice("account-kind", "Kind of account", AccountKinds).RequiredWhen(refund).FollowsClient("payout-account-kind");
        Error("no-account", refund & (bank.IsBlank() | account.IsBlank()), $"Give the bank account into which the refund of {0 - balance.Balance} is paid.", bank, account);
    }
}
