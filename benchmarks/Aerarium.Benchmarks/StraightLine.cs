namespace Aerarium.Benchmarks;

/// <summary>
/// The same law as <c>ke/employment-income</c> 2025, written by hand as straight-line C# over plain fields, for the
/// case of <see cref="EvaluationBenchmark"/>: what compiled rules are compared with. It computes the same lines and asks
/// the findings a person would write out, without the bookkeeping of what is blank and what applies.
/// </summary>
public sealed class StraightLine
{
    /// <summary>Codes, as numbers: the way a person who wants speed would keep them.</summary>
    public enum Code
    {
        None,
        Owned,
        Leased,
        Lease,
        RelatedLease,
        Saloon,
        PickUp,
        Utility,
        Agricultural,
        Ordinary,
        ServiceDirector,
        OtherDirector,
        Education,
        Health,
        Life,
    }

    /// <summary>An employer as entered, and its computed lines.</summary>
    public struct Employer
    {
        public string? Pin, Name;
        public Code HousingClass, Arrangement;
        public decimal Months, Basic, House, Transport, Leave, Overtime, Bonus, Commission, Other, OtherBenefits, Minor, MonthsHoused, RentEmployer, MarketRent, RentEmployee, OtherIncome;
        public decimal Total, Retirement, Pensionable, Mortgage, Medical, Health, Levy, Charged, Relief, Tax;
        public decimal Cash, MinorTaxable, Car, Before, Share, Housing, Gross;
    }

    /// <summary>A car.</summary>
    public struct Car
    {
        public int Provider;
        public Code Arrangement, Body;
        public decimal Engine, Cost, Lease, Months, Determined, Fixed, ByCost, Benefit;
        public bool HasDetermined;
    }

    /// <summary>A policy.</summary>
    public struct Policy
    {
        public Code Kind;
        public int Commencement, Maturity;
        public decimal Premium, Qualifying;
    }

    private static readonly decimal[] Edges = [0, 288_000, 388_000, 6_000_000, 9_600_000];
    private static readonly decimal[] Rates = [0.10m, 0.25m, 0.30m, 0.325m, 0.35m];
    private static readonly decimal[] Below = [0, 28_800, 53_800, 1_737_400, 2_907_400];
    private static readonly decimal[] CarEdges = [1_200, 1_500, 1_750, 2_000, 3_000];
    private static readonly decimal[] CarRates = [3_600, 4_200, 5_800, 7_200, 8_600, 14_400];

    public Employer[] Employers = [];
    public Car[] Cars = [];
    public Policy[] Policies = [];
    public decimal[] Interest = [];
    public bool HasHousing, HasCar, HasMortgage, HasInsurance;
    public decimal PeriodMonths = 12, MortgageMonths = 12;
    public bool[] Findings = new bool[160];
    public bool?[] Answers = new bool?[13];
    public string?[] Payout = new string?[6];
    public string?[] FiledBy = new string?[4];
    public int Today = new DateOnly(2026, 3, 1).DayNumber, PaymentDay = new DateOnly(2026, 4, 30).DayNumber, FilingDay = new DateOnly(2026, 6, 30).DayNumber, ExtendedTo;
    public decimal Running;
    public decimal Gross, Income, Deductions, Taxable, Tax, Reliefs, NetTax, AlreadyPaid, Balance;

