using Aerarium.Core.Engine;
using Aerarium.Countries.Common;
using Aerarium.Filing;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>Writes an employee's return in the form the authority's schema asks for; one schema serves all years.</summary>
public sealed class IndividualEReturn : IEReturnMapping
{
    private const int SchemaYear = 2022;

    /// <inheritdoc />
    public string SchemaPath(int year) => $"de/individual/{SchemaYear}.xsd";

    /// <inheritdoc />
    public bool CheckedBeforehand => true;

    /// <inheritdoc />
    public EReturn Write(Evaluation evaluation)
    {
        var year = evaluation.Definition.Year;
        var x = new EReturnWriter(evaluation, $"urn:aerarium:standin:de:individual:{SchemaYear}", "EmployeeReturn");
        x.Group("Header", () =>
        {
            x.Fixed("TaxYear", $"{year}");
            x.Line("Kind", "taxpayer.kind");
            x.Line("PriorAcknowledgement", "taxpayer.prior-acknowledgement");
            x.Line("FirstReturn", "scope.first-return");
            x.Line("TaxOffice", "taxpayer.office");
            x.Line("Joint", "scope.joint");
            x.Line("WidowSplitting", "scope.widow-splitting");
            x.Line("Notice", "taxpayer.notice");
            x.Line("Compulsory", "scope.compulsory");
        });
        x.Group("Taxpayer", () =>
        {
            x.Line("Number", "taxpayer.number");
            x.Line("TaxNumber", "taxpayer.tax-number");
            x.Line("Name", "taxpayer.name");
            x.Line("BirthDate", "taxpayer.birth-date");
            x.Line("Family", "scope.family");
            x.Line("State", "scope.state");
            x.Line("Religion", "taxpayer.religion");
            x.Line("ChurchMonths", "taxpayer.church-months");
            x.Line("Occupation", "taxpayer.occupation");
            x.Line("Address", "taxpayer.address");
            x.Line("Email", "taxpayer.email");
            x.Line("Telephone", "taxpayer.phone");
        });
        var joint = evaluation.IsYes("scope.joint");
        x.GroupWhen(joint, "Spouse", () =>
        {
            x.Line("Number", "taxpayer.spouse-number");
            x.Line("Name", "taxpayer.spouse-name");
            x.Line("BirthDate", "taxpayer.spouse-birth-date");
            x.Line("Religion", "taxpayer.spouse-religion");
        });
        x.Group("Adviser", () =>
        {
            x.Line("Number", "declaration.agent-number");
            x.Line("Name", "declaration.agent-name");
            x.Line("Contact", "declaration.contact-name");
            x.Line("Telephone", "declaration.contact-phone");
        });
        var pension = evaluation.IsYes("scope.subsidised-pension");
        x.Group("Work", () => Work(x, "", year, pension));
        x.GroupWhen(joint, "SpouseWork", () => Work(x, "-spouse", year, pension));
        x.Group("Children", () =>
        {
            x.Rows("Child", "children.children", () =>
            {
                x.Line("Name", "name");
                x.Line("Number", "number");
                x.Line("BirthDate", "born");
                x.Line("Months", "months");
                x.Line("OtherParentHasHalf", "half");
                x.Amount("Allowance", "allowance");
                x.Amount("Benefit", "benefit");
                x.Line("AllowanceTaken", "better");
                x.Amount("Childcare", "care");
                x.Amount("SchoolFees", "school");
                x.Line("MonthsAway", "months-away");
            });
            x.Amount("LoneParent", "children.lone-parent");
        });
        x.Group("SpecialExpenses", () => Special(x));
        x.Group("Burdens", () => Burdens(x));
        x.Group("Household", () =>
        {
            x.Rows("Invoice", "household.work", () =>
            {
                x.Line("Kind", "kind");
                x.Line("Payee", "payee");
                x.Line("PaidOn", "date");
                x.Amount("Total", "total");
                x.Amount("Labour", "labour");
                x.Line("ToAccount", "account");
                x.Amount("Counted", "counted");
            });
            x.Amount("Credit", "household.credit");
        });
        x.GroupWhen(evaluation.IsYes("scope.capital"), "Capital", () => Capital(x));
        x.Group("Computation", () => Computation(x));
        x.GroupWhen(evaluation.Balance < 0, "Account", () =>
        {
            x.Line("Iban", "payout.account");
            x.Line("Holder", "payout.holder");
        });
        x.Declaration();
        return x.Finish();
    }

