using Aerarium.Storage;

namespace Aerarium.Server.Demo;

/// <summary>How far a demonstration return has come.</summary>
public enum DemoStage
{
    /// <summary>Nothing entered.</summary>
    Untouched,

    /// <summary>As entered, perhaps with errors.</summary>
    Filled,

    /// <summary>Handed over.</summary>
    Waiting,

    /// <summary>Approved and built.</summary>
    Approved,

    /// <summary>Sent; the stand-in answers.</summary>
    Sent,
}

/// <summary>A row of a repeating section: column and what is typed.</summary>
public sealed record DemoRow(string Section, params (string Column, string Typed)[] Cells);

/// <summary>A demonstration return.</summary>
public sealed record DemoReturn(int Year, DemoStage Stage, (string Line, string Typed)[] Entries, params DemoRow[] Rows)
{
    /// <summary>Country and return; null for the first of the client's country.</summary>
    public string? Definition { get; init; }

    /// <summary>Period of the year.</summary>
    public string Period { get; init; } = Core.Definitions.Periods.WholeYear;

    /// <summary>The same, declared and sent.</summary>
    public DemoReturn Sent(string declarant, string day) => this with
    {
        Stage = DemoStage.Sent,
        Entries = [.. Entries, ("declaration.true-and-complete", "yes"), ("declaration.name", declarant), ("declaration.date", day)],
    };
}

/// <summary>A demonstration client; a company has no date of birth. Everybody and everything here is made up. Of returns that feed one another, the one fed is named first.</summary>
public sealed record DemoClient(string Pin, string Name, string? Group, string BirthDate, string Route, params DemoReturn[] Returns);

/// <summary>A country in the demonstration.</summary>
/// <param name="Country">Its code.</param>
/// <param name="Practice">What the practice keeps once for its returns.</param>
/// <param name="Particulars">What is kept about a client besides identifier, name, group, date of birth and e-mail address.</param>
/// <param name="Clients">The clients with their returns.</param>
public sealed record DemoCountry(
    string Country, IReadOnlyList<(string Name, string Value)> Practice, Func<DemoClient, ClientRecord, ClientRecord> Particulars, IReadOnlyList<DemoClient> Clients)
{
    /// <summary>Who is related to whom: somebody, as what, of whom.</summary>
    public IReadOnlyList<(string Pin, string Kind, string Of)> Relations { get; init; } = [];
}

/// <summary>The scenario of the demonstration: a practice by the sea and the people who work there.</summary>
public static class DemoReturns
{
    /// <summary>The countries, in the order in which their clients are added.</summary>
    public static readonly IReadOnlyList<DemoCountry> Countries = [DemoKenya.Country, DemoPhilippines.Country, DemoBarbados.Country];

    /// <summary>Countries whose clients come with the rest of the season; what the practice keeps for their returns is there from the beginning.</summary>
    public static readonly IReadOnlyList<DemoCountry> SeasonCountries = [DemoCanada.Country, DemoGermany.Country, DemoCompanies.Country];

    /// <summary>The declaration of a person.</summary>
    internal static (string, string)[] Declared(string name, string day = "2026-06-15") =>
    [
        ("declaration.true-and-complete", "yes"),
        ("declaration.name", name),
        ("declaration.capacity", "taxpayer"),
        ("declaration.date", day),
    ];

    /// <summary>An amount as it is typed.</summary>
    internal static string Text(decimal amount) => Core.Formulas.Figures.Canonical(amount);
}
