using Aerarium.Core.Engine;
using Aerarium.Countries.Philippines.IndividualAnnual;
using Aerarium.Countries.Philippines.Parameters;
using CsCheck;

namespace Aerarium.Countries.Tests;

/// <summary>Cases of the Philippines' annual return of an individual.</summary>
public sealed class PhilippinesCase(int year) : ReturnCase<PhilippinesCase>(Catalogue.Get(IndividualAnnualReturn.ReturnId, year), new DateOnly(year + 1, 3, 1))
{
    public PhilippinesCase Employer(decimal gross, decimal benefits = 0, decimal contributions = 0, decimal withheld = 0) => With("scope.compensation", "yes").Row(
        "compensation.employers",
        ("tin", $"00000000{Entries.RowsOf("compensation.employers").Count}00000"), ("name", "Works"), ("gross", gross), ("benefits", benefits), ("contributions", contributions),
        ("taxable", gross), ("withheld", withheld));

    public PhilippinesCase Business(string method, decimal services = 0, decimal goods = 0) =>
        With("scope.business", "yes").With("business.method", method).With("business.services", services).With("business.goods", goods);

    public PhilippinesCase Expenses(params decimal[] amounts)
    {
        foreach (var amount in amounts)
        {
            Row("deductions.expenses", ("kind", "miscellaneous"), ("amount", amount));
        }

        return this;
    }
}

/// <summary>
/// Worked computations of the law sheet. EX-A1 to A3 are illustrations published in RR 8-2018, recalled from memory; EX-A4 to A10 are
/// constructed from the statutes, from memory. Tables of NIRC s. 24(A)(2)(a) as amended by TRAIN, from memory.
/// </summary>
public class PhilippinesLawTests
{
    private static void Expect(PhilippinesCase entered, decimal taxable, decimal due, decimal balance)
    {
        var evaluation = entered.Evaluate();
        Assert.Equal((taxable, due, balance), (evaluation.Amount("tax.taxable"), evaluation.Amount("tax.due"), evaluation.Balance));
    }

    [Theory]
    [InlineData(2018, 400_000, 30_000)]
    [InlineData(2019, 2_000_000, 490_000)]
    [InlineData(2020, 8_000_001, 2_410_000.35)]
    [InlineData(2022, 800_000, 130_000)]
    [InlineData(2023, 800_000, 102_500)]
    [InlineData(2021, 250_000, 0)]
    [InlineData(2021, 400_000, 30_000)]
    [InlineData(2021, 800_000, 130_000)]
    [InlineData(2021, 2_000_000, 490_000)]
    [InlineData(2021, 8_000_000, 2_410_000)]
    [InlineData(2024, 250_000, 0)]
    [InlineData(2024, 400_000, 22_500)]
    [InlineData(2025, 800_000, 102_500)]
    [InlineData(2025, 2_000_000, 402_500)]
    [InlineData(2025, 8_000_000, 2_202_500)]
    [InlineData(2025, 9_000_000, 2_552_500)]
    public void The_graduated_table(int year, decimal taxable, decimal tax) => Assert.Equal(tax, IncomeTaxLaw.For(year).Table.Apply(taxable));

    /// <summary>EX-A1, published in RR 8-2018.</summary>
    [Theory]
    [InlineData(2018)]
    [InlineData(2021)]
    [InlineData(2023)]
    public void Eight_per_cent_of_the_purely_self_employed(int year) => Expect(new PhilippinesCase(year).Business("eight", 300_000, 800_000), 850_000, 68_000, 68_000);

