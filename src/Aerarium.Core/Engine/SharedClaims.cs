using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>One way to allocate a claim.</summary>
/// <param name="Label">In words: who claims what.</param>
/// <param name="Entries">What it enters in the members' returns; none for leaving everything as it is.</param>
/// <param name="Range">An amount that may be chosen within limits; null where there is none.</param>
public sealed record ClaimOption(string Label, IReadOnlyList<HouseholdEntry> Entries, AmountRange? Range = null)
{
    /// <summary>Rows it puts in the place of others.</summary>
    public IReadOnlyList<HouseholdRows> Rows { get; init; } = [];

    /// <summary>Amounts that are claimed in full unless entered: more of them never makes the balance larger, and what is not needed is kept for later years. What does not lower the balance is spared.</summary>
    public IReadOnlyList<AmountRange> Spared { get; init; } = [];
}

/// <summary>An amount that may be chosen.</summary>
/// <param name="Member">In whose return.</param>
/// <param name="Line">On which line.</param>
/// <param name="Most">From zero up to this, in whole cents.</param>
/// <param name="Of">What it is an amount of, in words, where an option has several.</param>
public sealed record AmountRange(int Member, string Line, decimal Most, string Of = "")
{
    /// <summary>What is entered beside it.</summary>
    public IReadOnlyList<HouseholdEntry> Beside { get; init; } = [];
}

/// <summary>A figure a claim turns on.</summary>
/// <param name="Label">What it is.</param>
/// <param name="Amount">In the returns' currency.</param>
/// <param name="Stressed">Whether it is the one that counts.</param>
public sealed record ClaimFact(string Label, decimal Amount, bool Stressed);

/// <summary>What was paid in a month.</summary>
/// <param name="Month">Its first day.</param>
/// <param name="Amount">In the returns' currency.</param>
/// <param name="Counts">Whether it lies within the twelve months that give most.</param>
public sealed record ClaimMonth(DateOnly Month, decimal Amount, bool Counts);

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
    /// <summary>Lines that say what is kept for later years; of ways that are equally good now the one that keeps most is taken.</summary>
    public IReadOnlyList<(int Member, string Line)> Kept { get; init; } = [];

    /// <summary>Figures it turns on, to be shown beside it.</summary>
    public IReadOnlyList<ClaimFact> Facts { get; init; } = [];

    /// <summary>What was paid month by month, where a span of months is chosen.</summary>
    public IReadOnlyList<ClaimMonth> Months { get; init; } = [];

    /// <summary>
    /// The claim when some members have filed: what they filed cannot be claimed again by another, so that it is closed where one of them is among those between whom it is settled; ways
    /// that would enter something in a filed return are left out.
    /// </summary>
    /// <param name="filed">Positions of the members who have filed.</param>
    /// <param name="why">Why it is closed, by position of the member.</param>
    public SharedClaim After(IReadOnlySet<int> filed, Func<int, string> why) => Between.Where(filed.Contains).Select(m => (int?)m).FirstOrDefault() is { } member
        ? this with { Options = [], Closed = Closed ?? why(member) }
        : this with { Options = [.. Options.Where(o => !o.Entries.Any(e => filed.Contains(e.Member)) && !o.Rows.Any(r => filed.Contains(r.Member)) && !(o.Range is { } range && filed.Contains(range.Member)))] };
}

/// <summary>One way to allocate a claim, compared with leaving it as it is.</summary>
/// <param name="Label">In words.</param>
/// <param name="Saves">By how much the household's balance falls with this alone; below zero where it rises.</param>
/// <param name="Balances">The balance of each member with this alone.</param>
/// <param name="Keeps">What is kept for later years with it; null where nothing is ever kept.</param>
public sealed record ComparedOption(string Label, decimal Saves, IReadOnlyList<decimal> Balances, decimal? Keeps);

