using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Countries.Philippines.IndividualAnnual;
using Aerarium.Countries.Philippines.IndividualQuarterly;
using Aerarium.Filing;

namespace Aerarium.Server.Tests;

/// <summary>The Philippines' authority's rules for quarterly returns and for annual returns of a couple, tried with documents altered one figure at a time.</summary>
public sealed class QuarterlyExaminerTests() : ExaminerBench(Agent)
{
    private const string Agent = "30077001900000";

    private static readonly Dictionary<string, string> Common = new()
    {
        ["scope.status"] = "resident-citizen",
        ["scope.joint"] = "yes",
        ["scope.spouse-status"] = "resident-citizen",
        ["scope.foreign-tax"] = "no",
        ["scope.spouse-foreign-tax"] = "no",
        ["taxpayer.tin"] = "20100990000000",
        ["taxpayer.name"] = "Hiraya Lindenau",
        ["taxpayer.kind"] = "original",
        ["taxpayer.district-office"] = "039",
        ["taxpayer.citizenship"] = "Filipino",
        ["taxpayer.address"] = "17 Lighthouse Road",
        ["taxpayer.spouse-tin"] = "20100990100000",
        ["taxpayer.spouse-name"] = "Dalisay Lindenau",
        ["taxpayer.spouse-citizenship"] = "Filipino",
        ["declaration.true-and-complete"] = "yes",
        ["declaration.name"] = "Hiraya",
        ["declaration.capacity"] = "taxpayer",
        ["declaration.date"] = "2026-04-10",
        ["declaration.agent-tin"] = Agent,
        ["declaration.agent-name"] = "Practice",
        ["declaration.contact-name"] = "T",
        ["declaration.contact-phone"] = "0900",
        ["scope.business"] = "yes",
        ["scope.compensation"] = "no",
        ["scope.spouse-business"] = "yes",
        ["scope.spouse-compensation"] = "no",
        ["business.nature"] = "Weaving",
        ["business.method"] = "eight",
        ["business.vat-registered"] = "no",
        ["business-spouse.nature"] = "Dyeing",
        ["business-spouse.method"] = "standard",
        ["business-spouse.vat-registered"] = "no",
    };

    private static string Written(string id, string period, IEReturnMapping mapping, params (string Line, string Value)[] more)
    {
        var entries = new EntrySet { Values = new Dictionary<string, string>(Common) };
        foreach (var (line, value) in more)
        {
            entries.Values[line] = value;
        }

        return Encoding.UTF8.GetString(mapping.Write(Catalogue.Get(id, 2025, period).Evaluate(entries, new DateOnly(2026, 4, 10))).Content);
    }

    /// <summary>EX-B1 of the law sheet, third quarter, beside a spouse: 8% of 700,000 is 56,000; the spouse 60% of 500,000 is 300,000, 15% above 250,000 is 7,500.</summary>
    private static string Quarter() => Written(
        IndividualQuarterlyReturn.ReturnId, "q3", new IndividualQuarterlyEReturn(EReturnFormat.Xml), ("business.services", "450000"), ("tax.gross-before", "500000"), ("tax.net-before", "500000"),
        ("balance.withheld-quarter", "22500"), ("balance.withheld-before", "25000"), ("business-spouse.services", "500000"), ("tax-spouse.gross-before", "0"));

    private static string Couple() => Written(
        IndividualAnnualReturn.ReturnId, "", new IndividualAnnualEReturn(), ("business.services", "950000"), ("balance.withheld-quarters", "47500"),
        ("business-spouse.services", "500000"), ("scope.undivided", "yes"), ("undivided.income", "0"), ("scope.special-rate", "no"), ("scope.losses", "no"), ("scope.spouse-losses", "no"));

    [Fact]
    public void Sound_returns_are_accepted()
    {
        Assert.Empty(Examine(Quarter()));
        Assert.Empty(Examine(Couple()));
    }

