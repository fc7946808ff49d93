using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Common;
using Aerarium.Countries.Kenya.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>Who files, for which period, and how to reach them.</summary>
public sealed class TaxpayerForm : Form
{
    /// <summary>First and last day of the return's period.</summary>
    public readonly DateFormula From, To;

    /// <summary>Calendar months of the period.</summary>
    public readonly AmountLine PeriodMonths;

    /// <summary>In the year the rules changed: months of the period to November, and in December.</summary>
    public readonly Amount MonthsToNovember, MonthsInDecember;

    /// <summary>Declares the form.</summary>
    public TaxpayerForm(Definition definition, EmploymentIncomeLaw law, ScopeForm scope)
        : base(definition, "taxpayer", "Taxpayer and period", "As the registration certificate has them; the client's particulars fill these lines.")
    {
        Section("Taxpayer");
        Identifier("pin", "Personal identification number", KenyaIdentifiers.IndividualPin)
            .From("registration certificate").Required().FollowsClient("identifier");
        Text("name", "Full official name").From("registration certificate").Required().FollowsClient("name");
        Date("birth-date", "Date of birth").From("registration certificate").FollowsClient("birth-date");
        var email = Text("email", "E-mail").FollowsClient("email");
        var phone = Text("phone", "Telephone").FollowsClient("phone");
        Text("postal-address", "Postal address").FollowsClient("postal-address");
        Error("no-contact", email.IsBlank() & phone.IsBlank(), "Give an e-mail address or a telephone number.", email, phone);

        Section("Return");
        this.KindOfReturn();

        Section("Shorter period", when: scope.ShortPeriod);
        var from = Date("from", "First day of the period").Required();
        var to = Date("to", "Last day of the period").Required();
        var reason = Choice("short-period-reason", "Reason",
            [new("registered", "Registered or arrived"), new("departed", "Departed for good"), new("died", "Died"), new("other", "Other")]).Required();
        Identifier("representative-pin", "Representative's identification number", KenyaIdentifiers.IndividualPin)
            .From("letters of administration").RequiredWhen(reason.Is("died")).When(reason.Is("died"));
        Text("representative-name", "Representative's name")
            .From("letters of administration").RequiredWhen(reason.Is("died")).When(reason.Is("died"));

        var firstDay = new DateOnly(law.Year, 1, 1);
        var lastDay = new DateOnly(law.Year, 12, 31);
        From = from.Or(firstDay);
        To = to.Or(lastDay);
        Error("period-outside-year", from.IsFilled() & to.IsFilled() & (from > to | from < firstDay | to > lastDay),
            $"The period must lie within the calendar year {law.Year}, its first day not after its last.", from, to);

        Section("Months");
        PeriodMonths = NumberLine("period-months", "Calendar months of the period", MonthsTouched(From, To)).Unit("months").Law("ITA s. 2");
        MonthsToNovember = MonthsTouched(From, Earlier(To, new DateOnly(law.Year, 11, 30)));
        MonthsInDecember = If(To >= new DateOnly(law.Year, 12, 1), (Amount)1, 0);
    }
}