    /// <summary>
    /// The percentage tax that 8% stands in the place of: 3%, and 1% from 1 July 2020 to 30 June 2023 (NIRC s. 116; CREATE s. 13), so that two years have
    /// sales at either rate. Interest is cut by 33% of interest income under final tax, and by 20% from 1 July 2020 (NIRC s. 34(B)(1)). By the sheet.
    /// </summary>
    [Theory]
    [InlineData(2018, 30_000, 9_010)]
    [InlineData(2019, 30_000, 9_010)]
    [InlineData(2020, (400_000 * 0.03) + (600_000 * 0.01), 10_000 - 330 - 400)]
    [InlineData(2021, 10_000, 9_400)]
    [InlineData(2022, 10_000, 9_400)]
    [InlineData(2023, (400_000 * 0.01) + (600_000 * 0.03), 9_400)]
    [InlineData(2024, 30_000, 9_400)]
    [InlineData(2025, 30_000, 9_400)]
    public void Two_rates_changed_in_the_middle_of_a_year(int year, decimal percentageTax, decimal interestAllowed)
    {
        var entered = new PhilippinesCase(year).Business("itemised", 1_000_000).With("business.vat-registered", "no").With("business.other-percentage-tax", "no").With("deductions.interest", 10_000).With("deductions.interest-final-tax", 3_000);
        var changes = year is 2020 or 2023;
        Assert.Equal(changes, entered.Evaluate().Findings.Any(f => f.Id == "sales-to-june-missing"));
        Assert.Equal(year == 2020, entered.Evaluate().Definition.FindLine("deductions.interest-final-tax-to-june") is not null);
        entered = changes ? entered.With("business.sales-to-june", 400_000) : entered;
        var evaluation = (year == 2020 ? entered.With("deductions.interest-final-tax-to-june", 1_000) : entered).Evaluate();
        Assert.Equal((percentageTax, interestAllowed), (evaluation.Definition.OtherTaxes.Single().Amount.Evaluate(evaluation.Sheet), evaluation.Amount("deductions.interest-allowed")));
        Assert.DoesNotContain(evaluation.Findings, f => f.Id is "sales-to-june-missing" or "sales-to-june" or "interest-to-june");
    }

    [Fact]
    public void No_half_is_more_than_the_whole()
    {
        var entered = new PhilippinesCase(2020).Business("itemised", 1_000_000).With("business.vat-registered", "no").With("business.other-percentage-tax", "no").With("deductions.interest", 10_000).With("deductions.interest-final-tax", 3_000);
        foreach (var (line, finding, whole) in new[] { ("business.sales-to-june", "sales-to-june", 1_000_000), ("deductions.interest-final-tax-to-june", "interest-to-june", 3_000) })
        {
            Assert.DoesNotContain(entered.With(line, whole).Evaluate().Findings, f => f.Id == finding);
            Assert.Contains(entered.With(line, whole + 1).Evaluate().Findings, f => f.Id == finding);
        }
    }

    /// <summary>EX-A2, published in RR 8-2018: the same taxpayer, not elected.</summary>
    [Fact]
    public void The_same_taxpayer_itemised() => Expect(
        new PhilippinesCase(2021).Business("itemised", 300_000, 800_000).With("business.cost", 600_000).Expenses(200_000), 300_000, 10_000, 10_000);

    /// <summary>EX-A3, published in RR 8-2018, mixed income; and on the table from 2023.</summary>
    [Theory]
    [InlineData(2021, "eight", 3_910_000, 513_000)]
    [InlineData(2021, "itemised", 2_310_000, 589_200)]
    [InlineData(2025, "eight", 3_910_000, 455_000)]
    [InlineData(2025, "itemised", 2_310_000, 495_500)]
    public void Mixed_income(int year, string method, decimal taxable, decimal due)
    {
        var entered = new PhilippinesCase(year).Employer(1_500_000, 120_000).Business(method, 0, 2_400_000).Row("business.non-operating", ("name", "Rent"), ("amount", 100_000));
        Expect(method == "eight" ? entered : entered.With("business.cost", 1_000_000).Expenses(600_000), taxable, due, due);
    }

    /// <summary>EX-A4.</summary>
    [Fact]
    public void Two_employers_share_one_ceiling_of_benefits()
    {
        var entered = new PhilippinesCase(2025).Employer(720_000, 60_000, 41_000, 76_400).Employer(480_000, 40_000, 26_000, 43_000);
        Expect(entered, 1_043_000, 163_250, 43_850);
        Assert.Equal(157_000, entered.Evaluate().Amount("compensation.exempt"));
    }

