namespace Aerarium.Storage;

/// <summary>The practice itself.</summary>
public sealed record PracticeRecord(string Name, byte[] SigningKey, byte[] Certificate, string CreatedAt);

/// <summary>A client and its particulars.</summary>
public sealed record ClientRecord
{
    /// <summary>Id; zero before it is stored.</summary>
    public long Id { get; init; }

    /// <summary>ISO 3166 code, lower case.</summary>
    public required string Country { get; init; }

    /// <summary>individual or company.</summary>
    public string Kind { get; init; } = ClientKinds.Individual;

    /// <summary>Taxpayer identifier.</summary>
    public required string Identifier { get; init; }

    /// <summary>Official name that belongs to the identifier.</summary>
    public required string Name { get; init; }

    /// <summary>Group of clients, a family for example.</summary>
    public string? ClientGroup { get; init; }

    /// <summary>Date of birth, 1990-12-31.</summary>
    public string? BirthDate { get; init; }

    /// <summary>Last day of a company's financial year, 12-31.</summary>
    public string? YearEnd { get; init; }

    /// <summary>E-mail address.</summary>
    public string? Email { get; init; }

    /// <summary>Telephone.</summary>
    public string? Phone { get; init; }

    /// <summary>Postal address.</summary>
    public string? PostalAddress { get; init; }

    /// <summary>Payout route: bank or mobile.</summary>
    public string? PayoutRoute { get; init; }

    /// <summary>Bank.</summary>
    public string? PayoutBank { get; init; }

    /// <summary>Branch.</summary>
    public string? PayoutBranch { get; init; }

    /// <summary>Account name.</summary>
    public string? PayoutAccountName { get; init; }

    /// <summary>Account number.</summary>
    public string? PayoutAccountNumber { get; init; }

    /// <summary>Mobile number for payout.</summary>
    public string? PayoutMobile { get; init; }

    /// <summary>The team it is restricted to, or null.</summary>
    public long? TeamId { get; init; }

    /// <summary>Raised with every change.</summary>
    public long Revision { get; init; }

    /// <summary>Particulars of its country besides these, by name.</summary>
    public IReadOnlyDictionary<string, string> More { get; init; } = new Dictionary<string, string>();

    /// <summary>A particular by the name lines follow it under.</summary>
    public string? Particular(string name) => name switch
    {
        "year-end" => YearEnd,
        "identifier" => Identifier,
        "name" => Name,
        "birth-date" => BirthDate,
        "email" => Email,
        "phone" => Phone,
        "postal-address" => PostalAddress,
        "payout-route" => PayoutRoute,
        "payout-bank" => PayoutBank,
        "payout-branch" => PayoutBranch,
        "payout-account-name" => PayoutAccountName,
        "payout-account-number" => PayoutAccountNumber,
        "payout-mobile" => PayoutMobile,
        _ => More.GetValueOrDefault(name),
    };
}

/// <summary>What a client is.</summary>
public static class ClientKinds
{
    /// <summary>A person.</summary>
    public const string Individual = "individual";

    /// <summary>A company or another body.</summary>
    public const string Company = "company";
}

/// <summary>Where a return stands.</summary>
public static class Stage
{
    /// <summary>Being filled in.</summary>
    public const string Open = "open";

    /// <summary>Handed over, waiting for approval.</summary>
    public const string Waiting = "waiting";

    /// <summary>Approved and frozen.</summary>
    public const string Approved = "approved";

    /// <summary>On its way or received, not yet answered.</summary>
    public const string Sent = "sent";

    /// <summary>Rejected by the authority; open again for correction.</summary>
    public const string Rejected = "rejected";

    /// <summary>Accepted by the authority.</summary>
    public const string Accepted = "accepted";

    /// <summary>Whether entries may be changed at this stage.</summary>
    public static bool CanChange(string stage) => stage is Open or Waiting or Approved or Rejected;
}

/// <summary>A return with what lists show of it.</summary>
public sealed record ReturnRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Client.</summary>
    public long ClientId { get; init; }

    /// <summary>Country and return.</summary>
    public required string Definition { get; init; }

    /// <summary>Tax year.</summary>
    public long Year { get; init; }

    /// <summary>Period of the year; empty for the whole year.</summary>
    public string Period { get; init; } = "";

    /// <summary>Original or amended.</summary>
    public required string Kind { get; init; }

    /// <summary>See <see cref="Storage.Stage"/>.</summary>
    public required string Stage { get; init; }

    /// <summary>Raised with every edit.</summary>
    public long Revision { get; init; }

    /// <summary>Who holds it.</summary>
    public long HolderId { get; init; }

    /// <summary>When it was opened.</summary>
    public required string OpenedAt { get; init; }

    /// <summary>Day by which it is to be filed.</summary>
    public required string Due { get; init; }

    /// <summary>Balance, canonical decimal text.</summary>
    public string Balance { get; init; } = "0";

    /// <summary>Errors left.</summary>
    public long Errors { get; init; }

    /// <summary>Warnings neither corrected nor accepted.</summary>
    public long Warnings { get; init; }

    /// <summary>One as soon as a person entered anything.</summary>
    public long Started { get; init; }

    /// <summary>Penalty and interest run until <see cref="CheckedOn"/>, canonical decimal text.</summary>
    public string Charges { get; init; } = "0";

    /// <summary>What is left to pay of a filed return, canonical decimal text.</summary>
    public string Unpaid { get; init; } = "0";

    /// <summary>Day of the evaluation that lists show.</summary>
    public string CheckedOn { get; init; } = "";
}

