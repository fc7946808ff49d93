using System.Text.Json;
using System.Text.Json.Nodes;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Countries;

namespace Aerarium.Cli;

/// <summary>
/// <c>compute</c>: reads a case, or an array of cases, of the form
/// <c>{"return": "ke/employment-income", "year": 2024, "entries": {"form.line": value, "form.rows": [{"column": value}]}}</c>
/// with an optional <c>"today": "2025-06-01"</c> and <c>"law": {"personal-relief": 30000, "bands": [[300000, 10], [null, 30]]}</c> (figures of the law
/// that are to say something else; ranges of a table by upper edge, rates in per cent), and prints values, findings and Outcome as JSON. Exit 0; or exit 2 with
/// a message of one line that names the case and the place, and nothing computed. Asked for <c>--each</c>, an array is computed case by case: what is
/// wrong with one stands in its place as <c>{"error": ...}</c>, the others are computed, and the exit is 2 when any was wrong.
/// </summary>
public static class ComputeCommand
{
    private static readonly JsonSerializerOptions Printing = new() { WriteIndented = true };

    /// <summary>Runs the command.</summary>
    public static int Run(string file, bool each, TextReader input, TextWriter output, TextWriter errors)
    {
        JsonDocument read;
        try
        {
            read = JsonDocument.Parse(file == "-" ? input.ReadToEnd() : File.ReadAllText(file));
        }
        catch (JsonException problem)
        {
            errors.WriteLine($"{file}: not JSON; {problem.Message}");
            return 2;
        }
        catch (Exception problem) when (problem is IOException or UnauthorizedAccessException)
        {
            errors.WriteLine(Directory.Exists(file) ? $"{file}: a folder; give a file with a case, or '-' for standard input." : $"{file}: cannot be read; {problem.Message}");
            return 2;
        }

        using (read)
        {
            var wrong = 0;
            try
            {
                JsonNode result = read.RootElement.ValueKind == JsonValueKind.Array
                    ? new JsonArray([.. read.RootElement.EnumerateArray().Select((item, index) => One(item, $"case {index + 1}"))])
                    : One(read.RootElement, "the case");
                output.WriteLine(result.ToJsonString(Printing));
                return wrong == 0 ? 0 : 2;
            }
            catch (CaseException problem)
            {
                errors.WriteLine(problem.Message);
                return 2;
            }

            JsonNode One(JsonElement item, string where)
            {
                try
                {
                    Check(item, where);
                    return Compute(JsonNode.Parse(item.GetRawText()), where);
                }
                catch (CaseException problem) when (each)
                {
                    wrong++;
                    errors.WriteLine(problem.Message);
                    return new JsonObject { ["error"] = problem.Message };
                }
            }
        }
    }

    /// <summary>What JSON lets through and no case may have: a key given twice, of which one would be lost in silence, and text that is no text.</summary>
    private static void Check(JsonElement element, string where)
    {
        switch (element.ValueKind)
        {
            case JsonValueKind.Object:
                var keys = new HashSet<string>();
                foreach (var property in element.EnumerateObject())
                {
                    var key = Readable(() => property.Name, $"{where}, a key");
                    if (!keys.Add(key))
                    {
                        throw new CaseException($"{where}: key '{key}' is given twice; keep one of them.");
                    }

                    Check(property.Value, $"{where}, {key}");
                }

                break;
            case JsonValueKind.Array:
                foreach (var (index, item) in element.EnumerateArray().Index())
                {
                    Check(item, $"{where}, row {index + 1}");
                }

                break;
            case JsonValueKind.String:
                Readable(() => element.GetString()!, where);
                break;
            default:
                break;
        }
    }

    private static string Readable(Func<string> text, string where)
    {
        try
        {
            return text();
        }
        catch (InvalidOperationException)
        {
            throw new CaseException($"{where}: half a character (a lone surrogate such as \\ud800); write the text anew.");
        }
    }

