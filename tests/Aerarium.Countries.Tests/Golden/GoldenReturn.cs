using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Filing;

namespace Aerarium.Countries.Tests.Golden;

/// <summary>A return whose figures were looked at once and are to stay.</summary>
/// <param name="Entries">What is entered.</param>
/// <param name="Figures">Every computed figure that is not zero, by line, for columns with the row.</param>
/// <param name="Findings">Ids of its findings, with the row.</param>
/// <param name="EReturn">SHA-256 of its e-return.</param>
/// <param name="Everything">Hash of every value, also of those left out above.</param>
internal sealed record GoldenCase(EntrySet Entries, SortedDictionary<string, string> Figures, List<string> Findings, string EReturn, string Everything);

/// <summary>One entry of a case at other values: two neighbouring ones between which a rule goes the other way, or one at which something is seen that no case shows.</summary>
/// <param name="Rule">The line or finding the rule belongs to, or what is seen.</param>
/// <param name="Case">The case, from zero.</param>
/// <param name="Line">The entry.</param>
/// <param name="Row">Its row, or null.</param>
/// <param name="Values">The values; empty for a blank.</param>
/// <param name="Everything">Hash of everything at each.</param>
internal sealed record GoldenEdge(string Rule, int Case, string Line, string? Row, List<string> Values, List<string> Everything);

/// <summary>The golden returns of one definition.</summary>
/// <param name="Cases">Returns that together fill every line and take every rule each way it can go.</param>
/// <param name="Edges">The edges of the rules, as far as one entry leads over them.</param>
internal sealed record GoldenFile(List<GoldenCase> Cases, List<GoldenEdge> Edges)
{
    public static readonly DateOnly Day = new(2026, 6, 18);

    private static readonly JsonSerializerOptions Written = new(JsonSerializerDefaults.Web) { WriteIndented = true, IndentSize = 1, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public static string PathOf(Definition definition) => Path.Combine(
        RepositoryFolder(), "tests", "Aerarium.Countries.Tests", "Golden", definition.Id.Replace('/', Path.DirectorySeparatorChar), $"{definition.Year}{(definition.Period.Length > 0 ? $"-{definition.Period}" : "")}.json");

    public static GoldenFile Read(Definition definition) => JsonSerializer.Deserialize<GoldenFile>(File.ReadAllText(PathOf(definition)), Written)!;

    public void Write(Definition definition)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(PathOf(definition))!);
        File.WriteAllText(PathOf(definition), JsonSerializer.Serialize(this, Written).ReplaceLineEndings("\n") + "\n");
    }

    /// <summary>What comes of a case by the rules of now.</summary>
    public static GoldenCase CaseOf(Definition definition, EntrySet entries)
    {
        var evaluation = definition.Evaluate(entries, Day);
        return new GoldenCase(
            entries,
            new SortedDictionary<string, string>(FrozenReturn.FiguresOf(evaluation).Where(f => f.Value != "0").ToDictionary(), StringComparer.Ordinal),
            [.. evaluation.Findings.Select(Named).Order(StringComparer.Ordinal)],
            Catalogue.TypeOf(definition.Id).EReturn is { } mapping ? Convert.ToHexStringLower(SHA256.HashData([.. Xmllint.FilesOf(mapping.Write(evaluation)).SelectMany(f => f)])) : "",
            Everything(evaluation));
    }

    /// <summary>The same edge with what comes of it by the rules of now.</summary>
    public GoldenEdge EdgeOf(Definition definition, GoldenEdge edge) =>
        edge with { Everything = [.. edge.Values.Select(value => Everything(definition.Evaluate(With(definition, Cases[edge.Case].Entries, edge.Line, edge.Row, value), Day)))] };

    /// <summary>Everything that is evaluated for it: the cases, and the cases with the other values.</summary>
    public IEnumerable<EntrySet> All(Definition definition) =>
        Cases.Select(c => c.Entries).Concat(Edges.SelectMany(e => e.Values.Select(value => With(definition, Cases[e.Case].Entries, e.Line, e.Row, value))));

    /// <summary>A copy of entries with another value at one place; a blank where the value is empty.</summary>
    public static EntrySet With(Definition definition, EntrySet entries, string line, string? row, string value)
    {
        if (row is null)
        {
            return value.Length > 0 ? entries.With(line, value) : new EntrySet { Values = entries.Values.Where(v => v.Key != line).ToDictionary(), Rows = entries.Rows };
        }

        var (table, name) = (definition.LineOf(line).Table!, definition.LineOf(line).Name);
        return entries.WithRows(table.Key, [.. entries.RowsOf(table.Key).Select(r => r.Id != row ? r : r with
        {
            Values = value.Length > 0 ? new(r.Values) { [name] = value } : r.Values.Where(v => v.Key != name).ToDictionary(),
        })]);
    }

    /// <summary>A hash over every value, what applies, every finding and what being late would add.</summary>
    public static string Everything(Evaluation evaluation)
    {
        var text = new StringBuilder();
        foreach (var value in evaluation.Values())
        {
            text.Append(CultureInfo.InvariantCulture, $"{value.Line}|{value.Row}|{value.Value}|{value.Open}\n");
        }

        foreach (var finding in evaluation.Findings)
        {
            text.Append(CultureInfo.InvariantCulture, $"{Named(finding)}|{finding.Severity}\n");
        }

        foreach (var deadline in evaluation.Deadlines)
        {
            text.Append(CultureInfo.InvariantCulture, $"{deadline.Act}|{deadline.Day:yyyy-MM-dd}|{deadline.SafeDay:yyyy-MM-dd}\n");
        }

        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())))[..16];
    }

    private static string Named(Finding finding) => finding.Row is null ? finding.Id : $"{finding.Id} {finding.Row}";

    private static string RepositoryFolder()
    {
        var folder = AppContext.BaseDirectory;
        while (!Directory.Exists(Path.Combine(folder, "src")))
        {
            folder = Path.GetDirectoryName(folder)!;
        }

        return folder;
    }
}
