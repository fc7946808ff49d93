using System.Globalization;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>
/// What a family may claim on one return or another: medical expenses and their twelve months (ITA 118.2), gifts (118.1), the spouse amount (118(1)B(a)), a student's tuition
/// (118.8, 118.81), pension shared between spouses (60.03).
/// </summary>
public sealed class FamilyClaims : ISharedClaims
{
    /// <inheritdoc />
    public IReadOnlyList<SharedClaim> Of(Household household)
    {
        var members = household.Members;
        List<SharedClaim> claims = [];
        foreach (var (first, second) in Couples(members))
        {
            var couple = new Couple(members, first, second);
            claims.AddRange(new[] { Medical(couple), Gifts(couple), SpouseAmount(couple), Pension(couple) }.OfType<SharedClaim>());
        }

        claims.AddRange(Enumerable.Range(0, members.Count).Select(student => Tuition(members, student)).OfType<SharedClaim>());
        return claims;
    }

    /// <inheritdoc />
    public IReadOnlyList<NamedDependant> Dependants(Household household) =>
    [
        .. household.Members.SelectMany(m => m.Return.IsOpen(m.Return.Definition.FindTable("family.dependants")!) ? m.Return.Entries.RowsOf("family.dependants").Select((row, at) => (Member: m, Row: row, At: at)) : [])
            .Where(d => d.Row.Values.GetValueOrDefault("name") is { } name && household.Members.All(m => !string.Equals(m.Name, name, StringComparison.OrdinalIgnoreCase)))
            .Select(d => new NamedDependant(d.Row.Values["name"], $"age {Figures.Plain(d.Member.Return.Amount("family.dependants.age", d.At))}", d.Member.Return.Amount("family.dependants.net-income", d.At)))
            .DistinctBy(d => d.Name),
    ];

    private static IEnumerable<(int First, int Second)> Couples(IReadOnlyList<HouseholdMember> members) =>
        from first in Enumerable.Range(0, members.Count)
        from second in members[first].Relatives.GetValueOrDefault("spouse", [])
        where first < second && members[first].Return.IsYes("scope.spouse") && members[second].Return.IsYes("scope.spouse")
        select (first, second);

    private static SharedClaim? Medical(Couple couple)
    {
        var owners = couple.Both.Where(m => couple[m].IsYes("scope.medical") && couple[m].Entries.RowsOf("medical.receipts").Count > 0).ToList();
        if (owners.Count == 0)
        {
            return null;
        }

        var end = BestWindow([.. owners.SelectMany(o => couple[o].Entries.RowsOf("medical.receipts"))], couple[owners[0]].Definition.Year);
        var day = end.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        var window = owners.Select(o => new HouseholdEntry(o, "medical.window-end", day)).ToList();
        IEnumerable<HouseholdEntry> ClaimedBy(int claimer) => owners.Select(o => new HouseholdEntry(o, "medical.claimed-by-spouse", o == claimer ? "no" : "yes")).Concat(window);
        var until = owners.Select(o => couple[o].Value(couple[o].Definition.LineOf("medical.window-until"))).First()!;
        var to = $"to {end.ToString("d MMM", CultureInfo.InvariantCulture)}";
        var claimers = owners.Select(o => couple[o].IsYes("medical.claimed-by-spouse") ? couple.Other(o) : o).Distinct().ToList();
        return new SharedClaim(
            $"medical-{couple.First}",
            $"Medical expenses, twelve months {to}",
            owners.Sum(o => couple[o].Amount("medical.total")),
            $"{string.Join(" and ", claimers.Select(couple.Name))}, to {DateOnly.ParseExact(until, "yyyy-MM-dd", CultureInfo.InvariantCulture).ToString("d MMM", CultureInfo.InvariantCulture)}",
            [.. couple.Both],
            [.. couple.Both.Select(claimer => new ClaimOption($"{couple.Name(claimer)}, {to}", [.. ClaimedBy(claimer)]))]);
    }

    /// <summary>The last day of the twelve months, ending in the year, in which most was paid; the latest of several.</summary>
    private static DateOnly BestWindow(List<EntryRow> receipts, int year)
    {
        var dated = receipts.Where(r => r.Values.ContainsKey("date") && r.Values.GetValueOrDefault("claimed-before") != "yes")
            .Select(r => (Day: DateOnly.ParseExact(r.Values["date"], "yyyy-MM-dd", CultureInfo.InvariantCulture), Amount: Amount(r, "amount") - Amount(r, "refunded"))).ToList();
        return dated.Select(d => d.Day).Where(d => d.Year == year).Append(new DateOnly(year, 1, 1)).Append(new DateOnly(year, 12, 31)).Distinct()
            .MaxBy(end => (dated.Where(d => d.Day <= end && d.Day > end.AddYears(-1)).Sum(d => d.Amount), end));

        static decimal Amount(EntryRow row, string column) => row.Values.GetValueOrDefault(column) is { } value ? decimal.Parse(value, CultureInfo.InvariantCulture) : 0;
    }