/// <summary>What lists show of a return, as one evaluation found it.</summary>
/// <param name="Revision">Revision evaluated.</param>
/// <param name="Balance">Balance, canonical decimal text.</param>
/// <param name="Errors">Errors left.</param>
/// <param name="Warnings">Warnings left.</param>
/// <param name="Due">Day by which it is to be filed, extensions included.</param>
/// <param name="Charges">Penalty and interest run so far, canonical decimal text.</param>
/// <param name="CheckedOn">Day of evaluation.</param>
public sealed record ReturnSummary(long Revision, string Balance, int Errors, int Warnings, string Due, string Charges, string CheckedOn);

/// <summary>A stored entry.</summary>
public sealed record EntryRecord(
    string Line, string Row, string? Value, string Origin, string? Source, string? Expression, long Revision, long ChangedBy, string ChangedAt);

/// <summary>A stored row of a repeating section.</summary>
public sealed record RowRecord(string Section, string Row, long Position);

/// <summary>An accepted warning.</summary>
public sealed record AcceptanceRecord(string Finding, string Row, string Message, string Reason, string PersonName, string At);

/// <summary>An approval and how it went.</summary>
public sealed record ApprovalRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Return.</summary>
    public long ReturnId { get; init; }

    /// <summary>handed-over, approved, returned or withdrawn.</summary>
    public required string State { get; init; }

    /// <summary>Who handed it over.</summary>
    public long HandedOverBy { get; init; }

    /// <summary>When.</summary>
    public required string HandedOverAt { get; init; }

    /// <summary>Who approved it.</summary>
    public long? ApprovedBy { get; init; }

    /// <summary>When.</summary>
    public string? ApprovedAt { get; init; }

    /// <summary>Who signed second, where the practice asks for two.</summary>
    public long? SecondBy { get; init; }

    /// <summary>When.</summary>
    public string? SecondAt { get; init; }

    /// <summary>Remark of the approver, or why it was withdrawn.</summary>
    public string? Remark { get; init; }

    /// <summary>Revision of the return that was handed over.</summary>
    public long Revision { get; init; }

    /// <summary>Revision of the rules.</summary>
    public required string FigureRevision { get; init; }

    /// <summary>The frozen entries, an artefact.</summary>
    public string? EntriesSha256 { get; init; }
}

/// <summary>A built e-return.</summary>
public sealed record BuiltRecord(
    long Id, long ReturnId, long ApprovalId, string BuiltAt, string SchemaSha256, string EreturnSha256, string CopySha256, string Faults, string? Signature);

/// <summary>A sending and where it stands.</summary>
public sealed record SendingRecord
{
    /// <summary>Id.</summary>
    public long Id { get; init; }

    /// <summary>Return.</summary>
    public long ReturnId { get; init; }

    /// <summary>What is sent.</summary>
    public long BuiltId { get; init; }

    /// <summary>The same key is the same filing, however often it is tried.</summary>
    public required string IdempotencyKey { get; init; }

    /// <summary>queued, pending, accepted or rejected.</summary>
    public required string State { get; init; }

    /// <summary>Attempts so far.</summary>
    public long Attempts { get; init; }

    /// <summary>Not before.</summary>
    public required string NextAttemptAt { get; init; }

    /// <summary>When a mail was last sent; null for what does not go by mail.</summary>
    public string? SentAt { get; init; }

    /// <summary>The authority's number.</summary>
    public string? Submission { get; init; }

    /// <summary>Acknowledgement number.</summary>
    public string? Acknowledgement { get; init; }

    /// <summary>Reasons of a rejection, JSON.</summary>
    public string? Reasons { get; init; }

    /// <summary>What went wrong at the last attempt.</summary>
    public string? Problem { get; init; }

    /// <summary>The receipt, an artefact.</summary>
    public string? ReceiptSha256 { get; init; }

    /// <summary>The authority's signature over the receipt: detached JWS (RFC 7515).</summary>
    public string? ReceiptSignature { get; init; }

    /// <summary>Who sent it.</summary>
    public long CreatedBy { get; init; }

    /// <summary>When it was queued.</summary>
    public required string CreatedAt { get; init; }

    /// <summary>When it was answered.</summary>
    public string? AnsweredAt { get; init; }
}

/// <summary>An act: who did what, when, and what it changed.</summary>
public sealed record ActRecord
{
    /// <summary>Id, rising.</summary>
    public long Id { get; init; }

    /// <summary>When.</summary>
    public required string At { get; init; }

    /// <summary>Who; null for the system.</summary>
    public long? PersonId { get; init; }

    /// <summary>Name of who.</summary>
    public required string PersonName { get; init; }

    /// <summary>What: entry, add-row, hand-over, approve, send ...</summary>
    public required string Kind { get; init; }

    /// <summary>Return.</summary>
    public long? ReturnId { get; init; }

    /// <summary>Client.</summary>
    public long? ClientId { get; init; }

    /// <summary>Line.</summary>
    public string? Line { get; init; }

    /// <summary>Row.</summary>
    public string? Row { get; init; }

    /// <summary>Before.</summary>
    public string? Before { get; init; }

    /// <summary>After.</summary>
    public string? After { get; init; }

    /// <summary>Origin of the new value.</summary>
    public string? Origin { get; init; }

    /// <summary>For an edit: the seal over everything entered on the return, in hexadecimal digits.</summary>
    public string? Seal { get; init; }

    /// <summary>The deleted client with whom its contents were erased, or null.</summary>
    public long? ErasedWith { get; init; }

    /// <summary>Hash of the act before.</summary>
    public string PreviousHash { get; init; } = "";

    /// <summary>Hash of this act and the hash before.</summary>
    public string Hash { get; init; } = "";
}
