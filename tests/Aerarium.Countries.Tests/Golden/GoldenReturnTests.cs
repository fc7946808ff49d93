using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Tests.Golden;

/// <summary>
/// Golden returns of every definition, in files beside this one, evaluated anew: the same figures, findings, days and bytes. Where the law was mended on
/// purpose, AERARIUM_GOLDEN=figures writes what comes of the same returns now, and the difference is read before it is kept; AERARIUM_GOLDEN=anew also chooses the
/// returns anew, for a new country or year.
/// </summary>
public class GoldenReturnTests
{
    /// <summary>
    /// What no single entry of a random return leads to, and tests of their own do: a list without rows or with a row twice, a day before the due date, a loss
    /// in the last of its years, an election of a year that has none, a number that is another person's,
    /// a credit of one province for little income.
    /// </summary>
    private static readonly HashSet<string> MetElsewhere =
    [
        "finding pay-by", "finding no-certificates", "finding not-creditable", "finding perhaps-twice", "finding not-needed", "finding second-not-open",
        "finding second-above-half", "finding loss-expires", "finding loss-expires-spouse", "finding registration-other-birth",
        "finding second-not-open-spouse", "line deductions.losses.expiring", "line deductions-spouse.losses.expiring", "line deductions-spouse.losses-used",
        "line deductions-spouse.losses.used",
        "finding gift-twice", "finding instalment-twice", "finding receipt-twice", "finding slip-twice", "finding tuition-slip-twice", "finding children-on-lower-return", "finding dependant-too-old",
        "finding employment-box-twice", "finding benefits-box-twice", "finding investments-box-twice", "finding designation-incomplete",
        "line bc.reduction", "line ontario.low-income", "line ontario.age-amount", "line alberta.age-amount", "line bc.eligible-dependant", "line balance.training", "line tuition.training",
        "finding instalments-short", "finding interest-unknown", "line balance.instalment-interest", "line balance.instalment-interest-earned", "line balance.instalment-interest-last-year",
        "line balance.instalment-interest-least", "line balance.instalment-interest-left", "line balance.instalment-interest-reminders", "line balance.instalment-interest-this-year",
        "line balance.instalment-penalty", "line balance.owing-year-before", "line balance.repeated", "line balance.self-last-year", "line balance.self-year-before",
        "de/individual finding late", "de/individual finding late-automatic", "de/individual finding late-discretion", "de/individual finding statement-twice", "de/individual finding statement-twice-spouse", "de/individual finding too-late",
        "de/individual finding under-lump-sum-spouse", "de/individual finding interest-paid-out", "de/individual line balance.charges-today", "de/individual line balance.interest", "de/individual line balance.interest-base",
        "de/individual line balance.interest-computed", "de/individual line balance.interest-months", "de/individual line balance.interest-rounded", "de/individual line balance.late-month", "de/individual line balance.late-today", "de/individual line balance.months-late", "de/individual line work-costs.ways.disabled",
        "ca/accounts finding entry-number-twice", "finding immediate-above-limit", "ca/company finding above-limit", "ca/company finding no-statements", "ca/company finding nothing-to-go-by", "ca/company finding ontario-minimum-tax", "ca/company finding rounded",
        "ca/company line depreciation.classes.expensed", "ca/company line depreciation.immediate", "ca/company line financial.rounding",
        // Of the years beside these the golden returns meet them; what is due after the day of all golden returns is not late.
        "ph/percentage-tax 2026 finding after-due-date", "ph/percentage-tax 2026 finding payment-overdue", "ph/percentage-tax 2026 line result.charges-today", "ph/percentage-tax 2026 line result.days-late-today",
        "ph/percentage-tax 2026 line result.interest-today", "ph/percentage-tax 2026 line result.surcharge-today",
        "ph/individual-annual 2020 finding no-sales", "ph/individual-annual 2023 finding loss-year-twice-spouse", "ph/individual-annual 2023 finding no-income",
        "ph/individual-annual 2023 finding near-ceiling", "ph/individual-annual finding second-above-half-spouse",
        "ca/individual 2016 finding no-sale", "ca/individual 2023 line tuition.training-claimed",
        // Random entries are never below zero.
        "ph/individual-annual finding foreign-loss", "ph/individual-annual finding foreign-loss-spouse",
        "ph/individual-quarterly 2026 finding after-due-date", "ph/individual-quarterly 2026 finding payment-overdue", "ph/individual-quarterly 2026 line result.charges-today", "ph/individual-quarterly 2026 line result.days-late-today",
        "ph/individual-quarterly 2026 line result.interest-today", "ph/individual-quarterly 2026 line result.surcharge-today",
        "line result.wilful", "line balance.interest-on-paid", "line balance.paid-late", "line balance.payments.interest", "line balance.payments.late",
    ];

    private static readonly string? Writing = Environment.GetEnvironmentVariable("AERARIUM_GOLDEN");

    public static TheoryData<string, int, string> Definitions
    {
        get
        {
            var all = new TheoryData<string, int, string>();
            foreach (var type in Catalogue.Returns)
            {
                foreach (var year in type.Years)
                {
                    // The periods between the first and the last of a year have the rules of the last.
                    foreach (var period in type.Periods.Count > 1 ? [type.Periods[0], type.Periods[^1]] : type.Periods)
                    {
                        all.Add(type.Id, year, period);
                    }
                }
            }

            return all;
        }
    }

    [Theory]
    [MemberData(nameof(Definitions))]
    public void The_same_returns_give_the_same_figures_and_bytes(string id, int year, string period)
    {
        var definition = Catalogue.Get(id, year, period);
        if (Writing == "anew" || (Writing is not null && !File.Exists(GoldenFile.PathOf(definition))))
        {
            GoldenMaker.Make(definition).Write(definition);
        }

        var golden = GoldenFile.Read(definition);
        var now = new GoldenFile([.. golden.Cases.Select(c => GoldenFile.CaseOf(definition, c.Entries))], [.. golden.Edges.Select(e => golden.EdgeOf(definition, e))]);
        if (Writing == "figures")
        {
            now.Write(definition);
            golden = now;
        }

        foreach (var (number, (was, is_)) in golden.Cases.Zip(now.Cases).Index())
        {
            Assert.Equal(was.Figures, is_.Figures);
            Assert.Equal(was.Findings, is_.Findings);
            Assert.True((was.Everything, was.EReturn) == (is_.Everything, is_.EReturn), $"Case {number}: a blank or zero, what applies, a day or the e-return differs.");
        }

        Assert.Empty(golden.Edges.Zip(now.Edges).Where(e => !e.First.Everything.SequenceEqual(e.Second.Everything)).Select(e => $"{e.First.Rule} by {e.First.Line} of case {e.First.Case} at {string.Join(" and ", e.First.Values)}"));
    }

    [Theory]
    [MemberData(nameof(Definitions))]
    public void They_fill_every_line_and_meet_every_finding_that_can_be_met(string id, int year, string period)
    {
        var definition = Catalogue.Get(id, year, period);
        var golden = GoldenFile.Read(definition);
        var shown = golden.All(definition).SelectMany(entries => Outcomes.Shown(definition.Evaluate(entries, GoldenFile.Day))).ToHashSet();
        var missing = definition.Lines.Select(l => $"line {l.Key}").Concat(definition.Findings.Select(f => $"finding {f.Id}")).Where(n => !shown.Contains(n) && !MetElsewhere.Contains(n) && !MetElsewhere.Contains($"{id} {n}") && !MetElsewhere.Contains($"{id} {year} {n}")).Order().ToList();
        Assert.True(missing.Count == 0, string.Join(", ", missing));
    }
}
