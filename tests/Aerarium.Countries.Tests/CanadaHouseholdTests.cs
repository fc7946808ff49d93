using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries.Canada.Individual;

namespace Aerarium.Countries.Tests;

/// <summary>Families computed together: ties followed from return to return, and the best allocation of what they may claim here or there, against brute force.</summary>
public class CanadaHouseholdTests
{
    private static readonly DateOnly Day = new(2026, 3, 1);
    private static readonly string[] Numbers = ["012345674", "031017726", "046000378", "046000741", "046001111", "046001483"];

    /// <summary>A couple and their children, each with a return; ties between them are followed.</summary>
    private static Household Family(params CanadaCase[] cases)
    {
        var children = Enumerable.Range(2, Math.Max(0, cases.Length - 2)).ToList();
        return new Household(
            [
                .. cases.Select((c, at) => new HouseholdMember(
                    $"Member{at} Test",
                    Numbers[at],
                    c.With("taxpayer.sin", Numbers[at]).Evaluate(),
                    cases.Length == 1 ? new Dictionary<string, IReadOnlyList<int>>() : at < 2
                        ? new Dictionary<string, IReadOnlyList<int>> { ["spouse"] = [1 - at], ["child"] = children }
                        : new Dictionary<string, IReadOnlyList<int>> { ["parent"] = [0, 1] },
                    c.Evaluate().Definition.Lines.Where(l => l.Ties.Count > 0).Select(l => l.Key).ToHashSet())),
            ],
            Day);
    }

    private static CanadaCase Spouse(decimal income, string province = "bc") => new CanadaCase(2025, province).Exempt(income).Spouse(0, claimed: false).With("scope.gifts", "yes");

    private static CanadaCase Student(decimal income, decimal fees) => new CanadaCase(2025, "bc", "2005-02-03").Exempt(income).Tuition(fees).With("tuition.designee", "none");

    [Fact]
    public void W4_the_parent_follows_the_student_who_names_that_parent()
    {
        var student = new CanadaCase(2025, "bc", "2005-02-03").Slip(18_600, 898.45m, 0, 305.04m, 900).Tuition(9_400).With("tuition.designee", "parent").With("tuition.designee-sin", Numbers[0]);
        var parent = new CanadaCase(2025, "bc").Slip(84_000, 4_034.10m, 396, 1_077.48m, 16_500).Scope("student-transfer").Spouse(0, claimed: false);
        var other = Spouse(95_000).Scope("student-transfer");
        var family = Family(parent, other, student);
        var now = family.With([]);
        Assert.Equal((5_000, 535.49m, -2_683.99m), (now.Amount(0, "federal.tuition-received"), now.Amount(0, "bc.tuition-received"), now.Balances[0]));
        Assert.Equal(0, now.Amount(1, "federal.tuition-received"));
        var changed = family.With([new(2, "tuition.designee-sin", Numbers[1])]);
        Assert.Equal((0, 5_000), (changed.Amount(0, "federal.tuition-received"), changed.Amount(1, "federal.tuition-received")));
    }

    [Fact]
    public void A_spouses_net_income_is_followed_both_ways()
    {
        var now = Family(Spouse(50_000), Spouse(9_000)).With([]);
        Assert.Equal((9_000, 50_000), (now.Amount(0, "taxpayer.spouse-net-income"), now.Amount(1, "taxpayer.spouse-net-income")));
        Assert.Equal(16_129 - 9_000, Family(Spouse(50_000), Spouse(9_000)).With([new(0, "family.claim-spouse", "yes")]).Amount(0, "federal.spouse-amount"));
    }

    /// <summary>Swapping the spouses, or naming the children in another order, gives the same family total and the same saving.</summary>
    [Fact]
    public void Swapped_spouses_save_the_same()
    {
        for (var seed = 0; seed < 4; seed++)
        {
            var (one, other) = (Random(seed, swapped: false), Random(seed, swapped: true));
            Assert.Equal(one.With([]).Balance, other.With([]).Balance);
            Assert.Equal(Allocation.Of(one, new FamilyClaims().Of(one)).Saves, Allocation.Of(other, new FamilyClaims().Of(other)).Saves);
        }
    }

