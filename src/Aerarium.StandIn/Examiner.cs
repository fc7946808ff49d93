using System.Globalization;
using System.Security.Cryptography.X509Certificates;
using System.Xml;
using Aerarium.Core.Identifiers;
using Aerarium.Filing;
using Aerarium.StandIn.Barbados;
using Aerarium.StandIn.Canada;
using Aerarium.StandIn.Philippines;

namespace Aerarium.StandIn;

/// <summary>What the examination of a document found.</summary>
public sealed record Examination(string Return, string? Pin, string? Year, string Period, string? Kind, IReadOnlyList<Reason> Reasons)
{
    /// <summary>A document of which nothing could be read.</summary>
    public static Examination Unreadable(Reason reason) => new("", null, null, "", null, [reason]);
}

/// <summary>
/// The authority's own rules, written apart from the product's: schema, signature, identifier and name, duplicate
/// original, arithmetic of the document.
/// </summary>
public sealed class Examiner(Registry registry, PublishedSchemas schemas)
{
    private const string Namespaces = "urn:aerarium:standin:";

    private readonly Dictionary<string, IDocumentRules> _rulesByReturn = new()
    {
        ["bb/individual"] = new ResidentReturnRules(),
        ["ca/individual"] = new IndividualReturnRules(),
        ["ca/company"] = new CompanyReturnRules(),
        ["ca/company-alberta"] = new AlbertaReturnRules(registry),
        ["de/individual"] = new Germany.EmployeeReturnRules(),
        ["ke/employment-income"] = new Kenya.EmployeeReturnRules(),
        ["ph/individual-annual"] = new IndividualAnnualRules(),
        ["ph/individual-quarterly"] = new IndividualQuarterlyRules(),
        ["ph/percentage-tax"] = new PercentageTaxRules(),
    };

    /// <summary>Examines a document.</summary>
    /// <param name="document">The document: XML, JSON, or several files in one zip.</param>
    /// <param name="archive">What arrived before.</param>
    /// <param name="signature">For JSON and several files: the detached signature that came beside it.</param>
    public Examination Examine(byte[] document, Archive archive, string? signature = null)
    {
        Received received;
        try
        {
            received = Received.Open(document);
        }
        catch (Exception problem) when (problem is XmlException or FormatException)
        {
            return Examination.Unreadable(new Reason(EReturnFormat.Of(document).Ending.ToUpperInvariant(), null, $"The document is not well-formed: {problem.Message}"));
        }

        var root = received.Return;
        var published = root.NamespaceURI.StartsWith(Namespaces, StringComparison.Ordinal) ? root.NamespaceURI[Namespaces.Length..].Replace(':', '/') : "none";
        var path = published + (IsJson(document) ? JsonSchemaCheck.Ending : ".xsd");
        if (schemas.Text(path) is not { } schema || !_rulesByReturn.TryGetValue(published[..published.LastIndexOf('/')], out var rules))
        {
            return Examination.Unreadable(new Reason("SCHEMA", null, $"No schema is published for '{root.NamespaceURI}'."));
        }

        var faults = PublishedSchema.Of(path, schema).FaultsOf(document);
        var content = new Document(received, rules.Header, published[..published.LastIndexOf('/')]);
        if (content.Text(content.Header.Year) is null)
        {
            return Examination.Unreadable(new Reason("SCHEMA", null, $"The file '{root.LocalName}' is no return."));
        }

        if (faults.Count > 0)
        {
            return content.Examined([.. faults.Select(f => new Reason("SCHEMA", f.Path, f.Detail))]);
        }

        return content.Examined(
        [
            .. Signature(EReturnFormat.Of(document).Signed == EReturnSignature.Beside ? (signature is null ? null : JsonSignature.Signer(signature, document)) : XmlSignature.Signer(root.OwnerDocument), content),
            .. Identity(content.Text(content.Header.Identifier), content.Text(content.Header.Name), content.Path(content.Header.Identifier), content.Path(content.Header.Name)),
            .. Duplicate(content.Examined([]), content.Path(content.Header.Kind), archive),
            .. OldestFirst(content, archive),
            .. rules.Arithmetic(content),
            .. rules.Unsupported(content, new AcceptedBefore(registry, schemas, archive, this)),
        ]);
    }

    /// <summary>What the rules would refuse of a document that is not filed yet; null where the authority checks nothing beforehand.</summary>
    public IReadOnlyList<Reason>? CheckBeforehand(byte[] document, Archive archive)
    {
        var examined = Examine(document, archive);
        return _rulesByReturn.GetValueOrDefault(examined.Return) is { CheckedBeforehand: false } ? null : examined.Reasons;
    }

