namespace Aerarium.Countries.Tests;

/// <summary>Findings of a company's accounts and returns, each just inside and just outside its edge; levels and edges by the validation tables of the practice's own law sheet.</summary>
public class CompanyFindingsTests
{
    private static CompanyCase New(params string[] provinces) => new(2024, provinces.Length == 0 ? ["on"] : provinces);

    public static TheoryData<string, CompanyCase, CompanyCase> Federal => new()
    {
        { "ends-before-it-begins", New().Period("2024-06-02", "2024-06-01"), New().Period("2024-06-01", "2024-06-01") },
        { "period-too-long", New().Period("2023-12-26", "2024-12-31"), New().Period("2023-12-27", "2024-12-31") },
        { "ends-in-another-year", New().Period("2024-01-02", "2025-01-01"), New().Period("2024-01-01", "2024-12-31") },
        { "period-does-not-follow", New().With("scope.end-before", "2023-12-30"), New().With("scope.end-before", "2023-12-31") },
        { "elsewhere", New().Scope("elsewhere"), New() },
        { "no-establishment", New().With("scope.on", "no").With("scope.bc", "no").With("scope.ab", "no"), New().With("scope.bc", "no").With("scope.ab", "no") },
        { "special-business", New().Scope("special"), New() },
        { "not-resident", New().With("scope.resident", "no"), New() },
        { "alberta-return", New("ab"), New("ab").With("scope.alberta-prepared", "yes") },
        { "contact-for-alberta", New("ab").With("company.contact", "Bo"), New("ab").With("company.contact", "Bo").With("company.contact-phone", "604") },
        { "no-statements", New(), New().Income(1) },
        { "no-statements", New(), New().Items(("1001", 1)) },
        { "no-statements", New(), New().Items(("8000", 1)) },
        { "no-statements", New(), New().Items(("8810", 1)) },
        { "first-year-unverified", New().Bought("50", 1, "2024-04-16"), New().Bought("50", 1, "2024-04-15").Bought("8", 1, "2024-12-31") },
        { "addition-outside-period", New().Bought("8", 1, "2025-01-01"), New().Bought("8", 1, "2024-12-31") },
        { "claim-above-most", New().Class("8", 1_000, true, ("claim", 201)), New().Class("8", 1_000, true, ("claim", 200)) },
        { "claimed-less", New().Class("8", 1_000, true, ("claim", 199)), New().Class("8", 1_000, true, ("claim", 200)) },
        { "class-twice", New().Class("8").Class("8"), New().Class("8").Class("10") },
        { "no-asset-left", New().Class("8", 1, left: false), New().Class("8", 0, left: false).Class("10", 1) },
        { "addition-without-class", New().Bought("8", 1, "2024-05-01").Class("10"), New().Bought("8", 1, "2024-05-01").Class("8") },
        { "disposal-without-class", New().Sold("8", 1).Class("10"), New().Sold("8", 1).Class("8") },
        { "immediate-above-limit", New().Class("8").Bought("8", 1_500_001, "2023-05-01", ("designated", "yes")), New().Class("8").Bought("8", 1_500_000, "2023-05-01", ("designated", "yes")) },
        { "gain-without-schedule", New().With("reconciliation.disposal-gain", 1), New().With("reconciliation.disposal-gain", 1).Scope("capital-gains") },
        { "other-empty", New().Row("reconciliation.others", ("reason", "X")), New().Row("reconciliation.others", ("reason", "X"), ("deducted", 1)) },
        { "gift-expired", New().Scope("gifts").Row("gifts.carried", ("year", 2018), ("amount", 1)), New().Scope("gifts").Row("gifts.carried", ("year", 2019), ("amount", 1)) },
        { "gift-year-twice", New().Scope("gifts").Row("gifts.carried", ("year", 2019)).Row("gifts.carried", ("year", 2019)), New().Scope("gifts").Row("gifts.carried", ("year", 2019)).Row("gifts.carried", ("year", 2020)) },
        { "gifts-above-limit", New().Scope("gifts").Income(1_000).With("gifts.claim", 751), New().Scope("gifts").Income(1_000).With("gifts.claim", 750) },
        { "back-twice", Loss().Row("losses.back", ("year", 2023), ("amount", 1)).Row("losses.back", ("year", 2023), ("amount", 1)), Loss().Row("losses.back", ("year", 2023), ("amount", 1)).Row("losses.back", ("year", 2022), ("amount", 1)) },
        { "back-above-loss", Loss().Row("losses.back", ("year", 2023), ("amount", 101)), Loss().Row("losses.back", ("year", 2023), ("amount", 100)) },
        { "carry-back", Loss().With("losses.tax-of-three-years", 1), Loss().With("losses.tax-of-three-years", 1).Row("losses.back", ("year", 2023), ("amount", 1)) },
        { "losses-above-income", Held().With("losses.claim", 101), Held().With("losses.claim", 100) },
        { "losses-above-pool", Held().With("losses.claim", 501), Held().With("losses.claim", 500) },
        { "non-capital-year-twice", Held().Row("losses.non-capital", ("year", 2020)), Held().Row("losses.non-capital", ("year", 2021)) },
        { "capital-year-twice", Held().Row("losses.capital", ("year", 2020)).Row("losses.capital", ("year", 2020)), Held().Row("losses.capital", ("year", 2020)) },
        { "non-capital-expired", New().Scope("losses").Row("losses.non-capital", ("year", 2003), ("amount", 1)), New().Scope("losses").Row("losses.non-capital", ("year", 2004), ("amount", 1)) },
        { "capital-losses-above-gains", Sale().With("losses.capital-claim", 51), Sale().With("losses.capital-claim", 50) },
        { "dividends-not-entered", New().Items(("3700", 1)), New().Items(("3700", 1)).Scope("dividends-paid") },
        { "dividends-differ", Paid(0, 2), Paid(1, 0) },
        { "investment-income", New().Scope("investments").With("dividends.property", 50_001), New().Scope("investments").With("dividends.property", 50_000) },
        { "investment-shrinks", New().With("group.investment-before", 50_001), New().With("group.investment-before", 50_000) },
        { "nothing-to-go-by", Two(0, 0), Two(0, 1) },
        { "above-limit", New().Income(500_001), New().Income(500_000) },
        { "above-limit", New().Income(600_000), New().Income(600_001) },
        { "ontario-minimum-tax", Large(50_000_000, 100_000_000), Large(49_999_999, 100_000_000) },
        { "eligible-dividends-too-high", New().Scope("dividends-paid").With("dividends.paid-eligible", 101).With("pools.general-opening", 100), New().Scope("dividends-paid").With("dividends.paid-eligible", 100).With("pools.general-opening", 100) },
        { "late", New().Income(1_000).On(new DateOnly(2025, 7, 1)), New().Income(1_000).On(new DateOnly(2025, 6, 30)) },
        { "late-refund", New().On(new DateOnly(2025, 7, 1)), New().On(new DateOnly(2025, 6, 30)) },
        { "balance-due", New().Income(1_000), New().Income(0) },
        { "instalments", Asked(3_001, 3_001), Asked(3_000, 3_001) },
        { "no-account", New().With("balance.withheld", 1), New() },
        { "not-authorised", New().With("declaration.authorised", "no"), New().With("declaration.authorised", "yes") },
        { "not-declared", New().With("declaration.true-and-complete", "no"), New().With("declaration.true-and-complete", "yes") },
        { "company.account:identifier", New().With("company.account", "100000017RC0000"), New().With("company.account", "100000017RC0001") },
    };

