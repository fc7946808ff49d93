using System.Net;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Aerarium.Cli;
using Aerarium.Filing;

namespace Aerarium.Server.Tests;

/// <summary>An e-return in JSON: chosen by the practice, built, signed beside (RFC 7515), accepted, kept and verified as one in XML is.</summary>
public sealed class JsonEReturnTests : IAsyncLifetime
{
    private const int Rukia = 0, Mosi = 1, Tarek = 3;
    private const long Third = 16, Second = 17, First = 18, List2 = 21, List1 = 22;
    private const string SchemaPath = "ph/individual-quarterly/2025.schema.json";

    private Practice _practice = null!;
    private Browser _rukia = null!, _mosi = null!, _tarek = null!;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        (_rukia, _mosi, _tarek) = (await _practice.SignInAsync(Rukia), await _practice.SignInAsync(Mosi), await _practice.SignInAsync(Tarek));
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    private static string Schema => new StandIn.PublishedSchemas(Path.Combine(AppContext.BaseDirectory, "Schemas")).Text(SchemaPath)!;

    private Task ChooseAsync(string form) => _tarek.DoAsync(HttpMethod.Put, "/api/practice/e-return-form", new { definition = "ph/individual-quarterly", form });

    private async Task<byte[]> BuiltAsync(long id)
    {
        (string, string?, string)[] declared = [("declaration.true-and-complete", null, "yes"), ("declaration.name", null, "Liwayway Brannock Dizon"), ("declaration.date", null, "18/06/2026")];
        await _rukia.EditAsync(id, id is List1 or List2 ? declared : [.. declared, ("declaration.capacity", null, "taxpayer")]);
        await _rukia.AcceptWarningsAsync(id);
        await _rukia.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/hand-over");
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/approval/approve");
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/build");
        return await _mosi.Http.GetByteArrayAsync($"/api/returns/{id}/sending/e-return");
    }

    private async Task<byte[]> SentAsync(long id)
    {
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send");
        Assert.Equal("accepted", await _mosi.WaitForAsync(id, "accepted", "rejected"));
        return await _mosi.Http.GetByteArrayAsync($"/api/returns/{id}/sending/parcel.zip");
    }

    /// <summary>A credit for tax whose list the authority has not accepted is refused at its line.</summary>
    private async Task RejectedAsync(long id)
    {
        await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{id}/sending/send");
        Assert.Equal("rejected", await _mosi.WaitForAsync(id, "accepted", "rejected"));
        var reason = Assert.Single((await _mosi.GetAsync($"/api/returns/{id}/sending"))["sendings"]![0]!["reasons"]!.AsArray())!;
        Assert.Equal(("CREDIT", "balance.withheld-quarter", "14000.00 is claimed; the accepted list of tax withheld of quarter 1 shows 0.00."),
            (reason["code"]!.GetValue<string>(), reason["line"]!.GetValue<string>(), reason["message"]!.GetValue<string>()));
    }

    private static (int Exit, string Words) Verify(byte[] parcel)
    {
        var path = Path.GetTempFileName();
        File.WriteAllBytes(path, parcel);
        using var output = new StringWriter();
        var exit = VerifyCommand.Run(path, output, output);
        File.Delete(path);
        return (exit, output.ToString());
    }

    [Fact]
    public async Task A_quarter_is_filed_in_json_and_another_in_xml_once_their_lists_are_accepted()
    {
        await ChooseAsync("json");
        await BuiltAsync(First);
        await RejectedAsync(First);
        foreach (var list in new[] { List1, List2 })
        {
            await BuiltAsync(list);
            await SentAsync(list);
        }

        var file = await BuiltAsync(First);
        var json = JsonNode.Parse(file)!;
        Assert.Equal("urn:aerarium:standin:ph:individual-quarterly:2025", json["$schema"]!.GetValue<string>());
        Assert.Equal(JsonValueKind.True, json["QuarterlyIncomeTaxReturn"]!["Declaration"]!["TrueAndComplete"]!.GetValueKind());
        Assert.Equal(JsonValueKind.String, json["QuarterlyIncomeTaxReturn"]!["Result"]!["Balance"]!.GetValueKind());
        Assert.Empty(new JsonSchemaCheck(Schema).Faults(file));

        var parcel = await SentAsync(First);
        var (exit, words) = Verify(parcel);
        Assert.True(exit == 0, words);
        Assert.Contains("the e-return is signed by Lantern Reef Tax Practice", words);
        var files = Parcel.Open(parcel).ToDictionary();
        Assert.Equal(file, files["e-return.json"]);
        files["e-return.json"] = Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(file).Replace("Liwayway", "Likhaway", StringComparison.Ordinal));
        (exit, words) = Verify(Parcel.Pack(new Dictionary<string, string>(), [.. files.Select(f => new ParcelFile(f.Key, f.Value))]));
        Assert.Equal(1, exit);
        Assert.Contains("the e-return's signature does not hold", words);

