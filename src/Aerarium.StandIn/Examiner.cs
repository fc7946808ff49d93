using System.Globalization;
using System.Xml;
using Aerarium.Core.Identifiers;
using Aerarium.Filing;

namespace Aerarium.StandIn;

/// <summary>What the examination of a document found.</summary>
public sealed record Examination(string? Pin, string? Year, string? Kind, IReadOnlyList<Reason> Reasons);

/// <summary>
/// The authority's own rules, written apart from the product's: schema, signature, identifier and name, duplicate
/// original, arithmetic of the document.
/// </summary>
public sealed class Examiner(Registry registry, PublishedSchemas schemas)
{
    private const string Root = "/EmployeeReturn";

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
        if (schemas.Text(SchemaPathOf(root.NamespaceURI)) is not { } schema)
        {
            return new Examination(null, null, null, [new Reason("SCHEMA", null, $"No schema is published for '{root.NamespaceURI}'.")]);
        }

        var faults = new SchemaCheck(schema).Faults(document);
        var content = new Document(root);
        var pin = content.Text("Taxpayer/Pin");
        var year = content.Text("Header/YearOfIncome");
        var kind = content.Text("Header/Kind");
        if (faults.Count > 0)
        {
            return new Examination(pin, year, kind, [.. faults.Select(f => new Reason("SCHEMA", f.Path, f.Detail))]);
        }

        List<Reason> reasons = [.. Signature(read, content), .. Identity(content), .. Duplicate(content, archive), .. Arithmetic(content)];
        return new Examination(pin, year, kind, reasons);
    }

    private static string SchemaPathOf(string schemaNamespace) =>
        schemaNamespace.StartsWith("urn:aerarium:standin:", StringComparison.Ordinal)
            ? schemaNamespace["urn:aerarium:standin:".Length..].Replace(':', '/') + ".xsd"
            : "none";

    private IEnumerable<Reason> Signature(XmlDocument read, Document document)
    {
        var signer = XmlSignature.Signer(read);
        if (signer is null)
        {
            yield return new Reason("SIGNATURE", null, "The signature is missing or does not match the document.");
        }
        else if (!registry.IsCertificateOf(document.Text("Agent/Pin") ?? "", signer))
        {
            yield return new Reason("SIGNATURE", $"{Root}/Agent/Pin", "The document is signed with a certificate this agent has not registered.");
        }
    }

    private IEnumerable<Reason> Identity(Document document)
    {
        var pin = IdentifierRule.Normalise(document.Text("Taxpayer/Pin") ?? "");
        var taxpayer = registry.Taxpayer(pin);
        if (taxpayer is null)
        {
            yield return new Reason("IDENTIFIER", $"{Root}/Taxpayer/Pin", $"No taxpayer is registered under {pin}.");
        }
        else if (!string.Equals(Words(taxpayer.Name), Words(document.Text("Taxpayer/Name") ?? ""), StringComparison.OrdinalIgnoreCase))
        {
            yield return new Reason("NAME", $"{Root}/Taxpayer/Name", $"The name does not belong to {pin}; give it as registered.");
        }
    }

    private static string Words(string name) => string.Join(' ', name.Split(' ', StringSplitOptions.RemoveEmptyEntries));

    private static IEnumerable<Reason> Duplicate(Document document, Archive archive)
    {
        if (document.Text("Header/Kind") != "original")
        {
            yield break;
        }

        var earlier = archive.All.FirstOrDefault(s =>
            s.Acknowledgement is not null && s.Kind == "original"
            && s.Pin == document.Text("Taxpayer/Pin") && s.Year == document.Text("Header/YearOfIncome"));
        if (earlier is not null)
        {
            yield return new Reason("DUPLICATE", $"{Root}/Header/Kind", $"An original return for this year was accepted as {earlier.Acknowledgement}; file an amended one.");
        }
    }

    private static IEnumerable<Reason> Arithmetic(Document document)
    {
        decimal Sum(string rows, string column) => document.Rows(rows).Sum(row => new Document(row).Amount(column));
        decimal Of(string name) => document.Amount($"Computation/{name}");

        (string Name, decimal Expected, string Rule)[] checks =
        [
            ("Gross", Sum("Employers/Employer", "Gross"), "the sum over employers"),
            ("Deductions", document.Amount("Deductions/RetirementAllowed") + document.Amount("Deductions/InterestAllowed") + document.Amount("Deductions/MedicalAllowed")
                + document.Amount("Deductions/HealthInsurance") + document.Amount("Deductions/HousingLevy"), "the sum of the deductions"),
            ("TaxableIncome", Math.Max(0, Of("Income") - Of("Deductions")), "income less deductions"),
            ("Reliefs", document.Amount("Reliefs/Personal") + document.Amount("Reliefs/Insurance") + document.Amount("Reliefs/Housing") + document.Amount("Reliefs/Medical"), "the sum of the reliefs"),
            ("NetTax", Math.Max(0, Of("Tax") - Of("Reliefs")), "tax less reliefs"),
            ("TaxDeducted", Sum("Employers/Employer", "TaxDeducted"), "the sum over employers"),
            ("AlreadyPaid", Of("TaxDeducted") + Sum("Payments/Payment", "Amount"), "tax deducted and payments"),
            ("Balance", Of("NetTax") - Of("AlreadyPaid"), "net tax less what is already paid"),
        ];
        foreach (var (name, expected, rule) in checks)
        {
            if (Of(name) != expected)
            {
                yield return new Reason(
                    "ARITHMETIC",
                    $"{Root}/Computation/{name}",
                    string.Create(CultureInfo.InvariantCulture, $"{name} is {Of(name):0.00}; {rule} is {expected:0.00}."));
            }
        }
    }

    private sealed class Document(XmlElement root)
    {
        public string? Text(string path) => Find(path).FirstOrDefault()?.InnerText;

        public decimal Amount(string path) =>
            decimal.TryParse(Text(path), NumberStyles.Number, CultureInfo.InvariantCulture, out var amount) ? amount : 0;

        public IEnumerable<XmlElement> Rows(string path) => Find(path);

        private IEnumerable<XmlElement> Find(string path) =>
            path.Split('/').Aggregate(
                (IEnumerable<XmlElement>)[root],
                (elements, name) => elements.SelectMany(e => e.ChildNodes.OfType<XmlElement>().Where(c => c.LocalName == name)));
    }
}
