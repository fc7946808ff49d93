using System.Globalization;

namespace Aerarium.StandIn.Philippines;

/// <summary>
/// Whether the credits of a return are in what the Philippines' simulated authority has accepted before: tax withheld in the list of its quarter,
/// what was paid and withheld earlier in the quarterly returns. Lists are in centavos and returns in whole pesos, so that less than a peso is no difference.
/// </summary>
internal static class SupportedCredits
{
    private const string Lists = "ph/withholding-credits", Quarters = "ph/individual-quarterly";

    /// <summary>The credits of one column that are more than what was accepted.</summary>
    /// <param name="document">The return.</param>
    /// <param name="accepted">What was accepted before.</param>
    /// <param name="column">The column: empty, or the spouse's with a stroke behind it.</param>
    /// <param name="quarter">The quarter whose list has to be there: the return's own, or the fourth.</param>
    /// <param name="lines">Where the credits stand: withheld in that quarter, paid for the quarters before it, withheld in them.</param>
    public static IEnumerable<Reason> Missing(Document document, AcceptedBefore accepted, string column, int quarter, (string Withheld, string PaidBefore, string WithheldBefore) lines)
    {
        var payer = document.Text("Taxpayer/Tin") ?? "";
        var own = column.Length == 0 ? payer : document.Text($"{column}Tin") ?? "";
        var year = int.Parse(document.Text("Header/TaxableYear")!, CultureInfo.InvariantCulture);
        var (paidBefore, withheldBefore) = (0m, 0m);
        foreach (var earlier in Enumerable.Range(1, quarter - 1).Select(q => $"Q{q}"))
        {
            var (paid, withheld) = accepted.Return(Quarters, payer, year, earlier) is { } filed
                ? (Math.Max(0, filed.Amount($"{column}Computation/Balance")), filed.Amount($"{column}Computation/WithheldThisQuarter"))
                : accepted.Elsewhere(own, year, earlier) is { } elsewhere ? (elsewhere.Payable, elsewhere.Withheld)
                : (0, 0);
            (paidBefore, withheldBefore) = (paidBefore + paid, withheldBefore + withheld);
        }

        var listed = accepted.List(Lists, own, year, $"Q{quarter}")?.Tax ?? accepted.Elsewhere(own, year, $"Q{quarter}")?.Withheld ?? 0;
        (string Name, decimal Accepted, string Says)[] credits =
        [
            (lines.Withheld, listed, $"the accepted list of tax withheld of quarter {quarter} shows"),
            (lines.PaidBefore, paidBefore, "the accepted returns of the quarters before show"),
            (lines.WithheldBefore, withheldBefore, "the accepted returns of the quarters before show"),
        ];
        foreach (var (name, shown, says) in credits)
        {
            var path = $"{column}Computation/{name}";
            if (document.Amount(path) - shown >= 1)
            {
                yield return new Reason("CREDIT", document.Path(path), string.Create(CultureInfo.InvariantCulture, $"{document.Amount(path):0.00} is claimed; {says} {shown:0.00}."));
            }
        }
    }
}
