using System.Globalization;
using System.Text;
using Aerarium.Storage;

namespace Aerarium.Server.Clients;

/// <summary>
/// Finds clients who may be the same as one that is about to be added: the same words of the name in any order, without
/// accents and marks; or the same date of birth and a name that differs by at most two letters.
/// </summary>
internal sealed class NearDuplicates
{
    private const int MostLettersApart = 2;

    private readonly ILookup<string, ClientNameRecord> _byKey;
    private readonly ILookup<string, ClientNameRecord> _byBirth;

    public NearDuplicates(IReadOnlyList<ClientNameRecord> clients)
    {
        _byKey = clients.ToLookup(c => Key(c.Name));
        _byBirth = clients.Where(c => c.BirthDate is not null).ToLookup(c => c.BirthDate!);
    }

    /// <summary>A client that may be the same, or null; different dates of birth tell two people of one name apart.</summary>
    public ClientNameRecord? Find(string name, string? birthDate)
    {
        var key = Key(name);
        return _byKey[key].FirstOrDefault(c => c.BirthDate is null || birthDate is null || c.BirthDate == birthDate)
            ?? (birthDate is null ? null : _byBirth[birthDate].FirstOrDefault(c => LettersApart(Key(c.Name), key) <= MostLettersApart));
    }

    /// <summary>The words of a name in alphabetical order, lower case, without accents, marks or signs.</summary>
    private static string Key(string name)
    {
        var plain = new StringBuilder();
        foreach (var letter in name.ToLowerInvariant().Normalize(NormalizationForm.FormD))
        {
            plain.Append(char.IsLetterOrDigit(letter) ? letter : CharUnicodeInfo.GetUnicodeCategory(letter) == UnicodeCategory.NonSpacingMark ? "" : " ");
        }

        return string.Join(' ', plain.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries).Order(StringComparer.Ordinal));
    }

    /// <summary>Letters to change, add or leave out to make one text of the other (Levenshtein, 1965).</summary>
    private static int LettersApart(string left, string right)
    {
        var row = Enumerable.Range(0, right.Length + 1).ToArray();
        for (var i = 1; i <= left.Length; i++)
        {
            var diagonal = row[0];
            row[0] = i;
            for (var j = 1; j <= right.Length; j++)
            {
                var above = row[j];
                row[j] = Math.Min(Math.Min(row[j] + 1, row[j - 1] + 1), diagonal + (left[i - 1] == right[j - 1] ? 0 : 1));
                diagonal = above;
            }
        }

        return row[^1];
    }
}
