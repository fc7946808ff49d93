using Aerarium.Core.Definitions;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>Income of a couple that belongs to neither spouse alone.</summary>
public sealed class UndividedForm : Form
{
    /// <summary>Each spouse's half.</summary>
    public readonly AmountLine Taxpayer, Spouse;

    /// <summary>Declares the form.</summary>
    public UndividedForm(Definition definition, ScopeForm scope)
        : base(definition, "undivided", "Income of both", "What cannot be attributed to either spouse is divided in halves.", scope.Joint & scope.Undivided)
    {
        Section("Income that belongs to neither alone", "NIRC s. 51(D)");
        var income = Entry("income", "Taxable income that belongs to neither spouse alone").InWholeUnits().Required();
        Taxpayer = Line("taxpayer", "Half of it, in the taxpayer's column", 0.5m * income, ToUnits).Law("NIRC s. 51(D)");
        Spouse = Line("spouse", "The other half, in the spouse's column", income - Taxpayer).Law("NIRC s. 51(D)");
    }
}