    /// <summary>EX-A5.</summary>
    [Fact]
    public void A_professional_with_ceilings_a_loss_and_credits()
    {
        var entered = new PhilippinesCase(2025).Business("itemised", 2_400_000).Scope("losses").With("business.cost", 700_000)
            .With("deductions.entertainment", 30_000).With("deductions.interest", 50_000).With("deductions.interest-final-tax", 40_000)
            .Expenses(90_000, 240_000, 420_000, 36_000, 18_000, 45_000, 60_000).With("deductions.contributions-limited", 80_000)
            .Row("deductions.losses", ("year", 2023), ("loss", 150_000))
            .With("balance.prior-excess", 5_000).With("balance.quarterly-paid", 12_000).With("balance.withheld-quarters", 60_000).With("balance.withheld-last-quarter", 40_000);
        Expect(entered, 502_500, 43_000, -74_000);
        var evaluation = entered.Evaluate();
        Assert.Equal((975_000m, 72_500m, 24_000m, 42_000m), (
            evaluation.Amount("deductions.before-contributions"), evaluation.Amount("deductions.contributions-allowed"),
            evaluation.Amount("deductions.entertainment-services"), evaluation.Amount("deductions.interest-allowed")));
        Assert.Contains(evaluation.Findings, f => f.Id == "contributions-cut" && f.Message.Contains("7,500"));
        Assert.Contains(evaluation.Findings, f => f.Id == "result.overpayment:missing");
    }

    /// <summary>EX-A6: 40% of 1,850,333 is 740,133.20.</summary>
    [Fact]
    public void The_standard_deduction_is_rounded_to_the_peso() => Expect(
        new PhilippinesCase(2025).Business("standard", 1_850_333).Row("business.non-operating", ("name", "Rent"), ("amount", 20_000))
            .With("balance.withheld-quarters", 92_517).With("balance.quarterly-paid", 20_000),
        1_130_200, 185_050, 72_533);

    /// <summary>EX-A7.</summary>
    [Fact]
    public void Foreign_tax_is_limited_by_country_and_for_all()
    {
        var entered = new PhilippinesCase(2025).Employer(3_000_000).Scope("foreign-tax").With("scope.status", "resident-citizen")
            .Row("tax.foreign", ("country", "A"), ("income", 600_000), ("paid", 200_000)).Row("tax.foreign", ("country", "B"), ("income", 300_000), ("paid", 30_000));
        Expect(entered, 3_000_000, 702_500, 532_000);
        Assert.Equal((170_500m, 210_750m), (entered.Evaluate().Amount("tax.foreign-credit"), entered.Evaluate().Amount("tax.foreign-limit")));
    }

    /// <summary>EX-A9: due 15 April 2025, paid 90 days later.</summary>
    [Theory]
    [InlineData("micro", 8_000, 1_184)]
    [InlineData("medium", 20_000, 2_367)]
    public void Late_charges_by_size(string size, decimal surcharge, decimal interest)
    {
        // Tax due 80,000 on 687,500 of the table from 2023.
        var evaluation = new PhilippinesCase(2024).Business("itemised", 687_500).Scope("late").With("charges.paid-on", "2025-07-14").With("result.size", size)
            .On(new DateOnly(2025, 7, 14)).Evaluate();
        Assert.Equal((80_000m, surcharge, interest, 80_000 + surcharge + interest), (
            evaluation.Balance, evaluation.Amount("charges.surcharge"), evaluation.Amount("charges.interest"), evaluation.Amount("charges.total-with-charges")));
        Assert.Equal(surcharge + interest, evaluation.RunningCharges);
    }

