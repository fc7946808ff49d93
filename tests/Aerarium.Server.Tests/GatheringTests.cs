using System.Net;
using System.Text;
using System.Text.Json.Nodes;

namespace Aerarium.Server.Tests;

/// <summary>Documents, statements, consent, ticks, and the verification of registered particulars.</summary>
public class GatheringTests : IAsyncLifetime
{
    private const string Kind = "employer-certificate";
    private Practice _practice = null!;
    private Browser _rukia = null!;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        _rukia = await _practice.SignInAsync(0);
    }

    public async ValueTask DisposeAsync()
    {
        await _practice.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    private async Task<long> ClientAsync(string name) => (await _rukia.GetAsync($"/api/clients?search={Uri.EscapeDataString(name)}"))["items"]![0]!["id"]!.GetValue<long>();

    private async Task<(long Client, long Return)> TamsinAsync() => (await ClientAsync("Tamsin"), await _rukia.ReturnOfAsync("Tamsin", 2025));

    private async Task<JsonNode> ImportAsync(long client, string content, string? keep = null)
    {
        var (status, answer) = await _rukia.UploadAsync(
            $"/api/clients/{client}/statements/import?kind={Kind}&year=2025&name=certificates{(keep is null ? "" : $"&keep={keep}")}", Encoding.UTF8.GetBytes(content));
        Assert.True(status is HttpStatusCode.OK or HttpStatusCode.UnprocessableEntity, answer.ToJsonString());
        return answer;
    }

    [Fact]
    public async Task A_document_is_kept_by_what_it_is_not_by_what_its_name_says_and_comes_back_byte_for_byte()
    {
        var (client, id) = await TamsinAsync();
        var pdf = await _rukia.Http.GetByteArrayAsync($"/api/returns/{id}/printed-copy.pdf");
        var list = (await _rukia.UploadAsync($"/api/clients/{client}/documents?name=..%2F..%2Fcopy.png&kind=letter&year=2025&returnId={id}", pdf)).Answer;
        var document = list.AsArray().Single()!;
        Assert.Equal(("copy.png", "application/pdf"), (document["name"]!.GetValue<string>(), document["mediaType"]!.GetValue<string>()));
        Assert.True(document["pages"]!.GetValue<long>() >= 1);
        var path = $"/api/clients/{client}/documents/{document["id"]}";
        using var response = await _rukia.Http.GetAsync(path);
        Assert.Equal(pdf, await response.Content.ReadAsByteArrayAsync());
        Assert.Equal("nosniff", response.Headers.GetValues("X-Content-Type-Options").Single());
        Assert.Contains("attachment", response.Content.Headers.ContentDisposition!.ToString());

        var other = await ClientAsync("Per ");
        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Get, $"/api/clients/{other}/documents/{document["id"]}")).Status);
        Assert.Empty((await _rukia.DoAsync(HttpMethod.Delete, path)).AsArray());
        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Get, path)).Status);
    }

    [Fact]
    public async Task A_document_may_have_twenty_megabytes_and_no_more()
    {
        var (client, _) = await TamsinAsync();
        var big = new byte[20 * 1024 * 1024];
        "%PDF-1.7 "u8.CopyTo(big);
        Assert.Equal(HttpStatusCode.OK, (await _rukia.UploadAsync($"/api/clients/{client}/documents?name=scan.pdf&kind=letter", big)).Status);
        try
        {
            Assert.Equal(HttpStatusCode.RequestEntityTooLarge, (await _rukia.FetchAsync(HttpMethod.Post, $"/api/clients/{client}/documents?name=scan.pdf&kind=letter", [.. big, 1])).Status);
        }
        catch (HttpRequestException)
        {
            // The server may also hang up while the rest is still being sent.
        }

        Assert.Single((await _rukia.GetAsync($"/api/clients/{client}/documents")).AsArray());
    }

    [Theory]
    [InlineData("""[{"employeePin":"A001100320T","employerPin":"P051900417G","employerName":"Glasshouse Orchestra Trust","months":12,"basicSalary":912000.50,"year":2025}]""")]
    [InlineData("""{"employeePin":"A001100320T","boxes":{"employerPin":"P051900417G","employerName":"Glasshouse Orchestra Trust","months":"12","basicSalary":"912,000.50"}}""")]
    [InlineData("<Statements><Statement><employeePin>A001100320T</employeePin><employerPin>P051900417G</employerPin><employerName>Glasshouse Orchestra Trust</employerName><months>12</months><basicSalary>912000.50</basicSalary></Statement></Statements>")]
    [InlineData("employeePin;employerPin;employerName;months;basicSalary\nA001100320T;P051900417G;Glasshouse Orchestra Trust;12;912 000.50\n")]
    public async Task A_statement_is_imported_once_in_any_of_the_formats_and_taken_onto_the_return(string content)
    {
        var (client, id) = await TamsinAsync();
        var trial = await ImportAsync(client, content);
        Assert.Equal((1, 1, 0), (trial["rows"]!.GetValue<int>(), trial["good"]!.GetValue<int>(), trial["stored"]!.GetValue<int>()));
        Assert.Empty(trial["doubts"]!.AsArray());
        Assert.Equal(1, (await ImportAsync(client, content, "all"))["stored"]!.GetValue<int>());
        Assert.Contains("box for box", (await ImportAsync(client, content))["doubts"]![0]!["message"]!.GetValue<string>());

        var item = (await _rukia.GetAsync($"/api/returns/{id}/statements")).AsArray().Single()!;
        Assert.Equal("new", item["state"]!.GetValue<string>());
        var number = item["number"]!.GetValue<string>();
        var taken = await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/statements/take", new { numbers = new[] { number } });
        var pay = taken["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == "employment.employers.basic-pay")!;
        Assert.Equal(("912000.5", "statement", number), (pay["value"]!.GetValue<string>(), pay["origin"]!.GetValue<string>(), pay["source"]!.GetValue<string>()));
        Assert.Equal("taken", (await _rukia.GetAsync($"/api/returns/{id}/statements"))[0]!["state"]!.GetValue<string>());
    }

    [Fact]
    public async Task Wrong_boxes_are_told_by_row_and_box_and_all_or_nothing_is_stored_unless_chosen()
    {
        var (client, _) = await TamsinAsync();
        const string file = "employerPin,employerName,months,basicSalary,nickname\nP051900417G,Glasshouse,12,1000,x\nP0519,Wrong Ltd,14,abc,y\nP051310884U,,1,1,z\n";
        var report = await ImportAsync(client, file, "all");
        Assert.Equal((3, 1, 0), (report["rows"]!.GetValue<int>(), report["good"]!.GetValue<int>(), report["stored"]!.GetValue<int>()));
        var problems = report["problems"]!.AsArray().Select(p => $"{p!["row"]} {p["column"]}").ToList();
        Assert.Contains("3 employerPin", problems);
        Assert.Contains("3 basicSalary", problems);
        Assert.Contains("4 employerName", problems);
        Assert.Contains("nickname", report["ignored"]!.AsArray().Select(i => i!.GetValue<string>()));
        Assert.Equal(1, (await ImportAsync(client, file, "good"))["stored"]!.GetValue<int>());
    }

    [Fact]
    public async Task A_statement_that_bears_another_persons_identifier_is_pointed_out_and_kept_off_the_return()
    {
        var (client, id) = await TamsinAsync();
        var report = await ImportAsync(client, "employeePin,employerPin,employerName\nA001100211P,P051900417G,Glasshouse\n", "all");
        Assert.Contains("Per Halvorsen Oduya's", report["doubts"]![0]!["message"]!.GetValue<string>());
        Assert.Contains("A001100211P", (await _rukia.GetAsync($"/api/clients/{client}/statements"))[0]!["warning"]!.GetValue<string>());
        var number = (await _rukia.GetAsync($"/api/returns/{id}/statements"))[0]!["number"]!.GetValue<string>();
        var (status, answer) = await _rukia.SendAsync(HttpMethod.Post, $"/api/returns/{id}/statements/take", new { numbers = new[] { number } });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("another return", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_statement_is_entered_changed_by_one_person_at_a_time_and_removed()
    {
        var (client, _) = await TamsinAsync();
        object Typed(string pay, long revision, string pin = "P051900417G") => new
        {
            kind = Kind,
            year = 2025,
            identifier = "A001100320T",
            boxes = new Dictionary<string, string?> { ["employerPin"] = pin, ["employerName"] = "Glasshouse", ["basicSalary"] = pay },
            revision,
        };
        var refused = await _rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/statements", Typed("1,0,0", 0, "P1"));
        Assert.Equal(["basicSalary", "employerPin"], refused["problems"]!.AsArray().Select(p => p!["field"]!.GetValue<string>()).Order());
        var saved = (await _rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/statements", Typed("1000", 0)))["statements"]![0]!;
        var path = $"/api/clients/{client}/statements/{saved["id"]}";
        Assert.Equal("2000", (await _rukia.DoAsync(HttpMethod.Put, path, Typed("2000", 1)))["statements"]![0]!["boxes"]!["basicSalary"]!.GetValue<string>());
        Assert.Equal(HttpStatusCode.Conflict, (await _rukia.SendAsync(HttpMethod.Put, path, Typed("3000", 1))).Status);
        Assert.Empty((await _rukia.DoAsync(HttpMethod.Delete, path)).AsArray());
    }

    [Fact]
    public async Task Nothing_is_asked_of_the_authority_without_consent_and_items_are_ticked_against_the_paper()
    {
        var client = (await _rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "ke", identifier = "A009900771K", name = "Wambui Larkspur" }))["id"]!.GetValue<long>();
        var id = (await _rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "ke/employment-income", year = 2025, kind = "original" }))["id"]!.GetValue<long>();
        var record = await _rukia.GetAsync($"/api/returns/{id}/authority-record");
        Assert.Null(record["consent"]);
        Assert.Empty(record["items"]!.AsArray());
        Assert.Equal(HttpStatusCode.Conflict, (await _rukia.SendAsync(HttpMethod.Post, $"/api/returns/{id}/authority-record/take", new { numbers = new[] { "C" } })).Status);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _rukia.SendAsync(HttpMethod.Put, $"/api/clients/{client}/consent", new { givenBy = " " })).Status);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _rukia.SendAsync(HttpMethod.Put, $"/api/clients/{client}/consent", new { givenBy = "W", givenOn = "19/06/2026" })).Status);
        await _rukia.DoAsync(HttpMethod.Put, $"/api/clients/{client}/consent", new { givenBy = "Wambui Larkspur", givenOn = "17/06/2026" });
        record = await _rukia.GetAsync($"/api/returns/{id}/authority-record");
        Assert.Equal("2026-06-17", record["consent"]!["givenOn"]!.GetValue<string>());
        var number = record["items"]![0]!["number"]!.GetValue<string>();
        await _rukia.DoAsync(HttpMethod.Put, $"/api/returns/{id}/ticks/{number}");
        Assert.Equal("Rukia Tindall", (await _rukia.GetAsync($"/api/returns/{id}/authority-record"))["items"]![0]!["tick"]!["person"]!.GetValue<string>());
        await _rukia.SendAsync(HttpMethod.Delete, $"/api/returns/{id}/ticks/{number}");
        Assert.Null((await _rukia.GetAsync($"/api/returns/{id}/authority-record"))["items"]![0]!["tick"]);
        await _rukia.SendAsync(HttpMethod.Delete, $"/api/clients/{client}/consent");
        Assert.Empty((await _rukia.GetAsync($"/api/returns/{id}/authority-record"))["items"]!.AsArray());
    }

    [Fact]
    public async Task The_last_assessment_says_what_it_carries_forward()
    {
        var id = await _rukia.ReturnOfAsync("Njeri", 2025);
        var last = (await _rukia.GetAsync($"/api/returns/{id}/authority-record"))["lastAssessment"]!;
        Assert.Contains("2024", last["title"]!.GetValue<string>());
        Assert.Contains("TPA s. 47", last["carriedForward"]!.GetValue<string>());
        var filed = (await _rukia.GetAsync($"/api/returns/{await _rukia.ReturnOfAsync("Njeri", 2024)}"))["outcome"]!.AsArray().Last()!["amount"]!.GetValue<string>();
        Assert.Equal(filed, last["facts"]!.AsArray().Single(f => f!["label"]!.GetValue<string>() == "Unpaid")!["amount"]!.GetValue<string>());
    }

    [Theory]
    [InlineData("Njeri", "agrees", "")]
    [InlineData("Tamsin", "differs", "postal-address")]
    [InlineData("Idris", "differs", "name")]
    public async Task Registered_particulars_are_verified_as_a_return_is_opened(string name, string state, string particular)
    {
        var verification = await _rukia.GetAsync($"/api/returns/{await _rukia.ReturnOfAsync(name, 2025)}/verification");
        Assert.Equal(state, verification["state"]!.GetValue<string>());
        Assert.Equal(particular, string.Join(' ', verification["differences"]!.AsArray().Select(d => d!["particular"]!.GetValue<string>())));
    }

    [Fact]
    public async Task What_is_registered_otherwise_holds_up_the_hand_over_with_both_values_until_the_client_s_page_agrees()
    {
        var id = await _rukia.ReturnOfAsync("Tamsin", 2025);
        var client = (await _rukia.GetAsync($"/api/returns/{id}"))["clientId"]!.GetValue<long>();
        async Task<JsonNode?> FindingAsync() =>
            (await _rukia.GetAsync($"/api/returns/{id}"))["findings"]!.AsArray().SingleOrDefault(f => f!["id"]!.GetValue<string>() == "registered:postal-address");
        var finding = (await FindingAsync())!;
        var theirs = (await _rukia.GetAsync($"/api/returns/{id}/verification"))["differences"]![0]!["theirs"]!.GetValue<string>();
        Assert.Equal("warning", finding["severity"]!.GetValue<string>());
        Assert.Contains($"‘{theirs}’ registered with the authority", finding["message"]!.GetValue<string>());

        var particulars = (await _rukia.GetAsync($"/api/clients/{client}"))["particulars"]!;
        Assert.Contains($"‘{particulars["postalAddress"]!.GetValue<string>()}’ on the client's page", finding["message"]!.GetValue<string>());
        particulars["postalAddress"] = theirs;
        await _rukia.DoAsync(HttpMethod.Put, $"/api/clients/{client}", particulars);
        Assert.Null(await FindingAsync());
    }

    [Fact]
    public async Task An_authority_that_is_down_never_keeps_a_return_from_being_opened_and_is_asked_again_later()
    {
        _practice.Authority.Faults.Outage = true;
        var client = (await _rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "ke", identifier = "A005550003D", name = "Nobody Registered" }))["id"]!.GetValue<long>();
        var id = (await _rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "ke/employment-income", year = 2025, kind = "original" }))["id"]!.GetValue<long>();
        Assert.Equal("unreachable", (await _rukia.GetAsync($"/api/returns/{id}/verification"))["state"]!.GetValue<string>());
        _practice.Authority.Faults.Outage = false;

        // What is sent in the background may have met the outage as well; then the authority is left alone for five seconds.
        await Wait.ForAsync(async () => (await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/verification"))["state"]!.GetValue<string>(), s => s == "unknown", "The authority was not asked again.");
    }
}
