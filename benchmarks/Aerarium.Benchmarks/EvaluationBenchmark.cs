using System.Diagnostics;
using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using BenchmarkDotNet.Attributes;
using BenchmarkDotNet.Configs;
using BenchmarkDotNet.Jobs;
using BenchmarkDotNet.Running;

namespace Aerarium.Benchmarks;

/// <summary>One full evaluation of the employee's return: compiled rules, interpreted rules, and straight-line C# for the same law.</summary>
[MemoryDiagnoser(false)]
[HideColumns("Error", "StdDev", "RatioSD")]
public class EvaluationBenchmark
{
    private readonly Definition _definition = Catalogue.Get("ke/employment-income", 2025);
    private readonly StraightLine _straight = new();
    private Sheet _sheet = null!;

    /// <summary>Loads the same case into both.</summary>
    [GlobalSetup]
    public void Load()
    {
        _definition.Evaluator.Compile();
        _sheet = new Sheet(_definition);
        _sheet.Load(Case(), new DateOnly(2026, 3, 1));
        Fill(_straight);
        Compiled();
        if (_straight.Run() != _sheet.Amounts[_definition.Balance.Slot])
        {
            throw new InvalidOperationException($"The two disagree: {_straight.Balance} and {_sheet.Amounts[_definition.Balance.Slot]}.");
        }
    }

    /// <summary>The same case for straight-line C#.</summary>
    internal static void Fill(StraightLine straight)
    {
        straight.Employers =
        [
            new() { Pin = "P051440218K", Name = "Kelp", Months = 12, Basic = 3_000_000, Bonus = 600_000, OtherBenefits = 120_000, HousingClass = StraightLine.Code.Ordinary, Arrangement = StraightLine.Code.Lease, RentEmployer = 900_000, RentEmployee = 120_000, Total = 5_100_000, Retirement = 240_000, Pensionable = 3_000_000, Health = 99_000, Levy = 54_000, Tax = 1_260_000 },
            new() { Pin = "P051775530M", Name = "Moth", Months = 5, Basic = 360_000, Total = 360_000, Retirement = 20_700, Pensionable = 360_000, Health = 9_900, Levy = 5_400, Tax = 52_000 },
        ];
        straight.Cars = [new() { Provider = 0, Arrangement = StraightLine.Code.Owned, Body = StraightLine.Code.Saloon, Engine = 1_900, Cost = 2_500_000, Months = 12 }];
        straight.Policies = [new() { Kind = StraightLine.Code.Life, Commencement = new DateOnly(2016, 9, 1).DayNumber, Premium = 24_000 }];
        straight.Interest = [402_350];
        (straight.HasHousing, straight.HasCar, straight.HasMortgage, straight.HasInsurance) = (true, true, true, true);
    }

    /// <summary>Straight-line C#.</summary>
    [Benchmark(Baseline = true)]
    public decimal StraightLineCSharp() => _straight.Run();

    /// <summary>Compiled rules.</summary>
    [Benchmark]
    public decimal Compiled()
    {
        _definition.Evaluator.Figures(_sheet);
        return _sheet.Amounts[_definition.Balance.Slot];
    }

    /// <summary>Interpreted rules.</summary>
    [Benchmark]
    public decimal Interpreted()
    {
        _definition.Evaluator.Interpret(_sheet);
        return _sheet.Amounts[_definition.Balance.Slot];
    }

    internal static EntrySet Case()
    {
        var set = new EntrySet();
        foreach (var question in new[] { "resident", "employer-car", "employer-housing", "mortgage", "insurance" })
        {
            set.Values[$"scope.{question}"] = "yes";
        }

        set.Values["scope.employers"] = "several";
        set.Values["deductions.mortgage-months"] = "12";
        set.Rows["employment.employers"] =
        [
            Row("1", "pin=P051440218K;name=Kelp;months=12;basic-pay=3000000;bonus=600000;other-benefits=120000;housing-class=ordinary;housing-arrangement=lease;rent-by-employer=900000;rent-by-employee=120000;total-on-certificate=5100000;retirement-contributions=240000;pensionable-pay=3000000;health-insurance=99000;housing-levy=54000;tax-deducted=1260000"),
            Row("2", "pin=P051775530M;name=Moth;months=5;basic-pay=360000;total-on-certificate=360000;retirement-contributions=20700;pensionable-pay=360000;health-insurance=9900;housing-levy=5400;tax-deducted=52000"),
        ];
        set.Rows["employment.cars"] = [Row("1", "provided-by=1;registration-mark=KMB;arrangement=owned;body=saloon;engine-cc=1900;cost=2500000;months=12")];
        set.Rows["deductions.loans"] = [Row("1", "lender-pin=P051118843L;lender-name=Lamp;account=1;purpose=purchase;interest=402350")];
        set.Rows["tax.policies"] = [Row("1", "insurer-pin=P051664429S;insurer-name=Anchor;policy-number=1;kind=life;insured=self;commencement=2016-09-01;premium=24000")];
        return set;
    }

