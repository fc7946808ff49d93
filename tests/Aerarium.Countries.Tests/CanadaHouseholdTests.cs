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
                    at < 2
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
            var best = Every(claims, 0, []).Min(entries => Anew(family, entries));
            Assert.Equal(Math.Min(best, Anew(family, [])), family.With([]).Balance - found.Saves);
            Assert.Equal(family.With([]).Balance - found.Saves, Anew(family, [.. found.Claims.SelectMany(c => c.Entries)]));
            saved += found.Saves > 0 ? 1 : 0;
        }

        Assert.InRange(saved, 3, 5);
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

    private static Household Random(int seed, bool swapped)
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
        List<CanadaCase> children = [.. Enumerable.Range(0, random.Next(0, 3)).Select(_ => Student(Amount(24_000), 500 + Amount(12_000)))];
        return swapped ? Family([couple[1], couple[0], .. Enumerable.Reverse(children)]) : Family([.. couple, .. children]);
    }

    private static IEnumerable<List<HouseholdEntry>> Every(IReadOnlyList<SharedClaim> claims, int at, List<HouseholdEntry> entries) => at == claims.Count
        ? [entries]
        : claims[at].Options.Select(o => o.Entries).Append([]).SelectMany(option => Every(claims, at + 1, [.. entries, .. option]));

    /// <summary>The family's balance, every return evaluated from its entries with what the others say written in, again and again until nothing moves.</summary>
    private static decimal Anew(Household family, IReadOnlyList<HouseholdEntry> entries)
    {
        var sets = family.Members.Select(m => new EntrySet { Values = new(m.Return.Entries.Values), Rows = m.Return.Entries.Rows }).ToList();
        foreach (var entry in entries)
        {
            sets[entry.Member].Values[entry.Line] = entry.Value;
        }

        for (var moved = true; moved;)
        {
            moved = false;
            var now = sets.Select((s, m) => family.Members[m].Return.Definition.Evaluate(s, Day)).ToList();
            foreach (var (member, at) in family.Members.Select((m, at) => (m, at)))
            {
                foreach (var line in member.Return.Definition.Lines.Where(l => l.Ties.Count > 0 && l.Ties.All(t => t.Return.YearsBack == 0)))
                {
                    var said = line.Ties.SelectMany(t => member.Relatives.GetValueOrDefault(t.Return.Relation!, [])
                        .Select(of => t.AddressedBy is { } address && now[of].Value(line.Form.Definition.LineOf(address)) != member.Identifier ? (line.IsNumber ? "0" : null) : now[of].Value(line.Form.Definition.LineOf(t.Line))))
                        .OfType<string>().ToList();
                    if (said.Count > 0 && entries.All(e => e.Member != at || e.Line != line.Key))
                    {
                        var value = line.IsNumber ? Core.Formulas.Figures.Canonical(said.Sum(v => decimal.Parse(v, System.Globalization.CultureInfo.InvariantCulture))) : said[0];
                        moved |= sets[at].Values.GetValueOrDefault(line.Key) != value;
                        sets[at].Values[line.Key] = value;
                    }
                }
            }
        }

        return sets.Select((s, m) => family.Members[m].Return.Definition.Evaluate(s, Day).Balance).Sum();
    }
}
