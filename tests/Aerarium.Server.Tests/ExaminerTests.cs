using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Countries.Kenya.EmploymentIncome;
using Aerarium.Filing;
using Aerarium.StandIn;

namespace Aerarium.Server.Tests;

/// <summary>An authority with one agent, who signs; documents are examined as they would be on arrival.</summary>
public abstract class ExaminerBench : IDisposable
{
    protected ExaminerBench(string agent)
    {
        var registry = Registry.Load(Path.Combine(AppContext.BaseDirectory, "Registry"), Folder);
        Examiner = new Examiner(registry, new StandIn.PublishedSchemas(Path.Combine(AppContext.BaseDirectory, "Schemas")));
        Archive = new Archive(Folder, TimeProvider.System, new Faults());
        Certificate = XmlSignature.MakeCertificate("Practice", "e-returns", DateTimeOffset.UtcNow.AddDays(-1), 1);
        registry.Register(new Agent(agent, "Practice", Convert.ToBase64String(Certificate.RawData)));
    }

    protected string Folder { get; } = Directory.CreateTempSubdirectory("aerarium-examiner").FullName;

    protected Examiner Examiner { get; }

    protected Archive Archive { get; }

    /// <summary>The certificate the agent registered.</summary>
    protected System.Security.Cryptography.X509Certificates.X509Certificate2 Certificate { get; }

    public void Dispose()
    {
        Certificate.Dispose();
        Directory.Delete(Folder, recursive: true);
        GC.SuppressFinalize(this);
    }

    protected byte[] Sign(string document) => XmlSignature.Sign(Encoding.UTF8.GetBytes(document), Certificate);

    protected IReadOnlyList<Reason> Examine(string document) => Examiner.Examine(Sign(document), Archive).Reasons;

    protected void Rejects(string document, string sound, string wrong, string code, string path)
    {
        Assert.Contains(sound, document);
        Assert.Contains(Examine(document.Replace(sound, wrong)), r => r.Code == code && r.Path == path);
    }
}

/// <summary>The authority's own rules, tried with documents altered one figure at a time.</summary>
public sealed class ExaminerTests() : ExaminerBench("P051999001R")
{
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
        return Encoding.UTF8.GetString(new EmploymentIncomeEReturn().Write(evaluation).Content);
    }

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
    public void One_wrong_figure_is_rejected_with_its_code_and_place(string sound, string wrong, string code, string path) =>
        Rejects(Document(), sound, wrong, code, path);

    [Fact]
    public void An_unsigned_document_and_one_altered_after_signing_are_rejected()
    {
        Assert.Contains(Examiner.Examine(Encoding.UTF8.GetBytes(Document()), Archive).Reasons, r => r.Code == "SIGNATURE");
        var signed = Encoding.UTF8.GetString(Sign(Document()));
        Assert.Contains(Examiner.Examine(Encoding.UTF8.GetBytes(signed.Replace("w@post.example", "x@post.example")), Archive).Reasons, r => r.Code == "SIGNATURE");
    }

    [Fact]
    public void A_second_original_for_the_year_is_rejected_and_the_same_key_is_the_same_submission()
    {
        var signed = Sign(Document());
        var first = Archive.Receive("key-1", signed, a => Examiner.Examine(signed, a));
        Assert.NotNull(first.Acknowledgement);
        var repeated = Archive.Receive("key-1", signed, _ => throw new InvalidOperationException("examined twice"));
        Assert.Equal((first.Number, first.Acknowledgement, 2), (repeated.Number, repeated.Acknowledgement, repeated.Arrivals));
        var second = Archive.Receive("key-2", signed, a => Examiner.Examine(signed, a));
        Assert.Null(second.Acknowledgement);
        Assert.Equal("DUPLICATE", Assert.Single(second.Reasons).Code);
        Assert.Equal(first.Acknowledgement, new Archive(Folder, TimeProvider.System, new Faults()).Find("key-1")!.Acknowledgement);
    }
}
