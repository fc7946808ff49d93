using System.Buffers.Binary;
using System.Collections.Concurrent;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Aerarium.StandIn;

/// <summary>Where a return says what an assessment speaks about; paths of element names below the root.</summary>
/// <param name="Figures">The figures an assessment repeats, in order.</param>
/// <param name="Credits">The figure that may not be traced in full.</param>
/// <param name="Balance">The figure that moves with it.</param>
public sealed record AssessedFigures(IReadOnlyList<string> Figures, string Credits, string Balance);

/// <summary>A figure of an assessment.</summary>
/// <param name="Path">Path of the element in the return.</param>
/// <param name="Filed">As filed.</param>
/// <param name="Assessed">As assessed.</param>
/// <param name="Reason">Why they differ, or null.</param>
public sealed record AssessedFigure(string Path, string Filed, string Assessed, string? Reason);

/// <summary>A notice of assessment.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Acknowledgement">The return it is about.</param>
/// <param name="IssuedOn">Day of issue.</param>
/// <param name="Figures">What it speaks about.</param>
/// <param name="PayBy">Day by which what it adds is to be paid.</param>
/// <param name="ObjectBy">Last day for an objection.</param>
public sealed record NoticeOfAssessment(
    string Number, string Acknowledgement, DateOnly IssuedOn, IReadOnlyList<AssessedFigure> Figures, DateOnly PayBy, DateOnly ObjectBy);

/// <summary>A document the authority asks for.</summary>
public sealed record RequestedDocument(string Code, string Label);

/// <summary>A document that was sent.</summary>
public sealed record ReceivedDocument(string Code, string Name, string Sha256);

/// <summary>A supplementary declaration.</summary>
public sealed record SupplementaryDeclaration(string Words, string Name, string Capacity);

/// <summary>A return selected for verification.</summary>
public sealed record VerificationCase(
    string Number, string Acknowledgement, DateOnly DueOn, string State, IReadOnlyList<RequestedDocument> Documents, IReadOnlyList<ReceivedDocument> Received, SupplementaryDeclaration? Declaration);

/// <summary>An objection as it arrives.</summary>
public sealed record Objection(string Assessment, string Reason, string Name);

/// <summary>An objection that was taken in.</summary>
public sealed record RegisteredObjection(string Number, string Assessment, string Sha256);

