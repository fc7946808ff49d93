using Aerarium.Core.Engine;

namespace Aerarium.Countries.Tests;

/// <summary>Each finding of the law sheet's section 7 on both sides of its edge, ties and carry-forwards from year to year, and identifiers by ISO/IEC 7812-1, Annex B.</summary>
public class CanadaFindingsTests
{
    private static CanadaCase Employee(int year = 2025, string province = "bc") => new CanadaCase(year, province).Slip(68_000, 3_837.75m, 0, 1_049.12m, 11_900, ("insurable", 63_200), ("pensionable", 68_000));

    [Theory]
    [InlineData("012345674", true)]
    [InlineData("031017726", true)]
    [InlineData("012 345 674", true)]
    [InlineData("012345678", false)]
    [InlineData("046454287", false)]
    [InlineData("812345678", false)]
    [InlineData("01234567", false)]
    public void Social_insurance_numbers(string number, bool valid) => Assert.Equal(valid, Canada.CanadaIdentifiers.SocialInsurance.Accepts(Core.Identifiers.IdentifierRule.Normalise(number)));

    [Theory]
    [InlineData("100000017", true)]
    [InlineData("700004518", true)]
    [InlineData("100000010", false)]
    [InlineData("123456789", false)]
    public void Business_numbers(string number, bool valid) => Assert.Equal(valid, Canada.CanadaIdentifiers.BusinessNumber.Accepts(number));

    [Theory]
    [InlineData("100000017RP0001", true)]
    [InlineData("100000010RP0001", false)]
    [InlineData("100000017RC0001", false)]
    public void Payroll_accounts(string number, bool valid) => Assert.Equal(valid, Canada.CanadaIdentifiers.PayrollAccount.Accepts(number));

    [Theory]
    [InlineData("V8W1A4", true)]
    [InlineData("W8W1A4", false)]
    [InlineData("V8D1A4", false)]
    public void Postal_codes(string code, bool valid) => Assert.Equal(valid, Canada.CanadaIdentifiers.PostalCode.Accepts(code));

    [Fact]
    public void The_taxpayer_and_the_spouse()
    {
        CanadaCase.Turns("born-later", new CanadaCase(2025, "bc", "2026-01-01"), new CanadaCase(2025, "bc", "2025-12-31"));
        CanadaCase.Turns("own-number-of-spouse", Employee().Spouse(0).With("taxpayer.spouse-sin", "012345674"), Employee().Spouse(0).With("taxpayer.spouse-sin", "031017726"));
        CanadaCase.Turns("both-claim", Employee().Spouse(1_000).With("family.spouse-claims", "yes"), Employee().Spouse(1_000).With("family.spouse-claims", "no"));
        CanadaCase.Turns("no-spouse-amount", Employee().Spouse(16_129), Employee().Spouse(16_128));
        CanadaCase.Turns("no-spouse-amount", Employee().Spouse(18_816).With("family.spouse-infirm", "yes"), Employee().Spouse(18_815).With("family.spouse-infirm", "yes"));
        CanadaCase.Turns("taxpayer.spouse-net-income:missing", Employee().Scope("spouse"), Employee().Spouse(0));
        CanadaCase.Turns("status-without-spouse", Employee().Scope("spouse").With("taxpayer.marital-status", "single"), Employee().Spouse(0));
    }

    [Fact]
    public void Slips()
    {
        CanadaCase One(params (string, object)[] more) => new CanadaCase(2025, "bc").Slip(50_000, 0, 0, 0, 0, more);
        CanadaCase.Turns("plan-above-most", One(("plan", 4_034.11m)), One(("plan", 4_034.10m)));
        CanadaCase.Turns("plan-above-most", One(("second", 396.01m)), One(("second", 396)));
        CanadaCase.Turns("premiums-above-rate", One(("premiums", 821.01m)), One(("premiums", 821)));
        CanadaCase.Turns("tax-too-high", One(("tax", 30_000.01m)), One(("tax", 30_000)));
        CanadaCase.Turns("earnings-assumed", One(("insurable", 50_000)), One(("insurable", 50_000), ("pensionable", 50_000)));
        CanadaCase.Turns("earnings-assumed", One(("pensionable", 50_000)), One(("pensionable", 50_000), ("premiums-exempt", "yes")));
        CanadaCase.Turns("slip-twice", One().Slip(1, 0, 0, 0, 0, ("payer", "Works 0")).Row("employment.slips", ("payer", "Works 0"), ("income", 50_000), ("place", "bc")), One());
        CanadaCase.Turns("overpaid", Employee().Slip(20_000, 981.75m, 0, 328), Employee(2024));
        CanadaCase.Turns("two-plans", One(("plan", 100)).Slip(100, 0, 0, 0, 0, ("place", "qc"), ("quebec", 6)), One(("plan", 100)));
        CanadaCase.Turns("two-premium-rates", One().Slip(100, 0, 0, 0, 0, ("place", "qc")), One());
        CanadaCase.Turns("no-slip", new CanadaCase(2025, "bc").Scope("employment"), One());
    }