    /// <summary>Every combination of every way, computed one by one with returns evaluated anew: none is better than what is found.</summary>
    [Fact]
    public void The_best_allocation_is_that_of_brute_force()
    {
        var saved = 0;
        for (var seed = 0; seed < 5; seed++)
        {
            var family = Random(seed, swapped: false);
            var claims = new FamilyClaims().Of(family);
            var found = Allocation.Of(family, claims);
            var anew = new ReturnsAnew(family);
            Assert.Equal(Every(claims, 0, []).Min(anew.Balance), family.With([]).Balance - found.Saves);
            Assert.Equal(family.With([]).Balance - found.Saves, anew.Balance([.. found.Claims.SelectMany(c => c.Entries)]));
            saved += found.Saves > 0 ? 1 : 0;
        }

        Assert.InRange(saved, 3, 5);
    }

    /// <summary>Returns computed one after the other in one sheet leave nothing behind for the next: each balance is that of the return computed by itself, in whichever order.</summary>
    [Fact]
    public void A_sheet_that_is_used_again_remembers_nothing()
    {
        for (var seed = 0; seed < 6; seed++)
        {
            var family = Random(seed, swapped: false);
            var ways = new FamilyClaims().Of(family).SelectMany(c => c.Options).Where(o => o.Range is null).Select(o => o.Entries).ToList();
            foreach (var way in ways.Concat(Enumerable.Reverse(ways)).Append([]))
            {
                var state = family.With(way);
                Assert.Equal(state.Balances, family.Members.Select((_, m) => state.Amount(m, "balance.balance")));
            }
        }
    }

    /// <summary>Where an amount may be chosen: no amount of a fine grid gives the couple less to pay.</summary>
    [Theory]
    [InlineData(62_400, 8_790, 15_180, 5_240)]
    [InlineData(120_000, 8_790, 15_180, 5_240)]
    [InlineData(30_000, 8_790, 3_000, 2_000)]
    public void Pension_is_shared_where_both_together_pay_least(decimal pension, decimal oldAge, decimal plan, decimal otherPlan)
    {
        var giver = new CanadaCase(2025, "on", "1949-05-24").Pension(pension, 12_800).With("benefits.old-age", oldAge).With("benefits.public-plan", plan).Spouse(0, claimed: false);
        var other = new CanadaCase(2025, "on", "1952-10-11").Scope("pension").With("benefits.old-age", oldAge).With("benefits.public-plan", otherPlan).Spouse(0, claimed: false);
        var family = Family(giver, other);
        var claims = new FamilyClaims().Of(family);
        var found = Allocation.Of(family, claims);
        var least = Enumerable.Range(0, 101).SelectMany(n => claims.Where(c => c.Key == "spouse-0").SelectMany(c => c.Options).Select(o => o.Entries).Append([])
            .Select(more => family.With([.. more, new HouseholdEntry(0, "benefits.split-given", Core.Formulas.Figures.Canonical(Math.Round(pension / 2 * n / 100, 2))), new HouseholdEntry(1, "benefits.split-given", "0")]).Balance)).Min();
        Assert.InRange(family.With([]).Balance - found.Saves, decimal.MinValue, least);
        Assert.True(found.Saves > 0);
    }

    /// <summary>Families of six, four of them students, with medical expenses, gifts, a spouse's amount and tuition together: every combination against returns evaluated anew.</summary>
    [Theory]
    [InlineData(11)]
    [InlineData(14)]
    public void The_best_of_six_members_is_that_of_brute_force(int seed)
    {
        var family = Random(seed, swapped: false, children: 4);
        var claims = new FamilyClaims().Of(family);
        Assert.True(claims.Count(c => c.Key.StartsWith("tuition", StringComparison.Ordinal) && c.Options.Count > 0) >= 2);
        var found = Allocation.Of(family, claims);
        var anew = new ReturnsAnew(family);
        Assert.Equal(Every(claims, 0, []).Min(anew.Balance), family.With([]).Balance - found.Saves);
        Assert.True(found.Saves > 0);
    }

    /// <summary>A parent with little tax takes no more of the tuition than lowers it; the student keeps the rest.</summary>
    [Fact]
    public void What_does_not_lower_the_balance_is_kept()
    {
        var family = Family(Spouse(20_000).Scope("student-transfer"), Spouse(17_000), Student(2_000, 9_000));
        var found = Allocation.Of(family, new FamilyClaims().Of(family));
        var tuition = Assert.Single(found.Claims, c => c.Claim.Key == "tuition-2");
        Assert.Contains("of it; the rest is kept", tuition.Best);
        var (full, taken) = (tuition.Options.Max(o => o.Saves), family.With(tuition.Entries));
        Assert.Equal(full, tuition.Saves);
        Assert.Equal(0, taken.Balances[0]);
        Assert.InRange(taken.Amount(2, "tuition.federal-carried"), 9_000 - 4_999, 8_999);
        var less = tuition.Entries.Select(e => e.Line == "tuition.federal-chosen" ? e with { Value = Core.Formulas.Figures.Canonical(decimal.Parse(e.Value, System.Globalization.CultureInfo.InvariantCulture) - 1) } : e).ToList();
        Assert.True(family.With(less).Balances[0] > 0);
    }

