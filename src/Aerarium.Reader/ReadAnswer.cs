using System.Text.Json.Serialization;

namespace Aerarium.Reader;

/// <summary>A row of a table.</summary>
/// <param name="Number">Its number, as a spreadsheet counts rows.</param>
/// <param name="Cells">Its cells, cleaned.</param>
public sealed record ImportedRow(int Number, IReadOnlyList<string> Cells)
{
    /// <summary>Whether a workbook hides it.</summary>
    public bool Hidden { get; init; }
}

/// <summary>A table as it stands in a file: headings, and the rows beneath that hold anything.</summary>
/// <param name="Headings">The first row that holds anything.</param>
/// <param name="Rows">Those after it.</param>
public sealed record ImportedTable(IReadOnlyList<string> Headings, IReadOnlyList<ImportedRow> Rows);

/// <summary>A sheet of a workbook.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Table">What it holds.</param>
public sealed record ImportedSheet(string Name, ImportedTable Table);

/// <summary>What a reading process says of a file.</summary>
/// <param name="Problem">What is wrong with it and what to do, in words; null when it could be read.</param>
/// <param name="Table">The table it holds.</param>
/// <param name="Pages">The pages it has.</param>
/// <param name="Sheets">The sheets it has, those that hold anything.</param>
public sealed record ReadAnswer(string? Problem, ImportedTable? Table, int? Pages, IReadOnlyList<ImportedSheet>? Sheets = null);

/// <summary>Answers as they are written on standard output: JSON.</summary>
[JsonSerializable(typeof(ReadAnswer))]
public sealed partial class ReadAnswerJson : JsonSerializerContext;