    /// <summary>A document that was accepted, with what an assessment speaks about; null for a list.</summary>
    public (Document Document, IDocumentRules Rules)? Read(byte[] document)
    {
        if (EReturnFormat.Of(document) == EReturnFormat.DelimitedText)
        {
            return null;
        }

        var received = Received.Open(document);
        var published = received.Return.NamespaceURI[Namespaces.Length..].Replace(':', '/');
        var ofReturn = published[..published.LastIndexOf('/')];
        var rules = _rulesByReturn[ofReturn];
        return (new Document(received, rules.Header, ofReturn), rules);
    }

    /// <summary>Examines a list that came by mail, by the layout published for its kind and year.</summary>
    public Examination ExamineList(byte[] content, string returnId, string year, Archive archive)
    {
        var path = $"{returnId}/{year}{PublishedSchema.TableEnding}";
        if (schemas.Text(path) is not { } layout)
        {
            return Examination.Unreadable(new Reason("LAYOUT", null, $"No layout is published for '{returnId}' of {year}."));
        }

        var table = new TableSchema(layout);
        var faults = table.Faults(content);
        if (faults.Count > 0)
        {
            return new Examination(returnId, null, year, "", null, [.. faults.Take(100).Select(f => new Reason("LAYOUT", f.Path, f.Detail))]);
        }

        var list = new ReceivedList(table.Records(content));
        var examined = new Examination(returnId, list.Payee, year, list.Quarter, list.Kind, []);
        return examined with
        {
            Reasons =
            [
                .. Identity(list.Payee, list.PayeeName, "/1/tin", "/1/name"),
                .. Duplicate(examined, "/1/kind", archive),
                .. WithholdingCreditsRules.Examine(list),
            ],
        };
    }

    private static bool IsJson(byte[] document) => EReturnFormat.Of(document) == EReturnFormat.Json;

    private IEnumerable<Reason> Signature(X509Certificate2? signer, Document document)
    {
        if (signer is null)
        {
            yield return new Reason("SIGNATURE", null, "The signature is missing or does not match the document.");
        }
        else if (!registry.IsCertificateOf(document.Text(document.Header.Agent) ?? "", signer))
        {
            yield return new Reason("SIGNATURE", document.Path(document.Header.Agent), "The document is signed with a certificate this agent has not registered.");
        }
    }

    private IEnumerable<Reason> Identity(string? identifier, string? name, string identifierPath, string namePath)
    {
        var pin = IdentifierRule.Normalise(identifier ?? "");
        var taxpayer = registry.Taxpayer(pin);
        if (taxpayer is null)
        {
            yield return new Reason("IDENTIFIER", identifierPath, $"No taxpayer is registered under {pin}.");
        }
        else if (!string.Equals(Words(taxpayer.Name), Words(name ?? ""), StringComparison.OrdinalIgnoreCase))
        {
            yield return new Reason("NAME", namePath, $"The name does not belong to {pin}; give it as registered.");
        }
    }

    private IEnumerable<Reason> OldestFirst(Document document, Archive archive)
    {
        var year = int.Parse(document.Text(document.Header.Year)!, CultureInfo.InvariantCulture);
        var pin = IdentifierRule.Normalise(document.Text(document.Header.Identifier) ?? "");
        var accepted = archive.All.Where(s => s.Acknowledgement is not null && s.Return == document.Return && s.Pin == pin).Select(s => s.Year).ToHashSet();
        if (registry.Taxpayer(pin)?.Asked.Order().FirstOrDefault(y => y < year && !accepted.Contains(y.ToString(CultureInfo.InvariantCulture))) is { } earlier and > 0)
        {
            yield return new Reason("EARLIER", document.Path(document.Header.Year), $"The return of {earlier} was asked for and has not arrived; file the oldest year first.");
        }
    }

    private static string Words(string name) => string.Join(' ', name.Split(' ', StringSplitOptions.RemoveEmptyEntries));

    private static IEnumerable<Reason> Duplicate(Examination document, string kindPath, Archive archive)
    {
        if (document.Kind != "original")
        {
            yield break;
        }

        var earlier = archive.All.FirstOrDefault(s =>
            s.Acknowledgement is not null && s.Kind == "original"
            && s.Return == document.Return && s.Pin == document.Pin && s.Year == document.Year && s.Period == document.Period);
        if (earlier is not null)
        {
            yield return new Reason("DUPLICATE", kindPath, $"An original return for this period was accepted as {earlier.Acknowledgement}; file an amended one.");
        }
    }
}
