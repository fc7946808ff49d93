using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries.Philippines.IndividualQuarterly;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>
/// What is to be paid and when (NIRC s. 56), what being late adds (NIRC s. 248, 249; EOPT, RR 6-2024), and what the authority abated
/// (NIRC s. 204(B)); all from memory of the statutes.
/// </summary>
public class PhilippinesPaymentTests
{
    private static readonly DateOnly Due = new(2025, 4, 15);

    /// <summary>A return of 2024 with 80,000 to pay, as in EX-A9 of the law sheet.</summary>
    private static PhilippinesCase Owing(string size = "micro") => new PhilippinesCase(2024).Scope("late").Business("standard", 1_250_000).With("balance.withheld-quarters", 12_500).With("result.size", size);

    private static PaymentAdvice Advice(PhilippinesCase entered, DateOnly on, params PaidAmount[] paid) => PaymentAdvice.Of(entered.Evaluate(), paid, on);

    private static (string, decimal)[] Charges(PaymentAdvice advice, int part = 0) => [.. advice.Parts[part].Charges.Select(c => (c.Label, c.Amount))];

    /// <summary>EX-A9: 90 days late with 80,000 unpaid.</summary>
    [Theory]
    [InlineData("micro", 8_000, 1_184, 89_184)]
    [InlineData("medium", 20_000, 2_367, 102_367)]
    public void Late_payment_adds_surcharge_and_interest(string size, decimal surcharge, decimal interest, decimal together)
    {
        var advice = Advice(Owing(size), new DateOnly(2025, 7, 14));
        Assert.Equal(80_000, advice.Parts[0].Amount);
        Assert.Equal([("Surcharge", surcharge), ("Interest", interest)], Charges(advice));
        Assert.Equal((together, together), (advice.DueBy, advice.Left));
    }

    [Fact]
    public void On_the_day_nothing_is_added()
    {
        var advice = Advice(Owing(), Due);
        Assert.Empty(advice.Parts[0].Charges);
        Assert.Equal(80_000, advice.DueBy);
    }

    /// <summary>Half in time, the other half 90 days late: what is late is 40,000.</summary>
    [Fact]
    public void Only_what_is_late_is_charged()
    {
        var advice = Advice(Owing(), new DateOnly(2025, 7, 14), new PaidAmount(Due, 40_000));
        Assert.Equal([("Surcharge", 4_000m), ("Interest", 592m)], Charges(advice));
        Assert.Equal(44_592, advice.DueBy);
    }

    /// <summary>Paid in full, but late: the charges stay until they are paid too.</summary>
    [Fact]
    public void A_late_payment_leaves_its_charges_due()
    {
        var late = new PaidAmount(new DateOnly(2025, 7, 14), 80_000);
        Assert.Equal(9_184, Advice(Owing(), new DateOnly(2025, 9, 1), late).DueBy);
        Assert.Equal(0, Advice(Owing(), new DateOnly(2025, 9, 1), late, new PaidAmount(new DateOnly(2025, 8, 1), 9_184)).Left);
    }

    /// <summary>EX-A4's balance of 43,850 in two parts, the second by 15 October 2026.</summary>
    [Fact]
    public void Two_parts_have_a_day_each()
    {
        var entered = new PhilippinesCase(2025).Employer(720_000, 60_000, 41_000, 76_400).Employer(480_000, 40_000, 26_000, 43_000)
            .With("balance.two-parts", "yes").With("balance.second-part", 21_925);
        var advice = PaymentAdvice.Of(entered.Evaluate(), [], new DateOnly(2026, 4, 15));
        Assert.Equal([(new DateOnly(2026, 4, 15), 21_925m), (new DateOnly(2026, 10, 15), 21_925m)], advice.Parts.Select(p => (p.Due, p.Amount)));
        Assert.Equal((21_925m, 43_850m), (advice.DueBy, advice.Left));
        var later = PaymentAdvice.Of(entered.Evaluate(), [new PaidAmount(new DateOnly(2026, 4, 15), 21_925)], new DateOnly(2026, 11, 14));
        Assert.Empty(later.Parts[0].Charges);
        Assert.Equal([("Surcharge", 5_481m), ("Interest", 216m)], Charges(later, 1));
    }

    /// <summary>Where the first part is not paid by its day, all that is left is due at once (NIRC s. 56(A)(2)): 43,850 at 25% and 12% for 30 days.</summary>
    [Fact]
    public void A_second_part_falls_due_with_the_first()
    {
        var entered = new PhilippinesCase(2025).Employer(720_000, 60_000, 41_000, 76_400).Employer(480_000, 40_000, 26_000, 43_000)
            .With("balance.two-parts", "yes").With("balance.second-part", 21_925);
        var unpaid = PaymentAdvice.Of(entered.Evaluate(), [], new DateOnly(2026, 5, 15));
        Assert.Equal([new DateOnly(2026, 4, 15), new DateOnly(2026, 4, 15)], unpaid.Parts.Select(p => p.Due));
        Assert.Equal([("Surcharge", 5_481m), ("Interest", 216m)], Charges(unpaid, 1));
        Assert.Equal(unpaid.Left, unpaid.DueBy);
        var short1 = PaymentAdvice.Of(entered.Evaluate(), [new PaidAmount(new DateOnly(2026, 4, 15), 21_924)], new DateOnly(2026, 5, 15));
        Assert.Equal(new DateOnly(2026, 4, 15), short1.Parts[1].Due);
        var inTime = PaymentAdvice.Of(entered.Evaluate(), [new PaidAmount(new DateOnly(2026, 4, 15), 21_925)], new DateOnly(2026, 5, 15));
        Assert.Equal((new DateOnly(2026, 10, 15), 0m), (inTime.Parts[1].Due, inTime.Parts[1].Charged));

        // The return itself says so, and charges the whole.
        var late = entered.Scope("late").With("charges.paid-on", "2026-05-15").On(new DateOnly(2026, 5, 15));
        Assert.Equal((10_963m, 432m), (late.Evaluate().Amount("charges.surcharge"), late.Evaluate().Amount("charges.interest")));
        Assert.Equal(10_963 + 432, late.Evaluate().RunningCharges);
        Assert.Contains(late.Evaluate().Findings, f => f.Id == "second-part-fallen-due");
        Assert.DoesNotContain(late.On(new DateOnly(2026, 4, 15)).Evaluate().Findings, f => f.Id == "second-part-fallen-due");
        Assert.Equal((0m, 21_925m), (late.With("charges.paid-on", "2026-04-15").Evaluate().Amount("charges.surcharge"), late.Evaluate().Amount("charges.total-with-charges")));
    }

