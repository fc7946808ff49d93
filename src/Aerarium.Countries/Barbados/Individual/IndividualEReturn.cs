using Aerarium.Core.Engine;
using Aerarium.Countries.Common;
using Aerarium.Filing;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Writes the return of a resident individual in the form the authority's schema asks for; one schema serves all years.</summary>
public sealed class IndividualEReturn : IEReturnMapping
{
    private const int SchemaYear = 2018;

    /// <inheritdoc />
    public string SchemaPath(int year) => $"bb/individual/{SchemaYear}.xsd";

    /// <inheritdoc />
    public EReturn Write(Evaluation evaluation)
    {
        var x = new EReturnWriter(evaluation, $"urn:aerarium:standin:bb:individual:{SchemaYear}", "ResidentReturn");
        x.Group("Header", () =>
        {
            x.Fixed("IncomeYear", $"{evaluation.Definition.Year}");
            x.Line("Kind", "taxpayer.kind");
            x.Line("PriorAcknowledgement", "taxpayer.prior-acknowledgement");
            x.Line("Resident", "scope.resident");
            x.Line("Domiciled", "scope.domiciled");
        });
        x.Group("Taxpayer", () =>
        {
            x.Line("Number", "taxpayer.tin");
            x.Line("NationalRegistration", "taxpayer.national-registration");
            x.Line("Name", "taxpayer.name");
            x.Line("BirthDate", "taxpayer.birth-date");
            x.Line("MaritalStatus", "taxpayer.marital-status");
            x.Line("Address", "taxpayer.address");
            x.Line("Email", "taxpayer.email");
            x.Line("Telephone", "taxpayer.phone");
        });
        x.Group("Agent", () =>
        {
            x.Line("Number", "declaration.agent-number");
            x.Line("Name", "declaration.agent-name");
            x.Line("Contact", "declaration.contact-name");
            x.Line("Telephone", "declaration.contact-phone");
        });
        x.Group("Income", () => Income(x));
        x.Group("ResidentialRent", () =>
        {
            x.Rows("Property", "rental.properties", () =>
            {
                x.Line("Address", "address");
                x.Line("SharePercent", "share");
                x.Amount("Rent", "rent");
                x.Rows("Cost", "rental.costs", () =>
                {
                    x.Line("Class", "class");
                    x.Amount("Amount", "amount");
                }, of: "of");
                x.Amount("Taxed", "taxed");
            });
            x.Amount("Tax", "rental.tax");
        });
        x.Group("Deductions", () => Deductions(x));
        x.Group("Computation", () =>
        {
            x.Amount("Employment", "tax.employment");
            x.Amount("Pension", "tax.pension");
            x.Amount("Business", "tax.business");
            x.Amount("Foreign", "tax.foreign");
            x.Amount("Investment", "tax.investment");
            x.Amount("Assessable", "tax.assessable");
            x.Amount("Deductions", "tax.deductions");
            x.Amount("Allowance", "tax.allowance");
            x.Amount("Taxable", "tax.taxable");
            x.Amount("Tax", "tax.tax");
            x.Amount("RentalTax", "balance.rental-tax");
            x.Amount("ForeignCredit", "balance.foreign-credit");
            x.Amount("ReverseCredit", "balance.reverse-credit");
            x.Amount("CompensatoryCredit", "balance.compensatory-credit");
            x.Amount("CurrencyCredit", "balance.currency-credit");
            x.Amount("TaxLessCredits", "balance.tax-after-credits");
            x.Amount("DeductedAtSource", "balance.deducted");
            x.Amount("Prepaid", "balance.paid");
            x.Amount("AlreadyPaid", "balance.already-paid");
            x.Amount("Balance", "balance.balance");
        });
        x.Group("Payments", () => x.Rows("Payment", "balance.payments", () =>
        {
            x.Line("Kind", "kind");
            x.Line("Date", "date");
            x.Line("Receipt", "reference");
            x.Amount("Amount", "amount");
        }));
        x.GroupWhen(evaluation.Balance < 0, "RefundAccount", () =>
        {
            x.Line("Institution", "payout.bank");
            x.Line("Branch", "payout.branch");
            x.Line("AccountNumber", "payout.account-number");
            x.Line("AccountKind", "payout.account-kind");
        });
        x.Declaration();
        return x.Finish();
    }

