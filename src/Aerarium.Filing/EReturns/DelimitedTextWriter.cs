using System.Globalization;
using System.Text;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using CsvHelper;
using CsvHelper.Configuration;

namespace Aerarium.Filing;

/// <summary>
/// Writes an evaluation as delimited text: records of the same columns, in a fixed order, with culture-free formatting, so that the
/// same frozen return gives the same bytes; remembers the line behind every field.
/// </summary>
public sealed class DelimitedTextWriter
{
    private readonly Evaluation _evaluation;
    private readonly IReadOnlyList<string> _columns;
    private readonly List<string?[]> _records = [];
    private readonly Dictionary<string, LinePlace> _places = [];

    /// <summary>Begins a file.</summary>
    /// <param name="evaluation">The frozen return.</param>
    /// <param name="columns">Names of the columns, in order.</param>
    public DelimitedTextWriter(Evaluation evaluation, IReadOnlyList<string> columns)
    {
        _evaluation = evaluation;
        _columns = columns;
    }

    /// <summary>Begins a record; its fields are blank until they are set.</summary>
    public void Record() => _records.Add(new string?[_columns.Count]);

    /// <summary>A field with a fixed text.</summary>
    public void Fixed(string column, string value) => _records[^1][Position(column)] = value;

    /// <summary>A field with the value of a line, blank when the line is; an amount has two decimals.</summary>
    public void Line(string column, string key, int row = 0)
    {
        var line = _evaluation.Definition.LineOf(key);
        _records[^1][Position(column)] = _evaluation.Value(line, row) is { } value
            ? line.Kind == LineKind.Money ? decimal.Parse(value, CultureInfo.InvariantCulture).ToString("0.00", CultureInfo.InvariantCulture) : value
            : null;
        _places[Path(_records.Count, column)] = new LinePlace(key, line.Table is null ? null : _evaluation.RowsOf(line.Table)[row].Id);
    }

    /// <summary>Closes the file: UTF-8, fields separated by a bar, lines ended as RFC 4180 ends them.</summary>
    public EReturn Finish()
    {
        using var stream = new MemoryStream();
        using (var text = new StreamWriter(stream, new UTF8Encoding(false)))
        using (var csv = new CsvWriter(text, new CsvConfiguration(CultureInfo.InvariantCulture) { Delimiter = "|", NewLine = "\r\n" }))
        {
            foreach (var record in _records)
            {
                foreach (var field in record)
                {
                    csv.WriteField(field);
                }

                csv.NextRecord();
            }
        }

        return new EReturn(stream.ToArray(), _places);
    }

    /// <summary>The path of a field: number of its record, from one, and its column.</summary>
    internal static string Path(int record, string column) => $"/{record}/{column}";

    private int Position(string column)
    {
        for (var position = 0; position < _columns.Count; position++)
        {
            if (_columns[position] == column)
            {
                return position;
            }
        }

        throw new KeyNotFoundException($"'{column}' is not a column of this file.");
    }
}