    /// <summary>Wilful neglect or a false return: half, for the small ones too (NIRC s. 248(B)); interest stays what it is.</summary>
    [Theory]
    [InlineData("micro", 40_000, 1_184)]
    [InlineData("medium", 40_000, 2_367)]
    public void Wilful_neglect_has_its_own_surcharge(string size, decimal surcharge, decimal interest)
    {
        var entered = Owing(size).With("result.wilful", "yes").With("charges.paid-on", "2025-07-14").On(new DateOnly(2025, 7, 14));
        Assert.Equal([("Surcharge", surcharge), ("Interest", interest)], Charges(Advice(entered, new DateOnly(2025, 7, 14))));
        Assert.Equal((surcharge, surcharge), (entered.Evaluate().Amount("charges.surcharge"), entered.Evaluate().Amount("result.surcharge-today")));
    }

    /// <summary>What is paid beyond the tax goes to the charges, and never below zero.</summary>
    [Theory]
    [InlineData(80_000, 9_184)]
    [InlineData(85_000, 4_184)]
    [InlineData(89_184, 0)]
    [InlineData(95_000, 0)]
    public void What_is_paid_beyond_the_tax_goes_to_the_charges(decimal paid, decimal left)
    {
        var day = new DateOnly(2025, 7, 14);
        var advice = Advice(Owing(), day, new PaidAmount(day, paid));
        Assert.Equal(paid - 80_000, advice.PaidBeyond);
        Assert.Equal((left, left), (advice.DueBy, advice.Left));
        Assert.Equal(day, advice.On);
    }

    [Fact]
    public void An_overpayment_is_not_paid() =>
        Assert.Empty(Advice(new PhilippinesCase(2025).Employer(400_000, withheld: 90_000), new DateOnly(2026, 4, 15)).Parts);

    [Fact]
    public void A_quarter_is_paid_at_once()
    {
        var entered = new EntrySet { Values = { ["scope.business"] = "yes", ["business.method"] = "eight", ["business.services"] = "500000" } };
        var definition = Catalogue.Get(IndividualQuarterlyReturn.ReturnId, 2025, "q1");
        var part = Assert.Single(PaymentAdvice.Of(definition.Evaluate(entered, new DateOnly(2025, 5, 1)), [], new DateOnly(2025, 5, 15)).Parts);
        Assert.Equal((new DateOnly(2025, 5, 15), 20_000m), (part.Due, part.Amount));
    }

    [Fact]
    public void What_the_authority_abated_holds_when_its_reason_is_given()
    {
        var entered = Owing().With("charges.paid-on", "2025-07-14").With("charges.surcharge-override", 0);
        Assert.Contains(entered.Evaluate().Findings, f => f.Id == "charges.surcharge-override-reason:missing");
        var reasoned = entered.With("charges.surcharge-override-reason", "Abated, letter of 1 August 2025");
        var evaluation = reasoned.Evaluate();
        Assert.DoesNotContain(evaluation.Findings, f => f.Id == "charges.surcharge-override-reason:missing");
        Assert.Equal((0m, 1_184m, 81_184m), (evaluation.Amount("charges.surcharge"), evaluation.Amount("charges.interest"), evaluation.Amount("charges.total-with-charges")));
        Assert.Equal([("Interest", 1_184m)], Charges(Advice(reasoned, new DateOnly(2025, 7, 14))));
        Assert.Contains("overridden", Derivation.Of(evaluation, evaluation.Definition.LineOf("charges.surcharge"), null).Words);
    }

    [Fact]
    public void Without_an_override_the_line_is_what_the_law_computes() => Assert.Equal(8_000, Owing().With("charges.paid-on", "2025-07-14").Evaluate().Amount("charges.surcharge"));

    /// <summary>Whatever is paid when: nothing is lost, and paying more never leaves more to pay.</summary>
    [Fact]
    public void Every_peso_paid_counts_once() => Gen.Select(Gen.Int[1, 90_000], Gen.Int[1, 90_000], Gen.Int[0, 300], Gen.Int[0, 300]).Sample(
        (first, second, firstDay, secondDay) =>
        {
            var on = Due.AddDays(300);
            PaidAmount[] payments = [new(Due.AddDays(firstDay), first), new(Due.AddDays(secondDay), second)];
            var advice = Advice(Owing(), on, payments);
            var paid = advice.Parts.Sum(p => p.Paid) + advice.PaidBeyond;
            return paid == first + second
                && advice.Left <= Advice(Owing(), on, payments[0]).Left
                && advice.Parts.All(p => p.Unpaid >= 0)
                && Advice(Owing(), on, [.. payments.Reverse()]).Left == advice.Left;
        },
        iter: 300);
}