    [Fact]
    public void Work_in_Quebec_has_rates_of_its_own()
    {
        var evaluation = new CanadaCase(2025, "on").Slip(60_000, 0, 0, 786, 9_000, ("place", "qc"), ("quebec", 3_616)).Evaluate();
        Assert.Equal((3_051m, 565m, 0m), (evaluation.Amount("contributions.base-credit"), evaluation.Amount("contributions.enhanced"), evaluation.Amount("contributions.plan-overpaid")));
        Assert.Equal(786, evaluation.Amount("contributions.premium-credit"));
    }

    [Theory]
    [InlineData("1955-08-10", 8)]
    [InlineData("1955-12-31", 12)]
    [InlineData("2007-03-31", 9)]
    [InlineData("2007-12-01", 0)]
    [InlineData("1980-01-01", 12)]
    public void Contributions_are_made_from_the_month_after_18_to_the_month_of_70(string born, decimal months) =>
        Assert.Equal(months, new CanadaCase(2025, "bc", born).Slip(1).Evaluate().Amount("contributions.months"));

    [Fact]
    public void Contributions_below_the_exemption_and_small_earnings_are_refunded()
    {
        var evaluation = new CanadaCase(2025, "bc").Slip(2_000, 10, 0, 32.80m).Evaluate();
        Assert.Equal((10m, 32.80m), (evaluation.Amount("contributions.plan-overpaid"), evaluation.Amount("contributions.premiums-overpaid")));
        Assert.Equal(31.81m, new CanadaCase(2025, "bc").Slip(2_000.99m, 0, 0, 32.80m).Evaluate().Amount("contributions.premiums-overpaid"));
    }

    [Fact]
    public void Pensions_and_benefits()
    {
        var couple = new CanadaCase(2025, "on", "1950-01-01").Pension(60_001).Spouse(5_000, claimed: false);
        CanadaCase.Turns("split-above-half", couple.With("benefits.split-given", 30_000.51m), new CanadaCase(2025, "on", "1950-01-01").Pension(60_001).Spouse(5_000).With("benefits.split-given", 30_000.50m));
        CanadaCase.Turns("split-possible", new CanadaCase(2025, "on", "1950-01-01").Pension(60_001).Spouse(5_000), couple);
        CanadaCase.Turns("split-both-ways", new CanadaCase(2025, "on", "1950-01-01").Pension(100).Spouse(5_000).With("benefits.split-given", 1).With("benefits.split-received", 1), couple);
        CanadaCase Insured(decimal regular, object? rate)
        {
            (string, object)[] cells = [("payer", "Commission"), ("total", 20_000), ("regular", regular), .. rate is null ? Array.Empty<(string, object)>() : [("rate", rate)]];
            return new CanadaCase(2025, "on").Scope("benefits").Exempt(80_000).Row("benefits.insurance", cells);
        }

        CanadaCase.Turns("repayment-rate", Insured(20_000, null), Insured(20_000, 30));
        CanadaCase.Turns("regular-above-total", Insured(20_000.01m, 30), Insured(20_000, 30));
        CanadaCase.Turns("benefits-repaid", Insured(20_000, 30), Insured(20_000, 0));
        Assert.Equal(5_362.50m, Insured(20_000, 30).Evaluate().Amount("income.insured-repaid"));
    }

    [Theory]
    [InlineData("plan", "1950-01-01", 2_000)]
    [InlineData("fund", "1950-01-01", 2_000)]
    [InlineData("plan", "1970-01-01", 2_000)]
    [InlineData("fund", "1970-01-01", 0)]
    [InlineData("survivor", "1970-01-01", 2_000)]
    [InlineData("other", "1950-01-01", 0)]
    public void Which_pensions_give_the_pension_amount(string kind, string born, decimal amount) =>
        Assert.Equal(amount, new CanadaCase(2025, "bc", born).Pension(9_000, 0, kind).Evaluate().Amount("federal.pension-amount"));

    [Fact]
    public void A_pension_given_moves_its_tax_and_both_pension_amounts()
    {
        var giver = new CanadaCase(2025, "on", "1950-01-01").Pension(40_000, 6_000).Spouse(5_000, claimed: false).With("benefits.split-given", 20_000).Evaluate();
        Assert.Equal((20_000m, 3_000m, 3_000m), (giver.Amount("income.net-income"), giver.Amount("benefits.split-tax-given"), giver.Amount("balance.deducted")));
        var taker = new CanadaCase(2025, "on", "1952-01-01").Spouse(20_000, claimed: false).With("benefits.split-received", 20_000).With("benefits.split-tax-received", 3_000).Evaluate();
        Assert.Equal((20_000m, 2_000m, 3_000m), (taker.Amount("income.net-income"), taker.Amount("federal.pension-amount"), taker.Amount("balance.deducted")));
    }

