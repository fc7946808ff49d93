using System.Net;
using System.Text.Json.Nodes;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Aerarium.Server.Tests;

/// <summary>Returns of many clients in one workbook: a row for each client on the sheet of each form, clients and returns added where they are new, all or nothing unless somebody chooses.</summary>
public sealed class ManyReturnTests(SharedPractice shared) : IClassFixture<SharedPractice>
{
    private const string Kenya = "definition=ke/employment-income&year=2025";

    private static async Task<byte[]> WorkbookAsync(Browser browser, string with = "", string of = Kenya) =>
        (await browser.FetchAsync(HttpMethod.Get, $"/api/many-returns/workbook.xlsx?{of}&with={with}")).Content;

    private static async Task<JsonNode> BringAsync(Browser browser, byte[] workbook, string keep = "", string of = Kenya)
    {
        var (status, report) = await browser.UploadAsync($"/api/many-returns/import?{of}&name=pay.xlsx{(keep.Length == 0 ? "" : $"&keep={keep}")}", workbook);
        Assert.True(status == HttpStatusCode.OK, report.ToJsonString());
        return report;
    }

    /// <summary>The workbook with further rows: on the first sheet that has all of the keys named, texts under them.</summary>
    private static byte[] Filled(byte[] workbook, params (string Client, (string Key, string Text)[] Cells)[] rows)
    {
        using var memory = new MemoryStream();
        memory.Write(workbook);
        using (var file = SpreadsheetDocument.Open(memory, isEditable: true))
        {
            foreach (var (client, cells) in rows)
            {
                var data = file.WorkbookPart!.WorksheetParts.Select(p => p.Worksheet!.GetFirstChild<SheetData>()!)
                    .First(d => d.Elements<Row>().FirstOrDefault()?.Elements<Cell>().Select(c => c.InnerText).ToList() is { } keys && cells.All(c => keys.Contains(c.Key)));
                var keys = data.Elements<Row>().First().Elements<Cell>().Select(c => c.InnerText).ToList();
                data.Append(new Row(keys.Select(k => Text(k == "client" ? client : cells.FirstOrDefault(c => c.Key == k).Text ?? ""))) { RowIndex = (uint)data.Elements<Row>().Count() + 1 });
            }
        }

        return memory.ToArray();

        static Cell Text(string text) => new(new InlineString(new Text(text))) { DataType = CellValues.InlineString };
    }

    private static (string, string)[] Pay(string client, string pay) =>
    [
        ("employment.employers.pin", "P051440218K"), ("employment.employers.name", $"Works of {client}"), ("employment.employers.months", "12"), ("employment.employers.basic-pay", pay),
        ("employment.employers.tax-deducted", "1000"),
    ];

    private static int Int(JsonNode report, string name) => report[name]!.GetValue<int>();

