using System.Globalization;
using System.Text.RegularExpressions;

namespace Aerarium.StandIn;

/// <summary>
/// The schemas the authority publishes, one for each return and year. Years that differ in nothing but the year share a file, named by the
/// first and the last of them (<c>2018-2025.xsd</c>), in which <c>{year}</c> stands for the year.
/// </summary>
public sealed partial class PublishedSchemas
{
    private const string Year = "{year}";

    private readonly SortedDictionary<string, (string File, string? Year)> _files = new(StringComparer.Ordinal);

    /// <summary>The schemas in a folder.</summary>
    public PublishedSchemas(string folder)
    {
        foreach (var file in Directory.EnumerateFiles(folder, "*", SearchOption.AllDirectories))
        {
            var path = Path.GetRelativePath(folder, file).Replace('\\', '/');
            if (OfYears().Match(path) is not { Success: true } named)
            {
                _files.Add(path, (file, null));
                continue;
            }

            for (var year = Of(named, "first"); year <= Of(named, "last"); year++)
            {
                _files.Add($"{named.Groups["folder"]}{year}{named.Groups["ending"]}", (file, $"{year}"));
            }
        }
    }

    /// <summary>Paths of all schemas.</summary>
    public IEnumerable<string> Paths => _files.Keys;

    /// <summary>The text of a published schema, or null.</summary>
    public string? Text(string path) => !_files.TryGetValue(path, out var found) ? null
        : found.Year is null ? File.ReadAllText(found.File)
        : File.ReadAllText(found.File).Replace(Year, found.Year, StringComparison.Ordinal);

    private static int Of(Match named, string part) => int.Parse(named.Groups[part].ValueSpan, CultureInfo.InvariantCulture);

    [GeneratedRegex("^(?<folder>.*/)(?<first>[0-9]{4})-(?<last>[0-9]{4})(?<ending>[^/]*)$", RegexOptions.ExplicitCapture)]
    private static partial Regex OfYears();
}
