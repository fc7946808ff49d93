using Aerarium.Core.Identifiers;
using Aerarium.Countries.Germany;

namespace Aerarium.Countries.Tests;

/// <summary>Every finding of Germany's return on both sides of its edge, identifiers, holidays and the days of filing.</summary>
public class GermanyFindingsTests
{
    private static void Turns(string finding, GermanyCase with, GermanyCase without)
    {
        Assert.Contains(with.Evaluate().Findings, f => f.Id == finding);
        Assert.DoesNotContain(without.Evaluate().Findings, f => f.Id == finding);
    }

    private static GermanyCase New(int year = 2024) => new(year);

    private static GermanyCase Employee(decimal gross = 40_000, decimal tax = 5_000, params (string, object)[] more) => New().Wages(gross, tax, "", more);

    /// <summary>The numbers of the sheet: check digit by ISO/IEC 7064, MOD 11,10, and the structure of the first ten digits.</summary>
    [Theory]
    [InlineData("72041963532", true)]
    [InlineData("21398475611", true)]
    [InlineData("13141567822", true)]
    [InlineData("72 041 963 532", true)]
    [InlineData("72041963533", false)]
    [InlineData("07234561891", false)]
    [InlineData("12345678903", false)]
    [InlineData("44481239053", false)]
    [InlineData("7204196353", false)]
    public void Identification_numbers(string number, bool valid) => Assert.Equal(valid, GermanyIdentifiers.Person.Accepts(IdentifierRule.Normalise(number)));

    [Theory]
    [InlineData("9214031740526", true)]
    [InlineData("2618034251607", true)]
    [InlineData("9214131740526", false)]
    [InlineData("2618034251", false)]
    public void Tax_numbers(string number, bool valid) => Assert.Equal(valid, GermanyIdentifiers.TaxNumber.Accepts(number));

    /// <summary>The example account of the German banking industry, as it stands in the registry of IBANs (ISO 13616); from memory.</summary>
    [Theory]
    [InlineData("DE89370400440532013000", true)]
    [InlineData("DE89370400440532013001", false)]
    [InlineData("DE88370400440532013000", false)]
    [InlineData("GB29NWBK60161331926819", false)]
    public void Accounts(string iban, bool valid) => Assert.Equal(valid, GermanyIdentifiers.Account.Accepts(iban));

    /// <summary>Days from Monday to Friday without holidays, counted by a program apart from this one; some 220 to 230 less leave are usual (common practice, no source).</summary>
    [Theory]
    [InlineData("be", 2024, 252)]
    [InlineData("by", 2024, 250)]
    [InlineData("hh", 2024, 252)]
    [InlineData("sn", 2024, 251)]
    [InlineData("be", 2025, 251)]
    [InlineData("nw", 2025, 251)]
    [InlineData("mv", 2022, 253)]
    [InlineData("mv", 2023, 250)]
    public void Working_days_of_a_state(string state, int year, int days) => Assert.Equal(days, GermanyHolidays.WorkingDays(state, year));

    /// <summary>AO s. 149, EGAO art. 97 s. 36, s. 108(3): the days of the sheet's table.</summary>
    [Theory]
    [InlineData(2022, "2024-07-31", "2023-10-02", "2026-12-31")]
    [InlineData(2023, "2025-06-02", "2024-09-02", "2027-12-31")]
    [InlineData(2024, "2026-04-30", "2025-07-31", "2029-01-02")]
    [InlineData(2025, "2027-03-01", "2026-07-31", "2029-12-31")]
    public void Days_of_filing(int year, string advised, string alone, string voluntary)
    {
        GermanyCase Compulsory() => New(year).Wages(40_000).Scope("benefits").Row("wages.benefits", ("kind", "sickness"), ("payer", "Fund"), ("amount", 411));
        string Day(GermanyCase entered) => entered.Evaluate().Deadlines.Single(d => d.Act == "filing").Day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal((advised, alone, voluntary), (Day(Compulsory()), Day(Compulsory().With("scope.advised", "no")), Day(New(year).Wages(40_000))));
    }

