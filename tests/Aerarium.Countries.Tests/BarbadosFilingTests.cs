using System.Text;
using System.Xml.Linq;
using Aerarium.Core.Engine;
using Aerarium.Countries.Barbados.Individual;

namespace Aerarium.Countries.Tests;

/// <summary>The e-return of Barbados by an outside program, xmllint (libxml2), against the hand-written schema; rows within pages under their page.</summary>
public sealed class BarbadosFilingTests
{
    private static BarbadosCase Complete(int year)
    {
        var declared = new BarbadosCase(year)
            .With("taxpayer.tin", "1000000000017").With("taxpayer.name", "Delphine Oakhurst").With("taxpayer.marital-status", "married").With("taxpayer.address", "4 Casuarina Row")
            .With("taxpayer.kind", "original").With("declaration.true-and-complete", "yes").With("declaration.name", "Delphine").With("declaration.capacity", "taxpayer")
            .With("declaration.date", $"{year + 1}-03-01").With("declaration.agent-number", "2000000000990").With("declaration.agent-name", "Practice")
            .With("declaration.contact-name", "Tarek").With("declaration.contact-phone", "246").With("payout.bank", "Bank").With("payout.branch", "Harbour").With("payout.account-number", "1")
            .With("payout.account-kind", "savings");
        return (year < 2020 ? declared.With("tax.tax-entered", 900) : declared)
            .Employer(60_000, 90_000, 500).Pension(1_000, 5).Business(9_000, 1_000).Business(500, 700).Energy(2, 12_000).Abroad(1_000, 100, 2.000125m).Property(18_000, 18_000)
            .Row("business.assets", ("of", 2), ("description", "Boat"), ("bought", "2019-03-02"), ("cost", 64_000))
            .Row("business.losses", ("year", year - 1), ("amount", 500), ("used", 100))
            .Row("rental.costs", ("of", 1), ("class", "repairs"), ("amount", 20.5m))
            .Scope("investment", "dues", "gifts", "agriculture", "culture", "medical", "domestic-worker", "pension-plan", "spouse", "children", "credits", "prepayments")
            .Row("investments.investments", ("payer", "Bank"), ("kind", "interest"), ("amount", 7), ("taxed-at-source", "no"))
            .Row("deductions.dues", ("body", "Union"), ("amount", 10))
            .Row("deductions.gifts", ("charity", "C & D"), ("number", "1"), ("amount", 50)).With("deductions.gifts-allowed", 50)
            .Row("deductions.agriculture", ("certificate", "A"), ("amount", 1)).Row("deductions.culture", ("certificate", "B"), ("amount", 2))
            .With("deductions.medical", 7).With("deductions.domestic-worker-number", "N1").With("deductions.domestic-worker", 3).With("deductions.pension-plan", 4)
            .With("allowances.spouse-name", "Cuthbert").With("allowances.spouse-registration", "8309020025").With("allowances.spouse-income", 1).With("allowances.spouse-allowance", 2)
            .Row("allowances.children", ("name", "K"), ("birth-date", "2015-01-01"), ("amount", 500)).With("balance.reverse-credit", 1)
            .Row("balance.payments", ("kind", "prepayment"), ("date", $"{year}-06-15"), ("reference", "R"), ("amount", 70));
    }

    [Theory]
    [InlineData(2018)]
    [InlineData(2019)]
    [InlineData(2020)]
    [InlineData(2025)]
    public void Xmllint_finds_the_e_return_valid(int year)
    {
        var evaluation = Complete(year).Evaluate();
        Assert.DoesNotContain(evaluation.Findings, f => f.Id.EndsWith(":missing", StringComparison.Ordinal) && !f.Id.StartsWith("scope", StringComparison.Ordinal));
        Assert.True(evaluation.Balance < 0);
        Xmllint.FindsValid(new IndividualEReturn(), evaluation);
    }

    [Fact]
    public void Expenses_stand_under_their_business()
    {
        var written = new IndividualEReturn().Write(Complete(2025).Evaluate());
        var document = XDocument.Parse(Encoding.UTF8.GetString(written.Content));
        XNamespace ns = "urn:aerarium:standin:bb:individual:2018";
        Assert.Equal(
            ["9000.00 1000.00 8000.00", "500.00 700.00 -200.00"],
            document.Descendants(ns + "Business").Where(b => b.Parent!.Name.LocalName == "Income").Select(b =>
                $"{b.Element(ns + "Turnover")!.Value} {b.Element(ns + "Expense")!.Element(ns + "Amount")!.Value} {b.Element(ns + "Profit")!.Value}"));
        Assert.Equal("Boat", document.Descendants(ns + "Business").Last(b => b.Parent!.Name.LocalName == "Income").Element(ns + "Asset")!.Element(ns + "Description")!.Value);
        Assert.Equal("business.expenses.amount", written.Places["/ResidentReturn/Income/Business[2]/Expense/Amount"].Line);
    }
}
