using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;

namespace Aerarium.Core.Engine;

/// <summary>One step of a bridge.</summary>
/// <param name="Cause">What changed: the law, or a form.</param>
/// <param name="Form">Key of the form; null for the law.</param>
/// <param name="Movement">By how much it moved the balance.</param>
public sealed record BridgeStep(string Cause, string? Form, decimal Movement);

/// <summary>
/// How last year's balance became this year's, cause by cause: first last year's entries under this year's law, then this year's
/// entries, form by form in working order. The steps add up to the whole movement, since each begins where the one before ended.
/// </summary>
/// <param name="From">Last year's balance.</param>
/// <param name="Steps">The causes that moved it.</param>
/// <param name="To">This year's balance.</param>
public sealed record Bridge(decimal From, IReadOnlyList<BridgeStep> Steps, decimal To)
{
    /// <summary>The bridge between two years of one return.</summary>
    /// <param name="before">Last year.</param>
    /// <param name="now">This year.</param>
    /// <param name="today">Day of evaluation.</param>
    public static Bridge Between(Evaluation before, Evaluation now, DateOnly today)
    {
        var definition = now.Definition;
        var steps = new List<BridgeStep>();
        var at = before.Balance;
        var mixed = Known(definition, before.Entries);
        Step("The law of the year", null);
        foreach (var form in definition.Forms)
        {
            mixed = Replace(mixed, now.Entries, form);
            Step(form.Title, form.Key);
        }

        return new Bridge(before.Balance, steps, at);

        void Step(string cause, string? form)
        {
            var balance = definition.Evaluate(mixed, today).Balance;
            if (balance != at)
            {
                steps.Add(new BridgeStep(cause, form, balance - at));
            }

            at = balance;
        }
    }

    /// <summary>The entries whose lines this year's return has; a choice only if its code still exists.</summary>
    private static EntrySet Known(Definition definition, EntrySet entries)
    {
        bool Has(string key, string value) => definition.FindLine(key) is { IsComputed: false } line && (line.Choices?.Any(c => c.Code == value) ?? true);
        return new EntrySet
        {
            Values = entries.Values.Where(v => Has(v.Key, v.Value)).ToDictionary(),
            Rows = entries.Rows.Where(r => definition.FindTable(r.Key) is not null).ToDictionary(
                r => r.Key,
                r => r.Value.Select(row => new EntryRow(row.Id) { Values = row.Values.Where(v => Has($"{r.Key}.{v.Key}", v.Value)).ToDictionary() }).ToList()),
        };
    }

    private static EntrySet Replace(EntrySet mixed, EntrySet now, Form form)
    {
        bool Of(string key) => key.StartsWith(form.Key + ".", StringComparison.Ordinal);
        return new EntrySet
        {
            Values = mixed.Values.Where(v => !Of(v.Key)).Concat(now.Values.Where(v => Of(v.Key))).ToDictionary(),
            Rows = mixed.Rows.Where(r => !Of(r.Key)).Concat(now.Rows.Where(r => Of(r.Key))).ToDictionary(),
        };
    }
}
