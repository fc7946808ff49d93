using System.Diagnostics;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using Aerarium.Core.Engine;
using Aerarium.Countries.Kenya.EmploymentIncome;
using Aerarium.Filing;

namespace Aerarium.Countries.Tests;

/// <summary>
/// Files checked by programs from outside the project: xmllint (libxml2) against XML Schema 1.0, xmlsec1 against W3C XML
/// Signature, pdftotext (poppler) and qpdf for PDF.
/// </summary>
public sealed class FilingTests : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("aerarium-filing").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    private static Evaluation Complete(int year)
    {
        var kenya = new KenyaCase(year).Scope("mortgage", "insurance", "employer-car", "other-tax-paid", "retirement-outside-payroll", "employer-benefits")
            .With("taxpayer.pin", "A001100210N").With("taxpayer.name", "Njeri Halvorsen Oduya").With("taxpayer.kind", "original").With("taxpayer.email", "n@post.example")
            .With("declaration.true-and-complete", "yes").With("declaration.name", "Njeri").With("declaration.capacity", "taxpayer").With("declaration.date", $"{year + 1}-03-01")
            .With("declaration.agent-pin", "P051999001R").With("declaration.agent-name", "Lantern Reef Tax Practice")
            .With("declaration.contact-name", "Tarek").With("declaration.contact-phone", "0700 555 010")
            .Row("employment.cars", ("registration-mark", "KMB 1"), ("arrangement", "owned"), ("body", "saloon"), ("engine-cc", 1_900), ("cost", 2_500_000), ("months", 12))
            .Row("deductions.funds", ("name", "Reef Fund"), ("registration-number", "R-1"), ("kind", "individual"), ("contributions", 12_000))
            .Row("deductions.loans", ("lender-pin", "P051118843L"), ("lender-name", "Lamplight"), ("account", "LB"), ("purpose", "purchase"), ("interest", 200_000))
            .Row("tax.policies", ("insurer-pin", "P051664429S"), ("insurer-name", "Anchor"), ("policy-number", "1"), ("kind", "life"), ("insured", "self"), ("commencement", "2015-01-01"), ("premium", 24_000))
            .Row("balance.payments", ("kind", "advance"), ("date", $"{year}-06-01"), ("reference", "R-7"), ("amount", 5_000));
        kenya = year < 2024 ? kenya.Employer(1_800_000, 24_840, 0, 0, 300_000, ("domestic-staff", 60_000), ("meals", 50_000)).With("tax.hospital-fund", 18_000)
            : year == 2024 ? kenya.Scope("medical-fund").Employer(1_800_000, 24_840, 0, 0, 300_000).Row("deductions.medical-funds", ("name", "Tide"), ("contributions-before-december", 9_000), ("contributions-december", 1_000))
            : kenya.Scope("medical-fund").Employer(1_800_000, 49_680, 49_500, 27_000, 300_000).Row("deductions.medical-funds", ("name", "Tide"), ("contributions", 10_000));
        return kenya.Evaluate();
    }

    private static (int Exit, string Output) Run(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true })!;
        var errors = process.StandardError.ReadToEndAsync();
        var output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return (process.ExitCode, output + errors.Result);
    }

    private string Write(string name, byte[] content)
    {
        var path = Path.Combine(_folder, name);
        File.WriteAllBytes(path, content);
        return path;
    }

    private static X509Certificate2 Certificate() =>
        XmlSignature.MakeCertificate("Lantern Reef Tax Practice", "P051999001R", new DateTimeOffset(2026, 1, 1, 0, 0, 0, TimeSpan.Zero), 5);

    private static Evaluation CompleteInThePhilippines(int year, string method)
    {
        var entered = new PhilippinesCase(year).Scope("foreign-tax").With("scope.status", "resident-citizen").With("taxpayer.tin", "201004561-00000").With("taxpayer.name", "Liwayway Brannock Dizon")
            .With("taxpayer.surname", "Dizon").With("taxpayer.first-name", "Liwayway").With("taxpayer.middle-name", "Brannock").With("taxpayer.type", "mixed").With("taxpayer.trade-name", "Pearl Lines")
            .With("taxpayer.short-period", "yes").With("taxpayer.from", $"{year}-02-01").With("taxpayer.to", $"{year}-12-31")
            .With("taxpayer.kind", "original").With("taxpayer.district-office", "039").With("taxpayer.citizenship", "Filipino").With("taxpayer.address", "17 Lighthouse Road")
            .Employer(960_000, 80_000, 52_000, 109_500).Business(method, 1_240_000.49m).With("business.nature", "Design").With("business.vat-registered", "no")
            .Row("tax.foreign", ("country", "Lagoonia"), ("income", 100_000), ("paid", 9_000)).Row("tax.foreign", ("country", "Skerryland"), ("income", -10_000), ("paid", 0)).Row("balance.other", ("name", "Personal equity"), ("amount", 500))
            .With("balance.two-parts", "yes").With("balance.second-part", 10_000)
            .With("declaration.true-and-complete", "yes").With("declaration.name", "Liwayway").With("declaration.capacity", "taxpayer").With("declaration.date", $"{year + 1}-03-01")
            .With("declaration.agent-tin", "300770019-00000").With("declaration.agent-name", "Lantern Reef").With("declaration.contact-name", "Tarek").With("declaration.contact-phone", "0900");
        return (method == "itemised" ? entered.With("business.cost", 300_000).Expenses(120_000, 50_000).With("deductions.interest", 12_000) : entered).Evaluate();
    }

    public static TheoryData<string, string> Complete_returns => new()
    {
        { "ke/employment-income/2022", "" },
        { "ke/employment-income/2023", "" },
        { "ke/employment-income/2024", "" },
        { "ke/employment-income/2025", "" },
        { "ph/individual-annual/2021", "eight" },
        { "ph/individual-annual/2024", "itemised" },
        { "ph/individual-annual/2025", "itemised" },
        { "ph/individual-annual/2025", "standard" },
        { "ph/individual-annual/2025", "eight" },
    };

    [Theory]
    [MemberData(nameof(Complete_returns))]
    public void The_e_return_is_valid_to_xmllint_and_its_signature_to_xmlsec1(string path, string method)
    {
        var (id, year) = (path[..path.LastIndexOf('/')], int.Parse(path[(path.LastIndexOf('/') + 1)..], System.Globalization.CultureInfo.InvariantCulture));
        var evaluation = id.StartsWith("ph/", StringComparison.Ordinal) ? CompleteInThePhilippines(year, method) : Complete(year);
        using var certificate = Certificate();
        var signed = XmlSignature.Sign(Catalogue.Returns.Single(r => r.Id == id).Mapping.Write(evaluation).Content, certificate);
        var file = Write("return.xml", signed);
        var (exit, output) = Run("xmllint", "--noout", "--schema", Xmllint.SchemaFile($"{path}.xsd"), file);
        Assert.True(exit == 0, output);
        Assert.Empty(new SchemaCheck(File.ReadAllText(Xmllint.SchemaFile($"{path}.xsd"))).Faults(signed));

        var pem = Write("certificate.pem", Encoding.ASCII.GetBytes(certificate.ExportCertificatePem()));
        (exit, output) = Run("xmlsec1", "--verify", "--pubkey-cert-pem", pem, file);
        Assert.True(exit == 0, output);

        var altered = Write("altered.xml", Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(signed).Replace(".00</Gross>", ".01</Gross>")));
        Assert.NotEqual(0, Run("xmlsec1", "--verify", "--pubkey-cert-pem", pem, altered).Exit);
        Assert.Null(XmlSignature.Signer(SchemaCheck.Read(File.ReadAllBytes(altered))));
        Assert.Equal(certificate.Thumbprint, XmlSignature.Signer(SchemaCheck.Read(signed))!.Thumbprint);
    }

    [Fact]
    public void The_same_return_gives_the_same_bytes()
    {
        var mapping = new EmploymentIncomeEReturn();
        Assert.Equal(mapping.Write(Complete(2025)).Content, mapping.Write(Complete(2025)).Content);
    }

    [Fact]
    public void A_fault_of_the_schema_is_told_with_its_line()
    {
        var kenya = Complete(2025);
        var written = new EmploymentIncomeEReturn().Write(kenya);
        var broken = Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(written.Content).Replace(">n@post.example<", ">no address<"));
        var fault = Assert.Single(new SchemaCheck(File.ReadAllText(Xmllint.SchemaFile("ke/employment-income/2025.xsd"))).Faults(broken));
        var (place, message) = EReturnFaults.InWords(fault, written, kenya);
        Assert.Equal("taxpayer.email", place!.Line);
        Assert.StartsWith("E-mail: ", message);
        Assert.Contains("'no address'", message);
    }

    [Theory]
    [InlineData("<EmployeeReturn")]
    [InlineData("<!DOCTYPE a [<!ENTITY b \"c\">]><a>&b;</a>")]
    [InlineData("<!DOCTYPE a [<!ENTITY b SYSTEM \"file:///etc/passwd\">]><a>&b;</a>")]
    public void Malformed_or_dangerous_xml_is_not_read(string text) =>
        Assert.Throws<System.Xml.XmlException>(() => SchemaCheck.Read(Encoding.UTF8.GetBytes(text)));

    [Fact]
    public void The_printed_copy_reads_back_what_the_screen_shows()
    {
        var evaluation = Complete(2025);
        var draft = Write("draft.pdf", PrintedCopy.Draw(evaluation, new PrintedCopyFacts("Lantern Reef", "Njeri Halvorsen Oduya", "original", null, new DateOnly(2026, 3, 1))));
        var approved = Write("approved.pdf", PrintedCopy.Draw(evaluation, new PrintedCopyFacts("Lantern Reef", "Njeri Halvorsen Oduya", "original", "Approved by Mosi", new DateOnly(2026, 3, 1))));
        var text = Run("pdftotext", "-layout", draft, "-").Output;
        Assert.Contains("Draft, not approved", text);
        Assert.Contains("Njeri Halvorsen Oduya", text);
        Assert.Contains(evaluation.Amount("tax.tax").ToString("#,##0.00", System.Globalization.CultureInfo.InvariantCulture), text);
        Assert.Contains("Page 1 of", text);
        text = Run("pdftotext", "-layout", approved, "-").Output;
        Assert.DoesNotContain("Draft", text);
        Assert.Contains("Approved by Mosi", text);
        var (exit, output) = Run("qpdf", "--check", approved);
        Assert.True(exit == 0, output);
    }

    /// <summary>A paper for people reads back as written, a fingerprint that is longer than its line whole; several are one file. Read with pdftotext and qpdf.</summary>
    [Fact]
    public void Papers_read_back_and_are_put_together()
    {
        var fingerprint = string.Concat(Enumerable.Repeat("0123456789abcdef", 4));
        var paper = FilingPapers.Draw(new PaperFacts(
            "Lantern Reef", "Acknowledgement", "Njeri, 2025", [new("Acknowledgement", "ACK-2025-000001"), new("Fingerprint of the file (SHA-256)", fingerprint + fingerprint)], "Kept in the Parcel.", new DateOnly(2026, 6, 18)));
        var text = Run("pdftotext", "-layout", Write("paper.pdf", paper), "-").Output;
        Assert.Contains("ACK-2025-000001", text);
        Assert.Contains("Printed 18 June 2026", text);
        Assert.Contains(fingerprint + fingerprint, string.Concat(text.Where(c => !char.IsWhiteSpace(c))));
        var copy = PrintedCopy.Draw(Complete(2025), new PrintedCopyFacts("Lantern Reef", "Njeri", "original", "Approved by Mosi", new DateOnly(2026, 3, 1), "ACK-2025-000001"));
        var together = Write("together.pdf", FilingPapers.Together([copy, paper]));
        text = Run("pdftotext", "-layout", together, "-").Output;
        var pages = text.Split('\f', StringSplitOptions.RemoveEmptyEntries);
        Assert.All(pages.SkipLast(1), page => Assert.Contains("Accepted by the authority as ACK-2025-000001", page));
        Assert.Contains("Kept in the Parcel.", pages[^1]);
        Assert.Equal(0, Run("qpdf", "--check", together).Exit);
    }

    [Fact]
    public void A_parcel_is_the_same_bytes_for_the_same_files_and_lists_their_hashes()
    {
        var files = new[] { new ParcelFile("a.xml", [1, 2, 3]) };
        var packed = Parcel.Pack(new Dictionary<string, string> { ["state"] = "accepted" }, files);
        Assert.Equal(packed, Parcel.Pack(new Dictionary<string, string> { ["state"] = "accepted" }, files));
        using var zip = new System.IO.Compression.ZipArchive(new MemoryStream(packed));
        using var manifest = new StreamReader(zip.GetEntry("manifest.json")!.Open());
        Assert.Contains("039058c6f2c0cb492c533b0a4d14ef77cc0f78abccced5287d84a1a2011cfb81", manifest.ReadToEnd());
    }

    /// <summary>The law in print: every line and figure reads back, contents name the page on which a form begins, and what leads anywhere leads to a page there is. Read with pdftotext and qpdf.</summary>
    [Theory]
    [InlineData("bb/individual", 2025)]
    [InlineData("de/individual", 2025)]
    public void The_law_is_printed_with_contents_and_references(string id, int year)
    {
        var definition = Catalogue.Get(id, year);
        var paper = Write("law.pdf", LawDocument.Pdf(definition, new DateOnly(2026, 6, 18)));
        Assert.Equal(0, Run("qpdf", "--check", paper).Exit);
        var pages = Run("pdftotext", "-layout", paper, "-").Output.Split('\f');
        var read = string.Concat(string.Concat(pages).Where(c => !char.IsWhiteSpace(c)));
        Assert.All(definition.Lines, line => Assert.Contains(Bare($"{line.Number}{line.Label}"), read, StringComparison.Ordinal));
        Assert.All(LawFigures.Of(definition), figure => Assert.Contains(Bare(figure.Label), read, StringComparison.Ordinal));
        foreach (var form in definition.Forms.Where(f => f.Beside is null))
        {
            var begins = Array.FindIndex(pages, page => page.TrimStart().StartsWith($"{form.Number}. {form.Title}", StringComparison.Ordinal)) + 1;
            Assert.True(begins > 1, $"{form.Title} begins no page.");
            Assert.Matches($@"(?m)^\s*{form.Number}\s+{System.Text.RegularExpressions.Regex.Escape(form.Title)}\s+{begins}\s*$", pages[0]);
        }

        static string Bare(string text) => string.Concat(text.Where(c => !char.IsWhiteSpace(c)));
    }

    /// <summary>All rows of a long list are printed, one line each, with heads and page numbers; read back with pdftotext (poppler).</summary>
    [Fact]
    public void A_printed_list_has_every_row_on_a_line_of_its_own()
    {
        var entered = new ListCase().With("payee.name", "Amihan Saltmarsh Reyes").With("payee.tin", "20100456300000");
        foreach (var number in Enumerable.Range(1, 400))
        {
            entered.Row("list.rows", ("payor-tin", $"{600_000_000 + number}00000"), ("payor", $"Payer {number}"), ("code", "WI010"), ("total", 1_234_567.89m), ("withheld", 61_728.39m));
        }

        var pdf = PrintedCopy.Draw(entered.Evaluate(), new PrintedCopyFacts("Practice", "Amihan", "original", "Approved by Mosi", new DateOnly(2025, 6, 1)));
        var (exit, text) = Run("pdftotext", "-layout", Write("list.pdf", pdf), "-");
        Assert.Equal(0, exit);
        var rows = text.Split('\n').Where(l => l.Contains("WI010", StringComparison.Ordinal)).ToList();
        Assert.Equal(400, rows.Count);
        Assert.All(rows, r => Assert.Contains("1,234,567.89", r));
        Assert.All(Enumerable.Range(1, 400), n => Assert.Contains($"{600_000_000 + n}00000", text));
        var pages = text.Split('\f', StringSplitOptions.RemoveEmptyEntries);
        Assert.InRange(pages.Length, 6, 12);
        Assert.All(pages.Skip(1).SkipLast(1), p => Assert.Contains("Tax withheld", p));
        Assert.Contains($"Page 1 of {pages.Length}", text);
        Assert.Contains("2025 Q1", text);
    }

    /// <summary>Statements printed by themselves: this year and last year side by side, and nothing of other pages. Read with pdftotext and qpdf.</summary>
    [Fact]
    public void A_page_is_printed_by_itself_with_its_parallel_column()
    {
        var books = new AccountsCase(2025).Account("Bank", 1_234.50m, "1001").Account("Stock", 30, "1120").Account("Shares", -1_264.50m, "3500").With("statements-last-year.item-1001", 987.25m).With("statements-last-year.item-2620", 44).Evaluate();
        var pdf = PrintedCopy.DrawForm(books, new PrintedCopyFacts("Practice", "Dunlin Docks", "original", "Approved by Mosi", new DateOnly(2026, 3, 1)), books.Definition.Forms.Single(f => f.Key == "statements"));
        var file = Write("statements.pdf", pdf);
        var lines = Run("pdftotext", "-layout", file, "-").Output.Split('\n');
        Assert.Matches(@"1001 Cash and deposits +987\.25 +1,234\.50", lines.Single(l => l.Contains("1001 ", StringComparison.Ordinal)));
        Assert.Matches(@"2620 .+ 44\.00 +0\.00", lines.Single(l => l.Contains("2620 ", StringComparison.Ordinal)));
        Assert.Contains(lines, l => l.Contains("Last year", StringComparison.Ordinal) && l.Contains("This year", StringComparison.Ordinal));
        Assert.DoesNotContain(lines, l => l.Contains("Trial balance", StringComparison.Ordinal));
        var (exit, output) = Run("qpdf", "--check", file);
        Assert.True(exit == 0, output);
    }
}
