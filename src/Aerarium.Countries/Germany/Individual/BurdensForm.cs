using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>Extraordinary burdens: costs above the reasonable own share, and lump sums (EStG s. 33, 33a, 33b).</summary>
public sealed class BurdensForm : Form
{
    private static readonly IReadOnlyList<Choice> Degrees =
    [
        new("none", "None"), new("20", "20"), new("30", "30"), new("40", "40"), new("50", "50"), new("60", "60"), new("70", "70"), new("80", "80"), new("90", "90"), new("100", "100"),
        new("helpless", "Helpless, blind or deaf-blind"),
    ];

    private sealed record Cost(AmountLine Borne);

    private sealed record Relative(AmountLine Allowed);

    /// <summary>Burdens deducted.</summary>
    public readonly AmountLine Allowed;

    /// <summary>Declares the form.</summary>
    public BurdensForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, ChildrenForm children, Amount totalIncome)
        : base(definition, "burdens", "Extraordinary burdens", "Illness, disability, care, support of relatives (außergewöhnliche Belastungen).", scope.Burdens | scope.Children)
    {
        var costs = Repeating("costs", "Costs", "cost", row =>
        {
            row.NamedBy(row.Text("what", "What").From("invoice").Required());
            row.Choice("kind", "Kind", [new("medical", "Illness"), new("care", "Care"), new("funeral", "Funeral"), new("other", "Other")]).Required();
            row.Date("date", "Paid on").From("statement of account").Required();
            var cost = row.Entry("cost", "Cost").From("invoice").Required();
            var refunded = row.Entry("refunded", "Refunded").From("insurer's statement");
            row.Error("refund-above-cost", refunded > cost, "More was refunded than the cost.", refunded);
            return new Cost(row.Line("borne", "Borne", AtLeastZero(cost - refunded)));
        }, "EStG s. 33", scope.Burdens);

        Section("Disability and care", "EStG s. 33(2a), 33b", scope.Burdens, "disability");
        var degree = Choice("degree", "Degree of disability", Degrees).From("notice, pass").Hint("highest of the year");
        var spouseDegree = Choice("spouse-degree", "Spouse's degree of disability", Degrees).From("notice, pass").When(scope.Joint);
        var travel = Choice("travel", "Lump sum for travel", [new("none", "None"), new("walking", "Degree of 80, or 70 with mark G"), new("mobility", "Mark aG, Bl, TBl or H")]).From("notice, pass").Law("EStG s. 33(2a)");
        var carer = Choice("carer", "Unpaid care of somebody, degree of care", [new("none", "None"), new("2", "2"), new("3", "3"), new("4", "4, 5 or helpless")]).Law("EStG s. 33b(6)");
        var survivor = Answer("survivor", "Survivor's pension that carries a lump sum?").Law("EStG s. 33b(4)");
        var lumps = Line("lump-sums", Glossary.In("Disability lump sum") + ", carer's and survivor's",
            degree.In(IncomeTaxLaw.Disability) + spouseDegree.In(IncomeTaxLaw.Disability) + carer.In(IncomeTaxLaw.Carer) + If(survivor, law.Survivor, 0)).Law("EStG s. 33b");

        var relatives = Repeating("relatives", "Relatives supported", "relative", row =>
        {
            row.NamedBy(row.Text("name", "Name").Required());
            row.Identifier("number", Glossary.In("Identification number"), GermanyIdentifiers.Person).Required();
            var months = row.Count("months", "Months").Between(1, 12).Required();
            var paid = row.Entry("paid", "Paid for their living").From("bank transfers").Required().Hint(law.Year >= 2025 ? "by bank transfer only" : "without cash, if possible");
            var insurance = row.Entry("insurance", "Their basic health and care insurance, of it");
            var income = row.Entry("income", "Their own income in these months");
            return new Relative(row.Line("allowed", "Support deducted",
                Min(paid, AtLeastZero((law.BasicAllowance * months / 12) + insurance - AtLeastZero(income - (law.RelativeIncome * months / 12)))), ToCents).Law("EStG s. 33a(1)"));
        }, "EStG s. 33a(1)", scope.Burdens);

        Section("Burdens in all", "EStG s. 33(1), (3)", name: "all");
        var share = Line("own-share", Glossary.In("Reasonable own share"), Decide("own share by family", Progressive(law.OwnShareSingle, AtLeastZero(totalIncome)),
            (children.HowMany > 2, Progressive(law.OwnShareManyChildren, AtLeastZero(totalIncome))),
            (children.HowMany > 0, Progressive(law.OwnShareChildren, AtLeastZero(totalIncome))),
            (scope.Joint | scope.WidowSplitting, Progressive(law.OwnShareCouple, AtLeastZero(totalIncome)))), ToCents).Law("EStG s. 33(3)");
        var borne = Line("borne", "Costs borne, with the lump sum for travel", costs.Sum(c => c.Borne) + If(travel.Is("walking"), law.WalkingTravel, If(travel.Is("mobility"), law.MobilityTravel, 0)));
        var above = Line("above-share", "Above the own share", AtLeastZero(borne - share)).Law("EStG s. 33(1)");
        Allowed = Line("allowed", Glossary.In("Extraordinary burdens") + " deducted", above + lumps + relatives.Sum(r => r.Allowed) + children.Away).Final();
        Note("no-effect", borne > 0 & above.Equals(0), $"Costs have no effect below {share}.", borne);
    }
}
