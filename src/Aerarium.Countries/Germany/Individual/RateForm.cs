using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>What changes the rate: severance under the one-fifth method, and benefits under the progression clause (EStG s. 34, 32b).</summary>
public sealed class RateForm : Form
{
    /// <summary>What the one-fifth method taxes, and the benefits that raise the rate, of both persons.</summary>
    public readonly AmountLine OneFifth, Benefits;

    /// <inheritdoc />
    public override string OpensFor => "severance, wages for several years, or benefits in place of wages";

    /// <summary>Declares the form.</summary>
    public RateForm(Definition definition, IncomeTaxLaw law, (WageForm Own, WageForm Spouse) wages, (WorkCostsForm Own, WorkCostsForm Spouse) work)
        : base(definition, "rate", "What changes the rate", "Severance and benefits in place of wages.", wages.Own.OneFifth + wages.Spouse.OneFifth + wages.Own.Benefits + wages.Spouse.Benefits > 0)
    {
        Section(Glossary.In("One-fifth method") + " and " + Glossary.In("Progression clause"), "EStG s. 32b, 34", name: "rate");
        OneFifth = Line("one-fifth", "Taxed by the one-fifth method", wages.Own.OneFifth + wages.Spouse.OneFifth).Law("EStG s. 34(1)");
        Benefits = Line("benefits", "Benefits that raise the rate", Raising(law, wages.Own, work.Own) + Raising(law, wages.Spouse, work.Spouse)).Law("EStG s. 32b(2)");
        Error("progression-and-one-fifth", Benefits > 0 & OneFifth > 0, "Benefits in place of wages and the one-fifth method together are not computed here.", OneFifth);
        Warn("compulsory", Benefits > law.HardshipLimit, $"Benefits of {Benefits} make the return compulsory and raise the rate.", Benefits);
    }

    /// <summary>What is left of a person's lump sum lowers the benefits first; nothing is left where expenses were deducted (EStG s. 32b(2) no. 1).</summary>
    private static Amount Raising(IncomeTaxLaw law, WageForm wages, WorkCostsForm work) =>
        AtLeastZero(wages.Benefits - If(work.Total > work.LumpSumUsed, 0, law.LumpSum - work.LumpSumUsed));
}
