using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Employment expenses, with the work space at home by the detailed method.</summary>
public sealed class WorkCostsForm : Form
{
    private sealed record Cost(AmountLine Counts);

    /// <summary>Employment expenses deducted.</summary>
    public readonly AmountLine Deduction;

    /// <summary>Declares the form.</summary>
    public WorkCostsForm(Definition definition, FederalLaw law, ScopeForm scope, EmploymentForm employment)
        : base(definition, "work-costs", "Employment expenses", "With the employer's certificate; the work space at home by area, hours and months.", scope.WorkCosts)
    {
        Section("The employer's certificate", "ITA 8(10); form T2200");
        var certificate = Answer("certificate", "Certificate T2200 on file?").OfOneYear().Required();
        var commission = Answer("commission", "Paid by commission?").Required();
        var condition = Choice("condition", "Why the work space counts", [
            new("principal", "More than half of the work is done there, for four weeks on end at least"), new("meetings", "Used only for work, and for meeting people regularly"), new("none", "Neither"),
        ]).Required().Law("ITA 8(13)");

        Section("The work space", "ITA 8(13)");
        var area = Measure("area", "Area of the work space", 1).Unit("m² or sq ft");
        var home = Measure("home-area", "Area of the home", 1).Unit("the same unit");
        var shared = Answer("shared", "Used for other things too?");
        var hours = Measure("hours", "Hours a week it is used for work", 1).Unit("hours").Between(0, 168).When(shared).RequiredWhen(shared);
        var months = Count("months", "Months used").Unit("months").Between(1, 12).OfOneYear().Hint("enter only the costs of these months");

        var costs = Repeating("costs", "Costs of the home for these months", "cost", row =>
        {
            var kind = row.Choice("class", "Class", [
                new("rent", "Rent"), new("heat", "Heat"), new("electricity", "Electricity"), new("water", "Water"), new("internet", "Internet access"), new("maintenance", "Maintenance and minor repairs"),
                new("condominium", "Utilities within condominium fees"), new("insurance", "Home insurance"), new("tax", "Property tax"), new("mortgage", "Mortgage interest"),
            ]).Required();
            row.NamedBy(kind);
            var amount = row.Entry("amount", "Amount").From("bills").Required();
            var ofCommission = kind.Is("insurance") | kind.Is("tax");
            row.Error("mortgage-interest", kind.Is("mortgage"), "Mortgage interest is never deductible for employees; remove this row.", kind);
            row.Warn("cost-of-commission-only", ofCommission & !commission, "Only employees paid by commission may claim home insurance and property tax; this amount does not count.", amount);
            return new Cost(row.Line("counts", "Counts", If(kind.Is("mortgage") | (ofCommission & !commission), 0, amount)));
        }, "ITA 8(13); guidance").AsGrid();

        var papers = Repeating("papers", "Supporting papers", "paper", row =>
        {
            var paper = row.Text("paper", "Paper").Required().Hint("certificate T2200, lease, bills, floor plan");
            row.NamedBy(paper);
            var kept = row.Answer("kept", "On file?").Required();
            row.Warn("paper-missing", kept.IsFilled() & !kept, $"Not on file: {paper}. Ask the client for it; the authority may ask for six years.", paper);
            return kept;
        }, "ITA 230(4); guidance").AsGrid();

        Section("What is deducted", "ITA 8(1), 8(13)", name: "deducted");
        var all = Line("costs-total", "Costs that count", costs.Sum(c => c.Counts));
        var carried = Entry("carried", "Work space costs carried from last year").OfOneYear().TiedTo(new TiedReturn(IndividualReturn.ReturnId, 1).Line($"{Key}.left"));
        var space = Line("space", "Work space, the part used for work",
            If(home > 0 & !condition.Is("none"), all * area / Max(home, 0.1m) * If(shared, hours / FederalLaw.WeekHours, 1), 0), ToCents).Law("ITA 8(13)");
        var others = Entry("others", "Other employment expenses").OfOneYear().Hint("supplies, telephone, vehicle: as worked out on form T777").Law("ITA 8(1)");
        var room = Line("income-left", "Employment income they are set against", AtLeastZero(employment.Income - others - employment.PensionPlan - employment.Dues));
        var deducted = Line("space-deducted", "Work space deducted", Min(space + carried, room)).Law("ITA 8(13)(b)");
        Deduction = Line("deduction", "Employment expenses", deducted + others).Law("ITA 8; line 22900").Final();
        Line("left", "Work space costs kept for next year", space + carried - deducted).Law("ITA 8(13)(c)");

        Error("no-certificate", Deduction > 0 & certificate.IsFilled() & !certificate, "Employment expenses need the employer's certificate T2200: ask for it, or leave the expenses out.", certificate);
        Error("area-above-home", area > home, $"The work space of {area} is larger than the home of {home}; check both.", area);
        Note("no-papers", Deduction > 0 & papers.RowCount.Equals(0), "Name the papers the expenses rest on, and attach them to their lines: certificate T2200, bills, how the area was measured.", Deduction);
        Note("space-carried", deducted < space + carried, $"{space + carried - deducted} of the work space costs is above the employment income left and is carried to next year, to the same employment.", Deduction);
        Note("no-condition", condition.Is("none") & all > 0, "Without one of the two conditions no work space is deducted.", condition);
        if (law.Year > 2022)
        {
            Note("no-flat-rate", months.IsFilled(), "The flat rate of 2 a day ended with 2022; only the detailed method is left.", months);
        }

    }
}
