using System.Globalization;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>
/// What a family may claim on one return or another: medical expenses and their twelve months (ITA 118.2), gifts (118.1), the spouse amount (118(1)B(a)), amounts for dependants
/// (118(1)B(b), (d)), a student's tuition (118.8, 118.81), pension shared between spouses (60.03), and the years for which each home sold is designated (54).
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
            claims.AddRange(new[] { Medical(household, couple), Gifts(couple), SpouseAmount(couple), Pension(couple) }.OfType<SharedClaim>());
            claims.AddRange(ForDependants(couple));
            claims.AddRange(couple.Both.Select(m => Unused(couple, m)).OfType<SharedClaim>());
        }

        claims.AddRange(Enumerable.Range(0, members.Count).Select(student => Tuition(members, student)).OfType<SharedClaim>());
        claims.AddRange(Enumerable.Range(0, members.Count).Select(owner => HomeDesignation.Claim(members, owner)).OfType<SharedClaim>());
        return claims;
    }

    /// <inheritdoc />
    public IReadOnlyList<string> Taxes { get; } = ["balance.federal", "balance.provincial", "balance.repayment", "balance.self-contributions"];

    /// <inheritdoc />
    public IReadOnlyList<string> MovedByIncome { get; } =
    [
        "federal.basic-amount", "federal.age-amount", "federal.spouse-amount", "federal.eligible-dependant", "federal.caregiver", "federal.medical", "federal.from-spouse", "federal.tuition-received", "bc.tuition-received", "income.insured-repaid",
        "income.old-age-repaid", "ontario.age-amount", "ontario.spouse-amount", "ontario.surtax", "ontario.reduction", "ontario.low-income", "ontario.health-premium", "bc.age-amount", "bc.spouse-amount",
        "bc.reduction", "bc.renters-credit", "alberta.age-amount", "alberta.spouse-amount", "balance.medical-supplement", "balance.workers-benefit",
    ];

    /// <inheritdoc />
    public IReadOnlyList<string> Events(Household household)
    {
        List<string> events = [];
        foreach (var member in household.Members)
        {
            string? Said(string line) => member.Return.Value(member.Return.Definition.LineOf(line));
            string Day(string line) => DateOnly.ParseExact(Said(line)!, "yyyy-MM-dd", CultureInfo.InvariantCulture).ToString("d MMM yyyy", CultureInfo.InvariantCulture);
            void Add(string line, Func<string, string> words)
            {
                if (Said(line) is not null && member.Return.IsOpen(member.Return.Definition.LineOf(line)))
                {
                    events.Add($"{member.GivenName} {words(Day(line))}");
                }
            }

            var status = TaxpayerForm.MaritalStatuses.FirstOrDefault(s => s.Code == Said("taxpayer.marital-status"))?.Label.ToLowerInvariant();
            Add("taxpayer.status-since", day => $"{status ?? "changed status"} since {day}");
            Add("scope.came-or-left", day => $"came to Canada or left it on {day}");
            Add("scope.moved-on", day => $"moved from {EmploymentForm.Places.First(p => p.Code == Said("scope.moved-from")).Label} on {day}");
            Add("scope.died-on", day => $"died on {day}");
        }

        return events;
    }

    /// <inheritdoc />
    public IReadOnlyList<NamedDependant> Dependants(Household household) =>
    [
        .. household.Members.Where(m => m.Return.IsYes("scope.spouse") && m.Relatives.GetValueOrDefault("spouse", []).Count == 0)
            .Select(m => new NamedDependant(m.Return.Value(m.Return.Definition.LineOf("taxpayer.spouse-name")) ?? "Spouse", "spouse", "income.net-income", m.Return.Amount("taxpayer.spouse-net-income"))),
        .. household.Members.SelectMany(m => m.Return.IsOpen(m.Return.Definition.FindTable("family.dependants")!) ? m.Return.Entries.RowsOf("family.dependants").Select((row, at) => (Member: m, Row: row, At: at)) : [])
            .Where(d => d.Row.Values.GetValueOrDefault("name") is { } name && household.Members.All(m => !string.Equals(m.Name, name, StringComparison.OrdinalIgnoreCase)))
            .Select(d => new NamedDependant(d.Row.Values["name"], $"age {Figures.Plain(d.Member.Return.Amount("family.dependants.age", d.At))}", "income.net-income", d.Member.Return.Amount("family.dependants.net-income", d.At)))
            .DistinctBy(d => d.Name),
    ];

    private static IEnumerable<(int First, int Second)> Couples(IReadOnlyList<HouseholdMember> members) =>
        from first in Enumerable.Range(0, members.Count)
        from second in members[first].Relatives.GetValueOrDefault("spouse", [])
        where first < second && members[first].Return.IsYes("scope.spouse") && members[second].Return.IsYes("scope.spouse")
        select (first, second);

    private static SharedClaim? Medical(Household household, Couple couple)
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
        List<ClaimOption> options = [.. couple.Both.Select(claimer => new ClaimOption($"{couple.Name(claimer)}, {to}", [.. ClaimedBy(claimer)]))];
        var counted = options.Select((option, at) => household.With(option.Entries).Amount(couple.Both.ElementAt(at), "federal.medical")).ToList();
        return new SharedClaim(
            $"medical-{couple.First}",
            $"Medical expenses, twelve months {to}",
            owners.Sum(o => couple[o].Amount("medical.total")),
            $"{string.Join(" and ", claimers.Select(couple.Name))}, to {DateOnly.ParseExact(until, "yyyy-MM-dd", CultureInfo.InvariantCulture).ToString("d MMM", CultureInfo.InvariantCulture)}",
            [.. couple.Both],
            options)
        {
            Facts =
            [
                .. couple.Both.SelectMany((member, at) => new[]
                {
                    new ClaimFact($"Threshold of {couple.Name(member)}, net income {Figures.Money(couple[member].Amount("income.net-income"))}", couple[member].Amount("federal.medical-threshold"), false),
                    new ClaimFact($"Counts with {couple.Name(member)}", counted[at], counted[at] == counted.Max()),
                }),
            ],
            Months = MonthsOf([.. owners.SelectMany(o => couple[o].Entries.RowsOf("medical.receipts"))], end),
        };
    }

    /// <summary>Receipts by month, from January of the year before to December, and which months the twelve lie in.</summary>
    private static List<ClaimMonth> MonthsOf(List<EntryRow> receipts, DateOnly end)
    {
        var paid = receipts.Where(r => r.Values.ContainsKey("date")).GroupBy(r => r.Values["date"][..7]).ToDictionary(g => g.Key, g => g.Sum(PaidFor));
        return
        [
            .. Enumerable.Range(0, 24).Select(n => new DateOnly(end.Year - 1, 1, 1).AddMonths(n))
                .Select(m => new ClaimMonth(m, paid.GetValueOrDefault(m.ToString("yyyy-MM", CultureInfo.InvariantCulture)), m <= end && m.AddMonths(1).AddDays(-1) > end.AddYears(-1))),
        ];
    }

    private static decimal PaidFor(EntryRow receipt)
    {
        return Amount("amount") - Amount("refunded");

        decimal Amount(string column) => receipt.Values.GetValueOrDefault(column) is { } value ? decimal.Parse(value, CultureInfo.InvariantCulture) : 0;
    }

    /// <summary>The last day of the twelve months, ending in the year, in which most was paid; the latest of several.</summary>
    private static DateOnly BestWindow(List<EntryRow> receipts, int year)
    {
        var dated = receipts.Where(r => r.Values.ContainsKey("date") && r.Values.GetValueOrDefault("claimed-before") != "yes")
            .Select(r => (Day: DateOnly.ParseExact(r.Values["date"], "yyyy-MM-dd", CultureInfo.InvariantCulture), Amount: PaidFor(r))).ToList();
        return dated.Select(d => d.Day).Where(d => d.Year == year).Append(new DateOnly(year, 1, 1)).Append(new DateOnly(year, 12, 31)).Distinct()
            .MaxBy(end => (dated.Where(d => d.Day <= end && d.Day > end.AddYears(-1)).Sum(d => d.Amount), end));
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
            [.. givers.Select(g => new HouseholdEntry(g, "gifts.claimed-by-spouse", g == claimer ? "no" : "yes")), new HouseholdEntry(claimer, "gifts.how", "all")])
        {
            Spared = [new AmountRange(claimer, "gifts.part", givers.Sum(g => couple[g].Amount("gifts.of-year"))) { Beside = [new HouseholdEntry(claimer, "gifts.how", "part")] }],
        };
        ClaimOption Apart(string label, string how) => new(label, [.. givers.SelectMany(g => new[] { new HouseholdEntry(g, "gifts.claimed-by-spouse", "no"), new HouseholdEntry(g, "gifts.how", how) })]);
        return new SharedClaim(
            $"gifts-{couple.First}",
            "Gifts of the year",
            givers.Sum(g => couple[g].Amount("gifts.of-year")),
            string.Join(", ", couple.Both.Where(m => couple[m].Amount("gifts.claimed") > 0).Select(m => $"{couple.Name(m)} {Figures.Money(couple[m].Amount("gifts.claimed"))}").DefaultIfEmpty("nobody")),
            [.. couple.Both],
            [.. givers.Count > 1 ? [Apart("Each their own", "all")] : Array.Empty<ClaimOption>(), .. couple.Both.Select(AllBy), Apart("Carried forward", "none")])
        {
            Kept = [.. couple.Both.Select(m => (m, "gifts.left-of-year"))],
        };
    }

    /// <summary>Amounts for dependants. Of an infirm one either spouse claims; a child who is not infirm gives an amount to a parent without a spouse only.</summary>
    private static IEnumerable<SharedClaim> ForDependants(Couple couple)
    {
        var named = couple.Both.Where(m => couple[m].IsYes("scope.dependants"))
            .SelectMany(m => couple[m].Entries.RowsOf("family.dependants").Select((row, at) => (Member: m, Row: row, Name: row.Values.GetValueOrDefault("name"), Age: couple[m].Amount("family.dependants.age", at))))
            .Where(d => d.Name is not null && (d.Age < 18 || d.Row.Values.GetValueOrDefault("infirm") == "yes"));
        foreach (var person in named.GroupBy(d => d.Name!, StringComparer.OrdinalIgnoreCase))
        {
            var infirm = person.Where(d => d.Row.Values.GetValueOrDefault("infirm") == "yes").ToList();
            var claimers = infirm.Where(d => d.Row.Values.GetValueOrDefault("claimed-elsewhere") != "yes").Select(d => couple.Name(d.Member)).ToList();
            List<ClaimOption> options = infirm.Count < 2 ? [] :
            [
                .. infirm.Select(d => new ClaimOption(couple.Name(d.Member),
                    [.. infirm.Select(o => new HouseholdEntry(o.Member, "family.dependants.claimed-elsewhere", o.Member == d.Member ? "no" : "yes", o.Row.Id))])),
            ];
            yield return new SharedClaim(
                $"dependant-{couple.First}-{person.Key}",
                $"Amount for {person.Key.Split(' ')[0]}",
                null,
                infirm.Count == 0 ? "not open" : claimers.Count == 0 ? "nobody" : string.Join(" and ", claimers),
                [.. couple.Both],
                options,
                Closed: infirm.Count == 0 ? "only for a parent without a spouse, unless infirm"
                    : infirm.Count == 1 ? $"entered on the return of {couple.Name(infirm[0].Member)} only; enter the person on the other's too to compare" : null);
        }
    }

    /// <summary>What one spouse leaves of age, pension, disability and tuition amounts goes to the other by itself.</summary>
    private static SharedClaim? Unused(Couple couple, int member) => couple[member].Amount("federal.left-for-spouse") is > 0 and var left
        ? new SharedClaim(
            $"unused-{member}", $"Amounts {couple.Name(member)} does not use", left, couple.Name(couple.Other(member)), [.. couple.Both], [],
            Closed: "goes to the spouse by itself: age, pension, disability, tuition named to the spouse (ITA 118.8)")
        : null;

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
                ])
                { Spared = Parts() }),
                new ClaimOption("Carried forward", [new HouseholdEntry(student, "tuition.designee", "none")]),
            ],
            Needs: $"signed by {members[student].GivenName}")
        {
            Kept = [.. Provinces().Select(p => (student, $"tuition.{p.Key}-carried"))],
        };

        IEnumerable<(string Key, string Name)> Provinces() => new[] { ("federal", "federal"), ("bc", "British Columbia"), ("ontario", "Ontario") }
            .Where(p => now.Definition.FindLine($"tuition.{p.Item1}-chosen") is not null && now.IsOpen(now.Definition.LineOf($"tuition.{p.Item1}-carried")));

        List<AmountRange> Parts() => [.. Provinces().Where(p => now.Amount($"tuition.{p.Key}-most") > 0).Select(p => new AmountRange(student, $"tuition.{p.Key}-chosen", now.Amount($"tuition.{p.Key}-most"), p.Name))];
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
