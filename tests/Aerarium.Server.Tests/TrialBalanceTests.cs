using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using static Aerarium.Server.Tests.CompanyReturns;

namespace Aerarium.Server.Tests;

/// <summary>A trial balance brought as a file, brought again with changes, mapped as last year and as others did, and the tax return that follows it.</summary>
public class TrialBalanceTests(SharedPractice shared) : IClassFixture<SharedPractice>
{
    private const string List = "trial-balance.accounts";

    private Task<(Browser Rukia, long Client)> CompanyAsync(string name) => CompanyReturns.CompanyAsync(shared, name);

    private static async Task<JsonNode> ImportAsync(Browser browser, long id, byte[] file, string query = "")
    {
        var (status, answer) = await browser.UploadAsync($"/api/returns/{id}/lists/{List}/import?name=tb.csv{query}", file);
        Assert.True(status == HttpStatusCode.OK, answer.ToJsonString());
        return answer;
    }

    private static Task<JsonNode> ImportAsync(Browser browser, long id, string file, string query = "") => ImportAsync(browser, id, Encoding.UTF8.GetBytes(file), query);

    private static IReadOnlyList<string> Names(JsonNode report, string kind) => [.. report["against"]![kind]!.AsArray().Select(n => n!.GetValue<string>())];

    private static string File(int accounts, Func<int, (string Name, decimal Balance, string? Item)> account) => string.Join('\n', Enumerable.Range(0, accounts).Select(n =>
    {
        var (name, balance, item) = account(n);
        return string.Create(CultureInfo.InvariantCulture, $"{n + 1_000};{name};{balance:0.00};{item}");
    }).Prepend("Account no;Account name;Balance;Goes to"));