    [Fact]
    public void The_person()
    {
        Turns("not-resident", New().With("scope.resident", "no"), New());
        Turns("same-number", New().Couple().With("taxpayer.number", "72041963532").With("taxpayer.spouse-number", "72041963532"), New().Couple().With("taxpayer.number", "72041963532").With("taxpayer.spouse-number", "21398475611"));
        Turns("born-later", New().With("taxpayer.birth-date", "2025-01-01"), New().With("taxpayer.birth-date", "2024-12-31"));
        Turns("spouse-born-later", New().Couple().With("taxpayer.spouse-birth-date", "2025-01-01"), New().Couple().With("taxpayer.spouse-birth-date", "2024-12-31"));
        Turns("no-tax-number", New(), New().With("scope.first-return", "yes"));
        Turns("no-tax-number", New(), New().With("taxpayer.tax-number", "9214031740526"));
        Turns("taxpayer.spouse-number:missing", New().Couple(), New());
    }

    [Fact]
    public void Wage_statements()
    {
        Turns("no-statement", New().Scope("employed"), Employee());
        Turns("several-statements", Employee().Wages(900, 0, "", ("class", "6")), Employee().Wages(900));
        Turns("part-above-wage", Employee(1_000, 0, ("pensions", 1_001)), Employee(1_000, 0, ("pensions", 1_000)));
        Turns("part-above-wage", Employee(1_000, 0, ("severance", 1_001)), Employee(1_000, 0, ("severance", 1_000)));
        Turns("tax-without-wage", Employee(0, 1), Employee(0, 1, ("several", 100)));
        Turns("outside-year", Employee(9, 0, ("from", "2023-12-31")), Employee(9, 0, ("from", "2024-01-01")));
        Turns("outside-year", Employee(9, 0, ("until", "2025-01-01")), Employee());
        Turns("outside-year", Employee(9, 0, ("from", "2024-05-02"), ("until", "2024-05-01")), Employee(9, 0, ("from", "2024-05-02"), ("until", "2024-05-02")));
        Turns("statement-twice", Employee().Wages(40_000), Employee().Wages(40_001));
        Turns("pension-differs", Employee(9, 0, ("employee-pension", 100), ("employer-pension", 94.99m)), Employee(9, 0, ("employee-pension", 100), ("employer-pension", 95)));
        Turns("health-missing", Employee(6_457), Employee(6_456));
        Turns("health-missing", Employee(6_457), Employee(6_457, 0, ("health", 1)));
        Turns("no-wage-tax", Employee(13_015, 0), Employee(13_014, 0));
        Turns("no-wage-tax", Employee(13_015, 0), Employee(13_015, 0, ("class", "3")));
        Turns("reduced-rate", Employee(9, 0, ("several", 5)), Employee(9, 0, ("several", 5), ("several-tax", 1)));
        Turns("reduced-rate", New(2025).Wages(9, 0, "", ("several", 5), ("several-tax", 1)), New(2025).Wages(9));
        Turns("one-fifth-unasked", Employee(9, 0, ("severance", 5), ("severance-qualifies", "no")), Employee(9, 0, ("severance", 5), ("severance-qualifies", "yes")));
    }

    [Fact]
    public void Ways_to_work_and_work_at_home()
    {
        Turns("no-way", Employee().Scope("commuting"), Employee().Way(1, 1));
        Turns("car-further", Employee().Way(1, 10, 10.1m), Employee().Way(1, 10, 10));
        Turns("many-days", Employee().Way(231, 1), Employee().Way(230, 1));
        Turns("long-way", Employee().Way(101, 100.1m), Employee().Way(100, 100.1m));
        Turns("more-than-working-days", Employee().Way(221, 1).With("work-costs.leave", 32), Employee().Way(221, 1).With("work-costs.leave", 31));
        Turns("tickets-higher", Employee().Way(10, 10, 0, 30.01m), Employee().Way(10, 10, 0, 30));
        Turns("cap-reached", Employee().Way(200, 64), Employee().Way(200, 62));
        Turns("more-days-than-year", Employee().Way(166, 1).Scope("home-office").With("work-costs.home-office-days", 201), Employee().Way(166, 1).Scope("home-office").With("work-costs.home-office-days", 200));
        Turns("more-days-than-year", Employee().Way(166, 1).Scope("home-office").With("work-costs.home-office-days", 201), Employee().Way(166, 1).Scope("home-office").With("work-costs.home-office-days", 201).With("work-costs.other-workplace", "no"));
        Turns("many-days-together", Employee().Way(30, 1).Scope("home-office").With("work-costs.home-office-days", 201), Employee().Way(30, 1).Scope("home-office").With("work-costs.home-office-days", 200));
        Turns("days-above-limit", Employee().Scope("home-office").With("work-costs.home-office-days", 211), Employee().Scope("home-office").With("work-costs.home-office-days", 210));
        Turns("workroom-instead", Employee().Scope("home-office").With("work-costs.home-office-days", 1).With("work-costs.workroom", "lump-sum"), Employee().Scope("home-office").With("work-costs.home-office-days", 1).With("work-costs.workroom", "none"));
    }

