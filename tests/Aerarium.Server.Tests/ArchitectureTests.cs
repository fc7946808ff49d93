using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using System.Xml.Linq;

namespace Aerarium.Server.Tests;

/// <summary>The rules of docs/architecture.md, read from its table.</summary>
public partial class ArchitectureTests
{
    internal static readonly string Root = FindRoot();

    [GeneratedRegex(@"^\| `(Aerarium\.\w+)` \| ([^|]+) \|", RegexOptions.Multiline)]
    private static partial Regex TableRow { get; }

    [GeneratedRegex(@"`(Aerarium\.\w+)`")]
    private static partial Regex ProjectName { get; }

    private static Dictionary<string, string[]> Allowed() =>
        TableRow.Matches(File.ReadAllText(Path.Combine(Root, "docs", "architecture.md")))
            .ToDictionary(m => m.Groups[1].Value, m => ProjectName.Matches(m.Groups[2].Value).Select(p => p.Groups[1].Value).ToArray());

    private static IEnumerable<XDocument> Projects() =>
        Directory.EnumerateFiles(Path.Combine(Root, "src"), "*.csproj", SearchOption.AllDirectories).Select(f => XDocument.Load(f, LoadOptions.SetBaseUri));

    private static string NameOf(XDocument project) => Path.GetFileNameWithoutExtension(new Uri(project.BaseUri).LocalPath);

    [Fact]
    public void Projects_refer_only_to_what_the_architecture_allows()
    {
        var allowed = Allowed();
        Assert.Equal(8, Projects().Count());
        foreach (var project in Projects())
        {
            var references = project.Descendants("ProjectReference").Select(r => Path.GetFileNameWithoutExtension(r.Attribute("Include")!.Value));
            Assert.True(allowed.ContainsKey(NameOf(project)), $"{NameOf(project)} is missing from the table");
            Assert.Empty(references.Except(allowed[NameOf(project)]).Select(r => $"{NameOf(project)} -> {r}"));
        }
    }

    [Fact]
    public void The_core_has_no_packages_no_clock_no_randomness_and_no_files()
    {
        var core = Projects().Single(p => NameOf(p) == "Aerarium.Core");
        Assert.Empty(core.Descendants("PackageReference"));
        string[] forbidden = ["DateTime.Now", "DateTime.UtcNow", "DateTimeOffset.Now", "DateTimeOffset.UtcNow", "new Random", "Random.Shared", "Guid.NewGuid", "File.", "HttpClient", "double ", "float "];
        foreach (var file in Directory.EnumerateFiles(Path.Combine(Root, "src", "Aerarium.Core"), "*.cs", SearchOption.AllDirectories))
        {
            var code = string.Join('\n', File.ReadLines(file).Where(l => !l.TrimStart().StartsWith("//", StringComparison.Ordinal)));
            Assert.DoesNotContain(forbidden, word => Regex.IsMatch(code, $@"(?<!\w){Regex.Escape(word)}"));
        }
    }

    [Fact]
    public void Nothing_is_called_utils()
    {
        var files = Directory.EnumerateFiles(Path.Combine(Root, "src"), "*.cs", SearchOption.AllDirectories)
            .Concat(Directory.EnumerateFiles(Path.Combine(Root, "web", "src"), "*.*", SearchOption.AllDirectories));
        Assert.DoesNotContain(files, f => Regex.IsMatch(Path.GetFileName(f), "util|helper|misc", RegexOptions.IgnoreCase));
    }

    [Fact]
    public async Task The_described_api_is_the_api_that_runs()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var kept = JsonNode.Parse(File.ReadAllText(Path.Combine(Root, "web", "src", "api", "openapi.json")));
        Assert.True(JsonNode.DeepEquals(kept, await rukia.GetAsync("/api/openapi.json")), "Build the server so that web/src/api/openapi.json is written again, then run 'npm run api' in web.");
    }

    private static string FindRoot()
    {
        var folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "Aerarium.slnx")))
        {
            folder = Path.GetDirectoryName(folder)!;
        }

        return folder;
    }
}