    /// <summary>EX-A10.</summary>
    [Fact]
    public void Edges_of_eight_per_cent_and_of_a_loss()
    {
        Expect(new PhilippinesCase(2025).Business("eight", 240_000), 0, 0, 0);
        var loss = new PhilippinesCase(2025).Employer(550_000).Business("itemised", 0, 100_000).Expenses(220_000);
        Expect(loss, 550_000, 52_500, 52_500);
        Assert.Contains(loss.Evaluate().Findings, f => f.Id == "business-loss" && f.Message.Contains("120,000"));
    }

    /// <summary>Due dates of the law sheet: moved to the next working day (15 April 2022 was Good Friday).</summary>
    [Theory]
    [InlineData(2018, "2019-04-15", "2019-10-15")]
    [InlineData(2019, "2020-04-15", "2020-10-15")]
    [InlineData(2020, "2021-04-15", "2021-10-15")]
    [InlineData(2022, "2023-04-17", "2023-10-16")]
    [InlineData(2023, "2024-04-15", "2024-10-15")]
    [InlineData(2021, "2022-04-18", "2022-10-17")]
    [InlineData(2024, "2025-04-15", "2025-10-15")]
    [InlineData(2025, "2026-04-15", "2026-10-15")]
    public void Due_dates_move_to_the_next_working_day(int year, string filing, string second)
    {
        var law = IncomeTaxLaw.For(year);
        Assert.Equal((DateOnly.Parse(filing), DateOnly.Parse(second)), (law.Filing.Day, law.SecondPart.Day));
    }

    [Theory]
    [InlineData("1000.49", "1000")]
    [InlineData("1000.50", "1001")]
    [InlineData("1,000.4999", "1000")]
    public void Pesos_are_whole_49_down_50_up_and_what_was_typed_is_kept(string typed, string kept)
    {
        var line = Catalogue.Get(IndividualAnnualReturn.ReturnId, 2025).LineOf("business.services");
        var reading = Core.Entries.EntryReader.Read(line, typed);
        Assert.Equal((kept, typed), (reading.Value, reading.Expression));
        Assert.Null(Core.Entries.EntryReader.Read(line, "1000").Expression);
    }

    [Theory]
    [InlineData("2024", 3_000_000, true)]
    [InlineData("2024", 3_000_001, false)]
    public void Eight_per_cent_ends_above_its_ceiling(string year, decimal receipts, bool open)
    {
        var findings = new PhilippinesCase(int.Parse(year)).Business("eight", receipts).With("business.vat-registered", "no").Evaluate().Findings;
        Assert.Equal(open, findings.All(f => f.Id != "eight-above-ceiling"));
    }

    [Theory]
    [InlineData(2_000, 1_000, "second-not-open")]
    [InlineData(2_002, 1_001, null)]
    [InlineData(2_002, 1_002, "second-too-much")]
    public void Two_parts_are_open_above_two_thousand_and_up_to_half(decimal due, decimal second, string? problem)
    {
        // 15% above 250,000: income of 250,000 + due / 15%.
        var income = 250_000 + Math.Round(due / 0.15m, 0);
        var evaluation = new PhilippinesCase(2025).Business("itemised", income).With("balance.two-parts", "yes").With("balance.second-part", second).Evaluate();
        Assert.Equal(due, evaluation.Amount("tax.due"));
        Assert.Equal(problem, evaluation.Findings.Select(f => f.Id).FirstOrDefault(i => i.StartsWith("second-", StringComparison.Ordinal) && i != "second-above-half"));
    }

    /// <summary>Losses are used for three years, those of 2020 and 2021 for five (NIRC s. 34(D)(3); RA 11494; from memory).</summary>
    [Theory]
    [InlineData(2025, 2022, true)]
    [InlineData(2025, 2021, true)]
    [InlineData(2025, 2020, true)]
    [InlineData(2025, 2019, false)]
    [InlineData(2024, 2020, true)]
    [InlineData(2021, 2018, true)]
    [InlineData(2021, 2017, false)]
    public void A_loss_is_used_while_it_may_be(int year, int arose, bool usable)
    {
        var evaluation = new PhilippinesCase(year).Business("itemised", 600_000).Scope("losses").Row("deductions.losses", ("year", arose), ("loss", 100_000), ("applied", 30_000)).Evaluate();
        Assert.Equal(usable ? 70_000 : 0, evaluation.Amount("deductions.losses-used"));
        Assert.Equal(usable, evaluation.Findings.All(f => f.Id != "loss-expired"));
    }

