using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using CsvHelper;
using CsvHelper.Configuration;

namespace Aerarium.Filing;

/// <summary>
/// The layout of delimited text as an authority publishes it: metadata of CSV on the Web (W3C Recommendation 'Metadata Vocabulary for
/// Tabular Data', 17 December 2015). Understood are the dialect (delimiter, quoteChar, header, encoding UTF-8) and, of each column,
/// name, titles, required and datatype with base string, integer, decimal, date or boolean, format, minimum, maximum, minLength,
/// maxLength. A word that is not understood is an error, so that no rule is passed over in silence.
/// </summary>
public sealed class TableSchema : IPublishedSchema
{
    private const int LargestFile = 16 * 1024 * 1024;

    private static readonly string[] DialectWords = ["delimiter", "quoteChar", "header", "encoding", "lineTerminators", "doubleQuote", "@type"];
    private static readonly string[] ColumnWords = ["name", "titles", "required", "datatype", "dc:description", "@type", "virtual", "propertyUrl"];
    private static readonly string[] DatatypeWords = ["base", "format", "minimum", "maximum", "minLength", "maxLength", "@type"];

    private readonly List<Column> _columns = [];
    private readonly string _delimiter;
    private readonly bool _header;

    /// <summary>Reads the metadata.</summary>
    /// <exception cref="FormatException">It is no metadata this class understands; the message says what is wrong.</exception>
    public TableSchema(string metadata)
    {
        try
        {
            using var document = JsonDocument.Parse(metadata);
            var root = document.RootElement;
            var dialect = root.TryGetProperty("dialect", out var given) ? given : default;
            _delimiter = ",";
            _header = true;
            if (dialect.ValueKind == JsonValueKind.Object)
            {
                Understood(dialect, DialectWords, "dialect");
                _delimiter = dialect.TryGetProperty("delimiter", out var delimiter) ? delimiter.GetString()! : _delimiter;
                _header = !dialect.TryGetProperty("header", out var header) || header.GetBoolean();
            }

            foreach (var column in root.GetProperty("tableSchema").GetProperty("columns").EnumerateArray())
            {
                Understood(column, ColumnWords, "columns");
                _columns.Add(Column.Of(column));
            }
        }
        catch (Exception problem) when (problem is JsonException or KeyNotFoundException or InvalidOperationException)
        {
            throw new FormatException($"The layout cannot be read as CSV on the Web metadata: {problem.Message}", problem);
        }
    }

    /// <inheritdoc />
    public IReadOnlyList<SchemaFault> Faults(byte[] content)
    {
        if (content.Length > LargestFile)
        {
            return [new SchemaFault("/", "file", "", $"The file is larger than {LargestFile} bytes.")];
        }

        var faults = new List<SchemaFault>();
        var record = 0;
        foreach (var fields in Read(content))
        {
            record++;
            if (record == 1 && _header)
            {
                continue;
            }

            if (fields.Length != _columns.Count)
            {
                faults.Add(new SchemaFault($"/{record}", "record", "", $"The record has {fields.Length} fields; the layout has {_columns.Count}."));
                continue;
            }

            for (var position = 0; position < fields.Length; position++)
            {
                var column = _columns[position];
                if (column.Fault(fields[position]) is { } rule)
                {
                    faults.Add(new SchemaFault(DelimitedTextWriter.Path(record, column.Name), column.Name, fields[position], rule));
                }
            }
        }

        return faults;
    }

    /// <summary>The records of a file that follows this layout, by column name.</summary>
    public IReadOnlyList<IReadOnlyDictionary<string, string>> Records(byte[] content) =>
    [
        .. Read(content).Skip(_header ? 1 : 0).Select(fields => _columns.Select((c, position) => (c.Name, Field: position < fields.Length ? fields[position] : ""))
            .ToDictionary(f => f.Name, f => f.Field)),
    ];

    private IEnumerable<string[]> Read(byte[] content)
    {
        using var reader = new StreamReader(new MemoryStream(content), new UTF8Encoding(false, throwOnInvalidBytes: false));
        using var parser = new CsvParser(reader, new CsvConfiguration(CultureInfo.InvariantCulture) { Delimiter = _delimiter, BadDataFound = null });
        while (parser.Read())
        {
            yield return parser.Record!;
        }
    }

