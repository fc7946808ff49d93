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

    /// <summary>Computes a return of 2022 to 2025 from its entries.</summary>
    public static Result Compute(int year, EntrySet entries)
    {
        bool Scope(string question) => entries.Values.GetValueOrDefault($"scope.{question}") == "yes";
        bool Reads(string line, string code) => year == 2024 && Scope("readings") && entries.Values.GetValueOrDefault($"readings.{line}") == code;
        var employers = entries.RowsOf("employment.employers");
        var cars = Scope("employer-car") ? entries.RowsOf("employment.cars") : [];
        var minorLimit = year == 2025 || Reads("minor-benefits", "after") ? 60_000m : 36_000m;
        var rentsAlone = Scope("readings") && entries.Values.GetValueOrDefault("readings.housing-share") == "rents";
        var meals = Scope("employer-benefits") ? MealsTaxed(employers, year == 2025 ? 60_000 : 48_000) : new decimal[employers.Count];
        var minorTotal = employers.Sum(e => Money(e, "minor-benefits"));
        decimal gross = 0;
        for (var index = 0; index < employers.Count; index++)
        {
            gross += GrossOf(employers[index], index, cars, minorTotal >= minorLimit, Scope("employer-housing"), rentsAlone,
                Scope("employer-benefits") ? meals[index] + BenefitsByCost(employers[index], Scope("employer-housing") && employers[index].Values.GetValueOrDefault("housing-class") == "agricultural") : 0);
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
        var pension = Math.Min(own, Math.Min(Cents(0.30m * employers.Sum(e => Money(e, "pensionable-pay"))),
            year == 2025 || Reads("pension-limit", "after") ? 360_000 : year < 2024 || Reads("pension-limit", "before") ? 240_000 : 250_000));
        var interest = Scope("mortgage") ? entries.RowsOf("deductions.loans").Sum(l => Money(l, "interest")) : 0;
        var mortgage = Math.Min(interest, year == 2025 || Reads("mortgage-limit", "after") ? 360_000 : year < 2024 || Reads("mortgage-limit", "before") ? 300_000 : 305_000);
        var oldInDecember = Reads("december", "before");
        var funds = Scope("medical-fund") && year >= 2024 ? entries.RowsOf("deductions.medical-funds") : [];
        var medical = oldInDecember ? 0 : year == 2024
            ? Math.Min(funds.Sum(f => Money(f, "contributions-december")), 15_000)
            : Math.Min(funds.Sum(f => Money(f, "contributions")), 180_000);
        var social = oldInDecember || year < 2024 ? 0 : year == 2024
            ? employers.Sum(e => Money(e, "health-insurance-december") + Money(e, "housing-levy-december"))
            : employers.Sum(e => Money(e, "health-insurance") + Money(e, "housing-levy"));
        var deductions = pension + mortgage + medical + social;
        var taxable = Math.Max(0, income - deductions);
        var tax = Cents(Tax(year, taxable));

        var premiums = Scope("insurance") ? entries.RowsOf("tax.policies").Sum(p => Money(p, "premium")) : 0;
        decimal reliefs = 28_800;
        if (year <= 2024)
        {
            premiums += decimal.Parse(entries.Values.GetValueOrDefault("tax.hospital-fund") ?? "0", CultureInfo.InvariantCulture);
        }

        if (year == 2024)
        {
            decimal WithDecember(IEnumerable<EntryRow> rows, string before, string december) => rows.Sum(r => Money(r, before) + (oldInDecember ? Money(r, december) : 0));
            premiums += Reads("health-insurance", "no-relief") ? 0 : WithDecember(employers, "health-insurance-before-december", "health-insurance-december");
            reliefs += Math.Min(Cents(0.15m * WithDecember(employers, "housing-levy-before-december", "housing-levy-december")), 108_000);
            reliefs += Math.Min(Cents(0.15m * WithDecember(funds, "contributions-before-december", "contributions-december")), 60_000);
        }

        reliefs += Math.Min(Cents(0.15m * premiums), 60_000);
        var net = Math.Max(0, tax - reliefs);
        var paid = employers.Sum(e => Money(e, "tax-deducted")) + (Scope("other-tax-paid") ? entries.RowsOf("balance.payments").Sum(p => Money(p, "amount")) : 0);
        return new Result(gross, income, deductions, taxable, tax, net, net - paid);
    }

    private static decimal[] MealsTaxed(IReadOnlyList<EntryRow> employers, decimal exempt)
    {
        var taxed = new decimal[employers.Count];
        foreach (var (e, index) in employers.Select((e, index) => (e, index)).OrderBy(e => e.e.Values.ContainsKey("first-month") ? Money(e.e, "first-month") : 1))
        {
            var free = Math.Min(exempt, Money(e, "meals"));
            exempt -= free;
            taxed[index] = Money(e, "meals") - free;
        }

        return taxed;
    }

    private static decimal BenefitsByCost(EntryRow e, bool agricultural) =>
        Cents(0.01m * Money(e, "furniture-cost") * (e.Values.ContainsKey("furniture-months") ? Money(e, "furniture-months") : Money(e, "months")))
        + Cents(0.30m * Money(e, "telephone-bill"))
        + Math.Max((agricultural ? 900 : 1_500) * Money(e, "electricity-months"), Money(e, "electricity-cost"))
        + Math.Max((agricultural ? 200 : 500) * Money(e, "water-months"), Money(e, "water-cost"))
        + Money(e, "domestic-staff")
        + Math.Max(0, Money(e, "subsistence") - (2_000 * Money(e, "subsistence-days")) - (10_000 * Money(e, "subsistence-days-from-july")));

    private static decimal GrossOf(EntryRow e, int index, IReadOnlyList<EntryRow> cars, bool minorTaxed, bool housing, bool rentsAlone, decimal benefits)
    {
        string[] cash = ["basic-pay", "house-allowance", "transport-allowance", "leave-allowance", "overtime", "bonus", "commission", "other-allowances"];
        var pay = cash.Sum(c => Money(e, c)) + Money(e, "other-benefits") + (minorTaxed ? Money(e, "minor-benefits") : 0) + benefits;
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
        var best = rentsAlone && housed == "ordinary" && arrangement != "lease" ? 0 : Cents(0.15m * (portion + (housed == "other-director" ? Money(e, "director-other-income") : 0)));
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
        return car.Values.ContainsKey("determined-value") ? Math.Min(Money(car, "determined-value"), ValueOf(car)) : ValueOf(car);
    }

    private static decimal ValueOf(EntryRow car)
    {
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

    private static decimal Tax(int year, decimal taxable)
    {
        decimal tax = 0;
        (decimal From, decimal To, decimal Rate)[] bands =
            [
                (0, 288_000, 10), (288_000, 388_000, 25), (388_000, 6_000_000, 30),
                (6_000_000, 9_600_000, year switch { 2022 => 30, 2023 => 31.25m, _ => 32.5m }), (9_600_000, decimal.MaxValue, year switch { 2022 => 30, 2023 => 32.5m, _ => 35 }),
            ];
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
