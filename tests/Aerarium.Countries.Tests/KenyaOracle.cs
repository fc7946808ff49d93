using System.Globalization;
using Aerarium.Core.Entries;

namespace Aerarium.Countries.Tests;

/// <summary>
/// The law sheet's computation (steps 1 to 14) written a second time, on its own, as plain C# over the raw entries: no
/// rule language, no parameters of the product. Whatever the engine makes of a return must agree with it to the cent.
/// </summary>
public static class KenyaOracle
{
    /// <summary>What the oracle computes.</summary>
    public sealed record Result(decimal Gross, decimal Income, decimal Deductions, decimal Taxable, decimal Tax, decimal Net, decimal Balance);

    /// <summary>Computes a return of 2024 or 2025 from its entries.</summary>
    public static Result Compute(int year, EntrySet entries)
    {
        bool Scope(string question) => entries.Values.GetValueOrDefault($"scope.{question}") == "yes";
        var employers = entries.RowsOf("employment.employers");
        var cars = Scope("employer-car") ? entries.RowsOf("employment.cars") : [];
        var minorLimit = year == 2024 ? 36_000m : 60_000m;
        var minorTotal = employers.Sum(e => Money(e, "minor-benefits"));
        decimal gross = 0;
        for (var index = 0; index < employers.Count; index++)
        {
            gross += GrossOf(employers[index], index, cars, minorTotal >= minorLimit, Scope("employer-housing"));
        }

        var income = gross;
        if (Scope("disability") && entries.Values.TryGetValue("employment.disability-from", out var from) && entries.Values.TryGetValue("employment.disability-to", out var to))
        {
            var first = Later(Day(from), new DateOnly(year, 1, 1));
            var last = Earlier(Day(to), new DateOnly(year, 12, 31));
            var months = last < first ? 0 : ((last.Year - first.Year) * 12) + last.Month - first.Month + 1;
            var care = decimal.Parse(entries.Values.GetValueOrDefault("employment.care-paid") ?? "0", CultureInfo.InvariantCulture);
            income = Math.Max(0, gross - Math.Min(gross, 150_000m * months) - Math.Min(care, 50_000m * months));
        }

        var own = employers.Sum(e => Money(e, "retirement-contributions"))
            + (Scope("retirement-outside-payroll") ? entries.RowsOf("deductions.funds").Sum(f => Money(f, "contributions")) : 0);
        var pension = Math.Min(own, Math.Min(Cents(0.30m * employers.Sum(e => Money(e, "pensionable-pay"))), year == 2024 ? 250_000 : 360_000));
        var interest = Scope("mortgage") ? entries.RowsOf("deductions.loans").Sum(l => Money(l, "interest")) : 0;
        var mortgage = Math.Min(interest, year == 2024 ? 305_000 : 360_000);
        var funds = Scope("medical-fund") ? entries.RowsOf("deductions.medical-funds") : [];
        var medical = year == 2024
            ? Math.Min(funds.Sum(f => Money(f, "contributions-december")), 15_000)
            : Math.Min(funds.Sum(f => Money(f, "contributions")), 180_000);
        var social = year == 2024
            ? employers.Sum(e => Money(e, "health-insurance-december") + Money(e, "housing-levy-december"))
            : employers.Sum(e => Money(e, "health-insurance") + Money(e, "housing-levy"));
        var deductions = pension + mortgage + medical + social;
        var taxable = Math.Max(0, income - deductions);
        var tax = Cents(Tax(taxable));

        var premiums = Scope("insurance") ? entries.RowsOf("tax.policies").Sum(p => Money(p, "premium")) : 0;
        decimal reliefs = 28_800;
        if (year == 2024)
        {
            premiums += employers.Sum(e => Money(e, "health-insurance-before-december"));
            reliefs += Math.Min(Cents(0.15m * employers.Sum(e => Money(e, "housing-levy-before-december"))), 108_000);
            reliefs += Math.Min(Cents(0.15m * funds.Sum(f => Money(f, "contributions-before-december"))), 60_000);
        }

        reliefs += Math.Min(Cents(0.15m * premiums), 60_000);
        var net = Math.Max(0, tax - reliefs);
        var paid = employers.Sum(e => Money(e, "tax-deducted")) + (Scope("other-tax-paid") ? entries.RowsOf("balance.payments").Sum(p => Money(p, "amount")) : 0);
        return new Result(gross, income, deductions, taxable, tax, net, net - paid);
    }

