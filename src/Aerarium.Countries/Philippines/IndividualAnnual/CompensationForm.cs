using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>Compensation, employer by employer.</summary>
public sealed class CompensationForm : Form
{
    private sealed record Employer(AmountLine Gross, AmountLine Benefits, AmountLine Exempt, AmountLine Taxable, AmountLine Withheld);

    /// <summary>Taxable compensation, and tax withheld by employers.</summary>
    public readonly AmountLine Taxable, Withheld;

    /// <summary>How many employers there are.</summary>
    public readonly Amount Employers;

    /// <summary>Declares the form.</summary>
    public CompensationForm(Definition definition, IncomeTaxLaw law, Column column, TaxpayerForm taxpayer, CompensationForm? beside = null)
        : base(definition, "compensation", "Compensation", "One block for each employer's certificate.", column.Compensation, Column.Spouse(beside))
    {
        var employers = Repeating("employers", "Employers", "employer", row => Block(row), "NIRC s. 32(A)(1)");

        Employers = employers.RowCount;

        Section("Compensation income", "NIRC s. 32");
        var gross = Line("gross", "Gross compensation", employers.Sum(e => e.Gross));
        var benefits = Line("benefits", "13th month pay and other benefits", employers.Sum(e => e.Benefits));
        var benefitsExempt = Line("benefits-exempt", "of which exempt", Min(benefits, law.BenefitsExempt)).Law("NIRC s. 32(B)(7)(e)");
        var exempt = Line("exempt", "Exempt compensation", benefitsExempt + employers.Sum(e => e.Exempt)).Law("NIRC s. 32(B)(7)(f); RR 2-98");
        Taxable = Line("taxable", "Taxable compensation", AtLeastZero(gross - exempt)).Law("NIRC s. 31").Final();
        Withheld = Line("withheld", "Tax withheld by employers", employers.Sum(e => e.Withheld)).Law("NIRC s. 79");

        var certified = employers.Sum(e => e.Taxable);
        Error("no-employer", column.Compensation & employers.RowCount.Equals(0), "Enter each employer's certificate, or answer in Scope that there is no compensation.", column.Compensation);
        Warn("differs-from-certificates", employers.RowCount > 0 & Size(Taxable - certified) > 1,
            $"Taxable compensation is {Taxable}; the certificates say {certified}. One ceiling of {law.BenefitsExempt} holds for all employers together.", Taxable);
        Note("several-employers", employers.RowCount > 1, "With several employers the tax may exceed what was withheld.", Taxable);

        Employer Block(RowScope row)
        {
            var tin = row.Identifier("tin", "Employer's taxpayer number", PhilippinesIdentifiers.Tin).From("certificate of compensation, employer").Required();
            row.NamedBy(row.Text("name", "Employer's name").From("certificate of compensation, employer").Required());
            row.Answer("previous", "Previous employer of the year?").From("certificate of compensation");
            var (own, other) = beside is null ? (taxpayer.Tin, taxpayer.SpouseTin) : (taxpayer.SpouseTin, taxpayer.Tin);
            row.Error("employer-is-taxpayer", tin.BeginsLike(own, TaxpayerForm.OwnDigits), "This is the number of the person whose income it is; the employer cannot be the same.", tin);
            row.Warn("employer-is-spouse", tin.BeginsLike(other, TaxpayerForm.OwnDigits), "This is the number of the other spouse; check that the employer is right.", tin);
            var pay = row.Entry("gross", "Gross compensation").InWholeUnits().TakesMoreIncome().From("certificate of compensation, gross").Required();
            var bonus = row.Entry("benefits", "13th month pay and other benefits").InWholeUnits().From("certificate of compensation, non-taxable and taxable together");
            var small = row.Entry("de-minimis", "De minimis benefits").InWholeUnits().From("certificate of compensation, non-taxable");
            var contributions = row.Entry("contributions", "Mandatory contributions and union dues").InWholeUnits().From("certificate of compensation, non-taxable");
            var minimum = row.Entry("minimum-wage", "Pay of a minimum wage earner").InWholeUnits().From("certificate of compensation, non-taxable");
            var taxable = row.Entry("taxable", "Taxable compensation as certified").InWholeUnits().From("certificate of compensation").Required();
            var withheld = row.Entry("withheld", "Tax withheld").InWholeUnits().From("certificate of compensation, tax withheld").Required();
            var exemptHere = row.Line("exempt-besides", "Exempt besides the benefits", small + contributions + minimum);
            row.Error("exempt-exceeds-gross", bonus + exemptHere > pay & pay.IsFilled(), "The parts are more than the gross compensation; check the boxes.", pay);
            row.Error("tax-exceeds-pay", withheld > pay & pay.IsFilled(), "The tax withheld is more than the pay; check the boxes.", withheld);
            row.Error("employer-twice", row.RepeatsEarlier(tin), "This employer is entered twice; keep one block for each certificate.", tin);
            return new Employer(pay, bonus, exemptHere, taxable, withheld);
        }
    }
}
