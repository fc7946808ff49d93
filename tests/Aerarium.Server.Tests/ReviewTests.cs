using System.Net;
using System.Text;
using System.Text.Json.Nodes;

namespace Aerarium.Server.Tests;

/// <summary>What stands beside the figures of a return: remarks on lines, attachments counted by kind, the payment advice.</summary>
public class ReviewTests : IAsyncLifetime
{
    private const int RukiaNumber = 0;
    private const int MosiNumber = 1;
    private const long Annual = 15;

    private Practice _practice = null!;
    private Browser _rukia = null!;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        _rukia = await _practice.SignInAsync(RukiaNumber);
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    private static string? Value(JsonNode view, string line) => view["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == line)!["value"]?.GetValue<string>();

    private static bool Has(JsonNode view, string finding) => view["findings"]!.AsArray().Any(f => f!["id"]!.GetValue<string>() == finding);

    private Task<JsonNode> SayAsync(long id, string line, string words, string? row = null) => _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/remarks", new { line, row, words });

    private Task<(HttpStatusCode Status, JsonNode Answer)> AttachAsync(long client, long? id, string kind, string name = "paper.txt") =>
        _rukia.UploadAsync($"/api/clients/{client}/documents?Name={name}&Kind={Uri.EscapeDataString(kind)}{(id is null ? "" : $"&ReturnId={id}")}", Encoding.UTF8.GetBytes(name));

    [Fact]
    public async Task A_remark_is_a_thread_on_its_line_until_it_is_settled()
    {
        var list = (await SayAsync(Annual, "business.services", "The ledger agrees; it is a late invoice.")).AsArray();
        Assert.Equal(["Mosi Lindqvist", "Rukia Tindall"], list.Select(r => r!["person"]!.GetValue<string>()));
        Assert.All(list, r => Assert.Null(r!["settledBy"]));
        var mosi = await _practice.SignInAsync(MosiNumber);
        var settled = (await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{Annual}/remarks/settle", new { line = "business.services" })).AsArray();
        Assert.All(settled, r => Assert.Equal("Mosi Lindqvist", r!["settledBy"]!.GetValue<string>()));
        var again = (await SayAsync(Annual, "business.services", "And one more question.")).AsArray();
        Assert.Single(again, r => r!["settledBy"] is null);
        var kinds = (await _rukia.GetAsync($"/api/acts?returnId={Annual}")).AsArray().Select(a => a!["kind"]!.GetValue<string>()).ToList();
        Assert.Equal((2, 1), (kinds.Count(k => k == "remark"), kinds.Count(k => k == "settle-remarks")));
    }

    [Fact]
    public async Task Rows_stand_beside_the_rows_of_last_year_that_they_go_on_from()
    {
        var id = await _rukia.ReturnOfAsync("Njeri", 2025);
        var employer = Assert.Single((await _rukia.GetAsync($"/api/returns/{id}/last-year/employment.employers?row=row-1")).AsArray())!;
        Assert.Equal(("Cinder Bay Kelp Growers Ltd", false, "1560000"), (employer["name"]!.GetValue<string>(), employer["isNew"]!.GetValue<bool>(), employer["before"]!["employment.employers.cash-pay"]!.GetValue<string>()));
        Assert.True(Assert.Single((await _rukia.GetAsync($"/api/returns/{id}/last-year/employment.cars")).AsArray())!["isNew"]!.GetValue<bool>());
        await _rukia.SetAsync(id, "employment.employers.pin", "P051118843L", "row-1");
        await _rukia.SetAsync(id, "employment.employers.name", "Tidepool Nets Ltd", "row-1");
        var rows = (await _rukia.GetAsync($"/api/returns/{id}/last-year/employment.employers")).AsArray();
        Assert.Equal([(true, "Tidepool Nets Ltd"), (false, "Cinder Bay Kelp Growers Ltd")], rows.Select(r => (r!["isNew"]!.GetValue<bool>(), r["name"]!.GetValue<string>())));
        Assert.Null(rows[1]!["row"]);
        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Get, $"/api/returns/{id}/last-year/nowhere.rows")).Status);
        Assert.Empty((await _rukia.GetAsync($"/api/returns/{Annual}/last-year/compensation.employers")).AsArray());
    }

    [Fact]
    public async Task A_return_is_not_approved_while_a_remark_is_open()
    {
        var waiting = await _rukia.ReturnOfAsync("Baraka", 2025);
        await SayAsync(waiting, "taxpayer.name", "Spelled as on the certificate?");
        var mosi = await _practice.SignInAsync(MosiNumber);
        var (status, answer) = await mosi.SendAsync(HttpMethod.Post, $"/api/returns/{waiting}/approval/approve");
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("1 remark is open", answer!["detail"]!.GetValue<string>());
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{waiting}/remarks/settle", new { line = "taxpayer.name" });
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{waiting}/approval/approve");
        Assert.Equal("approved", await mosi.StageAsync(waiting));
    }

    [Fact]
    public async Task Attachments_are_counted_by_kind_and_go_with_the_e_return()
    {
        var view = await _rukia.GetAsync($"/api/returns/{Annual}");
        var client = view["clientId"]!.GetValue<long>();
        Assert.True(Has(view, "certificates-missing"));
        await AttachAsync(client, Annual, "Certificates of compensation");
        await AttachAsync(client, Annual, "Other documents", "letter.txt");
        var (_, documents) = await AttachAsync(client, Annual, "Other documents", "plan.txt");
        await AttachAsync(client, null, "Other documents", "elsewhere.txt");
        view = await _rukia.GetAsync($"/api/returns/{Annual}");
        Assert.Equal(("1", "2", "3"), (Value(view, "attachments.compensation-certificates"), Value(view, "attachments.other"), Value(view, "attachments.total")));
        Assert.Equal("attached", view["values"]!.AsArray().Single(v => v!["line"]!.GetValue<string>() == "attachments.other")!["origin"]!.GetValue<string>());
        Assert.False(Has(view, "certificates-missing"));

        var plan = documents.AsArray().Single(d => d!["name"]!.GetValue<string>() == "plan.txt")!["id"]!.GetValue<long>();
        await _rukia.DoAsync(HttpMethod.Delete, $"/api/clients/{client}/documents/{plan}");
        Assert.Equal("1", Value(await _rukia.GetAsync($"/api/returns/{Annual}"), "attachments.other"));
    }

    [Fact]
    public async Task What_went_with_a_filed_return_stays_with_it()
    {
        await _rukia.WaitForAnswersAsync();
        const long filed = 23;
        var client = (await _rukia.GetAsync($"/api/returns/{filed}"))["clientId"]!.GetValue<long>();
        var (_, documents) = await AttachAsync(client, filed, "Other documents");
        var (status, answer) = await _rukia.SendAsync(HttpMethod.Delete, $"/api/clients/{client}/documents/{documents[0]!["id"]}");
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("has been sent", answer!["detail"]!.GetValue<string>());
        Assert.Null(Value(await _rukia.GetAsync($"/api/returns/{filed}"), "attachments.other"));
    }
}

