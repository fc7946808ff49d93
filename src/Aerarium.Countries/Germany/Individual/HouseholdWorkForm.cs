using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>Household help and craftsmen, a fifth of which reduces the tax (EStG s. 35a).</summary>
public sealed class HouseholdWorkForm : Form
{
    private sealed record Work(ChoiceLine Kind, AmountLine Counted);

    /// <summary>The credit before it meets the tax.</summary>
    public readonly AmountLine Credit;

    /// <summary>Declares the form.</summary>
    public HouseholdWorkForm(Definition definition, IncomeTaxLaw law, ScopeForm scope)
        : base(definition, "household", "Household work", "Household help, services and craftsmen; of invoices only labour, travel and machines.", scope.HouseholdWork)
    {
        var work = Repeating("work", "Work in the household", "invoice", row =>
        {
            var kind = row.Choice("kind", "Kind", [new("mini-job", "Mini-job in the household"), new("service", Glossary.In("Household services")), new("craftsman", Glossary.In("Craftsmen"))]).Required();
            row.NamedBy(row.Text("payee", "Paid to, and what for").From("invoice, statement of running costs").Required());
            row.Date("date", "Paid on").From("statement of account").Required();
            var total = row.Entry("total", "Invoice in all").From("invoice").Required();
            var labour = row.Entry("labour", "of which labour, travel and machines").From("invoice").RequiredWhen(kind.Is("craftsman"));
            var account = row.Answer("account", "Paid to an account?").Required().Hint("or certified in the statement of running costs");
            row.Error("labour-above", labour > total & total.IsFilled(), "The labour is more than the invoice.", labour);
            row.Warn("cash", account.IsFilled() & !account & !kind.Is("mini-job"), "Cash payments give no credit.", account);
            row.Warn("labour-unclear", kind.Is("craftsman") & labour.IsFilled() & (labour.Equals(0) | labour >= total), "Only labour counts, not material; check the invoice.", labour);
            return new Work(kind, row.Line("counted", "Counts", If(account | kind.Is("mini-job"), If(kind.Is("craftsman"), labour, labour.Or(total)), 0)));
        }, "EStG s. 35a(1) to (5)");

        Section("Credit", "EStG s. 35a");
        AmountLine Of(string name, string label, string kind, Parameter most, string section) => Line(name, label, Min(law.HouseholdShare * work.Sum(w => w.Counted, w => w.Kind.Is(kind)), most), ToCents).Law(section);
        var miniJob = Of("mini-job", "Mini-job", "mini-job", law.MiniJobMost, "EStG s. 35a(1)");
        var services = Of("services", Glossary.In("Household services"), "service", law.ServicesMost, "EStG s. 35a(2)");
        var craftsmen = Of("craftsmen", Glossary.In("Craftsmen"), "craftsman", law.CraftsmenMost, "EStG s. 35a(3)");
        Credit = Line("credit", "Credit for household work", miniJob + services + craftsmen).Final();
        Error("no-work", scope.HouseholdWork & work.RowCount.Equals(0), "Enter each invoice, or answer in Scope that there is none.", scope.HouseholdWork);
        Note("at-most", services >= law.ServicesMost | craftsmen >= law.CraftsmenMost, "A credit stops at its maximum; the rest is lost. A payment in the next year counts there.", Credit);
    }
}
