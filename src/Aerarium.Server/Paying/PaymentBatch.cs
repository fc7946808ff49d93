using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Aerarium.Core.Days;
using Aerarium.Core.Entries;
using Aerarium.Core.Identifiers;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Reader;
using Aerarium.Server.Access;
using Aerarium.Server.Gathering;
using Aerarium.Storage;

namespace Aerarium.Server.Paying;

/// <summary>What is asked for a file of payments.</summary>
/// <param name="Returns">The returns; what is due for each by the day is paid.</param>
/// <param name="On">The day on which the bank pays, as typed.</param>
/// <param name="Account">The account that is debited.</param>
public sealed record PaymentFileRequest(IReadOnlyList<long>? Returns, string? On, string? Account);

/// <summary>How a bank statement was read.</summary>
/// <param name="Rows">Rows of the file.</param>
/// <param name="Matched">Payments noted.</param>
/// <param name="Known">Rows that were noted before.</param>
/// <param name="Remarks">Rows that belong to no return, or cannot be read.</param>
public sealed record MatchReport(int Rows, int Matched, int Known, IReadOnlyList<ImportRemark> Remarks);

/// <summary>Payments of many returns at once: a file for the bank, and the bank's statement matched by reference.</summary>
public sealed class PaymentBatch(PracticeDatabase database, PaymentDesk desk, TimeProvider clock)
{
    private const int MostReturns = 2_000;
    private const int LongestAccount = 34;

    /// <summary>The file for the bank: what is due for every return by the day, charges included.</summary>
    /// <exception cref="PlainProblem">The day or the account cannot be read, or nothing is due.</exception>
    public byte[] File(PaymentFileRequest asked, Caller caller)
    {
        if (asked.Returns is null or { Count: 0 or > MostReturns })
        {
            throw PlainProblem.Refused($"Choose between 1 and {MostReturns} returns.");
        }

        if (!TypedDay.TryRead(asked.On, null, clock.Today(), out var on) || on < clock.Today())
        {
            throw PlainProblem.Refused($"'{asked.On}' is not a day on which the bank can pay; give today or a later one, such as 30/06/2026.");
        }

        var account = EntryReader.Clean(asked.Account).Replace(" ", "", StringComparison.Ordinal);
        if (account.Length is 0 or > LongestAccount || !account.All(char.IsAsciiLetterOrDigit))
        {
            throw PlainProblem.Refused($"Give the account that is debited, letters and digits, at most {LongestAccount}.");
        }

        var now = clock.GetUtcNow();
        return database.Write(unit =>
        {
            var transfers = asked.Returns.Distinct().Order().Select(id => Transfer(unit, id, on, caller)).OfType<CreditTransfer>().ToList();
            if (transfers.Count == 0)
            {
                throw PlainProblem.Conflict($"Nothing is due for these returns by {on.ToString("d MMMM yyyy", CultureInfo.InvariantCulture)}.");
            }

            var message = $"AER{now.UtcDateTime:yyyyMMddHHmmss}";
            var file = CreditTransferFile.Write(message, now, on, new Creditor(Practices.Find(unit)!.Name, account), transfers);
            Acts.Add(unit, caller.Act("payment-file", now) with { After = $"{message}, {transfers.Count} payments, sha256 {Convert.ToHexStringLower(SHA256.HashData(file))}" });
            return file;
        });
    }

