using System.Net;
using Aerarium.StandIn;

namespace Aerarium.Server.Tests;

/// <summary>A return of Germany from one year into the next, through the interface.</summary>
public class GermanyReturnTests
{
    /// <summary>Numbers that usually last, such as distance and usual days, and equipment still written off are taken over; amounts of the year are not.</summary>
    [Fact]
    public async Task What_usually_lasts_is_taken_over_to_be_looked_at_again()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var client = (await rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "de", kind = "individual", identifier = "20364598157", name = "Ingwer Kliffendorn" }))["id"]!.GetValue<long>();
        var before = (await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "de/individual", year = 2024, kind = "original" }))["id"]!.GetValue<long>();
        await rukia.EditAsync(before, ("scope.employed", null, "yes"), ("scope.commuting", null, "yes"), ("scope.tools", null, "yes"), ("work-costs.leave", null, "31"));
        await rukia.DoAsync(HttpMethod.Patch, $"/api/returns/{before}/entries", new
        {
            changes = new object[]
            {
                new { kind = "add-row", section = "work-costs.ways", row = "way-1", seen = long.MaxValue },
                new { kind = "add-row", section = "work-costs.tools", row = "tool-1", seen = long.MaxValue },
            },
        });
        await rukia.EditAsync(before,
            ("work-costs.ways.place", "way-1", "Weavers"), ("work-costs.ways.days", "way-1", "210"), ("work-costs.ways.distance", "way-1", "26"), ("work-costs.ways.tickets", "way-1", "480"),
            ("work-costs.tools.what", "tool-1", "Desk"), ("work-costs.tools.bought", "tool-1", "2024-03-15"), ("work-costs.tools.net", "tool-1", "1008"), ("work-costs.tools.gross", "tool-1", "1200"), ("work-costs.tools.life", "tool-1", "3"));
        var after = (await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{before}/roll-forward"))["id"]!.GetValue<long>();
        var values = (await rukia.GetAsync($"/api/returns/{after}"))["values"]!.AsArray().Where(v => v!["row"] is not null && v["value"] is not null)
            .ToDictionary(v => v!["line"]!.GetValue<string>(), v => v!["value"]!.GetValue<string>());
        Assert.Equal(
            ("Weavers", "210", "26", "1200", "400"),
            (values["work-costs.ways.place"], values["work-costs.ways.days"], values["work-costs.ways.distance"], values["work-costs.tools.gross"], values["work-costs.tools.used"]));
        Assert.False(values.ContainsKey("work-costs.ways.tickets"));
    }

    /// <summary>What the authority would refuse is told by line before anything is filed; nothing is sent until it has nothing against it.</summary>
    [Fact]
    public async Task The_authority_checks_before_the_filing_and_names_the_lines()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, mosi) = (await practice.SignInAsync(0), await practice.SignInAsync(1));
        var id = await OpenedAsync(rukia);
        await rukia.EditAsync(id, ("scope.commuting", null, "yes"), ("work-costs.leave", null, "20"));
        await rukia.DoAsync(HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes = new object[] { new { kind = "add-row", section = "work-costs.ways", row = "way-1", seen = long.MaxValue } } });
        await rukia.EditAsync(id, ("work-costs.ways.place", "way-1", "Weavers"), ("work-costs.ways.days", "way-1", "200"), ("work-costs.ways.distance", "way-1", "32"), ("work-costs.ways.by-car", "way-1", "32"));
        await ApproveAsync();
        var built = await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/build");
        Assert.Equal((true, true, false), (built["checkedBeforehand"]!.GetValue<bool>(), built["canCheck"]!.GetValue<bool>(), built["canSend"]!.GetValue<bool>()));
        var (status, answer) = await mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send");
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("checked by the authority", answer!["detail"]!.GetValue<string>(), StringComparison.Ordinal);

        practice.Authority.Faults.Outage = true;
        Assert.Equal(HttpStatusCode.BadGateway, (await rukia.SendAsync(HttpMethod.Post, $"/api/returns/{id}/sending/check")).Status);
        practice.Authority.Faults.Outage = false;

        // Registered under another name meanwhile: the line is named, and it stays unsent.
        var registered = practice.OfAuthority<Registry>();
        registered.Register(new Taxpayer("20364598157", "Ingwer Kliffendorf"));
        var refused = await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/check");
        Assert.Equal("taxpayer.name", refused["built"]!["check"]!["reasons"]![0]!["line"]!.GetValue<string>());
        Assert.False(refused["canSend"]!.GetValue<bool>());
        Assert.Equal(HttpStatusCode.Conflict, (await mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send")).Status);

        registered.Register(new Taxpayer("20364598157", "Ingwer Kliffendorn") { AssessedByHand = true, ImmediateNotice = true });
        var sound = await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/check");
        Assert.True(sound["canSend"]!.GetValue<bool>());
        Assert.DoesNotContain(practice.Authority.All, s => s.Pin == "20364598157");
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send");
        Assert.Equal("accepted", await mosi.WaitForAsync(id, "accepted", "rejected"));

        // The officer counts 180 days without a diary: 20 x (20 x 0.30 + 12 x 0.38) = 211.20 is not deducted, and the tax follows.
        var after = await Wait.ForAsync(() => rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/after/ask"), v => v["assessment"] is not null, "There is no notice.");
        var differences = after["assessment"]!["differences"]!.AsArray();
        Assert.Equal(["income.sum", "income.total-income", "tax.income", "tax.taxable", "tax.income-tax", "balance.balance"], differences.Select(d => d!["line"]!.GetValue<string>()));
        Assert.Equal("211.2", differences[0]!["difference"]!.GetValue<string>());
        Assert.Contains("180 days", differences[0]!["reason"]!.GetValue<string>(), StringComparison.Ordinal);
        Assert.Equal(differences[4]!["difference"]!.GetValue<string>(), differences[5]!["difference"]!.GetValue<string>());
        var file = await rukia.ReturnOfAsync("Zuri", 2025);
        Assert.Equal(HttpStatusCode.Conflict, (await mosi.SendAsync(HttpMethod.Post, $"/api/returns/{file}/sending/check")).Status);

        async Task ApproveAsync()
        {
            await rukia.AcceptWarningsAsync(id);
            await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/hand-over");
            await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/approve");
        }
    }

    /// <summary>A voluntary return is likely worth filing where statements of the year give a refund, or the nearest year did; not where it was opened, or is too late.</summary>
    [Fact]
    public async Task Clients_with_a_likely_refund_are_listed_with_what_that_rests_on()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var id = await OpenedAsync(rukia);
        var view = await rukia.GetAsync($"/api/returns/{id}");
        var client = view["clientId"]!.GetValue<long>();
        var boxes = new Dictionary<string, string?> { ["employer"] = "Weavers", ["from"] = "2023-01-01", ["until"] = "2023-12-31", ["taxClass"] = "1", ["line3"] = "14000", ["line4"] = "312" };
        await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/statements", new { kind = "wage-statement", year = 2023, identifier = "20364598157", boxes, revision = 0 });

        var listed = (await rukia.GetAsync("/api/desk/likely-refunds")).AsArray();
        Assert.Equal([2022, 2023, 2025], listed.Select(r => r!["year"]!.GetValue<int>()));
        Assert.Equal(["2026-12-31", "2027-12-31", "2029-12-31"], listed.Select(r => r!["until"]!.GetValue<string>()));

        // The wage of 2023 less the lump sum and 36, single: 14,000 - 1,230 - 36 = 12,734; (979.18 * 0.1826 + 1,400) * 0.1826 = 288.29; 312 was withheld.
        Assert.Equal(("24", "from Wage statement, Weavers of 2023"), (listed[1]!["refund"]!.GetValue<string>(), listed[1]!["known"]!.GetValue<string>()));
        var balance = view["outcome"]!.AsArray()[^1]!["amount"]!.GetValue<string>();
        Assert.Equal((balance, "2024 shows a refund"), ($"-{listed[0]!["refund"]!.GetValue<string>()}", listed[0]!["known"]!.GetValue<string>()));

        await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "de/individual", year = 2022, kind = "original" });
        Assert.Equal([2023, 2025], (await rukia.GetAsync("/api/desk/likely-refunds")).AsArray().Select(r => r!["year"]!.GetValue<int>()));
    }

    /// <summary>A return of a single employee, complete, with a refund.</summary>
    private static async Task<long> OpenedAsync(Browser rukia)
    {
        var client = (await rukia.DoAsync(HttpMethod.Post, "/api/clients", new { country = "de", kind = "individual", identifier = "20364598157", name = "Ingwer Kliffendorn" }))["id"]!.GetValue<long>();
        var id = (await rukia.DoAsync(HttpMethod.Post, $"/api/clients/{client}/returns", new { definition = "de/individual", year = 2024, kind = "original" }))["id"]!.GetValue<long>();
        var no = (await rukia.GetAsync($"/api/returns/{id}"))["values"]!.AsArray().Select(v => v!["line"]!.GetValue<string>())
            .Where(l => l.StartsWith("scope.", StringComparison.Ordinal) && l is not ("scope.state" or "scope.family" or "scope.compulsory")).Distinct();
        await rukia.EditAsync(id, [.. no.Select(l => (l, (string?)null, l is "scope.resident" or "scope.advised" or "scope.employed" ? "yes" : "no"))]);
        await rukia.EditAsync(id,
            ("scope.state", null, "sh"), ("scope.family", null, "single"), ("taxpayer.tax-number", null, "2120036459815"), ("taxpayer.office", null, "Seal Bank"), ("taxpayer.birth-date", null, "1979-03-05"),
            ("taxpayer.religion", null, "none"), ("taxpayer.address", null, "157 Driftwood Lane"), ("provident.subsidised", null, "yes"), ("provident.sickness-pay", null, "yes"), ("payout.account", null, "DE73999000000000000066"),
            ("declaration.true-and-complete", null, "yes"), ("declaration.name", null, "Ingwer"), ("declaration.capacity", null, "adviser"), ("declaration.date", null, "2026-06-18"),
            ("declaration.agent-number", null, "4711000990"), ("declaration.agent-name", null, "Lantern Reef Tax Practice"), ("declaration.contact-name", null, "Tarek"), ("declaration.contact-phone", null, "0431 555 0100"));
        await rukia.DoAsync(HttpMethod.Patch, $"/api/returns/{id}/entries", new { changes = new object[] { new { kind = "add-row", section = "wages.statements", row = "w1", seen = long.MaxValue } } });
        await rukia.EditAsync(id,
            ("wages.statements.employer", "w1", "Weavers"), ("wages.statements.from", "w1", "2024-01-01"), ("wages.statements.until", "w1", "2024-12-31"), ("wages.statements.class", "w1", "1"), ("wages.statements.gross", "w1", "42000"),
            ("wages.statements.wage-tax", "w1", "9000"), ("wages.statements.health", "w1", "3400"), ("wages.statements.care", "w1", "900"));
        return id;
    }
}
