using System.Globalization;

namespace Aerarium.StandIn.Philippines;

/// <summary>A list received: a record that names it, certificates, totals.</summary>
public sealed class ReceivedList(IReadOnlyList<IReadOnlyDictionary<string, string>> records)
{
    /// <summary>The records in order.</summary>
    public IReadOnlyList<IReadOnlyDictionary<string, string>> Records => records;

    /// <summary>Whose income it is.</summary>
    public string Payee => records.Count > 0 ? records[0]["tin"] : "";

    /// <summary>The payee's name.</summary>
    public string PayeeName => records.Count > 0 ? records[0]["name"] : "";

    /// <summary>original or amended.</summary>
    public string Kind => records.Count > 0 ? records[0]["kind"] : "";

    /// <summary>The tax of the list, as its record of totals says; zero without one.</summary>
    public decimal Tax => records.Count > 0 && decimal.TryParse(records[^1].GetValueOrDefault("tax"), NumberStyles.Number, CultureInfo.InvariantCulture, out var tax) ? tax : 0;

    /// <summary>The quarter: Q1 to Q4.</summary>
    public string Quarter => records.Count > 0 ? records[0]["period"].Split('-')[^1] : "";
}

/// <summary>What the Philippines' simulated authority asks of a list of tax withheld beside its layout.</summary>
public static class WithholdingCreditsRules
{
    private const int OwnDigits = 9;

    /// <summary>The reasons against a list; none when it is sound.</summary>
    public static IEnumerable<Reason> Examine(ReceivedList list)
    {
        var records = list.Records;
        if (records.Count < 3 || records[0]["record"] != "list" || records[^1]["record"] != "totals" || records.Skip(1).SkipLast(1).Any(r => r["record"] != "certificate"))
        {
            yield return new Reason("RECORDS", null, "A list has one record that names it, at least one certificate and one record of totals, in this order.");
            yield break;
        }

        var certificates = records.Skip(1).SkipLast(1).ToList();
        foreach (var (index, certificate) in certificates.Index())
        {
            var path = $"/{index + 2}";
            if (Number(certificate["sequence"]) != index + 1)
            {
                yield return new Reason("SEQUENCE", $"{path}/sequence", $"Details are numbered from 1 without gaps; {index + 1} was expected.");
            }

            if (certificate["tin"].Length < OwnDigits || certificate["code"].Length == 0 || certificate["tax"].Length == 0 || certificate["income"].Length == 0)
            {
                yield return new Reason("CERTIFICATE", $"{path}/code", "A certificate needs the payer's number, a code, the income payment and the tax.");
            }
            else if (string.CompareOrdinal(certificate["tin"], 0, list.Payee, 0, OwnDigits) == 0)
            {
                yield return new Reason("PAYER", $"{path}/tin", "The payer cannot be the payee.");
            }
            else if (Number(certificate["tax"]) > Number(certificate["income"]))
            {
                yield return new Reason("AMOUNT", $"{path}/tax", "The tax is more than the income payment.");
            }

            if (certificate["period"] != records[0]["period"])
            {
                yield return new Reason("PERIOD", $"{path}/period", "A certificate belongs to another quarter than the list.");
            }
        }

        var totalled = records[^1];
        (string Column, decimal Expected)[] totals = [("sequence", certificates.Count), ("income", certificates.Sum(d => Number(d["income"]))), ("tax", certificates.Sum(d => Number(d["tax"])))];
        foreach (var (column, expected) in totals)
        {
            if (Number(totalled[column]) != expected)
            {
                yield return new Reason("TOTALS", $"/{records.Count}/{column}", string.Create(CultureInfo.InvariantCulture, $"The totals say {totalled[column]}; the certificates come to {expected}."));
            }
        }
    }

    private static decimal Number(string text) => decimal.TryParse(text, NumberStyles.Number, CultureInfo.InvariantCulture, out var number) ? number : 0;
}
