using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>
/// Losses that last year's annual return leaves: those of earlier years that can still be used, with what has been used of them,
/// and the loss of that year itself (NIRC s. 34(D)(3)). In a year of 8% or the standard deduction nothing is used, and time runs on.
/// </summary>
internal static class LossesOfLastYear
{
    /// <summary>The losses of one column, by the key of its deductions form.</summary>
    public static RowTie In(string form) => new(new TiedReturn(IndividualAnnualReturn.ReturnId, 1), before => Of(before, form));

    private static IEnumerable<EntryRow> Of(Evaluation before, string form)
    {
        var section = before.Definition.FindTable($"{form}.losses")!;
        Line Column(string name) => section.Lines.First(l => l.Name == name);
        var rows = before.RowsOf(section);
        for (var row = 0; row < rows.Count; row++)
        {
            var counted = before.IsOpen(section);
            if (rows[row].Values.GetValueOrDefault("year") is not { } year || rows[row].Values.GetValueOrDefault("loss") is not { } loss
                || (counted && before.Amount(Column("left"), row) == 0))
            {
                continue;
            }

            var applied = decimal.Parse(rows[row].Values.GetValueOrDefault("applied") ?? "0", CultureInfo.InvariantCulture);
            yield return Row(year, loss, applied + (counted ? before.Amount(Column("used"), row) : 0));
        }

        if (before.Amount($"{form}.own-loss") is var own and > 0)
        {
            yield return Row($"{before.Definition.Year}", Figures.Canonical(own), 0);
        }
    }

    private static EntryRow Row(string year, string loss, decimal applied) => new($"tied-{year}")
    {
        Values = new() { ["year"] = year, ["loss"] = loss, ["applied"] = Figures.Canonical(applied) },
    };
}