    [Fact]
    public void Homes()
    {
        CanadaCase Home(string bought, string sold, string code, int? from, int? to)
        {
            var @case = new CanadaCase(2025, "ab").Scope("home").Row(
                "home.homes", ("address", "Lane"), ("bought", bought), ("sold", sold), ("resident-when-bought", "yes"), ("designation", code), ("proceeds", 500_000), ("cost", 400_000)).Row("home.lived", ("of", 1), ("from", 2016), ("to", 2020));
            return from is { } first ? @case.Row("home.years", ("of", 1), ("from", first), ("to", to!)) : @case;
        }

        CanadaCase.Turns("home.homes.designation:missing", new CanadaCase(2025, "ab").Scope("home").Row("home.homes", ("address", "Lane")), Home("2016-01-01", "2025-06-01", "0", null, null));
        CanadaCase.Turns("no-years-designated", Home("2016-01-01", "2025-06-01", "2", null, null), Home("2016-01-01", "2025-06-01", "2", 2016, 2017));
        CanadaCase.Turns("designated-outside-ownership", Home("2016-01-01", "2025-06-01", "2", 2015, 2017), Home("2016-01-01", "2025-06-01", "2", 2016, 2017));
        CanadaCase.Turns("year-designated-twice", Home("2016-01-01", "2025-06-01", "2", 2016, 2018).Row("home.years", ("of", 1), ("from", 2018), ("to", 2019)), Home("2016-01-01", "2025-06-01", "2", 2016, 2018).Row("home.years", ("of", 1), ("from", 2019), ("to", 2019)));
        CanadaCase.Turns("span-backwards", Home("2016-01-01", "2025-06-01", "2", 2018, 2017), Home("2016-01-01", "2025-06-01", "2", 2018, 2018));
        CanadaCase.Turns("home-held-short", Home("2024-06-02", "2025-06-01", "1", 2024, 2025), Home("2024-06-01", "2025-06-01", "1", 2024, 2025));
        CanadaCase.Turns("sold-in-another-year", Home("2016-01-01", "2024-06-01", "0", null, null), Home("2016-01-01", "2025-06-01", "0", null, null));
        CanadaCase.Turns("designation-code", Home("2016-01-01", "2025-06-01", "1", 2016, 2017), Home("2016-01-01", "2025-06-01", "1", 2016, 2024));
        CanadaCase.Turns("designation-code", Home("2016-01-01", "2025-06-01", "2", 2016, 2024), Home("2016-01-01", "2025-06-01", "2", 2016, 2023));
        CanadaCase.Turns("designation-incomplete", Home("2016-01-01", "2025-06-01", "2", 2016, 2020), Home("2016-01-01", "2025-06-01", "1", 2016, 2024));
        CanadaCase Of2016(int to) => new CanadaCase(2016, "ab").Scope("home")
            .Row("home.homes", ("address", "Lane"), ("bought", "2008-01-01"), ("sold", "2016-06-01"), ("resident-when-bought", "yes"), ("designation", "2"), ("proceeds", 500_000), ("cost", 400_000))
            .Row("home.years", ("of", 1), ("from", 2008), ("to", to));
        CanadaCase.Turns("designation-incomplete", Of2016(2014), Of2016(2015));
        CanadaCase.Turns("designated-beyond-lived", Home("2016-01-01", "2025-06-01", "2", 2016, 2021), Home("2016-01-01", "2025-06-01", "2", 2016, 2020));
        CanadaCase.Turns("designation-number", Home("2016-01-01", "2025-06-01", "3", 2016, 2020), Home("2016-01-01", "2025-06-01", "2", 2016, 2020));
        CanadaCase.Turns("designation-number",
            Home("2016-01-01", "2025-06-01", "2", 2016, 2020).Row("home.homes", ("address", "B"), ("designation", "3")),
            Home("2016-01-01", "2025-06-01", "3", 2016, 2020).Row("home.homes", ("address", "B"), ("designation", "3")));
        var flipped = Home("2024-06-02", "2025-06-01", "1", 2024, 2025).Evaluate();
        Assert.Equal((100_000m, 0m, 100_000m), (flipped.Amount("income.business"), flipped.Amount("income.gains"), flipped.Amount("income.total")));
        CanadaCase.Turns("designation-late", Home("2016-01-01", "2025-06-01", "0", null, null).On(new DateOnly(2026, 5, 1)), Home("2016-01-01", "2025-06-01", "0", null, null).On(new DateOnly(2026, 4, 30)));
    }

