using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Homes sold: a page for each, the years it is designated as principal residence, the exempt and the taxable part of the gain.</summary>
public sealed class HomeForm : Form
{
    private sealed record Home(ChoiceLine Designation, AmountLine Taxable, Amount BusinessIncome);

    /// <summary>The part of the gains that is not exempt.</summary>
    public readonly AmountLine Gains;

    /// <summary>Gains on housing held so short that they are business income.</summary>
    public readonly Amount BusinessIncome;

    /// <summary>Declares the form.</summary>
    public HomeForm(Definition definition, FederalLaw law, ScopeForm scope)
        : base(definition, "home", "Home sold", "Every sale of a home is reported, even where the whole gain is exempt. A family designates one home for each year.", scope.Home)
    {
        // Years before 1972 do not count: gains were not taxed.
        const int FirstYear = 1_972;
        var homes = Pages("homes", "Homes", "home", page =>
        {
            page.Part("The home");
            page.NamedBy(page.Text("address", "Address").From("closing statement").Required());
            var bought = page.Date("bought", "Bought on").From("closing statement").Required();
            var sold = page.Date("sold", "Sold on").From("closing statement").Required();
            var resident = page.Answer("resident-when-bought", "Resident in Canada in the year of purchase?").UsuallyYes().Required();
            var code = page.Choice("designation", "Designation", [
                new("0", "None: the gain is taxed"), new("1", "One home, all years or all but one"), new("2", "One home, some years"), new("3", "Several homes"),
            ]).Required("Choose the designation for the home sold.").Law("ITA 54; form T2091(IND)");
            page.Count("years-let", "Years let, wholly or in part");

            page.Part("The sale", "ITA 40");
            var proceeds = page.Entry("proceeds", "Proceeds").From("closing statement").Required();
            var cost = page.Entry("cost", "Cost").From("purchase agreement").Required();
            var improvements = page.Entry("improvements", "Improvements").From("invoices");
            var outlays = page.Entry("outlays", "Costs of selling").From("closing statement");
            var gain = page.Line("gain", "Gain", AtLeastZero(proceeds - cost - improvements - outlays)).Law("ITA 40(1), 40(2)(g)(iii)").Subtotal();

            var lived = page.RowsWithin("lived", "Years lived in", "span of years", row =>
            {
                var from = row.CalendarYear("from", "From year").Between(FirstYear, law.Year).Required();
                var to = row.CalendarYear("to", "to year").Between(FirstYear, law.Year).Required();
                row.NamedBy(from);
                row.Error("lived-backwards", to < from & to.IsFilled() & from.IsFilled(), "The last year is before the first; enter the earlier year first.", to);
                return (From: from, To: to, Years: row.NumberLine("count", "Years", AtLeastZero(to - from + 1)).Unit("years"));
            }, "ITA 54 \"principal residence\"").AsGrid();

            var years = page.RowsWithin("years", "Years designated", "span of years", row =>
            {
                var from = row.CalendarYear("from", "From year").Between(FirstYear, law.Year).Required();
                var to = row.CalendarYear("to", "to year").Between(FirstYear, law.Year).Required();
                row.NamedBy(from);
                row.Error("span-backwards", to < from & to.IsFilled() & from.IsFilled(), "The last year is before the first; enter the earlier year first.", to);
                row.Error("year-designated-twice", row.OverlapsEarlier(from, to), $"A year between {from} and {to} is designated in another row; a family designates one home for each year.", from);
                return (From: from, To: to, Years: row.NumberLine("count", "Years", AtLeastZero(to - from + 1)).Unit("years"));
            }, "ITA 54 \"principal residence\"").AsGrid();

            page.Part("What is exempt and what is taxed", "ITA 40(2)(b)");
            var inhabited = page.NumberLine("years-lived", "Years lived in", PageScope.Sum(lived, l => l.Years)).Unit("years");
            var owned = page.NumberLine("years-owned", "Years owned", If(sold >= bought, Year(sold) - Max(Year(bought), FirstYear) + 1, 0)).Unit("years");
            var designated = page.NumberLine("years-designated", "Years designated", If(code.Is("0"), 0, PageScope.Sum(years, y => y.Years))).Unit("years");
            var counted = page.NumberLine("years-exempt", "Years exempt, with the extra year of a resident", If(designated > 0, designated + If(resident, 1, 0), 0)).Unit("years").Law("ITA 40(2)(b)");
            var short_ = law.FlippingDays is { } days
                ? page.Line("held-short", "Held for less than a year", DaysAfter(bought, sold) < days & sold.IsFilled() & bought.IsFilled())
                : null;
            var lifeEvent = short_ is null ? null : page.Choice("life-event", "Why it was sold so soon", [
                new("none", "No reason the law names"), new("death", "Death"), new("family", "Addition to the household"), new("separation", "Separation"), new("safety", "Personal safety"),
                new("illness", "Illness or disability"), new("work", "New place of work"), new("job-loss", "Loss of work"), new("insolvency", "Insolvency"), new("disaster", "Destruction or expropriation"),
            ]).When(short_).RequiredWhen(short_).Law("ITA 12(13)");
            Condition? flipped = short_ is null || lifeEvent is null ? null : short_ & !(lifeEvent.IsFilled() & !lifeEvent.Is("none"));
            var exempt = page.Line("exempt", "Exempt part of the gain",
                If(flipped is { } never ? never | owned.Equals(0) : owned.Equals(0), 0, gain * Min(1, counted / Max(owned, 1))), ToCents).Law("ITA 40(2)(b)");
            var rest = page.Line("rest", "Gain that is not exempt", gain - exempt).Subtotal();
            var business = flipped is null ? (Amount)0 : page.Line("business-income", "of which business income", If(flipped, rest, 0)).Law("ITA 12(12)");

            page.Error("sold-in-another-year", sold.IsFilled() & Year(sold).DiffersFrom(law.Year), $"The sale belongs on the return of the year in which it took place, not on that of {law.Year}.", sold);
            page.Error("sold-before-bought", bought.IsFilled() & sold.IsFilled() & sold < bought, "The home is sold before it was bought; check both dates.", sold, bought);
            page.Error("designated-outside-ownership", years.Any(y => y.From < Year(bought) & years.OfPage!.IsThisRow()) | years.Any(y => y.To > Year(sold) & years.OfPage!.IsThisRow()),
                $"A designated year lies outside the time of ownership, {bought} to {sold}.", designated);
            page.Error("no-years-designated", !code.Is("0") & code.IsFilled() & designated.Equals(0), "Add the years for which the home is designated, or choose that there is no designation.", code);
            page.Warn("designated-beyond-lived", inhabited > 0 & designated > inhabited, $"{designated} years are designated and the family lived there in {inhabited}; a designated year needs that somebody of the family lived there.", designated);
            if (flipped is not null)
            {
                page.Warn("home-held-short", flipped, $"The home was held for less than {law.FlippingDays!} days: the gain of {gain} is business income and no part of it is exempt, unless the law names the reason.", gain);
            }

            page.Note("designation-incomplete", !code.Is("0") & designated > 0 & counted < owned & gain > 0,
                $"{owned} years owned, {counted} counted as exempt: {rest} of the gain of {gain} is taxed. Where another home was owned, compare the gain for each year before designating.", designated);
            page.Warn("designation-code", (code.Is("1") & counted < owned & designated > 0) | (code.Is("2") & counted >= owned & designated > 0), "The designation chosen does not fit the years designated: all or all but one is the first, some years the second.", code);
            return new Home(code, rest, business);
        }, "ITA 40(2)(b), 54");

        Section("All homes", "ITA 40(2)(b)");
        BusinessIncome = law.FlippingDays is null ? 0 : Line("business-income", "Gains that are business income", homes.Sum(h => h.BusinessIncome)).Law("ITA 12(12)");
        Gains = Line("gains", "Gains on homes that are not exempt", homes.Sum(h => h.Taxable) - BusinessIncome).Law("Schedule 3").Subtotal();
        Warn("designation-number",
            (homes.RowCount > 1 & homes.Any(h => h.Designation.Is("1") | h.Designation.Is("2"))) | (homes.RowCount.Equals(1) & homes.Any(h => h.Designation.Is("3"))),
            "The designation does not fit the number of homes: with several homes choose that there are several, with one do not.", Gains);
        Error("no-home", scope.Home & homes.RowCount.Equals(0), "Add a page for the home sold, or answer in Scope that none was.", scope.Home);
        Warn("designation-late", scope.Home & homes.RowCount > 0 & OnToday > scope.FilingDay,
            $"The designation is late: {Min(law.LateDesignationMost, law.LateDesignationMonth * MonthsFrom(scope.FilingDay, OnToday))} may be charged, {law.LateDesignationMonth} for each month since {scope.FilingDay}, at most {law.LateDesignationMost}.", Gains);
    }
}
