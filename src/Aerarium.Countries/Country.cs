using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Identifiers;
using Aerarium.Filing;

namespace Aerarium.Countries;

/// <summary>A particular kept once, with a client or with the practice, and followed by lines of returns or by the authority.</summary>
/// <param name="Name">Stable name, kebab-case; lines follow it under this name.</param>
/// <param name="Label">What it is called.</param>
/// <param name="Hint">Where it is found, or what it is for.</param>
/// <param name="Rule">The rule of an identifier, or null for a text.</param>
/// <param name="Choices">The codes it is chosen from, or null for a text.</param>
/// <param name="Mandatory">Whether returns cannot be filed without it.</param>
public sealed record Particular(
    string Name, string Label, string? Hint = null, IdentifierRule? Rule = null, IReadOnlyList<Choice>? Choices = null, bool Mandatory = false);

/// <summary>Particulars that every country keeps about its clients besides its own.</summary>
public static class CommonParticulars
{
    /// <summary>How the client wants the authority's notices.</summary>
    public static readonly Particular Notices = new(
        "notices", "Notices of the authority", "as the client wishes", null, [new("electronic", "Electronically"), new("paper", "On paper")]);
}

/// <summary>Particulars of the practice that a country offers besides its own.</summary>
public static class PracticeChoices
{
    /// <summary>How figures are written in returns of the country.</summary>
    public static readonly Particular Numbers = new(
        "numbers", "Figures are written", "typed, shown and printed, in all returns of the country", null, [new("point", "1,234.56"), new("comma", "1.234,56")]);
}

/// <summary>For how long records of a return are kept before they may be deleted.</summary>
/// <param name="Years">Years after the day the return was filed.</param>
/// <param name="Source">Statute and section.</param>
/// <param name="Confidence">How sure we are.</param>
public sealed record Retention(int Years, string Source, Confidence Confidence);

/// <summary>An authority returns go to.</summary>
/// <param name="Name">What it is called on screen; simulated.</param>
/// <param name="Collection">Where tax is paid to.</param>
public sealed record Authority(string Name, Creditor Collection);

/// <summary>A country: whom it registers, what is kept about clients and practice besides the common particulars, and for how long.</summary>
/// <param name="Code">ISO 3166 code, lower case.</param>
/// <param name="Name">Name.</param>
/// <param name="IndividualIdentifier">Rule of an individual taxpayer's identifier.</param>
/// <param name="CompanyIdentifier">Rule of a company's identifier.</param>
/// <param name="OfIndividuals">Particulars of individuals, besides the common ones.</param>
/// <param name="OfCompanies">Particulars of companies, besides the common ones.</param>
/// <param name="OfPractice">Particulars of the practice that its returns need.</param>
/// <param name="Retention">How long records are kept.</param>
/// <param name="Collection">Where tax is paid to; of the simulated authority.</param>
/// <param name="Returns">The returns that can be prepared; the first is the usual one.</param>
public sealed record Country(
    string Code,
    string Name,
    IdentifierRule IndividualIdentifier,
    IdentifierRule CompanyIdentifier,
    IReadOnlyList<Particular> OfIndividuals,
    IReadOnlyList<Particular> OfCompanies,
    IReadOnlyList<Particular> OfPractice,
    Retention Retention,
    Creditor Collection,
    IReadOnlyList<ReturnType> Returns)
{
    /// <summary>The country's own authority.</summary>
    public Authority Authority => new($"Authority of {Article}{Name}", Collection);

    /// <summary>What stands before the name in a sentence, with its blank; nothing for most.</summary>
    public string Article { get; init; } = "";

    /// <summary>In which order dates are written in figures.</summary>
    public DateOrder Dates { get; init; } = DateOrder.DayFirst;
}