    /// <summary>The extra year is only given to who was resident in the year of purchase; years before 1972 do not count (ITA 40(2)(b), 54).</summary>
    [Theory]
    [InlineData("2016-05-01", "yes", 2016, 2020, 60_000)]
    [InlineData("2016-05-01", "no", 2016, 2020, 50_000)]
    [InlineData("1960-05-01", "yes", 1972, 2024, 100_000)]
    public void The_exempt_part(string bought, string resident, int from, int to, decimal exempt) => Assert.Equal(exempt, new CanadaCase(2025, "ab").Scope("home")
        .Row("home.homes", ("address", "Lane"), ("bought", bought), ("sold", "2025-06-01"), ("resident-when-bought", resident), ("designation", "2"), ("proceeds", 500_000), ("cost", 400_000))
        .Row("home.years", ("of", 1), ("from", from), ("to", to)).Evaluate().Amount("home.homes.exempt"));

    [Fact]
    public void Savings()
    {
        CanadaCase Savings(decimal limit, decimal contributed, string how = "all", decimal? part = null)
        {
            var @case = Employee().Scope("retirement").With("retirement.limit-stated", limit).With("retirement.contributions-year", contributed).With("retirement.how", how);
            return part is { } p ? @case.With("retirement.part", p) : @case;
        }

        CanadaCase.Turns("deduction-above-limit", Savings(5_000, 9_000, "part", 5_000.01m), Savings(5_000, 9_000, "part", 5_000));
        CanadaCase.Turns("deduction-above-limit", Savings(5_000, 3_000, "part", 3_000.01m), Savings(5_000, 3_000, "part", 3_000));
        CanadaCase.Turns("over-contributed", Savings(5_000, 7_000.01m), Savings(5_000, 7_000));
        Assert.Equal((5_000m, 4_000m), (Savings(5_000, 9_000).Evaluate().Amount("retirement.deduction"), Savings(5_000, 9_000).Evaluate().Amount("retirement.contributions-left")));
        Assert.Equal(0, Savings(5_000, 9_000, "none").Evaluate().Amount("retirement.deduction"));

        CanadaCase First(decimal contributed, string opened = "no", decimal unused = 8_000) =>
            Employee().Scope("home-savings").With("retirement.home-opened", opened).With("retirement.home-unused-room", unused).With("retirement.home-contributions", contributed).With("retirement.home-how", "all");
        CanadaCase.Turns("home-over-contributed", First(16_000.01m), First(16_000));
        CanadaCase.Turns("home-over-contributed", First(8_000.01m, "yes"), First(8_000, "yes"));
        Assert.Equal(8_000, First(9_000, "yes").Evaluate().Amount("retirement.home-deduction"));
    }

    [Fact]
    public void Work_costs()
    {
        CanadaCase Costs(string certificate, string kind, string commission = "no") => Employee().Scope("work-costs").With("work-costs.certificate", certificate).With("work-costs.commission", commission)
            .With("work-costs.condition", "principal").With("work-costs.area", 10).With("work-costs.home-area", 100).Row("work-costs.costs", ("class", kind), ("amount", 1_000));
        CanadaCase.Turns("no-certificate", Costs("no", "rent"), Costs("yes", "rent"));
        CanadaCase.Turns("mortgage-interest", Costs("yes", "mortgage"), Costs("yes", "heat"));
        CanadaCase.Turns("cost-of-commission-only", Costs("yes", "insurance"), Costs("yes", "insurance", "yes"));
        Assert.Equal((0m, 100m), (Costs("yes", "tax").Evaluate().Amount("work-costs.deduction"), Costs("yes", "tax", "yes").Evaluate().Amount("work-costs.deduction")));
        CanadaCase.Turns("area-above-home", Costs("yes", "rent").With("work-costs.area", 100.1m), Costs("yes", "rent").With("work-costs.area", 100));
        var little = new CanadaCase(2025, "bc").Exempt(60).Scope("work-costs").With("work-costs.condition", "principal").With("work-costs.area", 10).With("work-costs.home-area", 100).Row("work-costs.costs", ("class", "rent"), ("amount", 1_000)).Evaluate();
        Assert.Equal((60m, 40m), (little.Amount("work-costs.deduction"), little.Amount("work-costs.left")));
        Assert.Contains(little.Findings, f => f.Id == "space-carried");
    }

    [Theory]
    [InlineData("2019-01-01", "no", 8_000)]
    [InlineData("2018-12-31", "no", 5_000)]
    [InlineData("2009-01-01", "no", 5_000)]
    [InlineData("2008-12-31", "no", 0)]
    [InlineData("2019-01-01", "yes", 11_000)]
    public void Child_care_by_age(string born, string disabled, decimal counts) => Assert.Equal(counts, Employee().Scope("child-care")
        .Row("child-care.children", ("name", "Jory"), ("birth-date", born), ("disabled", disabled), ("carer", "Nursery"), ("cost", 20_000)).Evaluate().Amount("child-care.deduction"));

