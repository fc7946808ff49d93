using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>Contributions to insurance, of one person: the wage statements' and one's own (EStG s. 10(1) no. 2, 3, 3a).</summary>
public sealed class ProvidentForm : Form
{
    private static readonly IReadOnlyList<Choice> Kinds =
        [new("liability", "Liability"), new("accident", "Accident"), new("term-life", "Life, for the risk of death"), new("disability", "Disability to work"), new("health-extra", "Health, beyond the basic part"), new("other", "Other")];

    private sealed record Policy(AmountLine Amount);

    /// <summary>Old-age contributions with the employer's, the employer's alone.</summary>
    public readonly AmountLine OldAge, OfEmployer;

    /// <summary>Basic health and care insurance, other insurance, and up to how much they count together.</summary>
    public readonly AmountLine Basic, Other, Cap;

    /// <summary>Subsidised private pension: what can be deducted, and the allowances that come instead.</summary>
    public readonly AmountLine Pension, PensionAllowances;

    /// <summary>Declares the form.</summary>
    public ProvidentForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, Person person, WageForm wages, ProvidentForm? beside = null)
        : base(definition, "provident", "Provident expenses", "Contributions to pension, health, care and other insurance (Vorsorgeaufwendungen).", person.Applies, Person.Spouse(beside))
    {
        var policies = Repeating("policies", "Insurance of one's own", "policy", row =>
        {
            var kind = row.Choice("kind", "Kind", Kinds).Required();
            row.NamedBy(kind);
            row.Text("insurer", "Insurer").From("policy");
            return new Policy(row.Entry("amount", "Contributions of the year").From("policy").Required());
        }, "EStG s. 10(1) no. 3a", scope.OwnInsurance);

        Section(Glossary.In("Old-age contributions"), "EStG s. 10(1) no. 2, 10(3)", name: "old-age");
        var contracts = Entry("contracts", "Contributions to certified basic pension contracts").From("provider's notice").When(scope.OwnInsurance);
        OfEmployer = Line("of-employer", "Employers' contributions", wages.EmployerPension);
        OldAge = Line("old-age", "All contributions", wages.EmployeePension + OfEmployer + contracts).Subtotal();

        Section("Health, care and other insurance", "EStG s. 10(1) no. 3, 3a, 10(4)", name: "other");
        var sicknessPay = Answer("sickness-pay", "Entitled to sickness pay?").UsuallyYes().When(wages.Health > 0).RequiredWhen(wages.Health > 0);
        var subsidised = Answer("subsidised", "Part of the health insurance borne or paid by somebody else?").UsuallyYes().Required().Hint("employer, pension scheme, or insured free with the spouse");
        var refunded = Entry("refunded", "Contributions to health insurance refunded").From("insurer's notice");
        var privately = Entry("private-own", "Private health and care insurance paid oneself, basic part").From("insurer's notice").When(scope.OwnInsurance);
        var health = Line("health", "Health insurance less refunds", AtLeastZero(wages.Health - refunded));
        Basic = Line("basic", "Basic health and care insurance", health - Round(If(sicknessPay, law.SicknessPay * health, 0), ToCents) + wages.Care + wages.PrivateBasic + privately).Law("EStG s. 10(1) no. 3");
        Other = Line("other", "Other insurance", Round(If(sicknessPay, law.SicknessPay * health, 0), ToCents) + wages.Unemployment + policies.Sum(p => p.Amount)).Law("EStG s. 10(1) no. 3a");
        Cap = Line("cap", "Together at most, unless the basic part is more", If(subsidised | subsidised.IsBlank(), law.OtherCap, law.OtherCapAlone)).Law("EStG s. 10(4)");
        Section(Glossary.In("Subsidised private pension"), "EStG s. 10a, 79 to 86", scope.SubsidisedPension, "pension");
        var paid = Entry("pension-paid", "Own contributions of the year").From("provider's notice").OfOneYear();
        var wage = Entry("pension-wage", "Pensionable wage of the year before").From("wage statement of the year before").OfOneYear().When(paid > 0).RequiredWhen(paid > 0);
        var young = Count("pension-children", "Children born since 2008, allowances to this contract").Between(0, 20).When(paid > 0);
        var older = Count("pension-older-children", "Children born before 2008, allowances to this contract").Between(0, 20).When(paid > 0);
        var whole = Line("pension-right", "Allowances in full", If(paid > 0, law.PensionBasic + (law.PensionChild * young) + (law.PensionOlderChild * older), 0)).Law("EStG s. 84, 85");
        var least = Line("pension-least", "Own payment for the full allowances", If(paid > 0, Max(law.PensionLeast, Min(law.PensionShare * wage, law.PensionMost) - whole), 0), ToCents).Law("EStG s. 86(1)");
        PensionAllowances = Line("pension-allowances", Glossary.In("Basic allowance") + " and allowances for children", If(paid >= least, whole, whole * paid / Max(least, 1)), ToCents).Law("EStG s. 86(1) s. 6");
        Pension = Line("pension", "Contributions and allowances that can be deducted", Min(paid + PensionAllowances, law.PensionMost)).Law("EStG s. 10a(1)");
        Note("pension-cut", paid > 0 & paid < least, $"With {least - paid} more paid in the year the allowances would have been full: {whole}.", paid);
        Warn("refund-above", refunded > wages.Health & wages.Health > 0, "More was refunded than paid; check the notice.", refunded);
    }
}