    [Theory]
    [MemberData(nameof(Federal))]
    public void A_finding_of_the_federal_return_turns_at_its_edge(string finding, CompanyCase with, CompanyCase without) => CompanyCase.Turns(finding, with, without);

    /// <summary>
    /// On which days an addition may be expensed: designated after 18 April 2021 and in use before 2024 (ITR 1104(3.1)), productive from 16 April 2024 on in class 50 (the measure of the
    /// practice's own law sheet, enactment not verified); neither between related persons.
    /// </summary>
    [Theory]
    [InlineData("8", "2021-04-18", "no", false, false)]
    [InlineData("8", "2021-04-19", "no", true, false)]
    [InlineData("8", "2023-12-31", "no", true, false)]
    [InlineData("8", "2024-01-01", "no", false, false)]
    [InlineData("50", "2024-04-15", "no", false, false)]
    [InlineData("50", "2024-04-16", "no", false, true)]
    [InlineData("50", "2024-04-16", "yes", false, false)]
    [InlineData("8", "2024-04-16", "no", false, false)]
    public void An_addition_is_expensed_on_the_days_the_law_names(string @class, string acquired, string related, bool designated, bool productive)
    {
        var of = New().Bought(@class, 1_000, acquired, ("from-related", related)).Evaluate();
        bool Asked(string column) => of.IsOpen(of.Definition.LineOf($"depreciation.additions.{column}"), 0);
        Assert.Equal((designated, productive), (Asked("designated"), Asked("productive")));
    }

