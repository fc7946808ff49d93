using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualQuarterly;

/// <summary>The answers that decide which forms and sections apply, for the taxpayer and, in a joint return, for the spouse.</summary>
public sealed class QuarterScopeForm : Form
{
    /// <summary>Questions other forms ask about.</summary>
    public readonly AnswerLine Joint, Late;

    /// <summary>The two columns.</summary>
    public readonly Column Taxpayer, Spouse;

    /// <summary>Declares the form.</summary>
    public QuarterScopeForm(Definition definition, DateOnly due)
        : base(definition, "scope", "Scope", "Answer once; forms and sections open and close with each answer.")
    {
        Section("The person");
        var status = Choice("status", "Citizenship and residence", Column.Statuses).Required().Law("NIRC s. 23");
        Joint = Answer("joint", "One return together with the spouse?").Required().Law("NIRC s. 51(D)");

        Section("Income of the year");
        var business = Answer("business", "Business or profession?").Required();
        var compensation = Answer("compensation", "Compensation in any part of the year besides?").Required().Hint("mixed income; the compensation itself is not entered here");

        Section("What else");
        var foreignTax = Answer("foreign-tax", "Tax paid abroad to be credited?").Required().Law("NIRC s. 34(C)(3)");
        Late = Answer("late", "Filed or paid after the due date?").OfOneYear().Required();
        Taxpayer = new Column(null, status, compensation, business, null, foreignTax);

        Section("The spouse", "NIRC s. 51(D)", Joint);
        var spouseStatus = Choice("spouse-status", "Spouse's citizenship and residence", Column.Statuses).Required().Law("NIRC s. 23");
        var spouseBusiness = Answer("spouse-business", "Spouse: business or profession?").Required();
        var spouseCompensation = Answer("spouse-compensation", "Spouse: compensation in any part of the year besides?").Required();
        var spouseForeignTax = Answer("spouse-foreign-tax", "Spouse: tax paid abroad to be credited?").Required();
        Spouse = new Column(Joint, spouseStatus, spouseCompensation, spouseBusiness, null, spouseForeignTax);

        Error("no-business", business.IsFilled() & !business & !spouseBusiness, "Without business or profession there is no quarterly return.", business);
        Error("foreign-credit-not-open", foreignTax & !status.Is("resident-citizen") & status.IsFilled(),
            "The credit for foreign tax is open to resident citizens only.", foreignTax);
        Error("spouse-foreign-credit-not-open", spouseForeignTax & !spouseStatus.Is("resident-citizen") & spouseStatus.IsFilled(),
            "The credit for foreign tax is open to resident citizens only.", spouseForeignTax);
        Warn("after-due-date", OnToday > due & !Late,
            $"The due date, {due}, has passed; answer that the return is late so that the charges are computed.", Late);
    }
}
