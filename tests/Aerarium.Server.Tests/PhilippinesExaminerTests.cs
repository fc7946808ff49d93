using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Countries.Philippines.IndividualAnnual;
using Aerarium.Filing;
using Aerarium.StandIn;

namespace Aerarium.Server.Tests;

/// <summary>The Philippines' authority's own rules, tried with documents altered one figure at a time.</summary>
public sealed class PhilippinesExaminerTests() : ExaminerBench(Agent)
{
    private const string Agent = "30077001900000";

    /// <summary>Compensation 720,000, of it 60,000 benefits and 41,000 contributions exempt; tax 22,500 + 20% of 219,000 = 66,300; 40,000 withheld; 26,300 in two parts.</summary>
    private static string Document()
    {
        var entries = new EntrySet
        {
            Values =
            {
                ["scope.status"] = "resident-citizen", ["scope.compensation"] = "yes", ["scope.business"] = "no", ["scope.foreign-tax"] = "no", ["scope.joint"] = "no",
                ["taxpayer.tin"] = "20100990000000", ["taxpayer.name"] = "Hiraya Lindenau", ["taxpayer.kind"] = "original", ["taxpayer.district-office"] = "039",
                ["taxpayer.citizenship"] = "Filipino", ["taxpayer.address"] = "17 Lighthouse Road", ["balance.two-parts"] = "yes", ["balance.second-part"] = "13000",
                ["declaration.true-and-complete"] = "yes", ["declaration.name"] = "Hiraya", ["declaration.capacity"] = "taxpayer", ["declaration.date"] = "2026-04-10",
                ["declaration.agent-tin"] = Agent, ["declaration.agent-name"] = "Practice", ["declaration.contact-name"] = "T", ["declaration.contact-phone"] = "0900",
            },
        };
        entries.Rows["compensation.employers"] =
        [
            new EntryRow("1")
            {
                Values =
                {
                    ["tin"] = "00551230000000", ["name"] = "Coral Window", ["gross"] = "720000", ["benefits"] = "60000", ["contributions"] = "41000", ["taxable"] = "619000", ["withheld"] = "40000",
                },
            },
        ];
        var evaluation = Catalogue.Get(IndividualAnnualReturn.ReturnId, 2025).Evaluate(entries, new DateOnly(2026, 4, 10));
        Assert.Equal(26_300, evaluation.Balance);
        return Encoding.UTF8.GetString(new IndividualAnnualEReturn().Write(evaluation).Content);
    }

    [Fact]
    public void A_sound_return_is_accepted() => Assert.Empty(Examine(Document()));

    [Theory]
    [InlineData("<Exempt>101000.00", "<Exempt>101001.00", "ARITHMETIC", "/AnnualIncomeTaxReturn/Compensation/Exempt")]
    [InlineData("<TaxDue>66300.00", "<TaxDue>66299.00", "ARITHMETIC", "/AnnualIncomeTaxReturn/Computation/TaxDue")]
    [InlineData("<Credits>40000.00", "<Credits>41000.00", "ARITHMETIC", "/AnnualIncomeTaxReturn/Computation/Credits")]
    [InlineData("<Balance>26300.00", "<Balance>26301.00", "ARITHMETIC", "/AnnualIncomeTaxReturn/Computation/Balance")]
    [InlineData("<Balance>26300.00", "<Balance>26300.50", "SCHEMA", "/AnnualIncomeTaxReturn/Computation/Balance")]
    [InlineData("<SecondPart>13000.00", "<SecondPart>33151.00", "SECOND-PART", "/AnnualIncomeTaxReturn/Computation/SecondPart")]
    [InlineData("20100990000000", "20100990099999", "IDENTIFIER", "/AnnualIncomeTaxReturn/Taxpayer/Tin")]
    [InlineData("Hiraya Lindenau", "Hiraya Lindenow", "NAME", "/AnnualIncomeTaxReturn/Taxpayer/Name")]
    [InlineData("<DistrictOffice>039", "<DistrictOffice>3", "SCHEMA", "/AnnualIncomeTaxReturn/Taxpayer/DistrictOffice")]
    [InlineData(Agent, "30077001900001", "SIGNATURE", "/AnnualIncomeTaxReturn/Representative/Tin")]
    public void One_wrong_figure_is_rejected_with_its_code_and_place(string sound, string wrong, string code, string path) =>
        Rejects(Document(), sound, wrong, code, path);
}

/// <summary>Agents sign in at the authority with HTTP Basic authentication (RFC 7617).</summary>
public class AuthorityAccountTests(SharedPractice shared) : IClassFixture<SharedPractice>
{
    private async Task<HttpStatusCode> PutAsync(string agent, string? authorization)
    {
        using var certificate = XmlSignature.MakeCertificate("Agent", "e-returns", DateTimeOffset.UtcNow.AddDays(-1), 1);
        using var http = new HttpClient { BaseAddress = new Uri(shared.Practice.AuthorityAddress) };
        using var request = new HttpRequestMessage(HttpMethod.Put, $"/agents/{agent}") { Content = JsonContent.Create(new { name = "Agent", certificate = Convert.ToBase64String(certificate.RawData) }) };
        if (authorization is not null)
        {
            request.Headers.Authorization = AuthenticationHeaderValue.Parse(authorization);
        }

        using var response = await http.SendAsync(request);
        return response.StatusCode;
    }

    private static string Basic(string account) => $"Basic {Convert.ToBase64String(Encoding.UTF8.GetBytes(account))}";

    [Theory]
    [InlineData(null)]
    [InlineData("Bearer abc")]
    [InlineData("Basic ###")]
    [InlineData("Basic bm9jb2xvbg==")]
    public async Task Without_a_user_name_and_secret_nobody_registers(string? authorization) =>
        Assert.Equal(HttpStatusCode.Unauthorized, await PutAsync("P051000009Z", authorization));

    [Fact]
    public async Task The_first_account_of_an_agent_is_the_only_one_it_answers()
    {
        Assert.Equal(HttpStatusCode.NoContent, await PutAsync("P051000008Y", Basic("quay:with:colons")));
        Assert.Equal(HttpStatusCode.NoContent, await PutAsync("P051000008Y", Basic("quay:with:colons")));
        Assert.Equal(HttpStatusCode.Unauthorized, await PutAsync("P051000008Y", Basic("quay:other")));
        Assert.Equal(HttpStatusCode.Unauthorized, await PutAsync("P051000008Y", Basic("boat:with:colons")));
    }

    /// <summary>The worked example of RFC 7617, section 2: user Aladdin, password 'open sesame'.</summary>
    [Fact]
    public async Task The_example_of_the_RFC_is_read()
    {
        Assert.Equal(HttpStatusCode.NoContent, await PutAsync("P051000007X", "Basic QWxhZGRpbjpvcGVuIHNlc2FtZQ=="));
        Assert.Equal(HttpStatusCode.NoContent, await PutAsync("P051000007X", Basic("Aladdin:open sesame")));
    }
}
