using System.IO.Compression;
using System.Net;
using Aerarium.StandIn;

namespace Aerarium.Server.Tests;

public class SendingTests
{
    private static async Task BuildAsync(Browser approver, long id)
    {
        var built = await approver.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/build");
        Assert.Empty(built["built"]!["faults"]!.AsArray());
    }

    private static Task<System.Text.Json.Nodes.JsonNode> SendAsync(Browser approver, long id) => approver.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send");

    private static IReadOnlyList<Submission> FilingsOf(Practice practice, string pin) => [.. practice.Authority.All.Where(s => s.Pin == pin && s.Year == "2025")];

    private const string Zuri = "A001100540Z";

    [Fact]
    public async Task Only_an_approver_who_did_not_prepare_approves_and_a_change_withdraws_it()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, mosi) = (await practice.SignInAsync(0), await practice.SignInAsync(1));
        var id = await rukia.ReturnOfAsync("Nia", 2025);
        var (status, _) = await mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/approval/approve");
        Assert.Equal(HttpStatusCode.Conflict, status);
        await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/hand-over");
        (status, _) = await rukia.SendAsync(HttpMethod.Post, $"/api/returns/{id}/approval/approve");
        Assert.Equal(HttpStatusCode.Forbidden, status);
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/approve");
        await BuildAsync(mosi, id);

        var result = await rukia.SetAsync(id, "taxpayer.phone", "0788 888 888");
        Assert.Equal("open", result["stage"]!.GetValue<string>());
        Assert.Equal("withdrawn", (await rukia.GetAsync($"/api/returns/{id}/approval"))["state"]!.GetValue<string>());
        (status, _) = await mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send");
        Assert.Equal(HttpStatusCode.Conflict, status);

        await mosi.SetAsync(id, "taxpayer.phone", "0788 888 889");
        await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/hand-over");
        (status, var answer) = await mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/approval/approve");
        Assert.Equal(HttpStatusCode.Forbidden, status);
        Assert.Contains("You entered figures", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_return_with_errors_or_open_warnings_is_not_handed_over()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var (status, answer) = await rukia.SendAsync(HttpMethod.Post, $"/api/returns/{await rukia.ReturnOfAsync("Jabali", 2025)}/approval/hand-over");
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Contains("errors are left", answer!["detail"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_filing_is_accepted_once_and_its_parcel_holds_everything()
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await practice.SignInAsync(1);
        var id = await mosi.ReturnOfAsync("Zuri", 2025);
        await BuildAsync(mosi, id);
        await SendAsync(mosi, id);
        var (status, _) = await mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send");
        Assert.Equal(HttpStatusCode.Conflict, status);
        Assert.Equal("accepted", await mosi.WaitForAsync(id, "accepted", "rejected"));
        Assert.Single(FilingsOf(practice, Zuri));

        using var zip = new ZipArchive(new MemoryStream(await mosi.Http.GetByteArrayAsync($"/api/returns/{id}/sending/parcel.zip")));
        Assert.Equal(
            ["acknowledgement.pdf", "acts.json", "e-return.xml", "frozen-return.json", "manifest.json", "printed-copy.pdf", "receipt.json", "receipt.jws", "schema/ke/employment-income/2025.xsd"],
            zip.Entries.Select(e => e.FullName).Order(StringComparer.Ordinal));
        using var receipt = new StreamReader(zip.GetEntry("receipt.json")!.Open());
        Assert.Contains("ACK-2025-", await receipt.ReadToEndAsync());
    }

    [Fact]
    public async Task A_rejection_names_the_line_and_the_corrected_return_is_accepted()
    {
        await using var practice = await Practice.StartAsync();
        var (rukia, mosi) = (await practice.SignInAsync(0), await practice.SignInAsync(1));
        var id = await rukia.ReturnOfAsync("Idris", 2025);
        Assert.Equal("rejected", await rukia.WaitForAsync(id, "rejected"));
        var reason = Assert.Single((await rukia.GetAsync($"/api/returns/{id}/sending"))["sendings"]![0]!["reasons"]!.AsArray())!;
        Assert.Equal("taxpayer.name", reason["line"]!.GetValue<string>());

        await rukia.SetAsync(id, "taxpayer.name", "Idris Callowaye Kamau");
        await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/hand-over");
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/approve");
        await BuildAsync(mosi, id);
        await SendAsync(mosi, id);
        Assert.Equal("accepted", await rukia.WaitForAsync(id, "accepted"));
    }

    [Fact]
    public async Task A_lost_answer_does_not_double_the_filing()
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await practice.SignInAsync(1);
        var id = await mosi.ReturnOfAsync("Zuri", 2025);
        await BuildAsync(mosi, id);
        practice.Authority.Faults.LoseNextAnswer = true;
        await SendAsync(mosi, id);
        Assert.Equal("accepted", await mosi.WaitForAsync(id, "accepted", "rejected"));
        Assert.Equal(2, Assert.Single(FilingsOf(practice, Zuri)).Arrivals);
    }

    [Fact]
    public async Task An_outage_is_waited_out()
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await practice.SignInAsync(1);
        var id = await mosi.ReturnOfAsync("Zuri", 2025);
        await BuildAsync(mosi, id);
        practice.Authority.Faults.Outage = true;
        await SendAsync(mosi, id);
        var sending = await mosi.ProblemAsync(id);
        Assert.Equal("queued", sending["state"]!.GetValue<string>());
        Assert.Contains("not available", sending["problem"]!.GetValue<string>());
        practice.Authority.Faults.Outage = false;
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/chase");
        Assert.Equal("accepted", await mosi.WaitForAsync(id, "accepted"));
        Assert.Single(FilingsOf(practice, Zuri));
    }

    [Fact]
    public async Task An_authority_that_fails_often_and_takes_few_requests_is_outlasted()
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await practice.SignInAsync(1);
        var id = await mosi.ReturnOfAsync("Zuri", 2025);
        await BuildAsync(mosi, id);
        var faults = practice.Authority.Faults;
        (faults.ErrorPercent, faults.LatencyMs, faults.RequestsPerSecond) = (40, 20, 3);
        await SendAsync(mosi, id);
        await Wait.ForAsync(
            async () =>
            {
                await mosi.SendAsync(HttpMethod.Post, $"/api/returns/{id}/sending/chase");
                return await mosi.StageAsync(id);
            },
            stage => stage == "accepted",
            "The return was not accepted.");
        Assert.Single(FilingsOf(practice, Zuri));
    }

    [Fact]
    public async Task What_the_authority_did_not_sign_is_no_answer()
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await practice.SignInAsync(1);
        await mosi.WaitForAnswersAsync();
        using var stranger = Filing.XmlSignature.MakeCertificate("Somebody else", "receipts", new DateTimeOffset(2026, 1, 1, 0, 0, 0, TimeSpan.Zero), 20);
        await File.WriteAllBytesAsync(Path.Combine(practice.DataFolder, "authority.cer"), stranger.RawData);
        var id = await mosi.ReturnOfAsync("Zuri", 2025);
        await BuildAsync(mosi, id);
        await SendAsync(mosi, id);
        var sending = await mosi.ProblemAsync(id);
        Assert.Contains("did not sign", sending["problem"]!.GetValue<string>());
        Assert.Null(sending["acknowledgement"]);
        File.Delete(Path.Combine(practice.DataFolder, "authority.cer"));
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/chase");
        Assert.Equal("accepted", await mosi.WaitForAsync(id, "accepted"));
        Assert.Single(FilingsOf(practice, Zuri));
    }

    [Theory]
    [InlineData(0, true)]
    [InlineData(30, false)]
    [InlineData(120, true)]
    [InlineData(400, true)]
    [InlineData(700, false)]
    public async Task A_crash_at_any_point_neither_loses_nor_doubles_a_filing(int afterMilliseconds, bool answerLost)
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await practice.SignInAsync(1);
        var id = await mosi.ReturnOfAsync("Zuri", 2025);
        await BuildAsync(mosi, id);
        practice.Authority.Faults.LoseNextAnswer = answerLost;
        await SendAsync(mosi, id);
        await Task.Delay(afterMilliseconds);
        await practice.KillServerAsync();
        await practice.StartServerAsync();
        mosi = await practice.SignInAsync(1);
        Assert.Equal("accepted", await mosi.WaitForAsync(id, "accepted", "rejected"));
        var filing = Assert.Single(FilingsOf(practice, Zuri));
        Assert.Equal(filing.Acknowledgement, (await mosi.GetAsync($"/api/returns/{id}/sending"))["sendings"]![0]!["acknowledgement"]!.GetValue<string>());
    }

    [Fact]
    public async Task The_authority_keeps_what_it_answered_over_a_restart()
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await practice.SignInAsync(1);
        var id = await mosi.ReturnOfAsync("Zuri", 2025);
        await BuildAsync(mosi, id);
        await SendAsync(mosi, id);
        Assert.Equal("accepted", await mosi.WaitForAsync(id, "accepted"));
        await practice.StopAuthorityAsync();
        await practice.RestartAuthorityAsync();
        Assert.Equal("ACK", Assert.Single(FilingsOf(practice, Zuri)).Acknowledgement![..3]);
    }
}
