using System.IO.Compression;
using System.Text;
using Aerarium.Countries.Canada.Company;
using Aerarium.Countries.Canada.CompanyAlberta;
using Aerarium.Filing;

namespace Aerarium.Countries.Tests;

/// <summary>The e-returns of a company by an outside program, xmllint (libxml2), against the hand-written schemas of both authorities, with every part of the returns filled.</summary>
public sealed class CompanyFilingTests
{
    internal static CompanyCase Complete(int year)
    {
        var @case = new CompanyCase(year, "ab", "bc", "on").Scope("associated", "investments", "capital-gains", "dividends-paid", "gifts", "losses", "instalments")
            .With("company.bn", "100000017").With("company.account", "100000017RC0001").With("company.name", "Tern & Kelp Ltd").With("company.trade-name", "Tern").With("company.address", "4 Quay").With("company.activity", "336612").With("company.product", "Boats").With("company.language", "english")
            .With("company.officer", "Isla").With("company.officer-position", "President").With("company.officer-phone", "604").With("company.contact", "Bo").With("company.contact-phone", "604").With("company.kind", "original")
            .Items(("8000", 900_000), ("1001", 900_000.50m), ("8523", 1_001), ("9990", 10), ("9995", 5), ("8670", 50), ("8522", 100), ("3500", 1)).Class("8", 100).Bought("8", 5_000, $"{year}-03-01").Sold("8", 10).Class("10.1", 9_000, true, ("asset", "V1")).Class("13", 800, true, ("by-lease", 100)).Class("other", 700, true, ("rate", 12.5m)).Class("50").Bought("50", 900, $"{year}-05-01", ("from-related", "yes"))
            .Row("gains.sold", ("description", "Land"), ("date", $"{year}-05-01"), ("proceeds", 900), ("cost", 400)).With("reconciliation.fines", 3).Row("reconciliation.others", ("reason", "Other"), ("added", 2))
            .With("gifts.of-year", 100).Row("gifts.carried", ("year", year - 1), ("amount", 7)).Row("losses.non-capital", ("year", year - 2), ("amount", 11)).Row("losses.capital", ("year", year - 2), ("amount", 13))
            .Row("dividends.received", ("payer", "P"), ("payer-bn", "700004518"), ("eligible", "yes"), ("connected", "no"), ("amount", 300)).With("dividends.property", 40).With("dividends.paid-eligible", 20).With("dividends.paid-other", 30)
            .With("group.capital", 5).With("group.percent", 60).Row("group.members", ("name", "Other"), ("bn", "700004518"), ("percent", 40), ("capital", 0), ("investment", 0))
            .Row("balance.instalments", ("date", $"{year}-06-30"), ("amount", 900_000)).With("payout.bank", "Union").With("payout.account-number", "1002080900378").With("scope.alberta-prepared", "yes")
            .With("declaration.authorised", "yes").With("declaration.authorised-on", $"{year + 1}-03-01");
        foreach (var province in new[] { "bc", "ab", "on" })
        {
            @case.With($"allocation.revenue-{province}", 300_000).With($"allocation.salaries-{province}", 10);
        }

        return Declared(@case, year);
    }

    internal static TCase Declared<TCase>(ReturnCase<TCase> @case, int year)
        where TCase : ReturnCase<TCase> =>
        @case.With("declaration.true-and-complete", "yes").With("declaration.name", "Isla").With("declaration.capacity", "director").With("declaration.date", $"{year + 1}-03-01").With("declaration.agent-number", "700000458")
            .With("declaration.agent-name", "Practice").With("declaration.contact-name", "Tarek").With("declaration.contact-phone", "604");

    internal static AlbertaCase CompleteAlberta(int year) => Declared(
        new AlbertaCase(year, 300_000).Scope("depreciation-differs", "others-differ", "gifts", "losses", "instalments").With("company.bn", "100000017").With("company.account", "2004561239").With("company.name", "Tern & Kelp Ltd").With("company.address", "4 Quay")
            .With("company.contact", "Bo").With("company.contact-title", "Bookkeeper").With("company.contact-phone", "403").With("company.filer-type", "accountant").With("company.preparer", "Practice").With("company.preparer-phone", "604").With("company.preparer-address", "1 Reef")
            .With("company.kind", "original").Row("depreciation.additions", ("description", "Saw"), ("class", "8"), ("acquired", $"{year}-03-01"), ("cost", 5_000)).Row("depreciation.classes", ("class", "8"), ("opening", 900), ("left", "yes"))
            .Row("reconciliation.others", ("what", "Reserve"), ("effect", "deducted"), ("federal", 10), ("alberta", 30), ("carried", 5)).With("gifts.of-year", 100).Row("losses.non-capital", ("year", year - 2), ("amount", 11))
            .With("tax.provinces", 2).With("tax.revenue", 5).With("tax.revenue-total", 9).With("tax.salaries", 2).With("tax.salaries-total", 3).Row("balance.instalments", ("date", $"{year}-06-30"), ("amount", 900_000))
            .With("payout.bank", "Union").With("payout.account-number", "1002080900378").With("declaration.position", "President"), year);