    private static void Work(EReturnWriter x, string suffix, int year, bool pension)
    {
        x.Rows("WageStatement", $"wages{suffix}.statements", () =>
        {
            x.Line("Employer", "employer");
            x.Line("From", "from");
            x.Line("Until", "until");
            x.Line("Letters", "letters");
            x.Line("TaxClass", "class");
            foreach (var (number, line) in Lines)
            {
                x.Amount($"Line{number}", line);
            }

            x.Line("OneFifthMethod", "severance-qualifies");
        });
        x.Rows("Benefit", $"wages{suffix}.benefits", () =>
        {
            x.Line("Kind", "kind");
            x.Line("Payer", "payer");
            x.Line("From", "from");
            x.Line("Until", "until");
            x.Amount("Amount", "amount");
        });
        if (year == 2022)
        {
            x.Amount("EnergyLumpSum", $"wages{suffix}.energy");
        }

        x.Amount("GrossWage", $"wages{suffix}.gross");
        x.Rows("Way", $"work-costs{suffix}.ways", () =>
        {
            x.Line("Place", "place");
            x.Line("Days", "days");
            x.Line("Kilometres", "distance");
            x.Line("ByCar", "by-car");
            x.Amount("Tickets", "tickets");
        });
        x.Line("SeverelyDisabled", $"work-costs{suffix}.severely-disabled");
        x.Amount("Commuting", $"work-costs{suffix}.commuting");
        x.Line("HomeOfficeDays", $"work-costs{suffix}.home-office-counted");
        x.Amount("HomeOffice", $"work-costs{suffix}.home-office");
        x.Rows("Equipment", $"work-costs{suffix}.tools", () =>
        {
            x.Line("What", "what");
            x.Line("BoughtOn", "bought");
            x.Amount("Price", "gross");
            x.Line("SharePercent", "share");
            x.Amount("WrittenOff", "used");
        });
        x.Rows("Cost", $"work-costs{suffix}.costs", () =>
        {
            x.Line("Class", "class");
            x.Line("What", "what");
            x.Amount("Amount", "amount");
        });
        x.Amount("EquipmentAndCosts", $"work-costs{suffix}.tools-total");
        x.Rows("Trip", $"work-costs{suffix}.trips", () =>
        {
            x.Line("Where", "where");
            x.Line("BegunOn", "date");
            x.Amount("Meals", "meal-allowance");
            x.Amount("Costs", "costs");
        });
        x.Amount("Travel", $"work-costs{suffix}.travel");
        x.Amount("SecondHousehold", $"work-costs{suffix}.second");
        x.Amount("Removal", $"work-costs{suffix}.moved");
        x.Amount("Expenses", $"work-costs{suffix}.total");
        x.Amount("Deducted", $"work-costs{suffix}.allowed");
        x.Amount("Income", $"work-costs{suffix}.income");
        x.Rows("Policy", $"provident{suffix}.policies", () =>
        {
            x.Line("Kind", "kind");
            x.Line("Insurer", "insurer");
            x.Amount("Amount", "amount");
        });
        x.Amount("PensionContracts", $"provident{suffix}.contracts");
        x.Amount("OldAge", $"provident{suffix}.old-age");
        x.Amount("Basic", $"provident{suffix}.basic");
        x.Amount("OtherInsurance", $"provident{suffix}.other");
        x.GroupWhen(pension, "SubsidisedPension", () =>
        {
            x.Amount("Paid", $"provident{suffix}.pension-paid");
            x.Amount("WageBefore", $"provident{suffix}.pension-wage");
            x.Line("Children", $"provident{suffix}.pension-children");
            x.Line("OlderChildren", $"provident{suffix}.pension-older-children");
            x.Amount("Allowances", $"provident{suffix}.pension-allowances");
            x.Amount("Deductible", $"provident{suffix}.pension");
        });
    }

    private static void Capital(EReturnWriter x)
    {
        x.Line("Way", "capital.way");
        x.Rows("Certificate", "capital.certificates", () =>
        {
            x.Line("Payer", "payer");
            x.Line("Whose", "whose");
            x.Amount("Income", "income");
            x.Amount("AllowanceUsed", "used");
            x.Amount("ForeignTax", "foreign");
            x.Amount("Tax", "tax");
            x.Amount("Surcharge", "surcharge");
            x.Amount("ChurchTax", "church-tax");
            x.Line("Assessed", "counts");
        });
        x.Amount("ByTariff", "capital.by-tariff");
        x.Amount("ByTariffOfSpouse", "capital.by-tariff-of-spouse");
        x.Amount("Flat", "capital.flat");
        x.Amount("Surcharge", "capital.surcharge");
        x.Amount("ChurchTax", "capital.church-tax");
        x.Amount("Withheld", "capital.withheld");
        x.Amount("SurchargeWithheld", "capital.surcharge-withheld");
        x.Amount("ChurchTaxWithheld", "capital.church-withheld");
    }

