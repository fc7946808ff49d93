using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Barbados.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>The answers that decide which forms and sections apply.</summary>
public sealed class ScopeForm : Form
{
    /// <summary>Kinds of income.</summary>
    public readonly AnswerLine Employment, Pension, Business, Investment, Foreign, Rental;

    /// <summary>What reduces the income.</summary>
    public readonly AnswerLine Dues, Medical, Energy, Gifts, Agriculture, Culture, DomesticWorker, PensionPlan, Spouse, Children;

    /// <summary>What reduces the tax, or has been paid.</summary>
    public readonly AnswerLine Credits, Prepayments;

    /// <summary>The day by which the return is to be filed: the day of the law, or the later one granted.</summary>
    public readonly DateFormula FilingDay;

    /// <summary>The day to which the authority has extended filing, where it has.</summary>
    public readonly DateLine ExtendedTo;

    /// <summary>Whether the person is resident but not domiciled.</summary>
    public readonly Condition NotDomiciled;

    /// <summary>Declares the form.</summary>
    public ScopeForm(Definition definition, IncomeTaxLaw law)
        : base(definition, "scope", "Scope", "Answer once; forms and sections open and close with each answer.")
    {
        Section("The person and the year", "ITA");
        var resident = Answer("resident", $"Resident in Barbados for {law.Year}?").UsuallyYes().Required()
            .Hint("more than 182 days, or ordinarily resident with a home here");
        var domiciled = Answer("domiciled", "Domiciled in Barbados?").UsuallyYes().Required()
            .Hint("then income from anywhere is taxed; otherwise local income and what is remitted");
        NotDomiciled = domiciled.IsFilled() & !domiciled;

        Section("Income of the year");
        Employment = Answer("employment", "Paid by an employer?").Required();
        Pension = Answer("pension", "A pension received?").Required();
        Business = Answer("business", "Own business, profession, farming or fishing?").Required();
        Investment = Answer("investment", "Local interest or dividends?").Required();
        Foreign = Answer("foreign", "Income from abroad?").Required();
        Rental = Answer("rental", "A residential property let?").Required();

        Section("What reduces the income");
        Dues = Answer("dues", "Union or statutory dues paid?").Required();
        Medical = Answer("medical", "A medical examination paid?").Required().Hint($"for a person above {law.MedicalAge.ValueInWords}");
        Energy = Answer("energy", "Energy-saving works on the home, now or in the last years?").Required();
        Gifts = Answer("gifts", "Gifts to a registered charity?").Required();
        Agriculture = Answer("agriculture", "Money invested in farming or fishing?").Required();
        Culture = Answer("culture", "Money given to an approved cultural project?").Required();
        DomesticWorker = Answer("domestic-worker", "National insurance paid for a domestic worker?").Required();
        PensionPlan = Answer("pension-plan", "Contributions to a registered pension plan?").Required();
        Spouse = Answer("spouse", "A spouse with little income supported?").Required();
        Children = Answer("children", "Children supported?").Required();

        Section("Credits and payments");
        Credits = Answer("credits", "A reverse, compensatory or foreign currency earnings credit?").Required();
        Prepayments = Answer("prepayments", "Prepayments or other payments of the year's tax?").Required();

        Section("Particular circumstances");
        var extension = Answer("extension", "More time to file granted by the authority?").OfOneYear().Hint("asked for in writing; the day of payment does not move");
        ExtendedTo = Date("extended-to", "Filing extended to").OfOneYear().From("letter of the authority").When(extension).RequiredWhen(extension);
        FilingDay = ExtendedTo.Or(law.Filing.Day);

        Error("not-resident", resident.IsFilled() & !resident,
            "This return is for residents; a person not resident in Barbados files another return, which is not covered here.", resident);
        Note("not-domiciled", NotDomiciled,
            "A resident who is not domiciled is taxed on local income and on what is remitted: enter income from abroad only as far as it was remitted.", domiciled);
        Error("extended-too-early", ExtendedTo.IsFilled() & ExtendedTo <= law.Filing.Day,
            $"An extension moves the due date to a day after {law.Filing.Day}; copy the day from the letter.", ExtendedTo);
        Note("two-payers", Employment & Pension, "With pay and a pension the tax deducted may be too little: each payer may have given the allowance.", Employment);
    }
}
