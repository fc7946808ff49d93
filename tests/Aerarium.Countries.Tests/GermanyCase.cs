using Aerarium.Countries.Germany.Individual;

namespace Aerarium.Countries.Tests;

/// <summary>Cases of Germany's return of an employee.</summary>
public sealed class GermanyCase : ReturnCase<GermanyCase>
{
    private readonly int _year;

    public GermanyCase(int year, string state = "he")
        : base(Catalogue.Get(IndividualReturn.ReturnId, year), new DateOnly(year + 1, 3, 1))
    {
        _year = year;
        With("scope.resident", "yes").With("scope.state", state).With("scope.family", "single").With("scope.advised", "yes").With("scope.first-return", "no")
            .With("taxpayer.birth-date", "1985-05-06").With("taxpayer.religion", "none");
    }

    /// <summary>A wage statement, of the taxpayer or the spouse.</summary>
    public GermanyCase Wages(decimal gross, decimal tax = 0, string whose = "", params (string, object)[] more) => Scope(whose.Length == 0 ? "employed" : "spouse-employed").Row(
        $"wages{whose}.statements",
        [("employer", $"Works {Entries.RowsOf($"wages{whose}.statements").Count}"), ("from", $"{_year}-01-01"), ("until", $"{_year}-12-31"), ("class", "1"), ("gross", gross), ("wage-tax", tax), .. more]);

    /// <summary>Assessed together with a spouse without church.</summary>
    public GermanyCase Couple() => With("scope.family", "married").Scope("joint").With("taxpayer.spouse-birth-date", "1987-08-09").With("taxpayer.spouse-religion", "none");

    /// <summary>A way to work.</summary>
    public GermanyCase Way(int days, decimal distance, decimal byCar = 0, decimal tickets = 0) => Scope("commuting").Row(
        "work-costs.ways", ("place", $"Place {Entries.RowsOf("work-costs.ways").Count}"), ("days", days), ("distance", distance), ("by-car", byCar), ("tickets", tickets));

    /// <summary>A child all year for whom the taxpayer has the whole allowance.</summary>
    public GermanyCase Child(string born = "2015-02-03", int months = 12, bool half = false) => Scope("children").Row(
        "children.children", ("name", $"Child {Entries.RowsOf("children.children").Count}"), ("number", "13141567822"), ("born", born), ("months", months), ("half", half ? "yes" : "no"));
}
