using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using Aerarium.Cli;
using Aerarium.Filing;
using Aerarium.Storage;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>Corrections of the law: proposed by one, turned on by another; open returns follow, approved and filed ones keep the law they were approved under.</summary>
public sealed class LawCorrectionTests : IAsyncLifetime
{
    private const string Path = "/api/law/ke/employment-income/2025";
    private const string Was = "28,800";
    private static readonly object Relief = new { figure = "personal-relief", value = "30,000", source = "Finance Act 2025, s. 41", sourceDay = "1/7/2025", reason = "Raised in the year" };

    private Practice _practice = null!;
    private Browser _rukia = null!;
    private Browser _mosi = null!;
    private long _open;
    private long _approved;
    private long _filed;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        (_rukia, _mosi) = (await _practice.SignInAsync(0), await _practice.SignInAsync(1));
        await _mosi.WaitForAnswersAsync();
        (_open, _approved, _filed) = (await _rukia.ReturnOfAsync("Nia", 2025), await _rukia.ReturnOfAsync("Zuri", 2025), await _rukia.ReturnOfAsync("Amara", 2025));
        Assert.Equal(("open", "approved", "accepted"), (await _rukia.StageAsync(_open), await _rukia.StageAsync(_approved), await _rukia.StageAsync(_filed)));
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    private static JsonNode ReliefIn(JsonNode view) =>
        view["groups"]!.AsArray().SelectMany(g => g!["figures"]!.AsArray()).Single(f => f!["key"]!.GetValue<string>() == "personal-relief")!;

    private static string Text(JsonNode node, string name) => node[name]!.GetValue<string>();

    private static string Detail(JsonNode? answer) => answer!["detail"]!.GetValue<string>();

    private async Task<decimal> BalanceAsync(long id) =>
        decimal.Parse(Text((await _rukia.GetAsync($"/api/returns/{id}"))["outcome"]!.AsArray()[^1]!, "amount"), CultureInfo.InvariantCulture);

    private async Task<List<JsonNode>> ActsOfAsync(long id, string kind) => [.. (await _rukia.GetAsync($"/api/acts?returnId={id}")).AsArray().Where(a => Text(a!, "kind") == kind).OfType<JsonNode>()];

    private static long IdIn(JsonNode view) => ReliefIn(view)["proposed"]!["id"]!.GetValue<long>();

    private async Task<long> ProposeAsync(Browser person, object? correction = null) => IdIn(await person.DoAsync(HttpMethod.Post, $"{Path}/corrections", correction ?? Relief));

    private async Task<long> InForceAsync()
    {
        var id = await ProposeAsync(_rukia);
        await _mosi.DoAsync(HttpMethod.Post, $"{Path}/corrections/{id}/turn-on");
        await SettledAsync();
        return id;
    }

    /// <summary>Waits until what lists show of every return is computed by the law it follows.</summary>
    private Task SettledAsync()
    {
        var database = _practice.Server.Services.GetRequiredService<PracticeDatabase>();
        return Wait.UntilAsync(() => database.Read(unit => Storage.Returns.All(unit).All(r => r.CheckedOn.Length > 0)), "Returns that follow the law were not computed anew.");
    }

