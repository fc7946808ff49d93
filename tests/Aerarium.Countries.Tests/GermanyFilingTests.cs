using Aerarium.Core.Engine;
using Aerarium.Countries.Germany.Individual;

namespace Aerarium.Countries.Tests;

/// <summary>The e-return of Germany by an outside program, xmllint (libxml2), against the hand-written schema.</summary>
public sealed class GermanyFilingTests
{
    private static GermanyCase Complete(int year)
    {
        var complete = new GermanyCase(year).Couple()
            .With("taxpayer.number", "72041963532").With("taxpayer.tax-number", "9214031740526").With("taxpayer.office", "Seal Bank").With("taxpayer.name", "Annegret").With("taxpayer.occupation", "Optician")
            .With("taxpayer.address", "7 Dyke").With("taxpayer.kind", "original").With("taxpayer.spouse-number", "21398475611").With("taxpayer.spouse-name", "Jorin").With("payout.account", "DE89370400440532013000")
            .With("declaration.true-and-complete", "yes").With("declaration.name", "Annegret").With("declaration.capacity", "adviser").With("declaration.date", $"{year + 1}-03-01").With("declaration.agent-number", "4711000990")
            .With("declaration.agent-name", "Practice").With("declaration.contact-name", "T").With("declaration.contact-phone", "0431")
            .Wages(60_000, 25_000, "", ("church-tax", 1), ("severance", 10), ("severance-qualifies", "no"), ("employee-pension", 100), ("employer-pension", 100), ("health", 9.99m)).Wages(20_000, 3_000, "-spouse")
            .Way(100, 30.5m, 10.5m, 20).Child().Scope("home-office", "tools", "travel", "second-household", "moved", "benefits", "donations", "maintenance", "first-training", "own-insurance", "burdens", "household-work", "other-income", "prepayments", "subsidised-pension", "capital")
            .With("work-costs.home-office-days", 30).Row("work-costs.tools", ("what", "Lamp & desk"), ("bought", $"{year}-03-01"), ("net", 1_008), ("gross", 1_200), ("share", 50.5m), ("life", 3))
            .Row("work-costs.costs", ("class", "dues"), ("amount", 80)).Row("work-costs.trips", ("where", "Fair"), ("date", $"{year}-05-06"), ("part-days", 2))
            .With("work-costs.second-place", "Port").With("work-costs.second-since", "2020-01-01").With("work-costs.second-own-home", "yes").With("work-costs.second-months", 2).With("work-costs.second-rent", 900)
            .With("work-costs.moved-on", $"{year}-06-01").With("work-costs.moved-own-dwelling", "yes")
            .Row("wages.benefits", ("kind", "parental"), ("payer", "Office"), ("from", $"{year}-07-01"), ("until", $"{year}-12-31"), ("amount", 500))
            .Row("special.gifts", ("recipient", "Aid"), ("kind", "party"), ("amount", 70), ("proof", "receipt"))
            .With("special.maintenance", 500).With("special.maintenance-recipient", "13141567822").With("special.maintenance-consent", "yes").With("special.training", 40)
            .With("provident.sickness-pay", "yes").With("provident.subsidised", "yes").With("provident-spouse.subsidised", "yes").With("provident.contracts", 4).Row("provident.policies", ("kind", "liability"), ("amount", 40))
            .Row("burdens.costs", ("what", "Crown"), ("kind", "medical"), ("date", $"{year}-04-01"), ("cost", 300)).With("burdens.degree", "50")
            .Row("burdens.relatives", ("name", "Aunt"), ("number", "13141567822"), ("months", 12), ("paid", 900))
            .Row("household.work", ("kind", "craftsman"), ("payee", "Roofer"), ("date", $"{year}-04-01"), ("total", 300), ("labour", 200), ("account", "yes")).With("income.other-income", -50.5m).With("balance.prepaid", 600)
            .With("scope.compulsory", "none").With("taxpayer.notice", "paper").With("provident.pension-paid", 1_925).With("provident.pension-wage", 60_000).With("provident.pension-children", 1)
            .With("capital.way", "tariff").Row("capital.certificates", ("payer", "Dyke Bank"), ("whose", "spouse"), ("income", 2_900), ("used", 801), ("foreign", 3.5m), ("tax", 525), ("surcharge", 28.87m));
        return year == 2022 ? complete.With("wages.energy-from-assessment", "yes").With("wages-spouse.energy-from-assessment", "no") : complete;
    }

    [Theory]
    [InlineData(2022)]
    [InlineData(2023)]
    [InlineData(2024)]
    [InlineData(2025)]
    public void Xmllint_finds_the_e_return_valid(int year)
    {
        var evaluation = Complete(year).Evaluate();
        Assert.DoesNotContain(evaluation.Findings, f => f.Id.EndsWith(":missing", StringComparison.Ordinal) && !f.Id.StartsWith("scope", StringComparison.Ordinal));
        Assert.True(evaluation.Balance < 0);
        Xmllint.FindsValid(new IndividualEReturn(), evaluation);
    }

    /// <summary>Where each box of a paper goes: from its row to the first figures of the page computed from it; a name goes into none.</summary>
    [Theory]
    [InlineData("wages.statements.wage-tax", "wages.wage-tax")]
    [InlineData("wages.statements.several-tax", "wages.wage-tax")]
    [InlineData("wages.statements.subsidy-health", "wages.health")]
    [InlineData("wages.statements.severance", "wages.one-fifth")]
    [InlineData("wages.statements.pensions", "wages.pensions")]
    [InlineData("wages.statements.employer", "")]
    [InlineData("wages-spouse.statements.wage-tax", "wages-spouse.wage-tax")]
    [InlineData("capital.certificates.used", "capital.allowance-left,capital.own,capital.of-spouse,capital.foreign-own,capital.foreign-of-spouse,capital.withheld,capital.surcharge-withheld,capital.church-withheld")]
    [InlineData("provident.pension-paid", "provident.pension-right,provident.pension-least,provident.pension-allowances,provident.pension")]
    public void Each_box_of_a_paper_leads_to_what_is_computed_from_it(string line, string into)
    {
        var definition = Catalogue.Get(IndividualReturn.ReturnId, 2025);
        Assert.Equal(into, string.Join(',', Destinations.Of(definition)[definition.LineOf(line)].Select(l => l.Key)));
    }

    /// <summary>Apart, each has a return: incomes add up, and the alternative says what both cost.</summary>
    [Fact]
    public void Joint_or_separate_assessment_is_computed_whole()
    {
        var couple = new GermanyCase(2025).Couple().Wages(90_000, 25_000).Wages(12_000, 0, "-spouse").Evaluate();
        var election = Assert.Single(Alternatives.Of(couple, new DateOnly(2026, 3, 1)), e => e.Line.Key == "scope.joint");
        var apart = election.Choices.Single(c => c.Code == "no");
        Assert.Equal(2, apart.Returns.Count);
        Assert.Equal(
            [new GermanyCase(2025).Wages(90_000, 25_000).Evaluate().Balance, new GermanyCase(2025).Wages(12_000).Evaluate().Balance],
            apart.Returns.Select(r => r.Balance));
        Assert.True(election.Chosen!.Cost < apart.Cost);
        Assert.Null(election.Better);
    }
}
