using System.Text.Encodings.Web;
using System.Text.Json;
using System.Xml;

namespace Aerarium.Filing;

/// <summary>
/// An e-return as JSON: the elements of the XML form as properties, in the same order; elements that may be repeated as arrays; every value a text, so that no
/// reader makes floating point of an amount, but for answers, which are true or false. The property <c>$schema</c> names the form and year.
/// </summary>
public static class JsonEReturn
{
    private const string SchemaProperty = "$schema";

    private static readonly JsonWriterOptions Written = new() { Indented = false, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>Writes elements as JSON; the same elements give the same bytes.</summary>
    /// <param name="root">The root.</param>
    /// <param name="repeated">Elements that are written as members of an array.</param>
    /// <param name="answers">Elements that hold an answer.</param>
    public static byte[] Write(XmlElement root, IReadOnlySet<XmlElement> repeated, IReadOnlySet<XmlElement> answers)
    {
        using var stream = new MemoryStream();
        using (var writer = new Utf8JsonWriter(stream, Written))
        {
            writer.WriteStartObject();
            writer.WriteString(SchemaProperty, root.NamespaceURI);
            writer.WritePropertyName(root.LocalName);
            Value(root);
            writer.WriteEndObject();

            void Value(XmlElement element)
            {
                var children = element.ChildNodes.OfType<XmlElement>().ToList();
                if (children.Count == 0)
                {
                    Single(element);
                    return;
                }

                writer.WriteStartObject();
                foreach (var name in children.Select(c => c.LocalName).Distinct())
                {
                    var named = children.Where(c => c.LocalName == name).ToList();
                    writer.WritePropertyName(name);
                    if (!repeated.Contains(named[0]))
                    {
                        Value(named[0]);
                        continue;
                    }

                    writer.WriteStartArray();
                    named.ForEach(Value);
                    writer.WriteEndArray();
                }

                writer.WriteEndObject();
            }

            void Single(XmlElement element)
            {
                if (answers.Contains(element))
                {
                    writer.WriteBooleanValue(element.InnerText == "true");
                }
                else
                {
                    writer.WriteStringValue(element.InnerText);
                }
            }
        }

        return stream.ToArray();
    }

    /// <summary>Reads a JSON e-return back into elements.</summary>
    /// <exception cref="FormatException">The bytes are none.</exception>
    public static XmlElement Read(byte[] content)
    {
        try
        {
            using var read = JsonDocument.Parse(content);
            var properties = read.RootElement.EnumerateObject().ToList();
            var schema = properties.SingleOrDefault(p => p.Name == SchemaProperty).Value;
            var roots = properties.Where(p => p.Name != SchemaProperty).ToList();
            if (schema.ValueKind != JsonValueKind.String || roots.Count != 1)
            {
                throw new FormatException("A JSON e-return has '$schema', a text, and one other property.");
            }

            var document = new XmlDocument { XmlResolver = null };
            Append(document, document, roots[0].Name, roots[0].Value, schema.GetString()!);
            return document.DocumentElement!;
        }
        catch (Exception problem) when (problem is JsonException or InvalidOperationException or XmlException)
        {
            throw new FormatException($"The document is no JSON e-return: {problem.Message}", problem);
        }
    }

    private static void Append(XmlDocument document, XmlNode parent, string name, JsonElement value, string schema)
    {
        if (value.ValueKind == JsonValueKind.Array)
        {
            foreach (var item in value.EnumerateArray())
            {
                Append(document, parent, name, item, schema);
            }

            return;
        }

        var element = document.CreateElement(name, schema);
        parent.AppendChild(element);
        switch (value.ValueKind)
        {
            case JsonValueKind.Object:
                foreach (var property in value.EnumerateObject())
                {
                    Append(document, element, property.Name, property.Value, schema);
                }

                break;
            case JsonValueKind.True or JsonValueKind.False:
                element.InnerText = value.GetBoolean() ? "true" : "false";
                break;
            default:
                element.InnerText = value.ToString();
                break;
        }
    }
}