    private static decimal GrossOf(EntryRow e, int index, IReadOnlyList<EntryRow> cars, bool minorTaxed, bool housing)
    {
        string[] cash = ["basic-pay", "house-allowance", "transport-allowance", "leave-allowance", "overtime", "bonus", "commission", "other-allowances"];
        var pay = cash.Sum(c => Money(e, c)) + Money(e, "other-benefits") + (minorTaxed ? Money(e, "minor-benefits") : 0);
        foreach (var car in cars)
        {
            var provider = car.Values.GetValueOrDefault("provided-by") ?? "1";
            if (provider == $"{index + 1}")
            {
                pay += CarBenefit(car);
            }
        }

        if (!housing || e.Values.GetValueOrDefault("housing-class") is not { } housed)
        {
            return pay;
        }

        var worked = Math.Max(1, Money(e, "months"));
        var months = e.Values.ContainsKey("months-housed") ? Money(e, "months-housed") : worked;
        var portion = months < worked ? pay * months / worked : pay;
        if (housed == "agricultural")
        {
            return pay + Math.Max(0, Cents(0.10m * portion) - Money(e, "rent-by-employee"));
        }

        var arrangement = e.Values.GetValueOrDefault("housing-arrangement");
        var director = housed is "service-director" or "other-director";
        var best = Cents(0.15m * (portion + (housed == "other-director" ? Money(e, "director-other-income") : 0)));
        if (arrangement is "lease" or "related-lease")
        {
            best = Math.Max(best, Money(e, "rent-by-employer"));
        }

        if (arrangement is "owned" or "related-lease" || director)
        {
            best = Math.Max(best, Money(e, "market-rent"));
        }

        return pay + Math.Max(0, best - Money(e, "rent-by-employee"));
    }

    private static decimal CarBenefit(EntryRow car)
    {
        if (car.Values.ContainsKey("determined-value"))
        {
            return Money(car, "determined-value");
        }

        if (car.Values.GetValueOrDefault("arrangement") == "leased")
        {
            return Money(car, "lease-cost");
        }

        var cc = Money(car, "engine-cc");
        var fixedRate = car.Values.GetValueOrDefault("body") switch
        {
            "saloon" => cc <= 1200 ? 3_600 : cc <= 1500 ? 4_200 : cc <= 1750 ? 5_800 : cc <= 2000 ? 7_200 : cc <= 3000 ? 8_600 : 14_400,
            "pick-up" => cc <= 1750 ? 3_600 : 4_200,
            "utility" => 7_200,
            _ => 0m,
        };
        return Math.Max(fixedRate, Cents(0.02m * Money(car, "cost"))) * Money(car, "months");
    }

    private static decimal Tax(decimal taxable)
    {
        decimal tax = 0;
        (decimal From, decimal To, decimal Rate)[] bands =
            [(0, 288_000, 10), (288_000, 388_000, 25), (388_000, 6_000_000, 30), (6_000_000, 9_600_000, 32.5m), (9_600_000, decimal.MaxValue, 35)];
        foreach (var (from, to, rate) in bands)
        {
            if (taxable > from)
            {
                tax += (Math.Min(taxable, to) - from) * rate / 100;
            }
        }

        return tax;
    }

    private static decimal Cents(decimal amount) => Math.Round(amount, 2, MidpointRounding.AwayFromZero);

    private static decimal Money(EntryRow row, string column) =>
        row.Values.TryGetValue(column, out var text) ? decimal.Parse(text, CultureInfo.InvariantCulture) : 0;

    private static DateOnly Day(string text) => DateOnly.ParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static DateOnly Later(DateOnly left, DateOnly right) => left > right ? left : right;

    private static DateOnly Earlier(DateOnly left, DateOnly right) => left < right ? left : right;
}
