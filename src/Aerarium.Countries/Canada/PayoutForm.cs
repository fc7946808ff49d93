using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Canada;

/// <summary>The bank account a refund is paid into; without one a cheque comes.</summary>
public sealed class PayoutForm : Form
{
    /// <summary>Declares the form.</summary>
    public PayoutForm(Definition definition, AmountLine balance)
        : base(definition, "payout", "Refund account", "For a refund; the client's particulars fill these lines.")
    {
        Section("Account", "ITA 164");
        Text("bank", "Bank").From("void cheque").FollowsClient("payout-bank");
        var account = Identifier("account-number", "Branch, institution and account", CanadaIdentifiers.BankAccount).From("void cheque").FollowsClient("payout-account-number");
        Note("no-account", balance < 0 & account.IsBlank(), $"Without a bank account the refund of {0 - balance} comes by cheque.", account);
    }
}
