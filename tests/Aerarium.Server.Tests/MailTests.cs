using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Aerarium.Filing;
using Aerarium.StandIn;

namespace Aerarium.Server.Tests;

/// <summary>A list that goes to the authority by mail and is answered by mail (RFC 5321, 5322), matched by the message it replies to.</summary>
public class MailTests
{
    private const int Rukia = 0;
    private const int Mosi = 1;
    internal const long List1 = 22;

    internal static async Task<Browser> ReadyAsync(Practice practice)
    {
        var rukia = await practice.SignInAsync(Rukia);
        await rukia.EditAsync(List1, ("declaration.true-and-complete", null, "yes"), ("declaration.name", null, "Liwayway"), ("declaration.date", null, "2026-06-18"));
        await rukia.AcceptWarningsAsync(List1);
        await rukia.DoAsync(HttpMethod.Post, $"/api/returns/{List1}/approval/hand-over");
        var mosi = await practice.SignInAsync(Mosi);
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{List1}/approval/approve");
        var built = await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{List1}/sending/build");
        Assert.Empty(built["built"]!["faults"]!.AsArray());
        Assert.EndsWith("2025-Q1-original.csv", built["built"]!["fileName"]!.GetValue<string>());
        return mosi;
    }

    private static async Task<JsonNode> SendingAsync(Browser browser) => (await browser.GetAsync($"/api/returns/{List1}/sending"))["sendings"]!.AsArray()[0]!;

    [Fact]
    public async Task A_list_goes_by_mail_and_its_answer_finds_it_by_itself()
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await ReadyAsync(practice);

        // The mail is seen before it leaves, and what left is what was seen.
        var preview = await mosi.GetAsync($"/api/returns/{List1}/sending/letter");
        Assert.Contains("Liwayway Brannock Dizon", preview["text"]!.GetValue<string>() + preview["subject"]!.GetValue<string>());
        Assert.EndsWith(".csv", Assert.Single(preview["attachments"]!.AsArray())!.GetValue<string>());
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{List1}/sending/send");
        Assert.Equal("accepted", await mosi.WaitForAsync(List1, "accepted", "rejected"));
        var sending = await SendingAsync(mosi);
        Assert.Equal("mail", sending["channel"]!.GetValue<string>());
        Assert.Equal(preview.ToJsonString(), sending["letter"]!.ToJsonString());
        Assert.Contains($"accepted as {sending["acknowledgement"]}", sending["reply"]!["text"]!.GetValue<string>());
        Assert.StartsWith("Re: ", sending["reply"]!["subject"]!.GetValue<string>());
        Assert.StartsWith("ACK-2025-", sending["acknowledgement"]!.GetValue<string>());

        var arrived = Assert.Single(practice.Authority.All, s => s is { Return: "ph/withholding-credits", Period: "Q1" });
        Assert.Equal(("Q1", "20100456100000", 1), (arrived.Period, arrived.Pin, arrived.Arrivals));
        var lines = Encoding.UTF8.GetString(practice.Authority.Document(arrived)).Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal("list||2025-Q1|original|20100456100000|Liwayway Brannock Dizon|||||2026-06-18", lines[0]);
        Assert.Equal("certificate|2|2025-Q1||00551230000000|Coral Window Books Co|WI010|84000.40|5|4200.02|", lines[2]);
        Assert.Equal("totals|3|2025-Q1|||||280000.00||14000.00|", lines[^1]);

