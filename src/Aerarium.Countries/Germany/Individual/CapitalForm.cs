using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>
/// Capital income: left as it was taxed at source, assessed at the flat rate, or added to the other income and taxed by the tariff (EStG s. 20, 32d). Each half of the saver's allowance that one
/// spouse does not use is the other's.
/// </summary>
public sealed class CapitalForm : Form
{
    private static readonly Rounding CutToCents = new(0.01m, RoundingMode.Down);

    private sealed record Certificate(AmountLine Own, AmountLine OfSpouse, AmountLine All, AmountLine UsedElsewhere, AmountLine Foreign, AmountLine ForeignOfSpouse, AmountLine Tax, AmountLine Surcharge, AmountLine ChurchTax);

    /// <summary>Capital income above the allowance that the tariff taxes: of the taxpayer, of the spouse.</summary>
    public readonly AmountLine ByTariff, ByTariffOfSpouse;

    /// <summary>What is taxed at the flat rate, with the surcharge and church tax on it.</summary>
    public readonly AmountLine Flat, Surcharge, ChurchTax;

    /// <summary>Foreign tax that reduces the tariff's tax on capital income.</summary>
    public readonly AmountLine Foreign;

    /// <summary>Withheld from what is assessed: capital tax to the next euro, surcharge, church tax.</summary>
    public readonly AmountLine Withheld, SurchargeWithheld, ChurchWithheld;

    /// <summary>All capital income above the allowance, and the flat tax and surcharge on it: to hold against the tariff.</summary>
    public readonly AmountLine AllTaxed, AllFlat;

    /// <summary>Whether the tariff is asked for.</summary>
    public Condition AskedForTariff { get; }

