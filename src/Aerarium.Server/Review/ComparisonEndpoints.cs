using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Review;

/// <summary>A key figure of an alternative.</summary>
/// <param name="Label">Label.</param>
/// <param name="Amount">Its amount.</param>
/// <param name="Movement">By how much it differs from the return as it is.</param>
public sealed record AlternativeFigure(string Label, string Amount, string Movement);

/// <summary>One choice of an election, computed.</summary>
/// <param name="Code">Code.</param>
/// <param name="Label">Label.</param>
/// <param name="Chosen">Whether the return has it now.</param>
/// <param name="Figures">The whole Outcome chain.</param>
/// <param name="Hindrances">Why it is not open; empty when it is.</param>
public sealed record AlternativeView(string Code, string Label, bool Chosen, IReadOnlyList<AlternativeFigure> Figures, IReadOnlyList<string> Hindrances);

/// <summary>An elective line and its choices.</summary>
/// <param name="Line">Key of the line.</param>
/// <param name="Label">Its label.</param>
/// <param name="Law">Section of the law.</param>
/// <param name="Binds">For how long a choice binds, in words; null where it does not.</param>
/// <param name="Bound">Why the law no longer lets one choose, in words; null while it does.</param>
/// <param name="Choices">The choices; the last figure of each is what they are compared by.</param>
public sealed record ElectionView(string Line, string Label, string? Law, string? Binds, string? Bound, IReadOnlyList<AlternativeView> Choices);

/// <summary>What a further step of income costs, from one income on.</summary>
public sealed record CostPoint(string More, string Cost);

/// <summary>What the next income on a line costs.</summary>
public sealed record NextIncomeView(string Line, string Label, string Step, IReadOnlyList<CostPoint> Points);

/// <summary>Choices side by side, and what the next income costs.</summary>
public sealed record AlternativesView(IReadOnlyList<ElectionView> Elections, IReadOnlyList<NextIncomeView> NextIncome);

/// <summary>A cause that moved the balance.</summary>
public sealed record BridgeStepView(string Cause, string? Form, string Movement);

/// <summary>How last year's balance became this year's.</summary>
public sealed record BridgeView(string FromYear, string From, IReadOnlyList<BridgeStepView> Steps, string To);

/// <summary>A row beside the row of last year that it goes on from.</summary>
/// <param name="Row">Id of the row this year; null when it is gone.</param>
/// <param name="Name">What the row is called.</param>
/// <param name="IsNew">Whether there was no such row last year.</param>
/// <param name="Before">Last year's values by line, canonical; blank ones are left out.</param>
public sealed record RowLastYearView(string? Row, string Name, bool IsNew, IReadOnlyDictionary<string, string> Before);

internal static class ComparisonEndpoints
{
    private const decimal Reach = 1_000_000;
    private const int Points = 60;

    public static void MapComparisons(this RouteGroupBuilder api)
    {
        var returns = api.MapGroup("/returns/{id:long}").ReachesReturn().WithTags("Review");
        returns.MapGet("/alternatives", (long id, Workbench workbench) => Alternatives(workbench.Open(id)));
        returns.MapGet("/last-year/{section}", RowsLastYear);
        returns.MapGet("/bridge", (long id, Workbench workbench, PracticeDatabase database) => Bridge(workbench.Open(id), workbench, database));
    }

