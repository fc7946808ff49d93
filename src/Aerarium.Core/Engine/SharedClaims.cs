using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>One way to allocate a claim.</summary>
/// <param name="Label">In words: who claims what.</param>
/// <param name="Entries">What it enters in the members' returns; none for leaving everything as it is.</param>
/// <param name="Range">An amount that may be chosen within limits; null where there is none.</param>
public sealed record ClaimOption(string Label, IReadOnlyList<HouseholdEntry> Entries, AmountRange? Range = null);

/// <summary>An amount that may be chosen.</summary>
/// <param name="Member">In whose return.</param>
/// <param name="Line">On which line.</param>
/// <param name="Most">From zero up to this, in whole cents.</param>
public sealed record AmountRange(int Member, string Line, decimal Most);

/// <summary>Something that one or another member of a household may claim.</summary>
/// <param name="Key">Stable key.</param>
/// <param name="Title">What it is.</param>
/// <param name="Amount">How much it is about; null where there is no one amount.</param>
/// <param name="Now">Who claims it now, in words.</param>
/// <param name="Between">Positions of the members between whom it is settled; once one of them has filed, it is.</param>
/// <param name="Options">The other ways the law leaves open; leaving it as it is need not be named.</param>
/// <param name="Needs">What must be there before it can be taken, such as a signature; null for nothing.</param>
/// <param name="Closed">Why there is nothing to choose, in words; null where there is.</param>
public sealed record SharedClaim(
    string Key, string Title, decimal? Amount, string Now, IReadOnlyList<int> Between, IReadOnlyList<ClaimOption> Options, string? Needs = null, string? Closed = null)
{
    /// <summary>
    /// The claim when some members have filed: what they filed cannot be claimed again by another, so that it is closed where one of them is among those between whom it is settled; ways
    /// that would enter something in a filed return are left out.
    /// </summary>
    /// <param name="filed">Positions of the members who have filed.</param>
    /// <param name="why">Why it is closed, by position of the member.</param>
    public SharedClaim After(IReadOnlySet<int> filed, Func<int, string> why) => Between.Where(filed.Contains).Select(m => (int?)m).FirstOrDefault() is { } member
        ? this with { Options = [], Closed = Closed ?? why(member) }
        : this with { Options = [.. Options.Where(o => !o.Entries.Any(e => filed.Contains(e.Member)) && !(o.Range is { } range && filed.Contains(range.Member)))] };
}

/// <summary>One way to allocate a claim, compared with leaving it as it is.</summary>
/// <param name="Label">In words.</param>
/// <param name="Saves">By how much the household's balance falls with this alone; below zero where it rises.</param>
/// <param name="Balances">The balance of each member with this alone.</param>
public sealed record ComparedOption(string Label, decimal Saves, IReadOnlyList<decimal> Balances);

/// <summary>A claim with the way that is best for the household.</summary>
/// <param name="Claim">The claim.</param>
/// <param name="Best">How it is best allocated, in words; null where it is best as it is.</param>
/// <param name="Entries">What taking it enters.</param>
/// <param name="Saves">By how much the household's balance falls when this alone is taken, in the returns' currency.</param>
/// <param name="Moves">Positions of the members whose returns it moves: those it enters something in, and those that follow them.</param>
/// <param name="Options">Every way, each taken alone; of an amount that may be chosen the best.</param>
public sealed record ClaimAdvice(SharedClaim Claim, string? Best, IReadOnlyList<HouseholdEntry> Entries, decimal Saves, IReadOnlyList<int> Moves, IReadOnlyList<ComparedOption> Options);

/// <summary>The best allocation of all claims together.</summary>
/// <param name="Claims">Claim by claim.</param>
/// <param name="Saves">By how much the household's balance falls when all are taken.</param>
/// <param name="Tried">How many allocations were computed.</param>
public sealed record Allocation(IReadOnlyList<ClaimAdvice> Claims, decimal Saves, int Tried)
{
    /// <summary>Refinements of amounts, at most; each starts from the best allocation found before it.</summary>
    private const int MostRounds = 4;

    /// <summary>
    /// Finds it by computing the members' returns together: every combination where there is a choice; where an amount may be chosen, at the place where the
    /// household's balance is least, found by halving where it bends. What raises an error at a line it enters is not lawful and left out. Of equal allocations the one that changes least is kept.
    /// </summary>
    public static Allocation Of(Household household, IReadOnlyList<SharedClaim> claims)
    {
        var now = household.With([]);
        var amounts = claims.SelectMany(c => c.Options).Where(o => o.Range is not null).ToDictionary(o => o, _ => new SortedSet<decimal>());
        Choice[] best = [.. claims.Select(_ => Choice.AsItIs)];
        var (balance, tried) = (now.Balance, 1);
        for (var round = 0; round < MostRounds; round++)
        {
            foreach (var (option, candidates) in amounts)
            {
                var claim = claims.ToList().FindIndex(c => c.Options.Contains(option));
                candidates.UnionWith(LeastBalance(amount => household.With(EntriesOf([.. best[..claim], new Choice(option, amount), .. best[(claim + 1)..]])).Balance, option.Range!.Most));
            }

            var before = balance;
            foreach (var combination in Combinations(claims.Select(c => ChoicesOf(c, amounts)).ToList()))
            {
                tried++;
                var entries = EntriesOf(combination);
                var state = household.With(entries);
                var changes = combination.Count(c => c.Option is not null);
                if (state.Balance < balance || (state.Balance == balance && changes < best.Count(c => c.Option is not null)))
                {
                    if (IsLawful(now, state, entries))
                    {
                        (balance, best) = (state.Balance, [.. combination]);
                    }
                }
            }

            if (amounts.Count == 0 || balance == before)
            {
                break;
            }
        }

        return new Allocation(
            [
                .. claims.Zip(best, (claim, choice) =>
                {
                    var entries = choice.Entries.ToList();
                    var alone = household.With(entries);
                    return new ClaimAdvice(
                        claim,
                        choice.Option is null ? null : choice.Words,
                        entries,
                        now.Balance - alone.Balance,
                        [.. Enumerable.Range(0, household.Members.Count).Where(m => alone.Balances[m] != now.Balances[m] || entries.Exists(e => e.Member == m))],
                        [.. claim.Options.Select(option => Compared(household, now, ChoicesOf(claim, amounts).Where(c => c.Option == option)))]);
                }),
            ],
            now.Balance - balance,
            tried);
    }

