namespace Aerarium.Core.Definitions;

/// <summary>A code of a named list, in use from a year to a year.</summary>
/// <param name="Code">The code, as it is stored and sent.</param>
/// <param name="Label">What it stands for.</param>
/// <param name="From">First year of use; null for always.</param>
/// <param name="To">Last year of use; null while it is in use.</param>
public sealed record ListedCode(string Code, string Label, int? From = null, int? To = null)
{
    /// <summary>Whether the code is in use in a year.</summary>
    public bool IsIn(int year) => (From ?? year) <= year && (To ?? year) >= year;
}

/// <summary>A named list of codes that lines share. A line offers those of its return's year, found by any word of their labels or part of their numbers.</summary>
/// <param name="Name">What the list is called.</param>
/// <param name="Codes">The codes of all years.</param>
public sealed record CodeList(string Name, IReadOnlyList<ListedCode> Codes)
{
    /// <summary>Beginnings of codes that belong to another list, each with a sentence that says so: companies' codes where individuals' are asked for.</summary>
    public IReadOnlyDictionary<string, string> OfOthers { get; init; } = new Dictionary<string, string>();

    /// <summary>The codes in use in a year.</summary>
    /// <exception cref="RuleException">The list has none for the year.</exception>
    public IReadOnlyList<Choice> For(int year) => Codes.Where(c => c.IsIn(year)).Select(c => new Choice(c.Code, c.Label)).ToList() is { Count: > 0 } found
        ? found
        : throw new RuleException($"The list '{Name}' has no code for {year}.");

    /// <summary>Why a text cannot be a code of this list although it looks like one, or null.</summary>
    public string? Misplaced(string text) =>
        OfOthers.FirstOrDefault(o => text.StartsWith(o.Key, StringComparison.OrdinalIgnoreCase)).Value;
}
