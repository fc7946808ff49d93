using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>How far an amount is from a limit of the law that cuts it.</summary>
/// <param name="Line">Key of the line that is limited.</param>
/// <param name="Label">Its label.</param>
/// <param name="Limit">The limit, canonical, in the return's currency.</param>
/// <param name="Left">How much more counts before it is reached, canonical; zero when it is.</param>
/// <param name="Cut">How much is beyond it and does not count, canonical.</param>
public sealed record LimitRoom(string Line, string Label, string Limit, string Left, string Cut)
{
    /// <summary>
    /// The limits an entry or a line runs into: lines that are the least of it and of figures of the law, of it or a sum it belongs to. The
    /// row of a repeating section is the one the sheet stands at.
    /// </summary>
    /// <param name="evaluation">The return.</param>
    /// <param name="line">The entry or line.</param>
    /// <param name="users">The lines that use it.</param>
    public static IReadOnlyList<LimitRoom> Of(Evaluation evaluation, Line line, IEnumerable<Line> users) =>
    [
        .. users.Prepend(line).Where(l => l.Table is null || l.Table == line.Table).Select(limited => Room(evaluation.Sheet, limited, line)).OfType<LimitRoom>(),
    ];

    private const int Deep = 2;

    private static LimitRoom? Room(Sheet sheet, Line limited, Line line)
    {
        if (limited.Formula is not Amount formula || LeastIn(formula, sheet) is not { } least)
        {
            return null;
        }

        var claim = limited == line ? least.Candidates[0] : least.Candidates.FirstOrDefault(c => IsPartOf(line, c));
        var limits = least.Candidates.Where(c => c != claim).ToList();
        if (claim is null || limits.Count == 0 || !limits.Any(l => RestsOnLaw(l, Deep)) || RestsOnLaw(claim, 0))
        {
            return null;
        }

        var (claimed, limit) = (claim.Evaluate(sheet), limits.Min(l => l.Evaluate(sheet)));
        return limit < 0 ? null : new LimitRoom(
            limited.Key, limited.Label, Figures.Canonical(limit), Figures.Canonical(Math.Max(0, limit - claimed)), Figures.Canonical(Math.Max(0, claimed - limit)));
    }

    /// <summary>The least that decides a formula: beneath rounding, beneath 'not below zero', and in the branch that applies.</summary>
    private static Extreme? LeastIn(Amount formula, Sheet sheet) => formula switch
    {
        Extreme { Greatest: false } least => least,
        Extreme { Candidates: [Constant, var only] } => LeastIn(only, sheet),
        Extreme { Candidates: [var only, Constant] } => LeastIn(only, sheet),
        Rounded rounded => LeastIn(rounded.Operand, sheet),
        Choose choose => LeastIn(choose.When.Holds(sheet) ? choose.Then : choose.Otherwise, sheet),
        _ => null,
    };

    private static bool IsPartOf(Line line, Amount claim) => claim switch
    {
        Sum sum => IsPartOf(line, sum.Left) || (!sum.Subtract && IsPartOf(line, sum.Right)),
        Aggregate { Of: { } of } => IsPartOf(line, of),
        _ => claim.ReferredLine == line,
    };

    /// <summary>Whether a figure of the law stands in a formula, or in the lines it names, so many lines deep.</summary>
    private static bool RestsOnLaw(Formula formula, int deep) =>
        formula is ParameterValue or Lookup or Stepped
        || (formula.ReferredLine is { } line ? deep > 0 && line.Formula is { } own && RestsOnLaw(own, deep - 1) : formula.Operands.Any(o => RestsOnLaw(o, deep)));
}
