using System.Diagnostics;
using System.Net;
using System.Text.Json.Nodes;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;

namespace Aerarium.Server.Tests;

/// <summary>All entries of a return as a workbook: out, filled elsewhere, and back, told by sheet, row and column, all or nothing unless somebody chooses.</summary>
public sealed class ReturnFileTests(SharedPractice shared) : IClassFixture<SharedPractice>
{
    private const long Annual = 15;
    private const long List1 = 22;

    private async Task<(Browser Rukia, long Id, byte[] Workbook)> OpenAsync(string? client, long? known = null)
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var id = known ?? await rukia.ReturnOfAsync(client!, 2025);
        return (rukia, id, (await rukia.FetchAsync(HttpMethod.Get, $"/api/returns/{id}/entries.xlsx")).Content);
    }

    private static async Task<JsonNode> BringAsync(Browser browser, long id, byte[] workbook, string keep = "")
    {
        var (status, report) = await browser.UploadAsync($"/api/returns/{id}/entries/import?name=filled.xlsx{(keep.Length == 0 ? "" : $"&keep={keep}")}", workbook);
        Assert.True(status == HttpStatusCode.OK, report.ToJsonString());
        return report;
    }

    /// <summary>The workbook with texts put into cells: beside a line's key in the sheet of its form, or as a new row under the headings of a list.</summary>
    private static byte[] Filled(byte[] workbook, IReadOnlyDictionary<string, string> lines, string? list = null, params (string Heading, string Text)[] row)
    {
        using var memory = new MemoryStream();
        memory.Write(workbook);
        using (var file = SpreadsheetDocument.Open(memory, isEditable: true))
        {
            foreach (var part in file.WorkbookPart!.WorksheetParts)
            {
                var rows = part.Worksheet!.Descendants<Row>().ToList();
                foreach (var one in rows.Where(r => lines.ContainsKey(r.Elements<Cell>().LastOrDefault()?.InnerText ?? "")))
                {
                    var cells = one.Elements<Cell>().ToList();
                    one.ReplaceChild(Text(lines[cells[^1].InnerText]), cells[2]);
                }

                if (list is not null && rows.FirstOrDefault()?.Elements<Cell>().Any(c => c.InnerText == $"Row of {list}") == true)
                {
                    var headings = rows[0].Elements<Cell>().Select(c => c.InnerText).ToList();
                    part.Worksheet!.GetFirstChild<SheetData>()!.Append(new Row(headings.Select(h => Text(row.FirstOrDefault(r => r.Heading == h).Text ?? ""))) { RowIndex = (uint)rows.Count + 1 });
                }
            }
        }

        return memory.ToArray();

        static Cell Text(string text) => new(new InlineString(new Text(text))) { DataType = CellValues.InlineString };
    }

    private static string? Value(JsonNode view, string line) => view["values"]!.AsArray().FirstOrDefault(v => v!["line"]!.GetValue<string>() == line)?["value"]?.GetValue<string>();

    [Theory]
    [InlineData("Njeri", null)]
    [InlineData(null, Annual)]
    [InlineData(null, List1)]
    [InlineData("Delphine", null)]
    public async Task A_workbook_brought_back_as_it_went_out_changes_nothing(string? client, long? known)
    {
        var (rukia, id, workbook) = await OpenAsync(client, known);
        var report = await BringAsync(rukia, id, workbook, "all");
        Assert.Equal((0, 0, false), (report["changes"]!.GetValue<int>(), report["newRows"]!.GetValue<int>(), report["stored"]!.GetValue<bool>()));
        Assert.Empty(report["problems"]!.AsArray());
        Assert.Empty(report["ignored"]!.AsArray());
    }

    /// <summary>Opened and saved by LibreOffice, every cell still says what it said: an outside program reads the workbook as meant.</summary>
    [Fact]
    public async Task Saved_by_another_program_it_still_says_the_same()
    {
        var (rukia, id, workbook) = await OpenAsync("Njeri");
        var folder = Directory.CreateTempSubdirectory("aerarium-entries").FullName;
        try
        {
            await File.WriteAllBytesAsync(Path.Combine(folder, "entries.xlsx"), workbook);
            var start = new ProcessStartInfo("soffice") { RedirectStandardOutput = true, RedirectStandardError = true };
            foreach (var argument in new[] { $"-env:UserInstallation=file://{folder}/profile", "--headless", "--convert-to", "xlsx:Calc MS Excel 2007 XML", "--outdir", Path.Combine(folder, "out"), Path.Combine(folder, "entries.xlsx") })
            {
                start.ArgumentList.Add(argument);
            }

            using (var soffice = Process.Start(start)!)
            {
                await soffice.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
                await soffice.WaitForExitAsync(TestContext.Current.CancellationToken);
            }

            var report = await BringAsync(rukia, id, await File.ReadAllBytesAsync(Path.Combine(folder, "out", "entries.xlsx")), "all");
            Assert.Equal(0, report["changes"]!.GetValue<int>());
            Assert.Empty(report["problems"]!.AsArray());
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task What_cannot_be_read_is_told_by_sheet_row_and_column_and_nothing_is_taken_until_somebody_chooses()
    {
        var (rukia, id, workbook) = await OpenAsync("Jabali");
        var filled = Filled(
            workbook,
            new Dictionary<string, string> { ["taxpayer.email"] = "jabali@quay.example", ["declaration.date"] = "the day before" },
            "employment.employers",
            ("Employer's name", "Lantern Works Ltd"), ("Months worked", "13"), ("Basic pay", "12*45000"));
        var report = await BringAsync(rukia, id, filled, "all");
        Assert.False(report["stored"]!.GetValue<bool>());
        Assert.Equal(
            [("Date", "the day before"), ("Months worked", "13")],
            report["problems"]!.AsArray().Select(p => (p!["column"]!.GetValue<string>(), p["value"]!.GetValue<string>())).Order());
        Assert.All(report["problems"]!.AsArray(), p => Assert.NotEqual(0, p!["row"]!.GetValue<int>()));
        Assert.NotEqual("jabali@quay.example", Value(await rukia.GetAsync($"/api/returns/{id}"), "taxpayer.email"));

        report = await BringAsync(rukia, id, filled, "good");
        Assert.True(report["stored"]!.GetValue<bool>());
        Assert.Equal(1, report["newRows"]!.GetValue<int>());
        var view = await rukia.GetAsync($"/api/returns/{id}");
        Assert.Equal("jabali@quay.example", Value(view, "taxpayer.email"));
        Assert.Contains(view["values"]!.AsArray(), v => v!["line"]!.GetValue<string>() == "employment.employers.basic-pay" && v["value"]?.GetValue<string>() == "540000" && v["origin"]!.GetValue<string>() == "imported");
    }

    [Fact]
    public async Task Another_workbook_is_refused_in_words()
    {
        var (rukia, id, _) = await OpenAsync("Tamsin");
        var list = (await rukia.FetchAsync(HttpMethod.Get, "/api/returns/22/lists/list.rows/template.xlsx")).Content;
        var (status, problem) = await rukia.UploadAsync($"/api/returns/{id}/entries/import", list);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("holds no sheet of this return", problem["detail"]!.GetValue<string>());
        (status, problem) = await rukia.UploadAsync($"/api/returns/{id}/entries/import", "Line;Entry\n"u8.ToArray());
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("no XLSX workbook", problem["detail"]!.GetValue<string>());
    }
}