    private static void Income(EReturnWriter x)
    {
        x.Rows("Employer", "employment.employers", () =>
        {
            x.Line("Number", "number");
            x.Line("Name", "name");
            x.Amount("Pay", "pay");
            x.Amount("Benefits", "benefits");
            x.Amount("TaxDeducted", "tax-deducted");
        });
        x.Rows("Pension", "pensions.pensions", () =>
        {
            x.Line("Payer", "payer");
            x.Amount("Amount", "amount");
            x.Amount("TaxDeducted", "tax-deducted");
        });
        x.Rows("Investment", "investments.investments", () =>
        {
            x.Line("Payer", "payer");
            x.Line("Kind", "kind");
            x.Amount("Amount", "amount");
            x.Line("TaxedAtSource", "taxed-at-source");
        });
        x.Rows("Foreign", "foreign.items", () =>
        {
            x.Line("Country", "country");
            x.Line("Kind", "kind");
            x.Line("ExchangeRate", "exchange-rate");
            x.Amount("Amount", "amount");
            x.Amount("Income", "income");
            x.Amount("Tax", "tax-here");
        });
        x.Rows("Business", "business.businesses", () =>
        {
            x.Line("Description", "description");
            x.Line("Kind", "kind");
            x.Line("Place", "place");
            x.Amount("Turnover", "turnover");
            x.Rows("Expense", "business.expenses", () =>
            {
                x.Line("Class", "class");
                x.Amount("Amount", "amount");
            }, of: "of");
            x.Rows("Asset", "business.assets", () =>
            {
                x.Line("Description", "description");
                x.Line("Bought", "bought");
                x.Amount("Cost", "cost");
                x.Line("Sold", "sold");
            }, of: "of");
            x.Amount("Profit", "profit");
        });
        x.Rows("LossOfEarlierYear", "business.losses", () =>
        {
            x.Line("Year", "year");
            x.Amount("Loss", "amount");
            x.Amount("Used", "used");
            x.Amount("Left", "left");
        });
    }

    private static void Deductions(EReturnWriter x)
    {
        x.Rows("Dues", "deductions.dues", () =>
        {
            x.Line("Body", "body");
            x.Amount("Amount", "amount");
        });
        x.Amount("DuesTotal", "deductions.dues-paid");
        x.Line("EnergyYear", "deductions.energy-year");
        x.Amount("EnergyBroughtForward", "deductions.energy-before");
        x.Rows("EnergyWork", "deductions.energy-works", () =>
        {
            x.Line("Supplier", "supplier");
            x.Line("Kind", "kind");
            x.Amount("Cost", "cost");
        });
        x.Amount("Energy", "deductions.energy");
        x.Rows("Gift", "deductions.gifts", () =>
        {
            x.Line("Charity", "charity");
            x.Line("Number", "number");
            x.Amount("Amount", "amount");
        });
        x.Amount("Gifts", "deductions.gifts-allowed");
        x.Rows("AgricultureInvestment", "deductions.agriculture", () =>
        {
            x.Line("Certificate", "certificate");
            x.Amount("Amount", "amount");
        });
        x.Amount("Agriculture", "deductions.agriculture-total");
        x.Rows("CulturalProject", "deductions.culture", () =>
        {
            x.Line("Certificate", "certificate");
            x.Amount("Amount", "amount");
        });
        x.Amount("Culture", "deductions.culture-total");
        x.Amount("Medical", "deductions.medical");
        x.Line("DomesticWorkerNumber", "deductions.domestic-worker-number");
        x.Amount("DomesticWorker", "deductions.domestic-worker");
        x.Amount("PensionPlan", "deductions.pension-plan");
        x.Line("SpouseName", "allowances.spouse-name");
        x.Line("SpouseRegistration", "allowances.spouse-registration");
        x.Amount("SpouseIncome", "allowances.spouse-income");
        x.Amount("Spouse", "allowances.spouse-allowance");
        x.Rows("Child", "allowances.children", () =>
        {
            x.Line("Name", "name");
            x.Line("BirthDate", "birth-date");
            x.Line("InEducation", "in-education");
            x.Amount("Amount", "amount");
        });
        x.Amount("Children", "allowances.children-total");
    }
}
