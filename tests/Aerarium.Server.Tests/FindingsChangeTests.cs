using Aerarium.Core.Definitions;
using Aerarium.Server.Returns;
using CsCheck;

namespace Aerarium.Server.Tests;

/// <summary>Only what changed of the findings travels; put into the findings before, it gives the findings now.</summary>
public class FindingsChangeTests
{
    private static FindingView Finding(int number) => new($"rule-{number % 7}", Severity.Warning, $"Message {number / 7}", ["form.line"], null, null, "form", null);

    private static readonly Gen<FindingView[]> Some = Gen.Int[0, 20].Select(Finding).Array[0, 12];

    [Fact]
    public void What_changed_leads_from_the_findings_before_to_those_now() => Gen.Select(Some, Some).Sample((before, after) =>
    {
        var change = FindingsChange.Between(3, before, after);
        FindingView[] told = [.. before.Take(change.Head), .. change.Now, .. before.TakeLast(change.End)];
        return told.Length == after.Length && told.Zip(after).All(pair => pair.First.IsSame(pair.Second));
    });

    [Fact]
    public void One_row_more_among_thousands_is_one_finding_on_its_way()
    {
        FindingView[] before = [.. Enumerable.Range(0, 5_000).Select(Finding)];
        var change = FindingsChange.Between(8, before, [.. before.Take(400), Finding(90_000), .. before.Skip(400)]);
        Assert.Equal((8, 400, 1, 4_600), (change.Since, change.Head, change.Now.Count, change.End));
    }

    [Fact]
    public void Findings_that_differ_in_anything_have_other_stamps() => Gen.Select(Some, Some).Sample((one, other) =>
        (FindingsChange.StampOf(one) == FindingsChange.StampOf(other)) == (one.Length == other.Length && one.Zip(other).All(pair => pair.First.IsSame(pair.Second))));

    [Fact]
    public void An_acceptance_is_a_change()
    {
        var accepted = Finding(1) with { Acceptance = new AcceptanceView("Seen", "Rukia", "2026-06-18T14:00:00Z") };
        Assert.Equal(accepted, Assert.Single(FindingsChange.Between(1, [Finding(0), Finding(1)], [Finding(0), accepted]).Now));
    }
}
