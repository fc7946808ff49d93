using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Aerarium.Cli;
using Aerarium.Filing;

namespace Aerarium.Server.Tests;

/// <summary>A Parcel is verified on its own, by the command line; what was changed in it is found.</summary>
public sealed class ParcelTests(SharedPractice shared) : IClassFixture<SharedPractice>, IAsyncLifetime
{
    private readonly string _folder = Directory.CreateTempSubdirectory("aerarium-parcels").FullName;
    private byte[] _parcel = [];

    public async ValueTask InitializeAsync()
    {
        var mosi = await shared.Practice.SignInAsync(1);
        await mosi.WaitForAnswersAsync();
        var amara = await mosi.ReturnOfAsync("Amara", 2025);
        _parcel = await mosi.Http.GetByteArrayAsync($"/api/returns/{amara}/sending/parcel.zip");
    }

    public ValueTask DisposeAsync()
    {
        Directory.Delete(_folder, recursive: true);
        return ValueTask.CompletedTask;
    }

    private (int Exit, string Words) Verify(byte[] parcel)
    {
        var path = Path.Combine(_folder, "parcel.zip");
        File.WriteAllBytes(path, parcel);
        using var output = new StringWriter();
        return (VerifyCommand.Run(path, output, output), output.ToString());
    }

    /// <summary>The Parcel with a file changed; with a manifest made to fit, as somebody would who wants to hide it.</summary>
    private byte[] With(string name, Func<byte[], byte[]> change, bool fitManifest = true)
    {
        var files = Parcel.Open(_parcel).ToDictionary(f => f.Key, f => f.Key == name ? change(f.Value) : f.Value);
        if (fitManifest)
        {
            return Parcel.Pack(new Dictionary<string, string>(), [.. files.Select(f => new ParcelFile(f.Key, f.Value))]);
        }

        using var memory = new MemoryStream();
        memory.Write(_parcel);
        using (var zip = new ZipArchive(memory, ZipArchiveMode.Update, leaveOpen: true))
        {
            zip.GetEntry(name)!.Delete();
            using var entry = zip.CreateEntry(name).Open();
            entry.Write(files[name]);
        }

        return memory.ToArray();
    }

    private static Func<byte[], byte[]> Text(string from, string to) => content =>
    {
        var text = Encoding.UTF8.GetString(content);
        Assert.Contains(from, text);
        return Encoding.UTF8.GetBytes(text.Replace(from, to, StringComparison.Ordinal));
    };

    [Fact]
    public void A_parcel_holds_on_its_own()
    {
        var (exit, words) = Verify(_parcel);
        Assert.True(exit == 0, words);
        foreach (var said in new[] { "figures come out as frozen", "has the same bytes", "valid by the schema", "signed by Lantern Reef Tax Practice", "signed by Simulated authority", "about this e-return", "accepted as ACK-2025-", "acts are as the Ledger has them" })
        {
            Assert.Contains(said, words);
        }
    }

    [Fact]
    public void The_same_parcel_has_the_same_bytes() =>
        Assert.Equal(Convert.ToHexString(SHA256.HashData(_parcel)), Convert.ToHexString(SHA256.HashData(Parcel.Pack(About(), [.. Parcel.Open(_parcel).Select(f => new ParcelFile(f.Key, f.Value))]))));

    /// <summary>Papers for people and banks: the printed copy in the Parcel bears the number, the acknowledgement stands beside it, and before acceptance there are none.</summary>
    [Fact]
    public async Task What_was_accepted_has_papers_that_bear_its_number()
    {
        var mosi = await shared.Practice.SignInAsync(1);
        var amara = await mosi.ReturnOfAsync("Amara", 2025);
        var files = Parcel.Open(_parcel);
        Assert.Equal(files[ParcelFiles.PrintedCopy], (await mosi.FetchAsync(HttpMethod.Get, $"/api/returns/{amara}/printed-copy.pdf")).Content);
        Assert.Equal(files[ParcelFiles.Acknowledgement], (await mosi.FetchAsync(HttpMethod.Get, $"/api/returns/{amara}/sending/acknowledgement.pdf")).Content);
        Assert.Equal("approved by another person than who handed it over", About()["approval"]);
        var pages = await FetchPagesAsync($"/api/returns/{amara}/sending/bank-set.pdf");
        Assert.Equal(await FetchPagesAsync($"/api/returns/{amara}/printed-copy.pdf") + 1, pages);
        var open = await mosi.ReturnOfAsync("Zuri", 2025);
        Assert.Equal(System.Net.HttpStatusCode.Conflict, (await mosi.FetchAsync(HttpMethod.Get, $"/api/returns/{open}/sending/acknowledgement.pdf")).Status);

        async Task<int> FetchPagesAsync(string path)
        {
            using var stream = new MemoryStream((await mosi.FetchAsync(HttpMethod.Get, path)).Content);
            using var pdf = PdfSharp.Pdf.IO.PdfReader.Open(stream, PdfSharp.Pdf.IO.PdfDocumentOpenMode.Import);
            return pdf.PageCount;
        }
    }

    private Dictionary<string, string> About()
    {
        using var zip = new ZipArchive(new MemoryStream(_parcel));
        using var manifest = zip.GetEntry("manifest.json")!.Open();
        return JsonSerializer.Deserialize<JsonObject>(manifest)!["about"]!.AsObject().ToDictionary(a => a.Key, a => a.Value!.GetValue<string>());
    }

    [Theory]
    [InlineData("e-return.xml", "1080000", "1080001", "signature does not hold")]
    [InlineData("frozen-return.json", "1080000", "1090000", "figures come out as frozen")]
    [InlineData("receipt.json", "ACK-2025-", "ACK-2026-", "receipt's signature does not hold")]
    [InlineData("acts.json", "\"after\": \"waiting\"", "\"after\": \"approved\"", "is not as the Ledger had it")]
    public void What_was_changed_is_found_although_the_manifest_was_made_to_fit(string file, string from, string to, string said)
    {
        var (exit, words) = Verify(With(file, Text(from, to)));
        Assert.Equal(1, exit);
        Assert.Contains(words.Split('\n'), line => line.StartsWith("WRONG", StringComparison.Ordinal) && line.Contains(said, StringComparison.Ordinal));
    }

    [Fact]
    public void A_changed_file_is_named_by_the_manifest()
    {
        var (exit, words) = Verify(With("printed-copy.pdf", content => [.. content, 0], fitManifest: false));
        Assert.Equal(1, exit);
        Assert.Contains("printed-copy.pdf is not what the manifest says", words);
    }

    [Fact]
    public void A_parcel_without_its_receipt_does_not_hold()
    {
        var files = Parcel.Open(_parcel).Where(f => f.Key != "receipt.jws").Select(f => new ParcelFile(f.Key, f.Value));
        var (exit, words) = Verify(Parcel.Pack(new Dictionary<string, string>(), [.. files]));
        Assert.Equal(1, exit);
        Assert.Contains("no signed receipt", words);
    }

    [Theory]
    [InlineData("")]
    [InlineData("PK nothing")]
    public void What_is_no_parcel_is_told(string content)
    {
        var (exit, words) = Verify(Encoding.UTF8.GetBytes(content));
        Assert.Equal(1, exit);
        Assert.Contains("This is no Parcel", words);
    }
}
