using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Aerarium.Core.Formulas;
using Aerarium.StandIn;

namespace Aerarium.Server.Tests;

/// <summary>What follows a filed return: assessment against return, verification, objection, and the client's standing.</summary>
public class AfterTests : IAsyncLifetime
{
    private Practice _practice = null!;
    private Browser _rukia = null!, _mosi = null!;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        (_rukia, _mosi) = (await _practice.SignInAsync(0), await _practice.SignInAsync(1));
        await _rukia.WaitForAnswersAsync();
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    private Task<JsonNode> UntilAsync(long id, Func<JsonNode, bool> holds) =>
        Wait.ForAsync(() => _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/after/ask"), holds, "What was waited for did not come.");

    private string NumberOf(string pin) => _practice.Authority.All.First(s => s.Pin == pin && s.Acknowledgement is not null).Number;

    private async Task<(long Id, JsonNode View)> AssessedAsync(bool differs)
    {
        foreach (var (client, year) in new[] { ("Njeri", 2024), ("Per", 2024), ("Oluoch", 2024), ("Amara", 2025), ("Kofi", 2025) })
        {
            var id = await _rukia.ReturnOfAsync(client, year);
            var view = await UntilAsync(id, v => v["assessment"] is not null);
            if (view["assessment"]!["differences"]!.AsArray().Count > 0 == differs)
            {
                return (id, view);
            }
        }

        throw new InvalidOperationException($"By the published rule no return of the demonstration is assessed {(differs ? "differently" : "as filed")}.");
    }

    /// <summary>The stand-in's published rule: a tenth of the credits, cut to whole units, is not traced, and the balance rises by it.</summary>
    [Fact]
    public async Task An_assessment_is_held_against_the_return_line_by_line_and_objected_to()
    {
        var (id, view) = await AssessedAsync(differs: true);
        var differences = view["assessment"]!["differences"]!.AsArray();
        Assert.Equal(["balance.already-paid", "balance.balance"], differences.Select(d => d!["line"]!.GetValue<string>()));
        var credits = decimal.Parse(differences[0]!["filed"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal($"-{decimal.Truncate(credits / 10)}", differences[0]!["difference"]!.GetValue<string>());
        Assert.Equal($"{decimal.Truncate(credits / 10)}", differences[1]!["difference"]!.GetValue<string>());
        Assert.Equal(5, view["assessment"]!["agreeing"]!.GetValue<int>());

        // What is to pay or to be repaid goes by the assessment from now on; the notice says until when one may object.
        var filed = decimal.Parse(differences[1]!["filed"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture);
        var assessed = decimal.Parse(differences[1]!["assessed"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture);
        var payments = await _rukia.GetAsync($"/api/returns/{id}/payments");
        Assert.Equal((Figures.Canonical(assessed), Figures.Canonical(filed)), (payments["balance"]!.GetValue<string>(), payments["assessed"]!["filed"]!.GetValue<string>()));
        var paid = decimal.Parse(payments["paid"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal(Figures.Canonical(Math.Max(0, assessed - paid)), payments["unpaid"]!.GetValue<string>());
        var issued = DateOnly.Parse(view["assessment"]!["issuedOn"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal(issued.AddDays(30).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture), view["assessment"]!["objectBy"]!.GetValue<string>());
        var client = (await _rukia.GetAsync($"/api/returns/{id}"))["clientId"]!.GetValue<long>();
        Assert.Contains(
            (await _rukia.GetAsync($"/api/clients/{client}/standing")).AsArray(),
            m => m!["words"]!.GetValue<string>().EndsWith("objection by", StringComparison.Ordinal) && m["day"]!.GetValue<string>() == view["assessment"]!["objectBy"]!.GetValue<string>());

        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/after/objection", new { reason = "no" })).Status);
        Assert.Equal(HttpStatusCode.Forbidden, (await _rukia.SendAsync(HttpMethod.Post, $"/api/returns/{id}/after/objection", new { reason = "The certificates are at hand." })).Status);
        var objected = await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/after/objection", new { reason = "The certificates are at hand." });
        Assert.StartsWith("O-ACK-", objected["assessment"]!["objection"]!["number"]!.GetValue<string>());
        Assert.Equal(HttpStatusCode.Conflict, (await _mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/after/objection", new { reason = "The certificates are at hand." })).Status);
    }

    [Fact]
    public async Task An_assessment_as_filed_says_that_all_figures_agree()
    {
        var (_, view) = await AssessedAsync(differs: false);
        Assert.Equal(7, view["assessment"]!["agreeing"]!.GetValue<int>());
    }

    [Fact]
    public async Task A_verification_is_answered_with_every_document_and_a_declaration()
    {
        const string amara = "A001100760A";
        var id = await _rukia.ReturnOfAsync("Amara", 2025);
        _practice.Aftermath.Select(NumberOf(amara));
        var view = await UntilAsync(id, v => v["verification"] is not null);
        var open = view["verification"]!;
        Assert.Equal(("open", 3), (open["state"]!.GetValue<string>(), open["documents"]!.AsArray().Count));
        var client = (await _rukia.GetAsync($"/api/returns/{id}"))["clientId"]!.GetValue<long>();
        Assert.Contains((await _rukia.GetAsync($"/api/clients/{client}/standing")).AsArray(), m => m!["words"]!.GetValue<string>().Contains("verification", StringComparison.Ordinal));

        var declared = new { words = "All certificates are true copies.", name = "Mosi Lindqvist", capacity = "tax agent" };
        var (early, problem) = await _mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/after/declaration", declared);
        Assert.Equal(HttpStatusCode.Conflict, early);
        Assert.Contains("Not sent yet: Certificates of tax withheld", problem!["detail"]!.GetValue<string>());
        foreach (var asked in open["documents"]!.AsArray())
        {
            var (_, documents) = await _rukia.UploadAsync(
                $"/api/clients/{client}/documents?Name=paper.txt&Kind={Uri.EscapeDataString(asked!["label"]!.GetValue<string>())}&ReturnId={id}", Encoding.UTF8.GetBytes(asked["code"]!.GetValue<string>()));
            var document = documents.AsArray().Max(d => d!["id"]!.GetValue<long>());
            for (var twice = 0; twice < 2; twice++)
            {
                view = await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/after/documents", new { code = asked["code"]!.GetValue<string>(), document });
            }
        }

        Assert.All(view["verification"]!["documents"]!.AsArray(), d => Assert.Single(d!["sent"]!.AsArray()));
        view = await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/after/declaration", declared);
        Assert.Equal(("closed", "Mosi Lindqvist"), (view["verification"]!["state"]!.GetValue<string>(), view["verification"]!["answeredBy"]!.GetValue<string>()));
        Assert.Equal(HttpStatusCode.Conflict, (await _mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/after/declaration", declared)).Status);
        await _practice.StopAuthorityAsync();
        await _practice.RestartAuthorityAsync();
        Assert.Equal("closed", _practice.Aftermath.CaseOf(_practice.Authority.All.First(s => s.Pin == amara && s.Acknowledgement is not null).Key)!.State);
    }

    [Fact]
    public async Task Nobody_answers_what_was_not_asked()
    {
        var id = await _rukia.ReturnOfAsync("Zuri", 2025);
        Assert.Equal(HttpStatusCode.Conflict, (await _mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/after/declaration", new { words = "Something to say", name = "M", capacity = "agent" })).Status);
        Assert.Equal(HttpStatusCode.Conflict, (await _mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/after/objection", new { reason = "Nothing came so far." })).Status);
    }

    [Fact]
    public async Task A_client_s_standing_names_what_is_unfiled_unpaid_and_asked()
    {
        var njeri = (await _rukia.GetAsync($"/api/returns/{await _rukia.ReturnOfAsync("Njeri", 2024)}"))["clientId"]!.GetValue<long>();
        var matters = (await _rukia.GetAsync($"/api/clients/{njeri}/standing")).AsArray();
        Assert.Contains(matters, m => m!["kind"]!.GetValue<string>() == "unfiled" && m["title"]!.GetValue<string>().EndsWith("2025", StringComparison.Ordinal));
        var unpaid = Assert.Single(matters, m => m!["kind"]!.GetValue<string>() == "unpaid")!;
        Assert.Contains("4,537.50 KES", unpaid["words"]!.GetValue<string>());
        Assert.True(unpaid["days"]!.GetValue<int>() < 0);
        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Get, "/api/clients/999/standing")).Status);
    }

    /// <summary>The same seed and acknowledgement number choose the same, as the published rule says.</summary>
    [Fact]
    public void Who_is_selected_follows_from_the_published_rule()
    {
        Assert.Contains("modulo 100", _practice.Aftermath.Rule);
        foreach (var submission in _practice.Authority.All.Where(s => s.Acknowledgement is not null))
        {
            var first = System.Security.Cryptography.SHA256.HashData(Encoding.UTF8.GetBytes($"20:verification:{submission.Acknowledgement}"));
            var chosen = System.Buffers.Binary.BinaryPrimitives.ReadUInt32BigEndian(first) % 100 < 20;
            Assert.Equal(chosen, _practice.Aftermath.CaseOf(submission.Key) is not null);
        }
    }
}
