using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Aerarium.Filing;

namespace Aerarium.Server.Tests;

/// <summary>Editions of an authority's schema: compared, tried on the returns under way, used only once a named person turns them on.</summary>
public class SchemaEditionTests(SharedPractice shared) : IClassFixture<SharedPractice>
{
    private const string Path2025 = "ke/employment-income/2025.xsd";

    private static string Shipped(string path) => new StandIn.PublishedSchemas(Path.Combine(AppContext.BaseDirectory, "Schemas")).Text(path)!;

    private static async Task<JsonNode> EditionAsync(Browser person, bool inUse) =>
        (await person.GetAsync("/api/practice/schemas")).AsArray().Single(e => e!["path"]!.GetValue<string>() == Path2025 && e["inUse"]!.GetValue<bool>() == inUse)!;

    private static object Chosen(JsonNode edition) => new { path = Path2025, sha256 = edition["sha256"]!.GetValue<string>() };

    [Fact]
    public async Task A_newer_edition_waits_is_tried_and_is_used_once_somebody_turns_it_on()
    {
        var (mosi, tarek) = (await shared.Practice.SignInAsync(1), await shared.Practice.SignInAsync(3));
        var zuri = await mosi.ReturnOfAsync("Zuri", 2025);
        await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{zuri}/sending/build");
        Assert.Equal("first edition", (await EditionAsync(tarek, inUse: true))["turnedOnBy"]!.GetValue<string>());

        // The new edition takes names of at most five characters.
        var stricter = Shipped(Path2025).Replace("</xs:schema>", "<!-- another edition --></xs:schema>", StringComparison.Ordinal)
            .Replace("<xs:element name=\"Name\" type=\"Words\"/>", "<xs:element name=\"Name\"><xs:simpleType><xs:restriction base=\"xs:string\"><xs:maxLength value=\"5\"/></xs:restriction></xs:simpleType></xs:element>", StringComparison.Ordinal);
        var (status, _) = await tarek.UploadAsync($"/api/practice/schemas/load?path={Path2025}", Encoding.UTF8.GetBytes(stricter));
        Assert.Equal(HttpStatusCode.OK, status);
        var waiting = await EditionAsync(tarek, inUse: false);
        Assert.Equal("Tarek Oyelaran", waiting["cameFrom"]!.GetValue<string>());
        var trial = await tarek.DoAsync(HttpMethod.Post, "/api/practice/schemas/try", Chosen(waiting));
        Assert.Contains(trial["changes"]!.AsArray(), c => c!["kind"]!.GetValue<string>() == "tightened" && c["path"]!.GetValue<string>().EndsWith("/Name", StringComparison.Ordinal));
        Assert.True(trial["tried"]!.GetValue<int>() > 1);
        Assert.Contains(trial["refused"]!.AsArray(), r => r!["client"]!.GetValue<string>() == "Zuri Lindgren Mwangi");

        Assert.Empty((await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{zuri}/sending/build"))["built"]!["faults"]!.AsArray());
        await tarek.DoAsync(HttpMethod.Post, "/api/practice/schemas/turn-on", Chosen(waiting));
        Assert.Equal("Tarek Oyelaran", (await EditionAsync(tarek, inUse: true))["turnedOnBy"]!.GetValue<string>());
        Assert.NotEmpty((await mosi.DoAsync(HttpMethod.Post, $"/api/returns/{zuri}/sending/build"))["built"]!["faults"]!.AsArray());
    }

    [Theory]
    [InlineData("<xs:schema", Path2025, "no schema")]
    [InlineData("<html/>", Path2025, "no schema")]
    [InlineData("<xs:schema xmlns:xs=\"http://www.w3.org/2001/XMLSchema\"/>", "zz/none/2025.xsd", "no return")]
    [InlineData("", Path2025, "at most 2 MB")]
    public async Task What_is_no_schema_of_a_return_is_not_loaded(string text, string path, string said)
    {
        var tarek = await shared.Practice.SignInAsync(3);
        var (status, answer) = await tarek.UploadAsync($"/api/practice/schemas/load?path={path}", Encoding.UTF8.GetBytes(text));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains(said, answer["detail"]!.GetValue<string>());
    }

    private static string Xsd(string inside) =>
        $"<xs:schema xmlns:xs=\"http://www.w3.org/2001/XMLSchema\"><xs:element name=\"R\"><xs:complexType><xs:sequence>{inside}</xs:sequence></xs:complexType></xs:element></xs:schema>";

    private static string Text(string name, string facets, string occurs = "") =>
        $"<xs:element name=\"{name}\" {occurs}><xs:simpleType><xs:restriction base=\"xs:string\">{facets}</xs:restriction></xs:simpleType></xs:element>";

    [Theory]
    [InlineData("", "minOccurs=\"0\"", "", "", SchemaChangeKind.Tightened)]
    [InlineData("", "", "", "minOccurs=\"0\"", SchemaChangeKind.Changed)]
    [InlineData("", "maxOccurs=\"3\"", "", "", SchemaChangeKind.Tightened)]
    [InlineData("<xs:maxLength value=\"10\"/>", "", "<xs:maxLength value=\"5\"/>", "", SchemaChangeKind.Tightened)]
    [InlineData("<xs:maxLength value=\"5\"/>", "", "<xs:maxLength value=\"10\"/>", "", SchemaChangeKind.Changed)]
    [InlineData("", "", "<xs:pattern value=\"[A-Z]+\"/>", "", SchemaChangeKind.Tightened)]
    [InlineData("<xs:enumeration value=\"a\"/><xs:enumeration value=\"b\"/>", "", "<xs:enumeration value=\"a\"/>", "", SchemaChangeKind.Tightened)]
    [InlineData("<xs:enumeration value=\"a\"/>", "", "<xs:enumeration value=\"a\"/><xs:enumeration value=\"b\"/>", "", SchemaChangeKind.Changed)]
    public void A_change_says_whether_less_is_allowed(string facets, string occurs, string facetsNow, string occursNow, SchemaChangeKind kind)
    {
        var change = Assert.Single(SchemaComparison.Between("x.xsd", Xsd(Text("A", facets, occurs)), Xsd(Text("A", facetsNow, occursNow))));
        Assert.Equal((kind, "/R/A"), (change.Kind, change.Path));
    }

    [Fact]
    public void What_was_added_and_removed_is_named()
    {
        var changes = SchemaComparison.Between("x.xsd", Xsd(Text("A", "") + Text("B", "")), Xsd(Text("A", "") + Text("C", "", "minOccurs=\"0\"")));
        Assert.Equal([(SchemaChangeKind.Removed, "/R/B"), (SchemaChangeKind.Added, "/R/C")], changes.Select(c => (c.Kind, c.Path)));
        Assert.Empty(SchemaComparison.Between(Path2025, Shipped(Path2025), Shipped(Path2025)));
    }

    [Fact]
    public void Layouts_of_delimited_text_are_compared_column_by_column()
    {
        const string path = "ph/withholding-credits/2025-metadata.json";
        var shipped = Shipped(path);
        var stricter = JsonNode.Parse(shipped)!;
        var column = stricter["tableSchema"]!["columns"]!.AsArray().First(c => c!["required"] is null || !c["required"]!.GetValue<bool>())!;
        column["required"] = true;
        var change = Assert.Single(SchemaComparison.Between(path, shipped, stricter.ToJsonString()));
        Assert.Equal((SchemaChangeKind.Tightened, column["name"]!.GetValue<string>()), (change.Kind, change.Path));
    }
}