    [Fact]
    public void Other_costs_of_work()
    {
        GermanyCase Tool(decimal net, decimal gross, string bought = "2024-03-01") => Employee().Scope("tools").Row("work-costs.tools", ("what", "Lamp"), ("bought", bought), ("net", net), ("gross", gross));
        GermanyCase Cost(string kind, decimal amount, string receipts = "no") => Employee().Scope("tools").Row("work-costs.costs", ("class", kind), ("amount", amount), ("receipts", receipts));
        Turns("net-above-gross", Tool(101, 100), Tool(100, 100));
        Turns("bought-later", Tool(1, 2, "2025-01-01"), Tool(1, 2, "2024-12-31"));
        Turns("work-costs.tools.life:missing", Tool(800.01m, 952), Tool(800, 952));
        Turns("fee-without-receipt", Cost("account-fee", 17), Cost("account-fee", 16));
        Turns("fee-without-receipt", Cost("account-fee", 17), Cost("account-fee", 17, "yes"));
        Turns("equipment-without-receipt", Cost("equipment", 111), Cost("equipment", 110));
        Turns("no-own-home", Employee().Scope("second-household").With("work-costs.second-own-home", "no"), Employee().Scope("second-household").With("work-costs.second-own-home", "yes"));
        GermanyCase Rent(decimal rent) => Employee().Scope("second-household").With("work-costs.second-own-home", "yes").With("work-costs.second-months", 3).With("work-costs.second-rent", rent);
        Turns("rent-above-limit", Rent(3_000.01m), Rent(3_000));
        Turns("under-lump-sum", Cost("other", 1_230), Cost("other", 1_231));
        Turns("wage-small", Cost("other", 40_001), Cost("other", 40_000));
    }

    [Fact]
    public void Provident_and_special_expenses()
    {
        Turns("refund-above", Employee(9, 0, ("health", 100)).With("provident.refunded", 101), Employee(9, 0, ("health", 100)).With("provident.refunded", 100));
        Turns("other-no-effect", Employee(9, 0, ("care", 1_900), ("unemployment", 1)), Employee(9, 0, ("care", 1_899), ("unemployment", 1)));
        Turns("church-excess", Employee().With("special.church-refunded", 1), Employee().With("special.church-refunded", 1).With("special.church-paid", 1));
        GermanyCase Gift(decimal amount, string kind = "charity", string proof = "statement") => Employee(31_230).Scope("donations").Row("special.gifts", ("recipient", "Aid"), ("kind", kind), ("amount", amount), ("proof", proof));
        Turns("proof", Gift(300.01m), Gift(300));
        Turns("proof", Gift(300.01m), Gift(300.01m, "charity", "receipt"));
        Turns("donations-carried", Gift(6_000.01m), Gift(6_000));
        Turns("parties", Gift(100, "party"), Gift(100));
        GermanyCase Maintenance(string consent) => Employee().Scope("maintenance").With("special.maintenance", 9_000).With("special.maintenance-consent", consent).With("special.maintenance-recipient", "13141567822");
        Turns("no-consent", Maintenance("no"), Maintenance("yes"));
        Assert.Equal((0m, 9_000m), (Maintenance("no").Evaluate().Amount("special.maintenance-allowed"), Maintenance("yes").Evaluate().Amount("special.maintenance-allowed")));
        Turns("special.maintenance-recipient:missing", Employee().Scope("maintenance").With("special.maintenance", 1), Maintenance("yes"));
    }

