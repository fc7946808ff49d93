using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Common.Accounts;

/// <summary>What the register of fixed assets must agree with.</summary>
/// <param name="Cost">Cost of the assets in the accounts.</param>
/// <param name="Accumulated">Amortisation accumulated in the accounts, above zero.</param>
/// <param name="OfPeriod">Amortisation of the period in the accounts.</param>
public sealed record RegisterTotals(AmountLine Cost, Amount Accumulated, AmountLine OfPeriod);

/// <summary>
/// The register of fixed assets: cost, day, class for tax, amortisation in the books by the company's own policy, disposals, private part. What was bought and disposed of in the period goes on to
/// the tax return by class.
/// </summary>
public sealed class AssetsForm : Form
{
    private sealed record Asset(AmountLine Kept, AmountLine Carried, AmountLine OfPeriod);

    private static readonly IReadOnlyList<Choice> Methods = [new("straight-line", "Straight line, of cost"), new("declining", "Declining balance"), new("none", "None")];

    /// <summary>Declares the form.</summary>
    /// <param name="definition">The accounts.</param>
    /// <param name="period">The accounting period.</param>
    /// <param name="taxClasses">The classes assets belong to for tax.</param>
    /// <param name="totals">What the register must agree with.</param>
    /// <param name="lastYear">The same accounts of the year before.</param>
    public AssetsForm(Definition definition, (DateFormula From, DateFormula To) period, IReadOnlyList<Choice> taxClasses, RegisterTotals totals, TiedReturn lastYear)
        : base(definition, "assets", "Fixed assets", "The register: what was bought and disposed of goes on to the tax return, what is amortised here is that of the books.")
    {
        var register = Repeating("register", "Register", "asset", row =>
        {
            var number = row.Text("number", "Number").AtMost(20).From("register").Required();
            row.NamedBy(row.Text("description", "Asset").From("register").Required());
            row.Choice("class", "Class for tax", taxClasses).Required();
            var acquired = row.Date("acquired", "Acquired on").From("invoice").Required();
            var inUse = row.Date("in-use", "In use from").Hint("blank: from the day it was acquired");
            var cost = row.Entry("cost", "Cost").From("invoice").UsuallyLasts().Required();
            var privately = row.Measure("private", "Private part", 2).Unit("%").Between(0, 100).UsuallyLasts();
            row.Answer("from-related", "Acquired from somebody related?");
            var method = row.Choice("method", "Amortised in the books", Methods).Required();
            var rate = row.Measure("rate", "Rate a year", 2).Unit("%").Between(0, 100).UsuallyLasts().When(!method.Is("none")).RequiredWhen(!method.Is("none"));
            var opening = row.Entry("opening", "Accumulated before").From("last year's accounts");
            var disposed = row.Date("disposed", "Disposed of on").OfOneYear();
            var proceeds = row.Entry("proceeds", "Proceeds").OfOneYear().When(disposed.IsFilled());
            var months = row.NumberLine("months", "Months in use", If(acquired.IsFilled(), MonthsTouched(Later(period.From, inUse.Or(acquired)), Earlier(period.To, disposed.Or(period.To))), 0));
            var amortised = row.Line("of-period", "Amortisation of the period", Min(AtLeastZero(cost - opening), If(method.Is("straight-line"), cost, AtLeastZero(cost - opening)) * rate / 100 * months / 12), ToCents);
            var gone = row.Line("gone", "Disposed of by the end", disposed.IsFilled() & disposed <= period.To);
            var business = row.Line("business-cost", "Cost, private part apart", cost - (cost * privately / 100), ToCents);
            row.Line("bought", "Bought in the period", If(acquired >= period.From & acquired <= period.To, business, 0));
            row.Line("sold", "Disposed of in the period, at most its cost", If(gone & disposed >= period.From, Min(cost, proceeds) - (Min(cost, proceeds) * privately / 100), 0), ToCents);
            var kept = row.Line("kept", "Kept at the end, at cost", If(gone, 0, cost));
            var carried = row.Line("carried", "Accumulated at the end", If(gone, 0, opening + amortised));
            row.Error("asset-twice", row.RepeatsEarlier(number), $"The number {number} stands twice in the register.", number);
            row.Error("acquired-after-period", acquired > period.To, $"The asset was acquired on {acquired}, after the period; it belongs to the next one.", acquired);
            row.Error("disposed-before-acquired", disposed.IsFilled() & disposed < acquired, $"The asset was disposed of on {disposed}, before it was acquired; check both days.", disposed);
            row.Error("accumulated-above-cost", opening > cost, $"More is accumulated, {opening}, than the asset cost, {cost}.", opening);
            return new Asset(kept, carried, amortised);
        }).AsGrid().TiedTo(new RowTie(
            lastYear,
            "assets.register",
            "number",
            [
                .. new[] { "number", "description", "class", "acquired", "in-use", "cost", "private", "from-related", "method", "rate" }.Select(c => new TiedColumn(c, c)),
                new TiedColumn("opening", "carried"),
            ])
        {
            LeftOutAtZero = "kept",
        });

        Section("The register beside the accounts");
        var cost = Line("cost-total", "Cost by the register", register.Sum(a => a.Kept));
        var costDiffers = Line("cost-differs", "The accounts have more by", totals.Cost - cost);
        var accumulated = Line("accumulated-total", "Accumulated by the register", register.Sum(a => a.Carried));
        var accumulatedDiffers = Line("accumulated-differs", "The accounts have more by", totals.Accumulated - accumulated);
        var ofPeriod = Line("of-period-total", "Amortisation of the period by the register", register.Sum(a => a.OfPeriod));
        var ofPeriodDiffers = Line("of-period-differs", "The accounts have more by", totals.OfPeriod - ofPeriod);
        var used = register.RowCount > 0;
        Warn("cost-differs", used & costDiffers.DiffersFrom(0), $"The register comes to a cost of {cost}, the accounts to {totals.Cost}: a difference of {costDiffers}.", costDiffers);
        Warn("accumulated-differs", used & accumulatedDiffers.DiffersFrom(0), $"The register has accumulated {accumulated}, the accounts have {accumulatedDiffers} more.", accumulatedDiffers);
        Warn("amortisation-differs", used & ofPeriodDiffers.DiffersFrom(0), $"The register amortises {ofPeriod} in the period, the accounts {totals.OfPeriod}.", ofPeriodDiffers);
    }
}
