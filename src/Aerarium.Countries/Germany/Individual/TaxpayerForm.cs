using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Common;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>Who files, and how to reach them.</summary>
public sealed class TaxpayerForm : Form
{
    /// <summary>Religious bodies that levy a tax, and none.</summary>
    public static readonly IReadOnlyList<Choice> Religions = [new("ev", "Protestant (EV)"), new("rk", "Roman Catholic (RK)"), new("other", "Other body that levies church tax"), new("none", "None that levies church tax")];

    /// <summary>Church membership: of the taxpayer and of the spouse.</summary>
    public readonly ChoiceLine Religion, SpouseReligion;

    /// <summary>Whether the taxpayer, and the spouse, belong to a body that levies church tax.</summary>
    public readonly Condition Member, SpouseMember;

    /// <summary>Months of membership; twelve where nothing is entered.</summary>
    public readonly AmountLine ChurchMonths;

    /// <summary>Days of birth.</summary>
    public readonly DateLine BirthDate, SpouseBirthDate;

    /// <summary>Declares the form.</summary>
    public TaxpayerForm(Definition definition, int year, ScopeForm scope)
        : base(definition, "taxpayer", "Taxpayer", "As the authority's letter and the identity card have them; the client's particulars fill these lines.")
    {
        var yearEnd = new DateOnly(year, 12, 31);
        Section("Taxpayer", "AO s. 139a, 139b");
        var number = Identifier("number", Glossary.In("Identification number"), GermanyIdentifiers.Person).From("authority's letter, or a wage statement").Required().FollowsClient("identifier");
        var taxNumber = Identifier("tax-number", Glossary.In("Tax number"), GermanyIdentifiers.TaxNumber).From("last notice").Hint("thirteen digits; changes when one moves").When(!scope.FirstReturn).FollowsClient("tax-number");
        Text("office", Glossary.In("Tax office")).Required().FollowsClient("tax-office").Hint("of the place of residence");
        Text("name", "Name").From("identity card").Required().FollowsClient("name");
        BirthDate = Date("birth-date", "Date of birth").From("identity card").Required().FollowsClient("birth-date");
        Religion = Choice("religion", "Church membership", Religions).Required().FollowsClient("religion");
        ChurchMonths = Count("church-months", "Months of membership").OfOneYear().Between(0, 12).When(!Religion.Is("none")).Hint("blank: all year");
        Text("occupation", "Occupation").FollowsClient("occupation");
        Text("address", "Address").Required().FollowsClient("postal-address");
        Text("email", "E-mail").FollowsClient("email");
        Text("phone", "Telephone").FollowsClient("phone");

        Section("Spouse", "EStG s. 26b", scope.Joint);
        var spouse = Identifier("spouse-number", "Spouse's identification number", GermanyIdentifiers.Person).From("authority's letter, or a wage statement").Required("Joint assessment needs the spouse's identification number; enter it.")
            .TiedTo(new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line("taxpayer.number"));
        Text("spouse-name", "Spouse's name").Required().TiedTo(new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line("taxpayer.name"));
        SpouseBirthDate = Date("spouse-birth-date", "Spouse's date of birth").Required("Joint assessment needs the spouse's date of birth; enter it.")
            .TiedTo(new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line("taxpayer.birth-date"));
        SpouseReligion = Choice("spouse-religion", "Spouse's church membership", Religions).Required();

        Member = Religion.IsFilled() & !Religion.Is("none");
        SpouseMember = SpouseReligion.IsFilled() & !SpouseReligion.Is("none");

        Section("Return");
        this.KindOfReturn();
        Choice("notice", "Notice of assessment", [new("electronic", "Electronically"), new("paper", "On paper")]).FollowsClient("notices").Law("AO s. 122a").Hint("electronically with the recipient's consent");

        Error("same-number", scope.Joint & number.BeginsLike(spouse, DigitsOfNumber), "Both spouses have the same identification number; correct one of them.", number, spouse);
        Error("born-later", BirthDate > yearEnd, $"The date of birth lies after {year}; check it.", BirthDate);
        Error("spouse-born-later", SpouseBirthDate > yearEnd, $"The date of birth lies after {year}; check it.", SpouseBirthDate);
        Warn("tax-number-of-other-state", taxNumber.IsFilled() & scope.State.IsFilled() & !GermanyIdentifiers.BeginningsByState.Select(s => scope.State.Is(s.Key) & taxNumber.BeginsWith(s.Value)).Aggregate((a, b) => a | b),
            "The tax number is one of another state than the state of residence; whoever moved has a new one, on the next notice.", taxNumber);
        Warn("no-tax-number", scope.FirstReturn.IsFilled() & !scope.FirstReturn & taxNumber.IsBlank(), "Enter the tax number of earlier years, or answer in Scope that this is the first return.", taxNumber);
    }

    private const int DigitsOfNumber = 11;
}