    /// <summary>Gifts of a couple with no tax to lower are carried forward rather than lost.</summary>
    [Fact]
    public void Gifts_that_lower_nothing_are_carried_forward()
    {
        var family = Family(Spouse(9_000).Gift(700), Spouse(8_000));
        var gifts = Assert.Single(Allocation.Of(family, new FamilyClaims().Of(family)).Claims, c => c.Claim.Key == "gifts-0");
        Assert.Equal((0, 700), (gifts.Saves, gifts.Spares));
        Assert.Equal(700, family.With(gifts.Entries).Amount(0, "gifts.left-of-year"));
    }

    [Fact]
    public void Of_an_infirm_dependant_either_spouse_claims_and_a_healthy_child_gives_nothing()
    {
        CanadaCase With(CanadaCase @case) => @case.Scope("dependants")
            .Row("family.dependants", ("name", "Rowan Test"), ("relation", "parent"), ("birth-date", "1948-01-01"), ("infirm", "yes"), ("net-income", 9_000))
            .Row("family.dependants", ("name", "Jory Test"), ("relation", "child"), ("birth-date", "2016-07-01"), ("infirm", "no"), ("net-income", 0));
        var family = Family(With(Spouse(16_500)), With(Spouse(60_000)));
        Assert.Equal(8_601, family.With([]).Amount(0, "federal.caregiver"));
        var claims = new FamilyClaims().Of(family);
        Assert.Equal("only for a parent without a spouse, unless infirm", Assert.Single(claims, c => c.Title == "Amount for Jory").Closed);
        var advice = Assert.Single(Allocation.Of(family, claims).Claims, c => c.Claim.Title == "Amount for Rowan");
        var options = advice.Options.ToDictionary(o => o.Label);
        Assert.True(options["Member0"].Saves < options["Member1"].Saves);
        var apart = family.With([.. advice.Claim.Options.Single(o => o.Label == "Member0").Entries]);
        Assert.Equal((8_601, 0), (apart.Amount(0, "federal.caregiver"), apart.Amount(1, "federal.caregiver")));
    }

    /// <summary>A spouse who files nothing, and a child, are shown by their net income; marriage, a move and a death are told.</summary>
    [Fact]
    public void Who_files_nothing_and_what_happened_in_the_year()
    {
        var family = Family(new CanadaCase(2025, "on").Exempt(40_000).Spouse(3_500).With("taxpayer.spouse-name", "Corwin Test").With("taxpayer.status-since", "2025-05-03")
            .Scope("moved", "dependants").With("scope.moved-from", "bc").With("scope.moved-on", "2025-02-01").With("scope.died-on", "2025-12-24")
            .Row("family.dependants", ("name", "Jory Test"), ("relation", "child"), ("birth-date", "2016-07-01"), ("net-income", 12)));
        Assert.Equal([("Corwin Test", "spouse", 3_500m), ("Jory Test", "age 9", 12m)], new FamilyClaims().Dependants(family).Select(d => (d.Name, d.About, d.Amount)));
        Assert.Equal(
            ["Member0 married since 3 May 2025", "Member0 moved from British Columbia on 1 Feb 2025", "Member0 died on 24 Dec 2025"], new FamilyClaims().Events(family));
    }

