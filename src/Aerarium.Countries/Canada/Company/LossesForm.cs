using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>What losses are set against.</summary>
/// <param name="NetIncome">Net income for tax.</param>
/// <param name="BeforeLosses">Income left before losses of other years.</param>
/// <param name="TaxableGains">Taxable capital gains of the year.</param>
/// <param name="CapitalLoss">Net capital loss of the year.</param>
public sealed record LossBases(AmountLine NetIncome, Amount BeforeLosses, AmountLine TaxableGains, AmountLine CapitalLoss);

/// <summary>
/// Losses by kind and year of origin (schedule 4): used oldest first, expired ones left out; the loss of the year carried back on request or forward.
/// </summary>
public sealed class LossesForm : Form
{
    /// <summary>Losses of other years deducted.</summary>
    public readonly AmountLine NonCapital, Capital;

    /// <summary>Declares the form.</summary>
    public LossesForm(Definition definition, CorporationLaw law, Condition applies, LossBases bases, string ofReturn)
        : base(definition, "losses", "Losses", "Losses of other years, the oldest first, and what becomes of a loss of this year.")
    {
        var year = law.Year;
        Section("Loss of this year", "ITA 111(8)", name: "of-year");
        var ofYear = Line("loss", "Non-capital loss of the year", AtLeastZero(0 - bases.NetIncome)).Subtotal();
        var back = Repeating("back", "Carried back on request", "request", row =>
        {
            var to = row.CalendarYear("year", "Year it is carried back to").Between(year - 3, year - 1).Required();
            row.NamedBy(to);
            row.Error("back-twice", row.RepeatsEarlier(to), "This year is entered twice; keep one request for each year.", to);
            return row.Entry("amount", "Amount").InWholeUnits().Required();
        }, "ITA 111(1)(a)", ofYear > 0);

        var nonCapitalLosses = Carried("non-capital", "Non-capital losses of earlier years", law.LossYears, "ITA 111(1)(a)", applies, ofReturn, $"{Key}.loss-carried");
        var capitalLosses = Carried("capital", "Net capital losses of earlier years", null, "ITA 111(1)(b)", applies, ofReturn, $"{Key}.capital-loss-carried");

        var (nonCapital, capital) = (nonCapitalLosses.Held, capitalLosses.Held);
        Section("Used this year", "ITA 111(1)", name: "used");
        var capitalClaim = Entry("capital-claim", "Net capital losses to use").InWholeUnits().OfOneYear().When(applies).Hint("blank: as much as counts");
        Capital = Line("capital-used", "Net capital losses used", Min(capitalClaim.Or(capital), capital, bases.TaxableGains, AtLeastZero(bases.BeforeLosses))).Law("ITA 111(1)(b), (1.1)").Hint("line 332");
        var claim = Entry("claim", "Non-capital losses to use").InWholeUnits().OfOneYear().When(applies).Hint("blank: as much as counts");
        NonCapital = Line("used-total", "Non-capital losses used", Min(claim.Or(nonCapital), nonCapital, AtLeastZero(bases.BeforeLosses - Capital))).Law("ITA 111(1)(a)").Hint("line 331");
        nonCapitalLosses.Use(NonCapital);
        capitalLosses.Use(Capital);
        var requested = Line("back-total", "Of the loss of this year carried back", back.Sum(b => b));
        Line("loss-carried", $"Loss of {year} carried forward", AtLeastZero(ofYear - requested));
        Line("capital-loss-carried", $"Net capital loss of {year} carried forward", bases.CapitalLoss + 0);

        Error("back-above-loss", requested > ofYear, $"More is carried back, {requested}, than the loss of the year, {ofYear}.", requested);
        Error("losses-above-income", claim > AtLeastZero(bases.BeforeLosses - Capital) & claim > 0, $"Losses of {claim} are used, and only {AtLeastZero(bases.BeforeLosses - Capital)} of income is left; use no more.", claim);
        Error("losses-above-pool", claim > nonCapital, $"Losses of {claim} are used; the losses that can still be used come to {nonCapital}.", claim);
        Error("capital-losses-above-gains", capitalClaim > bases.TaxableGains, $"Net capital losses count against taxable capital gains only, {bases.TaxableGains}.", capitalClaim);
        var taxBefore = Entry("tax-of-three-years", "Tax of the three years before").InWholeUnits().OfOneYear().When(ofYear > 0).From("last returns").Hint("for what a carry-back would give");
        Note("carry-back", ofYear > 0 & taxBefore > 0 & requested.Equals(0), $"The loss of {ofYear} could be carried back up to three years; up to {taxBefore} of tax was paid in them.", ofYear);
    }

    private PoolByYear Carried(string name, string title, Parameter? years, string section, Condition applies, string ofReturn, string single)
    {
        var year = Definition.Year;
        return YearPool(new PoolWords(
            name, title, "loss", "Year of the loss", "Left at the beginning", "last return, schedule 4", "Losses", year - 60, Definition.Period == Periods.Second ? year : year - 1, years)
        {
            Law = section,
            When = applies,
            InWholeUnits = true,
            Before = (Definition.PeriodBefore(ofReturn), single),
        });
    }
}
