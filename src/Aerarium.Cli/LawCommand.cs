using System.Text.Json;
using System.Text.Json.Nodes;
using Aerarium.Core.Engine;
using Aerarium.Countries;
using Aerarium.Filing;

namespace Aerarium.Cli;

/// <summary><c>law RETURN YEAR [PERIOD] [--document]</c>: prints the figures of the law a return rests on as JSON, or all of its rules as a page of HTML.</summary>
public static class LawCommand
{
    private static readonly JsonSerializerOptions Printing = new() { WriteIndented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>Runs the command.</summary>
    public static int Run(string id, string year, string period, bool document, TextWriter output, TextWriter errors)
    {
        if (!int.TryParse(year, out var number))
        {
            errors.WriteLine($"'{year}' is not a year.");
            return 2;
        }

        if (Catalogue.Find(id, number, period, out var problem) is not { } definition)
        {
            errors.WriteLine(problem);
            return 2;
        }

        output.WriteLine(document ? LawDocument.Html(definition) : new JsonArray([.. LawFigures.Of(definition).Select(Describe)]).ToJsonString(Printing));
        return 0;
    }

    private static JsonNode Describe(LawFigure figure)
    {
        var described = new JsonObject
        {
            ["key"] = figure.Key,
            ["label"] = figure.Label,
            ["value"] = figure.Value,
            ["source"] = figure.Source,
            ["confidence"] = figure.Confidence.ToString().ToLowerInvariant(),
        };
        if (figure.Note is not null)
        {
            described["note"] = figure.Note;
        }

        if (figure.Rows.Count > 0)
        {
            described["rows"] = new JsonArray([.. figure.Rows.Select(r => (JsonNode)new JsonObject { ["range"] = r.Range, ["value"] = r.Value })]);
        }

        described["usedBy"] = new JsonArray([.. figure.UsedBy.Select(l => (JsonNode)l.Key)]);
        described["findings"] = new JsonArray([.. figure.Findings.Select(f => (JsonNode)f.Id)]);
        return described;
    }
}