    [Fact]
    public void Tuition()
    {
        CanadaCase Student(decimal income, decimal fees, decimal unused = 0, decimal? chosen = null, string province = "bc")
        {
            var @case = new CanadaCase(2025, province, "2005-02-03").Exempt(income).Tuition(fees).With("tuition.federal-unused", unused).With("tuition.designee", "parent").With("tuition.designee-sin", "031017726");
            return chosen is { } amount ? @case.With("tuition.federal-chosen", amount) : @case;
        }

        CanadaCase.Turns("federal-transfer-above-most", Student(0, 9_000, 0, 5_000.01m), Student(0, 9_000, 0, 5_000));
        CanadaCase.Turns("federal-transfer-above-most", Student(20_000, 9_000, 0, 2_601), Student(20_000, 9_000, 0, 2_600));
        CanadaCase.Turns("slip-of-another-student", Student(0, 100).Row("tuition.slips", ("institution", "X"), ("fees", 500), ("student", "031017726")), Student(0, 100).Row("tuition.slips", ("institution", "X"), ("fees", 500), ("student", "012345674")));
        CanadaCase.Turns("fees-too-low", Student(0, 100), Student(0, 100.01m));
        CanadaCase.Turns("designation-unsigned", Student(0, 500).With("tuition.designation-signed", "no"), Student(0, 500).With("tuition.designation-signed", "yes"));

        // Unused amounts of earlier years are used first and never transferred: 20,000 less 16,129 and 1,471 leaves 2,400.
        var earlier = Student(20_000, 4_000, unused: 1_000).Evaluate();
        Assert.Equal((2_400m, 2_600m, 0m), (earlier.Amount("tuition.federal-claimed"), earlier.Amount("tuition.federal-transferred"), earlier.Amount("tuition.federal-carried")));
        var much = Student(0, 1_000, unused: 9_000).Evaluate();
        Assert.Equal((1_000m, 9_000m), (much.Amount("tuition.federal-transferred"), much.Amount("tuition.federal-carried")));

        // Alberta and Ontario have no tuition of the year and no transfer; what is left there is used by the student.
        var alberta = new CanadaCase(2025, "ab", "2005-02-03").Exempt(25_000).Tuition(9_000).With("tuition.alberta-unused", 5_000).Evaluate();
        Assert.Equal((2_677m, 2_323m), (alberta.Amount("tuition.alberta-claimed"), alberta.Amount("tuition.alberta-carried")));

        var training = new CanadaCase(2025, "bc", "1990-01-01").Exempt(40_000).Tuition(1_500).With("tuition.training-balance", 1_000).With("tuition.training-claimed", "yes").Evaluate();
        Assert.Equal((750m, 750m, 750m), (training.Amount("balance.training"), training.Amount("tuition.federal-current"), training.Amount("tuition.bc-current")));
    }

    /// <summary>A loss that has expired is told, and nothing of it is used (ITA 111(1)(a): twenty years).</summary>
    [Theory]
    [InlineData(2004, 0, true)]
    [InlineData(2005, 5_000, false)]
    public void An_expired_loss_is_not_used(int year, decimal used, bool told)
    {
        var evaluation = Employee().Scope("losses").Row("income.losses", ("year", year), ("amount", 5_000)).Evaluate();
        Assert.Equal((used, used), (evaluation.Amount("income.losses-used"), evaluation.Amount("income.losses.used")));
        Assert.Equal(0, evaluation.Amount("income.losses.left"));
        Assert.Equal(told, evaluation.Findings.Any(f => f.Id == "losses-expired"));
    }

    [Fact]
    public void Medical_expenses_and_gifts()
    {
        CanadaCase.Turns("receipt-outside-window", Employee().Receipt(100, "2024-12-31"), Employee().Receipt(100, "2025-01-01"));
        CanadaCase.Turns("receipt-outside-window", Employee().Receipt(100, "2025-09-01").With("medical.window-end", "2025-08-31"), Employee().Receipt(100, "2024-09-01").With("medical.window-end", "2025-08-31"));
        CanadaCase.Turns("window-outside-year", Employee().Receipt(1).With("medical.window-end", "2024-12-31"), Employee().Receipt(1).With("medical.window-end", "2025-01-01"));
        CanadaCase.Turns("medical-below-threshold", Employee().Receipt(2_020), Employee().Receipt(2_021));
        CanadaCase.Turns("medical-on-lower-income", Employee().Receipt(5_000).Spouse(60_000, false), Employee().Receipt(5_000).Spouse(67_500, false));
        CanadaCase.Turns("gifts-above-limit", new CanadaCase(2025, "bc").Exempt(10_000).Gift(9_000).With("gifts.how", "part").With("gifts.part", 7_500.01m), new CanadaCase(2025, "bc").Exempt(10_000).Gift(9_000).With("gifts.how", "part").With("gifts.part", 7_500));
        CanadaCase.Turns("gift-expired", Employee().Gift(1).Row("gifts.carried", ("year", 2019), ("amount", 50)), Employee().Gift(1).Row("gifts.carried", ("year", 2020), ("amount", 50)));
        static CanadaCase Carried(int year) => new CanadaCase(2025, "bc").Exempt(10_000).Gift(9_000).Row("gifts.carried", ("year", year), ("amount", 600));
        CanadaCase.Turns("gifts-expire", Carried(2020), Carried(2021));
        CanadaCase.Turns("gifts-expire", Carried(2020), Carried(2019));
        CanadaCase.Turns("gift-of-another-year", Employee(2025).Scope("gifts").Row("gifts.gifts", ("charity", "C"), ("date", "2026-01-01"), ("amount", 5)), Employee(2024).Scope("gifts").Row("gifts.gifts", ("charity", "C"), ("date", "2025-02-28"), ("amount", 5)));
        CanadaCase.Turns("gift-credit-lost", new CanadaCase(2025, "bc").Exempt(18_000).Gift(3_000), new CanadaCase(2025, "bc").Exempt(30_000).Gift(3_000));
        var carried = new CanadaCase(2025, "bc").Exempt(10_000).Gift(9_000).Row("gifts.carried", ("year", 2020), ("amount", 600)).Row("gifts.carried", ("year", 2023), ("amount", 400)).Evaluate();
        Assert.Equal((7_500m, 2_500m), (carried.Amount("gifts.claimed"), carried.Amount("gifts.left-of-year")));
        Assert.Equal((600m, 400m, 0m), (carried.Amount("gifts.carried.used", 0), carried.Amount("gifts.carried.used", 1), carried.Amount("gifts.carried.left", 0)));
    }

