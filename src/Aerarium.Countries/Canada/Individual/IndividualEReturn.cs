using Aerarium.Core.Engine;
using Aerarium.Countries.Common;
using Aerarium.Filing;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>Writes the return of an individual in the form the federal authority's schema asks for; it assesses for the province too. One schema serves all years.</summary>
public sealed class IndividualEReturn : IEReturnMapping
{
    private const int SchemaYear = 2016;

    /// <inheritdoc />
    public string SchemaPath(int year) => $"ca/individual/{SchemaYear}.xsd";

    /// <inheritdoc />
    public EReturn Write(Evaluation evaluation)
    {
        var x = new EReturnWriter(evaluation, $"urn:aerarium:standin:ca:individual:{SchemaYear}", "IndividualReturn");
        var definition = evaluation.Definition;
        x.Group("Header", () =>
        {
            x.Fixed("TaxYear", $"{definition.Year}");
            x.Line("Kind", "taxpayer.kind");
            x.Line("PriorAcknowledgement", "taxpayer.prior-acknowledgement");
            x.Line("AccessCode", "taxpayer.access-code");
            x.Line("Province", "scope.province");
            x.Line("DiedOn", "scope.died-on");
            x.Line("SelfEmployed", "scope.business");
            x.Line("ForeignProperty", "scope.foreign-property");
            x.Line("HomeSold", "scope.home");
        });
        x.Group("Taxpayer", () =>
        {
            x.Line("Number", "taxpayer.sin");
            x.Line("Name", "taxpayer.name");
            x.Line("BirthDate", "taxpayer.birth-date");
            x.Line("MaritalStatus", "taxpayer.marital-status");
            x.Line("StatusSince", "taxpayer.status-since");
            x.Line("Language", "taxpayer.language");
            x.Line("Address", "taxpayer.address");
            x.Line("PostalCode", "taxpayer.postal-code");
            x.Line("Email", "taxpayer.email");
            x.Line("Telephone", "taxpayer.phone");
            x.Line("Citizen", "scope.citizen");
            x.Line("ElectionsList", "scope.elections-list");
            x.Line("NoticesOnline", "scope.notices-online");
        });
        x.GroupWhen(evaluation.Value(definition.LineOf("scope.spouse")) == "yes", "Spouse", () =>
        {
            x.Line("Number", "taxpayer.spouse-sin");
            x.Line("Name", "taxpayer.spouse-name");
            x.Amount("NetIncome", "taxpayer.spouse-net-income");
            x.Line("SelfEmployed", "scope.spouse-in-business");
            x.Line("Claimed", "family.claim-spouse");
        });
        x.Group("Agent", () =>
        {
            x.Line("Number", "declaration.agent-number");
            x.Line("Name", "declaration.agent-name");
            x.Line("Contact", "declaration.contact-name");
            x.Line("Telephone", "declaration.contact-phone");
        });
        x.Rows("Dependant", "family.dependants", () =>
        {
            x.Line("Name", "name");
            x.Line("Relation", "relation");
            x.Line("BirthDate", "birth-date");
            x.Amount("NetIncome", "net-income");
            x.Line("Infirm", "infirm");
            x.Line("EligibleDependant", "eligible-dependant");
            x.Line("CountsHere", "counts-here");
        });
        x.Group("Slips", () => Slips(x));
        x.Group("Schedules", () => Schedules(x));
        x.Group("Income", () => Income(x));
        x.Group("FederalTax", () => Federal(x));
        foreach (var (key, name) in new[] { ("ontario", "Ontario"), ("bc", "BritishColumbia"), ("alberta", "Alberta") })
        {
            x.GroupWhen(evaluation.IsOpen(definition.LineOf($"{key}.tax")), name, () => Province(x, key));
        }

        x.Rows("Instalment", "balance.instalments", () =>
        {
            x.Line("Date", "date");
            x.Amount("Amount", "amount");
        });
        x.Group("Balance", () =>
        {
            x.Amount("FederalTax", "balance.federal");
            x.Amount("SelfEmployedContributions", "balance.self-contributions");
            x.Amount("Repayment", "balance.repayment");
            x.Amount("ProvincialTax", "balance.provincial");
            x.Amount("Payable", "balance.payable");
            x.Amount("Deducted", "balance.deducted");
            x.Amount("PlanOverpaid", "balance.plan-overpaid");
            x.Amount("PremiumsOverpaid", "balance.premiums-overpaid");
            x.AmountIfThere("MedicalSupplement", "balance.medical-supplement");
            x.AmountIfThere("TrainingCredit", "balance.training");
            x.AmountIfThere("WorkersBenefit", "balance.workers-benefit");
            x.Amount("Instalments", "balance.instalments-paid");
            x.Amount("RentersCredit", "balance.renters");
            x.Amount("Credits", "balance.credits");
            x.Amount("Balance", "balance.balance");
        });
        x.GroupWhen(evaluation.Balance < 0 && evaluation.Value(definition.LineOf("payout.account-number")) is not null, "RefundAccount", () =>
        {
            x.Line("Bank", "payout.bank");
            x.Line("AccountNumber", "payout.account-number");
        });
        x.Group("Authorisation", () =>
        {
            x.Line("Signed", "declaration.authorised");
            x.Line("SignedOn", "declaration.authorised-on");
            x.Line("SignedBy", "declaration.authorised-by");
        });
        x.Declaration();
        return x.Finish();
    }

