using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Amounts claimed for a spouse and for relatives supported; each province reckons from the same people.</summary>
public sealed class FamilyForm : Form
{
    private static readonly IReadOnlyList<Choice> Relations =
        [new("child", "Child"), new("grandchild", "Grandchild"), new("parent", "Parent or grandparent"), new("other", "Other relative")];

    private sealed record Dependant(AmountLine Age, AmountLine NetIncome, AnswerLine Infirm, AnswerLine Eligible, AmountLine Caregiver, AmountLine InfirmChild, AnswerLine Counts, AmountLine DisabilityUnused);

    /// <summary>Whether the spouse amount is claimed here.</summary>
    public readonly Condition ClaimsSpouse;

    /// <summary>Whether the spouse claims the taxpayer.</summary>
    public readonly AnswerLine SpouseClaims;

    /// <summary>Whether the spouse is infirm.</summary>
    public readonly AnswerLine SpouseInfirm;

    /// <summary>Whether an eligible dependant is claimed.</summary>
    public readonly AnswerLine ClaimsEligible;

    /// <summary>Net income of the eligible dependant, and one where that person is infirm.</summary>
    public readonly AmountLine EligibleIncome, EligibleInfirm;

    /// <summary>Caregiver amounts of infirm adults and of infirm children.</summary>
    public readonly AmountLine Caregiver, InfirmChildren;

    /// <summary>Disability amounts of dependants, unused by them and transferred.</summary>
    public readonly AmountLine DisabilityTransferred, ProvincialDisabilityTransferred;

    /// <summary>Children and infirm dependants who count for Ontario's tax reduction on this return.</summary>
    public readonly AmountLine CountedChildren;

    /// <summary>Children under 17 on 31 December.</summary>
    public readonly AmountLine YoungChildren;

    /// <summary>Declares the form.</summary>
    public FamilyForm(Definition definition, FederalLaw law, ScopeForm scope)
        : base(definition, "family", "Family", "The spouse and the relatives supported: who they are, what they have of their own, what is claimed for them.", scope.Spouse | scope.Dependants)
    {
        var yearEnd = new DateOnly(law.Year, 12, 31);
        Section("Spouse", "ITA 118(1)B(a)", scope.Spouse);
        var claimed = Answer("claim-spouse", "Claim the spouse amount?").Required().OfOneYear().Hint("one spouse only; when the other's net income is below the basic amount");
        ClaimsSpouse = scope.Spouse & claimed;
        SpouseInfirm = Answer("spouse-infirm", "Spouse infirm?").Hint("with a doctor's certificate");
        SpouseClaims = Answer("spouse-claims", "Does the spouse claim the taxpayer?").OfOneYear().TiedTo(new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line("family.claim-spouse"));

        var dependants = Repeating("dependants", "Children and other relatives", "person", row =>
        {
            row.NamedBy(row.Text("name", "Name").Required());
            var relation = row.Choice("relation", "Relation", Relations).Required();
            var born = row.Date("birth-date", "Date of birth").Required();
            var age = row.NumberLine("age", "Age on 31 December", YearsFrom(born, yearEnd)).Unit("years");
            row.Answer("lives-here", "Lives with the taxpayer?").UsuallyYes();
            var income = row.Entry("net-income", "Net income, line 23600").OfOneYear().Hint("zero if there was none");
            var infirm = row.Answer("infirm", "Infirm?").Hint("with a doctor's certificate");
            var eligible = row.Answer("eligible-dependant", "Claimed as eligible dependant?").OfOneYear().When(!scope.Spouse).Hint("one person, by somebody without a spouse");
            var elsewhere = row.Answer("claimed-elsewhere", "Amounts claimed on another return?").OfOneYear().When(infirm).Hint("by the spouse, for example; compared in the household");
            var caregiver = law.Caregiver is { } most
                ? row.Line("caregiver", "Caregiver amount", If(infirm & !elsewhere & age >= 18, Min(most, AtLeastZero(most + law.CaregiverThreshold! - income)), 0)).Law("ITA 118(1)B(d); line 30450")
                : row.Entry("caregiver", "Caregiver amount, amount allowed").OfOneYear();
            var infirmChild = law.InfirmAddition is { } flat
                ? row.Line("infirm-child", "Amount for an infirm child", If(infirm & !elsewhere & relation.Is("child") & age < 18, flat, 0)).Law("ITA 118(1)B(b.1); line 30500")
                : row.Entry("infirm-child", "Amount for an infirm child, amount allowed").OfOneYear();
            var disability = row.Entry("disability-unused", "Disability amount the person does not use").OfOneYear().Hint("from that person's return; zero income: all of it");
            var counts = row.Answer("counts-here", "Counts for Ontario's reduction on this return?").OfOneYear().When(scope.LivesIn("on") & (age <= 18 | infirm))
                .Hint("on the return of the spouse with the higher net income");
            row.Error("dependant-born-later", born > yearEnd, $"This person was born after {law.Year}; leave them for next year.", born);
            row.Warn("dependant-too-old", relation.Is("child") & age >= 18 & !infirm & eligible, $"At {age} a child counts as eligible dependant only when infirm.", eligible);
            row.Warn("income-of-dependant-open", (eligible | infirm) & income.IsBlank(), "Enter this person's net income; zero if there was none.", income);
            return new Dependant(age, income, infirm, eligible, caregiver, infirmChild, counts, disability);
        }, "ITA 118(1)B(b), (d)", scope.Dependants);

        Section("All of them", "ITA 118", name: "together");
        ClaimsEligible = Line("claims-eligible", "An eligible dependant is claimed", dependants.Any(d => d.Eligible));
        EligibleIncome = Line("eligible-income", "Net income of the eligible dependant", dependants.Sum(d => d.NetIncome, d => d.Eligible));
        EligibleInfirm = NumberLine("eligible-infirm", "Eligible dependants who are infirm", dependants.CountWhere(d => d.Eligible & d.Infirm));
        Caregiver = Line("caregiver", "Caregiver amounts for infirm adults", dependants.Sum(d => d.Caregiver)).Law("ITA 118(1)B(d); line 30450");
        InfirmChildren = Line("infirm-children", "Amounts for infirm children", dependants.Sum(d => d.InfirmChild)).Law("ITA 118(1)B(b.1); line 30500");
        DisabilityTransferred = Line("disability-transferred", "Disability amounts transferred", dependants.Sum(d => d.DisabilityUnused)).Law("ITA 118.3(2); line 31800");
        ProvincialDisabilityTransferred = Entry("provincial-disability-transferred", "Disability amounts transferred, of the province").OfOneYear().When(DisabilityTransferred > 0);
        CountedChildren = NumberLine("counted-children", "Children and infirm dependants who count here", dependants.CountWhere(d => d.Counts));
        YoungChildren = NumberLine("young-children", "Children of 16 or under", dependants.CountWhere(d => d.Age <= 16));

        Error("both-claim", claimed & SpouseClaims, "Both spouses claim each other; only one of them can. Answer no on one of the returns.", claimed);
        Error("several-eligible", dependants.CountWhere(d => d.Eligible) > 1, "Only one person can be claimed as eligible dependant; answer no for the others.", ClaimsEligible);
        Error("no-dependant", scope.Dependants & dependants.RowCount.Equals(0), "Add each child or relative, or answer in Scope that there is none.", scope.Dependants);
    }
}
