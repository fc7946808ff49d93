using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>Gifts to charities (schedule 2): the oldest first, at most a part of net income.</summary>
public sealed class GiftsForm : Form
{
    /// <summary>Gifts deducted.</summary>
    public readonly AmountLine Deducted;

    /// <summary>Declares the form.</summary>
    public GiftsForm(Definition definition, CorporationLaw law, Condition applies, AmountLine netIncome, string ofReturn, TieSource? giftsOfYear = null)
        : base(definition, "gifts", "Gifts", "Gifts of the period and what is left of earlier years.", applies)
    {
        var year = law.Year;
        Section("Gifts of the period", "ITA 110.1(1)");
        var ofYear = Entry("of-year", "Given in the period").InWholeUnits().OfOneYear().From("receipts").Required("Enter the gifts of the period; zero if there were none.");
        if (giftsOfYear is not null)
        {
            ofYear.TiedTo(giftsOfYear);
        }

        AmountLine? of = null, held = null;
        var carried = Repeating("carried", "Left of earlier years", "year", row =>
        {
            of = row.CalendarYear("year", "Year of the gifts").Between(year - 30, definition.Period == Periods.Second ? year : year - 1).Required();
            row.NamedBy(of);
            held = row.Entry("amount", "Left at the beginning").InWholeUnits().From("last return, schedule 2").Required();
            row.Error("gift-expired", of.IsFilled() & year - of > law.GiftYears, $"Gifts are carried forward for {law.GiftYears} years; these have expired.", of);
            row.Error("gift-year-twice", row.RepeatsEarlier(of), "This year is entered twice; keep one row for each year.", of);
            return row.Line("held", "Can still be used", If(year - of > law.GiftYears, 0, held));
        }, "ITA 110.1(1)").TiedTo(new RowTie(definition.PeriodBefore(ofReturn), $"{Key}.carried", "year", [new TiedColumn("year", "year"), new TiedColumn("amount", "left")])
        {
            LeftOutAtZero = "left",
            AndSingle = new TiedSingle($"{Key}.left-of-year", AmountIn: "amount", YearIn: "year"),
        });

        Section("Deducted", "ITA 110.1(1)");
        var most = Line("most", "At most", law.GiftLimit * AtLeastZero(netIncome), ToUnits);
        var available = Line("available", "Available", ofYear + carried.Sum(c => c));
        var claim = Entry("claim", "Deduct").InWholeUnits().OfOneYear().Hint("blank: as much as counts");
        Deducted = Line("deducted", "Gifts deducted", Min(claim.Or(available), available, most)).Final();
        var ofEarlier = Line("of-earlier", "of which of earlier years, the oldest first", Min(Deducted, available - ofYear));
        Line("left-of-year", "Gifts of the period carried forward", ofYear - (Deducted - ofEarlier));
        Continue(carried, row =>
        {
            var used = row.Line("used", "Deducted this year", row.UsedInOrder(held!, of!, ofEarlier));
            return row.Line("left", "Left for later years", If(year - of! >= law.GiftYears, 0, held! - used));
        });
        Error("gifts-above-limit", claim > most, $"Gifts of {claim} are above {law.GiftLimit} of net income, {most}; deduct less and carry the rest.", claim);
    }
}