    /// <summary>Declares the form.</summary>
    public CapitalForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, TaxpayerForm taxpayer)
        : base(definition, "capital", "Capital income", "Interest, dividends and gains, with what banks withheld; one block for each tax certificate.", scope.Capital)
    {
        var (churchRate, member, spouseMember) = (scope.ChurchRate(law), taxpayer.Member, taxpayer.SpouseMember);
        Section("How it is taxed", "EStG s. 32d(3), (4), (6)", name: "way");
        var way = Choice("way", Glossary.In("Capital income") + ", how it is taxed", [
            new("source", "left as taxed at source; only what was not is assessed"), new("assessed", "all assessed at the flat rate"), new("tariff", "added to the other income, taxed by the tariff"),
        ]).OfOneYear().Required().Elective("can be asked for until the assessment is final; the tariff is for all capital income of both spouses");
        AskedForTariff = way.Is("tariff");

        var certificates = Repeating("certificates", "Tax certificates of banks", "certificate", row =>
        {
            row.NamedBy(row.Text("payer", "Bank or debtor").From("tax certificate").Required());
            var whose = row.Choice("whose", "Whose", [new("taxpayer", "Taxpayer's"), new("spouse", "Spouse's")]).When(scope.Joint).RequiredWhen(scope.Joint);
            var income = row.Entry("income", Glossary.In("Capital income")).From("tax certificate, amount before the allowance").Required();
            var used = row.Entry("used", Glossary.In("Saver's allowance") + " used here").From("tax certificate");
            var foreign = row.Entry("foreign", "Foreign tax that is credited, not credited yet").From("tax certificate").Law("EStG s. 32d(5)");
            var tax = row.Entry("tax", Glossary.In("Capital tax withheld")).From("tax certificate");
            var surcharge = row.Entry("surcharge", Glossary.In("Solidarity surcharge") + " withheld").From("tax certificate");
            var church = row.Entry("church-tax", Glossary.In("Church tax") + " withheld").From("tax certificate");
            var counts = row.Line("counts", "Assessed here", !way.Is("source") | (income > 0 & tax.Equals(0) & used < income)).Law("EStG s. 32d(3), (4)");
            var ofSpouse = scope.Joint & whose.Is("spouse");
            row.Error("allowance-above-income", used > income & income.IsFilled(), "More of the saver's allowance was used than there is income; check the certificate.", used);
            row.Warn("no-church-tax", way.Is("source") & tax > 0 & church.Equals(0) & ((member & !ofSpouse) | (spouseMember & ofSpouse)), "A member of a church, but no church tax was withheld: it is assessed; choose that all is assessed at the flat rate.", church);
            return new Certificate(
                row.Line("own", "Taxpayer's, assessed here", If(counts & !ofSpouse, income, 0)),
                row.Line("of-spouse", "Spouse's, assessed here", If(counts & ofSpouse, income, 0)).When(scope.Joint),
                income,
                row.Line("used-elsewhere", "Allowance used, not assessed here", If(counts, 0, used)),
                row.Line("foreign-own", "Foreign tax, taxpayer's", If(counts & !ofSpouse, foreign, 0)),
                row.Line("foreign-of-spouse", "Foreign tax, spouse's", If(counts & ofSpouse, foreign, 0)).When(scope.Joint),
                row.Line("tax-counted", "Capital tax credited", If(counts, tax, 0)),
                row.Line("surcharge-counted", "Surcharge credited", If(counts, surcharge, 0)),
                row.Line("church-counted", "Church tax credited", If(counts, church, 0)));
        }, "EStG s. 20, 45a");

        var persons = If(scope.Joint, 2, 1);
        Section(Glossary.In("Saver's allowance"), "EStG s. 20(9)", name: "allowance");
        var left = Line("allowance-left", "Allowance left for what is assessed", AtLeastZero((law.SaverAllowance * persons) - certificates.Sum(c => c.UsedElsewhere))).Law("EStG s. 20(9)");
        var own = Line("own", "Capital income of the taxpayer", certificates.Sum(c => c.Own));
        var spouse = Line("of-spouse", "Capital income of the spouse", certificates.Sum(c => c.OfSpouse)).When(scope.Joint);
        var ownTaxed = Line("own-taxed", "Taxpayer's above the allowance", Above(own, spouse)).Law("EStG s. 20(9) s. 3");
        var spouseTaxed = Line("spouse-taxed", "Spouse's above the allowance", Above(spouse, own)).Law("EStG s. 20(9) s. 3").When(scope.Joint);
        AllTaxed = Line("all-taxed", "All capital income above the whole allowance", AtLeastZero(certificates.Sum(c => c.All) - (law.SaverAllowance * persons))).Hint("assessed here or not");

        Section(Glossary.In("Tax on capital income"), "EStG s. 32d(1)", name: "flat");
        var (foreign, foreignOfSpouse) = (Line("foreign-own", "Foreign tax, taxpayer's", certificates.Sum(c => c.Foreign)), Line("foreign-of-spouse", "Foreign tax, spouse's", certificates.Sum(c => c.ForeignOfSpouse)).When(scope.Joint));
        var flat = Line("flat-own", "Tax at the flat rate, taxpayer's", If(AskedForTariff, 0, FlatOn(ownTaxed, foreign, member)), CutToCents).Law("EStG s. 32d(1) s. 3 to 5");
        var spouseFlat = Line("flat-of-spouse", "Tax at the flat rate, spouse's", If(AskedForTariff, 0, FlatOn(spouseTaxed, foreignOfSpouse, spouseMember)), CutToCents).Law("EStG s. 32d(1) s. 3 to 5").When(scope.Joint);
        Flat = Line("flat", Glossary.In("Tax on capital income"), flat + spouseFlat).Subtotal();
        Surcharge = Line("surcharge", Glossary.In("Solidarity surcharge") + " on it", law.SurchargeRate * Flat, CutToCents).Law("SolZG s. 3(3) s. 2: without a limit");
        ChurchTax = Line("church-tax", Glossary.In("Church tax") + " on it", churchRate * (If(member, flat, 0) + If(spouseMember, spouseFlat, 0)), CutToCents).Law("EStG s. 51a(2b)");
        AllFlat = Line("all-flat", "Tax at the flat rate and surcharge on all of it", (1 + new ParameterValue(law.SurchargeRate)) * FlatOn(AllTaxed, foreign + foreignOfSpouse, member), CutToCents).Hint("to hold against the tariff");

        Section("Taxed by the tariff, and tax withheld", "EStG s. 32d(6), 36(2)", name: "credits");
        ByTariff = Line("by-tariff", "Taxpayer's capital income taxed by the tariff", If(AskedForTariff, ownTaxed, 0)).Law("EStG s. 32d(6)");
        ByTariffOfSpouse = Line("by-tariff-of-spouse", "Spouse's capital income taxed by the tariff", If(AskedForTariff, spouseTaxed, 0)).Law("EStG s. 32d(6)").When(scope.Joint);
        Foreign = Line("foreign", "Foreign tax, to be credited on the tariff's tax", If(AskedForTariff, foreign + foreignOfSpouse, 0)).Law("EStG s. 32d(6) s. 2");
        Withheld = Line("withheld", Glossary.In("Capital tax withheld") + ", to the next euro", certificates.Sum(c => c.Tax), new Rounding(1m, RoundingMode.Up)).Law("EStG s. 36(3)");
        SurchargeWithheld = Line("surcharge-withheld", Glossary.In("Solidarity surcharge") + " withheld", certificates.Sum(c => c.Surcharge));
        ChurchWithheld = Line("church-withheld", Glossary.In("Church tax") + " withheld", certificates.Sum(c => c.ChurchTax));

        Error("no-certificate", scope.Capital & certificates.RowCount.Equals(0), "Enter each tax certificate, or answer in Scope that there is no capital income to look at.", scope.Capital);
        var unused = AtLeastZero(Min(certificates.Sum(c => c.All), law.SaverAllowance * persons) - certificates.Sum(c => c.UsedElsewhere));
        Note("allowance-unused", way.Is("source") & unused > 0 & certificates.Sum(c => c.UsedElsewhere) < certificates.Sum(c => c.All), $"The saver's allowance was not used up: {unused} more of it counts when all is assessed at the flat rate.", way);

        Amount Above(Amount income, Amount ofOther) =>
            AtLeastZero(income - If(scope.Joint, (left / 2) + AtLeastZero((left / 2) - ofOther), left));

        Amount FlatOn(Amount taxed, Amount foreignTax, Condition ofMember) =>
            AtLeastZero(taxed - (law.CapitalDivisor * foreignTax)) / (law.CapitalDivisor + If(ofMember, churchRate, 0));
    }
}