    /// <summary>Reads a bank statement (Date, Amount, Reference) and notes what carries the reference of a return; each row counts once.</summary>
    public MatchReport Match(ImportedTable table, Caller caller)
    {
        int Column(string name) => table.Headings.ToList().FindIndex(h => ImportedTables.Plain(h) == name) is >= 0 and var at ? at
            : throw PlainProblem.Refused($"The statement has no column '{name}'; it needs Date, Amount and Reference.");
        var (date, amount, reference) = (Column("date"), Column("amount"), Column("reference"));
        var mark = ImportedTables.DecimalMark(table.Rows.Select(r => r.Cells.ElementAtOrDefault(amount) ?? ""));
        var (matched, known, remarks) = (0, 0, new List<ImportRemark>());
        foreach (var (number, cells) in table.Rows)
        {
            var text = (cells.ElementAtOrDefault(reference) ?? "").Replace(" ", "", StringComparison.Ordinal).ToUpperInvariant();
            if (ReturnOf(text, caller) is not { } id)
            {
                remarks.Add(new ImportRemark(number, "Reference", cells.ElementAtOrDefault(reference), CreditorReference.IsValid(text) ? "No return has this reference." : "This is no reference of a return; its check digits do not fit."));
                continue;
            }

            try
            {
                var typed = new PaymentInput(cells.ElementAtOrDefault(date), mark(cells.ElementAtOrDefault(amount) ?? ""), $"{text} {cells.ElementAtOrDefault(date)}");
                desk.Note(id, typed, caller);
                matched++;
            }
            catch (PlainProblem problem) when (problem.Status == StatusCodes.Status409Conflict)
            {
                known++;
            }
            catch (PlainProblem problem)
            {
                remarks.Add(new ImportRemark(number, "Row", null, problem.Message));
            }
        }

        return new MatchReport(table.Rows.Count, matched, known, remarks);
    }

    private CreditTransfer? Transfer(Unit unit, long id, DateOnly on, Caller caller)
    {
        var record = Storage.Returns.Find(unit, id) is { } found && caller.Reach.Sees(unit, id) ? found : throw PlainProblem.NotFound($"Return {id}");
        var advice = desk.View(id, on);
        var due = decimal.Parse(advice.DueBy, CultureInfo.InvariantCulture);
        return record.Stage is not (Stage.Sent or Stage.Accepted) || due <= 0
            ? null
            : new CreditTransfer($"{advice.Reference}-{on:yyyyMMdd}", due, advice.Currency, Catalogue.AuthorityOf(record.Definition).Collection, advice.Reference);
    }

    private long? ReturnOf(string reference, Caller caller)
    {
        var at = reference.LastIndexOf('R');
        if (!CreditorReference.IsValid(reference) || at < 4 || !long.TryParse(reference.AsSpan(at + 1), NumberStyles.None, CultureInfo.InvariantCulture, out var id))
        {
            return null;
        }

        return database.Read(unit => Storage.Returns.Find(unit, id) is { } record && caller.Reach.Sees(unit, id) && PaymentDesk.ReferenceOf(record) == reference ? id : (long?)null);
    }
}

internal static class PaymentBatchEndpoints
{
    public static void MapPaymentBatch(this RouteGroupBuilder api)
    {
        var payments = api.MapGroup("/payments").ReachesPractice().WithTags("Paying");
        payments.MapPost("/file", (PaymentFileRequest asked, ClaimsPrincipal user, PaymentBatch batch) => Results.File(batch.File(asked, Caller.Of(user)), CreditTransferFile.MediaType, "payments.xml"))
            .RequireAuthorization(Policies.Approve).Produces(StatusCodes.Status200OK, contentType: CreditTransferFile.MediaType);
        payments.MapPost("/match", async (HttpRequest request, ClaimsPrincipal user, PaymentBatch batch, ForeignFiles files, CancellationToken cancellation) =>
            batch.Match(await files.TableAsync(await ForeignFiles.BodyAsync(request), user, cancellation), Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        api.MapGet("/returns/{id:long}/payments/reference.svg", (long id, PaymentDesk desk) =>
        {
            using var data = QRCoder.QRCodeGenerator.GenerateQrCode(desk.View(id).Reference, QRCoder.QRCodeGenerator.ECCLevel.M);
            using var picture = new QRCoder.SvgQRCode(data);
            return Results.Bytes(Encoding.UTF8.GetBytes(picture.GetGraphic(4, "#22282B", "#FFFFFF", sizingMode: QRCoder.SvgQRCode.SizingMode.ViewBoxAttribute)), "image/svg+xml");
        }).ReachesReturn().WithTags("Paying").Produces(StatusCodes.Status200OK, contentType: "image/svg+xml");
    }
}