    [Theory]
    [InlineData("<Balance>16000.00</Balance><PayableNow>", "<Balance>15000.00</Balance><PayableNow>", "ARITHMETIC", "/QuarterlyIncomeTaxReturn/Result/Balance")]
    [InlineData("<PayableNow>16000.00", "<PayableNow>0.00", "ARITHMETIC", "/QuarterlyIncomeTaxReturn/Result/PayableNow")]
    [InlineData("<Credits>47500.00", "<Credits>47000.00", "ARITHMETIC", "/QuarterlyIncomeTaxReturn/Computation/Credits")]
    [InlineData("<Balance>7500.00", "<Balance>7499.00", "ARITHMETIC", "/QuarterlyIncomeTaxReturn/SpouseColumn/Computation/Balance")]
    [InlineData("<Quarter>3", "<Quarter>4", "SCHEMA", "/QuarterlyIncomeTaxReturn/Header/Quarter")]
    [InlineData("20100990000000", "20100990099999", "IDENTIFIER", "/QuarterlyIncomeTaxReturn/Taxpayer/Tin")]
    public void One_wrong_figure_of_a_quarter_is_rejected(string sound, string wrong, string code, string path) => Rejects(Quarter(), sound, wrong, code, path);

    private static byte[] JsonQuarter() => Encoding.UTF8.GetBytes(Written(
        IndividualQuarterlyReturn.ReturnId, "q3", new IndividualQuarterlyEReturn(EReturnFormat.Json), ("business.services", "450000"), ("tax.gross-before", "500000"), ("tax.net-before", "500000"),
        ("balance.withheld-quarter", "22500"), ("balance.withheld-before", "25000"), ("business-spouse.services", "500000"), ("tax-spouse.gross-before", "0")));

    /// <summary>The same return in JSON has the same elements in the same order, and is examined alike; its signature stands beside it.</summary>
    [Fact]
    public void A_quarter_in_json_says_what_the_one_in_xml_says()
    {
        var json = JsonQuarter();
        Assert.Equal(SchemaCheck.Read(Encoding.UTF8.GetBytes(Quarter())).DocumentElement!.OuterXml, JsonEReturn.Read(json).OuterXml);
        Assert.Empty(Examiner.Examine(json, Archive, JsonSignature.Sign(json, Certificate)).Reasons);
        Assert.Equal("SIGNATURE", Assert.Single(Examiner.Examine(json, Archive).Reasons).Code);
        Assert.Equal("SIGNATURE", Assert.Single(Examiner.Examine(json, Archive, JsonSignature.Sign([.. json, 10], Certificate)).Reasons).Code);
    }

    [Theory]
    [InlineData("\"PayableNow\":\"16000.00\"", "\"PayableNow\":\"0.00\"", "ARITHMETIC", "/QuarterlyIncomeTaxReturn/Result/PayableNow")]
    [InlineData("\"Quarter\":\"3\"", "\"Quarter\":\"4\"", "SCHEMA", "/QuarterlyIncomeTaxReturn/Header/Quarter")]
    [InlineData("\"PayableNow\":\"16000.00\"", "\"PayableNow\":16000.00", "SCHEMA", "/QuarterlyIncomeTaxReturn/Result/PayableNow")]
    [InlineData("20100990000000", "20100990099999", "IDENTIFIER", "/QuarterlyIncomeTaxReturn/Taxpayer/Tin")]
    public void One_wrong_figure_of_a_quarter_in_json_is_rejected(string sound, string wrong, string code, string path)
    {
        var text = Encoding.UTF8.GetString(JsonQuarter());
        Assert.Contains(sound, text);
        var altered = Encoding.UTF8.GetBytes(text.Replace(sound, wrong, StringComparison.Ordinal));
        Assert.Contains(Examiner.Examine(altered, Archive, JsonSignature.Sign(altered, Certificate)).Reasons, r => r.Code == code && r.Path == path);
    }

    [Theory]
    [InlineData("<Result><TaxDue>63500.00", "<Result><TaxDue>63501.00", "ARITHMETIC", "/AnnualIncomeTaxReturn/Result/TaxDue")]
    [InlineData("<PayableNow>16000.00", "<PayableNow>15999.00", "ARITHMETIC", "/AnnualIncomeTaxReturn/Result/PayableNow")]
    [InlineData("<TaxDue>7500.00", "<TaxDue>7000.00", "ARITHMETIC", "/AnnualIncomeTaxReturn/SpouseColumn/Computation/TaxDue")]
    public void One_wrong_figure_of_a_couple_is_rejected(string sound, string wrong, string code, string path) => Rejects(Couple(), sound, wrong, code, path);