    private static EntryRow Row(string id, string cells)
    {
        var row = new EntryRow(id);
        foreach (var cell in cells.Split(';'))
        {
            row.Values[cell.Split('=')[0]] = cell.Split('=')[1];
        }

        return row;
    }

    /// <summary>Runs the benchmark; with 'findings', times the findings of a long list, the writing of a long e-return, a large return and a household instead; with 'countries' and the folder of golden returns, the returns of all countries (what they are held against is left in a further folder); with 'editions', what an edition of the law costs; with 'turns', the last of its comparisons alone; with 'revalidate' and a folder, revalidates 10,000 returns and leaves there what a spreadsheet engine needs to do the same.</summary>
    public static void Main(string[] arguments)
    {
        if (arguments is ["findings"])
        {
            ListFindings.Run();
            LongEReturn.Run();
            LargeReturn.Run();
            HouseholdBenchmark.Run();
            return;
        }

        if (arguments is ["editions"])
        {
            Editions.Run();
            return;
        }

        if (arguments is ["countries", var golden, .. var sources])
        {
            CountryEvaluations.Run(golden, sources.FirstOrDefault());
            return;
        }

        if (arguments is ["turns"])
        {
            InTurns();
            return;
        }

        if (arguments is ["revalidate", var folder])
        {
            Revalidation.Run(folder);
            return;
        }

        BenchmarkRunner.Run<EvaluationBenchmark>(
            DefaultConfig.Instance.AddJob(Job.Default.WithWarmupCount(6).WithIterationCount(12)).WithArtifactsPath(Path.Combine(Path.GetTempPath(), "aerarium-benchmarks")));
        InTurns();
    }

    /// <summary>
    /// Compiled rules and straight-line C# by turns in one process, written by hand and written out by <see cref="WrittenReturn"/>. Above, each has a process of its own for half a minute;
    /// on a machine that is shared, what others do meanwhile moves their ratio more than the code does.
    /// </summary>
    private static void InTurns()
    {
        const int Turns = 400, WarmUp = 100, Evaluations = 5_000;
        var benchmark = new EvaluationBenchmark();
        benchmark.Load();
        var written = new WrittenReturn(benchmark._definition).Of(benchmark._sheet);
        var turns = new List<(double ByHand, double Written, double Compiled)>();
        for (var turn = 0; turn < WarmUp + Turns; turn++)
        {
            turns.Add((Time(() => benchmark.StraightLineCSharp()), Time(written.Run), Time(() => benchmark.Compiled())));
        }

        turns.RemoveRange(0, WarmUp);
        Tell("as straight-line C# by hand", turns.ConvertAll(t => (t.ByHand, t.Compiled)));
        Tell("as the rules written out as straight-line C#", turns.ConvertAll(t => (t.Written, t.Compiled)));

        void Tell(string than, List<(double Straight, double Compiled)> pairs)
        {
            var ratios = pairs.Select(t => t.Compiled / t.Straight).Order().ToList();
            var fastest = pairs.Min(t => t.Compiled) / pairs.Min(t => t.Straight);
            Console.WriteLine(string.Create(
                CultureInfo.InvariantCulture,
                $"by turns in one process: compiled rules take {ratios[Turns / 2]:0.00} times as long {than} in the median ({ratios[Turns / 4]:0.00} to {ratios[Turns * 3 / 4]:0.00} in the middle half of {Turns} turns), {fastest:0.00} times in the fastest"));
        }

        static double Time(Action evaluate)
        {
            var begun = Stopwatch.GetTimestamp();
            for (var time = 0; time < Evaluations; time++)
            {
                evaluate();
            }

            return Stopwatch.GetElapsedTime(begun).TotalMicroseconds;
        }
    }
}