        var (_, parcel) = await mosi.FetchAsync(HttpMethod.Get, $"/api/returns/{List1}/sending/parcel.zip");
        using var zip = new ZipArchive(new MemoryStream(parcel));
        Assert.Contains(zip.Entries, e => e.Name == "e-return.csv");
        var (status, _) = await mosi.SendAsync(HttpMethod.Post, $"/api/returns/{List1}/sending/send");
        Assert.Equal(HttpStatusCode.Conflict, status);
    }

    [Fact]
    public async Task When_nothing_comes_back_it_is_seen_and_chased_and_stays_one_filing()
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await ReadyAsync(practice);
        practice.Authority.Faults.LoseNextAnswer = true;
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{List1}/sending/send");
        await Wait.UntilAsync(async () => (await SendingAsync(mosi))["silent"]!.GetValue<bool>(), "Silence was not noticed.");

        Assert.Equal("sent", await mosi.StageAsync(List1));
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{List1}/sending/chase");
        Assert.Equal("accepted", await mosi.WaitForAsync(List1, "accepted", "rejected"));
        var arrived = Assert.Single(practice.Authority.All, s => s is { Return: "ph/withholding-credits", Period: "Q1" });
        Assert.Equal(2, arrived.Arrivals);
    }

    [Fact]
    public async Task While_the_authoritys_mail_is_down_the_list_waits_and_goes_out_by_itself()
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await ReadyAsync(practice);
        practice.Authority.Faults.Outage = true;
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{List1}/sending/send");
        await Wait.UntilAsync(async () => (await SendingAsync(mosi))["problem"] is not null, "The failure was not told.");

        practice.Authority.Faults.Outage = false;
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{List1}/sending/chase");
        Assert.Equal("accepted", await mosi.WaitForAsync(List1, "accepted", "rejected"));
        Assert.Single(practice.Authority.All, s => s is { Return: "ph/withholding-credits", Period: "Q1" });
    }

    [Fact]
    public async Task A_rejection_comes_back_with_its_lines()
    {
        await using var practice = await Practice.StartAsync();
        var mosi = await ReadyAsync(practice);
        practice.Authority.Faults.RejectNext = true;
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{List1}/sending/send");
        Assert.Equal("rejected", await mosi.WaitForAsync(List1, "accepted", "rejected"));
        Assert.NotEmpty((await SendingAsync(mosi))["reasons"]!.AsArray());
    }
}

/// <summary>The authority's own rules for lists, tried with a file altered one field at a time.</summary>
public sealed class ReceivedListTests() : ExaminerBench("30077001900000")
{
    private const string Sound =
        "list||2025-Q1|original|20100456100000|Liwayway Brannock Dizon|||||2026-06-18\r\n"
        + "certificate|1|2025-Q1||00661020000000|Salt Ladder Theatre Inc|WI010|120000.00|5|6000.00|\r\n"
        + "certificate|2|2025-Q1||00551230000000|Coral Window Books Co|WI010|84000.40|5|4200.02|\r\n"
        + "totals|2|2025-Q1|||||204000.40||10200.02|\r\n";

    private IReadOnlyList<Reason> ExamineList(string text) => Examiner.ExamineList(Encoding.UTF8.GetBytes(text), "ph/withholding-credits", "2025", Archive).Reasons;

    [Fact]
    public void A_sound_list_is_accepted() => Assert.Empty(ExamineList(Sound));

    [Theory]
    [InlineData("|204000.40|", "|204000.41|", "TOTALS", "/4/income")]
    [InlineData("10200.02|\r\n", "10200.00|\r\n", "TOTALS", "/4/tax")]
    [InlineData("totals|2|", "totals|3|", "TOTALS", "/4/sequence")]
    [InlineData("certificate|2|", "certificate|3|", "SEQUENCE", "/3/sequence")]
    [InlineData("00551230000000", "20100456100009", "PAYER", "/3/tin")]
    [InlineData("4200.02", "84000.41", "AMOUNT", "/3/tax")]
    [InlineData("Liwayway Brannock", "Liwayway Bannock", "NAME", "/1/name")]
    [InlineData("certificate|1|2025-Q1||", "certificate|1|2025-Q2||", "PERIOD", "/2/period")]
    [InlineData("WI010|120000.00", "WC010|120000.00", "LAYOUT", "/2/code")]
    [InlineData("120000.00", "120000", "LAYOUT", "/2/income")]
    [InlineData("2026-06-18", "18/06/2026", "LAYOUT", "/1/declared")]
    [InlineData("|original|", "|first|", "LAYOUT", "/1/kind")]
    public void One_wrong_field_is_rejected_with_its_code_and_place(string sound, string wrong, string code, string path)
    {
        Assert.Contains(sound, Sound);
        var at = Sound.IndexOf(sound, StringComparison.Ordinal);
        Assert.Contains(ExamineList(Sound[..at] + wrong + Sound[(at + sound.Length)..]), r => r.Code == code && r.Path == path);
    }

    /// <summary>A word of the recommendation that is not understood is an error, not a rule passed over.</summary>
    [Theory]
    [InlineData("""{"tableSchema":{"columns":[{"name":"a","datatype":{"base":"string","length":3}}]}}""", "'length'")]
    [InlineData("""{"tableSchema":{"columns":[{"name":"a","datatype":"duration"}]}}""", "'duration'")]
    [InlineData("""{"tableSchema":{}}""", "cannot be read")]
    [InlineData("not json", "cannot be read")]
    public void A_layout_that_is_not_understood_is_refused(string metadata, string words) =>
        Assert.Contains(words, Assert.Throws<FormatException>(() => new TableSchema(metadata)).Message);
}