    /// <summary>
    /// A credit stands on what the authority has accepted: for the quarter itself on its list, for those before on their returns; by the stand-in's registry
    /// 10,000, 15,000 and 22,500 of the three quarters were filed elsewhere, which what is accepted later replaces.
    /// </summary>
    [Fact]
    public void A_credit_that_nothing_accepted_stands_behind_is_refused()
    {
        Rejects(Quarter(), "<WithheldThisQuarter>22500.00", "<WithheldThisQuarter>22501.00", "CREDIT", "/QuarterlyIncomeTaxReturn/Computation/WithheldThisQuarter");
        Rejects(Quarter(), "<WithheldBefore>25000.00", "<WithheldBefore>25001.00", "CREDIT", "/QuarterlyIncomeTaxReturn/Computation/WithheldBefore");
        Rejects(Quarter(), "<PaidBefore>0.00", "<PaidBefore>1.00", "CREDIT", "/QuarterlyIncomeTaxReturn/Computation/PaidBefore");
        Rejects(Couple(), "<WithheldQuarters>47500.00", "<WithheldQuarters>47501.00", "CREDIT", "/AnnualIncomeTaxReturn/Computation/WithheldQuarters");
        Rejects(Couple(), "<WithheldLastQuarter>0.00", "<WithheldLastQuarter>1.00", "CREDIT", "/AnnualIncomeTaxReturn/Computation/WithheldLastQuarter");

        // The third quarter is filed with a balance of 8,500, and the spouse's of 7,500: the annual return may claim them in their columns, and no more.
        var quarter = JsonQuarter();
        Assert.NotNull(Archive.Receive("a", quarter, a => Examiner.Examine(quarter, a, JsonSignature.Sign(quarter, Certificate))).Acknowledgement);
        Assert.Equal(quarter, Archive.Document(Archive.Find("a")!));
        foreach (var (own, spouse, refused) in new[] { (8_500, 7_500, ""), (8_501, 7_500, "/AnnualIncomeTaxReturn/Computation/QuarterlyPaid"), (8_500, 7_501, "/AnnualIncomeTaxReturn/SpouseColumn/Computation/QuarterlyPaid") })
        {
            var columns = Couple().Split("<QuarterlyPaid>0.00");
            Assert.Equal(3, columns.Length);
            Assert.Equal(refused, Examine($"{columns[0]}<QuarterlyPaid>{own}.00{columns[1]}<QuarterlyPaid>{spouse}.00{columns[2]}").FirstOrDefault(r => r.Code == "CREDIT")?.Path ?? "");
        }

        // The list of the fourth quarter: 1,234.51 rounds to 1,235.
        var list = Encoding.UTF8.GetBytes("list||2025-Q4|original|20100990000000|Hiraya Lindenau|||||2026-06-18\r\ncertificate|1|2025-Q4||00551230000000|Coral Window|WI010|24690.20|5|1234.51|\r\ntotals|1|2025-Q4|||||24690.20||1234.51|\r\n");
        Assert.Empty(Archive.Receive("list", list, a => Examiner.ExamineList(list, "ph/withholding-credits", "2025", a)).Reasons);
        foreach (var (claimed, refused) in new[] { (1_235, 1), (1_236, 2) })
        {
            // The spouse has no list of her own.
            Assert.Equal(refused, Examine(Couple().Replace("<WithheldLastQuarter>0.00", $"<WithheldLastQuarter>{claimed}.00", StringComparison.Ordinal)).Count(r => r.Code == "CREDIT"));
        }
    }

    /// <summary>The same taxpayer files a return for every quarter; the same quarter twice is refused.</summary>
    [Fact]
    public void Quarters_are_told_apart_and_none_is_taken_twice()
    {
        var second = Written(IndividualQuarterlyReturn.ReturnId, "q2", new IndividualQuarterlyEReturn(EReturnFormat.Xml), ("business.services", "450000"), ("business-spouse.services", "500000"));
        Assert.NotNull(Archive.Receive("a", Sign(Quarter()), a => Examiner.Examine(Sign(Quarter()), a)).Acknowledgement);
        Assert.NotNull(Archive.Receive("b", Sign(second), a => Examiner.Examine(Sign(second), a)).Acknowledgement);
        Assert.Contains(Archive.Receive("c", Sign(Quarter()), a => Examiner.Examine(Sign(Quarter()), a)).Reasons, r => r.Code == "DUPLICATE");
    }
}