    private static JsonObject Compute(JsonNode? node, string where)
    {
        if (node is not JsonObject item)
        {
            throw new CaseException($"{where}: expected an object with return, year and entries.");
        }

        foreach (var key in item.Select(p => p.Key).Where(k => k is not ("return" or "year" or "period" or "entries" or "today" or "law")))
        {
            throw new CaseException($"{where}: unknown key '{key}'; a case has return, year, entries and perhaps period, today and law.");
        }

        var id = Text(item["return"], $"{where}, return");
        if (!int.TryParse(Text(item["year"], $"{where}, year"), out var year))
        {
            throw new CaseException($"{where}, year: '{item["year"]}' is not a year.");
        }

        var definition = Catalogue.Find(id, year, item["period"] is { } part ? Text(part, $"{where}, period") : Periods.WholeYear, out var problem) ?? throw new CaseException($"{where}: {problem}");
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        if (item["today"] is { } day && !DateOnly.TryParseExact(Text(day, $"{where}, today"), "yyyy-MM-dd", out today))
        {
            throw new CaseException($"{where}, today: '{day}' is not a date such as 2026-06-18.");
        }

        if (item["entries"] is not (null or JsonObject))
        {
            throw new CaseException($"{where}, entries: expected an object of line keys and values.");
        }

        if (item["law"] is { } law)
        {
            try
            {
                definition = Catalogue.Under(new LawEdition(ReadLaw(law, where)), definition);
            }
            catch (RuleException refused)
            {
                throw new CaseException($"{where}, law: {refused.Message}");
            }
        }

        var evaluation = definition.Evaluate(ReadEntries(definition, item["entries"] as JsonObject ?? [], where), today);
        return Print(evaluation);
    }

    private static IReadOnlyList<LawCorrection> ReadLaw(JsonNode given, string where)
    {
        if (given is not JsonObject figures)
        {
            throw new CaseException($"{where}, law: expected an object of figures and what they are to say.");
        }

        return [.. figures.Select(p => p.Value is JsonArray ranges
            ? new LawCorrection(p.Key, null, [.. ranges.Select((range, at) => Range(range, $"{where}, law, {p.Key}, range {at + 1}"))])
            : new LawCorrection(p.Key, Number(p.Value, $"{where}, law, {p.Key}"), []))];

        static LawRange Range(JsonNode? node, string place) => node is JsonArray { Count: 2 } pair
            ? new LawRange(pair[0] is null ? null : Number(pair[0], place), Number(pair[1], place))
            : throw new CaseException($"{place}: expected an upper edge (null for the last range) and a value, such as [300000, 10].");

        static decimal Number(JsonNode? node, string place) => node is JsonValue value && value.GetValueKind() == JsonValueKind.Number && value.TryGetValue<decimal>(out var number)
            ? number
            : throw new CaseException($"{place}: expected a number, or an array of ranges for a table.");
    }

    private static EntrySet ReadEntries(Definition definition, JsonObject given, string where)
    {
        var entries = new EntrySet();
        foreach (var (key, value) in given)
        {
            if (definition.FindTable(key) is { } table)
            {
                if (value is not JsonArray rows)
                {
                    throw new CaseException($"{where}, {key}: expected an array of rows.");
                }

                entries.Rows[key] = [.. rows.Select((row, index) => ReadRow(table, row, index, where, entries))];
                continue;
            }

            var line = definition.FindLine(key);
            if (line is null || line.Table is not null)
            {
                throw new CaseException($"{where}: unknown key '{key}'; 'lines {definition.Id} {definition.Year}' lists the keys{Near(definition, key)}.");
            }

            if (Read(line, value, $"{where}, {key}") is { } canonical)
            {
                entries.Values[key] = canonical;
            }
        }

        foreach (var line in definition.Lines.Where(l => l is { Kind: LineKind.Row, Target: not null }))
        {
            var there = entries.RowsOf(line.Target!.Key).Select(r => r.Id).ToHashSet();
            var references = line.Table is null
                ? [(Place: line.Key, Value: entries.Values.GetValueOrDefault(line.Key))]
                : entries.RowsOf(line.Table.Key).Select(r => (Place: $"{line.Table.Key}, row {r.Id}, {line.Name}", Value: r.Values.GetValueOrDefault(line.Name)));
            foreach (var (place, row) in references.Where(g => g.Value is not null && !there.Contains(g.Value)))
            {
                throw new CaseException($"{where}, {place}: there is no row {row} of '{line.Target.Key}'; it has {(there.Count == 1 ? "1 row" : $"{there.Count} rows")}.");
            }
        }

        return entries;
    }

