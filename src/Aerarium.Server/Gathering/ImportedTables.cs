using System.Text.RegularExpressions;

namespace Aerarium.Server.Gathering;

/// <summary>Something in an imported table.</summary>
/// <param name="Row">Row of the file as a spreadsheet numbers it.</param>
/// <param name="Column">Heading of the column.</param>
/// <param name="Value">What stands there.</param>
/// <param name="Message">What is wrong, and what to do.</param>
public sealed record ImportRemark(int Row, string Column, string? Value, string Message);

/// <summary>What imports ask of a table that was read.</summary>
internal static partial class ImportedTables
{
    /// <summary>A heading as it is compared: letters and digits count, nothing else.</summary>
    public static string Plain(string heading) => string.Concat(heading.ToLowerInvariant().Where(char.IsAsciiLetterOrDigit));

    /// <summary>
    /// Amounts with a comma before the cents, read as amounts with a point: done when at least one amount shows it beyond doubt
    /// (1.234,56 or 12,5) and none shows the opposite.
    /// </summary>
    /// <exception cref="PlainProblem">Some amounts show one way and some the other.</exception>
    public static Func<string, string> DecimalMark(IEnumerable<string> amounts)
    {
        var (comma, point) = ((string?)null, (string?)null);
        foreach (var amount in amounts)
        {
            comma ??= CommaDecimal().IsMatch(amount) ? amount : null;
            point ??= PointDecimal().IsMatch(amount) ? amount : null;
        }

        if (comma is not null && point is not null)
        {
            throw PlainProblem.Refused($"Some amounts have a comma before the cents ({comma}), others a point ({point}). Use one of them throughout.");
        }

        return comma is null ? text => text : text => AmountLike().IsMatch(text) ? text.Replace(".", "", StringComparison.Ordinal).Replace(',', '.') : text;
    }

    [GeneratedRegex(@"^-?[0-9]{1,3}(\.[0-9]{3})+,[0-9]{1,2}$|^-?[0-9]+,[0-9]{1,2}$|^-?[0-9]{1,3}(\.[0-9]{3}){2,}$")]
    private static partial Regex CommaDecimal();

    [GeneratedRegex(@"^-?[0-9]{1,3}(,[0-9]{3})+\.[0-9]{1,2}$|^-?[0-9]+\.[0-9]{1,2}$|^-?[0-9]{1,3}(,[0-9]{3}){2,}$")]
    private static partial Regex PointDecimal();

    [GeneratedRegex(@"^-?[0-9.,]+$")]
    private static partial Regex AmountLike();
}
