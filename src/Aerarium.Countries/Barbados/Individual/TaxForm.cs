using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Barbados.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>The kinds of income that are taxed together.</summary>
/// <param name="Employment">Pay and benefits.</param>
/// <param name="Pension">Pensions.</param>
/// <param name="Business">Business, never below zero.</param>
/// <param name="Foreign">Income from abroad, before foreign tax.</param>
/// <param name="Investment">Local interest and dividends not taxed at source.</param>
public sealed record IncomeOfTheYear(AmountLine Employment, AmountLine Pension, AmountLine Business, AmountLine Foreign, AmountLine Investment);

/// <summary>The tax, step by step: assessable income, deductions, allowance, taxable income, tax by bands.</summary>
public sealed class TaxForm : Form
{
    /// <summary>Each step of the computation.</summary>
    public readonly AmountLine Assessable, Deductions, Allowance, Taxable, Tax;

    /// <summary>Declares the form.</summary>
    public TaxForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, TaxpayerForm taxpayer, IncomeOfTheYear income, AmountLine deductions)
        : base(definition, "tax", "Tax", "Computed from the forms before; each figure leads to how it came about.")
    {
        Section("Assessable income", "ITA");
        Line("employment", "Employment", income.Employment);
        Line("pension", "Pensions", income.Pension);
        Line("business", "Business", income.Business);
        Line("foreign", "Abroad", income.Foreign);
        Line("investment", "Investments", income.Investment);
        Assessable = Line("assessable", "Assessable income", income.Employment + income.Pension + income.Business + income.Foreign + income.Investment).Subtotal();

        Section("Taxable income", "ITA");
        Deductions = Line("deductions", "Deductions", deductions);
        var claimed = Answer("pensioner-claimed", "Pensioner's allowance claimed?").When(scope.Pension).OfOneYear();
        var pensioner = income.Pension > 0 & taxpayer.Age >= law.PensionerAge;
        Allowance = Line("allowance", "Personal allowance", If(pensioner, law.PensionerAllowance, law.PersonalAllowance)).Law("ITA");
        Taxable = Line("taxable", "Taxable income", AtLeastZero(Assessable - Deductions - Allowance)).Law("ITA").Final();
        Error("pensioner-not-entitled", claimed & !pensioner, $"The higher allowance needs a pension and the age of {law.PensionerAge} by 31 December; the taxpayer is {taxpayer.Age}.", claimed);
        if (law.AllowancesAreAssumed)
        {
            Warn("allowances-assumed", Assessable > 0, $"Allowances and credits of {law.Year} are assumed equal to those of the year before: confirm them with the year's guide.", Allowance);
        }

        Section("Tax", "ITA");
        if (law.ComputesTax)
        {
            Tax = Line("tax", "Tax on taxable income", Progressive(law.Bands, Taxable), ToCents).Law("ITA").Final();
        }
        else
        {
            var entered = Entry("tax-entered", "Tax on taxable income").OfOneYear().From("year's guide");
            Line("tax-hint", "For comparison: tax by the mean of the two halves", Progressive(law.Bands, Taxable), ToCents);
            Tax = Line("tax", "Tax on taxable income, as entered", entered).Law("ITA").Final();
            Error("tax-by-hand", entered.IsBlank() & Taxable > 0, $"The rates changed within {law.Year}: enter the tax of that year by hand.", entered);
        }
    }
}
