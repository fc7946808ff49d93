using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Gifts of the year and carried from earlier years; either spouse may claim those of both.</summary>
public sealed class GiftsForm : Form
{
    /// <summary>Gifts claimed this year.</summary>
    public readonly AmountLine Claimed;

    /// <summary>Declares the form.</summary>
    public GiftsForm(Definition definition, FederalLaw law, ScopeForm scope, AmountLine throughEmployers, AmountLine netIncome)
        : base(definition, "gifts", "Gifts", "Receipts of registered charities, and what is left of earlier years; the oldest is used first.", scope.Gifts | scope.Spouse | scope.Employment)
    {
        var year = law.Year;
        var (first, last) = (new DateOnly(year, 1, 1), law.LastGift);
        var gifts = Repeating("gifts", $"Gifts for {year}", "gift", row =>
        {
            var charity = row.Text("charity", "Charity").From("receipt").Required();
            row.NamedBy(charity);
            row.Text("number", "Registration number").From("receipt");
            var date = row.Date("date", "Given on").From("receipt").Required();
            var amount = row.Entry("amount", "Amount").From("receipt").Required();
            var before = row.Answer("claimed-before", $"Claimed for {year - 1}?").When(date < new DateOnly(year, 3, 1)).Hint("money given in January and February 2025 could be");
            row.Error("gift-of-another-year", date.IsFilled() & (date < first | date > last), $"Gifts for {year} are those given from {first} to {last}; enter older ones under what is left of earlier years.", date);
            row.Error("gift-twice", row.RepeatsEarlier(charity, date, amount), "This gift is entered twice: same charity, same day, same amount.", charity);
            return row.Line("counts", "Counts", If(before, 0, amount));
        }, "ITA 118.1", scope.Gifts).AsGrid();

        var carried = YearPool(new PoolWords(
            "carried", "Left of earlier years", "year", "Year of the gifts", "Left at the beginning of the year", "last return, Schedule 9", "Gifts", year - 30, year - 1, law.GiftsYears)
        {
            Law = "ITA 118.1(1) \"total charitable gifts\"",
            When = scope.Gifts,
            Findings = "gift",
            Before = (new TiedReturn(IndividualReturn.ReturnId, 1), $"{Key}.left-of-year"),
        });

        Section("Claimed this year", "ITA 118.1(1), (3)", name: "claimed");
        var ofYear = Line("of-year", $"Gifts of {year}", gifts.Sum(g => g) + throughEmployers);
        var toSpouse = Answer("claimed-by-spouse", $"Gifts of {year} claimed on the spouse's return?").OfOneYear().When(scope.Spouse).Hint("compared for both in the household");
        Line("to-spouse", "Goes to the spouse's return", If(toSpouse, ofYear, 0));
        var received = Entry("from-spouse", $"Gifts of {year} from the spouse's return").OfOneYear().When(scope.Spouse).TiedTo(new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line($"{Key}.to-spouse"));
        var own = Line("own", $"Gifts of {year} that can be claimed here", If(toSpouse, 0, ofYear) + received);
        var available = Line("available", "With those left of earlier years", own + carried.Held);
        var most = Line("most", "At most", If(scope.DiedOn.IsFilled(), netIncome, Round(law.GiftsLimit * netIncome, ToCents))).Law("ITA 118.1(1) \"total gifts\"");
        var how = Choice("how", "How much to claim now", [new("all", "As much as counts"), new("part", "A part"), new("none", "Nothing: carry all forward")]).OfOneYear().RequiredWhen(available > 0)
            .Elective($"what is not claimed can be in the next {law.GiftsYears.ValueInWords} years");
        var part = Entry("part", "The part").OfOneYear().When(how.Is("part")).RequiredWhen(how.Is("part"));
        Claimed = Line("claimed", "Gifts claimed", If(how.Is("all"), Min(available, most), If(how.Is("part"), Min(part, available, most), 0))).Law("ITA 118.1(3); line 34000").Final();
        var usedOfCarried = Line("used-of-carried", "of which left of earlier years", Min(Claimed, available - own));
        Line("left-of-year", $"Gifts of {year} carried forward", own - (Claimed - usedOfCarried));
        carried.Use(usedOfCarried);

        Error("gifts-above-limit", part > most, $"Gifts of {part} are above {law.GiftsLimit} of net income, {most}; claim less and carry the rest.", part);
        Note("gifts-expire", carried.LastTime & Claimed < available, "Gifts of the oldest year can be used for the last time this year.", Claimed);
    }
}