/// <summary>A claim with the way that is best for the household.</summary>
/// <param name="Claim">The claim.</param>
/// <param name="Best">How it is best allocated, in words; null where it is best as it is.</param>
/// <param name="Entries">What taking it enters.</param>
/// <param name="Rows">Rows that taking it puts in the place of others.</param>
/// <param name="Saves">By how much the household's balance falls when this alone is taken, in the returns' currency.</param>
/// <param name="Spares">How much more is kept for later years when this alone is taken.</param>
/// <param name="Moves">Positions of the members whose returns it moves: those it enters something in, and those that follow them.</param>
/// <param name="Options">Every way, each taken alone; of an amount that may be chosen the best.</param>
public sealed record ClaimAdvice(
    SharedClaim Claim,
    string? Best,
    IReadOnlyList<HouseholdEntry> Entries,
    IReadOnlyList<HouseholdRows> Rows,
    decimal Saves,
    decimal Spares,
    IReadOnlyList<int> Moves,
    IReadOnlyList<ComparedOption> Options);

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
    /// household's balance is least, found by halving where it bends. What raises an error at a line it enters is not lawful and left out. Of equal allocations the one that keeps
    /// most for later years is taken, and of those the one that changes least.
    /// </summary>
    public static Allocation Of(Household household, IReadOnlyList<SharedClaim> claims)
    {
        var now = household.With([]);
        var amounts = claims.SelectMany(c => c.Options).Where(o => o.Range is not null).ToDictionary(o => o, _ => new SortedSet<decimal>());
        Choice[] best = [.. claims.Select(_ => Choice.AsItIs)];
        var (least, tried) = (Worth(now, claims, 0), 1);
        for (var round = 0; round < MostRounds; round++)
        {
            foreach (var (option, candidates) in amounts)
            {
                var claim = claims.ToList().FindIndex(c => c.Options.Contains(option));
                candidates.UnionWith(LeastBalance(amount => With(household, [.. best[..claim], new Choice(option, amount), .. best[(claim + 1)..]]).Balance, option.Range!.Most));
            }

            var before = least;
            foreach (var combination in Combinations([.. claims.Select(c => ChoicesOf(c, amounts).FindAll(choice => choice.Option is null || !IsAsItIs(household, choice)))]))
            {
                tried++;
                var state = With(household, combination);
                if (state.Balance <= least.Balance && Worth(state, claims, combination.Count(c => c.Option is not null)) is var worth && worth.CompareTo(least) < 0 && IsLawful(now, state, combination))
                {
                    (least, best) = (worth, [.. combination]);
                }
            }

            if (amounts.Count == 0 || least == before)
            {
                break;
            }
        }

        Spare(household, claims, best);
        return new Allocation([.. claims.Zip(best, (claim, choice) => Advice(household, now, claim, choice, amounts))], now.Balance - least.Balance, tried);
    }

    private static ClaimAdvice Advice(Household household, HouseholdState now, SharedClaim claim, Choice choice, Dictionary<ClaimOption, SortedSet<decimal>> amounts)
    {
        var alone = With(household, [choice]);
        return new ClaimAdvice(
            claim,
            choice.Option is null ? null : choice.Words,
            choice.Entries,
            choice.Rows,
            now.Balance - alone.Balance,
            KeptIn(alone, claim) - KeptIn(now, claim),
            [.. Enumerable.Range(0, household.Members.Count).Where(m => alone.Balances[m] != now.Balances[m] || choice.Entries.Any(e => e.Member == m) || choice.Rows.Any(r => r.Member == m))],
            [.. claim.Options.Select(option => Compared(household, now, claim, ChoicesOf(claim, amounts).Where(c => c.Option == option)))]);
    }

    /// <summary>Takes no more of an amount than lowers the balance, to a whole unit: the rest is kept. Where everything is as it should be but too much is taken, that is said too.</summary>
    private static void Spare(Household household, IReadOnlyList<SharedClaim> claims, Choice[] best)
    {
        for (var claim = 0; claim < claims.Count; claim++)
        {
            var option = best[claim].Option ?? claims[claim].Options.FirstOrDefault(o => o.Spared.Count > 0 && IsAsItIs(household, new Choice(o, 0)));
            if (option is null || option.Spared.Count == 0)
            {
                continue;
            }

            HouseholdState With(Choice choice) => Allocation.With(household, [.. best[..claim], choice, .. best[(claim + 1)..]]);
            var before = With(best[claim]);
            var spared = new Choice(option, 0);
            foreach (var range in option.Spared)
            {
                var (from, to) = (-1m, decimal.Ceiling(range.Most));
                while (to - from > 1)
                {
                    var middle = decimal.Floor((from + to) / 2);
                    (from, to) = With(spared.Taking(range, middle)).Balance <= before.Balance ? (from, middle) : (middle, to);
                }

                spared = to < range.Most - 1 ? spared.Taking(range, to) : spared;
            }

            if (spared.Taken.Count > 0 && With(spared) is var after && after.Balance <= before.Balance && KeptIn(after, claims[claim]) > KeptIn(before, claims[claim]))
            {
                best[claim] = spared;
            }
        }
    }

    /// <summary>Whether a way is what the returns have already: it need not be tried beside leaving everything as it is.</summary>
    private static bool IsAsItIs(Household household, Choice choice) => choice.Rows.Count == 0 && choice.Entries.All(e => IsEntered(household, e));

    private static bool IsEntered(Household household, HouseholdEntry entry)
    {
        var entries = household.Members[entry.Member].Return.Entries;
        return entry.Row is null
            ? entries.Values.GetValueOrDefault(entry.Line) == entry.Value
            : entries.ValueOf(household.Members[entry.Member].Return.Definition.LineOf(entry.Line), entry.Row) == entry.Value;
    }

    private static (decimal Balance, decimal Kept, int Changes) Worth(HouseholdState state, IReadOnlyList<SharedClaim> claims, int changes) => (state.Balance, -claims.Sum(c => KeptIn(state, c)), changes);

    private static decimal KeptIn(HouseholdState state, SharedClaim claim) => claim.Kept.Sum(k => state.Amount(k.Member, k.Line));

    private static ComparedOption Compared(Household household, HouseholdState now, SharedClaim claim, IEnumerable<Choice> choices)
    {
        var (choice, state) = choices.Select(c => (Choice: c, State: With(household, [c]))).MinBy(c => c.State.Balance);
        return new ComparedOption(choice.Words, now.Balance - state.Balance, state.Balances, claim.Kept.Count == 0 ? null : KeptIn(state, claim));
    }

    private static HouseholdState With(Household household, IReadOnlyList<Choice> choices)
    {
        var changes = new List<HouseholdChange>(choices.Count);
        foreach (var choice in choices)
        {
            if (choice.Option is not null)
            {
                changes.Add(choice.Change);
            }
        }

        return household.After(changes);
    }

    private static bool IsLawful(HouseholdState now, HouseholdState state, IEnumerable<Choice> choices) => choices.SelectMany(c => c.Entries).GroupBy(e => e.Member).All(group =>
    {
        var lines = group.Select(e => e.Line).ToHashSet();
        return !state.HasErrorAt(group.Key, lines) || now.HasErrorAt(group.Key, lines);
    });

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

    /// <summary>A way that is taken, with the amount of a range.</summary>
    private sealed class Choice(ClaimOption? option, decimal amount)
    {
        public static readonly Choice AsItIs = new(null, 0);

        public ClaimOption? Option => option;

        /// <summary>Amounts taken only in part.</summary>
        public IReadOnlyList<(AmountRange Range, decimal Amount)> Taken { get; private init; } = [];

        public IReadOnlyList<HouseholdRows> Rows => option?.Rows ?? [];

        /// <summary>What it changes.</summary>
        public HouseholdChange Change => field ??= new HouseholdChange(Entries, Rows);

        public IReadOnlyList<HouseholdEntry> Entries => field ??= [.. All.GroupBy(e => (e.Member, e.Line, e.Row)).Select(g => g.Last())];

        private IEnumerable<HouseholdEntry> All =>
        [
            .. option?.Entries ?? [],
            .. option?.Range is { } range ? [new HouseholdEntry(range.Member, range.Line, Figures.Canonical(amount))] : Array.Empty<HouseholdEntry>(),
            .. Taken.SelectMany(t => t.Range.Beside.Append(new HouseholdEntry(t.Range.Member, t.Range.Line, Figures.Canonical(t.Amount)))),
        ];

        public string Words => option!.Range is not null ? $"{option.Label} {Figures.Money(amount)}"
            : Taken.Count == 0 ? option.Label : $"{option.Label}, {string.Join(", ", Taken.Select(t => $"{t.Range.Of} {Figures.Money(t.Amount)}".Trim()))} of it; the rest is kept";

        public Choice Taking(AmountRange range, decimal taken) => new(option, amount) { Taken = [.. Taken.Where(t => t.Range != range), (range, taken)] };
    }
}
