using System.Globalization;
using System.Xml;

namespace Aerarium.StandIn;

/// <summary>Where a published form of return keeps what every return has; paths of element names below the root.</summary>
/// <param name="Identifier">The taxpayer's identifier.</param>
/// <param name="Name">The taxpayer's name.</param>
/// <param name="Year">The year or period.</param>
/// <param name="Kind">original or amended.</param>
/// <param name="Agent">The agent who signs.</param>
/// <param name="Quarter">The quarter, for returns of one; null for the whole year.</param>
public sealed record DocumentHeader(string Identifier, string Name, string Year, string Kind, string Agent, string? Quarter = null)
{
    /// <summary>Where the last day of the period stands, where a year can have several of any length; null otherwise.</summary>
    public string? End { get; init; }
}

/// <summary>What the authority asks of one kind of return beside its schema.</summary>
public interface IDocumentRules
{
    /// <summary>Where the header stands.</summary>
    DocumentHeader Header { get; }

    /// <summary>What an assessment speaks about.</summary>
    AssessedFigures Assessed { get; }

    /// <summary>Whether the authority says before the filing what it would refuse.</summary>
    bool CheckedBeforehand => false;

    /// <summary>What an officer decides otherwise than filed, by path with the reason, and what follows from it; null where there is nothing to decide.</summary>
    IReadOnlyDictionary<string, (decimal Amount, string Reason)>? DecidedByHand(Document document) => null;

    /// <summary>The sums that do not come out.</summary>
    IEnumerable<Reason> Arithmetic(Document document);
}

/// <summary>A document received, read by paths of element names.</summary>
public sealed class Document(XmlElement root, DocumentHeader header, string ofReturn)
{
    /// <summary>Country and return.</summary>
    public string Return => ofReturn;

    /// <summary>The period of the year; empty for the whole year.</summary>
    public string Period => header.Quarter is { } quarter ? $"Q{Text(quarter)}" : header.End is { } end ? Text(end) ?? "" : "";

    /// <summary>Where the header stands.</summary>
    public DocumentHeader Header => header;

    /// <summary>The full path of an element, as reasons name it.</summary>
    public string Path(string path) => $"/{root.LocalName}/{path}";

    /// <summary>Text of the first element at a path, or null.</summary>
    public string? Text(string path) => Find(path).FirstOrDefault()?.InnerText;

    /// <summary>Amount of the first element at a path; zero when there is none.</summary>
    public decimal Amount(string path) => AmountIn(Text(path));

    /// <summary>Sum of one element over all rows at a path.</summary>
    public decimal Sum(string rows, string column) => Find($"{rows}/{column}").Sum(e => AmountIn(e.InnerText));

    /// <summary>Sum of one element over the rows at a path in which another element has a text.</summary>
    public decimal SumWhere(string rows, string column, string other, string text) =>
        Find(rows).Where(r => InRow(r, other) == text).Sum(r => AmountIn(InRow(r, column)));

    /// <summary>Of each row at a path the amounts of some elements, in their order.</summary>
    public IEnumerable<decimal[]> Rows(string rows, params string[] columns) => Find(rows).Select(r => columns.Select(c => AmountIn(InRow(r, c))).ToArray());

    /// <summary>Of each row at a path the text of an element.</summary>
    public IEnumerable<string?> TextsOf(string rows, string column) => Find(rows).Select(r => InRow(r, column));

    /// <summary>A reason for an amount that differs from what the authority computes; null when it agrees.</summary>
    public Reason? Differs(string path, decimal expected, string rule) =>
        Amount(path) == expected
            ? null
            : new Reason(
                "ARITHMETIC", Path(path), string.Create(CultureInfo.InvariantCulture, $"{path[(path.LastIndexOf('/') + 1)..]} is {Amount(path):0.00}; {rule} is {expected:0.00}."));

    internal Examination Examined(IReadOnlyList<Reason> reasons) =>
        new(Return, Text(header.Identifier), Text(header.Year), Period, Text(header.Kind), reasons);

    private static string? InRow(XmlElement row, string column) => row.ChildNodes.OfType<XmlElement>().FirstOrDefault(c => c.LocalName == column)?.InnerText;

    private static decimal AmountIn(string? text) =>
        decimal.TryParse(text, NumberStyles.Number, CultureInfo.InvariantCulture, out var amount) ? amount : 0;

    private IEnumerable<XmlElement> Find(string path) =>
        path.Split('/').Aggregate(
            (IEnumerable<XmlElement>)[root],
            (elements, name) => elements.SelectMany(e => e.ChildNodes.OfType<XmlElement>().Where(c => c.LocalName == name)));
}
