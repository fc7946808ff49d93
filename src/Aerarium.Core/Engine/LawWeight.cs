using Aerarium.Core.Definitions;

namespace Aerarium.Core.Engine;

/// <summary>What a figure of the law is worth to one return: the return computed once more with a hundredth more of the figure.</summary>
public static class LawWeight
{
    private const decimal HundredthMore = 1.01m;

    /// <summary>How much more is to pay, in the return's currency, with a hundredth more of the figure; null where the figure can say nothing else.</summary>
    /// <param name="evaluation">The return under the law as it is.</param>
    /// <param name="today">Day of evaluation.</param>
    /// <param name="figure">The figure.</param>
    /// <param name="under">Builds the return's definition under an edition.</param>
    public static decimal? Of(Evaluation evaluation, DateOnly today, LawFigure figure, Func<LawEdition, Definition> under)
    {
        if (figure.AsWritten is not { } written)
        {
            return null;
        }

        try
        {
            return under(evaluation.Definition.Edition.With([More(written)])).EvaluateOnce(evaluation.Entries, today).Balance - evaluation.Balance;
        }
        catch (RuleException)
        {
            // No other value can be laid over it, or a rate that is the whole already can be no more.
            return null;
        }
    }

    private static LawCorrection More(LawCorrection written) =>
        written with { Value = written.Value * HundredthMore, Ranges = [.. written.Ranges.Select(r => r with { Value = r.Value * HundredthMore })] };
}
