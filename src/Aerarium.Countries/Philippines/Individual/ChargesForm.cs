using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>Surcharge, interest and compromise when the return is filed or paid late.</summary>
public sealed class ChargesForm : Form
{
    /// <inheritdoc />
    public override bool OfOneYear => true;

    private const string Judgement = "The authority may abate what is unjustly or excessively charged (NIRC s. 204(B)); give its decision.";

    /// <summary>Surcharge and interest; the authority may abate both.</summary>
    public readonly AmountLine Surcharge, Interest;

    /// <summary>Declares the form.</summary>
    public ChargesForm(Definition definition, IncomeTaxLaw law, Condition late, (Amount Now, Amount Later) payable, ChargeRates rates, DateOnly due)
        : base(definition, "charges", "Late filing and payment", "What the authority adds when the return or the payment is late.", late)
    {
        Section("Charges", "NIRC s. 248, 249; EOPT");
        var paid = Date("paid-on", "Paid on").Hint("the day it is or will be paid").RequiredWhen(payable.Now > 0);
        var unpaid = If(paid > due, payable.Now + payable.Later, payable.Now);
        var charges = new LateCharges(law, rates, unpaid, due, paid);
        Surcharge = OverridableLine("surcharge", "Surcharge", If(paid.IsFilled(), charges.Surcharge, 0), Judgement, ToUnits).Law("NIRC s. 248");
        var days = NumberLine("days-late", "Days late", charges.Days).Unit("days");
        Interest = OverridableLine("interest", "Interest", charges.InterestFor(days), Judgement, ToUnits).Law("NIRC s. 249");
        var compromise = Entry("compromise", "Compromise, by the authority's scale").InWholeUnits().Hint("RMO 7-2015; the scale is not reproduced here").Law("RMO 7-2015");
        Line("total-with-charges", "To pay now with charges", unpaid + Surcharge + Interest + compromise).Final();
    }
}
