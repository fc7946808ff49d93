using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;

namespace Aerarium.Server.Tests;

/// <summary>A file made to harm whoever reads it.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Attacks">What it attacks.</param>
/// <param name="Content">Its bytes.</param>
public sealed record HostileFile(string Name, string Attacks, byte[] Content);

/// <summary>The corpus: every import and upload goes through all of it.</summary>
public static class HostileFiles
{
    private const string Sheet = "xl/worksheets/sheet1.xml";
    private const string Xsd = "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'><xs:element name='a'><xs:complexType>";

    public static IReadOnlyList<HostileFile> All { get; } =
    [
        new("nested-arrays.pdf", "the stack: 100,000 arrays within each other", Pdf($"1 0 obj\n{new string('[', 100_000)}{new string(']', 100_000)}\nendobj\ntrailer<</Root 1 0 R>>")),
        new("nested-dictionaries.pdf", "the stack: 50,000 dictionaries within each other", Pdf($"1 0 obj\n{Repeat("<</A ", 50_000)}{Repeat(">>", 50_000)}\nendobj\ntrailer<</Root 1 0 R>>")),
        new("previous-is-itself.pdf", "time and memory: a trailer whose /Prev is its own place", SelfReferringPdf()),
        new("reference-stream.pdf", "memory: a cross-reference stream that inflates to 256 MB", StreamPdf(256)),
        new("pages-of-themselves.pdf", "time: a page tree that holds itself", Pdf("1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Count 1/Kids[2 0 R]>>endobj\ntrailer<</Root 1 0 R/Size 3>>")),
        new("cut-short.pdf", "error handling: a PDF that ends in its header", "%PDF-1."u8.ToArray()),
        new("far-column.xlsx", "memory: a cell in column ZZZZZZ, 321 million columns out", Workbook("<row r='2'><c r='ZZZZZZ2' t='inlineStr'><is><t>x</t></is></c></row>")),
        new("last-column.xlsx", "our limit: a cell in the last column a sheet has", Workbook("<row r='2'><c r='XFD2' t='inlineStr'><is><t>x</t></is></c></row>")),
        new("far-row.xlsx", "time: a row numbered beyond any sheet", Workbook("<row r='2000000000'><c r='A2000000000'><v>1</v></c></row>")),
        new("overflowing-row.xlsx", "arithmetic: a row number beyond 64 bits", Workbook($"<row r='{new string('9', 40)}'><c r='A{new string('9', 40)}'><v>1</v></c></row>")),
        new("last-row.xlsx", "time: a list that ends in the last row a sheet has", Workbook("<row r='1'><c r='A1'><v>1</v></c></row><row r='1048576'><c r='A1048576'><v>1</v></c></row>")),
        new("negative-row.xlsx", "arithmetic: a row before the first", Workbook("<row r='-1'><c r='A-1'><v>1</v></c></row>")),
        new("many-cells.xlsx", "memory: three million cells in a few kilobytes", Workbook($"<row r='1'>{Repeat("<c/>", 3_000_000)}</row>")),
        new("bomb.xlsx", "memory: a sheet of 100 MB of blanks", Workbook(new string(' ', 100_000_000))),
        new("many-parts.xlsx", "time: 5,000 parts", Zip([.. Enumerable.Range(0, 5_000).Select(n => ($"xl/worksheets/sheet{n}.xml", "<worksheet/>"))])),
        new("deep-sheet.xlsx", "the stack: elements 100,000 deep in a sheet", Workbook($"{Repeat("<a>", 100_000)}{Repeat("</a>", 100_000)}")),
        new("entities.xlsx", "memory: entities that expand a billionfold, in a sheet", Zip((Sheet, Laughs("worksheet")))),
        new("lying-size.xlsx", "memory: a part that says it is small", LyingZip()),
        new("shared-strings.xlsx", "memory: references to shared strings that are not there", Workbook("<row r='1'><c r='A1' t='s'><v>2147483647</v></c><c r='B1' t='s'><v>-5</v></c></row>")),
        new("not-a-zip.xlsx", "error handling: what only begins like a zip", Encoding.Latin1.GetBytes("PK\u0003\u0004" + new string('x', 4_000))),
        new("commas.csv", "memory: 900,000 columns", Encoding.ASCII.GetBytes(new string(',', 900_000))),
        new("quotes.csv", "time: 900,000 quotation marks", Encoding.ASCII.GetBytes(new string('"', 900_001))),
        new("open-quote.csv", "error handling: a quotation mark never closed", Encoding.ASCII.GetBytes("a,b\n\"" + new string('x', 500_000))),
        new("one-cell.csv", "memory: one cell of 900 kB", Encoding.ASCII.GetBytes("a\n" + new string('9', 900_000))),
        new("lines.csv", "time: 400,000 rows", Encoding.ASCII.GetBytes("a\n" + Repeat("1\n", 400_000))),
        new("delimiters.csv", "time: text that looks delimited by everything", Encoding.ASCII.GetBytes(Repeat(",;|\t", 50_000) + "\n" + Repeat(",;|\t", 50_000))),
        new("half-character.csv", "text: UTF-16 that ends within a character", [0xFF, 0xFE, 0x41, 0x00, 0x3D, 0xD8]),
        new("formulas.csv", "spreadsheets that open what leaves here", "name,identifier\n=cmd|' /C calc'!A1,@SUM(1)\n"u8.ToArray()),
        new("deep.json", "the stack: arrays 100,000 deep", Encoding.ASCII.GetBytes(new string('[', 100_000) + new string(']', 100_000))),
        new("number.json", "arithmetic: a number of 100,000 digits", Encoding.ASCII.GetBytes($"[{{\"basicPay\":1e999999999}},{{\"basicPay\":{new string('9', 100_000)}}}]")),
        new("surrogates.json", "text: half a character", Encoding.ASCII.GetBytes("[{\"employerName\":\"\\ud800\",\"\\udfff\":\"x\"}]")),
        new("same-box.json", "memory: one box a hundred thousand times", Encoding.ASCII.GetBytes($"[{{{string.Join(',', Enumerable.Repeat("\"a\":1", 100_000))}}}]")),
        new("entities.xml", "memory: entities that expand a billionfold", Encoding.ASCII.GetBytes(Laughs("Statement"))),
        new("outside.xml", "the server's files: an external entity", Encoding.ASCII.GetBytes("<!DOCTYPE a [<!ENTITY e SYSTEM 'file:///etc/passwd'>]><Statements><Statement><a>&e;</a></Statement></Statements>")),
        new("deep.xml", "the stack: elements 100,000 deep", Encoding.ASCII.GetBytes($"{Repeat("<a>", 100_000)}{Repeat("</a>", 100_000)}")),
        new("attributes.xml", "time: 60,000 attributes of one element", Encoding.ASCII.GetBytes($"<Statement {string.Join(' ', Enumerable.Range(0, 60_000).Select(n => $"a{n}=''"))}/>")),
        new("repeats.xsd", "memory: parts that repeat ten thousandfold within each other", Encoding.ASCII.GetBytes(
            Xsd + "<xs:sequence maxOccurs='10000'><xs:sequence maxOccurs='10000'><xs:element name='b' maxOccurs='10000'/></xs:sequence></xs:sequence></xs:complexType></xs:element></xs:schema>")),
        new("deep.xsd", "the stack: sequences 20,000 deep", Encoding.ASCII.GetBytes(Xsd + Repeat("<xs:sequence>", 20_000) + Repeat("</xs:sequence>", 20_000) + "</xs:complexType></xs:element></xs:schema>")),
        new("include.xsd", "other machines: a schema that includes one from elsewhere", Encoding.ASCII.GetBytes("<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'><xs:include schemaLocation='http://192.0.2.1/x.xsd'/></xs:schema>")),
        new("costs.kept", "memory and time: a key to be derived with 1 GiB and sixteen lanes", KeptHeader(1024 * 1024, 10, 16)),
        new("no-costs.kept", "arithmetic: a key to be derived with nothing", KeptHeader(0, 0, 0)),
        new("deep.p12", "the stack: ASN.1 sequences 5,000 deep", NestedDer(5_000)),
        new("empty", "error handling: nothing at all", []),
        new("zeros", "error handling: zeros", new byte[100_000]),
    ];

    private static string Repeat(string text, int times) => new StringBuilder(text.Length * times).Insert(0, text, times).ToString();

    private static string Laughs(string root) =>
        "<!DOCTYPE l [<!ENTITY a0 'ha'>" + string.Concat(Enumerable.Range(1, 30).Select(n => $"<!ENTITY a{n} '&a{n - 1};&a{n - 1};'>")) + $"]><{root}><b>&a30;</b></{root}>";

    private static byte[] Pdf(string body) => Encoding.Latin1.GetBytes($"%PDF-1.4\n{body}\nstartxref\n9\n%%EOF");

    private static byte[] SelfReferringPdf()
    {
        const string head = "%PDF-1.4\n1 0 obj<</Type/Catalog/Pages 2 0 R>>endobj\n2 0 obj<</Type/Pages/Count 0/Kids[]>>endobj\n";
        return Encoding.Latin1.GetBytes(
            $"{head}xref\n0 3\n0000000000 65535 f \n0000000009 00000 n \n0000000054 00000 n \ntrailer<</Size 3/Root 1 0 R/Prev {head.Length}>>\nstartxref\n{head.Length}\n%%EOF");
    }

    private static byte[] StreamPdf(int megabytes)
    {
        using var packed = new MemoryStream();
        using (var deflate = new ZLibStream(packed, CompressionLevel.Fastest, leaveOpen: true))
        {
            var zeros = new byte[1024 * 1024];
            for (var n = 0; n < megabytes; n++)
            {
                deflate.Write(zeros);
            }
        }

        const string head = "%PDF-1.5\n";
        return
        [
            .. Encoding.Latin1.GetBytes($"{head}1 0 obj<</Type/XRef/Size 99999999/W[1 4 2]/Index[0 99999999]/Root 1 0 R/Filter/FlateDecode/Length {packed.Length}>>stream\n"),
            .. packed.ToArray(),
            .. Encoding.Latin1.GetBytes($"\nendstream endobj\nstartxref\n{head.Length}\n%%EOF"),
        ];
    }

    private static byte[] Workbook(string rows) => Zip(
        ("[Content_Types].xml", "<Types xmlns='http://schemas.openxmlformats.org/package/2006/content-types'><Default Extension='xml' ContentType='application/xml'/></Types>"),
        ("_rels/.rels", "<Relationships xmlns='http://schemas.openxmlformats.org/package/2006/relationships'><Relationship Id='r1' Type='http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument' Target='xl/workbook.xml'/></Relationships>"),
        ("xl/workbook.xml", "<workbook xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main' xmlns:r='http://schemas.openxmlformats.org/officeDocument/2006/relationships'><sheets><sheet name='a' sheetId='1' r:id='r1'/></sheets></workbook>"),
        ("xl/_rels/workbook.xml.rels", "<Relationships xmlns='http://schemas.openxmlformats.org/package/2006/relationships'><Relationship Id='r1' Type='http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet' Target='worksheets/sheet1.xml'/></Relationships>"),
        (Sheet, $"<worksheet xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main'><sheetData>{rows}</sheetData></worksheet>"));

    private static byte[] Zip(params (string Name, string Content)[] parts)
    {
        using var memory = new MemoryStream();
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, content) in parts)
            {
                using var stream = zip.CreateEntry(name, CompressionLevel.Fastest).Open();
                stream.Write(Encoding.UTF8.GetBytes(content));
            }
        }

        return memory.ToArray();
    }

    /// <summary>A workbook whose directory says that its sheet unpacks to ten bytes.</summary>
    private static byte[] LyingZip()
    {
        var zip = Workbook(Repeat("<row><c><v>1</v></c></row>", 400_000));
        for (var at = 0; at < zip.Length - 46; at++)
        {
            if (BinaryPrimitives.ReadUInt32LittleEndian(zip.AsSpan(at)) == 0x02014B50)
            {
                BinaryPrimitives.WriteInt32LittleEndian(zip.AsSpan(at + 24), 10);
            }
        }

        return zip;
    }

    private static byte[] KeptHeader(int memory, int passes, int lanes)
    {
        var file = new byte[200];
        "AERKEPT1"u8.CopyTo(file);
        BinaryPrimitives.WriteInt32BigEndian(file.AsSpan(24), memory);
        BinaryPrimitives.WriteInt32BigEndian(file.AsSpan(28), passes);
        BinaryPrimitives.WriteInt32BigEndian(file.AsSpan(32), lanes);
        return file;
    }

    private static byte[] NestedDer(int depth)
    {
        byte[] inner = [0x05, 0x00];
        for (var n = 0; n < depth; n++)
        {
            inner = [0x30, 0x82, (byte)(inner.Length >> 8), (byte)inner.Length, .. inner];
        }

        return inner;
    }
}
