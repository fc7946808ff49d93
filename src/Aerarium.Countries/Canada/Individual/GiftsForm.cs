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

        AmountLine? of = null;
        AmountLine? held = null;
        var carried = Repeating("carried", "Left of earlier years", "year", row =>
        {
            of = row.CalendarYear("year", "Year of the gifts").Between(year - 30, year - 1).Required();
            row.NamedBy(of);
            held = row.Entry("amount", "Left at the beginning of the year").From("last return, Schedule 9").Required();
            row.Error("gift-expired", of.IsFilled() & year - of > law.GiftsYears, $"Gifts are carried forward for {law.GiftsYears} years; these have expired.", of);
            row.Error("gift-year-twice", row.RepeatsEarlier(of), "This year is entered twice; keep one row for each year.", of);
            return row.Line("held", "Can still be used", If(year - of > law.GiftsYears, 0, held));
        }, "ITA 118.1(1) \"total charitable gifts\"", scope.Gifts).TiedTo(new RowTie(
            new TiedReturn(IndividualReturn.ReturnId, 1), $"{Key}.carried", "year", [new TiedColumn("year", "year"), new TiedColumn("amount", "left")])
        {
            LeftOutAtZero = "left",
            AndSingle = new TiedSingle($"{Key}.left-of-year", AmountIn: "amount", YearIn: "year"),
        });

        Section("Claimed this year", "ITA 118.1(1), (3)", name: "claimed");
        var ofYear = Line("of-year", $"Gifts of {year}", gifts.Sum(g => g) + throughEmployers);
        var toSpouse = Answer("claimed-by-spouse", $"Gifts of {year} claimed on the spouse's return?").OfOneYear().When(scope.Spouse).Hint("compared for both in the household");
        Line("to-spouse", "Goes to the spouse's return", If(toSpouse, ofYear, 0));
        var received = Entry("from-spouse", $"Gifts of {year} from the spouse's return").OfOneYear().When(scope.Spouse).TiedTo(new TiedReturn(IndividualReturn.ReturnId, Relation: "spouse").Line($"{Key}.to-spouse"));
        var own = Line("own", $"Gifts of {year} that can be claimed here", If(toSpouse, 0, ofYear) + received);
        var available = Line("available", "With those left of earlier years", own + carried.Sum(c => c));
        var most = Line("most", "At most", If(scope.DiedOn.IsFilled(), netIncome, Round(law.GiftsLimit * netIncome, ToCents))).Law("ITA 118.1(1) \"total gifts\"");
        var how = Choice("how", "How much to claim now", [new("all", "As much as counts"), new("part", "A part"), new("none", "Nothing: carry all forward")]).OfOneYear().RequiredWhen(available > 0)
            .Elective($"what is not claimed can be in the next {law.GiftsYears.ValueInWords} years");
        var part = Entry("part", "The part").OfOneYear().When(how.Is("part")).RequiredWhen(how.Is("part"));
        Claimed = Line("claimed", "Gifts claimed", If(how.Is("all"), Min(available, most), If(how.Is("part"), Min(part, available, most), 0))).Law("ITA 118.1(3); line 34000").Final();
        var usedOfCarried = Line("used-of-carried", "of which left of earlier years", Min(Claimed, available - own));
        Line("left-of-year", $"Gifts of {year} carried forward", own - (Claimed - usedOfCarried));
        Continue(carried, row =>
        {
            var used = row.Line("used", "Used this year, the oldest first", row.UsedInOrder(held!, of!, usedOfCarried));
            return row.Line("left", "Left for later years", If(year - of! >= law.GiftsYears, 0, held! - used));
        });

        Error("gifts-above-limit", part > most, $"Gifts of {part} are above {law.GiftsLimit} of net income, {most}; claim less and carry the rest.", part);
        Note("gifts-expire", carried.Any(c => c > 0) & carried.CountWhere(_ => year - of! >= law.GiftsYears) > 0 & Claimed < available, "Gifts of the oldest year can be used for the last time this year.", Claimed);
    }
}