    /// <summary>The lines of a wage statement with the lines of the return they stand on.</summary>
    private static readonly (string Number, string Line)[] Lines =
    [
        ("3", "gross"), ("4", "wage-tax"), ("5", "surcharge"), ("6", "church-tax"), ("7", "spouse-church-tax"), ("8", "pensions"), ("9", "several-pensions"), ("10", "several"), ("11", "several-tax"),
        ("12", "several-surcharge"), ("13", "several-church-tax"), ("14", "several-spouse-church-tax"), ("15", "replaced"), ("17", "commuting-free"), ("18", "commuting-flat"), ("19", "severance"), ("20", "meals-free"),
        ("21", "second-household-free"), ("22a", "employer-pension"), ("22b", "employer-scheme"), ("23a", "employee-pension"), ("23b", "employee-scheme"), ("24a", "subsidy-health"), ("24b", "subsidy-private"),
        ("24c", "subsidy-care"), ("25", "health"), ("26", "care"), ("27", "unemployment"), ("28", "private-basic"),
    ];

    private static void Special(EReturnWriter x)
    {
        x.Amount("ChurchTaxPaid", "special.church-tax");
        x.Amount("ChurchTaxRefunded", "special.church-refunded");
        x.Rows("Gift", "special.gifts", () =>
        {
            x.Line("Recipient", "recipient");
            x.Line("Kind", "kind");
            x.Amount("Amount", "amount");
            x.Line("Proof", "proof");
        });
        x.Amount("DonationsBefore", "special.donations-before");
        x.Amount("DonationsAllowed", "special.donations-allowed");
        x.Amount("DonationsLeft", "special.donations-left");
        x.Amount("PartyExpense", "special.party-expense");
        x.Line("MaintenanceRecipient", "special.maintenance-recipient");
        x.Amount("Maintenance", "special.maintenance-allowed");
        x.Amount("FirstTraining", "special.training-allowed");
        x.Amount("Childcare", "children.care");
        x.Amount("SchoolFees", "children.school");
        x.Amount("Allowed", "special.allowed");
    }

    private static void Burdens(EReturnWriter x)
    {
        x.Rows("Cost", "burdens.costs", () =>
        {
            x.Line("What", "what");
            x.Line("Kind", "kind");
            x.Line("PaidOn", "date");
            x.Amount("Cost", "cost");
            x.Amount("Refunded", "refunded");
        });
        x.Line("Degree", "burdens.degree");
        x.Line("SpouseDegree", "burdens.spouse-degree");
        x.Line("Travel", "burdens.travel");
        x.Line("Carer", "burdens.carer");
        x.Line("Survivor", "burdens.survivor");
        x.Amount("LumpSums", "burdens.lump-sums");
        x.Rows("Relative", "burdens.relatives", () =>
        {
            x.Line("Name", "name");
            x.Line("Number", "number");
            x.Line("Months", "months");
            x.Amount("Paid", "paid");
            x.Amount("Allowed", "allowed");
        });
        x.Amount("OwnShare", "burdens.own-share");
        x.Amount("Allowed", "burdens.allowed");
    }

    private static void Computation(EReturnWriter x)
    {
        foreach (var (name, line) in new[]
        {
            ("OtherIncome", "income.other"), ("SumOfIncomes", "income.sum"), ("AgeRelief", "income.age-relief"), ("SpouseAgeRelief", "income.spouse-age-relief"), ("TotalIncome", "income.total-income"),
            ("OldAgeDeducted", "tax.old-age-deducted"), ("OtherInsuranceDeducted", "tax.other-deducted"), ("Losses", "tax.losses"), ("ChurchExcess", "special.church-excess"), ("PensionTaken", "tax.pension-taken"), ("Income", "tax.income"), ("Hardship", "tax.hardship"),
            ("AllowancesTaken", "children.allowances-taken"), ("Allowances", "children.allowances"), ("Taxable", "tax.taxable"), ("Benefits", "rate.benefits"), ("OneFifth", "rate.one-fifth"), ("ByTariff", "tax.by-tariff"),
            ("Credits", "tax.credits"), ("BenefitAdded", "children.benefit-of-taken"), ("PensionAdded", "tax.pension-added"), ("IncomeTax", "tax.income-tax"), ("SurchargeBase", "tax.surcharge-base"), ("Surcharge", "tax.surcharge"), ("ChurchTax", "tax.church-tax"),
            ("Withheld", "balance.withheld"), ("SurchargeWithheld", "balance.surcharge-withheld"), ("ChurchTaxWithheld", "balance.church-withheld"), ("Prepaid", "balance.prepaid"), ("SurchargePrepaid", "balance.prepaid-surcharge"),
            ("ChurchTaxPrepaid", "balance.prepaid-church"), ("Paid", "balance.paid"), ("Taxes", "balance.taxes"), ("Balance", "balance.balance"),
        })
        {
            x.Amount(name, line);
        }
    }
}
