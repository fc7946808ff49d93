using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>Steps carried out together: one step by itself, or columns and totals of a repeating section in one walk over its rows.</summary>
/// <param name="Over">The repeating section walked over, or null.</param>
/// <param name="Steps">The steps, in order.</param>
public sealed record Walk(RepeatingSection? Over, IReadOnlyList<Step> Steps);

internal static class Chunks
{
    /// <summary>Items that follow each other and belong together, each with the one before it.</summary>
    public static IEnumerable<IReadOnlyList<T>> ChunkBy<T>(this IEnumerable<T> items, Func<T, T, bool> together)
    {
        var chunk = new List<T>();
        foreach (var item in items)
        {
            if (chunk.Count > 0 && !together(chunk[^1], item))
            {
                yield return chunk;
                chunk = [];
            }

            chunk.Add(item);
        }

        if (chunk.Count > 0)
        {
            yield return chunk;
        }
    }
}

/// <summary>
/// Gathers the steps of a computation into as few walks over rows as their dependencies allow. A column joins a walk
/// when everything it needs of other rows was computed before the walk; a plain total of a column joins the walk that
/// computes the column.
/// </summary>
public static class WalkOrder
{
    /// <summary>The walks of steps that are in dependency order.</summary>
    public static IReadOnlyList<Walk> Of(IReadOnlyList<Step> steps)
    {
        var waiting = steps.Select(s => new Waiting(s)).ToList();
        var ofLine = waiting.Where(w => w.Step.Line is not null).ToDictionary(w => w.Step.Line!);
        var ofSection = waiting.Where(w => w.Step.Section is not null).ToDictionary(w => w.Step.Section!);
        foreach (var step in waiting)
        {
            foreach (var formula in step.Step.Formulas)
            {
                CollectNeeds(formula, step, step.IsTotal ? step.Over : null);
            }
        }

        var done = new HashSet<Waiting>();
        var walks = new List<Walk>();
        while (waiting.Count > 0)
        {
            var next = waiting.FirstOrDefault(w => w.Over is null && Ready(w, done)) ?? waiting.First(w => Ready(w, done));
            var together = new List<Waiting> { next };
            if (next.Over is { } section)
            {
                foreach (var candidate in waiting)
                {
                    if (candidate != next && candidate.Over == section && candidate.Before.All(done.Contains)
                        && candidate.InRow.All(n => done.Contains(n) || together.Contains(n)))
                    {
                        together.Add(candidate);
                    }
                }
            }

            walks.Add(new Walk(next.Over, [.. together.Select(w => w.Step)]));
            done.UnionWith(together);
            waiting.RemoveAll(together.Contains);
        }

        return walks;

        void CollectNeeds(Formula formula, Waiting step, RepeatingSection? total)
        {
            if (formula.ReferredLine is { } line)
            {
                if (ofLine.TryGetValue(line, out var needed))
                {
                    var sameRow = step.Over is not null && needed.Step.Line!.Table == step.Over && !step.Walking.Contains(step.Over);
                    (sameRow ? step.InRow : step.Before).Add(needed);
                }

                return;
            }

            if (formula is SectionIsOpen open)
            {
                step.Before.Add(ofSection[open.Section]);
                return;
            }

            if (formula.WalksOver is { } walked)
            {
                if (ofSection.TryGetValue(walked, out var decided))
                {
                    step.Before.Add(decided);
                }

                if (walked != total)
                {
                    step.Walking.Push(walked);
                    formula.Operands.ToList().ForEach(o => CollectNeeds(o, step, null));
                    step.Walking.Pop();
                    return;
                }
            }

            formula.Operands.ToList().ForEach(o => CollectNeeds(o, step, null));
        }
    }

    /// <summary>The total a line is, when it is nothing but the sum of a column over all rows.</summary>
    public static Aggregate? PlainTotal(Line line) =>
        line is { Table: null, OpenWhen: null, Formula: Aggregate { Kind: AggregateKind.Sum, Where: null } total } ? total : null;

    private static bool Ready(Waiting step, HashSet<Waiting> done) => step.Before.All(done.Contains) && step.InRow.All(done.Contains);

    private sealed class Waiting(Step step)
    {
        public Step Step { get; } = step;

        public bool IsTotal { get; } = step.Line is { } line && PlainTotal(line) is not null;

        /// <summary>The section whose walk the step can join.</summary>
        public RepeatingSection? Over { get; } = step.Line is { } line ? line.Table ?? PlainTotal(line)?.Section : null;

        /// <summary>What must be complete, for all rows, before the walk begins.</summary>
        public HashSet<Waiting> Before { get; } = [];

        /// <summary>What must be computed earlier in the same row.</summary>
        public HashSet<Waiting> InRow { get; } = [];

        /// <summary>The sections an aggregate being read walks over.</summary>
        public Stack<RepeatingSection> Walking { get; } = [];
    }
}
