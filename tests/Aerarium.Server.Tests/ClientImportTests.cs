using System.IO.Compression;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;

namespace Aerarium.Server.Tests;

public sealed class ClientImportTests : IAsyncLifetime
{
    private Practice _practice = null!;
    private Browser _rukia = null!;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        _rukia = await _practice.SignInAsync(0);
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    [Fact]
    public async Task A_table_is_tried_first_then_stored_whole()
    {
        const string csv = "\uFEFFPIN;Full name;Date of birth;E-mail address;Household;Shoe size\r\nA700000001A;\"Wren, Odalys\";31/12/1990;wren@post.example;Wren household;38\r\n\r\na700000002b ;Caspian Thorne;1985-02-28;;;\r\n";
        var trial = await ImportAsync(csv, null);
        Assert.Equal((2, 2, 0), (Number(trial, "rows"), Number(trial, "good"), Number(trial, "stored")));
        Assert.Equal("Shoe size", trial["ignored"]!.AsArray().Single()!.GetValue<string>());
        Assert.Equal(2, Number(await ImportAsync(csv, "all"), "stored"));
        var stored = await _rukia.GetAsync("/api/clients?search=wren");
        Assert.Equal("Wren, Odalys", stored["items"]!.AsArray().Single()!["name"]!.GetValue<string>());
        Assert.Equal(1, Number(await _rukia.GetAsync("/api/clients?search=A700000002B"), "total"));
    }

    [Fact]
    public async Task What_a_country_keeps_besides_comes_in_under_its_own_headings()
    {
        const string csv = "TIN,Name,Kind,District office code,Citizenship,Financial year end,Company registration number\n201-009-911-00000,Luningning Ashgrove,,39x1,Filipino,,\n"
            + "201-009-912-00000,Banig and Oar Inc,company,025,,30 June,CS-7\n201-009-913-00000,Somebody,robot,,,,";
        var path = "/api/clients/import?country=ph&keep=good";
        var (_, report) = await _rukia.UploadAsync(path, Encoding.UTF8.GetBytes(csv));
        Assert.Equal(["2 District office code", "4 Kind"], report["problems"]!.AsArray().Select(p => $"{p!["row"]} {p["column"]}"));
        Assert.Equal(1, Number(report, "stored"));
        var id = Number((await _rukia.GetAsync("/api/clients?search=Banig"))["items"]![0]!, "id");
        var particulars = (await _rukia.GetAsync($"/api/clients/{id}"))["particulars"]!;
        Assert.Equal(("025", "CS-7", "06-30"), (
            particulars["more"]!["district-office"]!.GetValue<string>(), particulars["more"]!["registration-number"]!.GetValue<string>(), particulars["yearEnd"]!.GetValue<string>()));
    }

    [Fact]
    public async Task One_wrong_row_keeps_all_out_unless_the_good_ones_are_chosen()
    {
        const string csv = "Identifier,Name,Date of birth\nA700000001A,Odalys Wren,31/02/1990\nA70000002B,Caspian Thorne,\nA700000003C,Third Person,\nA700000003C,Third Again,\nA001100320T,Somebody Else,\n,Nobody,";
        var report = await ImportAsync(csv, "all");
        Assert.Equal((6, 1, 0), (Number(report, "rows"), Number(report, "good"), Number(report, "stored")));
        var problems = report["problems"]!.AsArray().Select(p => (Number(p!, "row"), p!["column"]!.GetValue<string>(), p["message"]!.GetValue<string>())).ToList();
        Assert.Contains(problems, p => p.Item1 == 2 && p.Item2 == "Date of birth" && p.Item3.Contains("not a date", StringComparison.Ordinal));
        Assert.Contains(problems, p => p.Item1 == 3 && p.Item2 == "Identifier" && p.Item3.Contains("nine digits", StringComparison.Ordinal));
        Assert.Contains(problems, p => p.Item1 == 5 && p.Item3.Contains("Row 4 has the same identifier", StringComparison.Ordinal));
        Assert.Contains(problems, p => p.Item1 == 6 && p.Item3.Contains("Tamsin Wekesa Quill already has", StringComparison.Ordinal));
        Assert.Contains(problems, p => p.Item1 == 7);
        Assert.Equal(0, Number(await _rukia.GetAsync("/api/clients?search=third"), "total"));
        Assert.Equal(1, Number(await ImportAsync(csv, "good"), "stored"));
        Assert.Equal(1, Number(await _rukia.GetAsync("/api/clients?search=third"), "total"));
    }