    [Theory]
    [InlineData(Kenya)]
    [InlineData("definition=ph/individual-annual&year=2025")]
    public async Task Brought_back_as_it_went_out_it_changes_nothing(string of)
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var report = await BringAsync(rukia, await WorkbookAsync(rukia, "all", of), "all", of);
        Assert.True(Int(report, "clients") > 0);
        Assert.Equal(Int(report, "clients"), Int(report, "good"));
        Assert.Equal((0, 0, 0, 0), (Int(report, "newClients"), Int(report, "newReturns"), Int(report, "changes"), Int(report, "newRows")));
        Assert.Empty(report["ignored"]!.AsArray());
    }

    [Fact]
    public async Task Clients_and_returns_that_are_new_are_added_and_a_second_time_nothing_is_doubled()
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var empty = await WorkbookAsync(rukia);
        var filled = Filled(
            empty,
            ("a009900001X", [("client.name", "Ottoline Fernsby Kiprono"), ("client.email", "ottoline@quay.example"), ("client.clientGroup", "Fernsby")]),
            ("A009900002Y", [("client.name", "Barnaby Fernsby Kiprono")]),
            ("A009900001X", [("scope.employers", "One"), ("scope.insurance", "no")]),
            ("A009900002Y", [("scope.employers", "several")]),
            ("A009900001X", Pay("Ottoline", "960000.50")),
            ("A009900002Y", Pay("Barnaby", "700,000")),
            ("A009900002Y", [.. Pay("Barnaby", "120000"), ("employment.employers.first-month", "7")]));
        var trial = await BringAsync(rukia, filled);
        Assert.Equal((2, 2, 2, 2, false), (Int(trial, "clients"), Int(trial, "good"), Int(trial, "newClients"), Int(trial, "newReturns"), trial["stored"]!.GetValue<bool>()));
        Assert.Equal((3, 19), (Int(trial, "newRows"), Int(trial, "changes")));
        Assert.Empty((await rukia.GetAsync("/api/clients?search=Fernsby"))["items"]!.AsArray());

        Assert.True((await BringAsync(rukia, filled, "all"))["stored"]!.GetValue<bool>());
        var id = await rukia.ReturnOfAsync("Ottoline", 2025);
        var view = await rukia.GetAsync($"/api/returns/{id}");
        string? Value(string line) => view["values"]!.AsArray().FirstOrDefault(v => v!["line"]!.GetValue<string>() == line)?["value"]?.GetValue<string>();
        Assert.Equal(("one", "960000.5", "Ottoline Fernsby Kiprono", "ottoline@quay.example"), (Value("scope.employers"), Value("employment.employers.basic-pay"), Value("taxpayer.name"), Value("taxpayer.email")));
        Assert.Contains((await rukia.GetAsync($"/api/acts?returnId={id}")).AsArray(), a => a!.ToJsonString().Contains("pay.xlsx", StringComparison.Ordinal));

        var again = await BringAsync(rukia, filled, "all");
        Assert.Equal((2, 0, 0, 0, 0), (Int(again, "good"), Int(again, "newClients"), Int(again, "newReturns"), Int(again, "newRows"), Int(again, "changes")));
    }

    [Fact]
    public async Task What_is_wrong_is_told_by_sheet_row_and_column_and_a_client_is_taken_whole_or_not_at_all()
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var filled = Filled(
            await WorkbookAsync(rukia),
            ("A009900011X", [("client.name", "Clementine Rook")]),
            ("A009900012", [("client.name", "Ignatius Rook")]),
            ("A001100210N", [("client.name", "Somebody Else")]),
            ("A009900011X", [("scope.employers", "one")]),
            ("A009900013Z", [("scope.employers", "one")]),
            ("", [("scope.employers", "one")]),
            ("A001100650J", [("scope.employers", "none")]),
            ("A009900011X", [.. Pay("Clementine", "1.2.3"), ("employment.employers.first-month", "13")]));
        var report = await BringAsync(rukia, filled, "all");
        Assert.False(report["stored"]!.GetValue<bool>());
        Assert.Equal(
            [
                ("Clients", "Client", "A009900012"), ("Clients", "Name", "Somebody Else"), ("Employers", "Basic pay", "1.2.3"), ("Employers", "First month of the year, 1 to 12", "13"),
                ("Scope", "Client", ""), ("Scope", "Client", "A001100650J"), ("Scope", "Client", "A009900013Z"),
            ],
            report["problems"]!.AsArray().Select(p => (p!["sheet"]!.GetValue<string>(), p["column"]!.GetValue<string>(), p["value"]?.GetValue<string>() ?? "")).Order());
        Assert.All(report["problems"]!.AsArray(), p => Assert.True(p!["row"]!.GetValue<int>() >= 3));

        // None of its clients is without a fault, so that nothing can be taken either way.
        Assert.Equal((5, 0), (Int(report, "clients"), Int(report, "good")));
        Assert.False((await BringAsync(rukia, filled, "good"))["stored"]!.GetValue<bool>());

        var better = Filled(filled, ("A009900014W", [("client.name", "Leopoldine Rook")]), ("A009900014W", [("scope.employers", "none")]));
        Assert.True((await BringAsync(rukia, better, "good"))["stored"]!.GetValue<bool>());
        Assert.Equal(["Leopoldine Rook"], (await rukia.GetAsync("/api/clients?search=Rook"))["items"]!.AsArray().Select(c => c!["name"]!.GetValue<string>()));
    }

    [Theory]
    [InlineData("definition=ke/employment-income&year=2019", "not covered for 2019")]
    [InlineData("definition=ke/nothing&year=2025", "There is no return")]
    [InlineData("definition=ph/percentage-tax&year=2025&period=q9", "period")]
    public async Task A_return_that_is_not_covered_is_refused(string of, string says)
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var (status, problem) = await rukia.UploadAsync($"/api/many-returns/import?{of}", await WorkbookAsync(rukia));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains(says, problem["detail"]!.GetValue<string>(), StringComparison.Ordinal);
    }

    /// <summary>A workbook of one return names no client, and is refused with what to do.</summary>
    [Fact]
    public async Task Another_workbook_is_refused()
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var one = (await rukia.FetchAsync(HttpMethod.Get, $"/api/returns/{await rukia.ReturnOfAsync("Njeri", 2025)}/entries.xlsx")).Content;
        var (status, problem) = await rukia.UploadAsync($"/api/many-returns/import?{Kenya}", one);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("names no client", problem["detail"]!.GetValue<string>(), StringComparison.Ordinal);
    }
}
