using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using Aerarium.Core.Identifiers;
using Aerarium.Filing;

namespace Aerarium.Server.Tests;

/// <summary>
/// Payments of many returns: the file for the bank by the rules of ISO 20022 pain.001.001.09 (element order, counts, control sums, sizes; from
/// memory of the standard), and the bank's statement matched by reference.
/// </summary>
public class PaymentBatchTests : IAsyncLifetime
{
    private static readonly XNamespace Iso = "urn:iso:std:iso:20022:tech:xsd:pain.001.001.09";
    private Practice _practice = null!;
    private Browser _rukia = null!, _mosi = null!;
    private long _njeri;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        (_rukia, _mosi) = (await _practice.SignInAsync(0), await _practice.SignInAsync(1));
        await _rukia.WaitForAnswersAsync();
        _njeri = await _rukia.ReturnOfAsync("Njeri", 2024);
    }

    public ValueTask DisposeAsync() => _practice.DisposeAsync();

    private async Task<string> ReferenceAsync(long id) => (await _rukia.GetAsync($"/api/returns/{id}/payments"))["reference"]!.GetValue<string>();

    private Task<(HttpStatusCode Status, JsonNode? Answer)> RefusedAsync(object body) => _mosi.SendAsync(HttpMethod.Post, "/api/payments/file", body);

    private Task<(HttpStatusCode Status, JsonNode Answer)> MatchAsync(string statement) => _rukia.UploadAsync("/api/payments/match", Encoding.UTF8.GetBytes(statement));

    private async Task<XDocument> FileAsync(params long[] returns)
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/payments/file") { Content = JsonContent.Create(new { returns, on = "2026-06-18", account = "KE 4400 1100" }) };
        request.Headers.Add("X-Aerarium-Token", (await _mosi.GetAsync("/api/session"))["token"]!.GetValue<string>());
        using var response = await _mosi.Http.SendAsync(request);
        Assert.Equal((HttpStatusCode.OK, "application/xml"), (response.StatusCode, response.Content.Headers.ContentType!.MediaType));
        return XDocument.Parse(await response.Content.ReadAsStringAsync());
    }

    /// <summary>Njeri's 4,537.50 of 2024 with 226.88 and 635.25 for being late, paid on 18 June 2026 (TPA s. 83A, 38).</summary>
    [Fact]
    public async Task What_is_due_is_paid_with_its_charges_under_its_reference()
    {
        var file = await FileAsync(_njeri, await _rukia.ReturnOfAsync("Kofi", 2025), _njeri);
        var transfer = Assert.Single(file.Descendants(Iso + "CdtTrfTxInf"));
        Assert.Equal(("5399.63", "KES"), (transfer.Descendants(Iso + "InstdAmt").Single().Value, transfer.Descendants(Iso + "InstdAmt").Single().Attribute("Ccy")!.Value));
        var reference = transfer.Descendants(Iso + "CdtrRefInf").Single();
        Assert.Equal(("SCOR", "ISO"), (reference.Descendants(Iso + "Cd").Single().Value, reference.Descendants(Iso + "Issr").Single().Value));
        Assert.Equal(await ReferenceAsync(_njeri), reference.Element(Iso + "Ref")!.Value);
        Assert.Equal("KE44001100", file.Descendants(Iso + "DbtrAcct").Single().Descendants(Iso + "Id").Last().Value);
        Assert.Contains((await _mosi.GetAsync("/api/acts")).AsArray(), a => a!["kind"]!.GetValue<string>() == "payment-file");
    }

    [Fact]
    public void The_file_keeps_the_shape_of_the_standard()
    {
        CreditTransfer Transfer(int n, string currency) => new($"RF18539007547034-{n}", n + 0.05m, currency, new Creditor(new string('x', 200), "SIM1"), "RF18539007547034");
        var bytes = CreditTransferFile.Write("AER1", new DateTimeOffset(2026, 6, 18, 9, 30, 0, TimeSpan.Zero), new DateOnly(2026, 6, 30), new Creditor("Practice & Co", "ACC1"), [Transfer(1, "KES"), Transfer(2, "PHP"), Transfer(3, "KES")]);
        var root = XDocument.Parse(Encoding.UTF8.GetString(bytes)).Root!.Element(Iso + "CstmrCdtTrfInitn")!;
        string[] Names(XElement element) => [.. element.Elements().Select(e => e.Name.LocalName)];
        Assert.Equal(["GrpHdr", "PmtInf", "PmtInf"], Names(root));
        Assert.Equal(["MsgId", "CreDtTm", "NbOfTxs", "CtrlSum", "InitgPty"], Names(root.Element(Iso + "GrpHdr")!));
        Assert.Equal(("3", "6.15", "2026-06-18T09:30:00Z"), (root.Element(Iso + "GrpHdr")!.Element(Iso + "NbOfTxs")!.Value, root.Element(Iso + "GrpHdr")!.Element(Iso + "CtrlSum")!.Value, root.Element(Iso + "GrpHdr")!.Element(Iso + "CreDtTm")!.Value));
        foreach (var information in root.Elements(Iso + "PmtInf"))
        {
            Assert.Equal(["PmtInfId", "PmtMtd", "NbOfTxs", "CtrlSum", "ReqdExctnDt", "Dbtr", "DbtrAcct", "DbtrAgt"], Names(information)[..8]);
            var transfers = information.Elements(Iso + "CdtTrfTxInf").ToList();
            Assert.Equal($"{transfers.Count}", information.Element(Iso + "NbOfTxs")!.Value);
            Assert.Equal(
                decimal.Parse(information.Element(Iso + "CtrlSum")!.Value, System.Globalization.CultureInfo.InvariantCulture),
                transfers.Sum(t => decimal.Parse(t.Descendants(Iso + "InstdAmt").Single().Value, System.Globalization.CultureInfo.InvariantCulture)));
            Assert.All(transfers, t => Assert.Equal(["PmtId", "Amt", "Cdtr", "CdtrAcct", "RmtInf"], Names(t)));
            Assert.All(transfers, t => Assert.True(t.Descendants(Iso + "EndToEndId").Single().Value.Length <= 35 && t.Element(Iso + "Cdtr")!.Value.Length <= 140));
        }

        Assert.Equal(bytes, CreditTransferFile.Write("AER1", new DateTimeOffset(2026, 6, 18, 9, 30, 0, TimeSpan.Zero), new DateOnly(2026, 6, 30), new Creditor("Practice & Co", "ACC1"), [Transfer(1, "KES"), Transfer(2, "PHP"), Transfer(3, "KES")]));
        Assert.Equal(0, WellFormed(bytes));
    }

    /// <summary>xmllint (libxml2) reads it.</summary>
    private static int WellFormed(byte[] xml)
    {
        using var process = Process.Start(new ProcessStartInfo("xmllint", "--noout -") { RedirectStandardInput = true, RedirectStandardError = true })!;
        process.StandardInput.BaseStream.Write(xml);
        process.StandardInput.Close();
        process.WaitForExit();
        return process.ExitCode;
    }

    [Fact]
    public async Task A_file_needs_a_day_an_account_and_something_due()
    {
        foreach (var (on, account, said) in new[] { ("yesterday", "A1", "not a day"), ("17/06/2026", "A1", "not a day"), ("18/06/2026", " ", "account"), ("18/06/2026", "A-1", "account") })
        {
            var (status, answer) = await RefusedAsync(new { returns = new[] { _njeri }, on, account });
            Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
            Assert.Contains(said, answer!["detail"]!.GetValue<string>());
        }

        var refund = await _rukia.ReturnOfAsync("Kofi", 2025);
        Assert.Equal(HttpStatusCode.Conflict, (await RefusedAsync(new { returns = new[] { refund }, on = "18/06/2026", account = "A1" })).Status);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await RefusedAsync(new { returns = Array.Empty<long>(), on = "18/06/2026", account = "A1" })).Status);
        Assert.Equal(HttpStatusCode.Forbidden, (await _rukia.SendAsync(HttpMethod.Post, "/api/payments/file", new { returns = new[] { _njeri }, on = "18/06/2026", account = "A1" })).Status);
    }

    [Fact]
    public async Task A_bank_statement_is_matched_by_reference_and_every_row_counts_once()
    {
        var reference = await ReferenceAsync(_njeri);
        var foreign = CreditorReference.For("KE2024R999");
        var statement = $"Date;Amount;Reference\n17/06/2026;4.000,00;{reference[..4]} {reference[4..]}\n18/06/2026;537,50;{reference.ToLowerInvariant()}\n18/06/2026;10,00;{foreign}\n18/06/2026;10,00;RF00KE2024R1\n31/02/2026;10,00;{reference}\n";
        var (_, report) = await MatchAsync(statement);
        Assert.Equal((5, 2, 0), (report["rows"]!.GetValue<int>(), report["matched"]!.GetValue<int>(), report["known"]!.GetValue<int>()));
        var remarks = report["remarks"]!.AsArray();
        Assert.Equal([4, 5, 6], remarks.Select(r => r!["row"]!.GetValue<int>()));
        Assert.Contains("No return", remarks[0]!["message"]!.GetValue<string>());
        Assert.Contains("check digits", remarks[1]!["message"]!.GetValue<string>());
        var (_, again) = await MatchAsync(statement);
        Assert.Equal((0, 2), (again["matched"]!.GetValue<int>(), again["known"]!.GetValue<int>()));
        var payments = await _rukia.GetAsync($"/api/returns/{_njeri}/payments");
        Assert.Equal(("4537.5", "0", "862.13"), (payments["paid"]!.GetValue<string>(), payments["unpaid"]!.GetValue<string>(), payments["left"]!.GetValue<string>()));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await MatchAsync("Day;Sum\n1;2\n")).Status);
    }

    [Fact]
    public async Task The_reference_is_drawn_as_a_code()
    {
        var picture = await _rukia.Http.GetStringAsync($"/api/returns/{_njeri}/payments/reference.svg");
        Assert.StartsWith("<svg", picture);
    }
}