    private static void Understood(JsonElement element, string[] words, string where)
    {
        var stranger = element.EnumerateObject().Select(p => p.Name).FirstOrDefault(n => !words.Contains(n));
        if (stranger is not null)
        {
            throw new FormatException($"The layout's {where} use '{stranger}', which is not understood here.");
        }
    }

    private sealed record Column(string Name, bool Required, string Base, string? Format, decimal? Least, decimal? Most, int? Shortest, int? Longest)
    {
        private readonly Regex? _pattern = Format is null || Base is not "string" ? null : new Regex($"^(?:{Format})$", RegexOptions.CultureInvariant, TimeSpan.FromSeconds(1));

        public static Column Of(JsonElement column)
        {
            var name = column.GetProperty("name").GetString()!;
            var datatype = column.TryGetProperty("datatype", out var given) ? given : default;
            var kind = datatype.ValueKind == JsonValueKind.String ? datatype.GetString()! : "string";
            string? format = null;
            decimal? least = null, most = null;
            int? shortest = null, longest = null;
            if (datatype.ValueKind == JsonValueKind.Object)
            {
                Understood(datatype, DatatypeWords, $"datatype of '{name}'");
                kind = datatype.TryGetProperty("base", out var named) ? named.GetString()! : "string";
                format = datatype.TryGetProperty("format", out var pattern) ? pattern.GetString() : null;
                least = Number(datatype, "minimum");
                most = Number(datatype, "maximum");
                shortest = (int?)Number(datatype, "minLength");
                longest = (int?)Number(datatype, "maxLength");
            }

            return kind is "string" or "integer" or "decimal" or "date" or "boolean"
                ? new Column(name, column.TryGetProperty("required", out var required) && required.GetBoolean(), kind, format, least, most, shortest, longest)
                : throw new FormatException($"The datatype '{kind}' of column '{name}' is not understood here.");
        }

        public string? Fault(string text)
        {
            if (text.Length == 0)
            {
                return Required ? "A value is required." : null;
            }

            if (text.Length < Shortest || text.Length > Longest)
            {
                return $"The length must be between {Shortest ?? 0} and {Longest?.ToString(CultureInfo.InvariantCulture) ?? "any"}.";
            }

            return Base switch
            {
                "string" => _pattern?.IsMatch(text) == false ? $"The text does not follow the pattern {Format}." : null,
                "date" => DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out _) ? null : "The date must be written as 2025-12-31.",
                "boolean" => text is "true" or "false" or "1" or "0" ? null : "The value must be true or false.",
                _ => NumberFault(text),
            };
        }

        private string? NumberFault(string text)
        {
            var style = Base == "integer" ? NumberStyles.AllowLeadingSign : NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint;
            if (!decimal.TryParse(text, style, CultureInfo.InvariantCulture, out var number))
            {
                return Base == "integer" ? "A whole number is required." : "A number with a decimal point is required.";
            }

            // Of the number patterns of the recommendation the ones that fix the decimals are used: 0.00, #0.00, 0.0#.
            if (Format is not null && Decimals(Format) is { } decimals)
            {
                var given = text.Contains('.', StringComparison.Ordinal) ? text.Length - text.IndexOf('.', StringComparison.Ordinal) - 1 : 0;
                if (given < decimals.Least || given > decimals.Most)
                {
                    return $"The number must follow the pattern {Format}.";
                }
            }

            return number < Least ? $"The least value is {Least}." : number > Most ? $"The greatest value is {Most}." : null;
        }

        private static (int Least, int Most)? Decimals(string format)
        {
            var point = format.IndexOf('.', StringComparison.Ordinal);
            return point < 0 ? (0, 0) : (format[point..].Count(c => c == '0'), format.Length - point - 1);
        }

        private static decimal? Number(JsonElement element, string name) =>
            !element.TryGetProperty(name, out var value) ? null
            : value.ValueKind == JsonValueKind.Number ? value.GetDecimal() : decimal.Parse(value.GetString()!, CultureInfo.InvariantCulture);
    }
}
