using Aerarium.Core.Engine;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>Keys of the lines of one column, for writing it into an e-return.</summary>
/// <param name="evaluation">The return.</param>
/// <param name="suffix">What the keys of the column's forms end with.</param>
/// <param name="questions">What the keys of its questions in Scope begin with.</param>
internal sealed class ColumnKeys(Evaluation evaluation, string suffix, string questions)
{
    /// <summary>Whether it is the taxpayer's own.</summary>
    public bool IsTaxpayer => suffix.Length == 0;

    /// <summary>The key of a line or section of the column, given the taxpayer's.</summary>
    public string Key(string key)
    {
        var form = key.IndexOf('.', StringComparison.Ordinal);
        return $"{key[..form]}{suffix}{key[form..]}";
    }

    /// <summary>Whether a question of the column is answered yes.</summary>
    public bool Answered(string question) => evaluation.Value(evaluation.Definition.LineOf(questions + question)) == "yes";
}
