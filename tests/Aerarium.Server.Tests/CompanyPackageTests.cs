using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Countries.Canada.Company;
using Aerarium.Filing;

namespace Aerarium.Server.Tests;

/// <summary>A company's return and statements, filed as two files of one submission, altered one at a time.</summary>
public sealed class CompanyPackageTests() : ExaminerBench("700000458")
{
    private const string Accounts = "accounts.xml";

    private static EReturn Document()
    {
        var entries = new EntrySet();
        foreach (var (line, value) in new[]
        {
            ("scope.begin", "2025-01-01"), ("scope.end", "2025-12-31"), ("scope.type", "ccpc"), ("scope.ccpc", "yes"), ("scope.resident", "yes"), ("scope.bc", "no"), ("scope.ab", "no"), ("scope.on", "yes"),
            ("company.bn", "712045012"), ("company.account", "712045012RC0001"), ("company.name", "Tern Island Boatworks Ltd"), ("company.address", "4 Quay"), ("company.activity", "336612"), ("company.product", "Boats"),
            ("company.language", "english"), ("company.officer", "Isla"), ("company.officer-position", "President"), ("company.officer-phone", "604"), ("company.kind", "original"),
            ("financial.item-8000", "1000"), ("financial.item-1001", "1000"), ("declaration.authorised", "yes"), ("declaration.authorised-on", "2026-03-01"),
            ("declaration.true-and-complete", "yes"), ("declaration.name", "Isla"), ("declaration.capacity", "officer"), ("declaration.date", "2026-03-01"), ("declaration.agent-number", "700000458"),
            ("declaration.agent-name", "Practice"), ("declaration.contact-name", "Tarek"), ("declaration.contact-phone", "604"),
        })
        {
            entries.Values[line] = value;
        }

        foreach (var no in new[] { "first", "final", "associated", "associated-last-year", "special", "elsewhere", "depreciable", "investments", "capital-gains", "dividends-paid", "gifts", "losses", "instalments", "foreign-property" })
        {
            entries.Values[$"scope.{no}"] = "no";
        }

        return new CompanyEReturn().Write(Catalogue.Get(CompanyReturn.ReturnId, 2025).Evaluate(entries, new DateOnly(2026, 3, 1)));
    }

    private IReadOnlyList<StandIn.Reason> Examine(byte[] package) => Examiner.Examine(package, Archive, JsonSignature.Sign(package, Certificate)).Reasons;

    /// <summary>The submission with a text of one file changed, packed anew and signed; null leaves the file out.</summary>
    private IReadOnlyList<StandIn.Reason> With(string name, Func<string, string>? change)
    {
        var files = EReturnPackage.Files(Document().Content).Where(f => f.Key != name || change is not null).ToDictionary(
            f => f.Key, f => new EReturn(f.Key == name ? System.Text.Encoding.UTF8.GetBytes(change!(System.Text.Encoding.UTF8.GetString(f.Value))) : f.Value, new Dictionary<string, LinePlace>()));
        return Examine(EReturnPackage.Of(new Dictionary<string, string>(), files).Content);
    }

    private static Func<string, string> Text(string sound, string wrong) => text =>
    {
        Assert.Contains(sound, text);
        return text.Replace(sound, wrong, StringComparison.Ordinal);
    };

    [Fact]
    public void Return_and_statements_are_accepted_together() => Assert.Empty(Examine(Document().Content));

    [Fact]
    public void Without_its_statements_a_return_is_refused() => Assert.Contains(With(Accounts, null), r => r.Code == "ACCOUNTS");

    [Fact]
    public void Statements_of_another_company_or_period_are_refused()
    {
        Assert.Contains(With(Accounts, Text("<Number>712045012<", "<Number>700000458<")), r => r is { Code: "ACCOUNTS", Path: "accounts.xml#/CompanyAccounts/AccountsHeader/Number" });
        Assert.Contains(With(Accounts, Text("<End>2025-12-31<", "<End>2025-11-30<")), r => r is { Code: "ACCOUNTS", Path: "accounts.xml#/CompanyAccounts/AccountsHeader/End" });
    }

    [Fact]
    public void A_figure_of_the_statements_that_does_not_agree_is_named_with_its_file()
    {
        var reason = Assert.Single(With(Accounts, Text("<Item8299>1000.00<", "<Item8299>900.00<")), r => r.Path == "accounts.xml#/CompanyAccounts/Statements/Item8299");
        Assert.Contains("is 900.00", reason.Message, StringComparison.Ordinal);
        Assert.Equal("financial.item-8299", Document().Places[reason.Path!].Line);
        Assert.Contains(With("return.xml", Text("<Profit>1000.00<", "<Profit>900.00<")), r => r is { Code: "ARITHMETIC", Path: "return.xml#/CompanyReturn/Reconciliation/Profit" });
    }

    [Fact]
    public void A_fault_of_the_schema_is_named_with_its_file() =>
        Assert.Contains(With(Accounts, Text("<Item8000>1000.00<", "<Item8000>1,000<")), r => r is { Code: "SCHEMA", Path: "accounts.xml#/CompanyAccounts/Statements/Item8000" });

    [Fact]
    public void The_signature_is_over_all_files()
    {
        var (mine, other) = (Document().Content, EReturnPackage.Of(new Dictionary<string, string>(), new Dictionary<string, EReturn> { ["return.xml"] = new(EReturnPackage.Files(Document().Content)["return.xml"], new Dictionary<string, LinePlace>()) }).Content);
        Assert.Contains(Examiner.Examine(other, Archive, JsonSignature.Sign(mine, Certificate)).Reasons, r => r.Code == "SIGNATURE");
        Assert.Contains(Examiner.Examine(mine, Archive).Reasons, r => r.Code == "SIGNATURE");
    }

    [Fact]
    public void What_holds_no_return_is_answered_in_words()
    {
        var accounts = new EReturn(EReturnPackage.Files(Document().Content)[Accounts], new Dictionary<string, LinePlace>());
        Assert.Contains("is no return", Assert.Single(Examine(EReturnPackage.Of(new Dictionary<string, string>(), new Dictionary<string, EReturn> { ["return.xml"] = accounts }).Content)).Message, StringComparison.Ordinal);
        Assert.Contains("has no return.xml", Assert.Single(Examine(EReturnPackage.Of(new Dictionary<string, string>(), new Dictionary<string, EReturn> { [Accounts] = accounts }).Content)).Message, StringComparison.Ordinal);
        Assert.Contains("not well-formed", Assert.Single(Examine([.. "PK"u8, 3, 4, 1, 2, 3])).Message, StringComparison.Ordinal);
    }
}