    /// <summary>ITA 157(1)(a)(iii): two months by the tax of the period before, the rest over ten; from memory.</summary>
    [Fact]
    public void Instalments_may_begin_with_those_of_the_period_before()
    {
        var of = Asked(3_001, 1_200).Evaluate();
        Assert.Equal((250, 100, 280, 750), (of.Amount("balance.monthly"), of.Amount("balance.monthly-first"), of.Amount("balance.monthly-then"), of.Amount("balance.quarterly")));
    }

    private static AlbertaCase Alberta() => new(2024, 1_000);

    public static TheoryData<string, AlbertaCase, AlbertaCase> OfAlberta => new()
    {
        { "no-establishment", Alberta().With("scope.establishment", "no"), Alberta() },
        { "no-federal-return", Alberta().With("scope.federal-filed", "no"), Alberta() },
        { "ends-in-another-year", Alberta().With("scope.end", "2025-01-01"), Alberta() },
        { "differs", Alberta().Scope("others-differ").Row("reconciliation.others", ("what", "R"), ("effect", "deducted"), ("federal", 0), ("alberta", 1)), Alberta() },
        { "late", Alberta().On(new DateOnly(2025, 7, 1)), Alberta().On(new DateOnly(2025, 6, 30)) },
        { "balance-due", Alberta(), new AlbertaCase(2024, 0) },
        { "company.contact:missing", Alberta(), Alberta().With("company.contact", "Bo") },
        { "company.preparer:missing", Alberta(), Alberta().With("scope.third-party", "no") },
        { "company.account:identifier", Alberta().With("company.account", "12345678"), Alberta().With("company.account", "123456789") },
        { "immediate-above-limit", Expensed(1_500_001), Expensed(1_500_000) },
    };

    [Theory]
    [MemberData(nameof(OfAlberta))]
    public void A_finding_of_Albertas_return_turns_at_its_edge(string finding, AlbertaCase with, AlbertaCase without)
    {
        Assert.Contains(with.Evaluate().Findings, f => f.Id == finding);
        Assert.DoesNotContain(without.Evaluate().Findings, f => f.Id == finding);
    }

    private static AccountsCase Books() => new AccountsCase(2024).Account("Bank", 100, "1001").Account("Shares", -100, "3500");

    private static (string, object)[] Asset(params (string, object)[] more) =>
        [("number", "1"), ("description", "Crane"), ("class", "8"), ("acquired", "2024-01-01"), ("cost", 100), ("method", "straight-line"), ("rate", 10), .. more];