    [Fact]
    public void Amounts_and_the_balance()
    {
        CanadaCase.Turns("basic-reduced", new CanadaCase(2025, "ab").Exempt(177_882.01m), new CanadaCase(2025, "ab").Exempt(177_882));
        CanadaCase.Turns("foreign-property-report", Employee().Scope("foreign-property").With("scope.foreign-property-reported", "no"), Employee().Scope("foreign-property").With("scope.foreign-property-reported", "yes"));
        CanadaCase.Turns("disability-not-certified", Employee().Scope("disability").With("federal.certificate", "no"), Employee().Scope("disability").With("federal.certificate", "yes"));
        CanadaCase.Turns("capital-losses-above-gains", Employee().Scope("losses").With("income.capital-losses-at-most", 1), Employee().Scope("losses").With("income.capital-losses-at-most", 0));
        CanadaCase.Turns("child-care-on-higher-return", WithCare(40_000), WithCare(70_000));
        CanadaCase.Turns("business-elsewhere", Employee().Business(900).Row("business.businesses", ("description", "B"), ("place", "sk"), ("gross", 1)), Employee().Business(900));
        CanadaCase.Turns("child-care-not-claimed", Young("2009-01-01"), Young("2008-12-31"));
        CanadaCase.Turns("no-account", Employee(2024), Employee(2024).With("payout.account-number", "100208090001"));
        CanadaCase.Turns("not-authorised", Employee().With("declaration.authorised", "no"), Employee().With("declaration.authorised", "yes"));
        CanadaCase.Turns("minimum-tax", new CanadaCase(2025, "ab").Scope("gains").Row("gains.sales", ("description", "Shares"), ("kind", "shares"), ("proceeds", 600_000), ("cost", 0)), new CanadaCase(2025, "ab").Exempt(300_000));
        CanadaCase.Turns("top-up", new CanadaCase(2025, "bc").Exempt(90_000).Receipt(60_000), new CanadaCase(2024, "bc").Exempt(90_000).Receipt(60_000));
        CanadaCase.Turns("instalments-ahead", new CanadaCase(2025, "ab").Exempt(60_000).With("balance.owing-last-year", 3_000.01m), new CanadaCase(2025, "ab").Exempt(60_000).With("balance.owing-last-year", 3_000));

        static CanadaCase Young(string born) => Employee().Scope("dependants").Row("family.dependants", ("name", "J"), ("relation", "child"), ("birth-date", born));
        static CanadaCase WithCare(decimal spouse) => Employee().Spouse(spouse, false).Scope("child-care").Row("child-care.children", ("name", "J"), ("birth-date", "2019-01-01"), ("carer", "N"), ("cost", 900));
    }

    [Theory]
    [InlineData(2.00, 0)]
    [InlineData(2.01, 2.01)]
    [InlineData(-2.00, 0)]
    [InlineData(-2.01, -2.01)]
    public void Small_balances_are_neither_charged_nor_refunded(decimal difference, decimal balance)
    {
        var owed = new CanadaCase(2025, "ab").Exempt(50_000).Evaluate().Amount("balance.payable");
        Assert.Equal(balance, new CanadaCase(2025, "ab").Exempt(50_000, owed - difference).Evaluate().Balance);
    }