    [Fact]
    public async Task Open_returns_follow_approved_and_filed_ones_stay_and_a_withdrawal_undoes_it()
    {
        var parcel = await _mosi.Http.GetByteArrayAsync($"/api/returns/{_filed}/sending/parcel.zip");
        var (open, approved, filed) = (await BalanceAsync(_open), await BalanceAsync(_approved), await BalanceAsync(_filed));
        var proposed = await _rukia.DoAsync(HttpMethod.Post, $"{Path}/corrections", Relief);
        var proposal = ReliefIn(proposed)["proposed"]!;
        Assert.Equal((Was, "30,000", "2025", "Rukia Tindall"), (Text(ReliefIn(proposed), "value"), Text(proposal, "says"), Text(proposal, "covers"), Text(proposal, "by")));
        Assert.Equal(open, await BalanceAsync(_open));
        var id = IdIn(proposed);
        Assert.Equal(HttpStatusCode.Forbidden, (await _rukia.SendAsync(HttpMethod.Post, $"{Path}/corrections/{id}/turn-on")).Status);

        var turned = await _mosi.DoAsync(HttpMethod.Post, $"{Path}/corrections/{id}/turn-on");
        Assert.True(turned["following"]!.GetValue<int>() > 0);
        var now = ReliefIn(turned["law"]!);
        Assert.Equal(("30,000", "Finance Act 2025, s. 41", "certain", 1), (Text(now, "value"), Text(now, "source"), Text(now, "confidence"), turned["law"]!["edition"]!.GetValue<int>()));
        Assert.Equal("Mosi Lindqvist", Text(now["correction"]!, "turnedOnBy"));
        await SettledAsync();
        Assert.InRange(await BalanceAsync(_open), open - 1_200, open - 0.01m);
        Assert.Equal((approved, filed), (await BalanceAsync(_approved), await BalanceAsync(_filed)));
        var act = Assert.Single(await ActsOfAsync(_open, "law-follows"));
        Assert.Equal(("Mosi Lindqvist", Was, "30,000"), (Text(act, "personName"), Text(act, "before"), Text(act, "after")));
        Assert.Empty(await ActsOfAsync(_filed, "law-follows"));

        // The filed one rebuilds byte for byte under the law of its day, and everything kept agrees with itself.
        Assert.Equal(parcel, await _mosi.Http.GetByteArrayAsync($"/api/returns/{_filed}/sending/parcel.zip"));
        Assert.Equal("", await (await _practice.SignInAsync(3)).WrongAsync());
        var rest = (await _rukia.SendAsync(HttpMethod.Post, $"{Path}/effect", new { changes = Array.Empty<object>() })).Answer!["moved"]!.AsArray();
        Assert.All(rest, m => Assert.True(m!["filed"]!.GetValue<bool>() || m["approved"]!.GetValue<bool>()));
        Assert.Contains(rest, m => m!["returnId"]!.GetValue<long>() == _filed);

        // Withdrawn the same way: asked for by one, done by another.
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _rukia.SendAsync(HttpMethod.Post, $"{Path}/corrections/{id}/ask-withdrawal", new { reason = "" })).Status);
        Assert.Equal(HttpStatusCode.Conflict, (await _mosi.SendAsync(HttpMethod.Post, $"{Path}/corrections/{id}/withdraw")).Status);
        await _rukia.DoAsync(HttpMethod.Post, $"{Path}/corrections/{id}/ask-withdrawal", new { reason = "The gazette was corrected" });
        await _rukia.DoAsync(HttpMethod.Post, $"{Path}/corrections/{id}/keep");
        await _rukia.DoAsync(HttpMethod.Post, $"{Path}/corrections/{id}/ask-withdrawal", new { reason = "The gazette was corrected after all" });
        var without = new { changes = Array.Empty<object>(), without = new[] { "personal-relief" } };
        Assert.Contains((await _rukia.SendAsync(HttpMethod.Post, $"{Path}/effect", without)).Answer!["moved"]!.AsArray(), m => m!["returnId"]!.GetValue<long>() == _open);
        var back = await _mosi.DoAsync(HttpMethod.Post, $"{Path}/corrections/{id}/withdraw");
        Assert.Equal((Was, 2), (Text(ReliefIn(back["law"]!), "value"), back["law"]!["edition"]!.GetValue<int>()));
        Assert.Empty((await _rukia.SendAsync(HttpMethod.Post, $"{Path}/effect", new { changes = Array.Empty<object>() })).Answer!["moved"]!.AsArray());
        await SettledAsync();
        Assert.Equal(open, await BalanceAsync(_open));
        Assert.Equal("", await (await _practice.SignInAsync(3)).WrongAsync());
    }

    [Fact]
    public async Task What_is_approved_under_a_correction_carries_it_and_verifies_on_its_own()
    {
        // Approved under the product's law; a change opens it again, and it follows the correction.
        await InForceAsync();
        var before = await BalanceAsync(_approved);
        await _rukia.SetAsync(_approved, "taxpayer.postal-address", "P.O. Box 9");
        Assert.Equal("open", await _rukia.StageAsync(_approved));
        Assert.InRange(await BalanceAsync(_approved), before - 1_200, before - 0.01m);
        await _rukia.AcceptWarningsAsync(_approved);
        await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{_approved}/approval/hand-over");
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{_approved}/approval/approve");
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{_approved}/sending/build");
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{_approved}/sending/send");
        Assert.Contains(await _mosi.WaitForAsync(_approved, "accepted", "rejected"), new[] { "accepted", "rejected" });
        var file = System.IO.Path.GetTempFileName();
        try
        {
            await File.WriteAllBytesAsync(file, await _mosi.Http.GetByteArrayAsync($"/api/returns/{_approved}/sending/parcel.zip"), TestContext.Current.CancellationToken);
            using var words = new StringWriter();
            Assert.Equal(0, VerifyCommand.Run(file, words, words));
            Assert.Contains("rests on a correction of the practice: personal relief for the year, 30,000 (Finance Act 2025, s. 41)", words.ToString(), StringComparison.OrdinalIgnoreCase);
        }
        finally
        {
            File.Delete(file);
        }

        Assert.Equal("", await (await _practice.SignInAsync(3)).WrongAsync());
    }

    [Fact]
    public async Task A_return_that_waits_for_approval_is_open_again()
    {
        await _rukia.SetAsync(_approved, "taxpayer.postal-address", "P.O. Box 9");
        await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{_approved}/approval/hand-over");
        await InForceAsync();
        Assert.Equal("open", await _rukia.StageAsync(_approved));
        Assert.NotEmpty(await ActsOfAsync(_approved, "approval-withdrawn"));
        Assert.Equal(HttpStatusCode.Conflict, (await _mosi.SendAsync(HttpMethod.Post, $"/api/returns/{_approved}/approval/approve")).Status);
    }

    [Fact]
    public async Task What_does_not_fit_is_refused_with_what_and_where()
    {
        foreach (var (correction, told) in new (object, string)[]
        {
            (new { figure = "personal-relief", value = "30,000", reason = "Raised" }, "gazette, statute or table"),
            (new { figure = "personal-relief", value = "30,000", source = "Act" }, "Say why"),
            (new { figure = "personal-relief", value = "28800", source = "Act", reason = "Raised" }, "already"),
            (new { figure = "personal-relief", value = "-5", source = "Act", reason = "Raised" }, "below zero"),
            (new { figure = "housing-share", value = "700", source = "Act", reason = "Raised" }, "above 100%"),
            (new { figure = "personal-relief", ranges = new[] { new { upTo = "", value = "1" } }, source = "Act", reason = "Raised" }, "single figure"),
            (new { figure = "bands-of-tax", ranges = new[] { new { upTo = "500", value = "10" }, new { upTo = "400", value = "20" }, new { upTo = "", value = "30" } }, source = "Act", reason = "Raised" }, "edges must rise"),
            (new { figure = "personal-relief", value = "30,000", source = "Act", reason = "Raised", sourceDay = "soon" }, "is no day"),
            (new { figure = "personal-relief", value = "30,000", source = "Act", reason = "Raised", years = new[] { 1990 } }, "not covered for 1990"),
            (new { figure = "nothing", value = "1", source = "Act", reason = "Raised" }, "nothing"),
        })
        {
            var (status, answer) = await _rukia.SendAsync(HttpMethod.Post, $"{Path}/corrections", correction);
            Assert.Contains(status, new[] { HttpStatusCode.UnprocessableEntity, HttpStatusCode.NotFound });
            Assert.Contains(told, Detail(answer), StringComparison.Ordinal);
        }

        // A year in which the figure says something else is corrected by itself.
        var (_, other) = await _rukia.SendAsync(HttpMethod.Post, $"{Path}/corrections", new { figure = "health-insurance-rate-from-october", value = "9", source = "Act", reason = "Raised", years = new[] { 2023 } });
        Assert.NotNull(other!["detail"]);

        // One proposal of a figure at a time; whose it is, is told.
        var id = await ProposeAsync(_rukia);
        var (taken, words) = await _mosi.SendAsync(HttpMethod.Post, $"{Path}/corrections", Relief);
        Assert.Equal(HttpStatusCode.Conflict, taken);
        Assert.Contains("Rukia Tindall proposed 30,000", Detail(words), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await _mosi.SendAsync(HttpMethod.Post, $"/api/law/de/individual/2025/corrections/{id}/turn-on")).Status);
        var discarded = await _mosi.DoAsync(HttpMethod.Post, $"{Path}/corrections/{id}/discard");
        Assert.Null(ReliefIn(discarded)["proposed"]);
        Assert.Equal(HttpStatusCode.Conflict, (await _mosi.SendAsync(HttpMethod.Post, $"{Path}/corrections/{id}/turn-on")).Status);

        // Whoever proposes does not turn on, where the practice asks for four eyes.
        var own = await ProposeAsync(_mosi);
        var (forbidden, why) = await _mosi.SendAsync(HttpMethod.Post, $"{Path}/corrections/{own}/turn-on");
        Assert.Equal(HttpStatusCode.Forbidden, forbidden);
        Assert.Contains("another approver", Detail(why), StringComparison.Ordinal);
    }

    /// <summary>Several at once: exactly one turns it on, and edits, an approval and a sending meanwhile end in one law or the other, never between.</summary>
    [Fact]
    public async Task Turned_on_in_the_middle_of_other_work_each_return_has_one_law()
    {
        var id = await ProposeAsync(_rukia);
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{_approved}/sending/build");
        var batch = (await _rukia.DoAsync(HttpMethod.Post, "/api/batches", new { act = "tag", argument = "season", list = new { list = "open" } }))["id"]!.GetValue<long>();
        var turning = Enumerable.Range(0, 3).Select(_ => _mosi.SendAsync(HttpMethod.Post, $"{Path}/corrections/{id}/turn-on")).ToList();
        var edits = Enumerable.Range(0, 10).Select(n => _rukia.SetAsync(_open, "taxpayer.postal-address", $"P.O. Box {n}")).ToList();
        var sent = _mosi.SendAsync(HttpMethod.Post, $"/api/returns/{_approved}/sending/send");
        var turned = (await Task.WhenAll(turning)).Select(t => t.Status).Order();
        await Task.WhenAll(edits);
        await sent;
        Assert.Equal([HttpStatusCode.OK, HttpStatusCode.Conflict, HttpStatusCode.Conflict], turned);
        await _mosi.WaitForAsync(_approved, "accepted", "rejected");
        await Wait.ForAsync(async () => Text((await _rukia.GetAsync($"/api/batches/{batch}"))["batch"]!, "state"), state => state == "done", "The batch did not end.");
        await SettledAsync();
        Assert.Single(await ActsOfAsync(_open, "law-follows"));
        Assert.Equal("", await (await _practice.SignInAsync(3)).WrongAsync());
    }

    /// <summary>What one practice verified and corrected is valid by the published schema, and is taken by another item by item.</summary>
    [Fact]
    public async Task Verifications_and_corrections_go_to_another_practice_as_a_file()
    {
        await InForceAsync();
        await _mosi.DoAsync(HttpMethod.Post, $"{Path}/verify", new { figure = "housing-share", against = "The printed Act, page 4", sourceDay = "1/7/2025" });
        var (_, file) = await _rukia.FetchAsync(HttpMethod.Get, $"{Path}/exchange");
        var schema = new JsonSchemaCheck(await File.ReadAllTextAsync(System.IO.Path.Combine(ArchitectureTests.Root, "docs", "law-exchange.schema.json"), TestContext.Current.CancellationToken));
        Assert.Empty(schema.Faults(file));

        await using var other = await Practice.StartAsync();
        var ada = await other.SignInAsync(1);
        var (status, offered) = await ada.SendAsync(new HttpRequestMessage(HttpMethod.Put, $"{Path}/exchange/preview") { Content = new ByteArrayContent(file) });
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Equal(["verification housing-share new", "correction personal-relief new"], offered.AsArray().Select(o => $"{Text(o!, "kind")} {Text(o!, "figure")} {Text(o!, "state")}"));
        Assert.Contains("Lantern Reef Tax Practice", Text(offered[0]!, "by"), StringComparison.Ordinal);
        var text = System.Text.Encoding.UTF8.GetString(file);
        var taken = await ada.DoAsync(HttpMethod.Post, $"{Path}/exchange/take", new { file = text, take = new[] { 0, 1 } });
        Assert.Equal((1, Was, "30,000"), (taken["verified"]!.GetValue<int>(), Text(ReliefIn(taken), "value"), Text(ReliefIn(taken)["proposed"]!, "says")));

        // Once more: the verification is here already, and the correction is proposed.
        var (_, again) = await ada.SendAsync(new HttpRequestMessage(HttpMethod.Put, $"{Path}/exchange/preview") { Content = new ByteArrayContent(file) });
        Assert.Equal(["same", "conflict"], again.AsArray().Select(o => Text(o!, "state")));
        Assert.Contains("Mosi Lindqvist proposed 30,000", Text(again[1]!, "words"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Conflict, (await ada.SendAsync(HttpMethod.Post, $"{Path}/exchange/take", new { file = text, take = new[] { 0, 1 } })).Status);

        foreach (var (from, to, told) in new[]
        {
            ("ke/employment-income", "bb/individual", "The file is about bb/individual 2025"),
            ("\"amount\"", "\"furlongs\"", "/corrections/unit"),
            ("\"version\": 1", "\"version\": 2", "/version"),
            ("\"figure\": \"housing-share\"", "\"figures\": \"housing-share\"", "/verifications"),
            ("\"value\": 30000,", "", "either a value or ranges"),
            ("{", "[", "no file of verifications"),
        })
        {
            Assert.Contains(from, text, StringComparison.Ordinal);
            var broken = System.Text.Encoding.UTF8.GetBytes(text.Replace(from, to, StringComparison.Ordinal));
            var (refused, words) = await ada.SendAsync(new HttpRequestMessage(HttpMethod.Put, $"{Path}/exchange/preview") { Content = new ByteArrayContent(broken) });
            Assert.Equal(HttpStatusCode.UnprocessableEntity, refused);
            Assert.Contains(told, Detail(words), StringComparison.Ordinal);
        }
    }

    /// <summary>A scenario among a list of the Desk only, and as a workbook whose sum another program computes.</summary>
    [Fact]
    public async Task A_scenario_is_asked_among_a_kept_list_and_comes_as_a_workbook()
    {
        await _rukia.DoAsync(HttpMethod.Put, "/api/desk/lists/Zuri", new { list = "all", search = "Zuri" });
        var changes = new[] { new { figure = "personal-relief", value = "30,000" } };
        var among = (await _rukia.SendAsync(HttpMethod.Post, $"{Path}/effect", new { changes, among = "Zuri" })).Answer!;
        Assert.Equal((1, _approved), (among["total"]!.GetValue<int>(), among["moved"]![0]!["returnId"]!.GetValue<long>()));
        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Post, $"{Path}/effect", new { changes, among = "Nobody's" })).Status);
        var all = (await _rukia.SendAsync(HttpMethod.Post, $"{Path}/effect", new { changes })).Answer!["moved"]!.AsArray();
        using var asked = new HttpRequestMessage(HttpMethod.Post, $"{Path}/effect.xlsx") { Content = System.Net.Http.Json.JsonContent.Create(new { changes }) };
        asked.Headers.Add("X-Aerarium-Token", _rukia.Token);
        using var answer = await _rukia.Http.SendAsync(asked, TestContext.Current.CancellationToken);
        using var workbook = DocumentFormat.OpenXml.Packaging.SpreadsheetDocument.Open(await answer.Content.ReadAsStreamAsync(TestContext.Current.CancellationToken), false);
        Assert.Empty(new DocumentFormat.OpenXml.Validation.OpenXmlValidator().Validate(workbook));
        var rows = workbook.WorkbookPart!.WorksheetParts.Single().Worksheet!.Descendants<DocumentFormat.OpenXml.Spreadsheet.Row>().ToList();
        Assert.Equal(all.Count + 2, rows.Count);
        Assert.Equal($"SUM(G2:G{all.Count + 1})", rows[^1].Elements<DocumentFormat.OpenXml.Spreadsheet.Cell>().ElementAt(6).CellFormula!.Text);
    }

    /// <summary>The Margin's marks: verified by whom, corrected; a figure of a derivation leads to its own.</summary>
    [Fact]
    public async Task A_derivation_names_the_figure_and_what_the_practice_did_about_it()
    {
        await InForceAsync();
        await _mosi.DoAsync(HttpMethod.Post, $"{Path}/verify", new { figure = "housing-share", against = "The printed Act, page 4" });
        var marks = (await _rukia.GetAsync($"/api/returns/{_open}/law/marks")).AsArray();
        Assert.Equal(["housing-share Mosi Lindqvist false", "personal-relief  true"], marks.Select(m => $"{Text(m!, "figure")} {m!["by"]?.GetValue<string>()} {m["corrected"]}").Order());
        Assert.Equal("housing-share", Text(marks.Single(m => m!["by"] is not null)!, "figure"));
        Assert.Single((await _rukia.GetAsync($"/api/returns/{_approved}/law/marks")).AsArray());
        var note = await _rukia.GetAsync($"/api/returns/{_open}/law");
        Assert.DoesNotContain(note["uncertain"]!.AsArray(), f => Text(f!, "key") is "personal-relief" or "housing-share");
    }

    [Fact]
    public async Task Nothing_is_half_turned_on_when_the_disk_is_full_or_the_server_is_killed()
    {
        var id = await ProposeAsync(_rukia);
        var open = await BalanceAsync(_open);
        var database = _practice.Server.Services.GetRequiredService<PracticeDatabase>();
        database.Faults.Provoke = point => { if (point == FaultPoints.BeforeCommit) { throw new IOException("No space left on device", 28); } };
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await _mosi.SendAsync(HttpMethod.Post, $"{Path}/corrections/{id}/turn-on")).Status);
        database.Faults.Provoke = null;
        Assert.Equal((open, Was), (await BalanceAsync(_open), Text(ReliefIn(await _rukia.GetAsync(Path)), "value")));

        // Kept, and nobody told: after the next start the returns follow all the same.
        var committed = false;
        database.Faults.Provoke = point =>
        {
            if (committed || point == FaultPoints.AfterCommit)
            {
                committed = true;
                throw new InvalidOperationException("The process is gone.");
            }
        };
        var (status, _) = await _mosi.SendAsync(HttpMethod.Post, $"{Path}/corrections/{id}/turn-on");
        Assert.Equal(HttpStatusCode.InternalServerError, status);
        await _practice.KillServerAsync();
        await _practice.StartServerAsync();
        (_rukia, _mosi) = (await _practice.SignInAsync(0), await _practice.SignInAsync(1));
        await SettledAsync();
        Assert.Equal("30,000", Text(ReliefIn(await _rukia.GetAsync(Path)), "value"));
        Assert.InRange(await BalanceAsync(_open), open - 1_200, open - 0.01m);
        Assert.Equal("", await (await _practice.SignInAsync(3)).WrongAsync());
    }
}
