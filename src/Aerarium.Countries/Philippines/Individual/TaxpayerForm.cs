using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Common;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>Who files, and how to reach them; in a joint return also the spouse.</summary>
public sealed class TaxpayerForm : Form
{
    /// <summary>How many characters of a taxpayer number are the person's own; the branch follows.</summary>
    public const int OwnDigits = 9;

    /// <summary>Whether the return amends an earlier one.</summary>
    public readonly Condition Amended;

    /// <summary>The taxpayer's own number.</summary>
    public readonly TextLine Tin;

    private readonly TextLine? _spouseTin;

    /// <summary>Declares the form.</summary>
    /// <param name="definition">The return.</param>
    /// <param name="joint">Whether the spouse is in the return too; null where each files alone.</param>
    public TaxpayerForm(Definition definition, AnswerLine? joint = null)
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

        _spouseTin = joint is null ? null : Spouse(joint);
        Section("Return");
        Amended = this.KindOfReturn();
    }

    /// <summary>The spouse's number in a joint return.</summary>
    public TextLine SpouseTin => _spouseTin ?? throw new InvalidOperationException("Each spouse files this return alone.");

    private TextLine Spouse(AnswerLine joint)
    {
        Section("Spouse", "NIRC s. 51(D)", joint);
        var tin = Identifier("spouse-tin", "Spouse's taxpayer identification number", PhilippinesIdentifiers.Tin).From("registration certificate").Required();
        Text("spouse-name", "Spouse's full official name").From("registration certificate").Required();
        Text("spouse-citizenship", "Spouse's citizenship").From("registration certificate").Required();
        Error("spouse-is-taxpayer", tin.BeginsLike(Tin, OwnDigits), "This is the taxpayer's own number; give the spouse's.", tin);
        return tin;
    }
}