/// <summary>
/// What follows an accepted return: an assessment, perhaps with differences, and perhaps a verification. Who is chosen follows from a
/// published rule, the same for the same seed and acknowledgement number.
/// </summary>
public sealed class Aftermath
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true, DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull };

    private static readonly RequestedDocument[] Asked =
    [
        new("withholding", "Certificates of tax withheld"),
        new("payment", "Proof of payments"),
        new("accounts", "Books or statements behind the income"),
    ];

    private readonly Archive _archive;
    private readonly Examiner _examiner;
    private readonly Registry _registry;
    private readonly TimeProvider _clock;
    private readonly AftermathSettings _settings;
    private readonly string _folder;
    private readonly ConcurrentDictionary<string, VerificationCase> _cases = new();
    private readonly Lock _gate = new();

    /// <summary>Opens what is kept in a folder.</summary>
    public Aftermath(Archive archive, Examiner examiner, Registry registry, TimeProvider clock, AftermathSettings settings, string folder)
    {
        (_archive, _examiner, _registry, _clock, _settings) = (archive, examiner, registry, clock, settings);
        _folder = Path.Combine(folder, "aftermath");
        Directory.CreateDirectory(_folder);
        foreach (var file in Directory.EnumerateFiles(_folder, "case-*.json"))
        {
            var kept = JsonSerializer.Deserialize<VerificationCase>(File.ReadAllBytes(file), Json)!;
            _cases[kept.Acknowledgement] = kept;
        }
    }

    /// <summary>The rule by which returns are chosen, as it is published.</summary>
    public string Rule => string.Create(CultureInfo.InvariantCulture,
        $"The first four bytes of the SHA-256 of '{_settings.Seed}:purpose:acknowledgement number', modulo 100: below {_settings.DifferencePercent} for the purpose 'difference', a tenth of the credits is not traced; below {_settings.AuditPercent} for the purpose 'verification', the return is selected.");

    /// <summary>The assessment of an accepted return; null while there is none.</summary>
    public NoticeOfAssessment? AssessmentOf(string key)
    {
        if (Accepted(key) is not { } submission || (_clock.GetUtcNow() < submission.AnswerAt.AddSeconds(_settings.AssessAfterSeconds) && _registry.Taxpayer(submission.Pin ?? "")?.ImmediateNotice != true)
            || _examiner.Read(_archive.Document(submission)) is not { } read)
        {
            return null;
        }

        var (document, assessed) = (read.Document, read.Rules.Assessed);
        var byHand = _registry.Taxpayer(submission.Pin ?? "")?.AssessedByHand == true ? read.Rules.DecidedByHand(document) : null;
        var cut = byHand is null && Chosen("difference", submission.Acknowledgement!, _settings.DifferencePercent) ? decimal.Truncate(document.Amount(assessed.Credits) / 10) : 0;
        var issued = DateOnly.FromDateTime(submission.AnswerAt.UtcDateTime);
        return new NoticeOfAssessment(
            $"N-{submission.Acknowledgement}",
            submission.Acknowledgement!,
            issued,
            [
                .. assessed.Figures.Select(path =>
                {
                    var filed = document.Amount(path);
                    if (byHand?.TryGetValue(path, out var decided) == true)
                    {
                        return new AssessedFigure(document.Path(path), Text(filed), Text(decided.Amount), decided.Reason);
                    }

                    var moved = path == assessed.Credits ? -cut : path == assessed.Balance ? cut : 0;
                    return new AssessedFigure(
                        document.Path(path), Text(filed), Text(filed + moved), moved == 0 ? null : path == assessed.Credits ? "A tenth of the credits could not be traced to payers." : "It follows from the credits.");
                }),
            ],
            issued.AddDays(_settings.DaysToObject),
            issued.AddDays(_settings.DaysToObject));
    }

    /// <summary>The verification of an accepted return; null when it was not selected.</summary>
    public VerificationCase? CaseOf(string key) => Accepted(key) is { } submission ? CaseOf(submission) : null;

    /// <summary>Selects an accepted return for verification, whatever the rule says.</summary>
    public void Select(string number)
    {
        if (_archive.All.FirstOrDefault(s => s.Number == number && s.Acknowledgement is not null) is { } submission)
        {
            lock (_gate)
            {
                Keep(CaseOf(submission) ?? NewCase(submission));
            }
        }
    }

    /// <summary>Takes a document in; the same one again changes nothing. Null when nothing was asked for.</summary>
    public VerificationCase? Receive(string key, ReceivedDocument document, byte[] content)
    {
        lock (_gate)
        {
            if (CaseOf(key) is not { State: "open" } open || open.Documents.All(d => d.Code != document.Code))
            {
                return null;
            }

            Archive.WriteWhole(Path.Combine(_folder, $"document-{document.Sha256}"), content);
            return Keep(open.Received.Contains(document) ? open : open with { Received = [.. open.Received, document] });
        }
    }

    /// <summary>Takes the supplementary declaration, which closes the case once every document asked for is there; null when nothing was asked for.</summary>
    public VerificationCase? Declare(string key, SupplementaryDeclaration declaration)
    {
        lock (_gate)
        {
            return CaseOf(key) is not { } found ? null
                : found.State != "open" || found.Documents.Any(d => found.Received.All(r => r.Code != d.Code)) ? found
                : Keep(found with { State = "closed", Declaration = declaration });
        }
    }

    /// <summary>Registers an objection; the same one again is the same. Null when there is no such assessment.</summary>
    public RegisteredObjection? Object(string key, Objection objection)
    {
        if (AssessmentOf(key) is not { } notice || notice.Number != objection.Assessment)
        {
            return null;
        }

        var bytes = JsonSerializer.SerializeToUtf8Bytes(objection, Json);
        var registered = new RegisteredObjection($"O-{notice.Acknowledgement}", notice.Number, Convert.ToHexStringLower(SHA256.HashData(bytes)));
        lock (_gate)
        {
            var path = Path.Combine(_folder, $"objection-{notice.Acknowledgement}.json");
            if (!File.Exists(path))
            {
                Archive.WriteWhole(path, bytes);
            }
        }

        return registered;
    }

    private Submission? Accepted(string key) =>
        _archive.Find(key) is { Acknowledgement: not null } submission && _clock.GetUtcNow() >= submission.AnswerAt ? submission : null;

    private VerificationCase? CaseOf(Submission submission) =>
        _cases.TryGetValue(submission.Acknowledgement!, out var kept) ? kept
        : Chosen("verification", submission.Acknowledgement!, _settings.AuditPercent) ? NewCase(submission)
        : null;

    private VerificationCase NewCase(Submission submission) => new(
        $"V-{submission.Acknowledgement}", submission.Acknowledgement!, DateOnly.FromDateTime(submission.AnswerAt.UtcDateTime).AddDays(_settings.DaysToAnswer), "open", Asked, [], null);

    private VerificationCase Keep(VerificationCase kept)
    {
        Archive.WriteWhole(Path.Combine(_folder, $"case-{kept.Acknowledgement}.json"), JsonSerializer.SerializeToUtf8Bytes(kept, Json));
        return _cases[kept.Acknowledgement] = kept;
    }

    private bool Chosen(string purpose, string acknowledgement, int percent) =>
        BinaryPrimitives.ReadUInt32BigEndian(SHA256.HashData(Encoding.UTF8.GetBytes($"{_settings.Seed}:{purpose}:{acknowledgement}"))) % 100 < percent;

    private static string Text(decimal amount) => amount.ToString("0.00", CultureInfo.InvariantCulture);
}

/// <summary>How often returns are assessed differently or selected, and when.</summary>
/// <param name="Seed">The seed of the rule.</param>
/// <param name="DifferencePercent">Of a hundred returns, how many are assessed with a difference.</param>
/// <param name="AuditPercent">Of a hundred returns, how many are selected for verification.</param>
/// <param name="AssessAfterSeconds">Seconds from the answer to the assessment.</param>
/// <param name="DaysToAnswer">Days to answer a verification.</param>
/// <param name="DaysToObject">Days from an assessment to the last day for paying what it adds and for objecting; common practice, no source.</param>
public sealed record AftermathSettings(int Seed = 20, int DifferencePercent = 30, int AuditPercent = 20, double AssessAfterSeconds = 2, int DaysToAnswer = 21, int DaysToObject = 30);
