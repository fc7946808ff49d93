using System.Text.Json;
using System.Xml;
using System.Xml.Schema;

namespace Aerarium.Filing;

/// <summary>One place where a file breaks its schema.</summary>
/// <param name="Path">Path of the element.</param>
/// <param name="Element">Name of the element.</param>
/// <param name="Text">What the element holds, shortened.</param>
/// <param name="Detail">The schema's rule, as the validator words it.</param>
public sealed record SchemaFault(string Path, string Element, string Text, string Detail);

/// <summary>A schema an authority publishes, ready to check files with.</summary>
public interface IPublishedSchema
{
    /// <summary>Every place where a file breaks the schema; empty when it is valid.</summary>
    IReadOnlyList<SchemaFault> Faults(byte[] content);

    /// <summary>The same for an e-return, which may be several files; their paths begin with the file they are in.</summary>
    /// <exception cref="FormatException">The files are not as their manifest says.</exception>
    IReadOnlyList<SchemaFault> FaultsOf(byte[] eReturn) => EReturnFormat.Of(eReturn) == EReturnFormat.Package
        ? [.. EReturnPackage.Files(eReturn).SelectMany(file => Faults(file.Value).Select(f => f with { Path = EReturnPackage.PathIn(file.Key, f.Path) }))]
        : Faults(eReturn);
}

/// <summary>Reads published schemas by the kind their address ends with.</summary>
public static class PublishedSchema
{
    /// <summary>Ending of a layout of delimited text, as CSV on the Web names metadata files.</summary>
    public const string TableEnding = "-metadata.json";

    /// <summary>The schema published at an address.</summary>
    /// <exception cref="FormatException">It cannot be read; the message says what is wrong.</exception>
    public static IPublishedSchema Of(string path, string text)
    {
        try
        {
            return path.EndsWith(TableEnding, StringComparison.Ordinal) ? new TableSchema(text)
                : path.EndsWith(JsonSchemaCheck.Ending, StringComparison.Ordinal) ? new JsonSchemaCheck(text)
                : new SchemaCheck(text);
        }
        catch (Exception problem) when (problem is XmlSchemaException or XmlException or JsonException or InvalidOperationException or ArgumentException or NotSupportedException or KeyNotFoundException)
        {
            throw new FormatException(problem.Message, problem);
        }
    }
}

/// <summary>Reads XML safely and validates it against published schemas (XSD 1.0). Nothing outside the given texts is ever resolved.</summary>
public sealed class SchemaCheck : IPublishedSchema
{
    /// <summary>Deeper than any form; what walks a document calls itself once a level.</summary>
    private const int Deepest = 100;

    /// <summary>How often parts within parts may repeat, multiplied; beyond that a list is unbounded.</summary>
    private const long MostRepeated = 20_000;

    private const int LargestDocument = 8 * 1024 * 1024;

    private readonly XmlSchemaSet _schemas = new() { XmlResolver = null };

    /// <summary>A check against a schema.</summary>
    /// <exception cref="XmlSchemaException">The text is not a valid schema.</exception>
    /// <exception cref="XmlException">The text is not XML.</exception>
    public SchemaCheck(string schema)
    {
        RequireFlat(() => new StringReader(schema));
        using var reader = XmlReader.Create(new StringReader(schema), SafeSettings());
        _schemas.Add(null, reader);
        _schemas.Compile();
    }

    /// <summary>Reads a document without entities, external references or documents of excessive size.</summary>
    /// <exception cref="XmlException">The bytes are not well-formed XML, or are too large.</exception>
    public static XmlDocument Read(byte[] xml)
    {
        RequireFlat(() => new StreamReader(new MemoryStream(xml)));
        var document = new XmlDocument { PreserveWhitespace = true, XmlResolver = null };
        using var reader = XmlReader.Create(new MemoryStream(xml), SafeSettings());
        document.Load(reader);
        return document;
    }

    /// <summary>Every place where a document breaks the schema; empty when it is valid.</summary>
    /// <exception cref="XmlException">The bytes are not well-formed XML.</exception>
    public IReadOnlyList<SchemaFault> Faults(byte[] content)
    {
        var document = Read(content);
        document.Schemas = _schemas;
        var faults = new List<SchemaFault>();
        if (document.DocumentElement is not { } root || !_schemas.Contains(root.NamespaceURI))
        {
            return [new SchemaFault("/", document.DocumentElement?.LocalName ?? "", "", "The document is of another kind or year than the schema.")];
        }

        document.Validate((_, problem) =>
        {
            var node = (problem.Exception as XmlSchemaValidationException)?.SourceObject as XmlNode;
            var element = node as XmlElement ?? (node as XmlAttribute)?.OwnerElement ?? node?.ParentNode as XmlElement ?? root;
            var text = element.ChildNodes.OfType<XmlElement>().Any() ? "" : element.InnerText;
            faults.Add(new SchemaFault(ElementPath.Of(element), element.LocalName, text.Length > 60 ? text[..60] + "..." : text, problem.Message));
        });
        return faults;
    }

    /// <summary>Refuses what is nested, or repeats within repeating, deeper than can be walked and compiled in little memory.</summary>
    /// <exception cref="XmlException">It is, or it is not XML.</exception>
    private static void RequireFlat(Func<TextReader> text)
    {
        using var reader = XmlReader.Create(text(), SafeSettings());
        var repeats = new long[Deepest + 1];
        while (reader.Read())
        {
            if (reader.NodeType != XmlNodeType.Element)
            {
                continue;
            }

            if (reader.Depth >= Deepest)
            {
                throw new XmlException($"Elements are nested more than {Deepest} deep.", null, ((IXmlLineInfo)reader).LineNumber, ((IXmlLineInfo)reader).LinePosition);
            }

            var within = reader.Depth == 0 ? 1 : repeats[reader.Depth - 1];
            repeats[reader.Depth] = within * (long.TryParse(reader.GetAttribute("maxOccurs"), out var most) ? Math.Clamp(most, 1, MostRepeated + 1) : 1);
            if (reader.NamespaceURI == XmlSchema.Namespace && repeats[reader.Depth] > MostRepeated)
            {
                throw new XmlException($"A part may repeat more than {MostRepeated} times; write maxOccurs=\"unbounded\".", null, ((IXmlLineInfo)reader).LineNumber, ((IXmlLineInfo)reader).LinePosition);
            }
        }
    }

    private static XmlReaderSettings SafeSettings() => new()
    {
        DtdProcessing = DtdProcessing.Prohibit,
        XmlResolver = null,
        MaxCharactersInDocument = LargestDocument,
        MaxCharactersFromEntities = 1024,
    };
}
