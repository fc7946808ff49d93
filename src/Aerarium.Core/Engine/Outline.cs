using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;

namespace Aerarium.Core.Engine;

/// <summary>
/// What anybody acts on of a return: its balance, and which errors and warnings stand where, without their words. For looking at thousands of returns of one
/// definition, one after another on one thread; the next takes the place of the one before.
/// </summary>
public sealed class Outline(Definition definition)
{
    private readonly Sheet _sheet = new(definition);

    /// <summary>The balance in the return's currency; zero where nothing is to be paid.</summary>
    public decimal Balance => definition.HasBalance ? _sheet.Amounts[definition.Balance.Slot] : 0;

    /// <summary>Computes a return on a day; the errors and warnings that stand, each by its rule and the id of its row.</summary>
    public HashSet<(string Rule, string? Row)> Of(EntrySet entries, DateOnly today)
    {
        definition.Compute(entries, today, null, _sheet);
        var stand = new HashSet<(string, string?)>();
        foreach (var rule in definition.Findings.Where(rule => rule.Severity != Severity.Note))
        {
            if (rule.Table is null)
            {
                if (_sheet.Findings[rule.Slot])
                {
                    stand.Add((rule.Id, null));
                }

                continue;
            }

            foreach (var row in _sheet.Rows(rule.Table).Holding(rule))
            {
                stand.Add((rule.Id, entries.RowsOf(rule.Table.Key)[row].Id));
            }
        }

        foreach (var (section, _) in Evaluation.ClosedWithEntries(definition, _sheet, entries))
        {
            stand.Add((Evaluation.ClosedIdOf(section), null));
        }

        return stand;
    }
}
