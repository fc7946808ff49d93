using System.Globalization;
using System.Text;
using System.Xml;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Filing;

/// <summary>The place of a figure on a return: a line and, in repeating sections, a row.</summary>
/// <param name="Line">Key of the line.</param>
/// <param name="Row">Id of the row, or null.</param>
public sealed record LinePlace(string Line, string? Row);

/// <summary>In what form an e-return is written.</summary>
/// <param name="MediaType">Its media type.</param>
/// <param name="Ending">Ending of its file name, without the dot.</param>
/// <param name="Signed">Where the practice's signature stands.</param>
public sealed record EReturnFormat(string MediaType, string Ending, EReturnSignature Signed)
{
    /// <summary>JSON with a detached signature (JWS) beside it.</summary>
    public static readonly EReturnFormat Json = new("application/json", "json", EReturnSignature.Beside);

    /// <summary>The form a file is in, by its first byte; files of a mapping's other forms are told apart by it.</summary>
    public static EReturnFormat Of(byte[] content) => content switch
    {
        [(byte)'<', ..] => Xml,
        [(byte)'{', ..] => Json,
        [(byte)'P', (byte)'K', 3, 4, ..] => Package,
        _ => DelimitedText,
    };

    /// <summary>XML with an enveloped signature.</summary>
    public static readonly EReturnFormat Xml = new("application/xml", "xml", EReturnSignature.Within);

    /// <summary>Several files in a zip (<see cref="EReturnPackage"/>) with a detached signature (JWS) beside it.</summary>
    public static readonly EReturnFormat Package = new("application/zip", "zip", EReturnSignature.Beside);

    /// <summary>Delimited text; who sends it is known by the mail it is attached to.</summary>
    public static readonly EReturnFormat DelimitedText = new("text/csv", "csv", EReturnSignature.None);

    /// <summary>Whether a file says the same as one written anew, apart from the signature within it.</summary>
    public static bool SaysTheSame(byte[] file, byte[] again) => Of(file) switch
    {
        var format when format != Of(again) => false,
        var format when format == Xml => XmlSignature.Unsigned(file).AsSpan().SequenceEqual(XmlSignature.Unsigned(again)),
        var format when format == Package => EReturnPackage.HoldTheSame(file, again),
        _ => file.AsSpan().SequenceEqual(again),
    };
}

/// <summary>Where the practice's signature over an e-return stands.</summary>
public enum EReturnSignature
{
    /// <summary>Nowhere: the authority asks for none.</summary>
    None,

    /// <summary>In the file itself.</summary>
    Within,

    /// <summary>Beside the file, over all its bytes.</summary>
    Beside,
}

/// <summary>An e-return: the file, and which line stands behind which part of it.</summary>
/// <param name="Content">The file, UTF-8.</param>
/// <param name="Places">Line by path: of an element, such as <c>/Return/Employers/Employer[2]/Pin</c>, or of a field, such as <c>/3/tax</c>.</param>
public sealed record EReturn(byte[] Content, IReadOnlyDictionary<string, LinePlace> Places);

/// <summary>
/// Writes an evaluation as an XML or JSON e-return in a fixed order, with culture-free formatting and no time stamp, so that
/// the same frozen return gives the same bytes; remembers the line behind every element.
/// </summary>
public sealed class EReturnWriter
{
    private readonly Evaluation _evaluation;
    private readonly XmlDocument _document = new();
    private readonly Dictionary<string, LinePlace> _places = [];
    private readonly HashSet<XmlElement> _repeated = [];
    private readonly HashSet<XmlElement> _answers = [];
    private readonly EReturnFormat _format;
    private readonly string _namespace;
    private readonly Dictionary<(string Parent, string Name), int> _elements = [];
    private XmlElement _at;
    private string _path;
    private RepeatingSection? _table;
    private int _row;

    /// <summary>Opens an e-return with its root element.</summary>
    public EReturnWriter(Evaluation evaluation, string schemaNamespace, string root, EReturnFormat? format = null)
    {
        _format = format ?? EReturnFormat.Xml;
        _evaluation = evaluation;
        _namespace = schemaNamespace;
        _at = _document.CreateElement(root, _namespace);
        _document.AppendChild(_at);
        _path = $"/{root}";
    }

    /// <summary>An element that groups others.</summary>
    public void Group(string name, Action content)
    {
        var (outer, outerPath) = (_at, _path);
        (_at, _path) = Append(name);
        content();
        (_at, _path) = (outer, outerPath);
    }

    /// <summary>A group that is written only when a section of the return applies.</summary>
    public void GroupWhen(bool applies, string name, Action content)
    {
        if (applies)
        {
            Group(name, content);
        }
    }

    /// <summary>One element for each row of a repeating section; inside, lines are named by column.</summary>
    /// <param name="name">Name of the element.</param>
    /// <param name="table">Key of the repeating section.</param>
    /// <param name="content">What is written of a row.</param>
    /// <param name="of">
    /// Inside the rows of another section: the column by which these rows say which of those they belong to, and only those of the row being written come;
    /// null for all.
    /// </param>
    public void Rows(string name, string table, Action content, string? of = null)
    {
        var section = _evaluation.Definition.FindTable(table) ?? throw new KeyNotFoundException($"'{table}' is not a repeating section.");
        var belongs = of is null ? null : _evaluation.Definition.LineOf($"{table}.{of}");
        var (outer, outerRow) = (_table, _row);
        var count = _evaluation.IsOpen(section) ? _evaluation.RowsOf(section).Count : 0;
        for (var row = 0; row < count; row++)
        {
            if (belongs is not null && RowPointedAt(belongs, row) != outerRow + 1)
            {
                continue;
            }

            (_table, _row) = (section, row);
            Group(name, content);
            _repeated.Add((XmlElement)_at.LastChild!);
        }

        (_table, _row) = (outer, outerRow);
    }