    [Fact]
    public void Children_burdens_and_household()
    {
        GermanyCase Child(string born, params (string, object)[] more)
        {
            var entered = Employee(90_000).Child(born);
            foreach (var (line, value) in more)
            {
                entered.Entries.Rows["children.children"][0].Values[line] = $"{value}";
            }

            return entered;
        }

        Turns("no-child", Employee().Scope("children"), Child("2020-01-01"));
        Turns("child-born-later", Child("2025-01-01"), Child("2024-12-31"));
        Turns("care-too-old", Child("2010-01-01", ("care", 1)), Child("2010-01-02", ("care", 1)));
        Turns("away-too-young", Child("2007-01-01", ("months-away", 1)), Child("2006-12-31", ("months-away", 1)));
        Turns("better", Child("2015-01-01"), Employee(20_000).Child());
        GermanyCase Burden(decimal cost, decimal refunded) => Employee(31_230).Scope("burdens").Row("burdens.costs", ("what", "Crown"), ("kind", "medical"), ("cost", cost), ("refunded", refunded));
        Turns("refund-above-cost", Burden(100, 101), Burden(100, 100));
        Turns("no-effect", Burden(100, 0), Burden(5_000, 0));
        GermanyCase Work(string kind, decimal total, decimal labour, string account = "yes") => Employee().Scope("household-work").Row("household.work", ("kind", kind), ("payee", "R"), ("total", total), ("labour", labour), ("account", account));
        Turns("no-work", Employee().Scope("household-work"), Work("service", 10, 10));
        Turns("labour-above", Work("craftsman", 100, 101), Work("craftsman", 100, 99));
        Turns("cash", Work("service", 10, 10, "no"), Work("mini-job", 10, 10, "no"));
        Turns("labour-unclear", Work("craftsman", 100, 100), Work("craftsman", 100, 99));
        Turns("labour-unclear", Work("craftsman", 100, 0), Work("craftsman", 100, 1));
        Turns("at-most", Work("craftsman", 9_000, 6_000), Work("craftsman", 9_000, 5_999));
        Turns("credit-lost", New().Wages(15_000).Scope("household-work").Row("household.work", ("kind", "service"), ("payee", "R"), ("total", 9_000), ("account", "yes")), Work("service", 100, 100));
    }

    [Fact]
    public void Tax_and_duty()
    {
        GermanyCase Benefits(decimal amount) => Employee(40_000, 9_000).Scope("benefits").Row("wages.benefits", ("kind", "sickness"), ("payer", "Fund"), ("amount", amount));
        Turns("not-computed", Employee().Scope("other-income").With("income.other-income", 5), Employee());
        Turns("hardship", Employee().Scope("other-income").With("income.other-income", 819), Employee().Scope("other-income").With("income.other-income", 820));
        Turns("progression-and-one-fifth", Employee(9_000, 0, ("several", 500)).Scope("benefits").Row("wages.benefits", ("kind", "sickness"), ("payer", "Fund"), ("amount", 1)), Benefits(1));
        Turns("compulsory", Benefits(410.01m), Benefits(410));
        Turns("church-share", New().Couple().With("taxpayer.religion", "ev").Wages(40_000), New().Couple().With("taxpayer.religion", "ev").With("taxpayer.spouse-religion", "rk").Wages(40_000));
        Turns("church-share", New().Couple().With("taxpayer.spouse-religion", "rk").Wages(40_000), New().Couple().Wages(40_000));
        Turns("withheld-without-church", Employee(9, 0, ("church-tax", 1)), Employee(9, 0, ("church-tax", 1)).With("taxpayer.religion", "ev"));
        Turns("church-without-withheld", Employee().With("taxpayer.religion", "ev"), Employee().With("taxpayer.religion", "ev").With("taxpayer.church-months", 3));
        Turns("voluntary", Employee(20_000), Benefits(411));
        Turns("voluntary-to-pay", Employee(40_000, 0), Employee(20_000));
        Turns("too-late", Employee().On(new DateOnly(2029, 1, 3)), Employee().On(new DateOnly(2029, 1, 2)));
        Turns("late", Benefits(411).On(new DateOnly(2026, 5, 1)), Benefits(411).On(new DateOnly(2026, 4, 30)));
        Turns("late-automatic", Employee(90_000, 0).Scope("benefits").Row("wages.benefits", ("kind", "sickness"), ("payer", "Fund"), ("amount", 411)).On(new DateOnly(2026, 5, 1)), Benefits(411).On(new DateOnly(2026, 5, 1)));
        Turns("late-discretion", Benefits(411).With("scope.advised", "no").On(new DateOnly(2025, 8, 1)), Benefits(411).With("scope.advised", "no").On(new DateOnly(2025, 7, 31)));
    }

