using System.Globalization;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>A home sold, as far as its designation goes.</summary>
/// <param name="Gain">Gain, in Canadian dollars.</param>
/// <param name="YearsOwned">Calendar years owned.</param>
/// <param name="ExtraYear">Whether a year is added to those designated: for who was resident when it was bought.</param>
/// <param name="Lived">Calendar years in which the family lived there.</param>
public sealed record HomeSold(decimal Gain, int YearsOwned, bool ExtraYear, IReadOnlySet<int> Lived)
{
    /// <summary>The exempt part of the gain for so many years designated, to the cent (ITA 40(2)(b)).</summary>
    public decimal Exempt(int designated) => designated == 0 || YearsOwned == 0 ? 0
        : Math.Round(Gain * Math.Min(1, (designated + (ExtraYear ? 1m : 0)) / YearsOwned), 2, MidpointRounding.AwayFromZero);

    /// <summary>Years beyond which more of them exempt nothing.</summary>
    public int MostYears => Math.Max(1, YearsOwned - (ExtraYear ? 1 : 0));
}

/// <summary>
/// Which home is designated for which year: a family designates one home for each year, among those it lived in (ITA 54 "principal residence"). The best designation exempts most of all
/// gains together.
/// </summary>
public static class HomeDesignation
{
    private const int MostHomes = 4;

    /// <summary>The years of each home in the designation that exempts most: every number of years of every home that the years lived in allow is looked at.</summary>
    public static IReadOnlyList<IReadOnlyList<int>> Best(IReadOnlyList<HomeSold> homes)
    {
        var years = homes.SelectMany(h => h.Lived).Distinct().Order().ToList();
        var reached = new List<Dictionary<string, (int[] Counts, string From, int Home)>> { new() { [""] = (new int[homes.Count], "", -1) } };
        foreach (var year in years)
        {
            var next = new Dictionary<string, (int[] Counts, string From, int Home)>();
            foreach (var (key, state) in reached[^1])
            {
                Reach(state.Counts, key, -1);
                for (var home = 0; home < homes.Count; home++)
                {
                    if (homes[home].Lived.Contains(year) && state.Counts[home] < homes[home].MostYears)
                    {
                        int[] counts = [.. state.Counts];
                        counts[home]++;
                        Reach(counts, key, home);
                    }
                }
            }

            reached.Add(next);

            void Reach(int[] counts, string from, int home) => next.TryAdd(string.Join(',', counts), (counts, from, home));
        }

        var at = reached[^1].MaxBy(s => s.Value.Counts.Select((count, home) => homes[home].Exempt(count)).Sum()).Key;
        List<int>[] designated = [.. homes.Select(_ => new List<int>())];
        for (var year = years.Count; year > 0; year--)
        {
            var (_, from, home) = reached[year][at];
            if (home >= 0)
            {
                designated[home].Insert(0, years[year - 1]);
            }

            at = from;
        }

        return designated;
    }

