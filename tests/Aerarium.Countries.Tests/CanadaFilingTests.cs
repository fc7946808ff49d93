using System.Text;
using System.Xml.Linq;
using Aerarium.Core.Engine;
using Aerarium.Countries.Canada.Individual;

namespace Aerarium.Countries.Tests;

/// <summary>The e-return of Canada by an outside program, xmllint (libxml2), against the hand-written schema, with every part of the return filled.</summary>
public sealed class CanadaFilingTests
{
    private static CanadaCase Complete(int year, string province)
    {
        var @case = new CanadaCase(year, province)
            .With("taxpayer.name", "Ottoline Quillfeather").With("taxpayer.language", "english").With("taxpayer.address", "11 Foghorn Terrace").With("taxpayer.postal-code", "V8W 1A4").With("scope.citizen", "yes")
            .With("scope.elections-list", "no").With("scope.notices-online", "yes").With("taxpayer.kind", "original").With("taxpayer.access-code", "4QX7B2M9")
            .With("declaration.true-and-complete", "yes").With("declaration.name", "Ottoline").With("declaration.capacity", "taxpayer").With("declaration.date", $"{year + 1}-03-01").With("declaration.agent-number", "700000458")
            .With("declaration.agent-name", "Practice").With("declaration.contact-name", "Tarek").With("declaration.contact-phone", "604").With("declaration.authorised", "yes").With("declaration.authorised-on", $"{year + 1}-03-01")
            .With("declaration.authorised-by", "pen").With("payout.bank", "Union").With("payout.account-number", "1002080900378")
            .Slip(60_000, 3_000, 0, 900, 90_000, ("account", "100000017RP0001"), ("pensionable", 60_000), ("insurable", 60_000)).Spouse(4_000).With("taxpayer.spouse-sin", "046000741").With("taxpayer.spouse-name", "Bram")
            .With("scope.spouse-in-business", "no").With("scope.foreign-property", "no").Scope("dependants").Row("family.dependants", ("name", "Jory"), ("relation", "child"), ("birth-date", "2015-07-01"), ("net-income", 0), ("infirm", "no"))
            .Pension(9_000, 500).With("benefits.old-age", 10).With("benefits.public-plan", 20).With("benefits.split-given", 100).Scope("benefits").Row("benefits.insurance", ("payer", "C"), ("total", 50), ("regular", 40), ("rate", 30), ("tax", 5))
            .Scope("investment").Row("investments.slips", ("payer", "Bank & Co"), ("interest", 640), ("eligible", 100), ("other", 50), ("gains", 5), ("joint", "yes"), ("share", 50), ("owners", "Bram"), ("with-spouse", "yes"))
            .Row("investments.from-spouse", ("payer", "B"), ("interest", 3)).Scope("gains").Row("gains.sales", ("description", "Shares"), ("kind", "shares"), ("acquired", 2010), ("proceeds", 10), ("cost", 30), ("outlays", 1))
            .Scope("home").Row("home.homes", ("address", "7 Larkspur Close"), ("bought", "2010-05-01"), ("sold", $"{year}-08-15"), ("resident-when-bought", "yes"), ("designation", "2"), ("proceeds", 612_000), ("cost", 398_000))
            .Row("home.years", ("of", 1), ("from", 2010), ("to", 2013)).Business(500).Row("business.expenses", ("of", 1), ("class", "meals"), ("amount", 50)).Scope("rental")
            .Row("rental.properties", ("address", "Lane"), ("share", 50), ("rent", 900)).Row("rental.expenses", ("of", 1), ("class", "tax"), ("amount", 20)).Scope("other-income")
            .Row("other.items", ("kind", "scholarship"), ("payer", "C"), ("amount", 5)).Scope("retirement").With("retirement.limit-stated", 5_000).With("retirement.contributions-year", 100).With("retirement.how", "all")
            .Scope("work-costs").With("work-costs.certificate", "yes").With("work-costs.commission", "no").With("work-costs.condition", "meetings").With("work-costs.area", 10).With("work-costs.home-area", 100)
            .Row("work-costs.costs", ("class", "rent"), ("amount", 1_000)).Scope("child-care").Row("child-care.children", ("name", "Jory"), ("birth-date", "2015-07-01"), ("carer", "N"), ("cost", 10))
            .Scope("carrying").With("income.other-dues", 1).Scope("losses").Row("income.losses", ("year", 2012), ("amount", 7)).Row("income.capital-losses", ("year", 2012), ("amount", 9)).Receipt(9_000).Gift(100)
            .Row("gifts.carried", ("year", year - 1), ("amount", 3)).Scope("political").With("federal.political", 10).Scope("instalments").Row("balance.instalments", ("date", $"{year}-09-15"), ("amount", 70))
            .Tuition(3_000).With("tuition.designee", "parent").With("tuition.designee-name", "P").With("tuition.designee-sin", "046001111").With("tuition.designation-signed", "yes").Scope("disability").With("federal.certificate", "yes")
            .Scope("student-transfer", "other-amounts");
        return year < 2024 ? @case.With($"{(province == "on" ? "ontario" : province == "ab" ? "alberta" : "bc")}.tax-entered", 900) : province == "bc" ? @case.With("bc.rents", "no") : @case;
    }

    [Theory]
    [InlineData(2016, "on")]
    [InlineData(2023, "ab")]
    [InlineData(2024, "on")]
    [InlineData(2025, "bc")]
    [InlineData(2025, "ab")]
    [InlineData(2025, "on")]
    public void Xmllint_finds_the_e_return_valid(int year, string province)
    {
        var evaluation = Complete(year, province).Evaluate();
        Assert.True(evaluation.Balance < 0);
        Xmllint.FindsValid(new IndividualEReturn(), evaluation);
    }

    [Fact]
    public void Only_the_tax_of_the_province_of_residence_is_written()
    {
        var document = XDocument.Parse(Encoding.UTF8.GetString(new IndividualEReturn().Write(Complete(2025, "ab").Evaluate()).Content));
        XNamespace ns = "urn:aerarium:standin:ca:individual:2016";
        Assert.Equal((true, false, false), (document.Root!.Element(ns + "Alberta") is not null, document.Root.Element(ns + "Ontario") is not null, document.Root.Element(ns + "BritishColumbia") is not null));
        Assert.Equal("home.years.from", new IndividualEReturn().Write(Complete(2025, "ab").Evaluate()).Places["/IndividualReturn/Schedules/Home/Designated/From"].Line);
    }
}