    /// <summary>EStG s. 46(2), EStDV s. 56: what makes the return compulsory, on both sides of each edge.</summary>
    [Fact]
    public void What_makes_a_return_compulsory()
    {
        static bool Duty(GermanyCase entered) => entered.Evaluate().IsYes("balance.duty");
        GermanyCase Other(decimal amount) => Employee().Scope("other-income").With("income.other-income", amount);
        GermanyCase WithoutWages(decimal amount) => New().With("scope.employed", "no").Scope("other-income").With("income.other-income", amount);
        GermanyCase Spouses(string own, string other) => New().Couple().Wages(40_000, 1, "", ("class", own)).Wages(20_000, 1, "-spouse", ("class", other));
        Assert.Equal((false, true), (Duty(Other(410)), Duty(Other(410.01m))));
        Assert.Equal((false, true), (Duty(WithoutWages(11_784)), Duty(WithoutWages(11_784.01m))));
        Assert.Equal((false, true, true), (Duty(Spouses("4", "4")), Duty(Spouses("3", "5")), Duty(Spouses("5", "3"))));
        Assert.Equal((false, true), (Duty(New().Couple().Wages(20_000, 1, "-spouse")), Duty(Employee().Wages(900, 0, "-spouse").Wages(900, 0, "", ("class", "6")))));
        Assert.True(Duty(Employee(9_000, 0, ("several", 100))));
        Assert.Equal((1, 0), (New().Couple().Wages(20_000, 1, "-spouse").Scope("other-income").With("income.other-income", 819).Evaluate().Amount("tax.hardship"), WithoutWages(819).Evaluate().Amount("tax.hardship")));
    }

    /// <summary>Both spouses swapped give the same family; church tax of one member is shared by each one's tax.</summary>
    [Fact]
    public void Spouses_swapped()
    {
        GermanyCase Couple(string own, string other) => New().Couple().Wages(62_000, 9_000, own, ("employee-pension", 5_000), ("employer-pension", 5_000), ("health", 4_000)).Wages(31_000, 2_000, other, ("care", 500));
        var (one, swapped) = (Couple("", "-spouse").Evaluate(), Couple("-spouse", "").Evaluate());
        Assert.Equal(one.Outcome.Select(o => o.Amount), swapped.Outcome.Select(o => o.Amount));
        var member = Couple("", "-spouse").With("taxpayer.religion", "ev").Evaluate();
        var other = Couple("-spouse", "").With("taxpayer.spouse-religion", "ev").Evaluate();
        Assert.Equal(member.Amount("tax.church-tax"), other.Amount("tax.church-tax"));
        Assert.InRange(member.Amount("tax.church-tax"), 1, Couple("", "-spouse").With("taxpayer.religion", "ev").With("taxpayer.spouse-religion", "ev").Evaluate().Amount("tax.church-tax") - 1);
    }

    /// <summary>Equipment above the limit is spread month by month over its life; the months of all years are those of its life.</summary>
    [Theory]
    [InlineData("2024-03-15", 3, 1_200, "2024:333.33")]
    [InlineData("2022-11-01", 3, 1_200, "2022:66.67 2023:400 2024:400 2025:333.33")]
    [InlineData("2024-03-15", 1, 1_200, "2024:1200 2025:0")]
    public void Equipment_is_written_off(string bought, int life, decimal price, string years)
    {
        foreach (var part in years.Split(' ').Select(y => y.Split(':')))
        {
            var year = int.Parse(part[0], System.Globalization.CultureInfo.InvariantCulture);
            Assert.Equal(
                decimal.Parse(part[1], System.Globalization.CultureInfo.InvariantCulture),
                New(year).Wages(40_000).Scope("tools").Row("work-costs.tools", ("what", "Desk"), ("bought", bought), ("net", 1_008), ("gross", price), ("life", life)).Evaluate().Amount("work-costs.tools.used"));
        }
    }
}
