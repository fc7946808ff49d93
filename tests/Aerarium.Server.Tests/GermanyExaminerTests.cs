using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Countries.Germany.Individual;

namespace Aerarium.Server.Tests;

/// <summary>Germany's simulated authority judges by rules of its own: an employee as in example E1 of the law sheet, altered one figure at a time.</summary>
public sealed class GermanyExaminerTests() : ExaminerBench("4711000990")
{
    private static string Document(string number = "89213670484", string name = "Tjorven Brackwater")
    {
        var entries = new EntrySet
        {
            Values =
            {
                ["scope.resident"] = "yes", ["scope.state"] = "he", ["scope.family"] = "single", ["scope.advised"] = "yes", ["scope.first-return"] = "no", ["scope.employed"] = "yes", ["scope.commuting"] = "yes", ["scope.capital"] = "yes", ["capital.way"] = "assessed",
                ["taxpayer.number"] = number, ["taxpayer.tax-number"] = "2189013670484", ["taxpayer.office"] = "Seal Bank", ["taxpayer.name"] = name, ["taxpayer.birth-date"] = "1993-09-02", ["taxpayer.religion"] = "ev",
                ["taxpayer.address"] = "484 Driftwood Lane", ["taxpayer.kind"] = "original", ["provident.sickness-pay"] = "yes", ["provident.subsidised"] = "yes", ["payout.account"] = "DE89370400440532013000",
                ["declaration.true-and-complete"] = "yes", ["declaration.name"] = "Tjorven", ["declaration.capacity"] = "adviser", ["declaration.date"] = "2026-06-01", ["declaration.agent-number"] = "4711000990",
                ["declaration.agent-name"] = "Practice", ["declaration.contact-name"] = "T", ["declaration.contact-phone"] = "0431",
            },
            Rows =
            {
                ["wages.statements"] =
                [
                    new EntryRow("1")
                    {
                        Values =
                        {
                            ["employer"] = "Works", ["from"] = "2024-01-01", ["until"] = "2024-12-31", ["class"] = "1", ["gross"] = "48000", ["wage-tax"] = "6483.12", ["church-tax"] = "520", ["employer-pension"] = "4464",
                            ["employee-pension"] = "4464", ["health"] = "3900", ["care"] = "1104", ["unemployment"] = "624",
                        },
                    },
                ],
                ["capital.certificates"] = [new EntryRow("1") { Values = { ["payer"] = "Dyke Bank", ["income"] = "3000", ["used"] = "400", ["tax"] = "600", ["surcharge"] = "33" } }],
                ["work-costs.ways"] = [new EntryRow("1") { Values = { ["place"] = "Works", ["days"] = "160", ["distance"] = "32", ["by-car"] = "32" } }],
            },
        };
        return Encoding.UTF8.GetString(new IndividualEReturn().Write(Catalogue.Get(IndividualReturn.ReturnId, 2024).Evaluate(entries, new DateOnly(2026, 6, 1))).Content);
    }

    [Fact]
    public void A_sound_return_is_accepted() => Assert.Empty(Examine(Document()));

    /// <summary>Expenses of 1,689.60 leave 46,310.40; less church tax, old-age 4,464, basic insurance 4,848: 36,478, of which the tariff takes 6,345. Capital income of 3,000 less 1,000, of a church member: 2,000 / 4.09 = 488.99.</summary>
    [Theory]
    [InlineData("<Taxable>36478.00", "<Taxable>36479.00", "ARITHMETIC", "/EmployeeReturn/Computation/Taxable")]
    [InlineData("<ByTariff>6345.00", "<ByTariff>6346.00", "ARITHMETIC", "/EmployeeReturn/Computation/ByTariff")]
    [InlineData("<Flat>488.99", "<Flat>489.00", "ARITHMETIC", "/EmployeeReturn/Capital/Flat")]
    [InlineData("<Surcharge>26.89", "<Surcharge>26.90", "ARITHMETIC", "/EmployeeReturn/Capital/Surcharge")]
    [InlineData("<Assessed>true", "<Assessed>false", "ARITHMETIC", "/EmployeeReturn/Capital/Flat")]
    [InlineData("<Withheld>600.00", "<Withheld>601.00", "ARITHMETIC", "/EmployeeReturn/Capital/Withheld")]
    [InlineData("<IncomeTax>6833.99", "<IncomeTax>6834.00", "ARITHMETIC", "/EmployeeReturn/Computation/IncomeTax")]
    [InlineData("<SurchargeBase>6345.00</SurchargeBase><Surcharge>26.89", "<SurchargeBase>6345.00</SurchargeBase><Surcharge>0.00", "ARITHMETIC", "/EmployeeReturn/Computation/Surcharge")]
    [InlineData("<Withheld>6484.00", "<Withheld>6485.00", "ARITHMETIC", "/EmployeeReturn/Computation/Withheld")]
    [InlineData("<Deducted>1689.60", "<Deducted>1789.60", "ARITHMETIC", "/EmployeeReturn/Work/Deducted")]
    [InlineData("<Expenses>1689.60", "<Expenses>1789.60", "ARITHMETIC", "/EmployeeReturn/Work/Expenses")]
    [InlineData("<TaxNumber>2189013670484</TaxNumber>", "", "TAX-NUMBER", "/EmployeeReturn/Taxpayer/TaxNumber")]
    [InlineData("<Name>Tjorven Brackwater", "<Name>Tjorven Backwater", "NAME", "/EmployeeReturn/Taxpayer/Name")]
    public void What_does_not_agree_is_rejected(string sound, string wrong, string code, string path) => Rejects(Document(), sound, wrong, code, path);
}