    /// <summary>The designation as a claim with its ways; null where there is nothing to designate.</summary>
    internal static SharedClaim? Claim(IReadOnlyList<HouseholdMember> members, int owner)
    {
        var now = members[owner].Return;
        var pages = now.IsYes("scope.home") ? now.Entries.RowsOf("home.homes") : [];
        var homes = pages.Select((page, at) => new HomeSold(
            now.Amount("home.homes.gain", at),
            (int)now.Amount("home.homes.years-owned", at),
            page.Values.GetValueOrDefault("resident-when-bought") == "yes",
            Years(now, "home.lived", page.Id))).ToList();
        if (homes.All(h => h.Lived.Count == 0 || h.Gain <= 0))
        {
            return null;
        }

        string Name(int home) => (pages[home].Values.GetValueOrDefault("address") ?? $"home {home + 1}").Split(',')[0];
        string Words(IReadOnlyList<IReadOnlyList<int>> years) => string.Join("; ", years.Select((y, home) => $"{Name(home)} {(y.Count == 0 ? "none" : string.Join(", ", Spans(y).Select(s => s.From == s.To ? $"{s.From}" : $"{s.From} to {s.To}")))}"));
        ClaimOption Option(IReadOnlyList<IReadOnlyList<int>> years) => new(
            Words(years),
            [.. years.Select((y, home) => new HouseholdEntry(owner, "home.homes.designation", Code(homes, home, y.Count), pages[home].Id))])
        {
            Rows = [.. years.Select((y, home) => new HouseholdRows(owner, "home.years", pages[home].Id, [.. Spans(y).Select(s => new Dictionary<string, string> { ["from"] = Text(s.From), ["to"] = Text(s.To) })]))],
        };
        IReadOnlyList<IReadOnlyList<int>> designated = [.. pages.Select(p => Years(now, "home.years", p.Id).Order().ToList())];
        List<IReadOnlyList<IReadOnlyList<int>>> ways = homes.Count > MostHomes ? [] : [Best(homes), .. homes.Count > 1 ? Enumerable.Range(0, homes.Count).Select(first => First(homes, first)) : []];
        return new SharedClaim(
            $"homes-{owner}",
            homes.Count == 1 ? $"Home sold, {members[owner].GivenName}: years designated" : $"Homes sold, {members[owner].GivenName}: years designated",
            homes.Sum(h => h.Gain),
            Words(designated),
            [owner],
            [.. ways.DistinctBy(Words).Where(w => Words(w) != Words(designated)).Select(Option)],
            Needs: "the same on the spouse's return, where both own",
            Closed: homes.Count > MostHomes ? $"more than {MostHomes} homes: compare the gain for each year by hand" : null)
        {
            Facts = [.. homes.SelectMany((home, at) => new[]
            {
                new ClaimFact($"{Name(at)}: gain for each of {home.YearsOwned} years owned", home.YearsOwned == 0 ? 0 : Math.Round(home.Gain / home.YearsOwned, 2, MidpointRounding.AwayFromZero), false),
                new ClaimFact($"{Name(at)}: exempt as now", home.Exempt(designated[at].Count), true),
            })],
        };
    }

    /// <summary>One home for all the years it was lived in, the others for what is left.</summary>
    private static List<IReadOnlyList<int>> First(List<HomeSold> homes, int first)
    {
        var taken = homes[first].Lived.Order().Take(homes[first].MostYears).ToHashSet();
        var rest = Best([.. homes.Select((h, at) => at == first ? h with { Lived = new HashSet<int>() } : h with { Lived = h.Lived.Except(taken).ToHashSet() })]);
        return [.. homes.Select((_, at) => at == first ? (IReadOnlyList<int>)[.. taken.Order()] : rest[at])];
    }

    /// <summary>The code of the designation: none, one home for all years or all but one, one for some, several homes.</summary>
    private static string Code(List<HomeSold> homes, int home, int years) => years == 0 ? "0" : homes.Count > 1 ? "3" : years >= homes[home].MostYears ? "1" : "2";

    private static HashSet<int> Years(Evaluation now, string table, string page) =>
    [
        .. now.Entries.RowsOf(table).Where(r => r.Values.GetValueOrDefault("of") == page && r.Values.ContainsKey("from") && r.Values.ContainsKey("to"))
            .SelectMany(r => Enumerable.Range(Number(r.Values["from"]), Math.Max(0, Number(r.Values["to"]) - Number(r.Values["from"]) + 1))),
    ];

    private static IEnumerable<(int From, int To)> Spans(IReadOnlyList<int> years)
    {
        for (var start = 0; start < years.Count;)
        {
            var end = start;
            while (end + 1 < years.Count && years[end + 1] == years[end] + 1)
            {
                end++;
            }

            yield return (years[start], years[end]);
            start = end + 1;
        }
    }

    private static int Number(string text) => int.Parse(text, CultureInfo.InvariantCulture);

    private static string Text(int year) => year.ToString(CultureInfo.InvariantCulture);
}
