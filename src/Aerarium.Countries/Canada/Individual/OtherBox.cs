using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>A box of a slip that has no line of its own on a page: kept as the slip has it, and counted as what it is.</summary>
/// <param name="Income">Counted as income of the page.</param>
/// <param name="Tax">Counted as tax deducted.</param>
internal sealed record OtherBox(AmountLine Income, AmountLine Tax)
{
    /// <summary>Declares the columns of such a row.</summary>
    /// <param name="row">The row.</param>
    /// <param name="page">Key of the page, by which its finding is known.</param>
    /// <param name="income">What income of the page is, with its line.</param>
    public static OtherBox In(RowScope row, string page, string income)
    {
        row.NamedBy(row.Text("payer", "Payer").From("slip").Required());
        var box = row.Text("box", "Box").From("slip, number of the box").Required();
        var amount = row.Entry("amount", "Amount").From("slip").Required();
        var counts = row.Choice("counts", "Counts as", [new("income", income), new("tax", "Tax deducted, line 43700"), new("nothing", "Nothing: kept for the file")]).Required();
        row.Error($"{page}-box-twice", row.RepeatsEarlier(box, amount), "This box is entered twice: same number, same amount.", box);
        return new OtherBox(
            row.Line("income", "Income", If(counts.Is("income"), amount, 0)),
            row.Line("tax", "Tax deducted", If(counts.Is("tax"), amount, 0)).Law("line 43700"));
    }
}
