using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>Where a refund is paid to; mandatory as soon as there is one.</summary>
public sealed class PayoutForm : Form
{
    /// <summary>Declares the form.</summary>
    public PayoutForm(Definition definition, CreditsForm credits)
        : base(definition, "payout", "Payout account", "Needed for a refund. The client's particulars fill these lines.")
    {
        var refund = credits.Balance < 0;
        Section("Account", "TPA s. 47");
        var route = Choice("route", "Paid out by", [new("bank", "Bank account"), new("mobile", "Mobile money")])
            .RequiredWhen(refund).FollowsClient("payout-route");
        var bank = route.Is("bank");
        Text("bank", "Bank").From("bank letter").When(bank).RequiredWhen(refund).FollowsClient("payout-bank");
        Text("branch", "Branch").From("bank letter").When(bank).RequiredWhen(refund).FollowsClient("payout-branch");
        Text("account-name", "Account name").From("bank letter").When(bank).RequiredWhen(refund).FollowsClient("payout-account-name");
        Text("account-number", "Account number").From("bank letter").When(bank).RequiredWhen(refund).FollowsClient("payout-account-number");
        Identifier("mobile-number", "Mobile number registered to the taxpayer", KenyaIdentifiers.MobileNumber)
            .When(route.Is("mobile")).RequiredWhen(refund).FollowsClient("payout-mobile");
    }
}
