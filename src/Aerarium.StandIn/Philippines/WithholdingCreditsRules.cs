using System.Globalization;

namespace Aerarium.StandIn.Philippines;

/// <summary>A list received: a header record, details, a control record.</summary>
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
        if (records.Count < 3 || records[0]["record"] != "H" || records[^1]["record"] != "C" || records.Skip(1).SkipLast(1).Any(r => r["record"] != "D"))
        {
            yield return new Reason("RECORDS", null, "A list has one header record, at least one detail and one control record, in this order.");
            yield break;
        }

        var details = records.Skip(1).SkipLast(1).ToList();
        foreach (var (index, detail) in details.Index())
        {
            var path = $"/{index + 2}";
            if (Number(detail["sequence"]) != index + 1)
            {
                yield return new Reason("SEQUENCE", $"{path}/sequence", $"Details are numbered from 1 without gaps; {index + 1} was expected.");
            }

            if (detail["tin"].Length < OwnDigits || detail["code"].Length == 0 || detail["tax"].Length == 0 || detail["income"].Length == 0)
            {
                yield return new Reason("DETAIL", $"{path}/code", "A detail needs the payer's number, a code, the income payment and the tax.");
            }
            else if (string.CompareOrdinal(detail["tin"], 0, list.Payee, 0, OwnDigits) == 0)
            {
                yield return new Reason("PAYER", $"{path}/tin", "The payer cannot be the payee.");
            }
            else if (Number(detail["tax"]) > Number(detail["income"]))
            {
                yield return new Reason("AMOUNT", $"{path}/tax", "The tax is more than the income payment.");
            }

            if (detail["period"] != records[0]["period"])
            {
                yield return new Reason("PERIOD", $"{path}/period", "A detail belongs to another quarter than the list.");
            }
        }

        var control = records[^1];
        (string Column, decimal Expected)[] totals = [("sequence", details.Count), ("income", details.Sum(d => Number(d["income"]))), ("tax", details.Sum(d => Number(d["tax"])))];
        foreach (var (column, expected) in totals)
        {
            if (Number(control[column]) != expected)
            {
                yield return new Reason("CONTROL", $"/{records.Count}/{column}", string.Create(CultureInfo.InvariantCulture, $"The control record says {control[column]}; the details come to {expected}."));
            }
        }
    }

    private static decimal Number(string text) => decimal.TryParse(text, NumberStyles.Number, CultureInfo.InvariantCulture, out var number) ? number : 0;
}
