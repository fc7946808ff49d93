using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Kenya.Parameters;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>
/// Where the law of the year can be read in more than one way: which reading the return takes. Left blank, it takes the one it is built on; any other is
/// kept with its reason.
/// </summary>
public sealed class ReadingsForm : Form
{
    /// <summary>Code of the reading under which a limit is that of the months before the change for the whole year.</summary>
    public const string Before = "before";

    /// <summary>Code of the reading under which a limit is that of the month of the change for the whole year.</summary>
    public const string After = "after";

    /// <summary>Whether housing that is not leased at arm's length is valued by rents alone, without the share of pay.</summary>
    public readonly Condition RentsAlone;

    /// <summary>In the year the rules changed: which limits of retirement saving and of home loan interest hold; null in other years.</summary>
    public readonly ChoiceLine? PensionLimit, MortgageLimit;

    /// <summary>In the year the rules changed: whether minor benefits have the raised limit; whether December is still under the rules before; whether social health insurance of October and November is no premium. Null in other years.</summary>
    public readonly Condition? MinorBenefitsRaised, OldRulesInDecember, HealthIsNoPremium;

    /// <summary>Declares the form.</summary>
    public ReadingsForm(Definition definition, EmploymentIncomeLaw law, ScopeForm scope)
        : base(definition, "readings", "Readings of the law", "Where the law of the year can be read in more than one way. Leave a line blank to take the first reading; give the reason for another.", scope.Readings)
    {
        Section("Housing", "ITA s. 5(3)");
        RentsAlone = Reading("housing-share", "Housing of an employee that is not leased at arm's length",
            "The share of pay counts too, where it is higher than the rents", new Choice("rents", "Rents alone")).Is("rents");
        if (!law.ChangesInDecember)
        {
            return;
        }

        Section("The change of 27 December 2024", "TLAA 2024");
        PensionLimit = Limit("pension-limit", "Limit of retirement saving", law.PensionLimitMonthBefore!, law.PensionLimitMonth);
        MortgageLimit = Limit("mortgage-limit", "Limit of home loan interest", law.MortgageLimitMonthBefore!, law.MortgageLimitMonth);
        MinorBenefitsRaised = Reading("minor-benefits", "Minor benefits exempt below",
            $"{law.MinorBenefitsLimit.ValueInWords} for the year", new Choice(After, $"{law.MinorBenefitsLimitRaised!.ValueInWords} for the year")).Is(After);
        OldRulesInDecember = Reading("december", "Contributions of December",
            "Deducted from income, with the December payroll", new Choice(Before, "Under the rules before: they earn relief")).Is(Before);
        HealthIsNoPremium = Reading("health-insurance", "Social health insurance of October and November",
            "Counts for insurance relief", new Choice("no-relief", "Earns no relief")).Is("no-relief");
    }

    private ChoiceLine Limit(string name, string label, Parameter before, Parameter after) => Reading(
        name, label, $"{before.ValueInWords} a month to November, {after.ValueInWords} for December",
        new Choice(Before, $"{before.ValueInWords} a month all year"), new Choice(After, $"{after.ValueInWords} a month all year"));

    private ChoiceLine Reading(string name, string label, string first, params Choice[] others)
    {
        var reading = Choice(name, label, [new("first", first), .. others]).Hint("blank means the first");
        var another = reading.IsFilled() & !reading.Is("first");
        Text($"{name}-reason", "Reason for this reading").When(another).RequiredWhen(another);
        return reading;
    }
}
