using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using Aerarium.Server.Demo;
using Aerarium.Server.Returns;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>A household in one year: returns side by side, claims taken into all returns concerned or into none, and what is out of reach.</summary>
public sealed class HouseholdTests : IAsyncLifetime
{
    private Practice _practice = null!;
    private Browser _rukia = null!;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        _practice.Server.Services.GetRequiredService<DemoData>().AddFamiliesOnce();
        _rukia = await _practice.SignInAsync(0);
        await _practice.Server.Services.GetRequiredService<TiesAtRest>().SettleAsync();
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    private async Task<long> ClientAsync(string name) => (await _rukia.GetAsync($"/api/clients?search={Uri.EscapeDataString(name)}"))["items"]![0]!["id"]!.GetValue<long>();

    private async Task<JsonNode> HouseholdAsync(string name) => await _rukia.GetAsync($"/api/clients/{await ClientAsync(name)}/household/2025");

    private static decimal Number(JsonNode node) => decimal.Parse(node.GetValue<string>(), CultureInfo.InvariantCulture);

    private static decimal Balance(JsonNode household) => Number(household["figures"]!.AsArray().Last()!["total"]!);

    [Fact]
    public async Task The_family_is_shown_from_any_member_with_those_who_file_nothing()
    {
        var household = await HouseholdAsync("Fern");
        Assert.Equal(["Ottoline Quillfeather", "Bram Quillfeather", "Fern Quillfeather", "Jory Quillfeather"], household["members"]!.AsArray().Select(m => m!["name"]!.GetValue<string>()));
        Assert.Equal(("net income only", "age 9"), (household["members"]![3]!["stage"]!.GetValue<string>(), household["members"]![3]!["about"]!.GetValue<string>()));
        var members = household["members"]!.AsArray().Where(m => m!["returnId"] is not null).Sum(m => Number(m!["figures"]!.AsArray().Last()!));
        Assert.Equal(members, Balance(household));
        Assert.Equal("2026-04-30", household["due"]!.GetValue<string>());
    }

