using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Company;

/// <summary>Which part of the income is earned in which province (schedule 5).</summary>
public sealed class AllocationForm : Form
{
    private readonly ScopeForm _scope;
    private readonly AmountLine _revenue, _salaries;
    private readonly Dictionary<string, (AnswerLine There, AmountLine Revenue, AmountLine Salaries)> _provinces = [];

    /// <summary>Declares the form.</summary>
    public AllocationForm(Definition definition, ScopeForm scope)
        : base(definition, "allocation", "Provinces", "Gross revenue and salaries by province, where there is more than one.", scope.Provinces > 1)
    {
        _scope = scope;
        foreach (var (key, label, there) in new[] { ("bc", "British Columbia", scope.BritishColumbia), ("ab", "Alberta", scope.Alberta), ("on", "Ontario", scope.Ontario) })
        {
            Section(label, "ITR 402", there, name: key);
            _provinces[key] = (
                there,
                Entry($"revenue-{key}", "Gross revenue").InWholeUnits().OfOneYear().Required("Enter the revenue earned there; zero if there was none.").From("sales by place"),
                Entry($"salaries-{key}", "Salaries and wages").InWholeUnits().OfOneYear().Required("Enter the salaries paid there; zero if there were none.").From("payroll by place"));
        }

        Section("Together", "ITR 402(3)");
        _revenue = Line("revenue", "Gross revenue", _provinces.Values.Select(p => (Amount)p.Revenue).Aggregate((a, b) => a + b));
        _salaries = Line("salaries", "Salaries and wages", _provinces.Values.Select(p => (Amount)p.Salaries).Aggregate((a, b) => a + b));
        Error("nothing-to-go-by", scope.Provinces > 1 & _revenue.Equals(0) & _salaries.Equals(0), "Enter revenue or salaries by province: without either the income cannot be divided.", _revenue);
    }

    /// <summary>The part of the income that falls to a province, from zero to one.</summary>
    public Amount Share(string province) => If(_provinces[province].There, If(_scope.Provinces > 1, Divided(province, 1), 1), 0);

    /// <summary>The part of an amount that falls to a province, in whole dollars: half by revenue, half by salaries; by one of them where the other is nil; all of it where there is one province.</summary>
    public Amount Of(string province, Amount amount)
        => If(_provinces[province].There, Round(If(_scope.Provinces > 1, Divided(province, amount), amount), ToUnits), 0);

    private Amount Divided(string province, Amount amount)
    {
        var (_, revenue, salaries) = _provinces[province];
        var (byRevenue, bySalaries) = (amount * revenue / Max(_revenue, 1), amount * salaries / Max(_salaries, 1));
        return If(_salaries.Equals(0), byRevenue, If(_revenue.Equals(0), bySalaries, (byRevenue + bySalaries) / 2));
    }
}
