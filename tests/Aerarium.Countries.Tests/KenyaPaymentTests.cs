using Aerarium.Core.Engine;

namespace Aerarium.Countries.Tests;

/// <summary>
/// What is paid late towards an employee's return of Kenya: 5% penalty (TPA s. 83A) and 1% interest for every month begun, at most the tax itself
/// (TPA s. 38); from memory of the statutes.
/// </summary>
public class KenyaPaymentTests
{
    private static readonly DateOnly Due = new(2026, 4, 30);

    /// <summary>1,440,000 of pay without deductions of contributions: whatever the balance is, the advice is about it.</summary>
    private static Evaluation Owing() => new KenyaCase(2025).Employer(1_440_000, tax: 200_000).Evaluate();

    private static PaymentAdvice Advice(DateOnly on, params PaidAmount[] paid) => PaymentAdvice.Of(Owing(), paid, on);

    [Theory]
    [InlineData(0, 0)]
    [InlineData(1, 1)]
    [InlineData(31, 1)]
    [InlineData(32, 2)]
    [InlineData(200, 7)]
    public void Months_begun_count_whole(int daysLate, int months)
    {
        var part = Assert.Single(Advice(Due.AddDays(daysLate)).Parts);
        var (penalty, interest) = (Math.Round(part.Amount * 0.05m, 2, MidpointRounding.AwayFromZero), Math.Round(part.Amount * 0.01m * months, 2, MidpointRounding.AwayFromZero));
        Assert.Equal(Due, part.Due);
        Assert.Equal(daysLate == 0 ? [] : [("Late payment penalty", penalty), ("Interest, at most the tax itself", interest)], part.Charges.Select(c => (c.Label, c.Amount)));
    }

    [Fact]
    public void Interest_is_never_more_than_the_tax()
    {
        var part = Assert.Single(Advice(Due.AddYears(12)).Parts);
        Assert.Equal(part.Amount, part.Charges.Single(c => c.Law == "TPA s. 38").Amount);
    }

    [Fact]
    public void Every_charge_says_how_it_is_computed()
    {
        Assert.All(Assert.Single(Advice(Due.AddDays(40)).Parts).Charges, charge =>
        {
            Assert.StartsWith("TPA s. ", charge.Law);
            Assert.NotEmpty(charge.Words);
        });
    }

    [Fact]
    public void What_was_paid_in_time_is_not_charged()
    {
        var whole = Assert.Single(Advice(Due).Parts).Amount;
        var advice = Advice(Due.AddDays(40), new PaidAmount(Due, whole - 1_000), new PaidAmount(Due.AddDays(10), 1_000));
        Assert.Equal(0, Assert.Single(advice.Parts).Unpaid);
        Assert.Equal([50m, 10m], advice.Parts[0].Charges.Select(c => c.Amount));
        Assert.Equal(60, advice.DueBy);
    }
}