    /// <summary>Days by ITA 150(1), 156.1, 248(1), moved off weekends: typed anew from the sheet.</summary>
    [Theory]
    [InlineData(2016, false, null, "2017-05-01", "2017-05-01")]
    [InlineData(2023, false, null, "2024-04-30", "2024-04-30")]
    [InlineData(2023, true, null, "2024-06-17", "2024-04-30")]
    [InlineData(2024, true, null, "2025-06-16", "2025-04-30")]
    [InlineData(2025, true, null, "2026-06-15", "2026-04-30")]
    [InlineData(2025, false, "2025-10-31", "2026-04-30", "2026-04-30")]
    [InlineData(2025, false, "2025-11-20", "2026-05-20", "2026-05-20")]
    [InlineData(2025, true, "2025-11-20", "2026-06-15", "2026-05-20")]
    public void Days(int year, bool business, string? died, string filing, string payment)
    {
        var @case = new CanadaCase(year, "ab");
        var evaluation = (died is null ? @case : @case.With("scope.died-on", died)).With("scope.business", business ? "yes" : "no").Evaluate();
        Assert.Equal((filing, payment), (Day("filing"), Day("payment")));

        string Day(string act) => evaluation.Deadlines.Single(d => d.Act == act).Day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
    }

    [Fact]
    public void Last_days_of_contributions_and_gifts() => Assert.Equal(
        ["2024-02-29", "2025-03-03", "2026-03-02", "2025-02-28", "2025-12-31"],
        new[]
        {
            new Canada.Parameters.FederalLaw(2023).LastContribution, new Canada.Parameters.FederalLaw(2024).LastContribution, new Canada.Parameters.FederalLaw(2025).LastContribution,
            new Canada.Parameters.FederalLaw(2024).LastGift, new Canada.Parameters.FederalLaw(2025).LastGift,
        }.Select(d => d.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture)));

    /// <summary>Tax at the bracket tops as the sheet computes them, the zero points of age and caregiver amounts, the ends of the Ontario health premium's stretches.</summary>
    [Fact]
    public void Edges_of_the_tables()
    {
        Assert.Equal([8_380.05m, 19_832.58m, 35_815.30m, 57_143.93m], new[] { 55_867m, 111_733m, 173_205m, 246_752m }.Select(i => Rounded(new Canada.Parameters.FederalLaw(2024).Brackets.Apply(i))));
        Assert.Equal([8_319.38m, 20_081.25m, 36_495.57m, 58_399.85m], new[] { 57_375m, 114_750m, 177_882m, 253_414m }.Select(i => Rounded(new Canada.Parameters.FederalLaw(2025).Brackets.Apply(i))));
        var premium = new Canada.Parameters.OntarioLaw(2025).HealthPremium;
        Assert.Equal(
            [0m, 0.06m, 300m, 300m, 450m, 450m, 600m, 600m, 750m, 750m, 900m, 900m],
            new[] { 20_000m, 20_001m, 25_000m, 36_000m, 38_500m, 48_000m, 48_600m, 72_000m, 72_600m, 200_000m, 200_600m, 999_999m }.Select(premium.Apply));
        Assert.Equal((0.15m, 0m), (Age("ab", 105_707.67m), Age("ab", 105_708.67m)));

        static decimal Rounded(decimal tax) => Math.Round(tax, 2, MidpointRounding.AwayFromZero);
        static decimal Age(string province, decimal income) => new CanadaCase(2025, province, "1955-01-01").Pension(income, 0, "other").Evaluate().Amount("federal.age-amount");
    }

    [Fact]
    public void What_is_entered_twice_and_who_counts()
    {
        CanadaCase.Turns("gift-twice", Employee().Gift(5).Row("gifts.gifts", ("charity", "Charity 0"), ("date", "2025-06-15"), ("amount", 5)), Employee().Gift(5).Gift(5));
        CanadaCase.Turns("instalment-twice", Paid("2025-09-15"), Paid("2025-12-15"));
        CanadaCase.Turns("receipt-twice", Employee().Receipt(5).Row("medical.receipts", ("date", "2025-06-15"), ("what", "Dentist 0"), ("amount", 5)), Employee().Receipt(5).Receipt(5));
        CanadaCase.Turns("tuition-slip-twice", Employee().Tuition(500).Row("tuition.slips", ("institution", "College 0"), ("fees", 500)), Employee().Tuition(500).Tuition(500));
        CanadaCase.Turns("children-on-lower-return", Child(90_000, "2008-01-01"), Child(60_000, "2008-01-01"));
        CanadaCase.Turns("children-not-counted", Child(60_000, "2008-01-01", counts: "no"), Child(90_000, "2008-01-01", counts: "no"));
        CanadaCase.Turns("dependant-too-old", Eligible("2007-12-31"), Eligible("2008-01-01"));
        CanadaCase.Turns("several-eligible", Eligible("2010-01-01").Row("family.dependants", ("name", "L"), ("relation", "child"), ("birth-date", "2011-01-01"), ("net-income", 0), ("eligible-dependant", "yes")), Eligible("2010-01-01"));
        Assert.Equal((16_129 - 500m, 11_073m), (Eligible("2010-01-01").Evaluate().Amount("federal.eligible-dependant"), Eligible("2010-01-01").Evaluate().Amount("bc.eligible-dependant")));

        Assert.Equal(10_772m, Eligible("2010-01-01", 2024).Evaluate().Amount("bc.eligible-dependant"));

        // A dependant who earns more than the base gives nothing, and takes nothing, before tuition either.
        CanadaCase Student2016(string claimed) => new CanadaCase(2016, "on").Exempt(60_000).With("scope.spouse", "no").Scope("dependants").Tuition(5_000)
            .Row("family.dependants", ("name", "J"), ("relation", "child"), ("birth-date", "2001-01-01"), ("net-income", 20_000), ("eligible-dependant", claimed));
        Assert.Equal(Student2016("no").Evaluate().Amount("ontario.before-tuition"), Student2016("yes").Evaluate().Amount("ontario.before-tuition"));

        static CanadaCase Paid(string second) => Employee().Scope("instalments").Row("balance.instalments", ("date", "2025-09-15"), ("amount", 9)).Row("balance.instalments", ("date", second), ("amount", 9));
        static CanadaCase Child(decimal spouse, string born, string counts = "yes") => Employee(province: "on").Spouse(spouse, false).Scope("dependants")
            .Row("family.dependants", ("name", "J"), ("relation", "child"), ("birth-date", born), ("net-income", 0), ("counts-here", counts));
        static CanadaCase Eligible(string born, int year = 2025) => Employee(year).With("scope.spouse", "no").Scope("dependants")
            .Row("family.dependants", ("name", "J"), ("relation", "child"), ("birth-date", born), ("net-income", 500), ("eligible-dependant", "yes"));
    }

    /// <summary>British Columbia's reduction: the full amount to 25,020, less 3.56% above, gone at 40,806.52; Ontario's age amount shrinks by 15% above 46,330.</summary>
    [Theory]
    [InlineData(25_020, 562)]
    [InlineData(30_000, 384.71)]
    [InlineData(40_806, 0.02)]
    [InlineData(40_807, 0)]
    public void The_reduction_of_British_Columbia(decimal income, decimal reduction) => Assert.Equal(reduction, new CanadaCase(2025, "bc").Pension(income, 0, "other").Evaluate().Amount("bc.reduction"));

    [Theory]
    [InlineData(2024, 45_068, 6_054)]
    [InlineData(2024, 50_000, 5_314.20)]
    [InlineData(2025, 87_816, 0.10)]
    public void The_age_amount_of_Ontario(int year, decimal income, decimal amount) => Assert.Equal(amount, new CanadaCase(year, "on", "1950-01-01").Pension(income, 0, "other").Evaluate().Amount("ontario.age-amount"));

    [Theory]
    [InlineData(2024, 45_400, 6_099)]
    [InlineData(2024, 50_000, 5_409)]
    [InlineData(2025, 87_781, 0.05)]
    public void The_age_amount_of_Alberta(int year, decimal income, decimal amount) => Assert.Equal(amount, new CanadaCase(year, "ab", "1950-01-01").Pension(income, 0, "other").Evaluate().Amount("alberta.age-amount"));

    /// <summary>Training credit of 2024: half of the fees, at most the balance.</summary>
    [Theory]
    [InlineData(1_500, 1_000, 750)]
    [InlineData(1_500, 500, 500)]
    public void The_training_credit(decimal fees, decimal balance, decimal credit)
    {
        var student = new CanadaCase(2024, "on", "1990-01-01").Exempt(40_000).Tuition(fees).With("tuition.training-balance", balance).With("tuition.training-claimed", "yes").Evaluate();
        Assert.Equal((credit, credit, fees - credit), (student.Amount("tuition.training"), student.Amount("balance.training"), student.Amount("tuition.federal-current")));
    }

    /// <summary>Tax never falls as income rises, in every province: what one more dollar costs is never below zero (the low-income credit and reductions phase out, they do not jump).</summary>
    [Theory]
    [InlineData("bc")]
    [InlineData("ab")]
    [InlineData("on")]
    public void Tax_never_falls_as_income_rises(string province)
    {
        var before = 0m;
        for (var income = 0m; income <= 320_000; income += 497)
        {
            var payable = new CanadaCase(2025, province).Pension(income, 0, "other").Evaluate().Amount("balance.payable");
            Assert.InRange(payable, before, before + 497);
            before = payable;
        }
    }

    [Fact]
    public void In_a_year_without_tables_the_tax_of_the_province_is_entered()
    {
        CanadaCase.Turns("bc-by-hand", new CanadaCase(2023, "bc").Exempt(50_000), new CanadaCase(2023, "bc").Exempt(50_000).With("bc.tax-entered", 2_000));
        Assert.DoesNotContain(new CanadaCase(2023, "bc").Exempt(50_000).Evaluate().Findings, f => f.Id is "ontario-by-hand" or "alberta-by-hand");
        Assert.Equal(2_000, new CanadaCase(2023, "bc").Exempt(50_000).With("bc.tax-entered", 2_000).Evaluate().Amount("balance.provincial"));
    }
}
