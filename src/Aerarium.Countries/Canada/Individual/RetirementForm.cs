using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Retirement savings and the first home savings account: room, contributions, what is deducted now and what is kept.</summary>
public sealed class RetirementForm : Form
{
    /// <summary>Retirement savings deducted.</summary>
    public readonly AmountLine Deduction;

    /// <summary>First home savings deducted; nothing before there was such an account.</summary>
    public readonly Amount HomeSavings = 0;

    /// <summary>Declares the form.</summary>
    public RetirementForm(Definition definition, FederalLaw law, ScopeForm scope)
        : base(definition, "retirement", "Retirement and first home savings", "Room from the last assessment, what was contributed, and how much is deducted now.", scope.HomeSavings is null ? scope.Retirement : scope.Retirement | scope.HomeSavings)
    {
        TieSource LastYear(string line) => new TiedReturn(IndividualReturn.ReturnId, 1).Line($"{Key}.{line}");
        Section("Room", "ITA 146(1)", scope.Retirement);
        var stated = Entry("limit-stated", $"Deduction limit for {law.Year}").From($"assessment notice of {law.Year - 1}").OfOneYear().Hint("blank: worked out below");
        var unusedRoom = Entry("unused-room", "Unused room of earlier years").OfOneYear().MayBeNegative().When(stated.IsBlank()).From("assessment notice");
        var earned = Entry("earned-income", $"Earned income of {law.Year - 1}").OfOneYear().When(stated.IsBlank());
        var adjustment = Entry("pension-adjustment", $"Pension adjustment of {law.Year - 1}").OfOneYear().When(stated.IsBlank()).TiedTo(new TiedReturn(IndividualReturn.ReturnId, 1).Line("employment.adjustment"));
        var reversal = Entry("adjustment-reversal", "Pension adjustment reversal").OfOneYear().When(stated.IsBlank()).From("slip T10");
        var pastService = Entry("past-service", "Net past-service pension adjustment").OfOneYear().When(stated.IsBlank());
        var limit = Line("limit", "Deduction limit", If(
            stated.IsFilled(), stated, unusedRoom + Min(law.RetirementLimit, Round(law.RetirementShare * earned, ToCents)) - adjustment + reversal - pastService)).Law("ITA 146(1) \"RRSP deduction limit\"").Subtotal();

        Section("Contributions", "ITA 146(5)", scope.Retirement);
        var before = Entry("contributions-before", "Unused contributions of earlier years").From("assessment notice").OfOneYear().TiedTo(LastYear("contributions-left"));
        var rest = Entry("contributions-year", $"From March to December {law.Year}").From("receipts").OfOneYear();
        var early = Entry("contributions-early", $"In the first 60 days of {law.Year + 1}").From("receipts").OfOneYear().Hint($"until {law.LastContribution:d MMMM yyyy}");
        var available = Line("contributions", "Contributions that can be deducted", before + rest + early).Subtotal();
        var how = Choice("how", "How much to deduct now", [new("all", "As much as the limit allows"), new("part", "A part"), new("none", "Nothing: keep all for later")]).OfOneYear().Required()
            .Elective("what is not deducted now can be deducted in any later year");
        var part = Entry("part", "The part").OfOneYear().When(how.Is("part")).RequiredWhen(how.Is("part"));
        var most = Line("most", "At most", AtLeastZero(Min(limit, available)));
        Deduction = Line("deduction", "Retirement savings deducted", If(how.Is("all"), most, If(how.Is("part"), Min(part, most), 0))).Law("ITA 146(5); line 20800").Final();
        Line("contributions-left", "Contributions kept for later years", available - Deduction);
        Line("room-left", $"Room kept for {law.Year + 1}", limit - Deduction);
        Error("deduction-above-limit", part > most, $"{part} is above what can be deducted, {most}: the limit is {limit}, the contributions are {available}.", part);
        Warn("over-contributed", available > AtLeastZero(limit) + law.RetirementCushion,
            $"Contributions of {available} are above the limit of {limit} and the {law.RetirementCushion} beside it: {law.RetirementMonthlyTax} a month may be charged on the excess until it is withdrawn.", available);

        if (scope.HomeSavings is null || law.HomeSavingsYear is not { } yearly || law.HomeSavingsLifetime is not { } lifetime)
        {
            return;
        }

        Section("First home savings account", "ITA 146.6", scope.HomeSavings);
        var opened = Answer("home-opened", $"Opened in {law.Year}?").OfOneYear().RequiredWhen(scope.HomeSavings);
        var unused = Entry("home-unused-room", "Unused room of last year").OfOneYear().When(!opened).TiedTo(LastYear("home-room-left"));
        var earlier = Entry("home-contributed-before", "Contributed in earlier years").When(!opened).OfOneYear().TiedTo(LastYear("home-contributed"));
        var room = Line("home-room", "Room", AtLeastZero(Min(yearly + If(opened, 0, Min(yearly, unused)), lifetime - earlier))).Law("ITA 146.6(1)");
        var contributed = Entry("home-contributions", $"Contributed by 31 December {law.Year}").From("slip T4FHSA, box 18").OfOneYear().Hint("no first 60 days here");
        var kept = Entry("home-undeducted-before", "Contributions of earlier years not deducted yet").OfOneYear().When(!opened).TiedTo(LastYear("home-undeducted"));
        Entry("home-transferred", "Transferred from retirement savings").OfOneYear().Hint("never deducted");
        var howHome = Choice("home-how", "How much to deduct now", [new("all", "As much as can be deducted"), new("part", "A part"), new("none", "Nothing: keep all for later")]).OfOneYear().Required()
            .Elective("what is not deducted now can be deducted in any later year");
        var homePart = Entry("home-part", "The part").OfOneYear().When(howHome.Is("part")).RequiredWhen(howHome.Is("part"));
        var homeMost = Line("home-most", "At most", kept + Min(contributed, room));
        HomeSavings = Line("home-deduction", "First home savings deducted", If(howHome.Is("all"), homeMost, If(howHome.Is("part"), Min(homePart, homeMost), 0))).Law("ITA 60(d.1), 146.6; line 20805").Final();
        Line("home-undeducted", "Kept for later years", homeMost - HomeSavings);
        Line("home-room-left", $"Room that goes on to {law.Year + 1}", Min(yearly, AtLeastZero(room - contributed)));
        Line("home-contributed", "Contributed in all years together", earlier + contributed);
        Error("home-deduction-above", homePart > homeMost, $"{homePart} is above what can be deducted, {homeMost}.", homePart);
        Warn("home-over-contributed", contributed > room, $"{contributed} was contributed and the room is {room}: {law.RetirementMonthlyTax} a month may be charged on the excess.", contributed);
    }
}
