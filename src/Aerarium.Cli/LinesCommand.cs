using System.Text.Json;
using System.Text.Json.Nodes;
using Aerarium.Core.Definitions;
using Aerarium.Countries;

namespace Aerarium.Cli;

/// <summary><c>lines RETURN YEAR [PERIOD]</c>: prints every line of a return as JSON: key, label, kind, form, whether entered or computed, and what it depends on.</summary>
public static class LinesCommand
{
    private static readonly JsonSerializerOptions Printing = new() { WriteIndented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>Runs the command.</summary>
    public static int Run(string id, string year, string period, TextWriter output, TextWriter errors)
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

        output.WriteLine(new JsonArray([.. definition.Lines.Select(Describe)]).ToJsonString(Printing));
        return 0;
    }

    private static JsonNode Describe(Line line)
    {
        var described = new JsonObject
        {
            ["key"] = line.Key,
            ["number"] = line.Number,
            ["label"] = line.Label,
            ["kind"] = line.Kind.ToString().ToLowerInvariant(),
            ["form"] = line.Form.Key,
            ["section"] = line.Section.Title,
            ["source"] = line.IsComputed ? "computed" : "entered",
        };
        Add("repeating", line.Table?.Key);
        Add("column", line.Table is null ? null : line.Name);
        Add("from", line.CopiedFrom);
        Add("law", line.Law ?? line.Section.Law);
        Add("unit", line.Unit);
        Add("formula", line.Formula?.Words);
        Add("applies", line.Table?.When is null ? line.OpenWhen?.Words : line.OpenWhen is null ? line.Table.When.Words : $"{line.Table.When.Words} and {line.OpenWhen.Words}");
        Add("required", line.RequiredWhen?.Words);
        if (line.Choices is not null)
        {
            described["codes"] = new JsonArray([.. line.Choices.Select(c => (JsonNode)new JsonObject { ["code"] = c.Code, ["label"] = c.Label })]);
        }

        return described;

        void Add(string name, string? value)
        {
            if (value is not null)
            {
                described[name] = value;
            }
        }
    }
}
