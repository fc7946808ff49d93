using System.Diagnostics;
using System.Globalization;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Countries.Canada.Individual;

namespace Aerarium.Benchmarks;

/// <summary>A couple and four students: every claim worked out over all lawful allocations, and what the next income costs; beside it how often one return is evaluated in the same time.</summary>
public static class HouseholdBenchmark
{
    private const int Turns = 60;
    private static readonly DateOnly Day = new(2026, 6, 18);
    private static readonly string[] Numbers = ["012345674", "031017726", "046000378", "046000741", "046001111", "046001483"];

    /// <summary>Times it.</summary>
    public static void Run()
    {
        Catalogue.Get(IndividualReturn.ReturnId, 2025).Evaluator.Compile();
        var (times, tried) = (new List<double>(), 0);
        for (var turn = 0; turn < Turns; turn++)
        {
            var members = Members(turn);
            var begun = Stopwatch.GetTimestamp();
            var household = new Household(members, Day);
            var claims = new FamilyClaims();
            tried = Allocation.Of(household, claims.Of(household)).Tried;
            _ = HouseholdIncome.Of(household, claims.Taxes, claims.MovedByIncome);
            times.Add(Stopwatch.GetElapsedTime(begun).TotalMilliseconds);
        }

        var one = Members(0)[0].Return;
        var alone = Stopwatch.GetTimestamp();
        for (var turn = 0; turn < 1_000; turn++)
        {
            _ = one.Definition.Evaluate(one.Entries, Day);
        }

        var evaluation = Stopwatch.GetElapsedTime(alone).TotalMilliseconds / 1_000;
        times = [.. times.Skip(Turns / 3).Order()];
        Console.WriteLine(string.Create(
            CultureInfo.InvariantCulture,
            $"a household of six, {tried:N0} allocations: {times[times.Count / 2]:0} ms in the median, {times[^2]:0} at the 95th percentile; one return evaluated: {evaluation:0.000} ms"));
    }

    private static List<HouseholdMember> Members(int turn)
    {
        Dictionary<string, string> Answers(params string[] yes) => Catalogue.Get(IndividualReturn.ReturnId, 2025).Lines
            .Where(l => l.Key.StartsWith("scope.", StringComparison.Ordinal) && l.Kind == Core.Definitions.LineKind.Answer && l.Table is null)
            .ToDictionary(l => l.Key, l => yes.Contains(l.Name) || l.Name == "resident" ? "yes" : "no");
        HouseholdMember Member(int at, Dictionary<string, string> values, Dictionary<string, IReadOnlyList<int>> relatives, params (string Table, string Cells)[] rows)
        {
            var entries = new EntrySet { Values = values };
            (values["taxpayer.sin"], values["scope.province"]) = (Numbers[at], "bc");
            foreach (var (row, index) in rows.Select((r, index) => (r, index)))
            {
                entries.Rows.TryAdd(row.Table, []);
                entries.Rows[row.Table].Add(new EntryRow($"r{index}") { Values = row.Cells.Split(';').Select(c => c.Split('=')).ToDictionary(c => c[0], c => c[1]) });
            }

            var evaluation = Catalogue.Get(IndividualReturn.ReturnId, 2025).Evaluate(entries, Day);
            return new HouseholdMember($"Member{at} Test", Numbers[at], evaluation, relatives, evaluation.Definition.Lines.Where(l => l.Ties.Count > 0).Select(l => l.Key).ToHashSet());
        }

        (string, string) Pay(int amount) => ("employment.slips", $"payer=Works;place=bc;income={amount + turn};plan-exempt=yes;premiums-exempt=yes");
        HouseholdMember Parent(int at, int pay, int gift)
        {
            var values = Answers("spouse", "employment", "medical", "gifts", "student-transfer");
            (values["taxpayer.birth-date"], values["family.claim-spouse"], values["gifts.how"]) = ("1977-03-30", "no", "all");
            return Member(
                at, values, new() { ["spouse"] = [1 - at], ["child"] = [2, 3, 4, 5] },
                Pay(pay), ("medical.receipts", "date=2025-03-04;person=self;what=Dentist;amount=2400"), ("gifts.gifts", $"charity=A;date=2025-05-05;amount={gift}"));
        }

        HouseholdMember Student(int at, int pay, int fees)
        {
            var values = Answers("employment", "student");
            (values["taxpayer.birth-date"], values["tuition.designee"]) = ("2005-02-03", "none");
            return Member(at, values, new() { ["parent"] = [0, 1] }, Pay(pay), ("tuition.slips", $"institution=College;fees={fees}"));
        }

        return [Parent(0, 96_400, 1_200), Parent(1, 41_250, 650), Student(2, 9_000, 7_400), Student(3, 14_000, 9_400), Student(4, 17_500, 6_100), Student(5, 4_000, 8_200)];
    }
}
