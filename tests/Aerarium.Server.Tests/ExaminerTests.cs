using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Countries.Kenya.EmploymentIncome;
using Aerarium.Filing;
using Aerarium.StandIn;

namespace Aerarium.Server.Tests;

/// <summary>The authority's own rules, tried with documents altered one figure at a time.</summary>
public sealed class ExaminerTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("aerarium-examiner").FullName;
    private readonly Registry _registry;
    private readonly Examiner _examiner;
    private readonly Archive _archive;
    private readonly System.Security.Cryptography.X509Certificates.X509Certificate2 _certificate;

    public ExaminerTests()
    {
        _registry = Registry.Load(Path.Combine(AppContext.BaseDirectory, "Registry"), _folder);
        _examiner = new Examiner(_registry, new StandIn.PublishedSchemas(Path.Combine(AppContext.BaseDirectory, "Schemas")));
        _archive = new Archive(_folder, TimeProvider.System, 0);
        _certificate = XmlSignature.MakeCertificate("Practice", "P051999001R", DateTimeOffset.UtcNow.AddDays(-1), 1);
        _registry.Register(new Agent("P051999001R", "Practice", Convert.ToBase64String(_certificate.RawData)));
    }

    public void Dispose()
    {
        _certificate.Dispose();
        Directory.Delete(_folder, recursive: true);
    }

    private static string Document()
    {
        var entries = new EntrySet
        {
            Values =
            {
                ["scope.resident"] = "yes", ["scope.employers"] = "one", ["taxpayer.pin"] = "A009900771K", ["taxpayer.name"] = "Wambui Larkspur", ["taxpayer.kind"] = "original",
                ["taxpayer.email"] = "w@post.example", ["payout.route"] = "mobile", ["payout.mobile-number"] = "0712345678",
                ["declaration.true-and-complete"] = "yes", ["declaration.name"] = "Wambui", ["declaration.capacity"] = "taxpayer", ["declaration.date"] = "2026-06-01",
                ["declaration.agent-pin"] = "P051999001R", ["declaration.agent-name"] = "Practice", ["declaration.contact-name"] = "T", ["declaration.contact-phone"] = "0700",
            },
        };
        var row = new EntryRow("1");
        foreach (var (column, value) in new[] { ("pin", "P051900417G"), ("name", "Glass"), ("months", "12"), ("basic-pay", "1440000"), ("pensionable-pay", "1440000"), ("retirement-contributions", "49680"), ("health-insurance", "39600"), ("housing-levy", "21600"), ("tax-deducted", "330000"), ("total-on-certificate", "1440000") })
        {
            row.Values[column] = value;
        }

        entries.Rows["employment.employers"] = [row];
        var evaluation = Catalogue.Get(EmploymentIncomeReturn.ReturnId, 2025).Evaluate(entries, new DateOnly(2026, 6, 1));
        return Encoding.UTF8.GetString(new EmploymentIncomeEReturn().Write(evaluation).Xml);
    }

    private IReadOnlyList<Reason> Examine(string document) => _examiner.Examine(XmlSignature.Sign(Encoding.UTF8.GetBytes(document), _certificate), _archive).Reasons;

    [Fact]
    public void A_sound_return_is_accepted() => Assert.Empty(Examine(Document()));

    [Theory]
    [InlineData("<TaxableIncome>1329120.00", "<TaxableIncome>1329121.00", "ARITHMETIC", "/EmployeeReturn/Computation/TaxableIncome")]
    [InlineData("<Reliefs>28800.00", "<Reliefs>28801.00", "ARITHMETIC", "/EmployeeReturn/Computation/Reliefs")]
    [InlineData("<Balance>-22664.00", "<Balance>-22665.00", "ARITHMETIC", "/EmployeeReturn/Computation/Balance")]
    [InlineData("A009900771K", "A999999999Z", "IDENTIFIER", "/EmployeeReturn/Taxpayer/Pin")]
    [InlineData("Wambui Larkspur", "Wambui Larksong", "NAME", "/EmployeeReturn/Taxpayer/Name")]
    [InlineData("<Months>12</Months>", "<Months>13</Months>", "SCHEMA", "/EmployeeReturn/Employers/Employer/Months")]
    [InlineData("<Kind>original</Kind>", "<Kind>second</Kind>", "SCHEMA", "/EmployeeReturn/Header/Kind")]
    [InlineData("P051999001R", "P051000000X", "SIGNATURE", "/EmployeeReturn/Agent/Pin")]
    public void One_wrong_figure_is_rejected_with_its_code_and_place(string sound, string wrong, string code, string path)
    {
        var document = Document();
        Assert.Contains(sound, document);
        var reasons = Examine(document.Replace(sound, wrong));
        Assert.Contains(reasons, r => r.Code == code && r.Path == path);
    }

    [Fact]
    public void An_unsigned_document_and_one_altered_after_signing_are_rejected()
    {
        Assert.Contains(_examiner.Examine(Encoding.UTF8.GetBytes(Document()), _archive).Reasons, r => r.Code == "SIGNATURE");
        var signed = Encoding.UTF8.GetString(XmlSignature.Sign(Encoding.UTF8.GetBytes(Document()), _certificate));
        Assert.Contains(_examiner.Examine(Encoding.UTF8.GetBytes(signed.Replace("w@post.example", "x@post.example")), _archive).Reasons, r => r.Code == "SIGNATURE");
    }

    [Fact]
    public void A_second_original_for_the_year_is_rejected_and_the_same_key_is_the_same_submission()
    {
        var signed = XmlSignature.Sign(Encoding.UTF8.GetBytes(Document()), _certificate);
        var first = _archive.Receive("key-1", signed, a => _examiner.Examine(signed, a));
        Assert.NotNull(first.Acknowledgement);
        var repeated = _archive.Receive("key-1", signed, _ => throw new InvalidOperationException("examined twice"));
        Assert.Equal((first.Number, first.Acknowledgement, 2), (repeated.Number, repeated.Acknowledgement, repeated.Arrivals));
        var second = _archive.Receive("key-2", signed, a => _examiner.Examine(signed, a));
        Assert.Null(second.Acknowledgement);
        Assert.Equal("DUPLICATE", Assert.Single(second.Reasons).Code);
        Assert.Equal(first.Acknowledgement, new Archive(_folder, TimeProvider.System, 0).Find("key-1")!.Acknowledgement);
    }
}
