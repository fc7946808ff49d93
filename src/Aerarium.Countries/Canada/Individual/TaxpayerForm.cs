using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Common;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Who files, how to reach them, and the spouse.</summary>
public sealed class TaxpayerForm : Form
{
    /// <summary>Marital statuses of somebody who lives with a spouse.</summary>
    public static readonly IReadOnlyList<Choice> MaritalStatuses =
    [
        new("married", "Married"), new("common-law", "Living common-law"), new("widowed", "Widowed"), new("divorced", "Divorced"), new("separated", "Separated"), new("single", "Single"),
    ];

    /// <summary>Languages of correspondence.</summary>
    public static readonly IReadOnlyList<Choice> Languages = [new("english", "English"), new("french", "French")];

    /// <summary>Age in whole years on 31 December.</summary>
    public readonly AmountLine Age;

    /// <summary>Date of birth.</summary>
    public readonly DateLine BirthDate;

    /// <summary>Social insurance number.</summary>
    public readonly TextLine SocialInsurance;

    /// <summary>Net income of the spouse; what the spouse's return says while it is there.</summary>
    public readonly AmountLine SpouseIncome;

    /// <summary>Declares the form.</summary>
    public TaxpayerForm(Definition definition, int year, ScopeForm scope)
        : base(definition, "taxpayer", "Taxpayer", "As the identity card and the last notice have them; the client's particulars fill these lines.")
    {
        var yearEnd = new DateOnly(year, 12, 31);
        Section("Taxpayer", "ITA 150");
        SocialInsurance = Identifier("sin", "Social insurance number", CanadaIdentifiers.SocialInsurance).From("card").Required().FollowsClient("identifier");
        Text("name", "Full name").From("identity card").Required().FollowsClient("name");
        BirthDate = Date("birth-date", "Date of birth").From("identity card").Required().FollowsClient("birth-date");
        Age = NumberLine("age", $"Age on 31 December {year}", YearsFrom(BirthDate, yearEnd)).Unit("years");
        var status = Choice("marital-status", "Marital status on 31 December", MaritalStatuses).Required().FollowsClient("marital-status");
        Date("status-since", $"Date of the change, if it changed in {year}").OfOneYear();
        Choice("language", "Language of correspondence", Languages).Required().FollowsClient("language");
        Text("address", "Address").Required().FollowsClient("postal-address");
        Identifier("postal-code", "Postal code", CanadaIdentifiers.PostalCode).Required().FollowsClient("postal-code");
        Text("email", "E-mail").FollowsClient("email");
        Text("phone", "Telephone").FollowsClient("phone");

        Section("Spouse or common-law partner", "ITA 118(1)B(a)", scope.Spouse);
        var spouseNumber = Identifier("spouse-sin", "Spouse's social insurance number", CanadaIdentifiers.SocialInsurance).Required().TiedTo(OfSpouse("taxpayer.sin"));
        Text("spouse-name", "Spouse's name").Required().TiedTo(OfSpouse("taxpayer.name"));
        SpouseIncome = Entry("spouse-net-income", "Spouse's net income, line 23600").OfOneYear().Required("Enter the spouse's net income; zero if there was none.").TiedTo(OfSpouse("income.net-income"))
            .From("spouse's return, line 23600");

        Section("Return");
        this.KindOfReturn();
        Identifier("access-code", "Access code of last year's notice", CanadaIdentifiers.AccessCode).From("last year's notice, right side").OfOneYear().Hint("optional");

        Error("born-later", BirthDate > yearEnd, $"The date of birth lies after {year}; check it.", BirthDate);
        Error("own-number-of-spouse", spouseNumber.SameAs(SocialInsurance), "Taxpayer and spouse cannot have the same number; check both cards.", spouseNumber, SocialInsurance);
        Error("status-without-spouse", scope.Spouse.IsFilled() & scope.Spouse & status.IsFilled() & !(status.Is("married") | status.Is("common-law")),
            "Scope says there is a spouse on 31 December and the marital status says otherwise; correct one of them.", status, scope.Spouse);
        Error("spouse-without-status", scope.Spouse.IsFilled() & !scope.Spouse & (status.Is("married") | status.Is("common-law")),
            "The marital status says there is a spouse on 31 December and Scope says otherwise; correct one of them.", status, scope.Spouse);
    }

    private static TieSource OfSpouse(string line) => new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line(line);
}
