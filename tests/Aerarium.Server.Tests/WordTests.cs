using System.Text.RegularExpressions;

namespace Aerarium.Server.Tests;

/// <summary>What is shown keeps to docs/words.md. A phrase that begins with a capital is looked for as it stands, as on a button.</summary>
public partial class WordTests
{
    [GeneratedRegex(@"^\| (?<say>[^|]+) \| (?<not>[^|]+) \|$", RegexOptions.Multiline)]
    private static partial Regex TableRow { get; }

    [GeneratedRegex(@">(?<shown>[^<>{}]*\p{L}[^<>{}]*)[<{]|""(?<shown>(?:[^""\\\n]|\\.)*)""|'(?<shown>(?:[^'\\\n]|\\.)*)'|`(?<shown>[^`\n]*)`")]
    private static partial Regex Text { get; }

    [GeneratedRegex(@"^\s*//.*$|/\*.*?\*/|<!--.*?-->", RegexOptions.Multiline | RegexOptions.Singleline)]
    private static partial Regex Comment { get; }

    private static List<Regex> Discouraged() =>
        [.. TableRow.Matches(File.ReadAllText(Path.Combine(ArchitectureTests.Root, "docs", "words.md"))).Skip(1)
            .Select(m => m.Groups["not"].Value.Trim())
            .Where(words => !words.StartsWith('-'))
            .Select(words => new Regex($@"(?<![\p{{L}}-]){Regex.Escape(words.Replace("label ", "", StringComparison.Ordinal)).Replace("\\ ", "\\s+", StringComparison.Ordinal)}(?![\p{{L}}-])", char.IsLower(words[0]) ? RegexOptions.IgnoreCase : RegexOptions.None))];

    private static IEnumerable<string> Shown(string file)
    {
        var source = Comment.Replace(File.ReadAllText(file), m => m.Value.StartsWith('\n') ? "\n" : "");
        return Text.Matches(source).Select(m => m.Groups["shown"].Value.Trim())
            .Where(shown => shown.Length > 0 && (char.IsUpper(shown[0]) || shown.Contains(' ', StringComparison.Ordinal)) && !shown.Contains('=', StringComparison.Ordinal) && !shown.Contains("&&", StringComparison.Ordinal));
    }

    private static IEnumerable<string> Sources()
    {
        string[] shows = ["Aerarium.Core", "Aerarium.Countries", "Aerarium.Filing", "Aerarium.Server"];
        return shows.SelectMany(project => Directory.EnumerateFiles(Path.Combine(ArchitectureTests.Root, "src", project), "*.cs", SearchOption.AllDirectories))
            .Concat(Directory.EnumerateFiles(Path.Combine(ArchitectureTests.Root, "web", "src"), "*.*", SearchOption.AllDirectories)
                .Where(f => (f.EndsWith(".vue", StringComparison.Ordinal) || f.EndsWith(".ts", StringComparison.Ordinal)) && !f.EndsWith(".test.ts", StringComparison.Ordinal) && !f.EndsWith("schema.d.ts", StringComparison.Ordinal)));
    }

    [Fact]
    public void Nothing_that_is_shown_uses_a_discouraged_word()
    {
        var discouraged = Discouraged();
        Assert.True(discouraged.Count > 25);
        var found = Sources().SelectMany(file => Shown(file).SelectMany(shown => discouraged.Where(d => d.IsMatch(shown)).Select(d => $"{Path.GetFileName(file)}: '{shown}' ({d})")));
        Assert.Empty(found);
    }

    [Theory]
    [InlineData("<button class=\"link\">Not yet</button>")]
    [InlineData("throw new PlainProblem(\"Put it right, or  leave it.\");")]
    [InlineData("const words = `Chase ${name}`")]
    public void A_discouraged_word_is_found_where_it_is_shown(string source)
    {
        var file = Path.GetTempFileName();
        File.WriteAllText(file, source);
        var shown = Shown(file).ToList();
        File.Delete(file);
        Assert.Contains(Discouraged().Append(new Regex("leave\\s+it", RegexOptions.IgnoreCase)), d => shown.Any(d.IsMatch));
    }
}