    private static SharedClaim? Gifts(Couple couple)
    {
        var givers = couple.Both.Where(m => couple[m].Amount("gifts.of-year") > 0).ToList();
        if (givers.Count == 0)
        {
            return null;
        }

        ClaimOption AllBy(int claimer) => new(
            $"{couple.Name(claimer)}, all",
            [.. givers.Select(g => new HouseholdEntry(g, "gifts.claimed-by-spouse", g == claimer ? "no" : "yes")), new HouseholdEntry(claimer, "gifts.how", "all")]);
        var apart = new ClaimOption("Each their own", [.. givers.SelectMany(g => new[] { new HouseholdEntry(g, "gifts.claimed-by-spouse", "no"), new HouseholdEntry(g, "gifts.how", "all") })]);
        return new SharedClaim(
            $"gifts-{couple.First}",
            "Gifts of the year",
            givers.Sum(g => couple[g].Amount("gifts.of-year")),
            string.Join(", ", couple.Both.Where(m => couple[m].Amount("gifts.claimed") > 0).Select(m => $"{couple.Name(m)} {Figures.Money(couple[m].Amount("gifts.claimed"))}").DefaultIfEmpty("nobody")),
            [.. couple.Both],
            givers.Count > 1 ? [apart, .. couple.Both.Select(AllBy)] : [.. couple.Both.Select(AllBy)]);
    }

    private static SharedClaim? SpouseAmount(Couple couple)
    {
        var claimer = couple.Both.Where(m => couple[m].IsYes("family.claim-spouse")).ToList();
        if (claimer.Count == 0 && couple.Both.All(m => couple[couple.Other(m)].Amount("income.net-income") >= couple[m].Amount("federal.basic-amount")))
        {
            return null;
        }

        HouseholdEntry Says(int member, bool yes) => new(member, "family.claim-spouse", yes ? "yes" : "no");
        return new SharedClaim(
            $"spouse-{couple.First}",
            "Spouse amount",
            null,
            claimer.Count == 0 ? "nobody" : string.Join(" and ", claimer.Select(couple.Name)),
            [.. couple.Both],
            [
                .. couple.Both.Select(m => new ClaimOption(couple.Name(m), [Says(m, true), Says(couple.Other(m), false)])),
                new ClaimOption("Nobody", [Says(couple.First, false), Says(couple.Second, false)]),
            ]);
    }

    private static SharedClaim? Pension(Couple couple)
    {
        var givers = couple.Both.Where(m => couple[m].Amount("benefits.eligible-before") > 0).ToList();
        if (givers.Count == 0)
        {
            return null;
        }

        var given = couple.Both.Where(m => couple[m].Amount("benefits.split-given") > 0).ToList();
        return new SharedClaim(
            $"pension-{couple.First}",
            "Pension shared",
            givers.Sum(g => couple[g].Amount("benefits.eligible-before")),
            given.Count == 0 ? "not shared" : $"{couple.Name(given[0])} gives {Figures.Money(couple[given[0]].Amount("benefits.split-given"))}",
            [.. couple.Both],
            [
                .. givers.Select(g => new ClaimOption(
                    $"{couple.Name(g)} gives",
                    [new HouseholdEntry(couple.Other(g), "benefits.split-given", "0")],
                    new AmountRange(g, "benefits.split-given", decimal.Floor(couple[g].Amount("benefits.eligible-before") * 50) / 100))),
            ],
            Needs: "both sign form T1032");
    }

    private static SharedClaim? Tuition(IReadOnlyList<HouseholdMember> members, int student)
    {
        var now = members[student].Return;
        var parents = members[student].Relatives.GetValueOrDefault("parent", []);
        if (parents.Count == 0 || !now.IsYes("scope.student"))
        {
            return null;
        }

        var left = now.Amount("tuition.federal-most");
        if (left == 0)
        {
            return new SharedClaim($"tuition-{student}", $"Tuition of {members[student].GivenName}", null, "nothing is left", [student], [], Closed: "the student uses all of it, or it is of earlier years");
        }

        var named = parents.FirstOrDefault(p => now.Value(now.Definition.LineOf("tuition.designee-sin")) == members[p].Identifier, -1);
        return new SharedClaim(
            $"tuition-{student}",
            $"Tuition of {members[student].GivenName}, left after own use",
            left,
            now.Value(now.Definition.LineOf("tuition.designee")) is "parent" && named >= 0 ? members[named].GivenName : now.Value(now.Definition.LineOf("tuition.designee")) is "none" or null ? "carried forward" : "somebody else",
            named >= 0 ? [student, named] : [student],
            [
                .. parents.Select(p => new ClaimOption(members[p].GivenName,
                [
                    new HouseholdEntry(student, "tuition.designee", "parent"), new HouseholdEntry(student, "tuition.designee-sin", members[p].Identifier),
                    new HouseholdEntry(student, "tuition.designee-name", members[p].Name), new HouseholdEntry(p, "scope.student-transfer", "yes"),
                ])),
                new ClaimOption("Carried forward", [new HouseholdEntry(student, "tuition.designee", "none")]),
            ],
            Needs: $"signed by {members[student].GivenName}");
    }

    private sealed class Couple(IReadOnlyList<HouseholdMember> members, int first, int second)
    {
        public int First => first;

        public int Second => second;

        public IEnumerable<int> Both => [first, second];

        public Evaluation this[int member] => members[member].Return;

        public int Other(int member) => member == first ? second : first;

        public string Name(int member) => members[member].GivenName;
    }
}
