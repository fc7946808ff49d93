using Aerarium.Core.Definitions;

namespace Aerarium.Core.Entries;

/// <summary>Finds codes by what people remember of them: any word of the label, any part of the number.</summary>
public static class CodeSearch
{
    private const int Nearest = 3;

    /// <summary>The codes that have every typed word: as a beginning of a word of the label, or as a part of the code.</summary>
    public static IReadOnlyList<Choice> Find(IReadOnlyList<Choice> codes, string typed)
    {
        var wanted = Words(typed);
        return wanted.Count == 0 ? [] : [.. codes.Where(c => wanted.All(word => Has(c, word)))];
    }

    /// <summary>The three codes nearest to a text that is none, nearest first: those with most of its words, then those that differ in fewest letters.</summary>
    public static IReadOnlyList<Choice> NearestTo(IReadOnlyList<Choice> codes, string typed)
    {
        var wanted = Words(typed);
        return [.. codes.OrderByDescending(c => wanted.Count(word => Has(c, word))).ThenBy(c => wanted.Sum(word => Distance(c, word))).Take(Nearest)];
    }

    private static List<string> Words(string text) => [.. text.ToLowerInvariant().Split([' ', ',', ';', '-', '/'], StringSplitOptions.RemoveEmptyEntries)];

    private static bool Has(Choice choice, string word) =>
        choice.Code.Contains(word, StringComparison.OrdinalIgnoreCase) || Words(choice.Label).Any(w => w.StartsWith(word, StringComparison.Ordinal));

    private static int Distance(Choice choice, string word) => Words(choice.Label).Append(choice.Code.ToLowerInvariant()).Min(w => Distance(w, word));

    /// <summary>Letters put in, left out or replaced between two words (Levenshtein 1966).</summary>
    private static int Distance(string one, string other)
    {
        var row = Enumerable.Range(0, other.Length + 1).ToArray();
        for (var i = 1; i <= one.Length; i++)
        {
            var (corner, before) = (row[0], i);
            row[0] = i;
            for (var j = 1; j <= other.Length; j++)
            {
                before = Math.Min(Math.Min(row[j] + 1, before + 1), corner + (one[i - 1] == other[j - 1] ? 0 : 1));
                (corner, row[j]) = (row[j], before);
            }
        }

        return row[^1];
    }
}
