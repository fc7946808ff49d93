using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>Special expenses: church tax, donations, maintenance, first training, childcare and school fees (EStG s. 10, 10b, 10c).</summary>
public sealed class SpecialForm : Form
{
    private sealed record Gift(ChoiceLine Kind, AmountLine Amount);

    /// <summary>Special expenses deducted; church tax refunded beyond what was paid; gifts to parties that reduce the tax.</summary>
    public readonly AmountLine Allowed, ChurchExcess, PartyCredit;

    /// <summary>Declares the form.</summary>
    public SpecialForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, (WageForm Own, WageForm Spouse) wages, ChildrenForm children, Amount totalIncome)
        : base(definition, "special", "Special expenses", "Church tax, donations, maintenance, first training (Sonderausgaben); children's costs come from their page.")
    {
        var persons = If(scope.Joint, 2, 1);
        Section(Glossary.In("Church tax"), "EStG s. 10(1) no. 4, 10(4b)", name: "church");
        var paidDirectly = Entry("church-paid", "Church tax paid in the year, besides what employers withheld").From("notices, statements of account");
        var refunded = Entry("church-refunded", "Church tax refunded in the year").From("notices");
        var paid = Line("church-tax", "Church tax paid", wages.Own.ChurchTax + wages.Own.SpouseChurchTax + wages.Spouse.ChurchTax + wages.Spouse.SpouseChurchTax + paidDirectly);
        var net = Line("church-net", "Church tax less refunds", AtLeastZero(paid - refunded)).Law("EStG s. 10(1) no. 4");
        ChurchExcess = Line("church-excess", "Refunded beyond what was paid, added to the income", AtLeastZero(refunded - paid)).Law("EStG s. 10(4b) s. 3");
        Warn("church-excess", ChurchExcess > 0, $"More church tax was refunded than paid: {ChurchExcess} is added to the income.", refunded);

        var gifts = Repeating("gifts", Glossary.In("Donations"), "gift", row =>
        {
            row.NamedBy(row.Text("recipient", "Recipient").From("receipt").Required());
            var kind = row.Choice("kind", "Kind", [new("charity", "Charity"), new("party", "Political party"), new("voters", "Voters' group")]).Required();
            var amount = row.Entry("amount", "Amount").From("receipt").Required();
            var proof = row.Choice("proof", "Proof", [new("receipt", "Receipt of the recipient"), new("statement", "Bank statement")]).Required();
            row.Warn("proof", proof.Is("statement") & amount > law.SimpleProof, $"A gift above {law.SimpleProof} needs a receipt of the recipient.", proof);
            return new Gift(kind, amount);
        }, "EStG s. 10b, 34g", scope.Donations);
        Section("Donations and gifts in all", "EStG s. 10b, 34g", scope.Donations, "donations");
        var before = Entry("donations-before", "Donations carried forward from earlier years").OfOneYear().From("separate notice").TiedTo(new TiedReturn(IndividualReturn.ReturnId, 1).Line($"{Key}.donations-left"));
        var charity = Line("donations", "Donations with those carried forward", gifts.Sum(g => g.Amount, g => g.Kind.Is("charity")) + before);
        var donations = Line("donations-allowed", "Donations deducted", Min(charity, law.DonationShare * AtLeastZero(totalIncome)), ToCents).Law("EStG s. 10b(1)");
        var left = Line("donations-left", "Donations carried forward", charity - donations).Law("EStG s. 10b(1) s. 9");
        var most = law.PartyGifts * persons;
        var parties = Line("parties", "Gifts to parties", gifts.Sum(g => g.Amount, g => g.Kind.Is("party")));
        var voters = Line("voters", "Gifts to voters' groups", gifts.Sum(g => g.Amount, g => g.Kind.Is("voters")));
        PartyCredit = Line("party-credit", "Gifts that reduce the tax", (law.PartyShare * Min(parties, most)) + (law.PartyShare * Min(voters, most))).Law("EStG s. 34g");
        var partyExpense = Line("party-expense", "Gifts to parties beyond that, deducted", Min(AtLeastZero(parties - most), most)).Law("EStG s. 10b(2)");
        Warn("donations-carried", left > 0, $"Donations above {law.DonationShare} of the total income: {left} is carried forward.", charity);
        Note("parties", PartyCredit > 0, $"Half of the gifts to parties reduces the tax directly: {PartyCredit}.", parties);

        Section(Glossary.In("Maintenance of a divorced spouse"), "EStG s. 10(1a) no. 1", scope.Maintenance, "maintenance");
        var maintenance = Entry("maintenance", "Maintenance paid").From("statements of account").RequiredWhen(scope.Maintenance);
        var insurance = Entry("maintenance-insurance", "Recipient's basic health and care insurance paid");
        Identifier("maintenance-recipient", "Recipient's identification number", GermanyIdentifiers.Person).From("consent form").RequiredWhen(maintenance > 0);
        var consent = Answer("maintenance-consent", "Recipient's consent for the year?").From("consent form").RequiredWhen(maintenance > 0);
        var maintained = Line("maintenance-allowed", "Maintenance deducted", If(consent, Min(maintenance, law.MaintenanceMost + insurance), 0)).Law("EStG s. 10(1a) no. 1");
        Warn("no-consent", maintenance > 0 & consent.IsFilled() & !consent, "The deduction needs the recipient's consent; without it nothing is deducted.", consent);

        Section("First training", "EStG s. 10(1) no. 7", scope.FirstTraining, "first-training");
        var training = Entry("training", "First vocational training or degree").From("invoices").RequiredWhen(scope.FirstTraining);
        var spouseTraining = Entry("spouse-training", "The spouse's").From("invoices").When(scope.Joint);
        var trained = Line("training-allowed", "First training deducted", Min(training, law.FirstTraining) + Min(spouseTraining, law.FirstTraining)).Law("EStG s. 10(1) no. 7");

        Section("Special expenses in all", "EStG s. 10, 10c", name: "all");
        var sum = Line("sum", "Special expenses", net + donations + partyExpense + maintained + trained + children.Care + children.School);
        var lump = Line("lump-sum", "Lump sum", law.SpecialLumpSum * persons).Law("EStG s. 10c");
        Allowed = Line("allowed", Glossary.In("Special expenses") + " deducted", Max(sum, lump)).Final();
    }
}