    private static void Slips(EReturnWriter x)
    {
        x.Rows("Employment", "employment.slips", () =>
        {
            x.Line("Employer", "payer");
            x.Line("Account", "account");
            x.Line("Place", "place");
            x.Amount("Income", "income");
            x.Amount("Tax", "tax");
            x.Amount("PensionPlanContributions", "plan");
            x.Amount("SecondContributions", "second");
            x.Amount("QuebecContributions", "quebec");
            x.Amount("QuebecSecondContributions", "quebec-second");
            x.Amount("Premiums", "premiums");
            x.Amount("PensionableEarnings", "counted-pensionable");
            x.Amount("InsurableEarnings", "counted-insurable");
            x.Amount("EmployerPensionPlan", "pension-plan");
            x.Amount("PensionAdjustment", "adjustment");
            x.Amount("Dues", "dues");
            x.Amount("Gifts", "gifts");
        });
        Boxes("EmploymentBox", "employment.boxes");
        x.Amount("OtherEmployment", "employment.other");
        x.Amount("OldAgeSecurity", "benefits.old-age");
        x.Amount("OldAgeSecurityTax", "benefits.old-age-tax");
        x.Amount("PublicPlan", "benefits.public-plan");
        x.Amount("PublicPlanTax", "benefits.public-plan-tax");
        x.Rows("Pension", "benefits.pensions", () =>
        {
            x.Line("Payer", "payer");
            x.Line("Kind", "kind");
            x.Amount("Amount", "amount");
            x.Amount("Tax", "tax");
        });
        x.Rows("InsuranceBenefits", "benefits.insurance", () =>
        {
            x.Amount("Total", "total");
            x.Amount("Regular", "regular");
            x.Line("RepaymentRate", "rate");
            x.Amount("Tax", "tax");
        });
        Boxes("BenefitBox", "benefits.boxes");
        x.Amount("PensionGiven", "benefits.split-given");
        x.Amount("PensionReceived", "benefits.split-received");
        x.Amount("TaxOnPensionGiven", "benefits.split-tax-given");
        x.Amount("TaxOnPensionReceived", "benefits.split-tax-received");
        x.Rows("Investment", "investments.slips", () =>
        {
            x.Line("Payer", "payer");
            x.Line("SharePercent", "share");
            x.Amount("Interest", "own-interest");
            x.Amount("EligibleDividends", "own-eligible");
            x.Amount("OtherDividends", "own-other");
        });
        x.Rows("InvestmentOfSpouse", "investments.from-spouse", () =>
        {
            x.Line("Payer", "payer");
            x.Amount("Interest", "interest");
            x.Amount("EligibleDividends", "eligible");
            x.Amount("OtherDividends", "other");
        });
        Boxes("InvestmentBox", "investments.boxes");
        x.Amount("AuthorityInterest", "investments.authority-interest");
        x.Rows("OtherIncome", "other.items", () =>
        {
            x.Line("Kind", "kind");
            x.Line("Payer", "payer");
            x.Amount("Amount", "amount");
            x.Amount("Tax", "tax");
        });
        x.Rows("Tuition", "tuition.slips", () =>
        {
            x.Line("Institution", "institution");
            x.Amount("Fees", "counts");
            x.Line("MonthsPart", "months-part");
            x.Line("MonthsFull", "months-full");
        });

        void Boxes(string element, string table) => x.Rows(element, table, () =>
        {
            x.Line("Payer", "payer");
            x.Line("Box", "box");
            x.Amount("Income", "income");
            x.Amount("Tax", "tax");
        });
    }

