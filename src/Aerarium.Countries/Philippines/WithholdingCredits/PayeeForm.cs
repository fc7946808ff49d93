using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;

namespace Aerarium.Countries.Philippines.WithholdingCredits;

/// <summary>Whose income was paid, and what is asked about the payee.</summary>
public sealed class PayeeForm : Form
{
    /// <summary>The payee's own number, and the spouse's if married.</summary>
    public readonly TextLine Tin, SpouseTin;

    /// <summary>Registered for value-added tax?</summary>
    public readonly AnswerLine VatRegistered;

    /// <summary>Declares the form.</summary>
    public PayeeForm(Definition definition)
        : base(definition, "payee", "Payee", "As the registration certificate has it; the client's particulars fill these lines.")
    {
        Section("Payee");
        Tin = Identifier("tin", "Taxpayer identification number", PhilippinesIdentifiers.Tin).From("registration certificate").Required().FollowsClient("identifier");
        Text("name", "Full official name").From("registration certificate").Required().FollowsClient("name");
        VatRegistered = Answer("vat-registered", "Registered for value-added tax?").From("registration certificate").Required();
        SpouseTin = Identifier("spouse-tin", "Spouse's taxpayer identification number").Hint("if married; payers are compared with it");

        Section("List");
        Choice("kind", "Kind of list", [new("original", "Original"), new("amended", "Amended")]).Required().FollowsClient("return-kind");
        Text("prior-acknowledgement", "Acknowledgement number of the list amended").FollowsClient("prior-acknowledgement");
    }

    private TextLine Identifier(string name, string label) => Identifier(name, label, PhilippinesIdentifiers.Tin);
}
