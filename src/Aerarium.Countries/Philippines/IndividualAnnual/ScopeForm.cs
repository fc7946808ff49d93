using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>The answers that decide which forms and sections apply.</summary>
public sealed class ScopeForm : Form
{
    /// <summary>Questions other forms ask about.</summary>
    public readonly AnswerLine Compensation, Business, ForeignTax, Losses, Late;

    /// <summary>Citizenship and residence.</summary>
    public readonly ChoiceLine Status;

    /// <summary>Declares the form.</summary>
    public ScopeForm(Definition definition, IncomeTaxLaw law)
        : base(definition, "scope", "Scope", "Answer once; forms and sections open and close with each answer.")
    {
        Section("The person");
        Status = Choice("status", "Citizenship and residence",
            [new("resident-citizen", "Resident citizen"), new("non-resident-citizen", "Non-resident citizen"), new("resident-alien", "Resident alien")])
            .Required().Law("NIRC s. 23");
        var joint = Answer("joint", "One return together with the spouse?").Required().Law("NIRC s. 51(D)");

        Section("Income of the year");
        Compensation = Answer("compensation", "Compensation from an employer?").Required();
        Business = Answer("business", "Business or profession?").Required();
        var special = Answer("special-rate", "Income exempt or under a special rate?").Required().Hint("incentives, micro-enterprises");

        Section("What else");
        Losses = Answer("losses", "Losses of earlier years not used yet?").Required().Law("NIRC s. 34(D)(3)");
        ForeignTax = Answer("foreign-tax", "Tax paid abroad to be credited?").Required().Law("NIRC s. 34(C)(3)");
        Late = Answer("late", "Filed or paid after the due date?").OfOneYear().Required();

        Error("joint-not-covered", joint, "The spouse's column is not covered yet; this return is for one person's income.", joint);
        Error("special-not-covered", special, "Exempt income and special rates need columns this return does not have; file it elsewhere.", special);
        Error("no-income", Compensation.IsFilled() & Business.IsFilled() & !Compensation & !Business,
            "Without compensation, business or profession there is nothing this return covers.", Compensation, Business);
        Error("foreign-credit-not-open", ForeignTax & !Status.Is("resident-citizen") & Status.IsFilled(),
            "The credit for foreign tax is open to resident citizens only.", ForeignTax);
        Warn("after-due-date", OnToday > law.Filing.Day & !Late,
            $"The due date, {law.Filing.Day}, has passed; answer that the return is late so that the charges are computed.", Late);
    }
}
