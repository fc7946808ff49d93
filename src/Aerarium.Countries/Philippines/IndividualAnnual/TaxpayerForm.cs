using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>Who files, and how to reach them.</summary>
public sealed class TaxpayerForm : Form
{
    /// <summary>Whether the return amends an earlier one.</summary>
    public readonly Condition Amended;

    /// <summary>The taxpayer's own number.</summary>
    public readonly TextLine Tin;

    /// <summary>Declares the form.</summary>
    public TaxpayerForm(Definition definition)
        : base(definition, "taxpayer", "Taxpayer", "As the registration certificate has them; the client's particulars fill these lines.")
    {
        Section("Taxpayer");
        Tin = Identifier("tin", "Taxpayer identification number", PhilippinesIdentifiers.Tin).From("registration certificate").Required().FollowsClient("identifier");
        Identifier("district-office", "District office code", PhilippinesIdentifiers.DistrictOffice)
            .From("registration certificate").Required().FollowsClient("district-office");
        Text("name", "Full official name").From("registration certificate").Required().FollowsClient("name");
        Date("birth-date", "Date of birth").From("registration certificate").FollowsClient("birth-date");
        Text("citizenship", "Citizenship").From("registration certificate").Required().FollowsClient("citizenship");
        Text("address", "Registered address").From("registration certificate").Required().FollowsClient("postal-address");
        Text("email", "E-mail").FollowsClient("email");
        Text("phone", "Telephone").FollowsClient("phone");

        Section("Return");
        var kind = Choice("kind", "Kind of return", [new("original", "Original"), new("amended", "Amended")]).Required().FollowsClient("return-kind");
        Amended = kind.Is("amended");
        Text("prior-acknowledgement", "Acknowledgement number of the return amended")
            .From("acknowledgement of the earlier return").RequiredWhen(Amended).When(Amended).FollowsClient("prior-acknowledgement");
    }
}