    /// <summary>Computes everything.</summary>
    public decimal Run()
    {
        var minor = 0m;
        for (var i = 0; i < Employers.Length; i++)
        {
            ref var e = ref Employers[i];
            e.Cash = e.Basic + e.House + e.Transport + e.Leave + e.Overtime + e.Bonus + e.Commission + e.Other;
            minor += e.Minor;
        }

        for (var i = 0; i < Cars.Length; i++)
        {
            ref var c = ref Cars[i];
            var owned = c.Arrangement == Code.Owned;
            c.Fixed = owned ? c.Body == Code.Saloon ? SaloonRate(c.Engine) : c.Body == Code.PickUp ? (c.Engine <= 1_750 ? 3_600 : 4_200) : c.Body == Code.Utility ? 7_200 : 0 : 0;
            c.ByCost = owned ? Math.Round(0.02m * c.Cost, 2, MidpointRounding.AwayFromZero) : 0;
            c.Benefit = Math.Round(c.HasDetermined ? c.Determined : owned ? Math.Max(c.Fixed, c.ByCost) * c.Months : c.Lease, 2, MidpointRounding.AwayFromZero);
        }

        decimal gross = 0, retirement = 0, pensionable = 0, health = 0, levy = 0, deducted = 0;
        for (var i = 0; i < Employers.Length; i++)
        {
            ref var e = ref Employers[i];
            e.MinorTaxable = minor < 60_000 ? 0 : e.Minor;
            e.Car = 0;
            for (var c = 0; c < Cars.Length; c++)
            {
                if (Cars[c].Provider == i)
                {
                    e.Car += Cars[c].Benefit;
                }
            }

            e.Before = e.Cash + e.OtherBenefits + e.MinorTaxable + e.Car;
            e.Share = e.Housing = 0;
            if (HasHousing && e.HousingClass != Code.None)
            {
                var worked = Math.Max(e.Months, 1);
                var housed = e.MonthsHoused > 0 && e.MonthsHoused < worked ? e.Before * e.MonthsHoused / worked : e.Before;
                e.Share = Math.Round(e.HousingClass == Code.Agricultural ? 0.10m * housed : 0.15m * (housed + e.OtherIncome), 2, MidpointRounding.AwayFromZero);
                e.Housing = Math.Max(0, Math.Max(Math.Max(e.Share, e.RentEmployer), e.MarketRent) - e.RentEmployee);
            }

            e.Gross = e.Before + e.Housing;
            gross += e.Gross;
            retirement += e.Retirement;
            pensionable += e.Pensionable;
            health += e.Health;
            levy += e.Levy;
            deducted += e.Tax;
        }

        Gross = gross;
        Income = Math.Max(0, gross);
        var share = Math.Round(0.30m * pensionable, 2, MidpointRounding.AwayFromZero);
        var limit = Math.Min(360_000, 30_000 * PeriodMonths);
        var allowed = Math.Min(Math.Min(retirement, share), limit);
        var interest = 0m;
        foreach (var paid in Interest)
        {
            interest += paid;
        }

        var mortgageLimit = Math.Min(360_000, 30_000 * MortgageMonths);
        var mortgage = HasMortgage ? Math.Min(interest, mortgageLimit) : 0;
        Deductions = allowed + mortgage + health + levy;
        Taxable = Math.Max(0, Income - Deductions);
        Tax = Math.Round(Bands(Taxable), 2, MidpointRounding.AwayFromZero);
        var premiums = 0m;
        for (var i = 0; i < Policies.Length; i++)
        {
            ref var p = ref Policies[i];
            var disqualified = (p.Kind == Code.Education && p.Maturity != 0 && p.Commencement != 0 && p.Maturity < p.Commencement + 3_652) || (p.Kind == Code.Health && p.Commencement != 0 && p.Commencement < 732_676);
            p.Qualifying = disqualified ? 0 : p.Premium;
            premiums += p.Qualifying;
        }

        var uncapped = HasInsurance ? Math.Round(0.15m * premiums, 2, MidpointRounding.AwayFromZero) : 0;
        var insurance = Math.Min(uncapped, 60_000);
        var personal = PeriodMonths < 12 ? 2_400 * PeriodMonths : 28_800;
        Reliefs = personal + insurance;
        NetTax = Math.Max(0, Tax - Reliefs);
        AlreadyPaid = deducted;
        Balance = NetTax - AlreadyPaid;
        var unpaid = Math.Max(0, Balance);
        var filingDay = ExtendedTo != 0 ? ExtendedTo : FilingDay;
        var lateFiling = Today > filingDay ? Math.Max(Math.Round(0.05m * unpaid, 2, MidpointRounding.AwayFromZero), 2_000) : 0;
        var late = Today > PaymentDay;
        var (due, now) = (DateOnly.FromDayNumber(PaymentDay), DateOnly.FromDayNumber(Today));
        var months = late ? ((now.Year - due.Year) * 12) + now.Month - due.Month : 0;
        var interestSoFar = Math.Min(unpaid, Math.Round(0.01m * unpaid * months, 2, MidpointRounding.AwayFromZero));
        Running = lateFiling + (late ? Math.Round(0.05m * unpaid, 2, MidpointRounding.AwayFromZero) : 0) + interestSoFar;

        Findings[0] = Employers.Length == 0;
        Findings[1] = HasCar && Cars.Length == 0;
        Findings[2] = retirement > allowed;
        Findings[3] = allowed < Math.Min(share, limit) - 10_000;
        Findings[4] = interest > mortgageLimit;
        Findings[5] = uncapped > insurance;
        Findings[6] = Reliefs > Tax && Gross > 0;
        Findings[7] = NetTax == 0 && Gross > 0;
        Findings[8] = Balance < 0;
        Findings[9] = Balance > 0;
        Findings[10] = retirement > 0 && pensionable == 0;
        Findings[11] = Policies.Length == 0 && Taxable > 500_000;
        for (var i = 0; i < Employers.Length; i++)
        {
            ref var e = ref Employers[i];
            Findings[12] = Math.Abs(e.Gross - e.Total) > 1;
            Findings[13] = Math.Abs(e.Levy - (0.015m * e.Cash)) > 0.05m * (0.015m * e.Cash);
            Findings[14] = e.Health < 0.95m * (0.0275m * e.Cash) || e.Health < 300 * e.Months;
            Findings[15] = e.Tax > e.Cash + e.OtherBenefits + e.Minor + e.Total;
            Findings[16] = !Matches(e.Pin);
            Findings[17] = e.Name is null || e.Months == 0;
            for (var j = 0; j < i; j++)
            {
                Findings[18] |= Employers[j].Pin == e.Pin;
            }

            // What must be given and is not, as a person would write it out.
            var at = 20 + (i * 16);
            Findings[at] = e.Pin is null;
            Findings[at + 1] = e.Name is null;
            Findings[at + 2] = e.Months == 0;
            Findings[at + 3] = e.Basic == 0;
            Findings[at + 4] = e.Total == 0;
            Findings[at + 5] = e.Retirement > 0 && e.Pensionable == 0;
            Findings[at + 6] = e.Health == 0;
            Findings[at + 7] = e.Levy == 0;
            Findings[at + 8] = e.Tax == 0;
            var leased = e.Arrangement is Code.Lease or Code.RelatedLease;
            var needsMarket = e.Arrangement is Code.Owned or Code.RelatedLease || e.HousingClass is Code.ServiceDirector or Code.OtherDirector;
            Findings[at + 9] = HasHousing && e.HousingClass != Code.None && e.Arrangement == Code.None;
            Findings[at + 10] = HasHousing && leased && e.RentEmployer == 0;
            Findings[at + 11] = HasHousing && needsMarket && e.MarketRent == 0;
            Findings[at + 12] = e.MonthsHoused > e.Months;
            Findings[at + 13] = e.HousingClass == Code.Ordinary && e.Arrangement != Code.Lease && e.Share > e.MarketRent && e.MarketRent > 0;
        }

        for (var i = 0; i < Cars.Length; i++)
        {
            ref var c = ref Cars[i];
            var owned = c.Arrangement == Code.Owned;
            Findings[100] = c.Arrangement == Code.None;
            Findings[101] = owned && c.Body == Code.None;
            Findings[102] = owned && c.Engine == 0;
            Findings[103] = owned && c.Cost == 0;
            Findings[104] = c.Arrangement == Code.Leased && c.Lease == 0;
            Findings[105] = c.Months == 0;
            Findings[106] = c.Months > Employers[c.Provider].Months;
            Findings[107] = owned && ((c.Cost > 0 && c.Cost < 100_000) || c.Engine > 8_000);
        }

        for (var question = 0; question < Answers.Length; question++)
        {
            Findings[110 + question] = Answers[question] is null;
        }

        for (var particular = 0; particular < FiledBy.Length; particular++)
        {
            Findings[140 + particular] = FiledBy[particular] is null;
        }

        Findings[145] = FiledBy[0] is { } agent && !Matches(agent);
        Findings[146] = ExtendedTo != 0 && ExtendedTo <= FilingDay;
        var refund = Balance < 0;
        for (var account = 0; account < Payout.Length; account++)
        {
            Findings[130 + account] = refund && Payout[account] is null;
        }

        return Balance;
    }

    private static bool Matches(string? pin)
    {
        if (pin is not { Length: 11 } || pin[0] is not ('A' or 'P') || pin[10] is < 'A' or > 'Z')
        {
            return false;
        }

        for (var at = 1; at < 10; at++)
        {
            if (pin[at] is < '0' or > '9')
            {
                return false;
            }
        }

        return true;
    }

    private static decimal SaloonRate(decimal engine)
    {
        var index = 0;
        while (index < CarEdges.Length && engine > CarEdges[index])
        {
            index++;
        }

        return CarRates[index];
    }

    private static decimal Bands(decimal amount)
    {
        if (amount <= 0)
        {
            return 0;
        }

        var index = Edges.Length - 1;
        while (amount <= Edges[index])
        {
            index--;
        }

        return Below[index] + ((amount - Edges[index]) * Rates[index]);
    }
}
