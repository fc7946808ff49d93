using System.Xml;
using Aerarium.Core.Identifiers;
using Aerarium.Filing;
using Aerarium.StandIn.Kenya;
using Aerarium.StandIn.Philippines;

namespace Aerarium.StandIn;

/// <summary>What the examination of a document found.</summary>
public sealed record Examination(string? Pin, string? Year, string? Kind, IReadOnlyList<Reason> Reasons);

/// <summary>
/// The authority's own rules, written apart from the product's: schema, signature, identifier and name, duplicate
/// original, arithmetic of the document.
/// </summary>
public sealed class Examiner(Registry registry, PublishedSchemas schemas)
{
    private const string Namespaces = "urn:aerarium:standin:";

    private static readonly Dictionary<string, IDocumentRules> RulesByReturn = new()
    {
        ["ke/employment-income"] = new EmployeeReturnRules(),
        ["ph/individual-annual"] = new IndividualAnnualRules(),
    };

    /// <summary>Examines a document.</summary>
    public Examination Examine(byte[] document, Archive archive)
    {
        XmlDocument read;
        try
        {
            read = SchemaCheck.Read(document);
        }
        catch (XmlException problem)
        {
            return new Examination(null, null, null, [new Reason("XML", null, $"The document is not well-formed XML: {problem.Message}")]);
        }

        var root = read.DocumentElement!;
        var published = root.NamespaceURI.StartsWith(Namespaces, StringComparison.Ordinal) ? root.NamespaceURI[Namespaces.Length..].Replace(':', '/') : "none";
        if (schemas.Text($"{published}.xsd") is not { } schema || !RulesByReturn.TryGetValue(published[..published.LastIndexOf('/')], out var rules))
        {
            return new Examination(null, null, null, [new Reason("SCHEMA", null, $"No schema is published for '{root.NamespaceURI}'.")]);
        }

        var faults = new SchemaCheck(schema).Faults(document);
        var content = new Document(root, rules.Header);
        if (faults.Count > 0)
        {
            return content.Examined([.. faults.Select(f => new Reason("SCHEMA", f.Path, f.Detail))]);
        }

        return content.Examined([.. Signature(read, content), .. Identity(content), .. Duplicate(content, archive), .. rules.Arithmetic(content)]);
    }

    private IEnumerable<Reason> Signature(XmlDocument read, Document document)
    {
        var signer = XmlSignature.Signer(read);
        if (signer is null)
        {
            yield return new Reason("SIGNATURE", null, "The signature is missing or does not match the document.");
        }
        else if (!registry.IsCertificateOf(document.Text(document.Header.Agent) ?? "", signer))
        {
            yield return new Reason("SIGNATURE", document.Path(document.Header.Agent), "The document is signed with a certificate this agent has not registered.");
        }
    }

    private IEnumerable<Reason> Identity(Document document)
    {
        var pin = IdentifierRule.Normalise(document.Text(document.Header.Identifier) ?? "");
        var taxpayer = registry.Taxpayer(pin);
        if (taxpayer is null)
        {
            yield return new Reason("IDENTIFIER", document.Path(document.Header.Identifier), $"No taxpayer is registered under {pin}.");
        }
        else if (!string.Equals(Words(taxpayer.Name), Words(document.Text(document.Header.Name) ?? ""), StringComparison.OrdinalIgnoreCase))
        {
            yield return new Reason("NAME", document.Path(document.Header.Name), $"The name does not belong to {pin}; give it as registered.");
        }
    }

    private static string Words(string name) => string.Join(' ', name.Split(' ', StringSplitOptions.RemoveEmptyEntries));

    private static IEnumerable<Reason> Duplicate(Document document, Archive archive)
    {
        if (document.Text(document.Header.Kind) != "original")
        {
            yield break;
        }

        var earlier = archive.All.FirstOrDefault(s =>
            s.Acknowledgement is not null && s.Kind == "original"
            && s.Pin == document.Text(document.Header.Identifier) && s.Year == document.Text(document.Header.Year));
        if (earlier is not null)
        {
            yield return new Reason("DUPLICATE", document.Path(document.Header.Kind), $"An original return for this year was accepted as {earlier.Acknowledgement}; file an amended one.");
        }
    }
}
