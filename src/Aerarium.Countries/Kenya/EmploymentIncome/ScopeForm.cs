using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Kenya.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>The answers that decide which forms and sections apply.</summary>
public sealed class ScopeForm : Form
{
    /// <summary>Questions other forms ask about.</summary>
    public readonly AnswerLine Car, Housing, Benefits, RetirementOutsidePayroll, Mortgage, Insurance, Disability, ShortPeriod, OtherTaxPaid, Late, Readings;

    /// <summary>Whether contributions to a post-retirement medical fund were paid; null in years in which they count for nothing.</summary>
    public readonly AnswerLine? MedicalFund;

    /// <summary>The day to which the authority has extended filing, where it has; the day of payment never moves.</summary>
    public readonly DateLine ExtendedTo;

    /// <summary>The day by which the return is to be filed: the day of the law, or the later one granted.</summary>
    public readonly DateFormula FilingDay;

    /// <summary>How many employers.</summary>
    public readonly ChoiceLine Employers;

    /// <summary>Declares the form.</summary>
    public ScopeForm(Definition definition, EmploymentIncomeLaw law)
        : base(definition, "scope", "Scope", "Answer once; forms and sections open and close with each answer.")
    {
        Section("The person and the year");
        var resident = Answer("resident", $"Resident in Kenya for {law.Year}?").UsuallyYes().Required()
            .Hint("permanent home and any presence; or 183 days; or more than 122 days on average over three years").Law("ITA s. 2");
        Employers = Choice("employers", "Employers in the year",
            [new("none", "None"), new("one", "One"), new("several", "Several")]).Required();
        ShortPeriod = Answer("short-period", "Return for less than the calendar year?").Required()
            .Hint("registered, arrived, left for good, or died during the year");
        var otherIncome = Answer("other-income", "Any income besides employment?").Required()
            .Hint("business, rent, farming, dividends, pension, lump sums");

        Section("What the employer provided");
        Car = Answer("employer-car", "A car from an employer?").Required();
        Housing = Answer("employer-housing", "Housing from an employer?").Required();
        Benefits = Answer("employer-benefits", "Other benefits, meals or travel allowances?").Required()
            .Hint("furniture, telephone, electricity, water, domestic staff");

        Section("What was paid during the year");
        RetirementOutsidePayroll = Answer("retirement-outside-payroll", "Retirement contributions besides those on the certificate?").Required();
        Mortgage = Answer("mortgage", "Interest on a loan for the home lived in?").Required();
        if (law.MedicalLimit is not null)
        {
            MedicalFund = Answer("medical-fund", "Contributions to a post-retirement medical fund?").Required();
        }

        Insurance = Answer("insurance", "Life, education or health insurance premiums?").Required();
        OtherTaxPaid = Answer("other-tax-paid", "Tax paid other than through payroll?").Required();

        Section("Particular circumstances");
        Disability = Answer("disability", "A disability exemption certificate?").Required();
        Late = Answer("late", "Filed or paid after the due date?").OfOneYear().Required();
        var extension = Answer("extension", "More time to file granted by the authority?").OfOneYear()
            .Hint("asked for in writing before the due date; the day of payment does not move").Law("TPA s. 25");
        ExtendedTo = Date("extended-to", "Filing extended to").OfOneYear().From("letter of the authority").When(extension).RequiredWhen(extension);
        FilingDay = ExtendedTo.Or(law.Filing.Day);
        Readings = Answer("readings", "Another reading of the law where it is open?")
            .Hint("the reading this return takes by itself stands there beside the others");
        var earlierFiled = Answer("earlier-years-filed", "Returns of all earlier years filed?");

        Error("not-resident", resident.IsFilled() & !resident,
            "This return is for residents; a person not resident in Kenya files another return, which is not covered here.", resident);
        Error("other-income", otherIncome,
            "Income besides employment needs schedules this return does not have; file it elsewhere.", otherIncome);
        Note("earlier-years-open", earlierFiled.IsFilled() & !earlierFiled,
            "File the older years first; late filing runs for each of them.", earlierFiled);
        Error("extended-too-early", ExtendedTo.IsFilled() & ExtendedTo <= law.Filing.Day,
            $"An extension moves the due date to a day after {law.Filing.Day}; copy the day from the letter.", ExtendedTo);
        Warn("after-due-date", OnToday > FilingDay & !Late,
            $"The due date, {FilingDay}, has passed; answer that the return is late so that the charges are computed.", Late);
    }
}