    /// <summary>Every assignment of every year to a home that was lived in, or to none: none exempts more than what is found.</summary>
    [Fact]
    public void The_best_designation_is_that_of_brute_force()
    {
        for (var seed = 0; seed < 40; seed++)
        {
            var random = new Random(seed);
            HomeSold[] homes =
            [
                .. Enumerable.Range(0, 2 + random.Next(2)).Select(_ => new HomeSold(
                    1_000 * random.Next(1, 400), random.Next(3, 9), random.Next(3) > 0, Enumerable.Range(2018, 8).Where(_ => random.Next(3) > 0).ToHashSet())),
            ];
            var best = 0m;
            foreach (var assigned in Assignments(homes, 2018, [.. new int[homes.Length]]))
            {
                best = Math.Max(best, homes.Select((h, at) => h.Exempt(assigned[at])).Sum());
            }

            var found = HomeDesignation.Best(homes);
            Assert.Equal(best, homes.Select((h, at) => h.Exempt(found[at].Count)).Sum());
            Assert.All(found.Index(), years => Assert.True(homes[years.Index].Lived.IsSupersetOf(years.Item)));
            Assert.Equal(found.Sum(y => y.Count), found.SelectMany(y => y).Distinct().Count());
        }

        static IEnumerable<int[]> Assignments(HomeSold[] homes, int year, int[] counts) => year > 2025
            ? [counts]
            : Enumerable.Range(-1, homes.Length + 1).Where(h => h < 0 || homes[h].Lived.Contains(year))
                .SelectMany(h => Assignments(homes, year + 1, h < 0 ? counts : [.. counts.Select((c, at) => at == h ? c + 1 : c)]));
    }

    /// <summary>
    /// A home owned ten years, lived in for seven, gain 300,000: with six years designated and the extra year the taxable gain is 90,000 before inclusion; with the seven it is 60,000,
    /// of which 30,000 is included (common practice, no source).
    /// </summary>
    [Fact]
    public void A_better_designation_is_told_and_written_as_rows()
    {
        var owner = new CanadaCase(2025, "ab").Exempt(60_000).Scope("home")
            .Row("home.homes", ("address", "7 Larkspur Close, Foothill Bend"), ("bought", "2016-05-01"), ("sold", "2025-08-01"), ("resident-when-bought", "yes"), ("designation", "2"), ("proceeds", 500_000), ("cost", 200_000))
            .Row("home.lived", ("of", 1), ("from", 2016), ("to", 2022)).Row("home.years", ("of", 1), ("from", 2016), ("to", 2021));
        var family = Family(owner);
        Assert.Equal(45_000, family.With([]).Amount(0, "income.taxable-gains"));
        var advice = Assert.Single(Allocation.Of(family, new FamilyClaims().Of(family)).Claims, c => c.Claim.Key == "homes-0");
        Assert.Equal("7 Larkspur Close 2016 to 2022", advice.Best);
        Assert.Equal(30_000, family.With(advice.Entries, advice.Rows).Amount(0, "income.taxable-gains"));
        Assert.Equal([("from", "2016"), ("to", "2022")], Assert.Single(Assert.Single(advice.Rows).Rows).Select(c => (c.Key, c.Value)).Order());
    }

    /// <summary>The next 1,000 of a spouse whom the other claims costs the other the spouse amount; that of a pensioner repays benefits. Both are named.</summary>
    [Fact]
    public void What_the_next_income_costs_names_what_is_lost()
    {
        var couple = Family(Spouse(90_000).With("family.claim-spouse", "yes"), Spouse(6_000));
        var costs = HouseholdIncome.Of(couple, new FamilyClaims().Taxes, new FamilyClaims().MovedByIncome);
        // Federal 20.5% and British Columbia 7.7% of 1,000 at 90,000.
        Assert.Equal(282, costs[0].Cost);
        // The spouse amounts fall by 1,000 each: 14.5% federal, 5.06% of the province, where the amount was 12,181 less 6,000.
        Assert.Equal(145 + 50.60m, costs[1].Cost);
        Assert.Contains(costs[1].Moved, m => m is { Member: 0, Line.Key: "federal.spouse-amount", Movement: -1_000 });
        var pensioner = Family(new CanadaCase(2025, "on", "1949-05-24").Pension(100_000).With("benefits.old-age", 8_790));
        var next = Assert.Single(HouseholdIncome.Of(pensioner, new FamilyClaims().Taxes, new FamilyClaims().MovedByIncome));
        Assert.Contains(next.Moved, m => m is { Line.Key: "income.old-age-repaid", Movement: 150 });
        Assert.Equal(next.Cost, next.Parts.Sum(p => p.Amount));
    }

