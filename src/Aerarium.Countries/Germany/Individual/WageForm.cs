using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>Wages, one block for each wage statement with its lines, and benefits in place of wages.</summary>
public sealed class WageForm : Form
{
    /// <summary>Kinds of benefits that count for the progression clause.</summary>
    public static readonly IReadOnlyList<Choice> BenefitKinds =
    [
        new("unemployment", "Unemployment benefit"), new("short-time", "Short-time allowance"), new("sickness", "Sickness benefit"), new("parental", "Parental allowance"),
        new("maternity", "Maternity benefit"), new("insolvency", "Insolvency benefit"), new("other", "Other benefit in place of wages"),
    ];

    private sealed record Statement(
        ChoiceLine Class, AmountLine Gross, AmountLine Several, AmountLine WageTax, AmountLine Surcharge, AmountLine ChurchTax, AmountLine SpouseChurchTax, AmountLine OneFifth, AmountLine Replaced, AmountLine CommutingPaid, AmountLine MealsPaid,
        AmountLine SecondHouseholdPaid, AmountLine EmployerPension, AmountLine EmployeePension, AmountLine Health, AmountLine Care, AmountLine PrivateBasic, AmountLine Unemployment, AmountLine Pensions);

    private sealed record Benefit(AmountLine Amount);

    /// <summary>Wage in all, what of it the one-fifth method may tax, and pensions in it.</summary>
    public readonly AmountLine Gross, OneFifth, Pensions;

    /// <summary>Taxes withheld: wage tax, solidarity surcharge, church tax of the person and of the spouse.</summary>
    public readonly AmountLine WageTax, Surcharge, ChurchTax, SpouseChurchTax;

    /// <summary>What the employer paid free of tax, or taxed flat, for ways to work, meals and a second household.</summary>
    public readonly AmountLine CommutingPaid, MealsPaid, SecondHouseholdPaid;

    /// <summary>Contributions: employer's and employee's to the pension scheme; health and care less subsidies, private basic insurance, unemployment.</summary>
    public readonly AmountLine EmployerPension, EmployeePension, Health, Care, PrivateBasic, Unemployment;

    /// <summary>Benefits in place of wages, the employer's among them.</summary>
    public readonly AmountLine Benefits;

    /// <summary>The energy lump sum credited in the assessment; null except for 2022.</summary>
    public readonly AmountLine? EnergyCredited;

    /// <summary>Whether wages came from several employers at the same time: tax class VI; and whether the class is V.</summary>
    public readonly Condition AtTheSameTime, ClassFive;