    private static EntryRow ReadRow(RepeatingSection table, JsonNode? node, int index, string where, EntrySet entries)
    {
        var place = $"{where}, {table.Key}, row {index + 1}";
        if (node is not JsonObject given)
        {
            throw new CaseException($"{place}: expected an object of columns and values.");
        }

        var row = new EntryRow($"{index + 1}");
        foreach (var (name, value) in given)
        {
            if (table.IsPages && table.Parts.FirstOrDefault(p => p.Rows?.Name == name)?.Rows is { } within)
            {
                ReadWithin(within, row.Id, value as JsonArray ?? throw new CaseException($"{place}, {name}: expected an array of rows."), place, entries);
                continue;
            }

            var line = table.Lines.FirstOrDefault(l => l.Name == name)
                ?? throw new CaseException($"{place}: unknown key '{name}'; the columns are {string.Join(", ", table.Lines.Where(l => !l.IsComputed).Select(l => l.Name))}.");
            if (Read(line, value, $"{place}, {name}") is { } canonical)
            {
                row.Values[name] = canonical;
            }
        }

        return row;
    }

    /// <summary>Rows within a page, which say themselves where they belong.</summary>
    private static void ReadWithin(RepeatingSection table, string page, JsonArray rows, string place, EntrySet entries)
    {
        if (!entries.Rows.TryGetValue(table.Key, out var read))
        {
            entries.Rows[table.Key] = read = [];
        }

        foreach (var node in rows)
        {
            var row = ReadRow(table, node, read.Count, place, entries);
            row.Values[table.OfPage!.Line.Name] = page;
            read.Add(row);
        }
    }

    private static string? Read(Line line, JsonNode? value, string place)
    {
        if (line.IsComputed)
        {
            throw new CaseException($"{place}: this line is computed and cannot be given.");
        }

        if (value is null)
        {
            return null;
        }

        var reading = EntryReader.Read(line, Text(value, place), canonical: value.GetValueKind() == JsonValueKind.Number);
        return reading.Problem is null ? reading.Value : throw new CaseException($"{place}: {reading.Problem}");
    }

    private static string Text(JsonNode? node, string place) =>
        node switch
        {
            JsonValue value when value.GetValueKind() == JsonValueKind.String => value.GetValue<string>(),
            JsonValue value when value.GetValueKind() is JsonValueKind.True or JsonValueKind.False => value.GetValue<bool>() ? "yes" : "no",
            JsonValue value when value.GetValueKind() == JsonValueKind.Number => Number(value, place),
            null => throw new CaseException($"{place}: missing."),
            _ => throw new CaseException($"{place}: expected one value, not {node.GetValueKind().ToString().ToLowerInvariant()}."),
        };

    private static string Number(JsonValue value, string place) =>
        value.TryGetValue<decimal>(out var number)
            ? Core.Formulas.Figures.Canonical(number)
            : throw new CaseException($"{place}: {value.ToJsonString()} is larger than any amount a line takes.");

    private static string Near(Definition definition, string key)
    {
        var name = key.Split('.')[^1];
        var near = definition.Lines.FirstOrDefault(l => l.Name == name);
        return near is null ? "" : $" (did you mean '{(near.Table is null ? near.Key : $"{near.Table.Key}\": [{{\"{near.Name}\": ...}}]")}'?)";
    }

    private static JsonObject Print(Evaluation evaluation)
    {
        var values = new JsonObject();
        foreach (var section in evaluation.Definition.Sections)
        {
            if (section is RepeatingSection table)
            {
                values[table.Key] = new JsonArray([.. evaluation.RowsOf(table).Select((_, row) => (JsonNode)new JsonObject(
                    table.Lines.Select(l => KeyValuePair.Create(l.Name, Value(evaluation, l, row)))))]);
                continue;
            }

            foreach (var line in section.Lines)
            {
                values[line.Key] = Value(evaluation, line, 0);
            }
        }

        return new JsonObject
        {
            ["values"] = values,
            ["findings"] = new JsonArray([.. evaluation.Findings.Select(f => (JsonNode)new JsonObject
            {
                ["id"] = f.Id,
                ["severity"] = f.Severity.ToString().ToLowerInvariant(),
                ["message"] = f.Message,
                ["lines"] = new JsonArray([.. f.Lines.Select(l => (JsonNode)l)]),
                ["row"] = f.Row,
            })]),
            ["outcome"] = new JsonObject(evaluation.Outcome.Select(o => KeyValuePair.Create(
                o.Figure.Label.ToLowerInvariant().Replace(' ', '-'), (JsonNode?)JsonValue.Create(o.Amount)))),
        };
    }

    private static JsonNode? Value(Evaluation evaluation, Line line, int row) =>
        evaluation.Value(line, row) is not { } text
            ? null
            : line.IsNumber ? JsonValue.Create(evaluation.Amount(line, row)) : JsonValue.Create(text);

    private sealed class CaseException(string message) : Exception(message);
}
