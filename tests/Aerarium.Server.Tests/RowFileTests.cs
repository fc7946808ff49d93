using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;

namespace Aerarium.Server.Tests;

/// <summary>Rows of a list as files: template out, filled file in, told by row and column before anything is taken.</summary>
public class RowFileTests(SharedPractice shared) : IClassFixture<SharedPractice>
{
    private const int Rukia = 0;
    private const string Headings = "Payer's number;Payer;Code;Total;Tax withheld";

    private async Task<(Browser Rukia, long List)> OpenAsync(int year, string quarter)
    {
        var rukia = await shared.Practice.SignInAsync(Rukia);
        var client = (await rukia.GetAsync("/api/returns/15"))["clientId"]!.GetValue<long>();
        var opened = await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "ph/withholding-credits", year, kind = "original", period = quarter });
        return (rukia, opened["id"]!.GetValue<long>());
    }

    private static Task<(HttpStatusCode Status, JsonNode Answer)> ImportAsync(Browser browser, long list, byte[] file, string query = "") =>
        browser.UploadAsync($"/api/returns/{list}/lists/list.rows/import?name=rows.csv{query}", file);

    private static string? Amount(JsonNode view, string line) =>
        view["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == line && v["row"] is null)!["value"]?.GetValue<string>();

    [Fact]
    public async Task What_is_wrong_is_told_by_row_and_column_and_nothing_is_taken()
    {
        var (rukia, list) = await OpenAsync(2024, "q1");
        var file = Encoding.UTF8.GetBytes($"{Headings}\n551230000000;Coral;WI010;1000;50\n00551230000000;Coral;WI0100;1000;abc\n;Coral;WI010;1000;50\n");
        var (_, report) = await ImportAsync(rukia, list, file, "&keep=all");
        Assert.Equal((3, 1, 0), (report["rows"]!.GetValue<int>(), report["good"]!.GetValue<int>(), report["stored"]!.GetValue<int>()));
        Assert.Equal(
            [(3, "Code"), (3, "Tax withheld"), (4, "Payer's number")],
            report["problems"]!.AsArray().Select(p => (p!["row"]!.GetValue<int>(), p["column"]!.GetValue<string>())));
        Assert.Empty((await rukia.GetAsync($"/api/returns/{list}"))["rows"]!.AsArray());

        var (_, good) = await ImportAsync(rukia, list, file, "&keep=good");
        Assert.Equal(1, good["stored"]!.GetValue<int>());
        var view = await rukia.GetAsync($"/api/returns/{list}");
        Assert.Equal("50", Amount(view, "list.withheld"));
        var taken = view["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == "list.rows.total")!;
        Assert.Equal("imported", taken["origin"]!.GetValue<string>());
        Assert.StartsWith("rows.csv, SHA-256 ", taken["source"]!.GetValue<string>());

        var (_, replaced) = await ImportAsync(rukia, list, Encoding.UTF8.GetBytes($"{Headings}\n00661020000000;Salt;WI100;2000;100\n"), "&keep=all&replace=true");
        Assert.Equal(1, replaced["stored"]!.GetValue<int>());
        Assert.Equal("100", Amount(await rukia.GetAsync($"/api/returns/{list}"), "list.withheld"));
    }

    [Fact]
    public async Task A_whole_file_is_taken_back_as_one_act_and_taken_again()
    {
        var (rukia, list) = await OpenAsync(2021, "q1");
        string[] Rows(JsonNode view) => [.. view["rows"]!.AsArray().SingleOrDefault(r => r!["section"]!.GetValue<string>() == "list.rows")?["rows"]!.AsArray().Select(r => r!.GetValue<string>()) ?? []];
        async Task<string[]> TakeBackAsync(string[] remove, string[] restore)
        {
            await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{list}/lists/list.rows/take-back", new { remove, restore, words = "rows.csv, taken back" });
            return Rows(await rukia.GetAsync($"/api/returns/{list}"));
        }

        await ImportAsync(rukia, list, Encoding.UTF8.GetBytes($"{Headings}\n00551230000000;Coral;WI010;1000;50\n00661020000000;Salt;WI010;3000;150\n"), "&keep=all");
        var before = Rows(await rukia.GetAsync($"/api/returns/{list}"));
        await ImportAsync(rukia, list, Encoding.UTF8.GetBytes($"{Headings}\n00772030000000;Nine;WI100;2000;100\n"), "&keep=all&replace=true");
        var after = Rows(await rukia.GetAsync($"/api/returns/{list}"));
        Assert.Equal((2, 1), (before.Length, after.Length));
        Assert.Equal(before, await TakeBackAsync(after, before));
        Assert.Equal("200", Amount(await rukia.GetAsync($"/api/returns/{list}"), "list.withheld"));
        Assert.Equal(after, await TakeBackAsync(before, after));
        Assert.Equal("100", Amount(await rukia.GetAsync($"/api/returns/{list}"), "list.withheld"));
        var acts = (await rukia.GetAsync($"/api/acts?returnId={list}")).AsArray();
        Assert.Equal(4, acts.Count(a => a!["kind"]!.GetValue<string>() == "import"));
        var (status, answer) = await rukia.SendAsync(HttpMethod.Post, $"/api/returns/{list}/lists/list.rows/take-back", new { remove = Array.Empty<string>(), restore = Array.Empty<string>(), words = "x" });
        Assert.True(status == HttpStatusCode.UnprocessableEntity, answer?.ToJsonString());
    }

    public static TheoryData<string, string> Files => new()
    {
        { "comma", "Payer's number,Payer,Code,Total,Tax withheld\n00551230000000,Coral,WI010,\"1,000.50\",50.03\n" },
        { "tab, labels of codes", "PAYERS NUMBER\tPayer\tCode\tTotal\tTax withheld\n00551230000000\tCoral\tWI010 Professional fees, up to 3 million\t1000.50\t50.03\n" },
        { "decimal comma", $"{Headings}\n00551230000000;Coral;WI010;1.000,50;50,03\n" },
        { "names of columns", "payor-tin|payor|code|total|withheld|Remark\n00551230000000|Coral|wi010|1000.5|50.03|ours\n" },
    };

    [Theory]
    [MemberData(nameof(Files))]
    public async Task Any_usual_delimiter_decimal_mark_and_heading_is_read(string what, string text)
    {
        Assert.NotEmpty(what);
        var rukia = await shared.Practice.SignInAsync(Rukia);
        foreach (var encoding in new[] { Encoding.UTF8, Encoding.Unicode, Encoding.Latin1 })
        {
            var (_, report) = await ImportAsync(rukia, 22, [.. encoding.GetPreamble(), .. encoding.GetBytes(text.Replace("Coral", "Café", StringComparison.Ordinal))]);
            Assert.Equal((1, 1), (report["rows"]!.GetValue<int>(), report["good"]!.GetValue<int>()));
        }
    }

    [Theory]
    [InlineData("Payer's number;Total\n005;1.000,50\n006;1,000.50\n", "Use one of them throughout")]
    [InlineData("Colour;Size\nred;5\n", "None of the headings")]
    [InlineData("Total;Total\n1;2\n", "over two columns")]
    [InlineData("Total\n", "no rows")]
    public async Task A_file_that_cannot_be_read_for_certain_is_refused(string text, string words)
    {
        var rukia = await shared.Practice.SignInAsync(Rukia);
        var (status, answer) = await ImportAsync(rukia, 22, Encoding.UTF8.GetBytes(text));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains(words, answer["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task The_template_filled_in_comes_back_and_what_goes_out_runs_nothing()
    {
        var (rukia, list) = await OpenAsync(2024, "q2");
        var (_, template) = await rukia.FetchAsync(HttpMethod.Get, $"/api/returns/{list}/lists/list.rows/template.xlsx");
        using (var zip = new ZipArchive(new MemoryStream(template)))
        {
            var sheet = await new StreamReader(zip.Entries.Single(e => e.FullName.EndsWith("sheet1.xml", StringComparison.Ordinal) || e.FullName.EndsWith("sheet.xml", StringComparison.Ordinal)).Open()).ReadToEndAsync();
            Assert.Contains("dataValidation", sheet);
            Assert.Contains("Codes!$A$1", sheet);
            Assert.DoesNotContain("Difference", sheet);
        }

        await ImportAsync(rukia, list, Encoding.UTF8.GetBytes($"{Headings}\n00551230000000;=HYPERLINK(1);WI010;1000;50\n"), "&keep=all");
        var (_, csv) = await rukia.FetchAsync(HttpMethod.Get, $"/api/returns/{list}/lists/list.rows/rows.csv");
        Assert.Contains("'=HYPERLINK(1)", Encoding.UTF8.GetString(csv));
        var (_, workbook) = await rukia.FetchAsync(HttpMethod.Get, $"/api/returns/{list}/lists/list.rows/rows.xlsx");
        using (var zip = new ZipArchive(new MemoryStream(workbook)))
        {
            Assert.All(zip.Entries.Where(e => e.FullName.StartsWith("xl/worksheets/", StringComparison.Ordinal)), e => Assert.DoesNotContain("<x:f>", new StreamReader(e.Open()).ReadToEnd()));
        }

        var (_, back) = await ImportAsync(rukia, list, workbook);
        Assert.Equal((1, 1), (back["rows"]!.GetValue<int>(), back["good"]!.GetValue<int>()));
        var (status, _) = await rukia.FetchAsync(HttpMethod.Get, $"/api/returns/{list}/lists/list.rows/anything.csv");
        Assert.Equal(HttpStatusCode.NotFound, status);
    }

    /// <summary>A file of thousands of rows is one act, with the file's name and hash.</summary>
    [Fact]
    public async Task Five_thousand_rows_are_taken_as_one_act()
    {
        var (rukia, list) = await OpenAsync(2024, "q3");
        var rows = string.Concat(Enumerable.Range(1, 5_000).Select(n => $"{100_000_000 + n}00000;Payer {n};WI010;{1_000 + n};{(1_000 + n) * 0.05m:0.00}\n"));
        var (_, report) = await ImportAsync(rukia, list, Encoding.UTF8.GetBytes($"{Headings}\n{rows}"), "&keep=all");
        Assert.Equal(5_000, report["stored"]!.GetValue<int>());
        var view = await rukia.GetAsync($"/api/returns/{list}");
        Assert.Equal(("17502500", "875125"), (Amount(view, "list.payments"), Amount(view, "list.withheld")));
        var acts = (await rukia.GetAsync($"/api/acts?returnId={list}")).AsArray();
        Assert.Single(acts, a => a!["kind"]!.GetValue<string>() == "import");
        var edited = await rukia.SetAsync(list, "list.rows.withheld", "1", view["rows"]![0]!["rows"]![4_999]!.GetValue<string>());
        Assert.Equal(
            ["list.credit", "list.rows.difference", "list.rows.withheld", "list.withheld"],
            edited["values"]!.AsArray().Select(v => v!["line"]!.GetValue<string>()).Order(StringComparer.Ordinal));
    }
}
