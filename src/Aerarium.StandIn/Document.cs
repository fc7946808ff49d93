using System.Globalization;
using System.Xml;
using Aerarium.Filing;

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

    /// <summary>Credits that nothing the authority has accepted stands behind; none where it does not ask.</summary>
    IEnumerable<Reason> Unsupported(Document document, AcceptedBefore accepted) => [];
}

/// <summary>What arrived as one submission.</summary>
/// <param name="Return">The return.</param>
/// <param name="Beside">Files that came with it, by name; none where the return came alone.</param>
/// <param name="InPackage">Whether the return is one of several files.</param>
public sealed record Received(XmlElement Return, IReadOnlyDictionary<string, XmlElement> Beside, bool InPackage)
{
    /// <summary>Opens a document.</summary>
    /// <exception cref="XmlException">It is not well-formed.</exception>
    /// <exception cref="FormatException">It is not well-formed, or several files are not as their manifest says.</exception>
    public static Received Open(byte[] document)
    {
        if (EReturnFormat.Of(document) != EReturnFormat.Package)
        {
            return new Received(EReturnFormat.Of(document) == EReturnFormat.Json ? JsonEReturn.Read(document) : Root(document), new Dictionary<string, XmlElement>(), InPackage: false);
        }

        var files = EReturnPackage.Files(document).ToDictionary(f => f.Key, f => Root(f.Value));
        return files.Remove(EReturnPackage.ReturnFile, out var filed) ? new Received(filed, files, InPackage: true) : throw new FormatException("There is no return among the files.");
    }

    private static XmlElement Root(byte[] xml) => SchemaCheck.Read(xml).DocumentElement!;
}

/// <summary>A document received, read by paths of element names; what the return has not is looked for in the files that came with it.</summary>
public sealed class Document(Received received, DocumentHeader header, string ofReturn)
{
    /// <summary>Country and return.</summary>
    public string Return => ofReturn;

    /// <summary>The period of the year; empty for the whole year.</summary>
    public string Period => header.Quarter is { } quarter ? $"Q{Text(quarter)}" : header.End is { } end ? Text(end) ?? "" : "";

    /// <summary>Where the header stands.</summary>
    public DocumentHeader Header => header;

    /// <summary>The full path of an element, as reasons name it.</summary>
    public string Path(string path)
    {
        var (file, root) = At(path);
        return received.InPackage ? EReturnPackage.PathIn(file, $"/{root.LocalName}/{path}") : $"/{root.LocalName}/{path}";
    }

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
            (IEnumerable<XmlElement>)[At(path).Root],
            (elements, name) => elements.SelectMany(e => Children(e, name)));

    /// <summary>The file a path is in, by its first element.</summary>
    private (string File, XmlElement Root) At(string path)
    {
        var first = path.Split('/')[0];
        var beside = Children(received.Return, first).Any() ? default : received.Beside.FirstOrDefault(f => Children(f.Value, first).Any());
        return beside.Value is null ? (EReturnPackage.ReturnFile, received.Return) : (beside.Key, beside.Value);
    }

    private static IEnumerable<XmlElement> Children(XmlElement of, string name) => of.ChildNodes.OfType<XmlElement>().Where(c => c.LocalName == name);
}
