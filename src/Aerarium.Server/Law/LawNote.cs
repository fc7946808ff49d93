using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;
using Microsoft.Extensions.Caching.Memory;

namespace Aerarium.Server.Law;

/// <summary>A figure of the law that a return rests on, that is not certain and that nobody verified.</summary>
/// <param name="Key">Key of the figure.</param>
/// <param name="Label">What it is.</param>
/// <param name="Value">What it says.</param>
/// <param name="Source">Section.</param>
/// <param name="Confidence">likely or unsure.</param>
/// <param name="Note">What a reader must know.</param>
/// <param name="Moves">How much more is to pay with a hundredth more of the figure; null where that cannot be computed.</param>
public sealed record UncertainFigure(string Key, string Label, string Value, string Source, string Confidence, string? Note, string? Moves);

/// <summary>The figures of the law a return rests on.</summary>
/// <param name="Figures">How many there are.</param>
/// <param name="Verified">How many of them somebody of the practice verified.</param>
/// <param name="Uncertain">Those that are not certain and not verified, the weightiest first.</param>
public sealed record LawNoteView(int Figures, int Verified, IReadOnlyList<UncertainFigure> Uncertain);

/// <summary>What the practice did about a figure of the law.</summary>
/// <param name="Figure">Key of the figure.</param>
/// <param name="By">Who verified it, or null.</param>
/// <param name="At">When, or null.</param>
/// <param name="Confirmed">Whether another person confirmed it.</param>
/// <param name="Corrected">Whether it is a correction of the practice.</param>
public sealed record LawMark(string Figure, string? By, string? At, bool Confirmed, bool Corrected);

/// <summary>What a return rests on that nobody held against a printed source yet, weighed by what it does to the balance.</summary>
public sealed class LawNote(PracticeDatabase database, Workbench workbench) : IDisposable
{
    private const int WeightsKept = 4_000;

    private readonly MemoryCache _weights = new(new MemoryCacheOptions { SizeLimit = WeightsKept });

    /// <summary>One return is weighed at a time: each figure is a return computed anew.</summary>
    private readonly Lock _weighing = new();

    public static void Map(RouteGroupBuilder api)
    {
        var item = api.MapGroup("/returns/{id:long}").ReachesReturn().WithTags("Law");
        item.MapGet("/law", (long id, LawNote note, CancellationToken stopped) => note.Of(id, stopped));
        item.MapGet("/law/marks", (long id, LawNote note) => note.MarksOf(id));
    }

    /// <summary>The marks of the figures a return can rest on, for the Margin.</summary>
    public IReadOnlyList<LawMark> MarksOf(long id)
    {
        var definition = workbench.Open(id).Definition;
        return database.Read(unit =>
        {
            var verified = LawVerifications.Of(unit, definition.Id, definition.Year, definition.Period);
            var corrected = definition.Edition.Corrections.Select(c => c.Figure).ToHashSet();
            return LawFigures.Of(definition)
                .Select(f => (f.Key, Mark: verified.GetValueOrDefault(f.Key) is { } mark && mark.Content == f.Content ? mark : null))
                .Where(f => f.Mark is not null || corrected.Contains(f.Key))
                .Select(f => new LawMark(
                    f.Key, f.Mark is null ? null : People.Find(unit, f.Mark.VerifiedBy)!.Name, f.Mark?.VerifiedAt, f.Mark?.ConfirmedBy is not null, corrected.Contains(f.Key)))
                .ToList();
        });
    }

    /// <summary>The note of a return.</summary>
    public LawNoteView Of(long id, CancellationToken stopped)
    {
        var workspace = workbench.Open(id);
        var definition = workspace.Definition;
        var verified = database.Read(unit => LawVerifications.Of(unit, definition.Id, definition.Year, definition.Period));
        var figures = LawFigures.Of(definition).Where(f => RestsOn(workspace, f)).ToList();
        var open = figures.Where(f => f.Confidence != Confidence.Certain && !IsVerified(f)).ToList();
        lock (_weighing)
        {
            return new LawNoteView(
                figures.Count,
                figures.Count(IsVerified),
                [
                    .. open.Select(f => (Figure: f, Moves: Weight(workspace, f, stopped))).OrderByDescending(w => Math.Abs(w.Moves ?? 0)).Select(w => new UncertainFigure(
                        w.Figure.Key, w.Figure.Label, w.Figure.Value, w.Figure.Source, w.Figure.Confidence.ToString().ToLowerInvariant(), w.Figure.Note, w.Moves is { } moves ? Figures.Canonical(moves) : null)),
                ]);
        }

        bool IsVerified(LawFigure figure) => verified.GetValueOrDefault(figure.Key)?.Content == figure.Content;
    }

    /// <inheritdoc />
    public void Dispose() => _weights.Dispose();

    /// <summary>Whether a line that uses a figure applies and says something.</summary>
    private static bool RestsOn(Workspace workspace, LawFigure figure) => figure.UsedBy.Any(line => line.Table is null
        ? Says(workspace.Evaluation, line, 0)
        : Enumerable.Range(0, workspace.RowsOf(line.Table.Key).Count).Any(row => Says(workspace.Evaluation, line, row)));

    private static bool Says(Evaluation evaluation, Line line, int row) => evaluation.IsOpen(line, row) && evaluation.Value(line, row) is not (null or "0");

    private decimal? Weight(Workspace workspace, LawFigure figure, CancellationToken stopped)
    {
        var key = (workspace.Record.Id, workspace.Record.Revision, workspace.Today, workspace.Definition.FigureRevision, figure.Key);
        if (_weights.TryGetValue(key, out decimal? known))
        {
            return known;
        }

        stopped.ThrowIfCancellationRequested();
        return _weights.Set(
            key, LawWeight.Of(workspace.Evaluation, workspace.Today, figure, edition => Catalogue.Under(edition, workspace.Definition)), new MemoryCacheEntryOptions { Size = 1 });
    }
}