    private static void Schedules(EReturnWriter x)
    {
        x.Rows("Sale", "gains.sales", () =>
        {
            x.Line("Description", "description");
            x.Line("Kind", "kind");
            x.Line("Acquired", "acquired");
            x.Amount("Proceeds", "proceeds");
            x.Amount("Cost", "cost");
            x.Amount("Outlays", "outlays");
            x.Amount("Gain", "gain");
        });
        x.Rows("Home", "home.homes", () =>
        {
            x.Line("Address", "address");
            x.Line("Bought", "bought");
            x.Line("Sold", "sold");
            x.Line("ResidentWhenBought", "resident-when-bought");
            x.Line("Designation", "designation");
            x.Amount("Proceeds", "proceeds");
            x.Amount("Cost", "cost");
            x.Amount("Improvements", "improvements");
            x.Amount("Outlays", "outlays");
            x.Amount("Gain", "gain");
            x.Rows("Designated", "home.years", () =>
            {
                x.Line("From", "from");
                x.Line("To", "to");
            }, of: "of");
            x.Line("YearsOwned", "years-owned");
            x.Amount("Exempt", "exempt");
            x.Amount("Rest", "rest");
        });
        x.Rows("Business", "business.businesses", () =>
        {
            x.Line("Description", "description");
            x.Line("Industry", "industry");
            x.Line("Place", "place");
            x.Amount("Gross", "gross");
            x.Rows("Expense", "business.expenses", () =>
            {
                x.Line("Class", "class");
                x.Amount("Amount", "amount");
                x.Amount("Counts", "counts");
            }, of: "of");
            x.Amount("Profit", "profit");
        });
        x.Rows("PropertyLet", "rental.properties", () =>
        {
            x.Line("Address", "address");
            x.Line("SharePercent", "share");
            x.Amount("Rent", "rent");
            x.Rows("Expense", "rental.expenses", () =>
            {
                x.Line("Class", "class");
                x.Amount("Amount", "amount");
            }, of: "of");
            x.Amount("Net", "net");
        });
        x.Amount("RetirementLimit", "retirement.limit");
        x.Amount("RetirementContributions", "retirement.contributions");
        x.Amount("RetirementDeduction", "retirement.deduction");
        x.AmountIfThere("FirstHomeDeduction", "retirement.home-deduction");
        x.Amount("WorkSpace", "work-costs.space-deducted");
        x.Amount("OtherWorkCosts", "work-costs.others");
        x.Amount("ChildCare", "child-care.deduction");
        x.Amount("MedicalClaimed", "medical.claimed");
        x.Rows("Gift", "gifts.gifts", () =>
        {
            x.Line("Charity", "charity");
            x.Line("Number", "number");
            x.Line("Date", "date");
            x.Amount("Amount", "counts");
        });
        x.Rows("GiftsCarried", "gifts.carried", () =>
        {
            x.Line("Year", "year");
            x.Amount("Held", "held");
            x.Amount("Used", "used");
        });
        x.Amount("GiftsClaimed", "gifts.claimed");
        x.Rows("Loss", "income.losses", () =>
        {
            x.Line("Year", "year");
            x.Amount("Amount", "amount");
            x.Amount("Used", "used");
        });
        x.Rows("CapitalLoss", "income.capital-losses", () =>
        {
            x.Line("Year", "year");
            x.Amount("Amount", "amount");
            x.Amount("Used", "used");
        });
        foreach (var (key, name) in new[] { ("federal", "FederalTuition"), ("bc", "BritishColumbiaTuition"), ("ontario", "OntarioTuition"), ("alberta", "AlbertaTuition") })
        {
            x.Group(name, () =>
            {
                x.Amount("Unused", $"tuition.{key}-unused");
                x.AmountIfThere("OfYear", $"tuition.{key}-current");
                x.Amount("Used", $"tuition.{key}-claimed");
                x.AmountIfThere("Transferred", $"tuition.{key}-transferred");
                x.Amount("Carried", $"tuition.{key}-carried");
            });
        }

        x.Line("TuitionDesignee", "tuition.designee");
        x.Line("TuitionDesigneeNumber", "tuition.designee-sin");
    }

