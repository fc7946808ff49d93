using Aerarium.Countries.Barbados.Individual;

namespace Aerarium.Countries.Tests;

/// <summary>Cases of Barbados' return of a resident individual.</summary>
public sealed class BarbadosCase : ReturnCase<BarbadosCase>
{
    public BarbadosCase(int year)
        : base(Catalogue.Get(IndividualReturn.ReturnId, year), new DateOnly(year + 1, 3, 1)) =>
        With("scope.resident", "yes").With("scope.domiciled", "yes").With("taxpayer.birth-date", "1980-05-06").With("taxpayer.national-registration", "800506-0001");

    /// <summary>An employer's certificate.</summary>
    public BarbadosCase Employer(decimal pay, decimal tax = 0, decimal benefits = 0) => Scope("employment").Row(
        "employment.employers", ("number", $"E{Entries.RowsOf("employment.employers").Count}"), ("name", "Observatory"), ("pay", pay), ("benefits", benefits), ("tax-deducted", tax));

    /// <summary>A pension certificate.</summary>
    public BarbadosCase Pension(decimal amount, decimal tax = 0) => Scope("pension").Row(
        "pensions.pensions", ("payer", $"Fund {Entries.RowsOf("pensions.pensions").Count}"), ("amount", amount), ("tax-deducted", tax));

    /// <summary>A business with one expense.</summary>
    public BarbadosCase Business(decimal turnover, decimal expenses)
    {
        Scope("business").Row("business.businesses", ("description", $"Trade {Entries.RowsOf("business.businesses").Count}"), ("kind", "trade"), ("turnover", turnover));
        return Row("business.expenses", ("of", Entries.RowsOf("business.businesses").Count), ("class", "other"), ("amount", expenses));
    }

    /// <summary>Energy-saving works in a year of the claim.</summary>
    public BarbadosCase Energy(int claimYear, decimal cost) => Scope("energy").With("deductions.energy-year", claimYear)
        .Row("deductions.energy-works", ("supplier", "Solar"), ("kind", "retrofit"), ("cost", cost));

    /// <summary>A source abroad in Barbados dollars.</summary>
    public BarbadosCase Abroad(decimal income, decimal tax, decimal? rate = null) => Scope("foreign").Row(
        "foreign.items", [("country", "Elsewhere"), ("kind", "other"), ("amount", income), ("tax", tax), .. rate is { } r ? [("exchange-rate", (object)r)] : Array.Empty<(string, object)>()]);

    /// <summary>A property let.</summary>
    public BarbadosCase Property(decimal rent, decimal taxed) => Scope("rental").Row("rental.properties", ("address", "Lane"), ("rent", rent), ("taxed", taxed));
}
