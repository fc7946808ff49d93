using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using System.Xml.Linq;

namespace Aerarium.Server.Tests;

/// <summary>What ships binds nobody: every package that goes out with a program or the front end has a permissive licence.</summary>
public partial class LicenceTests
{
    /// <summary>SPDX names of licences that ask for no more than to be named.</summary>
    private static readonly HashSet<string> Permissive = ["MIT", "Apache-2.0", "BSD-2-Clause", "BSD-3-Clause", "0BSD", "ISC", "MS-PL", "OFL-1.1", "BlueOak-1.0.0", "Zlib", "Unlicense"];

    /// <summary>Packages that carry no licence text, and only name an address: what stood there when the package was chosen, from memory.</summary>
    private static readonly Dictionary<string, string> ByAddress = new()
    {
        ["https://github.com/trichards57/zxcvbn-cs/blob/master/LICENSE"] = "MIT",
    };

    [Theory]
    [InlineData("Aerarium.Server")]
    [InlineData("Aerarium.Reader")]
    [InlineData("Aerarium.StandIn")]
    [InlineData("Aerarium.Cli")]
    public void Packages_of_a_program_are_permissive(string program)
    {
        var shipped = JsonNode.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, $"{program}.deps.json")))!;
        var target = shipped["targets"]!.AsObject().Single(t => t.Value!.AsObject().Count > 0).Value!.AsObject();
        var packages = target.Where(p => shipped["libraries"]![p.Key]!["type"]!.GetValue<string>() == "package" && (p.Value!["runtime"] is not null || p.Value["native"] is not null || p.Value["runtimeTargets"] is not null))
            .Select(p => p.Key).ToList();
        Assert.NotEmpty(packages);
        var binding = packages.Select(p => (Package: p, Licence: LicenceOf(p))).Where(p => !IsPermissive(p.Licence)).Select(p => $"{p.Package}: {p.Licence}");
        Assert.Empty(binding);
        Assert.DoesNotContain(packages, p => p.StartsWith("xunit", StringComparison.OrdinalIgnoreCase) || p.StartsWith("CsCheck", StringComparison.OrdinalIgnoreCase));
    }

    [Fact]
    public void Packages_of_the_front_end_are_permissive()
    {
        // What is bundled: the packages the front end names, and what these depend on.
        var locked = JsonNode.Parse(File.ReadAllText(Path.Combine(ArchitectureTests.Root, "web", "package-lock.json")))!["packages"]!.AsObject();
        var (open, shipped) = (new Queue<string>([""]), new HashSet<string>());
        while (open.TryDequeue(out var package))
        {
            foreach (var (name, _) in locked[package]!["dependencies"]?.AsObject() ?? [])
            {
                var found = new[] { $"{package}/node_modules/{name}", $"node_modules/{name}" }.First(locked.ContainsKey);
                if (shipped.Add(found))
                {
                    open.Enqueue(found);
                }
            }
        }

        Assert.True(shipped.Count > 15);
        Assert.Empty(shipped.Where(p => !IsPermissive(locked[p]!["license"]?.GetValue<string>())).Select(p => $"{p}: {locked[p]!["license"]}"));
    }

    [Theory]
    [InlineData("MIT", true)]
    [InlineData("MS-PL OR Apache-2.0", true)]
    [InlineData("(MIT OR GPL-3.0-or-later)", true)]
    [InlineData("MIT AND GPL-3.0-only", false)]
    [InlineData("GPL-3.0-or-later", false)]
    [InlineData("LGPL-2.1", false)]
    [InlineData("SEE LICENSE IN LICENSE", false)]
    [InlineData(null, false)]
    public void An_expression_is_permissive_when_some_choice_is(string? expression, bool permissive) => Assert.Equal(permissive, IsPermissive(expression));

    /// <summary>SPDX expressions as packages write them: choices joined by OR, of which each may join some by AND.</summary>
    private static bool IsPermissive(string? expression) =>
        expression is not null && expression.Trim('(', ')').Split(" OR ").Any(choice => choice.Split(" AND ").All(Permissive.Contains));

    /// <summary>What a package says of its licence: an expression, a file of which the text is that of the MIT licence, or an address.</summary>
    private static string? LicenceOf(string package)
    {
        var (name, version) = (package.Split('/')[0].ToLowerInvariant(), package.Split('/')[1]);
        var root = Environment.GetEnvironmentVariable("NUGET_PACKAGES") ?? Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.UserProfile), ".nuget", "packages");
        var folder = Path.Combine(root, name, version);
        var about = XDocument.Load(Path.Combine(folder, $"{name}.nuspec")).Root!.Elements().First();
        XElement? Named(string element) => about.Elements().FirstOrDefault(e => e.Name.LocalName == element);
        return Named("license") is { } licence
            ? (string?)licence.Attribute("type") == "file" ? MitText.IsMatch(File.ReadAllText(Path.Combine(folder, licence.Value))) ? "MIT" : $"text in {licence.Value}" : licence.Value
            : ByAddress.GetValueOrDefault(Named("licenseUrl")?.Value ?? "");
    }

    [GeneratedRegex(@"Permission is hereby granted, free of charge, to any person obtaining a copy\s+of this software", RegexOptions.IgnoreCase)]
    private static partial Regex MitText { get; }
}