    /// <summary>An element holding a line's value; left out when the line is blank or does not apply.</summary>
    public void Line(string name, string key)
    {
        var line = _evaluation.Definition.LineOf(_table is null ? key : $"{_table.Key}.{key}");
        if (_evaluation.Value(line, _row * (_table is null ? 0 : 1)) is { } value)
        {
            Put(name, line, Written(line, value));
        }
    }

    /// <summary>An element holding an amount; a blank is written as zero.</summary>
    public void Amount(string name, string key)
    {
        var line = _evaluation.Definition.LineOf(_table is null ? key : $"{_table.Key}.{key}");
        Put(name, line, Written(line, _evaluation.Value(line, _row * (_table is null ? 0 : 1)) ?? "0"));
    }

    /// <summary>Elements named after lines of a form, or after columns of the row being written when no form is named: <c>paid-other</c> stands in PaidOther. Blank ones are left out.</summary>
    public void Named(string form, params string[] lines) => Array.ForEach(lines, line => Line(ElementOf(line), KeyOf(form, line)));

    /// <summary>The same for amounts; a blank is written as zero, and what does not apply too.</summary>
    public void NamedAmounts(string form, params string[] lines) => Array.ForEach(lines, line => Amount(ElementOf(line), KeyOf(form, line)));

    private static string KeyOf(string form, string line) => form.Length == 0 ? line : $"{form}.{line}";

    private static string ElementOf(string line) => string.Concat(line.Split('-').Select(part => char.ToUpperInvariant(part[0]) + part[1..]));

    /// <summary>An element holding an amount of a line that not every year or province has; left out where the return has no such line.</summary>
    public void AmountIfThere(string name, string key)
    {
        if (_evaluation.Definition.FindLine(key) is not null)
        {
            Amount(name, key);
        }
    }

    /// <summary>An element holding the number, from one, of the row a reference points at; blank points at the first.</summary>
    public void RowNumber(string name, string key)
    {
        var line = _evaluation.Definition.LineOf($"{_table!.Key}.{key}");
        Put(name, line, RowPointedAt(line, _row).ToString(CultureInfo.InvariantCulture));
    }

    private int RowPointedAt(Line reference, int row) => Math.Max(1, _evaluation.Code(reference, row));

    /// <summary>An element holding a fixed text.</summary>
    public void Fixed(string name, string value) => Append(name).Element.InnerText = value;

    /// <summary>Closes the file.</summary>
    public EReturn Finish()
    {
        if (_format == EReturnFormat.Json)
        {
            return new EReturn(JsonEReturn.Write(_document.DocumentElement!, _repeated, _answers), _places);
        }

        var settings = new XmlWriterSettings { Encoding = new UTF8Encoding(false), Indent = false, NewLineHandling = NewLineHandling.None };
        using var stream = new MemoryStream();
        using (var writer = XmlWriter.Create(stream, settings))
        {
            _document.Save(writer);
        }

        return new EReturn(stream.ToArray(), _places);
    }

    private static string Written(Line line, string value) => line.Kind switch
    {
        LineKind.Money => decimal.Parse(value, CultureInfo.InvariantCulture).ToString("0.00", CultureInfo.InvariantCulture),
        LineKind.Answer => value == "yes" ? "true" : "false",
        _ => value,
    };

    private void Put(string name, Line line, string value)
    {
        var (element, path) = Append(name);
        element.InnerText = value;
        if (line.Kind == LineKind.Answer)
        {
            _answers.Add(element);
        }

        _places[path] = new LinePlace(line.Key, _table is null ? null : _evaluation.RowsOf(_table)[_row].Id);
    }

    /// <summary>A new element and its path, as <see cref="ElementPath"/> would find it; counted as it is written, so that a long list costs no search.</summary>
    private (XmlElement Element, string Path) Append(string name)
    {
        var element = _document.CreateElement(name, _namespace);
        _at.AppendChild(element);
        var number = _elements[(_path, name)] = _elements.GetValueOrDefault((_path, name)) + 1;
        return (element, ElementPath.Beneath(_path, name, number));
    }
}

/// <summary>Paths of elements, without prefixes; a number in brackets where an element is repeated under its parent.</summary>
public static class ElementPath
{
    /// <summary>The path of an element.</summary>
    public static string Of(XmlElement element)
    {
        var number = 1;
        for (var sibling = element.ParentNode!.FirstChild; sibling != element; sibling = sibling!.NextSibling)
        {
            number += sibling is XmlElement other && other.LocalName == element.LocalName ? 1 : 0;
        }

        return Beneath(element.ParentNode is XmlElement parent ? Of(parent) : "", element.LocalName, number);
    }

    /// <summary>The path of the so-manieth element of a name beneath another.</summary>
    internal static string Beneath(string parent, string name, int number) => number > 1 ? $"{parent}/{name}[{number}]" : $"{parent}/{name}";
}
