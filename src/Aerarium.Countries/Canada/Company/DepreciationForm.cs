using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Accounts;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>
/// Capital cost allowance by class: what was there, additions and disposals from the register of the accounts, first-year rules by day of acquisition and use, the claim, and what is carried to next year.
/// The same form serves Alberta's return, where the pools and the claim may differ.
/// </summary>
public sealed class DepreciationForm : Form
{
    private sealed record Addition(ChoiceLine Class, TextLine Number, AmountLine Increased, AmountLine Plain, AmountLine Halved, AmountLine Expensed);

    private sealed record Disposal(ChoiceLine Class, TextLine Number, AmountLine Proceeds);

    private sealed record Pool(AmountLine Claimed, AmountLine Recapture, AmountLine Terminal);

    /// <summary>What reduces and what raises income.</summary>
    public readonly AmountLine Claimed, Recapture, Terminal;

    /// <summary>Declares the form.</summary>
    /// <param name="definition">The return.</param>
    /// <param name="law">The law.</param>
    /// <param name="period">The period and its days.</param>
    /// <param name="applies">When the form applies.</param>
    /// <param name="ofReturn">The return whose pools of last year go on here.</param>
    /// <param name="source">Where additions and disposals come from: the accounts, or the federal return.</param>
    public DepreciationForm(Definition definition, CorporationLaw law, CompanyPeriod period, Condition applies, string ofReturn, AssetSource source)
        : base(definition, "depreciation", "Capital cost allowance", "One row for each class; additions and disposals come from the register of fixed assets.", applies)
    {
        var additions = Repeating("additions", "Additions of the period", "addition", row =>
        {
            var number = row.Text("number", "Number").AtMost(20);
            row.NamedBy(row.Text("description", "Asset").Required());
            var of = row.Choice("class", "Class", DepreciationClasses.Choices).Required();
            var acquired = row.Date("acquired", "Acquired on").From("invoice").Required();
            var inUse = row.Date("in-use", "In use from").Hint("blank: from the day it was acquired");
            var cost = row.Entry("cost", "Cost").InWholeUnits().From("register").Required();
            var related = row.Answer("from-related", "Related?").Hint("from somebody related, or rolled over");
            var used = inUse.Or(acquired);
            var designated = row.Answer("designated", "Expensed at once?").OfOneYear().When(used < CorporationLaw.SuspendedFrom & acquired > CorporationLaw.ImmediateAfter & !related).Hint("designated; until 2023 only");
            var productive = row.Answer("productive", "Productive, in full?").OfOneYear().When(of.Is("50") & acquired >= CorporationLaw.ProductiveFrom & !related).Hint("unsure: enactment not verified");
            var smallTool = row.Answer("small-tool", "Small tool?").OfOneYear().When(of.Is("12")).Hint($"costs less than {law.SmallTool.ValueInWords}: no half-year rule");
            var ceiling = Decide("ceiling of a passenger vehicle by the year it is acquired", law.Ceilings[^1].Amount, [.. law.Ceilings.SkipLast(1).Select(c => (acquired <= new DateOnly(c.Year, 12, 31), (Amount)c.Amount))]);
            var counted = row.Line("counted", "Counts", If(of.Is("10.1"), Min(cost, ceiling), cost)).Law("ITR 1104(3.1), 7307(1)");
            var suspended = used >= CorporationLaw.SuspendedFrom & acquired < CorporationLaw.ReinstatedFrom;
            var expensed = designated | productive;
            var byLease = of.Is("13");
            var increases = !related & !suspended & !of.Is("12") & !expensed & !byLease;
            var halved = related & !smallTool & !byLease;
            row.Note("first-year-unverified", of.Is("50") & acquired >= CorporationLaw.ProductiveFrom | acquired >= CorporationLaw.ReinstatedFrom, "The first-year rule rests on measures whose enactment is not verified: check before filing.", acquired);
            row.Error("addition-outside-period", acquired > period.End, $"This was acquired on {acquired}, after the period.", acquired);
            return new Addition(
                of,
                number,
                row.Line("increased", "Increased", If(increases, counted, 0)).Law("ITR 1100(2)"),
                row.Line("plain", "At the rate", If(!increases & !halved & !expensed, counted, 0)),
                row.Line("halved", "Halved", If(halved, counted, 0)).Law("ITR 1100(2)"),
                row.Line("expensed", "At once", If(expensed, counted, 0)).Law("ITR 1104(3.1)"));
        }, "ITR 1100(2)").AsGrid().TiedTo(source.Additions);

        var disposals = Repeating("disposals", "Disposals of the period", "disposal", row =>
        {
            var number = row.Text("number", "Number").AtMost(20);
            row.NamedBy(row.Text("description", "Asset").Required());
            var of = row.Choice("class", "Class", DepreciationClasses.Choices).Required();
            row.Date("disposed", "Disposed of on");
            return new Disposal(of, number, row.Entry("proceeds", "Proceeds").InWholeUnits().Hint("at most its cost").Required());
        }, "ITA 13(21) \"undepreciated capital cost\" F").AsGrid().TiedTo(source.Disposals);

        var pools = Repeating("classes", "Classes", "class", row =>
        {
            var of = row.Choice("class", "Class", DepreciationClasses.Choices).Required();
            row.NamedBy(of);
            var several = of.Is("10.1") | of.Is("other");
            var asset = row.Text("asset", "Number of the asset").AtMost(20).When(several).Hint("as in the register, where the class stands more than once");
            var ownRate = row.Measure("rate", "Rate of the class", 2).Unit("%").Between(0, 100).When(of.Is("other")).RequiredWhen(of.Is("other"));
            row.Line("pool", "Known by", Joined(" ", of, asset));
            var opening = row.Entry("opening", "At the beginning").InWholeUnits().From("last return, schedule 8").OfOneYear();
            var pool = Joined(" ", of, asset);
            Amount Of(Func<Addition, Amount> what) => If(asset.IsBlank(), additions.Sum(what, a => a.Class.SameAs(of)), additions.Sum(what, a => Joined(" ", a.Class, a.Number).SameAs(pool)));
            var increased = row.Line("increased", "Additions increased", Of(a => a.Increased));
            var plain = row.Line("plain", "Other additions", Of(a => a.Plain));
            var halved = row.Line("halved", "Additions by the half-year rule", Of(a => a.Halved));
            var expensed = row.Line("expensed", "Deducted at once", Of(a => a.Expensed)).Law("ITR 1100(0.1)");
            var proceeds = row.Line("proceeds", "Disposals", If(
                asset.IsBlank(), disposals.Sum(d => d.Proceeds, d => d.Class.SameAs(of)), disposals.Sum(d => d.Proceeds, d => Joined(" ", d.Class, d.Number).SameAs(pool))));
            var left = row.Answer("left", "An asset of the class is left?").UsuallyYes().OfOneYear().Required();
            var vehicle = of.Is("10.1");
            var balance = row.Line("balance", "Balance before the claim", opening + increased + plain + halved - proceeds).Law("ITA 13(21)").Subtotal();
            var none = left.IsFilled() & !left;
            var recapture = row.Line("recapture", "Recapture", If(vehicle, 0, AtLeastZero(0 - balance))).Law("ITA 13(1)");
            var terminal = row.Line("terminal", "Terminal loss", If(none & !vehicle, AtLeastZero(balance), 0)).Law("ITA 20(16)");
            var taken = row.Line("taken", "Disposals above the additions of related persons", AtLeastZero(proceeds - halved));
            var increase = row.Line("increase", "Increase of the first year", law.Incentive * AtLeastZero(increased - AtLeastZero(taken - plain)), ToUnits).Law("ITR 1100(2)");
            var half = row.Line("half", "Left out by the half-year rule", law.HalfYear * AtLeastZero(halved - proceeds), ToUnits).Law("ITR 1100(2)");
            var rate = If(of.Is("other"), ownRate / 100, of.In(CorporationLaw.ClassRates));
            var byLease = row.Entry("by-lease", "Amount of the period by the lease").InWholeUnits().OfOneYear().When(of.Is("13")).RequiredWhen(of.Is("13")).Hint("cost over the term, at least 5 and at most 40 years; half in the first");
            var soldVehicle = vehicle & none;
            var claimBase = row.Line("base", "Base for the claim", If(soldVehicle, law.HalfYear * opening, AtLeastZero(balance + increase - half)));
            var most = row.Line("most", "At most", If(none & !vehicle, 0, Min(
                If(soldVehicle, opening, AtLeastZero(balance)),
                If(of.Is("13"), byLease, Round(claimBase * rate * If(period.Short, period.Days, law.YearDays) / law.YearDays, ToUnits)))) + expensed).Law("ITR 1100(1)(a), (b), (3)");
            var claim = row.Entry("claim", "Claim").InWholeUnits().OfOneYear().Hint("blank: the most");
            var claimed = row.Line("claimed", "Claimed", Min(claim.Or(most), most)).Subtotal();
            row.Line("closing", "At the end", If(soldVehicle | none, 0, AtLeastZero(balance) - (claimed - expensed)));
            row.Error("claim-above-most", claim > most, $"The claim of {claim} is above the most that can be claimed, {most}.", claim);
            row.Error("class-twice", row.RepeatsEarlier(of, asset), "The class stands twice: additions and disposals go by class, so keep one row for each; of class 10.1, one for each vehicle with its number.", of);
            row.Warn("no-asset-left", balance > 0 & none & !vehicle, $"No asset of the class is left: its balance of {balance} is deducted as a terminal loss. Check that none is left.", left);
            row.Note("claimed-less", claim.IsFilled() & claim < most, $"{most - claim} less than the most is claimed; it stays in the class.", claim);
            return (Class: of, Asset: asset, Several: several, Expensed: expensed, Pool: new Pool(claimed, recapture, terminal));
        }, "ITR 1100, 1101, 1104").TiedTo(new RowTie(
            definition.PeriodBefore(ofReturn), "depreciation.classes", "pool", [.. new[] { "class", "asset", "rate", "left" }.Select(c => new TiedColumn(c, c)), new TiedColumn("opening", "closing")])
        { LeftOutAtZero = "closing" });
        Continue(pools, row =>
        {
            var (of, asset, several, _, _) = pools.Columns;
            row.Error("which-asset", several & asset.IsBlank() & pools.CountWhere(p => p.Class.SameAs(of)) > 1, "The class stands more than once: give the number of the asset, so that additions and disposals find their row.", asset);
            return row;
        });

        Continue(additions, row =>
        {
            row.Error("addition-without-class", additions.Columns.Class.IsFilled() & pools.CountWhere(p => InPool(additions.Columns.Class, additions.Columns.Number, p.Class, p.Asset)).Equals(0), "Add a row for the class of this addition; until then it counts nowhere.", additions.Columns.Class);
            return row;
        });
        Continue(disposals, row =>
        {
            row.Error("disposal-without-class", disposals.Columns.Class.IsFilled() & pools.CountWhere(p => InPool(disposals.Columns.Class, disposals.Columns.Number, p.Class, p.Asset)).Equals(0), "Add a row for the class of this disposal; until then it counts nowhere.", disposals.Columns.Class);
            return row;
        });

        Section("All classes", "ITA 20(1)(a)");
        Claimed = Line("claimed", "Capital cost allowance", pools.Sum(p => p.Pool.Claimed)).Hint("line 403").Final();
        Recapture = Line("recapture", "Recapture", pools.Sum(p => p.Pool.Recapture)).Hint("line 107");
        Terminal = Line("terminal", "Terminal losses", pools.Sum(p => p.Pool.Terminal)).Hint("line 404");
        var immediate = Line("immediate", "Expensed at once", pools.Sum(p => p.Expensed));
        var limit = Line("immediate-limit", "Expensed at once, at most", If(period.Short, law.ImmediateLimit * period.Days / law.YearDays, law.ImmediateLimit), ToUnits).Law("ITR 1104(3.1)").Hint("shared by a group");
        Error("immediate-above-limit", immediate > limit, $"More is expensed at once, {immediate}, than the limit of {limit}.", immediate);
    }

