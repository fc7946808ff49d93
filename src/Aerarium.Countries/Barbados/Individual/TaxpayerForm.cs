using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Barbados.Parameters;
using Aerarium.Countries.Common;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Who files, and how to reach them.</summary>
public sealed class TaxpayerForm : Form
{
    /// <summary>Marital statuses.</summary>
    public static readonly IReadOnlyList<Choice> MaritalStatuses =
        [new("single", "Single"), new("married", "Married"), new("separated", "Separated"), new("divorced", "Divorced"), new("widowed", "Widowed")];

    /// <summary>Age in whole years on 31 December of the year; zero while the date of birth is blank.</summary>
    public readonly AmountLine Age;

    /// <summary>Date of birth.</summary>
    public readonly DateLine BirthDate;

    /// <summary>Declares the form.</summary>
    public TaxpayerForm(Definition definition, IncomeTaxLaw law)
        : base(definition, "taxpayer", "Taxpayer", "As the identification card and the registration have them; the client's particulars fill these lines.")
    {
        Section("Taxpayer");
        Identifier("tin", "Taxpayer identification number", BarbadosIdentifiers.TaxpayerNumber).From("registration").Required().FollowsClient("identifier");
        var registration = Identifier("national-registration", "National registration number", BarbadosIdentifiers.NationalRegistration)
            .From("identification card").Required().FollowsClient("national-registration");
        Text("name", "Full official name").From("identification card").Required().FollowsClient("name");
        BirthDate = Date("birth-date", "Date of birth").From("identification card").Required().FollowsClient("birth-date");
        Age = NumberLine("age", $"Age on 31 December {law.Year}", YearsFrom(BirthDate, new DateOnly(law.Year, 12, 31))).Unit("years");
        Choice("marital-status", "Marital status", MaritalStatuses).Required().FollowsClient("marital-status");
        Text("address", "Address").Required().FollowsClient("postal-address");
        Text("email", "E-mail").FollowsClient("email");
        Text("phone", "Telephone").FollowsClient("phone");

        Section("Return");
        this.KindOfReturn();

        Error("born-later", BirthDate > new DateOnly(law.Year, 12, 31), $"The date of birth lies after {law.Year}; check it.", BirthDate);
        Warn("registration-other-birth", registration.SatisfiesItsRule() & BirthDate.IsFilled() & !registration.BeginsWithDay(BirthDate),
            "The national registration number does not match the date of birth: its first six digits are year, month and day. Check both against the card.", registration, BirthDate);
    }
}
