using System.Diagnostics;
using System.Globalization;
using System.Linq.Expressions;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;
using Aerarium.Countries;

namespace Aerarium.Benchmarks;

/// <summary>
/// What an edition of the law costs: building its definition, compiling it or taking the code of another, and the memory both keep. Beside it what sharing compiled code changes in one
/// evaluation: reading as many figures as the definition's rules name from constants of the code, and from an array that is fed in, as is done, by turns.
/// </summary>
public static class Editions
{
    private const int Turns = 200, WarmUp = 100, Sums = 200;

    /// <summary>Measures the returns whose law is largest, and the smallest.</summary>
    public static void Run()
    {
        foreach (var (id, figure) in new[] { ("ke/employment-income", "personal-relief"), ("ca/individual", "basic-personal-most"), ("de/individual", "lump-sum") })
        {
            var usual = Catalogue.Get(id, Catalogue.TypeOf(id).Years[^1]);
            var written = LawFigures.Of(usual).FirstOrDefault(f => f.Key == figure)?.AsWritten ?? LawFigures.Of(usual).First(f => f.AsWritten?.Value is not null).AsWritten!;
            var before = GC.GetTotalMemory(forceFullCollection: true);
            var begun = Stopwatch.GetTimestamp();
            var edition = Catalogue.Under(new LawEdition([written with { Value = written.Value + 1 }]), usual);
            var built = Stopwatch.GetElapsedTime(begun);
            begun = Stopwatch.GetTimestamp();
            edition.Evaluator.Compile();
            var compiled = Stopwatch.GetElapsedTime(begun);
            var second = Catalogue.Under(new LawEdition([written with { Value = written.Value + 2 }]), usual);
            begun = Stopwatch.GetTimestamp();
            second.Evaluator.Compile();
            var taken = Stopwatch.GetElapsedTime(begun);
            var kept = GC.GetTotalMemory(forceFullCollection: true) - before;
            var named = edition.Lines.Select(l => l.Formula).OfType<Formula>().Sum(Named);
            var (constant, fed) = Read(named);
            Console.WriteLine(string.Create(
                CultureInfo.InvariantCulture,
                $"{id}: an edition is built in {built.TotalMilliseconds:0} ms, compiled in {compiled.TotalMilliseconds:0} ms where nothing of its rules is yet and in {taken.TotalMilliseconds:0} ms where another edition is; two keep {kept / 1024.0 / 1024.0:0.0} MB; its rules name figures {named} times, which takes {constant:0.00} microseconds from constants and {fed:0.00} from an array that is fed in"));
            GC.KeepAlive((edition, second));
        }
    }

    private static int Named(Formula formula) => formula is ILineFormula ? 0 : (formula is ParameterValue ? 1 : 0) + formula.Operands.Sum(Named);

    /// <summary>Microseconds for adding up so many figures: from constants, and from an array.</summary>
    private static (double Constant, double Fed) Read(int figures)
    {
        var (given, sum) = (Expression.Parameter(typeof(decimal[])), Expression.Variable(typeof(decimal)));
        Func<decimal[], decimal> Of(Func<int, Expression> read) => Expression.Lambda<Func<decimal[], decimal>>(
            Expression.Block([sum], [.. Enumerable.Range(0, figures).Select(at => Expression.AddAssign(sum, read(at))), sum]), given).Compile();
        var (constant, fed) = (Of(at => Expression.Constant(at + 0.5m)), Of(at => Expression.ArrayIndex(given, Expression.Constant(at))));
        decimal[] values = [.. Enumerable.Range(0, figures).Select(at => at + 0.5m)];
        var turns = new List<(double Constant, double Fed)>();
        for (var turn = 0; turn < WarmUp + Turns; turn++)
        {
            turns.Add((Took(constant), Took(fed)));
        }

        turns.RemoveRange(0, WarmUp);
        return (turns.Select(t => t.Constant).Order().ElementAt(Turns / 2), turns.Select(t => t.Fed).Order().ElementAt(Turns / 2));

        double Took(Func<decimal[], decimal> read)
        {
            var begun = Stopwatch.GetTimestamp();
            for (var time = 0; time < Sums; time++)
            {
                _ = read(values);
            }

            return Stopwatch.GetElapsedTime(begun).TotalMicroseconds / Sums;
        }
    }
}
