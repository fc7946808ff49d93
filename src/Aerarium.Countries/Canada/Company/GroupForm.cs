using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>
/// The business limit: shared within a group of associated companies by one agreement (schedule 23), reckoned by days in a short year, reduced by taxable capital and by investment income.
/// What companies of the group that are clients too have is taken from their returns.
/// </summary>
public sealed class GroupForm : Form
{
    private sealed record Member(AmountLine Percent, AmountLine Capital, AmountLine Investment);

    /// <summary>The limit after both reductions, and after that for capital alone, which Ontario goes by.</summary>
    public readonly AmountLine Limit, LimitOfOntario;

    /// <summary>The limit before its reductions.</summary>
    public readonly AmountLine Share;

    /// <summary>Declares the form.</summary>
    public GroupForm(Definition definition, CorporationLaw law, ScopeForm scope)
        : base(definition, "group", "Business limit", "The limit of the small business deduction, and how a group shares it.", scope.Private)
    {
        Section("This company", "ITA 125(2), (5.1)");
        var capital = Entry("capital", "Taxable capital employed in Canada, this period").InWholeUnits().OfOneYear().From("schedule 33").Required("Enter the taxable capital; the total of the balance sheet less payables is a first measure.");
        var capitalBefore = Entry("capital-before", "of the period before").InWholeUnits().OfOneYear().When(!scope.First).RequiredWhen(!scope.First).From("last return").TiedTo(LastYear("group.capital"));
        var investmentBefore = Entry("investment-before", "Adjusted aggregate investment income of the year before").InWholeUnits().OfOneYear().When(!scope.First).RequiredWhen(!scope.First).From("last return").TiedTo(LastYear("dividends.aggregate"));

        Section("Agreement of the group", "ITA 125(3), 256", scope.Associated, name: "agreement");
        var percent = Measure("percent", "This company's part of the limit", 4).Unit("%").Between(0, 100).OfOneYear().Required();
        var ofClients = Measure("percent-of-others", "Parts of the associated companies among the clients", 4).Unit("%").OfOneYear().TiedTo(Others($"{Key}.percent")).Hint("from their returns");
        var capitalOfClients = Entry("capital-of-others", "Their taxable capital, last years ended in the calendar year before").InWholeUnits().OfOneYear().TiedTo(Others($"{Key}.capital", 1)).Hint("from their returns");
        var investmentOfClients = Entry("investment-of-others", "Their investment income of those years").InWholeUnits().OfOneYear().TiedTo(Others("dividends.aggregate", 1)).Hint("from their returns");

        var members = Repeating("members", "Other associated companies", "company", row =>
        {
            row.NamedBy(row.Text("name", "Name").Required());
            row.Identifier("bn", "Business number", CanadaIdentifiers.BusinessNumber).Required();
            row.Date("period-end", "Its period ends on");
            var part = row.Measure("percent", "Part of the limit", 4).Unit("%").Between(0, 100).OfOneYear().Required();
            var itsCapital = row.Entry("capital", "Taxable capital, year before").InWholeUnits().OfOneYear().Required();
            return new Member(part, itsCapital, row.Entry("investment", "Investment income, year before").InWholeUnits().OfOneYear().Required());
        }, "ITA 125(3), 256", scope.Associated).AsGrid();

        Section("Business limit", "ITA 125(2), (5), (5.1)", name: "limit");
        var percents = NumberLine("percents", "Parts of the whole group", If(scope.Associated, percent + ofClients + members.Sum(m => m.Percent), 100)).Unit("%");
        var share = Line("share", "Limit of this company in a whole year", If(scope.Associated, law.BusinessLimit * percent / 100, law.BusinessLimit));
        Share = Line("by-days", "By the days of the period", If(scope.Days < law.WholeLimitDays, share * scope.Days / law.YearDays, share), ToUnits).Law("ITA 125(5)(b)").Subtotal();
        var counted = Line("capital-counted", "Taxable capital that counts", If(scope.Associated, capitalBefore + capitalOfClients + members.Sum(m => m.Capital), If(scope.AssociatedLastYear, capital, capitalBefore))).Law("ITA 125(5.1)(a)");
        var measure = Line("capital-measure", "Its part above the threshold", law.CapitalShare * AtLeastZero(counted - law.CapitalFrom), ToUnits).Law("ITA 125(5.1)(a)");
        var byCapital = Line("capital-reduction", "Reduction for taxable capital", Min(Share, Round(Share * measure / law.CapitalDivisor, ToUnits))).Law("ITA 125(5.1)(a)");
        var income = Line("investment-counted", "Investment income that counts", investmentBefore + If(scope.Associated, investmentOfClients + members.Sum(m => m.Investment), 0)).Law("ITA 125(7) \"adjusted aggregate investment income\"");
        var byIncome = Line("investment-reduction", "Reduction for investment income", Min(Share, Round(Share / law.BusinessLimit * law.PassiveFactor * AtLeastZero(income - law.PassiveFrom), ToUnits))).Law("ITA 125(5.1)(b)");
        Limit = Line("limit", "Business limit", Share - Max(byCapital, byIncome)).Law("ITA 125(5.1)").Hint("the larger reduction, not both").Final();
        LimitOfOntario = Line("limit-ontario", "Business limit for Ontario", Share - byCapital).Law("ON-TA 31").Hint("without the reduction for investment income");

        Error("agreement-above-whole", percents > 100, $"The group shares out {percents}% of the limit; together it is at most 100%. Change the parts in the returns concerned: there is one agreement.", percent);
        Note("investment-shrinks", income > law.PassiveFrom, $"Investment income of the group of {income} is above {law.PassiveFrom}: the limit shrinks by {byIncome}.", income);

        TieSource LastYear(string line) => definition.PeriodBefore(CompanyReturn.ReturnId).Line(line);
        TieSource Others(string line, int yearsBack = 0) => (new TiedReturn(CompanyReturn.ReturnId, yearsBack, Relation: "associated") { Latest = yearsBack > 0 }).Line(line);
    }
}
