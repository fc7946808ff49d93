using System.Text;
using System.Text.Json;
using System.Xml;
using Aerarium.Core.Entries;
using Aerarium.Reader;

namespace Aerarium.Server.Gathering;

/// <summary>A statement as it stands in a file: texts by name of the box, and where it stands.</summary>
public sealed record StatementInFile(int Row, IReadOnlyDictionary<string, string> Boxes);

/// <summary>
/// Reads payers' statements from files: JSON (an array of objects, boxes within or under <c>boxes</c>), XML (elements
/// named <c>Statement</c> holding one element a box), CSV and XLSX (one row each, headings name the boxes).
/// </summary>
internal static class StatementFiles
{
    private const int MostStatements = 5_000;

    /// <summary>The statements of a file.</summary>
    /// <param name="file">The file.</param>
    /// <param name="table">Reads it as a table, when it is one.</param>
    /// <exception cref="PlainProblem">It cannot be read; the message says where and what to do.</exception>
    public static async Task<IReadOnlyList<StatementInFile>> ReadAsync(byte[] file, Func<byte[], Task<ImportedTable>> table)
    {
        var first = file.SkipWhile(b => b is (byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n' or 0xEF or 0xBB or 0xBF).FirstOrDefault();
        var found = first switch
        {
            (byte)'[' or (byte)'{' => Json(file),
            (byte)'<' => Xml(file),
            _ => OfTable(await table(file)),
        };
        return found.Count switch
        {
            0 => throw PlainProblem.Refused("The file holds no statement."),
            > MostStatements => throw PlainProblem.Refused($"The file holds more than {MostStatements} statements; import fewer at once."),
            _ => found,
        };
    }

    private static List<StatementInFile> Json(byte[] file)
    {
        try
        {
            using var document = JsonDocument.Parse(file.AsMemory(file is [0xEF, 0xBB, 0xBF, ..] ? 3 : 0));
            var items = document.RootElement.ValueKind == JsonValueKind.Array ? document.RootElement.EnumerateArray().ToList() : [document.RootElement];
            return [.. items.Select((item, index) =>
            {
                var boxes = new Dictionary<string, string>();
                Collect(item, boxes, index + 1);
                return new StatementInFile(index + 1, boxes);
            })];
        }
        catch (JsonException problem)
        {
            throw PlainProblem.Refused($"The file is not JSON as it should be: line {problem.LineNumber + 1}, character {problem.BytePositionInLine + 1}.");
        }
        catch (InvalidOperationException)
        {
            // The reader says so of texts that are no Unicode.
            throw PlainProblem.Refused("The file is not JSON as it should be: a text in it holds half a character. Write the file again, in UTF-8.");
        }
    }

    private static void Collect(JsonElement item, Dictionary<string, string> boxes, int number)
    {
        if (item.ValueKind != JsonValueKind.Object)
        {
            throw PlainProblem.Refused($"Statement {number} is not an object with a text or number for each box.");
        }

        foreach (var property in item.EnumerateObject())
        {
            switch (property.Value.ValueKind)
            {
                case JsonValueKind.String:
                    boxes[property.Name] = EntryReader.Clean(property.Value.GetString());
                    break;
                case JsonValueKind.Number:
                    boxes[property.Name] = property.Value.GetRawText();
                    break;
                case JsonValueKind.Object when property.Name == "boxes":
                    Collect(property.Value, boxes, number);
                    break;
                case JsonValueKind.Null:
                    break;
                default:
                    throw PlainProblem.Refused($"Statement {number}, '{property.Name}': a box holds a text or a number.");
            }
        }
    }

    private static List<StatementInFile> Xml(byte[] file)
    {
        var settings = new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null, IgnoreComments = true, IgnoreWhitespace = true };
        var found = new List<StatementInFile>();
        try
        {
            using var reader = XmlReader.Create(new MemoryStream(file), settings);
            while (reader.ReadToFollowing("Statement") && found.Count <= MostStatements)
            {
                var boxes = new Dictionary<string, string>();
                using var inside = reader.ReadSubtree();
                inside.Read();
                while (inside.Read())
                {
                    if (inside.NodeType == XmlNodeType.Element)
                    {
                        var name = inside.LocalName;
                        boxes[name] = inside.IsEmptyElement ? "" : inside.Read() && inside.NodeType is XmlNodeType.Text or XmlNodeType.CDATA ? EntryReader.Clean(inside.Value) : "";
                    }
                }

                found.Add(new StatementInFile(found.Count + 1, boxes));
            }

            return found;
        }
        catch (XmlException problem)
        {
            throw PlainProblem.Refused($"The file is not XML as it should be, or declares a document type: line {problem.LineNumber}, character {problem.LinePosition}.");
        }
    }

    private static List<StatementInFile> OfTable(ImportedTable table) =>
        [.. table.Rows.Select(row => new StatementInFile(
            row.Number,
            table.Headings.Select((heading, column) => (heading, column)).Where(h => h.heading.Length > 0 && h.column < row.Cells.Count && row.Cells[h.column].Length > 0)
                .GroupBy(h => h.heading).ToDictionary(g => g.Key, g => row.Cells[g.First().column])))];
}