    private static void Income(EReturnWriter x)
    {
        foreach (var (name, key) in new[]
        {
            ("Employment", "employment"), ("OldAgeSecurity", "old-age"), ("PublicPlan", "public-plan"), ("Pensions", "pensions"), ("PensionReceived", "split-received"), ("InsuranceBenefits", "insured"),
            ("Dividends", "dividends"), ("Interest", "interest"), ("Rent", "rental"), ("Gains", "gains"), ("TaxableGains", "taxable-gains"), ("RetirementSavings", "savings"), ("FirstHomeSavings", "home-savings"),
            ("Scholarships", "scholarships"), ("Other", "other"), ("SelfEmployment", "business"), ("Exempt", "exempt"), ("Total", "total"), ("EmployerPensionPlan", "pension-plan"), ("Retirement", "retirement"),
            ("FirstHome", "first-home"), ("PensionGiven", "split-given"), ("Dues", "dues"), ("ChildCare", "child-care"), ("Carrying", "carrying-charges"), ("SelfContributions", "self-contributions"),
            ("Enhanced", "enhanced"), ("WorkCosts", "work-costs"), ("Deductions", "deductions"), ("NetBefore", "net-before"), ("Repayment", "repayment"), ("Net", "net-income"), ("Exempted", "exempted"),
            ("Losses", "losses-used"), ("CapitalLosses", "capital-losses-used"), ("Taxable", "taxable"),
        })
        {
            x.AmountIfThere(name, $"income.{key}");
        }
    }

    private static void Federal(EReturnWriter x)
    {
        foreach (var (name, key) in new[]
        {
            ("Gross", "gross"), ("Basic", "basic-amount"), ("Age", "age-amount"), ("Spouse", "spouse-amount"), ("EligibleDependant", "eligible-dependant"), ("Caregiver", "caregiver"), ("InfirmChildren", "infirm-children"),
            ("Contributions", "contributions"), ("Employment", "employment-amount"), ("Pension", "pension-amount"), ("HomeBuyers", "home-buyers"), ("Accessibility", "accessibility"), ("Volunteer", "volunteer-amount"),
            ("Disability", "disability-amount"), ("DisabilityTransferred", "disability-transferred"), ("Tuition", "tuition"), ("TuitionReceived", "tuition-received"), ("FromSpouse", "from-spouse"), ("Medical", "medical"),
            ("StudentLoan", "student-loan"), ("Amounts", "amounts"), ("Credits", "credits"), ("GiftCredit", "gift-credit"), ("DividendCredit", "dividend-credit"), ("TopUp", "top-up"), ("BasicTax", "basic-tax"),
            ("PoliticalContributions", "political"), ("PoliticalCredit", "political-credit"), ("Net", "net-tax"),
        })
        {
            x.AmountIfThere(name, $"federal.{key}");
        }
    }

    private static void Province(EReturnWriter x, string key)
    {
        foreach (var (name, line) in new[]
        {
            ("Gross", "gross"), ("Basic", "basic-amount"), ("Age", "age-amount"), ("Spouse", "spouse-amount"), ("EligibleDependant", "eligible-dependant"), ("Contributions", "contributions"), ("Pension", "pension-amount"),
            ("Disability", "disability-amount"), ("DisabilityTransferred", "disability-transferred"), ("Tuition", "tuition"), ("TuitionReceived", "tuition-received"), ("FromSpouse", "from-spouse"), ("Medical", "medical"),
            ("StudentLoan", "student-loan"), ("Amounts", "amounts"), ("Credits", "credits"), ("GiftCredit", "gift-credit"), ("AfterCredits", "after-credits"), ("DividendCredit", "dividend-credit"), ("Surtax", "surtax"),
            ("Reduction", "reduction"), ("LowIncomeCredit", "low-income"), ("HealthPremium", "health-premium"), ("Supplemental", "supplemental"), ("PoliticalContributions", "political"),
            ("PoliticalCredit", "political-credit"), ("Tax", "tax"),
        })
        {
            x.AmountIfThere(name, $"{key}.{line}");
        }
    }
}
