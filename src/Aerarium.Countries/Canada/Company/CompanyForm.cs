using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Common;

namespace Aerarium.Countries.Canada.Company;

/// <summary>Who the company is, who signs for it and who can be asked.</summary>
public sealed class CompanyForm : Form
{
    /// <summary>Declares the form.</summary>
    public CompanyForm(Definition definition, ScopeForm scope)
        : base(definition, "company", "Company", "As registered; the client's particulars fill these lines.")
    {
        Section("Company", "ITA 150(1)(a)");
        Identifier("bn", "Business number", CanadaIdentifiers.BusinessNumber).From("registration").Required().FollowsClient("identifier");
        Identifier("account", "Corporation income tax account", CanadaIdentifiers.CorporationAccount).From("registration").Required().FollowsClient("corporation-account").Hint("line 001");
        Text("name", "Legal name").From("register").Required().FollowsClient("name").Hint("line 002");
        Text("trade-name", "Trade name").FollowsClient("trade-name");
        Text("address", "Head office").Required().FollowsClient("postal-address");
        Identifier("activity", "Principal activity", CanadaIdentifiers.Industry).Required().FollowsClient("activity");
        Text("product", "Main product or service").Required().FollowsClient("product");
        Choice("language", "Language of correspondence", Individual.TaxpayerForm.Languages).Required().FollowsClient("language");

        Section("Signing officer", "ITA 150(1)");
        Text("officer", "Name").Required().FollowsClient("officer-name").Hint("line 950");
        Text("officer-position", "Position").Required().FollowsClient("officer-position").Hint("line 954");
        Text("officer-phone", "Telephone").Required().FollowsClient("officer-phone").Hint("line 956");

        Section("Contact person, if another");
        var contact = Text("contact", "Name").FollowsClient("contact-name").Hint("line 958");
        var phone = Text("contact-phone", "Telephone").RequiredWhen(contact.IsFilled()).FollowsClient("contact-phone").Hint("line 959");
        Error("contact-for-alberta", scope.Alberta & (contact.IsBlank() | phone.IsBlank()), "Alberta's authority asks for a contact person with a telephone: enter both among the client's particulars, or here and in the Alberta return.", contact);

        Section("Return");
        this.KindOfReturn();
    }
}