        await ChooseAsync("xml");
        Assert.Equal((byte)'<', (await BuiltAsync(Second))[0]);
        Assert.True(Parcel.Open(await SentAsync(Second)).ContainsKey("e-return.xml"));
        Assert.Equal("", await _tarek.WrongAsync());
    }

    [Fact]
    public async Task A_newer_json_schema_is_compared_tried_and_turned_on()
    {
        await ChooseAsync("json");
        await BuiltAsync(Third);
        var stricter = Schema.Replace("\"maxLength\": 120", "\"maxLength\": 5", StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, (await _tarek.UploadAsync($"/api/practice/schemas/load?path={SchemaPath}", Encoding.UTF8.GetBytes(stricter))).Status);
        var waiting = (await _tarek.GetAsync("/api/practice/schemas")).AsArray().Single(e => e!["path"]!.GetValue<string>() == SchemaPath && !e["inUse"]!.GetValue<bool>())!;
        var chosen = new { path = SchemaPath, sha256 = waiting["sha256"]!.GetValue<string>() };
        var trial = await _tarek.DoAsync(HttpMethod.Post, "/api/practice/schemas/try", chosen);
        Assert.Contains(trial["changes"]!.AsArray(), c => c!["path"]!.GetValue<string>() == "/QuarterlyIncomeTaxReturn/Taxpayer/Name" && c["kind"]!.GetValue<string>() == "tightened");
        Assert.Contains(trial["refused"]!.AsArray(), r => r!["returnId"]!.GetValue<long>() == Third);
        await _tarek.DoAsync(HttpMethod.Post, "/api/practice/schemas/turn-on", chosen);
        var faults = (await _mosi.DoAsync(HttpMethod.Post, $"/api/returns/{Third}/sending/build"))["built"]!["faults"]!.AsArray();
        Assert.Contains(faults, f => f!["line"]?.GetValue<string>() == "taxpayer.name" && f["message"]!.GetValue<string>().Contains("Liwayway", StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _tarek.UploadAsync($"/api/practice/schemas/load?path={SchemaPath}", "{\"type\": 7}"u8.ToArray())).Status);
    }

    [Fact]
    public async Task A_return_that_is_taken_in_one_form_only_stays_in_it()
    {
        foreach (var (definition, form) in new[] { ("ke/employment-income", "json"), ("ph/individual-quarterly", "yaml"), ("zz/none", "json") })
        {
            Assert.Equal(HttpStatusCode.UnprocessableEntity, (await _tarek.SendAsync(HttpMethod.Put, "/api/practice/e-return-form", new { definition, form })).Status);
        }
    }

    [Theory]
    [InlineData("""{"properties":{"A":{"type":"string"}}}""", """{"properties":{"A":{"type":"string","maxLength":5}}}""", SchemaChangeKind.Tightened, "/A")]
    [InlineData("""{"properties":{"A":{}}}""", """{"properties":{"A":{}},"required":["A"]}""", SchemaChangeKind.Tightened, "/A")]
    [InlineData("""{"properties":{"A":{"enum":["x","y"]}}}""", """{"properties":{"A":{"const":"x"}}}""", SchemaChangeKind.Tightened, "/A")]
    [InlineData("""{"properties":{"A":{"items":{},"maxItems":9}}}""", """{"properties":{"A":{"items":{},"maxItems":3}}}""", SchemaChangeKind.Tightened, "/A")]
    [InlineData("""{"properties":{"A":{"$ref":"#/$defs/T"}},"$defs":{"T":{"maxLength":5}}}""", """{"properties":{"A":{"$ref":"#/$defs/T"}},"$defs":{"T":{"maxLength":9}}}""", SchemaChangeKind.Changed, "/A")]
    [InlineData("""{"properties":{}}""", """{"properties":{"A":{"properties":{}}}}""", SchemaChangeKind.Added, "/A")]
    [InlineData("""{"properties":{"A":{}}}""", """{"properties":{}}""", SchemaChangeKind.Removed, "/A")]
    public void Json_schemas_are_compared_place_by_place(string before, string after, SchemaChangeKind kind, string path)
    {
        var change = Assert.Single(SchemaComparison.Between("x.schema.json", before, after));
        Assert.Equal((kind, path), (change.Kind, change.Path));
    }

    [Fact]
    public void What_is_no_json_e_return_is_told()
    {
        foreach (var text in new[] { "{", "{}", """{"$schema":"urn:x"}""", """{"$schema":7,"A":{}}""", """{"$schema":"urn:x","A b":{}}""" })
        {
            Assert.Throws<FormatException>(() => JsonEReturn.Read(Encoding.UTF8.GetBytes(text)));
        }

        Assert.Contains("not JSON", Assert.Single(new JsonSchemaCheck("{}").Faults("{"u8.ToArray())).Detail);
    }
}