    /// <summary>Whether an asset belongs to a pool: of its class, and where the pool names an asset, that one.</summary>
    private static Condition InPool(ChoiceLine ofAsset, TextLine number, ChoiceLine ofPool, TextLine asset) => ofAsset.SameAs(ofPool) & (asset.IsBlank() | number.SameAs(asset));
}

/// <summary>The period of a company's return.</summary>
/// <param name="End">Its last day.</param>
/// <param name="Days">Its days.</param>
/// <param name="Short">Whether it is shorter than twelve months.</param>
public sealed record CompanyPeriod(DateLine End, AmountLine Days, Condition Short);

/// <summary>Where additions and disposals come from.</summary>
/// <param name="Additions">The rows of additions.</param>
/// <param name="Disposals">The rows of disposals.</param>
public sealed record AssetSource(RowTie Additions, RowTie Disposals)
{
    /// <summary>The register of the company's accounts.</summary>
    public static AssetSource Register(Definition definition) => new(
        new RowTie(definition.SamePeriod(AccountsReturn.ReturnId), "assets.register", "number",
            [.. new[] { "number", "description", "class", "acquired", "in-use", "from-related" }.Select(c => new TiedColumn(c, c)), new TiedColumn("cost", "bought")])
        { LeftOutAtZero = "bought" },
        new RowTie(definition.SamePeriod(AccountsReturn.ReturnId), "assets.register", "number",
            [.. new[] { "number", "description", "class", "disposed" }.Select(c => new TiedColumn(c, c)), new TiedColumn("proceeds", "sold")])
        { LeftOutAtZero = "sold" });

    /// <summary>The federal return of the same period.</summary>
    public static AssetSource FederalReturn(Definition definition) => new(
        new RowTie(definition.SamePeriod(CompanyReturn.ReturnId), "depreciation.additions", "number",
            [.. new[] { "number", "description", "class", "acquired", "in-use", "cost", "from-related", "designated", "productive", "small-tool" }.Select(c => new TiedColumn(c, c))]),
        new RowTie(definition.SamePeriod(CompanyReturn.ReturnId), "depreciation.disposals", "number",
            [.. new[] { "number", "description", "class", "disposed", "proceeds" }.Select(c => new TiedColumn(c, c))]));
}
