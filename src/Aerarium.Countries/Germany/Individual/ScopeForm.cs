using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>The life situation: the answers that decide which forms and sections apply.</summary>
public sealed class ScopeForm : Form
{
    /// <summary>The states.</summary>
    public static readonly IReadOnlyList<Choice> States =
    [
        new("bw", "Baden-Wuerttemberg"), new("by", "Bavaria"), new("be", "Berlin"), new("bb", "Brandenburg"), new("hb", "Bremen"), new("hh", "Hamburg"), new("he", "Hesse"),
        new("mv", "Mecklenburg-Western Pomerania"), new("ni", "Lower Saxony"), new("nw", "North Rhine-Westphalia"), new("rp", "Rhineland-Palatinate"), new("sl", "Saarland"), new("sn", "Saxony"),
        new("st", "Saxony-Anhalt"), new("sh", "Schleswig-Holstein"), new("th", "Thuringia"),
    ];

    /// <summary>Family circumstances.</summary>
    public static readonly IReadOnlyList<Choice> Families =
        [new("single", "Single"), new("married", "Married or registered partners"), new("widowed", "Widowed"), new("separated", "Separated"), new("divorced", "Divorced")];

    /// <summary>Questions other forms ask about.</summary>
    public readonly AnswerLine Joint, WidowSplitting, FirstReturn, Advised, Children, Donations, Maintenance, FirstTraining, OwnInsurance, SubsidisedPension, Burdens, HouseholdWork, Capital, OtherIncome, Prepayments;

    /// <summary>Where one lives, and with whom; another reason for which the return is compulsory.</summary>
    public readonly ChoiceLine State, Family, Compulsory;

    /// <summary>Rate of church tax in the state of residence.</summary>
    public Amount ChurchRate(IncomeTaxLaw law) => If(State.Is("bw") | State.Is("by"), law.ChurchTaxSouth, law.ChurchTax);

    /// <summary>Whether either person had wages.</summary>
    public Condition AnyWages => Taxpayer.Employed | (Joint & Spouse.Employed);

    /// <summary>The two persons.</summary>
    public readonly Person Taxpayer, Spouse;

    /// <summary>Declares the form.</summary>
    public ScopeForm(Definition definition, IncomeTaxLaw law)
        : base(definition, "scope", "Scope", "The life situation of the year; forms and sections open and close with each answer.")
    {
        Section("The person and the year", "EStG s. 1, 26 to 26b");
        var resident = Answer("resident", $"Home in Germany all of {law.Year}?").UsuallyYes().Required();
        State = Choice("state", "State of residence", States).Required().FollowsClient("state").Hint("for church tax and holidays");
        Family = Choice("family", "Family circumstances", Families).Required().FollowsClient("marital-status");
        var married = Family.Is("married");
        Joint = Answer("joint", Glossary.In("Joint assessment")).When(married).RequiredWhen(married).Law("EStG s. 26b")
            .JoinsColumns("both can choose anew until the assessment is final; apart, each files a return of their own");
        WidowSplitting = Answer("widow-splitting", $"Widowed in {law.Year - 1}, the spouse having lived here?").When(Family.Is("widowed")).RequiredWhen(Family.Is("widowed")).Law("EStG s. 32a(6) no. 1");
        FirstReturn = Answer("first-return", "First return, without a tax number yet?").OfOneYear().Required();
        Advised = Answer("advised", "Filed by an adviser?").UsuallyYes().Required().Hint("the practice; the day of filing is later then");

        Section("Work");
        var employed = Answer("employed", "Wages from an employer?").UsuallyYes().Required();
        var commuting = Answer("commuting", "Ways to work?").Required();
        var homeOffice = Answer("home-office", "Days of work at home, or a workroom?").Required();
        var tools = Answer("tools", "Tools, training, applications, dues or other costs of work?").Required();
        var travel = Answer("travel", "Travel on duty?").Required();
        var second = Answer("second-household", "A second household where the work is?").Required();
        var moved = Answer("moved", "Moved because of work?").OfOneYear().Required();
        var benefits = Answer("benefits", "Benefits in place of wages?").Required().Hint("unemployment, sickness, parental, short-time");
        Taxpayer = new Person(null, employed, commuting, homeOffice, tools, travel, second, moved, benefits);

        Section("Family and life");
        Children = Answer("children", "Children?").Required();
        Donations = Answer("donations", "Donations, or gifts to parties?").Required();
        Maintenance = Answer("maintenance", "Maintenance paid to a divorced or separated spouse?").Required();
        FirstTraining = Answer("first-training", "First vocational training or first degree?").Required();
        OwnInsurance = Answer("own-insurance", "Liability, accident, life or old-age insurance of one's own?").Required();
        SubsidisedPension = Answer("subsidised-pension", Glossary.In("Subsidised private pension") + "?").Required().Hint("a certified contract with allowances");
        Burdens = Answer("burdens", "Ill, disabled, caring, or supporting a relative?").Required();
        HouseholdWork = Answer("household-work", "Household help, craftsmen, or a statement of running costs?").Required();
        Capital = Answer("capital", Glossary.In("Capital income") + " to look at?").Required().Hint("tax or church tax not withheld, allowance not used up, or a low income");
        OtherIncome = Answer("other-income", "Other income?").Required().Hint("rent, pension, business: its result, as worked out");
        Prepayments = Answer("prepayments", Glossary.In("Prepayments") + " set and paid?").Required();

        Compulsory = Choice("compulsory", "Another reason why the return is compulsory", [
            new("none", "None"), new("allowance", "An allowance registered for withholding"), new("provident", "Minimum provident allowance in withholding too high"),
            new("new-employer", "Bonus of a new employer without the wages before (letter S)"), new("remarried", "Divorced or widowed, and married again in the year"),
            new("apart", "Allowances split between parents apart"), new("asked", "Asked by the authority to file"),
        ]).OfOneYear().Law("EStG s. 46(2) no. 3 to 6, AO s. 149(1)").Hint("a disability or child allowance alone is none");

        Section("The spouse", "EStG s. 26b", Joint);
        Spouse = new Person(
            Joint,
            Answer("spouse-employed", "Spouse: wages from an employer?").Required(),
            Answer("spouse-commuting", "Spouse: ways to work?").Required(),
            Answer("spouse-home-office", "Spouse: days of work at home, or a workroom?").Required(),
            Answer("spouse-tools", "Spouse: tools, training or other costs of work?").Required(),
            Answer("spouse-travel", "Spouse: travel on duty?").Required(),
            Answer("spouse-second-household", "Spouse: a second household where the work is?").Required(),
            Answer("spouse-moved", "Spouse: moved because of work?").OfOneYear().Required(),
            Answer("spouse-benefits", "Spouse: benefits in place of wages?").Required());

        Error("not-resident", resident.IsFilled() & !resident, "Somebody who came or left in the year, or lives abroad, files another return, which is not covered here.", resident);
    }
}
