using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries.Kenya.EmploymentIncome;

namespace Aerarium.Countries.Tests;

/// <summary>Builds a case of a return the way a person would enter it.</summary>
public abstract class ReturnCase<TCase>(Definition definition, DateOnly today)
    where TCase : ReturnCase<TCase>
{
    private DateOnly _today = today;

    public EntrySet Entries { get; } = new();

    public TCase On(DateOnly day)
    {
        _today = day;
        return (TCase)this;
    }

    public TCase With(string line, object value)
    {
        Entries.Values[line] = Read(line, value);
        return (TCase)this;
    }

    public TCase Scope(params string[] yes)
    {
        foreach (var question in yes)
        {
            With($"scope.{question}", "yes");
        }

        return (TCase)this;
    }

    public TCase Row(string section, params (string Column, object Value)[] cells)
    {
        if (!Entries.Rows.TryGetValue(section, out var rows))
        {
            Entries.Rows[section] = rows = [];
        }

        var row = new EntryRow($"{rows.Count + 1}");
        foreach (var (column, value) in cells)
        {
            row.Values[column] = Read($"{section}.{column}", value);
        }

        rows.Add(row);
        return (TCase)this;
    }

    public Evaluation Evaluate() => definition.Evaluate(Entries, _today);

    private string Read(string line, object value)
    {
        var reading = EntryReader.Read(definition.LineOf(line), Convert.ToString(value, System.Globalization.CultureInfo.InvariantCulture));
        return reading.Problem is null ? reading.Value! : throw new InvalidOperationException(reading.Problem);
    }
}

/// <summary>Cases of Kenya's employee's return.</summary>
public sealed class KenyaCase(int year) : ReturnCase<KenyaCase>(Catalogue.Get(EmploymentIncomeReturn.ReturnId, year), new DateOnly(year + 1, 3, 1))
{
    public EmploymentIncomeReturn Definition { get; } = (EmploymentIncomeReturn)Catalogue.Get(EmploymentIncomeReturn.ReturnId, year);

    /// <summary>An employer whose pay is all basic and pensionable.</summary>
    public KenyaCase Employer(decimal pay, decimal retirement = 0, decimal health = 0, decimal levy = 0, decimal tax = 0, params (string, object)[] more)
    {
        (string, object)[] contributions = Definition.Year == 2025 ? [("health-insurance", health), ("housing-levy", levy)] : [];
        return Row(
            "employment.employers",
            [("pin", $"P05100000{Entries.RowsOf("employment.employers").Count}Z"), ("name", "Works"), ("months", 12), ("basic-pay", pay),
                ("retirement-contributions", retirement), ("pensionable-pay", pay), ("tax-deducted", tax), .. contributions, .. more]);
    }
}
