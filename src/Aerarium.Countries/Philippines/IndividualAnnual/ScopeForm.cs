using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>The answers that decide which forms and sections apply, for the taxpayer and, in a joint return, for the spouse.</summary>
public sealed class ScopeForm : Form
{
    /// <summary>Questions other forms ask about.</summary>
    public readonly AnswerLine Joint, Undivided, Special, Late;

    /// <summary>The two columns.</summary>
    public readonly Column Taxpayer, Spouse;

    /// <summary>Declares the form.</summary>
    public ScopeForm(Definition definition, IncomeTaxLaw law)
        : base(definition, "scope", "Scope", "Answer once; forms and sections open and close with each answer.")
    {
        Section("The person");
        var status = Choice("status", "Citizenship and residence", Column.Statuses).Required().Law("NIRC s. 23");
        Joint = Answer("joint", "One return together with the spouse?").Required().Law("NIRC s. 51(D)")
            .JoinsColumns("one return unless that is impracticable; in two, what one overpaid does not reduce what the other pays");

        Section("Income of the year");
        var compensation = Answer("compensation", "Compensation from an employer?").Required();
        var business = Answer("business", "Business or profession?").Required();
        Special = Answer("special-rate", "Income exempt or under a special rate?").Required().Hint("incentives, micro-enterprises");

        Section("What else");
        var losses = Answer("losses", "Losses of earlier years not used yet?").Required().Law("NIRC s. 34(D)(3)");
        var foreignTax = Answer("foreign-tax", "Tax paid abroad to be credited?").Required().Law("NIRC s. 34(C)(3)");
        Late = Answer("late", "Filed or paid after the due date?").OfOneYear().Required();
        Taxpayer = new Column(null, status, compensation, business, losses, foreignTax);

        Section("The spouse", "NIRC s. 51(D)", Joint);
        var spouseStatus = Choice("spouse-status", "Spouse's citizenship and residence", Column.Statuses).Required().Law("NIRC s. 23");
        var spouseCompensation = Answer("spouse-compensation", "Spouse: compensation from an employer?").Required();
        var spouseBusiness = Answer("spouse-business", "Spouse: business or profession?").Required();
        var spouseLosses = Answer("spouse-losses", "Spouse: losses of earlier years not used yet?").Required();
        var spouseForeignTax = Answer("spouse-foreign-tax", "Spouse: tax paid abroad to be credited?").Required();
        Undivided = Answer("undivided", "Income that belongs to neither alone?").Required().Hint("half goes into each column");
        Spouse = new Column(Joint, spouseStatus, spouseCompensation, spouseBusiness, spouseLosses, spouseForeignTax);

        Error("no-income", compensation.IsFilled() & business.IsFilled() & Special.IsFilled() & !compensation & !business & !Special & !Undivided & !spouseCompensation & !spouseBusiness,
            "Without compensation, business, profession or income under a special rate there is nothing this return covers.", compensation, business);
        Error("foreign-credit-not-open", foreignTax & !status.Is("resident-citizen") & status.IsFilled(),
            "The credit for foreign tax is open to resident citizens only.", foreignTax);
        Error("spouse-foreign-credit-not-open", spouseForeignTax & !spouseStatus.Is("resident-citizen") & spouseStatus.IsFilled(),
            "The credit for foreign tax is open to resident citizens only.", spouseForeignTax);
        Warn("after-due-date", OnToday > law.Filing.Day & !Late,
            $"The due date, {law.Filing.Day}, has passed; answer that the return is late so that the charges are computed.", Late);
    }
}
