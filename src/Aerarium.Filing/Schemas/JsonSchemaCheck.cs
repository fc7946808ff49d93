using System.Text.Json;
using Json.Schema;

namespace Aerarium.Filing;

/// <summary>Validates JSON e-returns against published schemas (JSON Schema 2020-12). Nothing outside the given text is ever resolved.</summary>
public sealed class JsonSchemaCheck : IPublishedSchema
{
    /// <summary>Ending of the published address of a JSON Schema.</summary>
    public const string Ending = ".schema.json";

    private const int Longest = 60;

    private static readonly EvaluationOptions Asked = new() { OutputFormat = OutputFormat.List, RequireFormatValidation = true };

    private readonly JsonSchema _schema;

    /// <summary>A check against a schema.</summary>
    /// <exception cref="FormatException">The text is no JSON Schema.</exception>
    public JsonSchemaCheck(string schema)
    {
        try
        {
            // A registry of its own: editions of one schema have the same name.
            _schema = JsonSchema.FromText(schema, new BuildOptions { SchemaRegistry = new SchemaRegistry() });
        }
        catch (Exception problem) when (problem is JsonException or JsonSchemaException or InvalidOperationException)
        {
            throw new FormatException($"This is no JSON Schema: {problem.Message}", problem);
        }
    }

    /// <summary>Every place where a document breaks the schema; empty when it is valid.</summary>
    public IReadOnlyList<SchemaFault> Faults(byte[] content)
    {
        JsonElement document;
        try
        {
            using var read = JsonDocument.Parse(content);
            document = read.RootElement.Clone();
        }
        catch (JsonException problem)
        {
            return [new SchemaFault("/", "", "", $"The document is not JSON: {problem.Message}")];
        }

        EvaluationResults found;
        try
        {
            found = _schema.Evaluate(document, Asked);
        }
        catch (JsonSchemaException problem)
        {
            throw new FormatException($"The schema cannot be used: {problem.Message}", problem);
        }

        return found.IsValid ? [] :
        [
            .. (found.Details ?? []).Where(d => d is { IsValid: false, Errors.Count: > 0 })
                .SelectMany(d => d.Errors!.Select(error => Fault(document, Steps(d.InstanceLocation.ToString()), error.Value)))
                .DistinctBy(f => (f.Path, f.Detail)).OrderByDescending(f => f.Path.Length),
        ];
    }

    /// <summary>The steps of a JSON Pointer (RFC 6901).</summary>
    private static string[] Steps(string pointer) =>
        [.. pointer.Split('/').Skip(1).Select(s => s.Replace("~1", "/", StringComparison.Ordinal).Replace("~0", "~", StringComparison.Ordinal))];

    /// <summary>A place by the names of elements, numbered where an element is repeated, as XML e-returns name it.</summary>
    private static SchemaFault Fault(JsonElement document, string[] location, string detail)
    {
        var (path, at) = ("", document);
        foreach (var step in location)
        {
            if (at.ValueKind == JsonValueKind.Array)
            {
                var index = int.Parse(step, System.Globalization.CultureInfo.InvariantCulture);
                path += index == 0 ? "" : $"[{index + 1}]";
                at = at[index];
            }
            else
            {
                path += $"/{step}";
                at = at.GetProperty(step);
            }
        }

        var text = at.ValueKind is JsonValueKind.Object or JsonValueKind.Array ? "" : at.ToString();
        return new SchemaFault(path.Length == 0 ? "/" : path, location.LastOrDefault() ?? "", text.Length > Longest ? text[..Longest] + "..." : text, detail);
    }
}
