using Aerarium.Core.Engine;

namespace Aerarium.Countries.Tests;

/// <summary>
/// What is added to tax paid or filed late, and to instalments (ITA 161(1), (2), (2.1), (2.2), (4.01), 162(1), (2), 163.1). The prescribed rates are those of the sheet, from memory; the
/// expected amounts were compounded day by day by a program apart from this one.
/// </summary>
public class CanadaLateTests
{
    /// <summary>A return of Alberta with this balance: what is owed without tax deducted, less an instalment of the rest.</summary>
    private static CanadaCase Owing(int year, decimal balance, decimal pay = 80_000)
    {
        var owed = new CanadaCase(year, "ab").Exempt(pay).Evaluate().Balance;
        return new CanadaCase(year, "ab").Exempt(pay).Scope("instalments").Row("balance.instalments", ("date", $"{year}-12-15"), ("amount", owed - balance));
    }

    private static (decimal, decimal) Charges(Evaluation evaluation) => (evaluation.Amount("balance.late-filing-today"), evaluation.Amount("balance.interest-today"));

    [Theory]
    [InlineData(2025, "2026-04-30", 7_250, 0)]
    [InlineData(2025, "2026-05-01", 7_250, 1.39)]
    [InlineData(2025, "2026-06-18", 7_250, 68.44)]
    [InlineData(2025, "2026-06-30", 7_250, 85.30)]
    [InlineData(2025, "2027-01-31", 7_250, 85.30)]
    [InlineData(2023, "2024-12-31", 10_000, 638.61)]
    [InlineData(2023, "2025-07-31", 10_000, 1_135.09)]
    [InlineData(2024, "2025-12-31", 10_000, 498.56)]
    public void Interest_is_compounded_daily_at_the_rates_of_the_quarters(int year, string day, decimal balance, decimal interest)
    {
        var evaluation = Owing(year, balance).On(DateOnly.ParseExact(day, "yyyy-MM-dd")).Evaluate();
        Assert.Equal(balance, evaluation.Balance);
        Assert.Equal(interest, evaluation.Amount("balance.interest-today"));
    }

    /// <summary>Nothing is guessed: after the last day for which rates are held the interest stays what it was, and that is said.</summary>
    [Fact]
    public void Days_without_a_rate_are_told()
    {
        CanadaCase.Turns("interest-unknown", Owing(2025, 500).On(new DateOnly(2026, 7, 1)), Owing(2025, 500).On(new DateOnly(2026, 6, 30)));
        CanadaCase.Turns("interest-unknown", Owing(2025, 500).On(new DateOnly(2026, 7, 1)), Owing(2025, 0).On(new DateOnly(2026, 7, 1)));
        CanadaCase.Turns("interest-not-before", new CanadaCase(2016, "ab").Exempt(80_000).On(new DateOnly(2017, 5, 2)), new CanadaCase(2016, "ab").Exempt(80_000).On(new DateOnly(2017, 5, 1)));
        CanadaCase.Turns("interest-not-before", Owing(2016, 2.01m).On(new DateOnly(2017, 5, 2)), Owing(2016, 2).On(new DateOnly(2017, 5, 2)));
        Assert.DoesNotContain(Owing(2023, 500).On(new DateOnly(2024, 6, 1)).Evaluate().Findings, f => f.Id == "interest-not-before");
    }

    /// <summary>5% and 1% for each complete month, twelve at most; demanded and charged before: 10% and 2%, twenty at most.</summary>
    [Theory]
    [InlineData("2026-04-30", false, 0)]
    [InlineData("2026-05-01", false, 362.50)]
    [InlineData("2026-07-30", false, 580)]
    [InlineData("2029-04-30", false, 1_232.50)]
    [InlineData("2026-05-01", true, 725)]
    [InlineData("2026-07-30", true, 1_160)]
    [InlineData("2027-12-30", true, 3_625)]
    [InlineData("2029-04-30", true, 3_625)]
    public void W11_the_penalty_for_filing_late(string day, bool repeated, decimal penalty) =>
        Assert.Equal(penalty, Owing(2025, 7_250).With("balance.repeated", repeated ? "yes" : "no").On(DateOnly.ParseExact(day, "yyyy-MM-dd")).Evaluate().Amount("balance.late-filing-today"));

