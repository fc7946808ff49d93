using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>The account a refund is paid into.</summary>
public sealed class PayoutForm : Form
{
    /// <summary>Declares the form.</summary>
    public PayoutForm(Definition definition, BalanceForm balance)
        : base(definition, "payout", "Bank account", "Needed for a refund. The client's particulars fill these lines.")
    {
        Section("Account", "EStG s. 36(4)");
        Identifier("account", "Bank account (IBAN)", GermanyIdentifiers.Account).From("statement of account").RequiredWhen(balance.Balance < 0).FollowsClient("payout-account-number");
        Text("holder", "Account holder").Hint("blank: the taxpayer");
    }
}
