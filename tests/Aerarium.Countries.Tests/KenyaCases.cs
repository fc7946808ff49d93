using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries.Kenya.EmploymentIncome;

namespace Aerarium.Countries.Tests;

/// <summary>Builds cases of the employee's return the way a person would enter them.</summary>
public sealed class KenyaCase(int year)
{
    private readonly EntrySet _entries = new();
    private DateOnly _today = new(year + 1, 3, 1);

    public EmploymentIncomeReturn Definition { get; } = (EmploymentIncomeReturn)Catalogue.Get(EmploymentIncomeReturn.ReturnId, year);

    public EntrySet Entries => _entries;

    public KenyaCase On(DateOnly today)
    {
        _today = today;
        return this;
    }

    public KenyaCase With(string line, object value)
    {
        _entries.Values[line] = Read(line, value);
        return this;
    }

    public KenyaCase Scope(params string[] yes)
    {
        foreach (var question in yes)
        {
            With($"scope.{question}", "yes");
        }

        return this;
    }

    public KenyaCase Row(string section, params (string Column, object Value)[] cells)
    {
        if (!_entries.Rows.TryGetValue(section, out var rows))
        {
            _entries.Rows[section] = rows = [];
        }

        var row = new EntryRow($"{rows.Count + 1}");
        foreach (var (column, value) in cells)
        {
            row.Values[column] = Read($"{section}.{column}", value);
        }

        rows.Add(row);
        return this;
    }

    /// <summary>An employer whose pay is all basic and pensionable.</summary>
    public KenyaCase Employer(decimal pay, decimal retirement = 0, decimal health = 0, decimal levy = 0, decimal tax = 0, params (string, object)[] more)
    {
        (string, object)[] contributions = Definition.Year == 2024 ? [] : [("health-insurance", health), ("housing-levy", levy)];
        return Row(
            "employment.employers",
            [("pin", $"P05100000{_entries.RowsOf("employment.employers").Count}Z"), ("name", "Works"), ("months", 12), ("basic-pay", pay),
                ("retirement-contributions", retirement), ("pensionable-pay", pay), ("tax-deducted", tax), .. contributions, .. more]);
    }

    public Evaluation Evaluate() => Definition.Evaluate(_entries, _today);

    private string Read(string line, object value)
    {
        var reading = EntryReader.Read(Definition.LineOf(line), Convert.ToString(value, System.Globalization.CultureInfo.InvariantCulture));
        return reading.Problem is null ? reading.Value! : throw new InvalidOperationException(reading.Problem);
    }
}