    /// <summary>Announced on 31 January 2025: those who report gains of 2024 are charged nothing before 2 June 2025.</summary>
    [Theory]
    [InlineData("2025-06-01", false, 600, 70.38)]
    [InlineData("2025-06-01", true, 0, 0)]
    [InlineData("2025-06-02", true, 0, 2.19)]
    [InlineData("2025-06-03", true, 600, 4.38)]
    [InlineData("2025-07-31", true, 800, 123.76)]
    public void Relief_for_gains_of_2024(string day, bool gains, decimal penalty, decimal interest)
    {
        var @case = Owing(2024, 10_000).On(DateOnly.ParseExact(day, "yyyy-MM-dd"));
        Assert.Equal((penalty, interest), Charges((gains ? @case.Scope("gains") : @case).Evaluate()));
    }

    /// <summary>The self-employed file in June and pay in April: interest runs while no penalty does.</summary>
    [Fact]
    public void Interest_runs_before_the_return_is_late()
    {
        var @case = new CanadaCase(2025, "ab").Business(80_000);
        var (balance, inMay) = (@case.Evaluate().Balance, Charges(@case.On(new DateOnly(2026, 6, 15)).Evaluate()));
        Assert.Equal((0, Math.Round(balance * 0.0088603m, 0)), (inMay.Item1, Math.Round(inMay.Item2, 0)));
        Assert.Equal(Math.Round(balance * 0.05m, 2, MidpointRounding.AwayFromZero), Charges(@case.On(new DateOnly(2026, 6, 16)).Evaluate()).Item1);
    }

    /// <summary>Each payment is charged by its own day; what was paid before the return had to be filed bears no penalty.</summary>
    [Fact]
    public void Charges_follow_each_payment()
    {
        var evaluation = Owing(2025, 7_250).On(new DateOnly(2026, 6, 18)).Evaluate();
        var part = Assert.Single(PaymentAdvice.Of(evaluation, [new PaidAmount(new DateOnly(2026, 4, 30), 5_250), new PaidAmount(new DateOnly(2026, 5, 1), 1_000)], new DateOnly(2026, 6, 18)).Parts);
        // 2,000 at 6%; 1,000 for a day and 1,000 for 49 days.
        Assert.Equal([("Penalty for filing late", 120m), ("Interest, compounded daily", 0.19m + 9.44m)], part.Charges.Select(c => (c.Label, c.Amount)));
        Assert.Equal(1_000, part.Unpaid);
    }

    private static Evaluation Instalments(decimal lastYear, decimal yearBefore, params (string Day, decimal Amount)[] paid)
    {
        var @case = new CanadaCase(2025, "ab").Exempt(120_000).With("balance.owing-last-year", lastYear).With("balance.owing-year-before", yearBefore).Scope("instalments");
        foreach (var (day, amount) in paid)
        {
            @case.Row("balance.instalments", ("date", day), ("amount", amount));
        }

        return @case.Evaluate();
    }

    /// <summary>The least of three ways: last year's 4,000 in quarters, or 3,000 in March and in June; or 250 twice and 1,750 twice.</summary>
    [Theory]
    [InlineData(4_000, 12_000, 218.90)]
    [InlineData(4_000, 1_000, 161.10)]
    [InlineData(3_000, 3_000, 0)]
    [InlineData(3_000, 3_000.01, 164.18)]
    [InlineData(3_000.01, 0, 106.37)]
    public void Interest_on_instalments_not_paid(decimal lastYear, decimal yearBefore, decimal interest) =>
        Assert.Equal(interest, Instalments(lastYear, yearBefore).Amount("balance.instalment-interest"));