    [Fact]
    public async Task Claims_are_taken_into_every_return_concerned_and_save_what_was_told()
    {
        var before = await HouseholdAsync("Ottoline");
        var better = before["claims"]!.AsArray().Where(c => c!["best"] is not null).Select(c => c!["key"]!.GetValue<string>()).ToList();
        Assert.Equal(["medical-0", "gifts-0"], better);
        var path = $"/api/clients/{await ClientAsync("Ottoline")}/household/2025/claims";
        var taken = await _rukia.DoAsync(HttpMethod.Post, path, new { claims = better, stamp = before["stamp"]!.GetValue<string>() });
        Assert.Equal(2, taken["returns"]!.GetValue<int>());
        Assert.Equal(Balance(before) - Number(before["saves"]!), Balance(taken["household"]!));
        Assert.Equal("0", taken["household"]!["saves"]!.GetValue<string>());
        Assert.All(taken["household"]!["claims"]!.AsArray(), c => Assert.Null(c!["best"]));
        var bram = _practice.Server.Services.GetRequiredService<Workbench>().Open(await _rukia.ReturnOfAsync("Bram", 2025));
        Assert.Equal(4_310, bram.Evaluation.Amount("medical.claimed"));

        // What was worked out from returns as they were is not written into returns as they are now.
        var (status, answer) = await _rukia.SendAsync(HttpMethod.Post, path, new { claims = better, stamp = before["stamp"]!.GetValue<string>() });
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("have changed", answer!["detail"]!.GetValue<string>());
        (status, answer) = await _rukia.SendAsync(HttpMethod.Post, path, new { claims = better, stamp = taken["household"]!["stamp"]!.GetValue<string>() });
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("best as they are", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task What_a_filed_return_would_have_to_say_can_no_longer_be_taken()
    {
        var bram = await _rukia.ReturnOfAsync("Bram", 2025);
        await _rukia.AcceptWarningsAsync(bram);
        await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{bram}/approval/hand-over");
        var household = await HouseholdAsync("Ottoline");
        Assert.Equal("the return of Bram Quillfeather is waiting for approval.", household["claims"]!.AsArray().First(c => c!["key"]!.GetValue<string>() == "medical-0")!["closed"]!.GetValue<string>());
        var (status, answer) = await _rukia.SendAsync(
            HttpMethod.Post, $"/api/clients/{await ClientAsync("Ottoline")}/household/2025/claims", new { claims = new[] { "medical-0" }, stamp = household["stamp"]!.GetValue<string>() });
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("can no longer be taken", answer!["detail"]!.GetValue<string>());
        Assert.Equal("waiting", await _rukia.StageAsync(bram));
    }

    /// <summary>Last year's balance, the causes and this year's add up, for each member and for all; who had no return then is left out.</summary>
    [Fact]
    public async Task From_last_year_every_cause_is_told()
    {
        var view = await _rukia.GetAsync($"/api/clients/{await ClientAsync("Fern")}/household/2025/since-last-year");
        Assert.Equal(["Ottoline Quillfeather", "Bram Quillfeather"], view["members"]!.AsArray().Select(m => m!.GetValue<string>()));
        for (var column = 0; column < 3; column++)
        {
            Assert.Equal(Number(view["to"]![column]!), Number(view["from"]![column]!) + view["causes"]!.AsArray().Sum(c => Number(c!["movements"]![column]!)));
        }

        Assert.Contains("The law of the year", view["causes"]!.AsArray().Select(c => c!["cause"]!.GetValue<string>()));
        var household = await HouseholdAsync("Ottoline");
        Assert.Equal(Number(household["members"]![0]!["figures"]!.AsArray().Last()!), Number(view["to"]![0]!));
    }

    /// <summary>The student's next 1,000 costs the parent a part of the tuition: 5.06% of it in British Columbia.</summary>
    [Fact]
    public async Task What_the_next_income_costs_is_told_across_returns()
    {
        var fern = (await HouseholdAsync("Fern"))["nextIncome"]!.AsArray().Single(i => i!["member"]!.GetValue<string>() == "Fern Quillfeather")!;
        Assert.Equal("50.6", fern["cost"]!.GetValue<string>());
        var moved = Assert.Single(fern["moved"]!.AsArray())!;
        Assert.Equal(("Ottoline Quillfeather", "bc.tuition-received", "-1000"), (moved["member"]!.GetValue<string>(), moved["line"]!.GetValue<string>(), moved["movement"]!.GetValue<string>()));
    }

    /// <summary>Rows that a claim replaces are written with the rest, and the page that had them keeps no other.</summary>
    [Fact]
    public async Task A_better_designation_of_a_home_is_written_as_rows()
    {
        var linnea = await _rukia.ReturnOfAsync("Linnea", 2025);
        var workbench = _practice.Server.Services.GetRequiredService<Workbench>();
        Assert.DoesNotContain((await HouseholdAsync("Linnea"))["claims"]!.AsArray(), c => c!["best"] is not null);
        await _rukia.SetAsync(linnea, "home.years.to", "2018", workbench.Open(linnea).RowsOf("home.years")[0]);
        var gains = workbench.Open(linnea).Evaluation.Amount("income.taxable-gains");
        var household = await HouseholdAsync("Linnea");
        Assert.Equal("7 Larkspur Close 2015 to 2021", household["claims"]![0]!["best"]!.GetValue<string>());
        await _rukia.DoAsync(
            HttpMethod.Post, $"/api/clients/{await ClientAsync("Linnea")}/household/2025/claims", new { claims = new[] { household["claims"]![0]!["key"]!.GetValue<string>() }, stamp = household["stamp"]!.GetValue<string>() });
        var after = workbench.Open(linnea);
        Assert.Equal(["2015", "2021"], after.Evaluation.Entries.RowsOf("home.years").SelectMany(r => new[] { r.Values["from"], r.Values["to"] }));
        Assert.True(after.Evaluation.Amount("income.taxable-gains") < gains);
        Assert.Null((await HouseholdAsync("Linnea"))["claims"]![0]!["best"]);
    }

    /// <summary>A couple is sent one after the other, each with an acknowledgement; who is registered for it is assessed at once, others when the authority comes to it.</summary>
    [Fact]
    public async Task A_couple_is_sent_together_and_assessed_at_once_where_registered()
    {
        var mosi = await _practice.SignInAsync(1);
        long[] returns = [await _rukia.ReturnOfAsync("Casimir", 2025), await _rukia.ReturnOfAsync("Anselma", 2025)];
        foreach (var act in new[] { "build", "send" })
        {
            var batch = await mosi.DoAsync(HttpMethod.Post, "/api/batches", new { act, argument = (string?)null, returns, list = (object?)null });
            await mosi.BatchAsync(batch["id"]!.GetValue<long>());
        }

        await _rukia.WaitForAnswersAsync();
        var members = (await HouseholdAsync("Casimir"))["members"]!.AsArray();
        Assert.Equal(["accepted", "accepted"], members.Select(m => m!["stageKey"]!.GetValue<string>()));
        Assert.Equal(2, members.Select(m => m!["acknowledgement"]!.GetValue<string>()).Distinct().Count());

        var slow = new StandIn.Aftermath(
            _practice.Authority, _practice.OfAuthority<StandIn.Examiner>(), _practice.OfAuthority<StandIn.Registry>(), TimeProvider.System, new StandIn.AftermathSettings(AssessAfterSeconds: 1e9),
            Directory.CreateTempSubdirectory("aftermath-").FullName);
        string KeyOf(string number) => _practice.Authority.All.Last(s => s.Pin == number && s.Acknowledgement is not null).Key;
        Assert.NotNull(slow.AssessmentOf(KeyOf("046002598")));
        Assert.Null(slow.AssessmentOf(KeyOf("046002226")));
    }

    /// <summary>What one spouse has filed is not offered to the other as well.</summary>
    [Fact]
    public async Task What_was_filed_by_one_cannot_be_claimed_by_the_other()
    {
        var household = await HouseholdAsync("Ottoline");
        var path = $"/api/clients/{await ClientAsync("Ottoline")}/household/2025/claims";
        await _rukia.DoAsync(HttpMethod.Post, path, new { claims = new[] { "medical-0", "gifts-0" }, stamp = household["stamp"]!.GetValue<string>() });
        var bram = await _rukia.ReturnOfAsync("Bram", 2025);
        var mosi = await _practice.SignInAsync(1);
        await _rukia.AcceptWarningsAsync(bram);
        await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{bram}/approval/hand-over");
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{bram}/approval/approve");
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{bram}/sending/build");
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{bram}/sending/send");
        Assert.Equal("accepted", await _rukia.WaitForAsync(bram, "accepted", "rejected"));
        var after = await HouseholdAsync("Ottoline");
        Assert.Equal("0", after["saves"]!.GetValue<string>());
        foreach (var key in new[] { "medical-0", "gifts-0" })
        {
            var claim = after["claims"]!.AsArray().Single(c => c!["key"]!.GetValue<string>() == key)!;
            Assert.Null(claim["best"]);
            Assert.Equal("settled: the return of Bram Quillfeather is accepted", claim["closed"]!.GetValue<string>());
        }
    }

    [Fact]
    public async Task The_student_names_the_other_parent_and_the_first_is_left_with_nothing()
    {
        var (fern, ottoline, bram) = (await _rukia.ReturnOfAsync("Fern", 2025), await _rukia.ReturnOfAsync("Ottoline", 2025), await _rukia.ReturnOfAsync("Bram", 2025));
        var workbench = _practice.Server.Services.GetRequiredService<Workbench>();
        Assert.Equal(5_000, workbench.Open(ottoline).Evaluation.Amount("federal.tuition-received"));
        await _rukia.SetAsync(bram, "scope.student-transfer", "yes");
        await _rukia.SetAsync(fern, "tuition.designee-sin", "046000741");
        await _practice.Server.Services.GetRequiredService<TiesAtRest>().SettleAsync();
        Assert.Equal((0, 5_000), (workbench.Open(ottoline).Evaluation.Amount("federal.tuition-received"), workbench.Open(bram).Evaluation.Amount("federal.tuition-received")));

        // An amount typed over what the student designates is an error on the parent's return.
        await _rukia.SetAsync(ottoline, "federal.tuition-received", "5000");
        Assert.Contains(workbench.OpenTied(ottoline).Findings, f => f.Id == "federal.tuition-received:tie" && f.Severity == Core.Definitions.Severity.Error);
    }

    [Fact]
    public async Task A_member_out_of_reach_is_counted_and_not_named()
    {
        var (ines, tarek) = (await _practice.SignInAsync(4), await _practice.SignInAsync(3));
        var fern = await ClientAsync("Fern");
        await ReachTests.HideAsync(ines, tarek, fern);
        var household = await HouseholdAsync("Ottoline");
        Assert.Equal(1, household["outOfReach"]!.GetValue<int>());
        Assert.DoesNotContain("Fern", household.ToJsonString(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await _rukia.SendAsync(HttpMethod.Get, $"/api/clients/{fern}/household/2025")).Status);
    }

    /// <summary>A child who marries begins a household; parents are not drawn into it, nor it into theirs beyond the child.</summary>
    [Fact]
    public async Task A_married_child_has_a_household_of_its_own()
    {
        var (fern, linnea) = (await ClientAsync("Fern"), await ClientAsync("Linnea"));
        await _rukia.DoAsync(HttpMethod.Post, $"/api/clients/{fern}/relations", new { kind = "spouse", otherId = linnea });
        static IEnumerable<string> Names(JsonNode household) => household["members"]!.AsArray().Select(m => m!["name"]!.GetValue<string>().Split(' ')[0]);
        Assert.Equal(["Linnea", "Fern"], Names(await HouseholdAsync("Fern")));
        Assert.Equal(["Ottoline", "Bram", "Fern", "Jory"], Names(await HouseholdAsync("Bram")));
    }

    [Fact]
    public async Task A_company_has_no_household()
    {
        var (status, answer) = await _rukia.SendAsync(HttpMethod.Get, $"/api/clients/{await ClientAsync("Sail Lofts")}/household/2025");
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("of individuals", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task An_earlier_year_that_is_not_filed_holds_up_the_later_one()
    {
        var linnea = await ClientAsync("Linnea");
        var later = await _rukia.ReturnOfAsync("Linnea", 2025);
        var workbench = _practice.Server.Services.GetRequiredService<Workbench>();
        Assert.DoesNotContain(workbench.Refresh(later).Findings, f => f.Id.StartsWith("earlier:", StringComparison.Ordinal));
        await _rukia.DoAsync(HttpMethod.Post, $"/api/clients/{linnea}/returns", new { definition = "ca/individual", year = 2023, kind = "original" });
        Assert.Contains("2023 is not filed yet", Assert.Single(workbench.Refresh(later).Findings, f => f.Id == "earlier:2023").Message, StringComparison.Ordinal);
    }
}
