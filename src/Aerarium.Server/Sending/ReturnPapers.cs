using System.Globalization;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Paying;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Sending;

/// <summary>Papers about a filed return for people and banks: printed copy, acknowledgement, payment slip.</summary>
public sealed class ReturnPapers(PaymentDesk payments, TimeProvider clock)
{
    /// <summary>What the printed copy of an approved return says beside its figures.</summary>
    /// <param name="unit">Unit of work.</param>
    /// <param name="record">The return.</param>
    /// <param name="approval">The approval it rests on; one that is not approved prints a draft.</param>
    /// <param name="printed">The day printed.</param>
    /// <param name="acknowledgement">The number it was accepted under, or null.</param>
    public static PrintedCopyFacts FactsOf(Unit unit, ReturnRecord record, ApprovalRecord? approval, DateOnly printed, string? acknowledgement = null) => new(
        Practices.Find(unit)!.Name,
        Storage.Clients.NameOf(unit, record.ClientId),
        record.Kind,
        approval is { State: "approved", ApprovedBy: { } by } ? $"Approved by {People.Find(unit, by)!.Name}, {approval.ApprovedAt![..10]}" : null,
        printed,
        acknowledgement);

    /// <summary>The acknowledgement of an accepted sending, for people.</summary>
    /// <param name="unit">Unit of work.</param>
    /// <param name="sending">The sending, with its acknowledgement.</param>
    /// <param name="evaluation">The frozen return.</param>
    public byte[] Acknowledgement(Unit unit, SendingRecord sending, Evaluation evaluation)
    {
        var record = Storage.Returns.Find(unit, sending.ReturnId)!;
        var client = Storage.Clients.Find(unit, record.ClientId)!;
        var built = BuiltReturns.Find(unit, sending.BuiltId)!;
        var approval = Approvals.Find(unit, built.ApprovalId)!;
        var definition = evaluation.Definition;
        string NameOf(long? person) => person is { } id ? People.Find(unit, id)?.Name ?? "" : "";
        return FilingPapers.Draw(new PaperFacts(
            Practices.Find(unit)!.Name,
            "Acknowledgement",
            $"{client.Name}, {definition.Title} {Periods.InWords(record.Year, record.Period)}, {record.Kind}",
            [
                new("Acknowledgement", sending.Acknowledgement!),
                new("The authority's number", sending.Submission ?? ""),
                new("Taxpayer", $"{client.Name}, {client.Identifier}"),
                new("Return", $"{definition.Title}, {Periods.InWords(record.Year, record.Period)}, {record.Kind}"),
                .. definition.HasBalance ? [new PaperRow(evaluation.Balance < 0 ? definition.BalanceWords.Overpaid : definition.BalanceWords.ToPay, $"{definition.Numbers.Money(Math.Abs(evaluation.Balance))} {definition.Currency}")] : (PaperRow[])[],
                new("Approved by", NameOf(approval.ApprovedBy)),
                new("Sent", $"{InWords(sending.CreatedAt)} by {NameOf(sending.CreatedBy)}"),
                new("Accepted", InWords(Moments.Text(clock.GetUtcNow()))),
                new("File", FileNames.Of(unit, record.Id, EReturnFormat.Of(Artefacts.Get(unit, built.EreturnSha256)).Ending)),
                new("Fingerprint of the file (SHA-256)", built.EreturnSha256),
            ],
            "The authority's own answer, with its signature over these facts, is kept in the Parcel of the return. Simulated authority, not a real one.",
            clock.Today()));
    }

    /// <summary>The payment slip of a return as of today; null when nothing is to pay.</summary>
    public byte[]? Slip(Unit unit, long returnId)
    {
        var advice = payments.View(returnId);
        if (advice.Parts.Count == 0)
        {
            return null;
        }

        var record = Storage.Returns.Find(unit, returnId)!;
        var client = Storage.Clients.Find(unit, record.ClientId)!;
        var type = Catalogue.TypeOf(record.Definition);
        var authority = Catalogue.AuthorityOf(type.Id);
        var numbers = PracticeDefinitions.NumbersOf(unit, type.Country);
        string Money(string amount) => $"{numbers.Money(decimal.Parse(amount, CultureInfo.InvariantCulture))} {advice.Currency}";
        using var code = QRCoder.QRCodeGenerator.GenerateQrCode(advice.Reference, QRCoder.QRCodeGenerator.ECCLevel.M);
        return FilingPapers.Draw(new PaperFacts(
            Practices.Find(unit)!.Name,
            "Payment slip",
            $"{client.Name}, {type.Title} {Periods.InWords(record.Year, record.Period)}",
            [
                new("Pay to", authority.Collection.Name),
                new("Account", authority.Collection.Account),
                new("Reference", string.Join(' ', advice.Reference.Chunk(4).Select(c => new string(c)))),
                new("Taxpayer", $"{client.Name}, {client.Identifier}"),
                .. advice.Parts.SelectMany(p => new PaperRow[] { new(p.Label, $"{Money(p.Unpaid)}, by {InWords(p.Due)}") }
                    .Concat(p.Charges.Select(c => new PaperRow($"  {c.Label}", $"{Money(c.Amount)}, if paid on {InWords(advice.On)}")))),
                new("Left to pay", Money(advice.Left)),
            ],
            $"As of {InWords(advice.On)}. Give the reference with the payment; each payment counts towards the part with the earliest day.",
            clock.Today())
        {
            Code = [.. code.ModuleMatrix.Select(row => row.Cast<bool>().ToArray())],
        });
    }

    /// <summary>Printed copy, acknowledgement and payment slip in one file.</summary>
    /// <exception cref="PlainProblem">The return has not been accepted.</exception>
    public byte[] SetForBank(Unit unit, long returnId)
    {
        var sending = AcceptedOf(unit, returnId);
        return FilingPapers.Together(
        [
            Artefacts.Get(unit, sending.CopySha256!), Artefacts.Get(unit, sending.AcknowledgementSha256!), .. Slip(unit, returnId) is { } slip ? (byte[][])[slip] : [],
        ]);
    }

    /// <summary>The accepted sending of a return, with its papers.</summary>
    /// <exception cref="PlainProblem">There is none.</exception>
    public static SendingRecord AcceptedOf(Unit unit, long returnId) =>
        Sendings.OfReturn(unit, returnId).FirstOrDefault(s => s is { State: "accepted", CopySha256: not null, AcknowledgementSha256: not null })
        ?? throw PlainProblem.Conflict("These papers exist once the authority has accepted the return.");

    private static string InWords(string moment) => DateTimeOffset.Parse(moment, CultureInfo.InvariantCulture).ToString("d MMMM yyyy, HH:mm 'UTC'", CultureInfo.InvariantCulture);

    private static string InWords(DateOnly day) => day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
}
