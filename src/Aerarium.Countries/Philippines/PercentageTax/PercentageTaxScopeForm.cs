using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.IndividualQuarterly;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.PercentageTax;

/// <summary>Who owes the percentage tax on sales at all (NIRC s. 116), and whether 8% was to stand in its place.</summary>
public sealed class PercentageTaxScopeForm : Form
{
    /// <summary>Whether the ceiling of 8% was passed in this quarter, so that the sales of the quarters before are taxed now; and whether the return is late.</summary>
    public readonly AnswerLine Passed, Late;

    /// <summary>Declares the form.</summary>
    public PercentageTaxScopeForm(Definition definition, int quarter, DateOnly due)
        : base(definition, "scope", "Scope", "Answer once; forms and sections open and close with each answer.")
    {
        Section("Registration", "NIRC s. 116, 109(CC)");
        var vat = Answer("vat-registered", "Registered for value-added tax?").From("registration certificate").Required();
        var other = Answer("other-percentage-tax", "Subject to another percentage tax?").From("registration certificate").Hint("NIRC s. 117 to 127: carriers, banks, amusements and others").Required();

        if (IncomeTaxOf(definition) is { } income)
        {
            vat.TiedTo(income.Line("business.vat-registered"));
            other.TiedTo(income.Line("business.other-percentage-tax"));
        }

        Section("8% on sales", "NIRC s. 24(A)(2)(b); RR 8-2018");
        var eight = Answer("eight", "8% elected for the year?").From("first quarter's return, registration").Required();
        Passed = Answer("passed", "Ceiling of 8% passed in this quarter?").OfOneYear().When(eight).RequiredWhen(eight)
            .Hint(quarter == 1 ? "the right to 8% is lost for the whole year" : "the right to 8% is lost, and the sales of the quarters before are taxed with this return");

        Section("When");
        Late = Answer("late", "Filed or paid after the due date?").OfOneYear().Required();

        Error("no-percentage-tax", vat, "Who is registered for value-added tax owes no percentage tax: file the return of value-added tax.", vat);
        Error("other-not-covered", other, "Sales under another percentage tax than that of NIRC s. 116 are not covered here; file them elsewhere.", other);
        Error("not-due", eight & Passed.IsFilled() & !Passed, "8% stands in the place of the percentage tax while it holds: there is no return for this quarter.", eight, Passed);
        Warn("after-due-date", OnToday > due & !Late, $"The due date, {due}, has passed; answer that the return is late so that the charges are computed.", Late);
    }

    /// <summary>The income tax return of the same quarter; null for the fourth, which is in the annual return.</summary>
    internal static TiedReturn? IncomeTaxOf(Definition definition) =>
        IndividualQuarterlyReturn.Quarters.Contains(definition.Period) ? new TiedReturn(IndividualQuarterlyReturn.ReturnId, 0, definition.Period) : null;
}