    /// <summary>What is paid earns interest from its day; what is left up to 25 is not charged.</summary>
    [Fact]
    public void Payments_earn_interest()
    {
        Assert.Equal(218.90m - 105.69m, Instalments(4_000, 12_000, ("2025-12-15", 4_000)).Amount("balance.instalment-interest"));
        Assert.Equal(0, Instalments(4_000, 12_000, ("2025-03-17", 2_000), ("2025-09-15", 1_000), ("2025-12-15", 1_000)).Amount("balance.instalment-interest"));
        Assert.Equal(0, Instalments(4_000, 12_000, ("2025-03-17", 2_500)).Amount("balance.instalment-interest"));
    }

    /// <summary>Half of what is above the greater of 1,000 and a quarter of the interest without any payment.</summary>
    [Fact]
    public void The_penalty_on_instalments()
    {
        var none = Instalments(50_000, 50_000);
        var (asked, interest) = (none.Amount("balance.instalment-interest-least"), none.Amount("balance.instalment-interest"));
        Assert.Equal(asked, interest);
        Assert.Equal(Math.Round((interest - 1_000) / 2, 2, MidpointRounding.AwayFromZero), none.Amount("balance.instalment-penalty"));
        Assert.Equal(0, Instalments(4_000, 12_000).Amount("balance.instalment-penalty"));
        var high = new CanadaCase(2025, "ab").Exempt(400_000).With("balance.owing-last-year", 500_000).With("balance.owing-year-before", 500_000).Scope("instalments").Evaluate();
        Assert.Equal(Math.Round(0.5m * 0.75m * high.Amount("balance.instalment-interest"), 2, MidpointRounding.AwayFromZero), high.Amount("balance.instalment-penalty"));
        CanadaCase.Turns("instalments-short", new CanadaCase(2025, "ab").Exempt(120_000).With("balance.owing-last-year", 4_000), new CanadaCase(2025, "ab").Exempt(120_000).With("balance.owing-last-year", 3_000));
        Assert.Equal(0, new CanadaCase(2025, "ab").Exempt(120_000).With("balance.owing-last-year", 4_000).With("scope.died-on", "2025-10-01").Evaluate().Amount("balance.instalment-interest"));
    }

    /// <summary>Contributions on self-employment of the earlier years are asked for with the tax, and do not decide whether anything is asked for.</summary>
    [Fact]
    public void Contributions_on_self_employment_belong_to_the_instalments()
    {
        decimal Interest(decimal selfLastYear, decimal selfYearBefore) => new CanadaCase(2025, "on").Business(90_000).With("balance.owing-last-year", 4_000).With("balance.owing-year-before", 4_000)
            .With("balance.self-last-year", selfLastYear).With("balance.self-year-before", selfYearBefore).Evaluate().Amount("balance.instalment-interest-reminders");

        // 1,250 in March and in June, 1,750 in September and in December.
        Assert.Equal((218.90m, 309.09m), (Interest(0, 0), Interest(2_000, 1_000)));
        Assert.Equal(0, new CanadaCase(2025, "on").Business(90_000).With("balance.owing-last-year", 3_000).With("balance.self-last-year", 5_000).Evaluate().Amount("balance.instalment-interest-last-year"));
    }

    /// <summary>The reminders for next year: a quarter of last year's in March and June, the rest of this year's in two (ITA 156(1)(b)(ii)); contributions on self-employment belong to them.</summary>
    [Fact]
    public void The_reminders_of_next_year()
    {
        var evaluation = new CanadaCase(2025, "on").Business(60_000).With("balance.owing-last-year", 5_000).With("balance.self-last-year", 600).Evaluate();
        var whole = evaluation.Amount("balance.net-tax-owing") + evaluation.Amount("balance.self-contributions");
        Assert.Equal(1_400, evaluation.Amount("balance.instalment-reminder-early"));
        Assert.Equal(Math.Round((whole - 2_800) / 2, 2, MidpointRounding.AwayFromZero), evaluation.Amount("balance.instalment-reminder-late"));
    }
}
