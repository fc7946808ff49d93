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

    /// <summary>The taxpayer's type, as registered.</summary>
    public static readonly IReadOnlyList<Choice> Types =
    [
        new("compensation", "Compensation earner"), new("proprietor", "Single proprietor"), new("professional", "Professional"), new("mixed", "Mixed income earner"),
    ];

    private readonly TextLine? _spouseTin;

    /// <summary>Declares the form.</summary>
    /// <param name="definition">The return.</param>
    /// <param name="own">The taxpayer's column.</param>
    /// <param name="joint">Whether the spouse is in the return too; null where each files alone.</param>
    public TaxpayerForm(Definition definition, Column? own = null, AnswerLine? joint = null)
        : base(definition, "taxpayer", "Taxpayer", "As the registration certificate has them; the client's particulars fill these lines.")
    {
        Section("Taxpayer");
        Tin = Identifier("tin", "Taxpayer identification number", PhilippinesIdentifiers.Tin).From("registration certificate").Required().FollowsClient("identifier");
        Identifier("district-office", "District office code", PhilippinesIdentifiers.DistrictOffice)
            .From("registration certificate").Required().FollowsClient("district-office");
        Text("name", "Full official name").From("registration certificate").Required().FollowsClient("name");
        Date("birth-date", "Date of birth").From("registration certificate").FollowsClient("birth-date");
        var type = own is null ? null : InParts();
        Text("citizenship", "Citizenship").From("registration certificate").Required().FollowsClient("citizenship");
        Text("address", "Registered address").From("registration certificate").Required().FollowsClient("postal-address");
        Text("email", "E-mail").FollowsClient("email");
        Text("phone", "Telephone").FollowsClient("phone");

        _spouseTin = joint is null ? null : Spouse(joint, inParts: own is not null);
        Section("Return");
        Amended = this.KindOfReturn();
        if (own is not null && type is not null)
        {
            Warn("type-differs", (type.Is("compensation") & own.Business) | ((type.Is("proprietor") | type.Is("professional")) & own.Compensation),
                "The taxpayer type does not go with the income in Scope; correct one of the two, or the registration.", type);
            if (definition.Period.Length == 0)
            {
                ShorterPeriod();
            }
        }
    }

    /// <summary>The spouse's number in a joint return.</summary>
    public TextLine SpouseTin => _spouseTin ?? throw new InvalidOperationException("Each spouse files this return alone.");

    /// <summary>The name in parts, the type and the trade name, as the annual form wants them; the taxpayer's type.</summary>
    private ChoiceLine InParts()
    {
        var surname = Text("surname", "Surname").From("registration certificate").FollowsClient("surname");
        var first = Text("first-name", "First name").From("registration certificate").FollowsClient("first-name");
        var middle = Text("middle-name", "Middle name").From("registration certificate").FollowsClient("middle-name");
        Error("name-in-parts", (surname.IsFilled() | first.IsFilled() | middle.IsFilled()) & (surname.IsBlank() | first.IsBlank()),
            "A name in parts has a surname and a first name; enter both, or none.", surname, first);
        var type = Choice("type", "Taxpayer type", Types).From("registration certificate").Required().FollowsClient("taxpayer-type");
        Text("trade-name", "Trade name").From("registration certificate").FollowsClient("trade-name");
        return type;
    }

    private void ShorterPeriod()
    {
        var year = Definition.Year;
        var isShort = Answer("short-period", "Return for less than the year?").OfOneYear().Hint("registered or died during the year, or changed to another period");
        var from = Date("from", "First day of the period").OfOneYear().When(isShort).RequiredWhen(isShort);
        var to = Date("to", "Last day of the period").OfOneYear().When(isShort).RequiredWhen(isShort);
        Error("period-outside-year", (from.IsFilled() & to.IsFilled() & from > to) | (from.IsFilled() & from < new DateOnly(year, 1, 1)) | (to.IsFilled() & to > new DateOnly(year, 12, 31)),
            $"The period must lie within {year}, its first day not after its last.", from, to);
    }

    private TextLine Spouse(AnswerLine joint, bool inParts)
    {
        Section("Spouse", "NIRC s. 51(D)", joint);
        var tin = Identifier("spouse-tin", "Spouse's taxpayer identification number", PhilippinesIdentifiers.Tin).From("registration certificate").Required();
        Text("spouse-name", "Spouse's full official name").From("registration certificate").Required();
        if (inParts)
        {
            Text("spouse-surname", "Spouse's surname").From("registration certificate");
            Text("spouse-first-name", "Spouse's first name").From("registration certificate");
            Text("spouse-middle-name", "Spouse's middle name").From("registration certificate");
        }

        Text("spouse-citizenship", "Spouse's citizenship").From("registration certificate").Required();
        Error("spouse-is-taxpayer", tin.BeginsLike(Tin, OwnDigits), "This is the taxpayer's own number; give the spouse's.", tin);
        return tin;
    }
}
