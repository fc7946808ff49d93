using System.Net;
using System.Text;
using System.Text.Json.Nodes;

namespace Aerarium.Server.Tests;

/// <summary>The list of clients with what stands open, and the ledger of acts in words: filtered, ordered, kept, exported.</summary>
public sealed class ClientListTests(SharedPractice shared) : IClassFixture<SharedPractice>
{
    private static string[] Names(JsonNode page) => [.. page["items"]!.AsArray().Select(c => c!["name"]!.GetValue<string>())];

    [Fact]
    public async Task A_client_is_listed_with_its_next_deadline_open_returns_and_what_is_left_to_pay()
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var njeri = Assert.Single((await rukia.GetAsync("/api/clients?Search=njeri"))["items"]!.AsArray())!;
        Assert.Equal(("Kenya", "individual", "2026-06-30", 12, 1L), (
            njeri["country"]!.GetValue<string>(), njeri["kind"]!.GetValue<string>(), njeri["nextDue"]!.GetValue<string>(), njeri["daysLeft"]!.GetValue<int>(), njeri["open"]!.GetValue<long>()));
        Assert.Equal("Rukia Tindall", Assert.Single(njeri["assignedTo"]!.AsArray())!.GetValue<string>());
        Assert.Equal("KES", njeri["currency"]!.GetValue<string>());

        // Exact to the cent: 4,537.50 of 2024 is left once that return was sent.
        Assert.Equal("4537.5", njeri["leftToPay"]!.GetValue<string>());
    }

    [Fact]
    public async Task Clients_are_filtered_and_ordered_and_a_list_is_kept_under_a_name()
    {
        var rukia = await shared.Practice.SignInAsync(0);
        Assert.Equal(["Halvorsen Sail Lofts Ltd"], Names(await rukia.GetAsync("/api/clients?Kind=company")));
        Assert.All((await rukia.GetAsync("/api/clients?Country=ph"))["items"]!.AsArray(), c => Assert.Equal("Philippines", c!["country"]!.GetValue<string>()));
        Assert.Equal("Liwayway Brannock Dizon", Names(await rukia.GetAsync("/api/clients?Order=due"))[0]);
        Assert.Equal("Liwayway Brannock Dizon", Names(await rukia.GetAsync("/api/clients?Order=open&Descending=true"))[0]);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await rukia.SendAsync(HttpMethod.Get, "/api/clients?Order=shoe-size")).Status);

        await rukia.DoAsync(HttpMethod.Put, "/api/clients/lists/Islands", new { country = "bb", order = "due" });
        var kept = Assert.Single((await rukia.GetAsync("/api/clients/lists")).AsArray())!;
        Assert.Equal(("Islands", "bb"), (kept["name"]!.GetValue<string>(), kept["question"]!["country"]!.GetValue<string>()));
        Assert.Empty((await rukia.GetAsync("/api/desk/summary"))["keptLists"]!.AsArray());
        await rukia.DoAsync(HttpMethod.Delete, "/api/clients/lists/Islands");
        Assert.Empty((await rukia.GetAsync("/api/clients/lists")).AsArray());
    }

    [Fact]
    public async Task A_client_may_have_a_code_of_the_practice_s_own_that_finds_it_and_belongs_to_it_alone()
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var added = await rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "ke", identifier = "A005550009K", name = "Imara Fennwick", code = "F-017" });
        Assert.Equal(["Imara Fennwick"], Names(await rukia.GetAsync("/api/clients?Search=f-017")));
        var second = await rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "ke", identifier = "A005550010L", name = "Osei Larkmoor", code = "f-017" });
        Assert.Contains("Imara Fennwick has the code f-017 already", Assert.Single(second["problems"]!.AsArray())!["message"]!.GetValue<string>());
        Assert.Contains("Halvorsen household", (await rukia.GetAsync("/api/clients/groups")).AsArray().Select(g => g!.GetValue<string>()));
        Assert.NotNull(added["id"]);
    }

    /// <summary>A number of nine digits without a branch is the head office's.</summary>
    [Fact]
    public async Task A_number_without_its_branch_is_the_head_office_s()
    {
        var rukia = await shared.Practice.SignInAsync(0);
        var answer = await rukia.DoAsync(HttpMethod.Post, "/api/clients/check-identifier", new { country = "ph", kind = "individual", value = "201-004-569" });
        Assert.Equal(("20100456900000", null), (answer["value"]!.GetValue<string>(), answer["problem"]?.GetValue<string>()));
    }

    [Fact]
    public async Task Acts_are_told_in_words_and_found_by_client_person_kind_and_day()
    {
        var tarek = await shared.Practice.SignInAsync(3);
        var entered = (await tarek.GetAsync("/api/acts?Client=kofi&Kind=entry")).AsArray();
        Assert.NotEmpty(entered);
        Assert.All(entered, a => Assert.Equal(("entered", "Kofi Marlowe Wanjala", "Kenya, employee's return 2025"), (
            a!["act"]!.GetValue<string>(), a["client"]!.GetValue<string>(), a["return"]!.GetValue<string>())));
        Assert.Contains(entered, a => a!["line"]?.GetValue<string>() == "Basic pay");
        Assert.DoesNotContain(entered, a => a!["line"]?.GetValue<string>().Contains('.', StringComparison.Ordinal) == true);
        Assert.All((await tarek.GetAsync("/api/acts?Person=Mosi%20Lindqvist&Kind=approve")).AsArray(), a => Assert.Equal("Mosi Lindqvist", a!["personName"]!.GetValue<string>()));
        Assert.Empty((await tarek.GetAsync("/api/acts?To=17%20Jun%202026")).AsArray());
        Assert.NotEmpty((await tarek.GetAsync("/api/acts?From=18%20jun&To=18/06/2026")).AsArray());
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await tarek.SendAsync(HttpMethod.Get, "/api/acts?From=some%20day")).Status);

        var (status, csv) = await tarek.FetchAsync(HttpMethod.Get, "/api/acts/export.csv?Client=kofi&Kind=approve");
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Contains("approved,Kofi Marlowe Wanjala", Encoding.UTF8.GetString(csv));
        // Names of clients who answered are not everybody's to see.
        Assert.Equal(
            ["Ines Marchetti", "Mosi Lindqvist", "Noor Abara", "Pia Okello-Rand", "Rukia Tindall", "Tarek Oyelaran", "authority"],
            (await tarek.GetAsync("/api/acts/choices"))["people"]!.AsArray().Select(p => p!.GetValue<string>()));
        Assert.Contains((await tarek.GetAsync("/api/acts/choices"))["kinds"]!.AsArray(), k => k!["label"]!.GetValue<string>() == "handed over");
    }

    /// <summary>Earlier acts follow from where a page ended, none twice and none left out.</summary>
    [Fact]
    public async Task Earlier_acts_go_on_where_the_page_ended()
    {
        var tarek = await shared.Practice.SignInAsync(3);
        var first = (await tarek.GetAsync("/api/acts")).AsArray().Select(a => a!["id"]!.GetValue<long>()).ToList();
        var next = (await tarek.GetAsync($"/api/acts?Before={first[^1]}")).AsArray().Select(a => a!["id"]!.GetValue<long>()).ToList();
        Assert.Equal(500, first.Count);
        Assert.Equal(first[^1] - 1, next[0]);
    }
}
