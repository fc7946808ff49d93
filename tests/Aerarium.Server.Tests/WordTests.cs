using System.Text.RegularExpressions;

namespace Aerarium.Server.Tests;

/// <summary>What is shown keeps to docs/words.md. A phrase that begins with a capital is looked for as it stands, as on a button.</summary>
public partial class WordTests
{
    [GeneratedRegex(@"^\| (?<say>[^|]+) \| (?<not>[^|]+) \|$", RegexOptions.Multiline)]
    private static partial Regex TableRow { get; }

    /// <summary>Texts in double quotes of C#; a quote that is a character is none.</summary>
    [GeneratedRegex(@"'(?:[^'\\]|\\.)'|""(?<shown>(?:[^""\\\n]|\\.)*)""")]
    private static partial Regex InCSharp { get; }

    /// <summary>Texts between tags, and texts in any quotes, of the front end.</summary>
    [GeneratedRegex(@">(?<shown>[^<>{}]*\p{L}[^<>{}]*)[<{]|""(?<shown>(?:[^""\\\n]|\\.)*)""|'(?<shown>(?:[^'\\\n]|\\.)*)'|`(?<shown>[^`\n]*)`")]
    private static partial Regex InFrontEnd { get; }

    [GeneratedRegex(@"^\s*//.*$|/\*.*?\*/|<!--.*?-->", RegexOptions.Multiline | RegexOptions.Singleline)]
    private static partial Regex Comment { get; }

    private static List<Regex> Discouraged() =>
        [.. TableRow.Matches(File.ReadAllText(Path.Combine(ArchitectureTests.Root, "docs", "words.md"))).Skip(1)
            .Select(m => m.Groups["not"].Value.Trim())
            .Select(words => words.StartsWith("{label}", StringComparison.Ordinal)
                ? new Regex($@"\}}{Spaced(words["{label}".Length..])}")
                : new Regex($@"(?<![\p{{L}}-]){Spaced(words)}(?![\p{{L}}-])", char.IsLower(words[0]) ? RegexOptions.IgnoreCase : RegexOptions.None))];

    private static string Spaced(string words) => Regex.Escape(words).Replace("\\ ", "\\s+", StringComparison.Ordinal);

    private static IEnumerable<string> Shown(string file)
    {
        var source = Comment.Replace(File.ReadAllText(file), m => m.Value.StartsWith('\n') ? "\n" : "");
        return (file.EndsWith(".cs", StringComparison.Ordinal) ? InCSharp : InFrontEnd).Matches(source).Select(m => m.Groups["shown"].Value.Trim())
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
        Assert.True(!found.Any(), string.Join("\n", found));
    }

    [Theory]
    [InlineData(".vue", "<button class=\"link\">Not yet</button>")]
    [InlineData(".ts", "const words = `Chase ${name}`")]
    [InlineData(".cs", "Of(x => x > 5, 'a', \"It is gone from  the rules.\")")]
    [InlineData(".cs", "Warn(\"id\", a < b, $\"{line.Label} is missing.\")")]
    public void A_discouraged_word_is_found_where_it_is_shown(string kind, string source) => Assert.True(Finds(kind, source));

    [Theory]
    [InlineData(".cs", "/// <summary>Leave it</summary>\nvar holder = 5;")]
    [InlineData(".cs", "Warn(\"id\", a, \"Check that nothing is missing.\")")]
    [InlineData(".vue", "<p>Go to Review</p>")]
    public void What_is_not_shown_or_means_something_else_is_left_alone(string kind, string source) => Assert.False(Finds(kind, source));

    private static bool Finds(string kind, string source)
    {
        var file = Path.ChangeExtension(Path.GetTempFileName(), kind);
        File.WriteAllText(file, source);
        var shown = Shown(file).ToList();
        File.Delete(file);
        return shown.Exists(text => Discouraged().Exists(d => d.IsMatch(text)));
    }
}
