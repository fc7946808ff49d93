using System.Text.RegularExpressions;

namespace Aerarium.Core.Identifiers;

/// <summary>The rule of an identifier: its pattern and, where one is published, its check digits.</summary>
/// <param name="Name">Stable name, kebab-case.</param>
/// <param name="Label">What it is called.</param>
/// <param name="Pattern">Regular expression over the normalised text.</param>
/// <param name="Message">What to tell somebody whose text breaks the rule: what is expected, with an example.</param>
/// <param name="Source">Where the rule comes from.</param>
public sealed record IdentifierRule(string Name, string Label, string Pattern, string Message, string Source)
{
    private readonly Regex _regex = new(Pattern, RegexOptions.CultureInvariant | RegexOptions.NonBacktracking);

    /// <summary>How its check digit is reckoned; null where it has none, or none is published.</summary>
    public CheckDigit? CheckDigit { get; init; }

    /// <summary>How many digits it has, where nothing but their number is asked; null for every other rule.</summary>
    public IReadOnlyList<int>? Digits { get; init; }

    /// <summary>Whether a normalised text satisfies the rule; blank does not.</summary>
    public bool Accepts(string? text) => text is not null && _regex.IsMatch(text) && (CheckDigit is null || CheckDigit.Holds(text));

    /// <summary>What is put after an identifier of so many characters that people leave the end off: the head office's branch code, for example. Null where nothing is left off.</summary>
    public (int Characters, string End)? LeftOff { get; init; }

    /// <summary>An identifier as registries write it, with the end people leave off.</summary>
    public string Complete(string typed) =>
        Normalise(typed) is var plain && LeftOff is { } end && plain.Length == end.Characters && Accepts(plain + end.End) ? plain + end.End : plain;

    /// <summary>An identifier as registries write it: no blanks, dashes or dots from copying, upper case.</summary>
    public static string Normalise(string typed) =>
        string.Concat(typed.Where(c => !char.IsWhiteSpace(c) && c is not ('-' or '.' or '\u200B' or '\u2011' or '\u2013'))).ToUpperInvariant();
}