    private static AlternativesView Alternatives(Workspace workspace)
    {
        var now = workspace.Evaluation.Outcome.ToDictionary(o => o.Figure, o => o.Amount);
        return new AlternativesView(
            [
                .. Core.Engine.Alternatives.Of(workspace.Evaluation, workspace.Today).Select(election => new ElectionView(
                    election.Line.Key,
                    election.Line.Form.Beside is { } beside ? $"{election.Line.Label}, {beside.Column.ToLowerInvariant()}" : election.Line.Label,
                    election.Line.Law ?? election.Line.Section.Law,
                    election.Line.ElectionBinds,
                    workspace.Ties.Bound(election.Line),
                    [
                        .. election.Choices.Select(choice => new AlternativeView(
                            choice.Code,
                            choice.Label,
                            choice.Chosen,
                            [
                                .. choice.Outcome.Select(o => new AlternativeFigure(o.Figure.Label, Figures.Canonical(o.Amount), Figures.Canonical(o.Amount - now[o.Figure]))),
                                .. election.OthersMove ? Others(choice, workspace.Evaluation) : [],
                            ],
                            [.. choice.Hindrances.Select(h => h.Message)])),
                    ])),
            ],
            [
                .. Core.Engine.Alternatives.CostOfIncome(workspace.Evaluation, workspace.Today, Reach, Points).Select(next => new NextIncomeView(
                    next.Line.Key,
                    next.Line.Form.Beside is { } beside ? $"{next.Line.Label}, {beside.Column.ToLowerInvariant()}" : next.Line.Label,
                    Figures.Canonical(NextIncome.Step),
                    [.. next.Points.Select(p => new CostPoint(Figures.Canonical(p.More), Figures.Canonical(p.Cost)))])),
            ]);
    }

    /// <summary>The other taxes that come with a choice, and what it costs with them.</summary>
    private static IEnumerable<AlternativeFigure> Others(Alternative choice, Evaluation now)
    {
        var before = now.Definition.OtherTaxes.ToDictionary(t => t, t => t.Amount.Evaluate(now.Sheet));
        return choice.Others.Select(o => new AlternativeFigure(o.Tax.Label, Figures.Canonical(o.Amount), Figures.Canonical(o.Amount - before[o.Tax])))
            .Append(new AlternativeFigure("Balance and other taxes", Figures.Canonical(choice.Cost), Figures.Canonical(choice.Cost - now.Balance - before.Values.Sum())));
    }

    private static IReadOnlyList<RowLastYearView> RowsLastYear(long id, string section, string? row, Workbench workbench, PracticeDatabase database)
    {
        var workspace = workbench.Open(id);
        var table = workspace.Definition.FindTable(section) ?? throw PlainProblem.NotFound("This section");
        if (BeforeOf(workspace, workbench, database)?.Evaluation is not { } before || before.Definition.FindTable(section) is not { } earlier)
        {
            return [];
        }

        var ids = workspace.RowsOf(section);
        return
        [
            .. RowsBeside.Of(table, workspace.Evaluation, before).Where(r => row is null || (r.Now is { } at && ids[at] == row)).Select(r => new RowLastYearView(
                r.Now is { } now ? ids[now] : null,
                r.Now is { } named ? workspace.Evaluation.RowName(table, named) : before.RowName(earlier, r.Before!.Value),
                r.Before is null,
                r.Before is not { } place ? new Dictionary<string, string>() : earlier.Lines.Select(l => (l.Key, Value: before.Value(l, place)))
                    .Where(v => v.Value is not null).ToDictionary(v => v.Key, v => v.Value!))),
        ];
    }

    private static Workspace? BeforeOf(Workspace workspace, Workbench workbench, PracticeDatabase database)
    {
        var record = workspace.Record;
        return database.Read(unit => EarlierReturn.LastYear(unit, record)) is { } last ? workbench.Open(last.Id) : null;
    }

    private static BridgeView? Bridge(Workspace workspace, Workbench workbench, PracticeDatabase database)
    {
        if (BeforeOf(workspace, workbench, database) is not { } before)
        {
            return null;
        }

        var bridge = Core.Engine.Bridge.Between(before.Evaluation, workspace.Evaluation, workspace.Today);
        return new BridgeView(
            before.InWords, Figures.Canonical(bridge.From), [.. bridge.Steps.Select(s => new BridgeStepView(s.Cause, s.Form, Figures.Canonical(s.Movement)))], Figures.Canonical(bridge.To));
    }
}