    /// <summary>Declares the form.</summary>
    public WageForm(Definition definition, IncomeTaxLaw law, Person person, WageForm? beside = null)
        : base(definition, "wages", "Wages", "One block for each wage statement, line by line as it is printed.", person.Employed, Person.Spouse(beside))
    {
        var statements = Repeating("statements", Glossary.In("Wage statement"), "wage statement", Block, "EStG s. 19, 41b");
        (AtTheSameTime, ClassFive) = (statements.Any(s => s.Class.Is("6")), statements.Any(s => s.Class.Is("5")));

        var benefits = Repeating("benefits", Glossary.In("Benefits in place of wages"), "benefit", row =>
        {
            var kind = row.Choice("kind", "Benefit", BenefitKinds).Required();
            row.NamedBy(kind);
            row.Text("payer", "Paid by").From("notice of the office or the insurer").Required();
            row.Date("from", "From").From("notice").Required();
            row.Date("until", "Until").From("notice").Required();
            return new Benefit(row.Entry("amount", "Amount").From("notice for the tax office").Required());
        }, "EStG s. 32b(1) no. 1", person.Benefits);

        EnergyCredited = EnergyLumpSum(law);
        Section("All wage statements", "EStG s. 19, 36(2)");
        Gross = Line("gross", Glossary.In("Gross wage"), statements.Sum(s => s.Gross) + statements.Sum(s => s.Several) + (EnergyCredited ?? (Amount)0)).Law("EStG s. 19(1)").Subtotal();
        Pensions = Line("pensions", "of which pensions", statements.Sum(s => s.Pensions));
        OneFifth = Line("one-fifth", Glossary.In("Wages for several years and severance"), statements.Sum(s => s.OneFifth)).Law("EStG s. 34(1), (2)").Hint("taxed by the one-fifth method");
        WageTax = Line("wage-tax", Glossary.In("Wage tax") + " withheld", statements.Sum(s => s.WageTax)).Law("EStG s. 36(2) no. 2");
        Surcharge = Line("surcharge", Glossary.In("Solidarity surcharge") + " withheld", statements.Sum(s => s.Surcharge));
        ChurchTax = Line("church-tax", Glossary.In("Church tax") + " withheld", statements.Sum(s => s.ChurchTax));
        SpouseChurchTax = Line("spouse-church-tax", "Church tax withheld for the spouse", statements.Sum(s => s.SpouseChurchTax));
        CommutingPaid = Line("commuting-paid", "Paid by employers for ways to work", statements.Sum(s => s.CommutingPaid)).Law("lines 17, 18");
        MealsPaid = Line("meals-paid", "Paid by employers for meals", statements.Sum(s => s.MealsPaid)).Law("line 20");
        SecondHouseholdPaid = Line("second-household-paid", "Paid by employers for a second household", statements.Sum(s => s.SecondHouseholdPaid)).Law("line 21");
        EmployerPension = Line("employer-pension", "Employers' contributions to the pension scheme", statements.Sum(s => s.EmployerPension)).Law("line 22");
        EmployeePension = Line("employee-pension", "Own contributions to the pension scheme", statements.Sum(s => s.EmployeePension)).Law("line 23");
        Health = Line("health", "Health insurance, less subsidy", statements.Sum(s => s.Health)).Law("lines 25, 24a");
        Care = Line("care", "Care insurance, less subsidy", statements.Sum(s => s.Care)).Law("lines 26, 24c");
        PrivateBasic = Line("private-basic", "Private health and care insurance, basic part, less subsidy", statements.Sum(s => s.PrivateBasic)).Law("lines 28, 24b");
        Unemployment = Line("unemployment", "Unemployment insurance", statements.Sum(s => s.Unemployment)).Law("line 27");
        Benefits = Line("benefits-all", Glossary.In("Benefits in place of wages"), benefits.Sum(b => b.Amount) + statements.Sum(s => s.Replaced)).Law("EStG s. 32b(1)");

        Error("no-statement", person.Employed & statements.RowCount.Equals(0), "Enter each wage statement of the year, or answer in Scope that there were no wages.", person.Employed);
        Note("several-statements", AtTheSameTime, "Wages came from several employers at the same time (class VI): the return is compulsory, and the tax withheld may be too little.", Gross);

        Statement Block(RowScope row)
        {
            row.NamedBy(row.Text("employer", "Employer").From("wage statement, employer").Required());
            var from = row.Date("from", "From").From("wage statement line 1").Required();
            var until = row.Date("until", "Until").From("wage statement line 1").Required();
            row.Text("letters", "Capital letters").From("wage statement line 2").Hint("such as S, M, F, E");
            var taxClass = row.Choice("class", "Tax class", [new("1", "I"), new("2", "II"), new("3", "III"), new("4", "IV"), new("5", "V"), new("6", "VI")]).From("wage statement, tax class").Required();
            var gross = row.Entry("gross", Glossary.In("Gross wage")).TakesMoreIncome().From("wage statement line 3").Required();
            var wageTax = row.Entry("wage-tax", Glossary.In("Wage tax")).From("wage statement line 4").Required();
            var surcharge = row.Entry("surcharge", Glossary.In("Solidarity surcharge")).From("wage statement line 5");
            var church = row.Entry("church-tax", Glossary.In("Church tax")).From("wage statement line 6");
            var spouseChurch = row.Entry("spouse-church-tax", "Church tax of the spouse").From("wage statement line 7");
            var pensions = row.Entry("pensions", "Pensions in the gross wage").From("wage statement line 8");
            var severalPensions = row.Entry("several-pensions", "Pensions for several years").From("wage statement line 9");
            var several = row.Entry("several", "Severance, wages for several years, reduced rate").From("wage statement line 10");
            var severalTax = row.Entry("several-tax", "Wage tax on lines 9 and 10").From("wage statement line 11");
            var severalSurcharge = row.Entry("several-surcharge", "Solidarity surcharge on lines 9 and 10").From("wage statement line 12");
            var severalChurch = row.Entry("several-church-tax", "Church tax on lines 9 and 10").From("wage statement line 13");
            var severalSpouse = row.Entry("several-spouse-church-tax", "Church tax of the spouse on lines 9 and 10").From("wage statement line 14");
            var replaced = row.Entry("replaced", "Short-time and other pay in place of wages").From("wage statement line 15");
            var free = row.Entry("commuting-free", "Ways to work, free of tax").From("wage statement line 17");
            var flat = row.Entry("commuting-flat", "Ways to work, taxed flat").From("wage statement line 18");
            var severance = row.Entry("severance", "Severance, wages for several years, in line 3").From("wage statement line 19");
            var qualifies = row.Answer("severance-qualifies", "Paid together in one year, for the one-fifth method?").When(severance > 0).RequiredWhen(severance > 0).Law("EStG s. 34(1)");
            var meals = row.Entry("meals-free", "Meals on travel, free of tax").From("wage statement line 20");
            var second = row.Entry("second-household-free", "Second household, free of tax").From("wage statement line 21");
            var employerPension = row.Entry("employer-pension", "Employer's contribution, statutory pension").From("wage statement line 22a");
            var employerScheme = row.Entry("employer-scheme", "Employer's contribution, professional scheme").From("wage statement line 22b");
            var employeePension = row.Entry("employee-pension", "Employee's contribution, statutory pension").From("wage statement line 23a");
            var employeeScheme = row.Entry("employee-scheme", "Employee's contribution, professional scheme").From("wage statement line 23b");
            var subsidyHealth = row.Entry("subsidy-health", "Subsidy to statutory health insurance").From("wage statement line 24a");
            var subsidyPrivate = row.Entry("subsidy-private", "Subsidy to private health insurance").From("wage statement line 24b");
            var subsidyCare = row.Entry("subsidy-care", "Subsidy to care insurance").From("wage statement line 24c");
            var health = row.Entry("health", "Statutory health insurance").From("wage statement line 25");
            var care = row.Entry("care", "Statutory care insurance").From("wage statement line 26");
            var unemployment = row.Entry("unemployment", "Unemployment insurance").From("wage statement line 27");
            var basic = row.Entry("private-basic", "Private health and care insurance, basic part").From("wage statement line 28");

            row.Error("part-above-wage", (pensions > gross | severance > gross) & gross.IsFilled(), "A part is larger than the wage of line 3; check lines 8 and 19.", gross);
            row.Error("tax-without-wage", wageTax > 0 & gross.Equals(0) & (several + severalPensions).Equals(0), "Tax was withheld without a wage; check lines 3 and 4.", wageTax);
            row.Error("outside-year", (from.IsFilled() & Year(from) < law.Year) | (until.IsFilled() & Year(until) > law.Year) | until < from, $"The period of a wage statement lies within {law.Year} and does not end before it begins; check line 1.", from, until);
            row.Error("statement-twice", row.RepeatsEarlier(from, until, gross), "This wage statement is entered twice: same period, same wage.", gross);
            row.Warn("pension-differs", employeePension > 0 & Size(employeePension - employerPension) > law.PensionTolerance * employeePension, $"The contributions of lines 22a ({employerPension}) and 23a ({employeePension}) differ; check them.", employeePension);
            row.Warn("health-missing", (health + basic).Equals(0) & gross > law.MiniJobYear, "There are no contributions to health insurance; check lines 25 to 28.", health);
            row.Warn("no-wage-tax", gross > law.BasicAllowance + law.LumpSum & wageTax.Equals(0) & wageTax.IsFilled() & !taxClass.Is("3"), "No wage tax although the wage is high; check line 4.", wageTax);
            if (law.Year >= 2025)
            {
                row.Warn("reduced-rate", several > 0, "From 2025 employers no longer tax severance at the reduced rate: it is in lines 3 and 19; check line 10.", several);
            }
            else
            {
                row.Warn("reduced-rate", several > 0 & severalTax.Equals(0), "Pay at the reduced rate without tax; check lines 10, 11 and 19.", several);
            }

            row.Warn("one-fifth-unasked", severance > 0 & qualifies.IsFilled() & !qualifies, "Severance is taxed in full; check whether the one-fifth method applies.", severance);
            return new Statement(
                taxClass,
                gross,
                row.Line("several-all", "Lines 9 and 10", severalPensions + several),
                row.Line("wage-tax-all", "Wage tax, lines 4 and 11", wageTax + severalTax),
                row.Line("surcharge-all", "Solidarity surcharge, lines 5 and 12", surcharge + severalSurcharge),
                row.Line("church-tax-all", "Church tax, lines 6 and 13", church + severalChurch),
                row.Line("spouse-church-tax-all", "Church tax of the spouse, lines 7 and 14", spouseChurch + severalSpouse),
                row.Line("one-fifth", "For the one-fifth method", severalPensions + several + If(qualifies, severance, 0)),
                replaced,
                row.Line("commuting-paid", "Ways to work, lines 17 and 18", free + flat),
                meals,
                second,
                row.Line("employer-pension-all", "Employer's pension contributions, line 22", employerPension + employerScheme),
                row.Line("employee-pension-all", "Own pension contributions, line 23", employeePension + employeeScheme),
                row.Line("health-net", "Health insurance less subsidy", AtLeastZero(health - subsidyHealth)),
                row.Line("care-net", "Care insurance less subsidy", AtLeastZero(care - subsidyCare)),
                row.Line("private-net", "Private basic insurance less subsidy", AtLeastZero(basic - subsidyPrivate)),
                unemployment,
                row.Line("pensions-all", "Pensions, lines 8 and 9", pensions + severalPensions));
        }
    }

    /// <summary>The energy lump sum of 2022 that no employer paid: added to the wage and credited (EStG s. 112 to 122); null in other years.</summary>
    private AmountLine? EnergyLumpSum(IncomeTaxLaw law)
    {
        if (law.EnergyLumpSum is not { } sum)
        {
            return null;
        }

        Section("Energy lump sum of 2022", "EStG s. 112 to 122", name: "energy");
        var asked = Answer("energy-from-assessment", "Employed in 2022, and no employer paid the energy lump sum?").Required().Hint("no letter E on any wage statement; not a mini-job only");
        return Line("energy", "Energy lump sum, taxed and credited here", If(asked, sum, 0));
    }
}
