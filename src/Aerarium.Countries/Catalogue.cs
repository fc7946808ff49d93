using System.Collections.Concurrent;
using Aerarium.Core.Definitions;
using Aerarium.Countries.Kenya;
using Aerarium.Countries.Kenya.EmploymentIncome;
using Aerarium.Countries.Kenya.Parameters;
using Aerarium.Countries.Philippines;
using Aerarium.Countries.Philippines.IndividualAnnual;
using Aerarium.Countries.Philippines.Parameters;
using Aerarium.Filing;

namespace Aerarium.Countries;

/// <summary>A return type that can be prepared.</summary>
/// <param name="Id">Country and return.</param>
/// <param name="Title">Title.</param>
/// <param name="Country">ISO 3166 code of the country, lower case.</param>
/// <param name="FiledBy">Who files it: individual or company.</param>
/// <param name="Years">Tax years covered.</param>
/// <param name="Create">Builds the definition of a year.</param>
/// <param name="EReturn">How it is written as an e-return.</param>
/// <param name="Record">How what the authority holds is read.</param>
public sealed record ReturnType(
    string Id, string Title, string Country, string FiledBy, IReadOnlyList<int> Years, Func<int, Definition> Create, IEReturnMapping EReturn, IAuthorityRecord Record);

/// <summary>The countries, their returns and their identifiers; definitions are built once and kept.</summary>
public static class Catalogue
{
    private static readonly ConcurrentDictionary<(string Id, int Year), Definition> Built = new();

    /// <summary>Every return type.</summary>
    public static readonly IReadOnlyList<ReturnType> Returns =
    [
        new(EmploymentIncomeReturn.ReturnId, "Kenya, employee's return", "ke", "individual", EmploymentIncomeLaw.Years, year => new EmploymentIncomeReturn(year), new EmploymentIncomeEReturn(), EmployerCertificates.Record),
        new(IndividualAnnualReturn.ReturnId, "Philippines, annual return of an individual", "ph", "individual", IncomeTaxLaw.Years, year => new IndividualAnnualReturn(year), new IndividualAnnualEReturn(), CompensationCertificates.Record),
    ];

    /// <summary>The countries by code.</summary>
    public static readonly IReadOnlyDictionary<string, Country> Countries = new[] { KenyaCountry.Country, PhilippinesCountry.Country }.ToDictionary(c => c.Code);

    /// <summary>The code of the country a return belongs to.</summary>
    public static string CountryOf(string definition) => definition.Split('/')[0];

    /// <summary>The definition of a return for a year, or null with a message that says what is covered.</summary>
    public static Definition? Find(string id, int year, out string? problem)
    {
        var type = Returns.FirstOrDefault(r => r.Id == id);
        if (type is null)
        {
            problem = $"There is no return '{id}'; the returns are {string.Join(", ", Returns.Select(r => r.Id))}.";
            return null;
        }

        if (!type.Years.Contains(year))
        {
            problem = $"'{id}' is not covered for {year}; the years are {string.Join(", ", type.Years)}.";
            return null;
        }

        problem = null;
        return Built.GetOrAdd((id, year), key => type.Create(key.Year));
    }

    /// <summary>The definition of a return for a year.</summary>
    /// <exception cref="KeyNotFoundException">There is none; the message says what is covered.</exception>
    public static Definition Get(string id, int year) => Find(id, year, out var problem) ?? throw new KeyNotFoundException(problem);
}
