using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Canada.Company;

/// <summary>
/// Which returns belong together in time: a company has a return for each period, and a change of its year end can make a second period end in one calendar year (ITA 249.1).
/// </summary>
internal static class CompanyPeriods
{
    /// <summary>Another return of the same period.</summary>
    public static TiedReturn SamePeriod(this Definition definition, string id) => new(id, 0, definition.Period);

    /// <summary>A line of the federal return of the same period.</summary>
    public static TieSource Federal(this Definition definition, string line) => definition.SamePeriod(CompanyReturn.ReturnId).Line(line);

    /// <summary>A return of the period before: the first period of the same year, or the last one of the year before.</summary>
    public static TiedReturn PeriodBefore(this Definition definition, string id) =>
        definition.Period == Periods.Second ? new TiedReturn(id) : new TiedReturn(id, 1) { Latest = true };
}