/// <summary>The same, where nothing is changed.</summary>
public class ReviewRefusalTests(SharedPractice shared) : IClassFixture<SharedPractice>, IAsyncLifetime
{
    private const int NoorNumber = 5;
    private const long Annual = 15;

    private Browser _rukia = null!;

    public async ValueTask InitializeAsync() => _rukia = await shared.Practice.SignInAsync(0);

    public ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        return ValueTask.CompletedTask;
    }

    [Theory]
    [InlineData("no.such-line", null, "x", HttpStatusCode.NotFound)]
    [InlineData("compensation.employers.gross", "none", "x", HttpStatusCode.NotFound)]
    [InlineData("business.services", null, "  ", HttpStatusCode.UnprocessableEntity)]
    public async Task A_remark_belongs_to_a_line_and_says_something(string line, string? row, string words, HttpStatusCode status) =>
        Assert.Equal(status, (await _rukia.SendAsync(HttpMethod.Post, $"/api/returns/{Annual}/remarks", new { line, row, words })).Status);

    [Fact]
    public async Task Who_only_looks_reads_remarks_and_says_nothing()
    {
        var noor = await shared.Practice.SignInAsync(NoorNumber);
        Assert.Single((await noor.GetAsync($"/api/returns/{Annual}/remarks")).AsArray());
        Assert.Equal(HttpStatusCode.Forbidden, (await noor.SendAsync(HttpMethod.Post, $"/api/returns/{Annual}/remarks", new { line = "business.services", words = "x" })).Status);
    }

    [Fact]
    public async Task A_count_of_attachments_is_never_typed()
    {
        var (status, answer) = await _rukia.SendAsync(HttpMethod.Patch, $"/api/returns/{Annual}/entries", new
        {
            changes = new[] { new { kind = "set", line = "attachments.other", value = "3", seen = long.MaxValue } },
        });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains("counted from the documents", answer!["detail"]!.GetValue<string>());
    }

    /// <summary>Njeri's return of 2024: 4,537.50 to pay by 30 April 2025; on 18 June 2026, 14 months begun: 5% and 14% of it, halves up (TPA s. 83A, 38).</summary>
    [Fact]
    public async Task The_advice_says_what_is_to_pay_on_a_day_and_under_which_reference()
    {
        var njeri = await _rukia.ReturnOfAsync("Njeri", 2024);
        var advice = await _rukia.GetAsync($"/api/returns/{njeri}/payments");
        var part = Assert.Single(advice["parts"]!.AsArray())!;
        Assert.Equal(("2025-04-30", "4537.5"), (part["due"]!.GetValue<string>(), part["unpaid"]!.GetValue<string>()));
        Assert.Equal(["226.88", "635.25"], part["charges"]!.AsArray().Select(c => c!["amount"]!.GetValue<string>()));
        Assert.Equal(("2026-06-18", "5399.63"), (advice["on"]!.GetValue<string>(), advice["left"]!.GetValue<string>()));
        Assert.StartsWith("RF", advice["reference"]!.GetValue<string>());
        Assert.EndsWith($"KE2024R{njeri}", advice["reference"]!.GetValue<string>());
        var earlier = await _rukia.GetAsync($"/api/returns/{njeri}/payments?on=2025-04-30");
        Assert.Equal("4537.5", earlier["left"]!.GetValue<string>());
        Assert.Empty(earlier["parts"]![0]!["charges"]!.AsArray());
    }
}