    public static TheoryData<string, AccountsCase, AccountsCase> OfAccounts => new()
    {
        { "account-twice", Books().Row("trial-balance.accounts", ("number", "1000"), ("name", "Again")), Books().Row("trial-balance.accounts", ("number", "1009"), ("name", "Other")) },
        { "debit-and-credit", Books().Row("trial-balance.accounts", ("number", "9"), ("name", "Both"), ("debit", 2), ("credit", 1)), Books().Row("trial-balance.accounts", ("number", "9"), ("name", "One"), ("debit", 2)) },
        { "trial-balance.accounts.item:missing", Books().Account("Nowhere", 1), Books().Account("Empty", 0) },
        { "no-accounts", new AccountsCase(2024), Books() },
        { "ends-before-it-begins", Books().With("scope.begin", "2025-01-01"), Books().With("scope.begin", "2024-12-31") },
        { "ends-in-another-year", Books().With("scope.end", "2025-01-01"), Books() },
        { "entry-number-twice", Books().Row("adjustments.entries", ("number", 1), ("reason", "A")).Row("adjustments.entries", ("number", 1), ("reason", "B")), Books().Row("adjustments.entries", ("number", 1), ("reason", "A")).Row("adjustments.entries", ("number", 2), ("reason", "B")) },
        { "line-both-sides", Entry(("debit", 1), ("credit", 1)), Entry(("debit", 1)) },
        { "line-empty", Entry(), Entry(("credit", 1)) },
        { "asset-twice", Books().Row("assets.register", Asset()).Row("assets.register", Asset()), Books().Row("assets.register", Asset()).Row("assets.register", Asset(("number", "2"))) },
        { "acquired-after-period", Books().Row("assets.register", Asset(("acquired", "2025-01-01"))), Books().Row("assets.register", Asset(("acquired", "2024-12-31"))) },
        { "disposed-before-acquired", Books().Row("assets.register", Asset(("disposed", "2023-12-31"))), Books().Row("assets.register", Asset(("disposed", "2024-01-01"))) },
        { "accumulated-above-cost", Books().Row("assets.register", Asset(("opening", 101))), Books().Row("assets.register", Asset(("opening", 100))) },
        { "cost-differs", Registered(99, -10, 10), Registered(100, -10, 10) },
        { "accumulated-differs", Registered(100, -11, 10), Registered(100, -10, 10) },
        { "amortisation-differs", Registered(100, -10, 9), Registered(100, -10, 10) },
    };

    [Theory]
    [MemberData(nameof(OfAccounts))]
    public void A_finding_of_the_accounts_turns_at_its_edge(string finding, AccountsCase with, AccountsCase without)
    {
        Assert.Contains(with.Evaluate().Findings, f => f.Id == finding);
        Assert.DoesNotContain(without.Evaluate().Findings, f => f.Id == finding);
    }

    private static CompanyCase Loss() => New().Items(("8000", 0), ("9060", 100), ("1001", -100));

    private static CompanyCase Held() => New().Income(100).Scope("losses").Row("losses.non-capital", ("year", 2020), ("amount", 500));

    private static CompanyCase Sale() => New().Income(1_000).Scope("losses", "capital-gains").Row("gains.sold", ("description", "Land"), ("date", "2024-05-01"), ("proceeds", 100), ("cost", 0)).Row("losses.capital", ("year", 2020), ("amount", 500));

    private static CompanyCase Paid(decimal eligible, decimal other) => New().Items(("3700", 1)).Scope("dividends-paid").With("dividends.paid-eligible", eligible).With("dividends.paid-other", other);

    private static CompanyCase Two(decimal revenue, decimal salaries) => new CompanyCase(2024, "on", "bc").With("allocation.revenue-on", revenue).With("allocation.revenue-bc", 0).With("allocation.salaries-on", salaries).With("allocation.salaries-bc", 0);

    private static CompanyCase Large(decimal assets, decimal revenue) => New().Items(("1001", assets), ("8000", revenue));

    private static CompanyCase Asked(decimal now, decimal before) => New().Income(now > 3_000 ? 24_600 : 24_590).With("balance.tax-before", before);

    private static AlbertaCase Expensed(decimal cost) => Alberta().Scope("depreciation-differs").Row("depreciation.additions", ("description", "Saw"), ("class", "8"), ("acquired", "2023-05-01"), ("cost", cost), ("designated", "yes"))
        .Row("depreciation.classes", ("class", "8"), ("left", "yes"));

    private static AccountsCase Entry(params (string, object)[] line) => Books().Row("adjustments.entries", ("number", 1), ("reason", "A")).Row("adjustments.lines", [("of", 1), ("account", 1), .. line]);

    private static AccountsCase Registered(decimal cost, decimal accumulated, decimal ofPeriod) =>
        Books().Account("Crane", cost, "2008").Account("Amortised", accumulated, "2009").Account("Amortisation", ofPeriod, "8670").Row("assets.register", Asset());
}