    private static Household Random(int seed, bool swapped, int? children = null)
    {
        var random = new Random(seed);
        decimal Amount(int most) => random.Next(0, most);
        var incomes = new[] { 12_000 + Amount(110_000), 4_000 + Amount(60_000) };
        var couple = incomes.Select(i => Spouse(i)).ToArray();
        for (var receipt = 0; receipt < random.Next(0, 4); receipt++)
        {
            couple[random.Next(2)].Receipt(100 + Amount(4_000), $"2025-{random.Next(1, 13):00}-11");
        }

        couple[0].With("gifts.how", "all").Row("gifts.gifts", ("charity", "A"), ("date", "2025-05-05"), ("amount", 50 + Amount(3_000)));
        if (random.Next(2) == 0)
        {
            couple[1].With("gifts.how", "all").Row("gifts.gifts", ("charity", "B"), ("date", "2025-05-05"), ("amount", 50 + Amount(900)));
        }

        couple[random.Next(2)].With("family.claim-spouse", "yes");
        List<CanadaCase> students = [.. Enumerable.Range(0, children ?? random.Next(0, 3)).Select(_ => Student(Amount(24_000), 500 + Amount(12_000)))];
        return swapped ? Family([couple[1], couple[0], .. Enumerable.Reverse(students)]) : Family([.. couple, .. students]);
    }

    private static IEnumerable<List<HouseholdEntry>> Every(IReadOnlyList<SharedClaim> claims, int at, List<HouseholdEntry> entries) => at == claims.Count
        ? [entries]
        : claims[at].Options.Select(o => o.Entries).Append([]).SelectMany(option => Every(claims, at + 1, [.. entries, .. option]));

    /// <summary>
    /// A family's balance, every return evaluated from its entries with what the others say written in, again and again until nothing moves; what one return says with the same entries is
    /// evaluated once.
    /// </summary>
    private sealed class ReturnsAnew(Household family)
    {
        private readonly Core.Definitions.Definition _definition = family.Members[0].Return.Definition;
        private readonly List<Core.Definitions.Line> _following = [.. family.Members[0].Return.Definition.Lines.Where(l => l.Ties.Count > 0 && l.Ties.All(t => t.Return.YearsBack == 0))];
        private readonly Dictionary<string, Dictionary<string, string?>> _known = [];

        public decimal Balance(IReadOnlyList<HouseholdEntry> entries)
        {
            var changed = family.Members.Select(_ => new Dictionary<string, string>()).ToList();
            foreach (var entry in entries)
            {
                changed[entry.Member][entry.Line] = entry.Value;
            }

            for (var moved = true; moved;)
            {
                moved = false;
                var now = changed.Select((values, m) => Says(m, values)).ToList();
                foreach (var (member, at) in family.Members.Select((m, at) => (m, at)))
                {
                    foreach (var line in _following.Where(l => entries.All(e => e.Member != at || e.Line != l.Key)))
                    {
                        var said = line.Ties.SelectMany(t => member.Relatives.GetValueOrDefault(t.Return.Relation!, [])
                            .Select(of => t.AddressedBy is { } address && now[of][address] != member.Identifier ? (line.IsNumber ? "0" : null) : now[of][t.Line])).OfType<string>().ToList();
                        if (said.Count > 0)
                        {
                            var value = line.IsNumber && said.Count > 1 ? Core.Formulas.Figures.Canonical(said.Sum(v => decimal.Parse(v, System.Globalization.CultureInfo.InvariantCulture))) : said[0];
                            moved |= (changed[at].GetValueOrDefault(line.Key) ?? member.Return.Entries.Values.GetValueOrDefault(line.Key)) != value;
                            changed[at][line.Key] = value;
                        }
                    }
                }
            }

            return changed.Select((values, m) => decimal.Parse(Says(m, values)[_definition.Balance.Key]!, System.Globalization.CultureInfo.InvariantCulture)).Sum();
        }

        private Dictionary<string, string?> Says(int member, Dictionary<string, string> changed)
        {
            var key = $"{member}|{string.Join('|', changed.OrderBy(v => v.Key, StringComparer.Ordinal).Select(v => $"{v.Key}={v.Value}"))}";
            if (!_known.TryGetValue(key, out var says))
            {
                var entries = new EntrySet { Values = new(family.Members[member].Return.Entries.Values), Rows = family.Members[member].Return.Entries.Rows };
                foreach (var (line, value) in changed)
                {
                    entries.Values[line] = value;
                }

                var evaluation = _definition.Evaluate(entries, Day);
                var lines = _following.SelectMany(l => l.Ties).SelectMany(t => new[] { t.Line, t.AddressedBy }).OfType<string>().Append(_definition.Balance.Key).Distinct().Select(_definition.LineOf);
                _known[key] = says = lines.ToDictionary(l => l.Key, l => l.IsNumber ? Core.Formulas.Figures.Canonical(evaluation.Amount(l.Key)) : evaluation.Value(l));
            }

            return says;
        }
    }
}
