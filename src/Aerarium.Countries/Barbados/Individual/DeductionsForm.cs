using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Barbados.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>What reduces the income. Where the law's cap or rate is unsure the amount allowed is entered and questioned.</summary>
public sealed class DeductionsForm : Form
{
    private sealed record Amounts(AmountLine Amount);

    /// <summary>All deductions but the personal allowance.</summary>
    public readonly AmountLine Total;

    /// <summary>Declares the form.</summary>
    public DeductionsForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, TaxpayerForm taxpayer, AllowancesForm allowances)
        : base(definition, "deductions", "Deductions", "Dues, works, gifts and contributions; each with its receipt.")
    {
        var dues = Repeating("dues", "Union and statutory dues", "body", row =>
        {
            row.NamedBy(row.Text("body", "Union or body").From("receipt").Required());
            return new Amounts(row.Entry("amount", "Dues paid").From("receipt or employer's certificate").Required());
        }, "ITA", scope.Dues);

        Section("Dues together", "ITA", scope.Dues);
        var duesPaid = Line("dues-paid", "Union and statutory dues", dues.Sum(d => d.Amount));
        Warn("dues-ceiling", duesPaid > law.DuesCeiling, $"Dues of {duesPaid}: a ceiling of {law.DuesCeiling} may apply. Confirm with the year's guide.", duesPaid);
        Unchecked.Warn(this, "dues", duesPaid);

        Section("Energy-saving works", "ITA, amendments", scope.Energy);
        var lastYear = new TiedReturn(IndividualReturn.ReturnId, 1);
        var claim = Count("energy-year", "Which year of the claim this is").Between(1, 20).Required().OfOneYear().TiedTo(lastYear.Line("deductions.energy-next-year"))
            .Hint("1 in the year of the first claim");
        var before = Entry("energy-before", "Deductible cost of earlier years not deducted yet").OfOneYear().From("earlier return").TiedTo(lastYear.Line("deductions.energy-left"));
        var works = Repeating("energy-works", "Works of the year", "work", row =>
        {
            row.NamedBy(row.Text("supplier", "Supplier").From("invoice").Required());
            row.Choice("kind", "Kind", [new("audit", "Energy audit"), new("retrofit", "Retrofit")]).Required();
            return new Amounts(row.Entry("cost", "Deductible cost").From("invoice").Required().Hint(law.EnergyLimit.Note!));
        }, "ITA, amendments", scope.Energy);

        Section("Energy-saving works, deduction", "ITA, amendments", scope.Energy);
        var cost = Line("energy-cost", "Deductible cost of this and earlier years", works.Sum(w => w.Amount) + before);
        var inTime = claim.IsFilled() & claim <= law.EnergyYears;
        var energy = Line("energy", "Energy-saving works deducted", If(inTime, Min(cost, law.EnergyLimit), 0)).Law("ITA, amendments (likely)").Subtotal();
        var goesOn = claim.IsFilled() & claim < law.EnergyYears;
        var left = Line("energy-left", "Left for later years", If(goesOn, AtLeastZero(cost - energy), 0));
        NumberLine("energy-next-year", "Year of the claim next year", If(goesOn, claim + 1, 0));
        Error("energy-too-long", claim > law.EnergyYears & cost > 0, $"Energy-saving works are deducted for {law.EnergyYears} years at most; this would be year {claim}.", claim);
        Note("energy-continues", goesOn & cost > 0, $"Continue the claim next year; {left} is left.", energy);
        Warn("energy-lost", inTime & !goesOn & cost > energy, $"{cost - energy} of the works is above the limit and is lost: this is the last year of the claim.", energy);
        Unchecked.Warn(this, "energy", energy);

        var gifts = Repeating("gifts", "Gifts to charities", "gift", row =>
        {
            row.NamedBy(row.Text("charity", "Charity").From("charity's report").Required().CorrectedWith("the charity"));
            var number = row.Text("number", "Charity's registration number").From("charity's report").Required().CorrectedWith("the charity");
            var amount = row.Entry("amount", "Gift").From("charity's report").Required().CorrectedWith("the charity");
            row.Error("gift-twice", row.RepeatsEarlier(number, amount), "This gift is entered twice; keep one row for each gift.", amount);
            return new Amounts(amount);
        }, "ITA", scope.Gifts);

        Section("Gifts allowed", "ITA", scope.Gifts);
        var given = Line("gifts-given", "Gifts to registered charities", gifts.Sum(g => g.Amount));
        var giftsAllowed = Entry("gifts-allowed", "of which allowed").RequiredWhen(given > 0).Hint("the percentage cap is unsure; enter what the year's guide allows");
        Error("gifts-above-given", giftsAllowed > given, $"More is allowed than the gifts of {given}; enter no more than was given.", giftsAllowed);
        Unchecked.Warn(this, "gifts", giftsAllowed);

        var agriculture = Certified("agriculture", "Investments in farming or fishing", "investment", scope.Agriculture);
        var culture = Certified("culture", "Approved cultural projects", "project", scope.Culture);

        Section("Medical examination", "ITA", scope.Medical);
        var medical = Entry("medical", "Medical examination, amount allowed").From("receipt").Required()
            .Hint($"up to {law.MedicalLimit.ValueInWords} above the age of {law.MedicalAge.ValueInWords}: unsure");
        Warn("medical-too-young", medical > 0 & taxpayer.BirthDate.IsFilled() & taxpayer.Age <= law.MedicalAge,
            $"The deduction is for persons above {law.MedicalAge} (unsure); the taxpayer is {taxpayer.Age}.", medical);
        Warn("medical-above-hint", medical > law.MedicalLimit, $"{medical} is above the {law.MedicalLimit} recalled for an examination. Confirm with the year's guide.", medical);
        Unchecked.Warn(this, "medical", medical);

        Section("Domestic worker", "ITA", scope.DomesticWorker);
        Text("domestic-worker-number", "Employer's national insurance number").From("contribution record").Required();
        var domestic = Entry("domestic-worker", "National insurance paid for a domestic worker, employer's part").From("contribution record").Required();
        Unchecked.Warn(this, "domestic-worker", domestic);

        Section("Registered pension plan", "ITA", scope.PensionPlan);
        var plan = Entry("pension-plan", "Contributions to a registered pension plan, amount allowed").From("plan's statement").Required();
        Unchecked.Warn(this, "pension-plan", plan);

        Section("All deductions", "ITA");
        Total = Line("total", "Deductions",
            duesPaid + energy + giftsAllowed + agriculture + culture + medical + domestic + plan + allowances.Total).Final();

        AmountLine Certified(string name, string title, string rowLabel, AnswerLine asked)
        {
            var rows = Repeating(name, title, rowLabel, row =>
            {
                row.NamedBy(row.Text("certificate", "Certificate").From("certificate").Required());
                return new Amounts(row.Entry("amount", "Amount allowed").From("certificate").Required());
            }, "ITA", asked);
            Section($"{title}, together", "ITA", asked);
            var total = Line($"{name}-total", title, rows.Sum(r => r.Amount));
            Unchecked.Warn(this, name, total);
            return total;
        }
    }
}