    /// <summary>Five thousand accounts, brought again with ten changes: rows keep their places, and what is mapped stays mapped.</summary>
    [Fact]
    public async Task A_trial_balance_brought_again_changes_what_changed()
    {
        var (rukia, client) = await CompanyAsync("Dunlin Dockyards Ltd");
        var id = await OpenAsync(rukia, client, "ca/accounts", 2025);
        (string, decimal, string?) Of(int n) => ($"Account {n}", n % 2 == 0 ? 100 + n : -99 - n, n % 2 == 0 ? "8810" : "8000");
        var first = await ImportAsync(rukia, id, File(5_000, Of), "&keep=all");
        Assert.Equal((5_000, 5_000, 5_000), (first["stored"]!.GetValue<int>(), Names(first, "added").Count is 201 ? 5_000 : 0, first["rows"]!.GetValue<int>()));
        var view = await rukia.GetAsync($"/api/returns/{id}");
        Assert.Equal("0", Value(view, "trial-balance.difference"));
        var rows = view["rows"]!.AsArray().Single(r => r!["section"]!.GetValue<string>() == List)!["rows"]!.AsArray().Select(r => r!.GetValue<string>()).ToList();

        // Without the column of items: what is mapped is not touched. Four amounts differ, three accounts are new, three are gone.
        var again = string.Join('\n', Enumerable.Range(0, 5_003).Where(n => n is not (7 or 8 or 9)).Select(n =>
        {
            var (name, balance, _) = Of(n);
            return string.Create(CultureInfo.InvariantCulture, $"{n + 1_000},{name},{(n < 4 ? balance + 1 : balance):0.00}");
        }).Prepend("Number,Name,Balance"));
        var trial = await ImportAsync(rukia, id, again);
        Assert.Equal((0, 3, 4, 3, 4_993), (trial["stored"]!.GetValue<int>(), Names(trial, "added").Count, Names(trial, "changed").Count, Names(trial, "gone").Count, trial["against"]!["same"]!.GetValue<int>()));
        Assert.Equal("1000 Account 0: Debit 100 becomes 101", Names(trial, "changed")[0]);
        Assert.Equal("1007 Account 7", Names(trial, "gone")[0]);

        var taken = await ImportAsync(rukia, id, again, "&keep=all&replace=true");
        Assert.Equal(5_000, taken["stored"]!.GetValue<int>());
        view = await rukia.GetAsync($"/api/returns/{id}");
        var now = view["rows"]!.AsArray().Single(r => r!["section"]!.GetValue<string>() == List)!["rows"]!.AsArray().Select(r => r!.GetValue<string>()).ToList();
        Assert.Equal(4_997, now.Intersect(rows).Count());
        Assert.Equal(("101", "8810"), (Value(view, $"{List}.debit", rows[0]), Value(view, $"{List}.item", rows[0])));

        // Taken back: the amounts as before, the removed accounts again.
        await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/lists/{List}/take-back", new
        {
            remove = now.Except(rows),
            restore = rows.Except(now),
            words = "tb.csv, taken back",
            cells = new[] { new { row = rows[0], line = $"{List}.debit", value = "100" } },
        });
        view = await rukia.GetAsync($"/api/returns/{id}");
        Assert.Equal("100", Value(view, $"{List}.debit", rows[0]));
        Assert.Equal("8000", Value(view, $"{List}.item", rows[7]));
    }

    [Fact]
    public async Task What_is_wrong_with_a_trial_balance_is_told_by_row_and_column_and_nothing_is_taken()
    {
        var (rukia, client) = await CompanyAsync("Teal Timber Ltd");
        var id = await OpenAsync(rukia, client, "ca/accounts", 2025);
        var report = await ImportAsync(rukia, id, "Account;Name;Debit;Credit;Goes to\n1;Bank;100;;1001\n1;Bank again;5;;\n2;Sales;;2025-03-01;8000\n3;Rent;40;;7777\n;Nameless;;;\n", "&keep=all");
        Assert.Equal((0, 1), (report["stored"]!.GetValue<int>(), report["good"]!.GetValue<int>()));
        Assert.Equal([(3, "Account"), (4, "Credit"), (5, "Goes to"), (6, "Account")], report["problems"]!.AsArray().Select(p => (p!["row"]!.GetValue<int>(), p["column"]!.GetValue<string>())));
        Assert.Contains("row 2", report["problems"]![0]!["message"]!.GetValue<string>(), StringComparison.Ordinal);
        Assert.Empty((await rukia.GetAsync($"/api/returns/{id}"))["rows"]!.AsArray());
    }

    /// <summary>A workbook as ECMA-376 has it, by hand: a hidden row is told; a formula whose result is not in the file is refused by its cell.</summary>
    [Fact]
    public async Task Hidden_rows_and_formulas_of_a_workbook_are_told()
    {
        var (rukia, client) = await CompanyAsync("Gannet Gears Ltd");
        var id = await OpenAsync(rukia, client, "ca/accounts", 2025);
        static string Cell(string at, string text) => $"<c r=\"{at}\" t=\"inlineStr\"><is><t>{text}</t></is></c>";
        var heads = $"<row r=\"1\">{Cell("A1", "Account")}{Cell("B1", "Name")}{Cell("C1", "Debit")}</row>";
        var hidden = await ImportAsync(rukia, id, Workbook($"{heads}<row r=\"2\" hidden=\"1\">{Cell("A2", "1")}{Cell("B2", "Bank")}<c r=\"C2\"><f>1+1</f><v>2</v></c></row>"));
        Assert.Equal((1, 2), (hidden["good"]!.GetValue<int>(), hidden["doubts"]![0]!["row"]!.GetValue<int>()));
        Assert.Contains("hidden", hidden["doubts"]![0]!["message"]!.GetValue<string>(), StringComparison.Ordinal);
        var (status, refused) = await rukia.UploadAsync($"/api/returns/{id}/lists/{List}/import?name=tb.xlsx", Workbook($"{heads}<row r=\"2\">{Cell("A2", "1")}{Cell("B2", "Bank")}<c r=\"C2\"><f>1+1</f></c></row>"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("C2", refused["detail"]!.GetValue<string>(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Mapping_is_proposed_as_last_year_and_as_for_other_clients()
    {
        var (rukia, client) = await CompanyAsync("Plover Ploughs Ltd");
        var (_, other) = await CompanyAsync("Curlew Carts Ltd");
        var (_, third) = await CompanyAsync("Sandpiper Saddles Ltd");
        foreach (var (of, item) in new[] { (other, "9270"), (third, "8860") })
        {
            await ImportAsync(rukia, await OpenAsync(rukia, of, "ca/accounts", 2025), $"Account;Name;Debit;Goes to\n77;Weather reports;5;{item}\n", "&keep=all");
        }

        await ImportAsync(rukia, await OpenAsync(rukia, client, "ca/accounts", 2024), "Account;Name;Debit;Goes to\n10;Bank;100;1001\n20;Old name;7;8810\n", "&keep=all");
        var id = await OpenAsync(rukia, client, "ca/accounts", 2025);
        Assert.Empty((await rukia.GetAsync($"/api/returns/{id}/lists/{List}/mapping"))["proposals"]!.AsArray());
        await ImportAsync(rukia, id, "Account;Name;Debit\n10;Bank renamed;100\n30;Old name;7\n77;weather REPORTS;3\n99;Unheard of;1\n98;Nothing on it;\n", "&keep=all");
        var view = await rukia.GetAsync($"/api/returns/{id}/lists/{List}/mapping");
        Assert.Equal($"{List}.item", view["line"]!.GetValue<string>());
        var proposals = view["proposals"]!.AsArray().Select(p => (p!["name"]!.GetValue<string>(), p["item"]!.GetValue<string>(), p["source"]!.GetValue<string>(), p["times"]!.GetValue<int>())).ToList();
        Assert.Equal([("10 Bank renamed", "1001", "last-year", 0), ("30 Old name", "8810", "last-year", 0)], proposals.Take(2));
        Assert.Equal(("77 weather REPORTS", "others", 1), (proposals[2].Item1, proposals[2].Item3, proposals[2].Item4));
        Assert.Equal(3, proposals.Count);
        var (status, _) = await rukia.SendAsync(HttpMethod.Get, $"/api/returns/{id}/lists/assets.register/mapping");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
    }

    /// <summary>The tax return takes each item in whole dollars, Alberta's return takes what is the same; accounts go to no authority.</summary>
    [Fact]
    public async Task Both_tax_returns_follow_the_accounts()
    {
        var (rukia, client) = await CompanyAsync("Osprey Oars Ltd");
        var accounts = await OpenAsync(rukia, client, "ca/accounts", 2025);
        var federal = await OpenAsync(rukia, client, "ca/company", 2025);
        var alberta = await OpenAsync(rukia, client, "ca/company-alberta", 2025);
        await ImportAsync(rukia, accounts, "Account;Name;Debit;Credit;Goes to\n1;Bank;1000.49;;1001\n2;Sales;;900.50;8000\n3;Shares;;99.99;3500\n", "&keep=all");
        await EditAsync(rukia, accounts, ("scope.first", "yes"), ("scope.begin", "2025-01-01"), ("scope.end", "2025-12-31"));
        await EditAsync(rukia, federal, ("scope.ab", "yes"), ("scope.bc", "no"), ("scope.on", "no"), ("scope.ccpc", "yes"), ("tax.claim-small", "yes"), ("group.capital", "1000"));
        await EditAsync(rukia, alberta, ("scope.establishment", "yes"));
        var view = await rukia.GetAsync($"/api/returns/{federal}");
        Assert.Equal(("1000", "901", "901", "2025-12-31"), (Value(view, "financial.item-1001"), Value(view, "financial.item-8000"), Value(view, "tax.taxable"), Value(view, "scope.end")));
        Assert.Equal("yes", Value(view, "scope.alberta-prepared"));
        Assert.Equal(("Authority of Canada", "Authority of Alberta"), (view["authority"]!.GetValue<string>(), view["beside"]!["authority"]!.GetValue<string>()));
        var there = await rukia.GetAsync($"/api/returns/{alberta}");
        Assert.Equal(("901", "72"), (Value(there, "reconciliation.federal"), Value(there, "tax.before")));
        var books = await rukia.GetAsync($"/api/returns/{accounts}");
        Assert.Null(books["authority"]);
        var (status, answer) = await rukia.SendAsync(HttpMethod.Get, $"/api/returns/{accounts}/sending");
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("goes to no authority", answer!["detail"]!.GetValue<string>(), StringComparison.Ordinal);

        // A change in the books reaches both.
        await ImportAsync(rukia, accounts, "Account;Name;Debit;Credit;Goes to\n1;Bank;2000.49;;1001\n2;Sales;;1900.50;8000\n3;Shares;;99.99;3500\n", "&keep=all");
        Assert.Equal("1901", Value(await rukia.GetAsync($"/api/returns/{federal}"), "tax.taxable"));
        Assert.Equal("1901", Value(await rukia.GetAsync($"/api/returns/{alberta}"), "reconciliation.federal"));
    }

    /// <summary>The register goes on from last year's; what is bought this year stands beside, and both follow into the tax return.</summary>
    [Fact]
    public async Task The_register_goes_on_from_last_year_beside_what_is_new()
    {
        var (rukia, client) = await CompanyAsync("Razorbill Ropes Ltd");
        var before = await OpenAsync(rukia, client, "ca/accounts", 2024);
        await EditAsync(rukia, before, ("scope.begin", "2024-01-01"), ("scope.end", "2024-12-31"));
        await ImportRegisterAsync(rukia, before, "Number;Asset;Class for tax;Acquired on;Cost;Amortised in the books;Rate a year\n1;Loom;8;2024-01-01;1000;straight-line;10\n");
        var now = await OpenAsync(rukia, client, "ca/accounts", 2025);
        var federal = await OpenAsync(rukia, client, "ca/company", 2025);
        await EditAsync(rukia, federal, ("scope.depreciable", "yes"));
        Assert.Equal(("2025-01-01", "100"), (Value(await rukia.GetAsync($"/api/returns/{now}"), "scope.begin"), Value(await rukia.GetAsync($"/api/returns/{now}"), "assets.register.opening", "tied-1")));
        await ImportRegisterAsync(rukia, now, "Number;Asset;Class for tax;Acquired on;Cost;Amortised in the books;Rate a year\n2;Bench;8;2025-03-01;600.40;straight-line;10\n");

        // Last year's register is corrected: the row beside the new one follows.
        var row = (await rukia.GetAsync($"/api/returns/{before}"))["rows"]!.AsArray().Single(r => r!["section"]!.GetValue<string>() == "assets.register")!["rows"]![0]!.GetValue<string>();
        await rukia.DoAsync(HttpMethod.Patch, $"/api/returns/{before}/entries", new { changes = new[] { new { kind = "set", line = "assets.register.cost", row, section = (string?)null, position = (int?)null, value = "2000", seen = long.MaxValue } } });
        var view = await rukia.GetAsync($"/api/returns/{now}");
        Assert.Equal("200", Value(view, "assets.register.opening", "tied-1"));
        Assert.Equal("600", Value(await rukia.GetAsync($"/api/returns/{federal}"), "depreciation.additions.cost", "tied-2"));
    }

    /// <summary>The parts of associated companies are taken from each other's returns; together they are never above the whole.</summary>
    [Fact]
    public async Task A_group_shares_one_limit_by_its_returns()
    {
        var (rukia, one) = await CompanyAsync("Avocet Anchors Ltd");
        var (_, two) = await CompanyAsync("Avocet Awnings Ltd");
        var (first, second) = (await OpenAsync(rukia, one, "ca/company", 2025), await OpenAsync(rukia, two, "ca/company", 2025));
        await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{one}/relations", new { kind = "associated", otherId = two });
        var (status, _) = await rukia.SendAsync(HttpMethod.Post, $"/api/clients/{two}/relations", new { kind = "associated", otherId = one });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        foreach (var (id, percent) in new[] { (first, "60"), (second, "40") })
        {
            await EditAsync(rukia, id, ("scope.begin", "2025-01-01"), ("scope.end", "2025-12-31"), ("scope.ccpc", "yes"), ("scope.associated", "yes"), ("group.percent", percent));
        }

        var view = await rukia.GetAsync($"/api/returns/{first}");
        Assert.Equal(("40", "100", "300000"), (Value(view, "group.percent-of-others"), Value(view, "group.percents"), Value(view, "group.limit")));
        await EditAsync(rukia, second, ("group.percent", "41"));
        view = await rukia.GetAsync($"/api/returns/{first}");
        Assert.Contains(view["findings"]!.AsArray(), f => f!["id"]!.GetValue<string>() == "agreement-above-whole");
    }

    private static async Task ImportRegisterAsync(Browser browser, long id, string file)
    {
        var (status, answer) = await browser.UploadAsync($"/api/returns/{id}/lists/assets.register/import?name=register.csv&keep=all", Encoding.UTF8.GetBytes(file));
        Assert.True(status == HttpStatusCode.OK && answer["stored"]!.GetValue<int>() == 1, answer.ToJsonString());
    }

    private static byte[] Workbook(string rows)
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create))
        {
            void Put(string name, string text)
            {
                using var writer = new StreamWriter(zip.CreateEntry(name).Open());
                writer.Write(text);
            }

            Put("[Content_Types].xml", "<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"><Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/><Default Extension=\"xml\" ContentType=\"application/xml\"/><Override PartName=\"/xl/workbook.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml\"/><Override PartName=\"/xl/worksheets/sheet1.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml\"/></Types>");
            Put("_rels/.rels", "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r1\" Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument\" Target=\"xl/workbook.xml\"/></Relationships>");
            Put("xl/workbook.xml", "<workbook xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\" xmlns:r=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships\"><sheets><sheet name=\"TB\" sheetId=\"1\" r:id=\"r1\"/></sheets></workbook>");
            Put("xl/_rels/workbook.xml.rels", "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r1\" Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet\" Target=\"worksheets/sheet1.xml\"/></Relationships>");
            Put("xl/worksheets/sheet1.xml", $"<worksheet xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\"><sheetData>{rows}</sheetData></worksheet>");
        }

        return memory.ToArray();
    }
}
