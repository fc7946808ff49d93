using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Common.Accounts;

/// <summary>On which side of the books an item grows.</summary>
public enum Side
{
    /// <summary>Assets, costs, distributions.</summary>
    Debit,

    /// <summary>Liabilities, equity, revenue.</summary>
    Credit,
}

/// <summary>A line of the statements: an item that accounts go to, or a total of other lines.</summary>
/// <param name="Code">Its published code.</param>
/// <param name="Label">What it is called.</param>
public abstract record StatementLine(string Code, string Label)
{
    /// <summary>Name of its line in a form.</summary>
    public string Name => $"item-{Code}";
}

/// <summary>An item that accounts go to.</summary>
/// <param name="Code">Its published code.</param>
/// <param name="Label">What it is called.</param>
/// <param name="Side">On which side it grows; it is shown positive when its balance stands there.</param>
public sealed record StatementItem(string Code, string Label, Side Side) : StatementLine(Code, Label);

/// <summary>A total of other lines; no account goes to it.</summary>
/// <param name="Code">Its published code.</param>
/// <param name="Label">What it is called.</param>
/// <param name="Added">Codes of the lines that are added.</param>
/// <param name="Subtracted">Codes of the lines that are taken off.</param>
public sealed record StatementTotal(string Code, string Label, IReadOnlyList<string> Added, IReadOnlyList<string> Subtracted) : StatementLine(Code, Label)
{
    /// <summary>How it is ruled off.</summary>
    public LineRule Rule { get; init; } = LineRule.Subtotal;
}

/// <summary>A heading of the statements and the lines under it.</summary>
/// <param name="Title">The heading.</param>
/// <param name="Lines">Its lines, in the order in which they are read.</param>
public sealed record StatementSection(string Title, IReadOnlyList<StatementLine> Lines);

/// <summary>A country's published items of the financial statements, and the codes that say whether these hold together.</summary>
/// <param name="Name">What the list is called.</param>
/// <param name="Source">Where it is published.</param>
/// <param name="Sections">Balance sheet first, then income statement.</param>
public sealed record Chart(string Name, string Source, IReadOnlyList<StatementSection> Sections)
{
    /// <summary>Code of the total of the assets.</summary>
    public required string Assets { get; init; }

    /// <summary>Code of the total of liabilities and equity.</summary>
    public required string LiabilitiesAndEquity { get; init; }

    /// <summary>Code of the profit of the period.</summary>
    public required string Profit { get; init; }

    /// <summary>Code of the earnings retained at the beginning of the period.</summary>
    public required string OpeningRetained { get; init; }

    /// <summary>Code of the earnings retained at its end.</summary>
    public required string ClosingRetained { get; init; }

    /// <summary>Where a difference goes that comes from rounding each item to whole units.</summary>
    public required string RoundingPlacedIn { get; init; }

    /// <summary>All lines.</summary>
    public IEnumerable<StatementLine> Lines => Sections.SelectMany(s => s.Lines);

    /// <summary>The items accounts go to.</summary>
    public IEnumerable<StatementItem> Items => Lines.OfType<StatementItem>();

    /// <summary>The items as a list of codes.</summary>
    public CodeList Codes => new(Name, [.. Items.Select(i => new ListedCode(i.Code, $"{i.Code} {i.Label}"))]);
}