    [Theory]
    [InlineData(2024)]
    [InlineData(2025)]
    public void Xmllint_finds_both_e_returns_valid(int year)
    {
        var (federal, alberta) = (Complete(year).Evaluate(), CompleteAlberta(year).Evaluate());
        Assert.Empty(federal.Findings.Where(f => f.Severity == Core.Definitions.Severity.Error && f.Id.EndsWith(":missing", StringComparison.Ordinal)).Select(f => f.Id));
        Assert.Empty(alberta.Findings.Where(f => f.Severity == Core.Definitions.Severity.Error && f.Id.EndsWith(":missing", StringComparison.Ordinal)).Select(f => f.Id));
        Assert.True(federal.Balance < 0 && alberta.Balance < 0);
        Xmllint.FindsValid(new CompanyEReturn(), federal);
        Xmllint.FindsValid(new AlbertaEReturn(), alberta);
    }

    /// <summary>A company's return was one file before it was two; what was filed then is still written, and told from the new form by its first bytes.</summary>
    [Fact]
    public void Return_and_statements_are_two_files_with_a_manifest_and_one_as_before()
    {
        var evaluation = Complete(2025).Evaluate();
        var mapping = new CompanyEReturn();
        var written = mapping.Write(evaluation);
        var files = EReturnPackage.Files(written.Content);
        Assert.Equal(["return.xml", "accounts.xml"], files.Keys);
        Assert.DoesNotContain("<Statements>", Encoding.UTF8.GetString(files["return.xml"]), StringComparison.Ordinal);
        Assert.Equal("financial.item-8000", written.Places["accounts.xml#/CompanyAccounts/Statements/Item8000"].Line);
        Assert.Equal("balance.balance", written.Places["return.xml#/CompanyReturn/Balance/Balance"].Line);
        Assert.Same(EReturnFormat.Package, EReturnFormat.Of(written.Content));

        var before = new CompanyEReturn(oneFile: true);
        Xmllint.FindsValid(before, evaluation);
        foreach (var file in new[] { written.Content, before.Write(evaluation).Content })
        {
            Assert.True(EReturnFormat.SaysTheSame(file, mapping.InFormOf(file).Write(evaluation).Content));
        }

        Assert.False(EReturnFormat.SaysTheSame(written.Content, mapping.Write(Complete(2025).With("reconciliation.fines", 4).Evaluate()).Content));
        Assert.False(EReturnFormat.SaysTheSame(written.Content, before.Write(evaluation).Content));
    }

    [Fact]
    public void A_file_that_is_changed_added_or_removed_is_named()
    {
        var package = new CompanyEReturn().Write(Complete(2025).Evaluate()).Content;
        Assert.Contains("accounts.xml is not what the manifest says", Refused(Altered(package, (zip, entry) => Put(zip, entry.FullName, "<CompanyAccounts/>"))), StringComparison.Ordinal);
        Assert.Contains("accounts.xml is in the manifest and not in the submission", Refused(Altered(package, (_, _) => { })), StringComparison.Ordinal);
        Assert.Contains("more.xml is not in the manifest", Refused(Altered(package, (zip, _) => Put(zip, "more.xml", "<a/>"))), StringComparison.Ordinal);
        Assert.Contains("no submission", Refused([.. "PK"u8, 3, 4, 0]), StringComparison.Ordinal);
    }

    private static string Refused(byte[] package) => Assert.Throws<FormatException>(() => EReturnPackage.Files(package)).Message;

    /// <summary>The package with its accounts taken out and what is put in their place.</summary>
    private static byte[] Altered(byte[] package, Action<ZipArchive, ZipArchiveEntry> put)
    {
        using var memory = new MemoryStream();
        memory.Write(package);
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Update, leaveOpen: true))
        {
            var accounts = zip.GetEntry("accounts.xml")!;
            accounts.Delete();
            put(zip, accounts);
        }

        return memory.ToArray();
    }

    private static void Put(ZipArchive zip, string name, string content)
    {
        using var writer = new StreamWriter(zip.CreateEntry(name).Open());
        writer.Write(content);
    }
}
