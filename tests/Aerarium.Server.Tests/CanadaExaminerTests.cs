using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Countries.Canada.Individual;

namespace Aerarium.Server.Tests;

/// <summary>Canada's simulated authority judges by rules of its own: example W2 of the law sheet, altered one figure at a time.</summary>
public sealed class CanadaExaminerTests() : ExaminerBench("700000458")
{
    private static string Document(int year = 2024, string number = "046000378", string name = "Ottoline Quillfeather")
    {
        var entries = new EntrySet
        {
            Values =
            {
                ["scope.province"] = "on", ["scope.resident"] = "yes", ["scope.spouse"] = "no", ["scope.employment"] = "yes", ["scope.gifts"] = "yes", ["scope.political"] = "yes", ["scope.business"] = "no",
                ["scope.foreign-property"] = "no", ["scope.home"] = "no", ["taxpayer.sin"] = number, ["taxpayer.name"] = name, ["taxpayer.birth-date"] = "1977-03-30", ["taxpayer.marital-status"] = "single",
                ["taxpayer.language"] = "english", ["taxpayer.address"] = "11 Foghorn Terrace", ["taxpayer.postal-code"] = "V8W1A4", ["taxpayer.kind"] = "original", ["gifts.how"] = "all", ["federal.political"] = "500",
                ["declaration.true-and-complete"] = "yes", ["declaration.name"] = "Ottoline", ["declaration.capacity"] = "taxpayer", ["declaration.date"] = "2026-06-01", ["declaration.agent-number"] = "700000458",
                ["declaration.agent-name"] = "Practice", ["declaration.contact-name"] = "T", ["declaration.contact-phone"] = "604", ["declaration.authorised"] = "yes", ["declaration.authorised-on"] = "2026-06-01",
                ["declaration.authorised-by"] = "pen",
            },
            Rows =
            {
                ["employment.slips"] =
                [
                    new EntryRow("1")
                    {
                        Values =
                        {
                            ["payer"] = "Works", ["place"] = "on", ["income"] = "130000", ["plan"] = "3867.50", ["second"] = "188", ["premiums"] = "1049.12", ["tax"] = "35500", ["pension-plan"] = "6500", ["dues"] = "800",
                        },
                    },
                ],
                ["gifts.gifts"] = [new EntryRow("2") { Values = { ["charity"] = "Library", ["date"] = $"{year}-06-15", ["amount"] = "1000" } }],
            },
        };
        return Encoding.UTF8.GetString(new IndividualEReturn().Write(Catalogue.Get(IndividualReturn.ReturnId, year).Evaluate(entries, new DateOnly(2026, 6, 1))).Content);
    }

    [Fact]
    public void A_sound_return_is_accepted()
    {
        Assert.Empty(Examine(Document()));
        Assert.Empty(Examine(Document(2025)));
    }

    [Theory]
    [InlineData("<Taxable>121862.00", "<Taxable>121863.00", "ARITHMETIC", "/IndividualReturn/Income/Taxable")]
    [InlineData("<Gross>22466.12", "<Gross>22466.13", "ARITHMETIC", "/IndividualReturn/FederalTax/Gross")]
    [InlineData("<Gross>9422.34", "<Gross>9422.35", "ARITHMETIC", "/IndividualReturn/Ontario/Gross")]
    [InlineData("<Amounts>21404.62", "<Amounts>21404.63", "ARITHMETIC", "/IndividualReturn/FederalTax/Amounts")]
    [InlineData("<Surtax>1079.88", "<Surtax>1079.87", "ARITHMETIC", "/IndividualReturn/Ontario/Tax")]
    [InlineData("<Deducted>35500.00", "<Deducted>35600.00", "ARITHMETIC", "/IndividualReturn/Balance/Deducted")]
    [InlineData("<Balance>-6545.34", "<Balance>-6545.33", "ARITHMETIC", "/IndividualReturn/Balance/Balance")]
    [InlineData("<Signed>true", "<Signed>false", "AUTHORISATION", "/IndividualReturn/Authorisation/Signed")]
    [InlineData("<Province>on", "<Province>bc", "PROVINCE", "/IndividualReturn/Ontario/Tax")]
    [InlineData("<Name>Ottoline Quillfeather", "<Name>Otto Quillfeather", "NAME", "/IndividualReturn/Taxpayer/Name")]
    public void What_does_not_agree_is_rejected(string sound, string wrong, string code, string path) => Rejects(Document(), sound, wrong, code, path);

    /// <summary>The authority has asked Hugo Brackenridge for 2024; until that has come it takes nothing later.</summary>
    [Fact]
    public void The_oldest_year_comes_first()
    {
        Assert.Contains(Examine(Document(2025, "046003331", "Hugo Brackenridge")), r => r.Code == "EARLIER" && r.Message.Contains("2024", StringComparison.Ordinal));
        Assert.Empty(Examine(Document(2024, "046003331", "Hugo Brackenridge")));
    }
}
