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
        Warn("refund-above", refunded > wages.Health & wages.Health > 0, "More was refunded than paid; check the notice.", refunded);
    }
}