    /// <summary>Certificates round each employer's income to the peso: a peso is no difference, two are.</summary>
    [Theory]
    [InlineData(1, false)]
    [InlineData(2, true)]
    public void Compensation_that_differs_from_its_certificates_is_told(decimal contributions, bool told) =>
        Assert.Equal(told, new PhilippinesCase(2025).Employer(550_000, contributions: contributions).Evaluate().Findings.Any(f => f.Id == "differs-from-certificates"));

    /// <summary>A special rate is at most 35%, that of the table's last part; a credit agrees with its list within a peso.</summary>
    [Fact]
    public void Bounds_are_what_the_sheet_says()
    {
        var rate = Catalogue.Get(IndividualAnnualReturn.ReturnId, 2025).Lines.Single(l => l.Key.EndsWith(".rate", StringComparison.Ordinal) && l.Form.Key == "special");
        Assert.Null(Core.Entries.EntryReader.Read(rate, "35").Problem);
        Assert.NotNull(Core.Entries.EntryReader.Read(rate, "35.01").Problem);
        Assert.Equal(1, Catalogue.Get("ph/individual-quarterly", 2025, "q1").LineOf("balance.withheld-quarter").TieTolerance);
        Assert.Equal(1, Catalogue.Get(IndividualAnnualReturn.ReturnId, 2025).LineOf("balance.withheld-last-quarter").TieTolerance);
    }

    /// <summary>What is not covered stops instead of being guessed.</summary>
    [Theory]
    [InlineData("eight", true)]
    [InlineData("standard", false)]
    public void A_partnerships_share_beside_eight_per_cent_is_not_covered(string method, bool stops) => Assert.Equal(
        stops, new PhilippinesCase(2025).Business(method, 900_000).With("business.partnership-share", 50_000).Evaluate().Findings.Any(f => f.Id == "eight-with-share"));

    /// <summary>What is kept out by Scope raises no error of its own.</summary>
    [Theory]
    [InlineData("compensation", "no-sales")]
    [InlineData("business", "no-employer")]
    public void A_form_that_does_not_apply_asks_for_nothing(string only, string finding)
    {
        var findings = new PhilippinesCase(2025).With("scope.compensation", only == "compensation" ? "yes" : "no").With("scope.business", only == "business" ? "yes" : "no").Evaluate().Findings;
        Assert.DoesNotContain(findings, f => f.Id == finding);
        Assert.Contains(findings, f => f.Id == (only == "business" ? "no-sales" : "no-employer"));
    }

    [Fact]
    public void Tax_never_falls_as_income_rises_within_a_method() => Gen.Select(
        Gen.Int[0, 2_900_000], Gen.Int[1, 90_000], Gen.Int[0, 2_000_000], Gen.Int[0, 2].Select(i => new[] { "eight", "standard", "itemised" }[i]), Gen.Int[0, 2].Select(i => new[] { 2020, 2023, 2025 }[i])).Sample(
        (receipts, more, pay, method, year) =>
        {
            decimal Due(decimal sales) => new PhilippinesCase(year).Employer(pay).Business(method, sales).Evaluate().Amount("tax.due");
            return Due(receipts) <= Due(receipts + more);
        },
        iter: 300);

    [Fact]
    public void The_order_of_rows_never_matters() => Gen.Int[1, 900_000].Array[2, 5].Sample(
        amounts =>
        {
            decimal Due(IEnumerable<int> order) => new PhilippinesCase(2025).Business("itemised", 2_900_000).Expenses([.. order.Select(a => (decimal)a)]).Evaluate().Amount("tax.due");
            return Due(amounts) == Due(amounts.Reverse());
        },
        iter: 100);
}