    private static ComparedOption Compared(Household household, HouseholdState now, IEnumerable<Choice> choices)
    {
        var (choice, state) = choices.Select(c => (Choice: c, State: household.With(c.Entries))).MinBy(c => c.State.Balance);
        return new ComparedOption(choice.Words, now.Balance - state.Balance, state.Balances);
    }

    private static bool IsLawful(HouseholdState now, HouseholdState state, List<HouseholdEntry> entries) => entries.GroupBy(e => e.Member).All(group =>
    {
        var lines = group.Select(e => e.Line).ToHashSet();
        return !state.HasErrorAt(group.Key, lines) || now.HasErrorAt(group.Key, lines);
    });

    private static List<HouseholdEntry> EntriesOf(IEnumerable<Choice> choices) => [.. choices.SelectMany(c => c.Entries)];

    private static List<Choice> ChoicesOf(SharedClaim claim, Dictionary<ClaimOption, SortedSet<decimal>> amounts) =>
    [
        Choice.AsItIs,
        .. claim.Options.SelectMany(o => o.Range is null ? [new Choice(o, 0)] : amounts[o].Select(amount => new Choice(o, amount))),
    ];

    private static IEnumerable<Choice[]> Combinations(List<List<Choice>> choices)
    {
        var at = new int[choices.Count];
        while (true)
        {
            yield return [.. choices.Select((c, index) => c[at[index]])];
            var place = 0;
            while (place < at.Length && ++at[place] == choices[place].Count)
            {
                at[place++] = 0;
            }

            if (place == at.Length)
            {
                yield break;
            }
        }
    }

    /// <summary>
    /// The amount from zero to the most, in cents, with the least balance, and both ends. A balance that is straight over a stretch is least at an end of it; where it
    /// bends, the stretch is halved, unless even the steepest fall could not bring it below the least found. Rounding to cents is no bend.
    /// </summary>
    private static List<decimal> LeastBalance(Func<decimal, decimal> balance, decimal most)
    {
        const int Pieces = 16;
        const decimal Rounding = 0.05m;
        var known = new Dictionary<decimal, decimal>();
        var edges = Enumerable.Range(0, Pieces + 1).Select(n => Cents(most * n / Pieces)).Distinct().ToList();
        var least = edges.MinBy(At);
        var open = new PriorityQueue<(decimal From, decimal To), decimal>(edges.Zip(edges.Skip(1)).Select(e => (e, Bound(e.First, e.Second))));
        while (open.TryDequeue(out var stretch, out var bound) && bound < At(least) - 0.005m)
        {
            var (from, to) = stretch;
            var middle = Cents((from + to) / 2);
            if (to - from <= 0.01m || (IsStraight(Cents(from + ((to - from) / 4))) && IsStraight(middle) && IsStraight(Cents(from + ((to - from) * 3 / 4)))))
            {
                continue;
            }

            least = At(middle) < At(least) ? middle : least;
            open.Enqueue((from, middle), Bound(from, middle));
            open.Enqueue((middle, to), Bound(middle, to));

            bool IsStraight(decimal amount) => Math.Abs(At(amount) - (At(from) + ((At(to) - At(from)) * (amount - from) / (to - from)))) <= Rounding;
        }

        return [.. new[] { 0, least, most }.Distinct()];

        decimal At(decimal amount) => known.TryGetValue(amount, out var value) ? value : known[amount] = balance(amount);

        // One unit more to the one and less to the other moves the balance by less than a unit.
        decimal Bound(decimal from, decimal to) => ((At(from) + At(to)) / 2) - ((to - from) / 2);
    }

    private static decimal Cents(decimal amount) => Math.Round(amount, 2, MidpointRounding.AwayFromZero);

    private sealed record Choice(ClaimOption? Option, decimal Amount)
    {
        public static readonly Choice AsItIs = new(null, 0);

        public IEnumerable<HouseholdEntry> Entries => Option is null ? []
            : Option.Range is { } range ? Option.Entries.Append(new HouseholdEntry(range.Member, range.Line, Figures.Canonical(Amount))) : Option.Entries;

        public string Words => Option!.Range is null ? Option.Label : $"{Option.Label} {Figures.Money(Amount)}";
    }
}
