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

        var carried = YearPool(new PoolWords(
            "carried", "Left of earlier years", "year", "Year of the gifts", "Left at the beginning", "last return, schedule 2", "Gifts",
            year - 30, definition.Period == Periods.Second ? year : year - 1, law.GiftYears)
        {
            Law = "ITA 110.1(1)",
            InWholeUnits = true,
            Used = "Deducted this year",
            Findings = "gift",
            Before = (definition.PeriodBefore(ofReturn), $"{Key}.left-of-year"),
        });

        Section("Deducted", "ITA 110.1(1)");
        var most = Line("most", "At most", law.GiftLimit * AtLeastZero(netIncome), ToUnits);
        var available = Line("available", "Available", ofYear + carried.Held);
        var claim = Entry("claim", "Deduct").InWholeUnits().OfOneYear().Hint("blank: as much as counts");
        Deducted = Line("deducted", "Gifts deducted", Min(claim.Or(available), available, most)).Final();
        var ofEarlier = Line("of-earlier", "of which of earlier years, the oldest first", Min(Deducted, available - ofYear));
        Line("left-of-year", "Gifts of the period carried forward", ofYear - (Deducted - ofEarlier));
        carried.Use(ofEarlier);
        Error("gifts-above-limit", claim > most, $"Gifts of {claim} are above {law.GiftLimit} of net income, {most}; deduct less and carry the rest.", claim);
    }
}
