using System.Globalization;
using System.Xml;
using Aerarium.Core.Entries;
using Aerarium.Filing;

namespace Aerarium.Countries.Tests;

/// <summary>Where the writer of e-returns says that a figure stands, another reader of the file finds it; rows may hold rows.</summary>
public class EReturnWriterTests
{
    private static readonly DateOnly Day = new(2026, 6, 18);

    private static XmlDocument Read(EReturn written)
    {
        var document = new XmlDocument { XmlResolver = null };
        document.LoadXml(System.Text.Encoding.UTF8.GetString(written.Content));
        return document;
    }

    [Theory]
    [InlineData("ke/employment-income", "")]
    [InlineData("ph/individual-annual", "")]
    [InlineData("ph/individual-quarterly", "q2")]
    public void Every_place_is_the_path_of_an_element(string id, string period)
    {
        foreach (var seed in Enumerable.Range(1, 10))
        {
            var definition = Catalogue.Get(id, 2025, period);
            var written = Catalogue.TypeOf(id).Mapping.Write(definition.Evaluate(RandomEntries.Of(definition, seed), Day));
            var paths = Read(written).GetElementsByTagName("*").Cast<XmlElement>().Select(ElementPath.Of).ToList();
            Assert.Equal(paths.Count, paths.Distinct().Count());
            Assert.Empty(written.Places.Keys.Except(paths));
            Assert.True(written.Places.Count > 20);
        }
    }

    [Fact]
    public void Rows_of_rows_stand_inside_those_they_belong_to()
    {
        var definition = Catalogue.Get("ke/employment-income", 2025);
        var entries = new EntrySet { Values = { ["scope.employer-car"] = "yes" } };
        entries.Rows["employment.employers"] = [.. "AB".Select(name => new EntryRow($"{name}") { Values = { ["name"] = $"Employer {name}" } })];
        entries.Rows["employment.cars"] = [.. "BAB".Index().Select(c => new EntryRow($"c{c.Index}") { Values = { ["registration-mark"] = $"K {c.Index}", ["provided-by"] = $"{c.Item}" } })];
        var writer = new EReturnWriter(definition.Evaluate(entries, Day), "urn:example", "Return");
        writer.Rows("Employer", "employment.employers", () =>
        {
            writer.Line("Name", "name");
            writer.Rows("Car", "employment.cars", () => writer.Line("Mark", "registration-mark"), of: "provided-by");
            writer.Line("Again", "name");
        });
        var written = writer.Finish();
        Assert.Equal(
            "<Employer><Name>Employer A</Name><Car><Mark>K 1</Mark></Car><Again>Employer A</Again></Employer>"
            + "<Employer><Name>Employer B</Name><Car><Mark>K 0</Mark></Car><Car><Mark>K 2</Mark></Car><Again>Employer B</Again></Employer>",
            Read(written).DocumentElement!.InnerXml.Replace(" xmlns=\"urn:example\"", "", StringComparison.Ordinal));
        Assert.Equal(new LinePlace("employment.cars.registration-mark", "c2"), written.Places["/Return/Employer[2]/Car[2]/Mark"]);
        Assert.Equal(new LinePlace("employment.employers.name", "B"), written.Places["/Return/Employer[2]/Again"]);
    }

    /// <summary>Ten times the rows give ten times the elements; the benchmark says that they also take ten times as long and no more.</summary>
    [Fact]
    public void A_long_list_is_written_whole()
    {
        const int rows = 3_000;
        var definition = Catalogue.Get("ke/employment-income", 2025);
        var entries = new EntrySet();
        entries.Rows["employment.employers"] = [.. Enumerable.Range(1, rows).Select(r => new EntryRow($"r{r}") { Values = { ["name"] = r.ToString(CultureInfo.InvariantCulture) } })];
        var writer = new EReturnWriter(definition.Evaluate(entries, Day), "urn:example", "Return");
        writer.Rows("Employer", "employment.employers", () => writer.Line("Name", "name"));
        var written = writer.Finish();
        Assert.Equal($"r{rows}", written.Places[$"/Return/Employer[{rows}]/Name"].Row);
        Assert.Equal(rows, Read(written).DocumentElement!.ChildNodes.Count);
    }
}