    [Fact]
    public async Task Somebody_who_may_be_a_client_already_is_pointed_out()
    {
        var report = await ImportAsync("Identifier,Name,Date of birth\nA700000001A,njeri halvorsen oduya,9/3/1984\nA700000002B,Njeri Halvorsen Oduya,1/1/1950", null);
        var doubt = report["doubts"]!.AsArray().Single()!;
        Assert.Equal(2, Number(doubt, "row"));
        Assert.Contains("Njeri Halvorsen Oduya, born 1984-03-09,", doubt["message"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_workbook_is_read_with_dates_formula_results_and_rows_as_a_spreadsheet_numbers_them()
    {
        const string rows = """
            <row r="1"><c r="A1" t="inlineStr"><is><t>PIN</t></is></c><c r="B1" t="inlineStr"><is><t>Name</t></is></c><c r="C1" t="inlineStr"><is><t>Born</t></is></c></row>
            <row r="3"><c r="A3" t="inlineStr"><is><t>A700000001A</t></is></c><c r="B3" t="str"><f>"Odalys"&amp;" Wren"</f><v>Odalys Wren</v></c><c r="C3" s="1"><v>33238</v></c></row>
            <row r="4"><c r="A4"><v>700000002</v></c><c r="B4" t="inlineStr"><is><t>Number Only</t></is></c></row>
            """;
        var report = await ImportAsync(Workbook(rows), "good");
        Assert.Equal(1, Number(report, "stored"));
        Assert.Equal((4, "700000002"), (Number(report["problems"]![0]!, "row"), report["problems"]![0]!["value"]!.GetValue<string>()));
        var id = Number((await _rukia.GetAsync("/api/clients?search=Odalys"))["items"]![0]!, "id");
        Assert.Equal("1990-12-31", (await _rukia.GetAsync($"/api/clients/{id}"))["particulars"]!["birthDate"]!.GetValue<string>());
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("Identifier,Name\n", "no rows")]
    [InlineData("Surname,Number\nA,B\n", "no column 'Identifier'")]
    [InlineData("Identifier,Name\nA700000001A,\"Odalys\" Wren\nA700000002B,\"open\n", "quotation mark")]
    [InlineData("\0\0\0binary", "neither CSV nor")]
    [InlineData("PKnot a zip", "cannot be read")]
    public async Task A_file_that_is_no_list_of_clients_is_refused_with_what_to_do(string content, string words)
    {
        var (status, answer) = await SendAsync(Encoding.UTF8.GetBytes(content), "all");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains(words, answer["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task Windows_1252_is_read_and_a_workbook_that_unpacks_to_hundreds_of_megabytes_is_refused()
    {
        var (_, latin) = await SendAsync([.. Encoding.ASCII.GetBytes("Identifier,Name\nA700000001A,Quillon Jos"), 0xE9, (byte)'\n'], "all");
        Assert.Equal(1, Number(latin, "stored"));
        Assert.Equal("Quillon José", (await _rukia.GetAsync("/api/clients?search=Quillon"))["items"]![0]!["name"]!.GetValue<string>());
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            using var stream = zip.CreateEntry("xl/worksheets/sheet1.xml").Open();
            var zeros = new byte[1024 * 1024];
            for (var megabyte = 0; megabyte < 80; megabyte++)
            {
                stream.Write(zeros);
            }
        }

        var (_, bomb) = await SendAsync(memory.ToArray(), "all");
        Assert.Contains("far larger unpacked", bomb["detail"]!.GetValue<string>());
    }

    private static byte[] Workbook(string rows)
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            void Part(string name, string xml)
            {
                using var writer = new StreamWriter(zip.CreateEntry(name).Open());
                writer.Write(xml);
            }

            const string main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
            const string relations = "http://schemas.openxmlformats.org/package/2006/relationships";
            const string office = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";
            Part("[Content_Types].xml", """<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/></Types>""");
            Part("_rels/.rels", $"""<Relationships xmlns="{relations}"><Relationship Id="r1" Type="{office}/officeDocument" Target="xl/workbook.xml"/></Relationships>""");
            Part("xl/workbook.xml", $"""<workbook xmlns="{main}" xmlns:r="{office}"><sheets><sheet name="Clients" sheetId="1" r:id="r1"/></sheets></workbook>""");
            Part("xl/_rels/workbook.xml.rels", $"""<Relationships xmlns="{relations}"><Relationship Id="r1" Type="{office}/worksheet" Target="worksheets/sheet1.xml"/><Relationship Id="r2" Type="{office}/styles" Target="styles.xml"/></Relationships>""");
            Part("xl/styles.xml", $"""<styleSheet xmlns="{main}"><cellXfs count="2"><xf numFmtId="0"/><xf numFmtId="14" applyNumberFormat="1"/></cellXfs></styleSheet>""");
            Part("xl/worksheets/sheet1.xml", $"""<worksheet xmlns="{main}"><sheetData>{rows}</sheetData></worksheet>""");
        }

        return memory.ToArray();
    }

    private static long Number(JsonNode node, string name) => node[name]!.GetValue<long>();

    private Task<JsonNode> ImportAsync(string csv, string? keep) => ImportAsync(Encoding.UTF8.GetBytes(csv), keep);

    private async Task<JsonNode> ImportAsync(byte[] file, string? keep)
    {
        var (status, answer) = await SendAsync(file, keep);
        Assert.True(status == HttpStatusCode.OK, answer.ToJsonString());
        return answer;
    }

    private async Task<(HttpStatusCode Status, JsonNode Answer)> SendAsync(byte[] file, string? keep)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/clients/import?country=ke{(keep is null ? "" : $"&keep={keep}")}") { Content = new ByteArrayContent(file) };
        request.Content.Headers.ContentType = new MediaTypeHeaderValue("text/csv");
        return await _rukia.SendAsync(request);
    }
}
