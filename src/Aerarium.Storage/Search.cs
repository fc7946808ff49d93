using Microsoft.Data.Sqlite;

namespace Aerarium.Storage;

/// <summary>Words typed to find something: every one must stand in what is looked through, in any order.</summary>
internal static class Search
{
    private const int MostWords = 8;

    /// <summary>From this length on a word may have a typo; shorter ones are too much like others.</summary>
    private const int LongEnough = 5;

    private const string NearWord = "near_word";

    /// <summary>Conditions on a text of the database, one for each word.</summary>
    public static IEnumerable<string> Conditions(string text, string? typed, bool typos) =>
        Words(typed).Select((_, i) => typos ? $"{NearWord}({text}, @typed{i})" : $"{text} LIKE @word{i} ESCAPE '\\'");

    /// <summary>Adds the values such conditions name.</summary>
    public static void Add(Dapper.DynamicParameters values, string? typed)
    {
        var words = Words(typed);
        for (var i = 0; i < words.Count; i++)
        {
            values.Add($"typed{i}", words[i]);
            values.Add($"word{i}", $"%{words[i].Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal)}%");
        }
    }

    /// <summary>Lets a connection ask whether a text holds a word, or, when it is long enough, a word that begins like it but for one typo.</summary>
    public static void Teach(SqliteConnection connection) =>
        connection.CreateFunction(NearWord, (string text, string word) => Holds(text, word), isDeterministic: true);

    private static IReadOnlyList<string> Words(string? typed) =>
        [.. (typed ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Take(MostWords)];

    private static bool Holds(string text, string word) =>
        text.Contains(word, StringComparison.OrdinalIgnoreCase)
        || (word.Length >= LongEnough && text.Split([' ', ',', '-', '\''], StringSplitOptions.RemoveEmptyEntries).Any(w => BeginsNear(w.ToUpperInvariant(), word.ToUpperInvariant())));

    /// <summary>Whether a text begins with a word in which one letter is wrong, missing, too many, or changed places with the next.</summary>
    private static bool BeginsNear(string text, string word)
    {
        var same = 0;
        while (same < text.Length && same < word.Length && text[same] == word[same])
        {
            same++;
        }

        var (left, right) = (text[same..], word[same..]);
        bool Begins(int skipped, string rest) => left.Length >= skipped && left[skipped..].StartsWith(rest, StringComparison.Ordinal);
        return right.Length == 0
            || Begins(1, right[1..])
            || Begins(0, right[1..])
            || Begins(1, right)
            || (left.Length > 1 && right.Length > 1 && left[0] == right[1] && left[1] == right[0] && Begins(2, right[2..]));
    }
}
