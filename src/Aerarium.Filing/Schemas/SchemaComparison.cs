using System.Globalization;
using System.Text.Json;
using System.Xml;
using System.Xml.Schema;

namespace Aerarium.Filing;

/// <summary>How a place of a schema differs from the edition before.</summary>
public enum SchemaChangeKind
{
    /// <summary>It is new.</summary>
    Added,

    /// <summary>It is gone.</summary>
    Removed,

    /// <summary>Less is allowed than before.</summary>
    Tightened,

    /// <summary>It is different in another way.</summary>
    Changed,
}

/// <summary>A place of a schema that differs from the edition before.</summary>
/// <param name="Kind">How.</param>
/// <param name="Path">Path of the element or column.</param>
/// <param name="Words">What it was and what it is.</param>
public sealed record SchemaChange(SchemaChangeKind Kind, string Path, string Words);

/// <summary>Two editions of a schema side by side: what was added, removed, tightened or otherwise changed (XSD 1.0, JSON Schema 2020-12, CSV on the Web).</summary>
public static class SchemaComparison
{
    private const int Deepest = 12;

    /// <summary>The changes, in the order of their paths.</summary>
    /// <exception cref="FormatException">One of the texts is no schema.</exception>
    public static IReadOnlyList<SchemaChange> Between(string path, string before, string after)
    {
        var (was, now) = (Places(path, before), Places(path, after));
        return
        [
            .. was.Keys.Union(now.Keys).Order(StringComparer.Ordinal).SelectMany(place => (was.GetValueOrDefault(place), now.GetValueOrDefault(place)) switch
            {
                (null, { } added) => [new SchemaChange(SchemaChangeKind.Added, place, added.Least > 0 ? "new and required" : "new, may be left out")],
                ({ }, null) => [new SchemaChange(SchemaChangeKind.Removed, place, "no longer there")],
                ({ } old, { } latest) => Differences(place, old, latest),
                _ => [],
            }),
        ];
    }

    private static IEnumerable<SchemaChange> Differences(string place, Place was, Place now)
    {
        if (was.Least != now.Least)
        {
            yield return new SchemaChange(now.Least > was.Least ? SchemaChangeKind.Tightened : SchemaChangeKind.Changed, place, $"at least {was.Least} before, {now.Least} now");
        }

        if (was.Most != now.Most)
        {
            yield return new SchemaChange(now.Most < was.Most ? SchemaChangeKind.Tightened : SchemaChangeKind.Changed, place, $"at most {Many(was.Most)} before, {Many(now.Most)} now");
        }

        if (was.Type != now.Type)
        {
            yield return new SchemaChange(SchemaChangeKind.Changed, place, $"{was.Type} before, {now.Type} now");
        }

        foreach (var facet in was.Facets.Keys.Union(now.Facets.Keys).Order(StringComparer.Ordinal))
        {
            var (old, latest) = (was.Facets.GetValueOrDefault(facet), now.Facets.GetValueOrDefault(facet));
            if (old != latest)
            {
                yield return new SchemaChange(IsTighter(facet, old, latest) ? SchemaChangeKind.Tightened : SchemaChangeKind.Changed, place, $"{facet} {old ?? "free"} before, {latest ?? "free"} now");
            }
        }
    }

    private static bool IsTighter(string facet, string? was, string? now)
    {
        if (now is null)
        {
            return false;
        }

        if (was is null)
        {
            return true;
        }

        if (facet == "values")
        {
            return was.Split(", ").Except(now.Split(", ")).Any();
        }

        static decimal Number(string text) => decimal.TryParse(text, NumberStyles.Number, CultureInfo.InvariantCulture, out var number) ? number : 0;
        return facet.StartsWith("min", StringComparison.OrdinalIgnoreCase) ? Number(now) > Number(was)
            : facet.StartsWith("max", StringComparison.OrdinalIgnoreCase) || facet.EndsWith("Digits", StringComparison.Ordinal) ? Number(now) < Number(was)
            : true;
    }

    private static string Many(decimal most) => most == decimal.MaxValue ? "any number" : most.ToString(CultureInfo.InvariantCulture);

    private static SortedDictionary<string, Place> Places(string path, string text)
    {
        var places = new SortedDictionary<string, Place>(StringComparer.Ordinal);
        _ = PublishedSchema.Of(path, text);
        if (path.EndsWith(PublishedSchema.TableEnding, StringComparison.Ordinal))
        {
            using var document = JsonDocument.Parse(text);
            foreach (var column in document.RootElement.GetProperty("tableSchema").GetProperty("columns").EnumerateArray())
            {
                places[column.GetProperty("name").GetString()!] = Place.Of(column);
            }

            return places;
        }

        if (path.EndsWith(JsonSchemaCheck.Ending, StringComparison.Ordinal))
        {
            using var document = JsonDocument.Parse(text);
            Walk(document.RootElement, document.RootElement, "", 1, 1, places, 0);
            return places;
        }

        var schemas = new XmlSchemaSet { XmlResolver = null };
        using var reader = XmlReader.Create(new StringReader(text), new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
        schemas.Add(null, reader);
        schemas.Compile();
        foreach (var root in schemas.GlobalElements.Values.OfType<XmlSchemaElement>())
        {
            Walk(root, "", 1, 1, places, 0);
        }

        return places;
    }

    /// <summary>Properties of objects and members of arrays, references within the schema followed.</summary>
    private static void Walk(JsonElement root, JsonElement schema, string path, decimal least, decimal most, SortedDictionary<string, Place> places, int depth)
    {
        var at = Resolved(root, schema);
        if (at.ValueKind != JsonValueKind.Object)
        {
            return;
        }

        if (at.TryGetProperty("items", out var items))
        {
            most = Number(at, "maxItems", decimal.MaxValue);
            least = Math.Min(least, Number(at, "minItems", 0));
            at = Resolved(root, items);
        }

        if (path.Length > 0)
        {
            places[path] = Place.OfJson(at, least, most);
        }

        if (depth < Deepest && at.TryGetProperty("properties", out var properties))
        {
            var required = at.TryGetProperty("required", out var named) ? named.EnumerateArray().Select(n => n.GetString()).ToHashSet() : [];
            foreach (var property in properties.EnumerateObject())
            {
                Walk(root, property.Value, $"{path}/{property.Name}", required.Contains(property.Name) ? 1 : 0, 1, places, depth + 1);
            }
        }

        static decimal Number(JsonElement of, string name, decimal otherwise) => of.TryGetProperty(name, out var number) ? number.GetDecimal() : otherwise;
    }

    private static JsonElement Resolved(JsonElement root, JsonElement schema)
    {
        for (var hops = 0; hops < Deepest && schema.ValueKind == JsonValueKind.Object && schema.TryGetProperty("$ref", out var reference); hops++)
        {
            schema = reference.GetString() is ['#', '/', .. var pointer]
                ? pointer.Split('/').Aggregate(root, (at, step) => at.TryGetProperty(step, out var next) ? next : throw new FormatException($"The schema refers to '{reference}', which it does not have."))
                : throw new FormatException($"The schema refers to '{reference}' outside itself; send it in one piece.");
        }

        return schema;
    }

    private static void Walk(XmlSchemaElement element, string above, decimal least, decimal most, SortedDictionary<string, Place> places, int depth)
    {
        var path = $"{above}/{element.QualifiedName.Name}";
        places[path] = Place.Of(element.ElementSchemaType!, least, most);
        if (depth < Deepest && element.ElementSchemaType is XmlSchemaComplexType complex && complex.ContentTypeParticle is XmlSchemaGroupBase group)
        {
            Particles(group, path, places, depth, false);
        }
    }

    private static void Particles(XmlSchemaGroupBase group, string path, SortedDictionary<string, Place> places, int depth, bool optional)
    {
        optional = optional || group is XmlSchemaChoice || group.MinOccurs == 0;
        foreach (var item in group.Items)
        {
            if (item is XmlSchemaElement element)
            {
                Walk(element, path, optional ? 0 : element.MinOccurs, element.MaxOccurs, places, depth + 1);
            }
            else if (item is XmlSchemaGroupBase inner)
            {
                Particles(inner, path, places, depth, optional);
            }
        }
    }

    private sealed record Place(string Type, decimal Least, decimal Most, IReadOnlyDictionary<string, string> Facets)
    {
        public static Place Of(XmlSchemaType type, decimal least, decimal most)
        {
            var facets = new Dictionary<string, string>();
            var values = new List<string>();
            for (var simple = type as XmlSchemaSimpleType; simple?.Content is XmlSchemaSimpleTypeRestriction restriction; simple = simple.BaseXmlSchemaType as XmlSchemaSimpleType)
            {
                foreach (var facet in restriction.Facets.OfType<XmlSchemaFacet>())
                {
                    if (facet is XmlSchemaEnumerationFacet)
                    {
                        values.Add(facet.Value!);
                    }
                    else
                    {
                        facets.TryAdd(Name(facet), facet.Value!);
                    }
                }
            }

            if (values.Count > 0)
            {
                facets["values"] = string.Join(", ", values);
            }

            return new Place(type.Datatype?.TypeCode.ToString() ?? "elements", least, most, facets);
        }

        public static Place Of(JsonElement column)
        {
            var facets = new Dictionary<string, string>();
            var type = "string";
            if (column.TryGetProperty("datatype", out var datatype))
            {
                type = datatype.ValueKind == JsonValueKind.String ? datatype.GetString()! : datatype.TryGetProperty("base", out var named) ? named.GetString()! : type;
                foreach (var facet in datatype.ValueKind == JsonValueKind.Object ? datatype.EnumerateObject().Where(p => p.Name is not ("base" or "@type")) : [])
                {
                    facets[facet.Name] = facet.Value.ToString();
                }
            }

            return new Place(type, column.TryGetProperty("required", out var required) && required.GetBoolean() ? 1 : 0, 1, facets);
        }

        public static Place OfJson(JsonElement schema, decimal least, decimal most)
        {
            var facets = new Dictionary<string, string>();
            foreach (var facet in schema.EnumerateObject().Where(p => p.Name is "minLength" or "maxLength" or "pattern" or "minimum" or "maximum" or "format"))
            {
                facets[facet.Name] = facet.Value.ToString();
            }

            if (schema.TryGetProperty("enum", out var values))
            {
                facets["values"] = string.Join(", ", values.EnumerateArray().Select(v => v.ToString()));
            }
            else if (schema.TryGetProperty("const", out var only))
            {
                facets["values"] = only.ToString();
            }

            var type = schema.TryGetProperty("type", out var named) ? named.ToString() : "any";
            return new Place(type == "object" ? "elements" : type, least, most, facets);
        }

        private static string Name(XmlSchemaFacet facet)
        {
            var name = facet.GetType().Name["XmlSchema".Length..^"Facet".Length];
            return char.ToLowerInvariant(name[0]) + name[1..];
        }
    }
}
