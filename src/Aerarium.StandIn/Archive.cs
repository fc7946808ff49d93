using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Serialization;
using Aerarium.Filing;

namespace Aerarium.StandIn;

/// <summary>Where a submission stands.</summary>
public enum SubmissionStatus
{
    /// <summary>Received, not yet answered.</summary>
    Pending,

    /// <summary>Accepted with an acknowledgement number.</summary>
    Accepted,

    /// <summary>Rejected with reasons.</summary>
    Rejected,
}

/// <summary>Why a submission was rejected.</summary>
/// <param name="Code">Code of the rule.</param>
/// <param name="Path">Path of the element it concerns, or null.</param>
/// <param name="Message">In words.</param>
public sealed record Reason(string Code, string? Path, string Message);

/// <summary>A submission as the authority keeps it.</summary>
public sealed record Submission
{
    /// <summary>The sender's key: the same key is the same submission.</summary>
    public required string Key { get; init; }

    /// <summary>The authority's number.</summary>
    public required string Number { get; init; }

    /// <summary>When it arrived.</summary>
    public required DateTimeOffset ReceivedAt { get; init; }

    /// <summary>From when the verdict is told.</summary>
    public required DateTimeOffset AnswerAt { get; init; }

    /// <summary>SHA-256 of the document.</summary>
    public required string Sha256 { get; init; }

    /// <summary>Country and return, as read from the document.</summary>
    public string Return { get; init; } = "";

    /// <summary>Period of the year, as read from the document; empty for the whole year.</summary>
    public string Period { get; init; } = "";

    /// <summary>Ending of the document's file name.</summary>
    public string Ending { get; init; } = "xml";

    /// <summary>Taxpayer, as read from the document.</summary>
    public string? Pin { get; init; }

    /// <summary>Year, as read from the document.</summary>
    public string? Year { get; init; }

    /// <summary>Original or amended, as read from the document.</summary>
    public string? Kind { get; init; }

    /// <summary>Reasons; none when accepted.</summary>
    public IReadOnlyList<Reason> Reasons { get; init; } = [];

    /// <summary>How often the same submission arrived.</summary>
    public int Arrivals { get; init; } = 1;

    /// <summary>Acknowledgement number, when accepted.</summary>
    public string? Acknowledgement { get; init; }
}

/// <summary>What an agent is told of a submission.</summary>
public sealed record Answer(
    string Number,
    SubmissionStatus Status,
    DateTimeOffset ReceivedAt,
    DateTimeOffset? AnsweredAt,
    string Sha256,
    string? Acknowledgement,
    IReadOnlyList<Reason>? Reasons)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower) },
    };

    /// <summary>The answer as it is sent: JSON, the same bytes for the same answer.</summary>
    public byte[] Written() => JsonSerializer.SerializeToUtf8Bytes(this, Json);
}

/// <summary>Faults on demand and the delay of answers.</summary>
public sealed class Faults
{
    /// <summary>The service answers nothing but 503.</summary>
    public bool Outage { get; set; }

    /// <summary>The next upload is taken, but its answer is lost.</summary>
    public bool LoseNextAnswer { get; set; }

    /// <summary>The next upload is rejected on examination.</summary>
    public bool RejectNext { get; set; }

    /// <summary>Seconds until a verdict is told.</summary>
    public double AnswerAfterSeconds { get; set; }

    /// <summary>Milliseconds every request takes longer.</summary>
    public int LatencyMs { get; set; }

    /// <summary>Of a hundred requests, how many fail with 500; which ones follows from the seed.</summary>
    public int ErrorPercent { get; set; }

    /// <summary>Answers by mail arrive twice.</summary>
    public bool DuplicateAnswers { get; set; }

    /// <summary>Requests taken in a second; more are answered 429. Zero for no limit.</summary>
    public int RequestsPerSecond { get; set; }
}

/// <summary>Everything that arrived, in files that are written whole, so that a crash at any point loses nothing that was answered.</summary>
public sealed class Archive
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower) },
    };

    private readonly string _folder;
    private readonly TimeProvider _clock;
    private readonly ConcurrentDictionary<string, Submission> _byKey = new();
    private readonly Lock _gate = new();

    /// <summary>Opens the archive in a folder.</summary>
    public Archive(string folder, TimeProvider clock, Faults faults)
    {
        _folder = Path.Combine(folder, "submissions");
        _clock = clock;
        Faults = faults;
        Directory.CreateDirectory(_folder);
        foreach (var file in Directory.EnumerateFiles(_folder, "*.json"))
        {
            var submission = JsonSerializer.Deserialize<Submission>(File.ReadAllText(file), Json)!;
            _byKey[submission.Key] = submission;
        }
    }

    /// <summary>Faults and delays now.</summary>
    public Faults Faults { get; }

    /// <summary>All submissions, latest first.</summary>
    public IEnumerable<Submission> All => _byKey.Values.OrderByDescending(s => s.Number, StringComparer.Ordinal);

    /// <summary>The submission with a key, or null.</summary>
    public Submission? Find(string key) => _byKey.GetValueOrDefault(key);

    /// <summary>The document of a submission.</summary>
    public byte[] Document(Submission submission) => File.ReadAllBytes(FileOf(submission));

    /// <summary>Where a submission stands, as its sender is told.</summary>
    public Answer AnswerTo(Submission submission)
    {
        if (_clock.GetUtcNow() < submission.AnswerAt)
        {
            return new Answer(submission.Number, SubmissionStatus.Pending, submission.ReceivedAt, null, submission.Sha256, null, null);
        }

        return submission.Acknowledgement is null
            ? new Answer(submission.Number, SubmissionStatus.Rejected, submission.ReceivedAt, submission.AnswerAt, submission.Sha256, null, submission.Reasons)
            : new Answer(submission.Number, SubmissionStatus.Accepted, submission.ReceivedAt, submission.AnswerAt, submission.Sha256, submission.Acknowledgement, null);
    }

    /// <summary>
    /// Takes a document in. The same key again is the same submission and changes nothing, even when both arrive at
    /// once; <paramref name="examine"/> is asked once, under the lock, so that two originals cannot both pass.
    /// </summary>
    public Submission Receive(string key, byte[] document, Func<Archive, Examination> examine)
    {
        lock (_gate)
        {
            if (_byKey.TryGetValue(key, out var known))
            {
                var again = known with { Arrivals = known.Arrivals + 1 };
                Keep(again);
                return again;
            }

            var examination = examine(this);
            var reasons = examination.Reasons;
            if (Faults.RejectNext)
            {
                Faults.RejectNext = false;
                reasons = [.. reasons, new Reason("EXAMINATION", "/EmployeeReturn/Computation/AlreadyPaid", "Tax deducted could not be traced to the employers' payments; ask the employer for proof of payment.")];
            }

            var sequence = _byKey.Count + 1;
            var now = _clock.GetUtcNow();
            var submission = new Submission
            {
                Key = key,
                Number = $"S-{sequence:000000}",
                ReceivedAt = now,
                AnswerAt = now.AddSeconds(Faults.AnswerAfterSeconds),
                Sha256 = Convert.ToHexStringLower(SHA256.HashData(document)),
                Return = examination.Return,
                Ending = EReturnFormat.Of(document).Ending,
                Period = examination.Period,
                Pin = examination.Pin,
                Year = examination.Year,
                Kind = examination.Kind,
                Reasons = reasons,
                Acknowledgement = reasons.Count == 0 ? $"ACK-{examination.Year}-{sequence:000000}" : null,
            };
            WriteWhole(FileOf(submission), document);
            Keep(submission);
            return submission;
        }
    }

    /// <summary>Writes a file so that it is there whole or not at all.</summary>
    public static void WriteWhole(string path, byte[] content)
    {
        var draft = path + ".part";
        using (var stream = new FileStream(draft, FileMode.Create, FileAccess.Write))
        {
            stream.Write(content);
            stream.Flush(flushToDisk: true);
        }

        File.Move(draft, path, overwrite: true);
    }

    /// <summary>Where a document lies; one in JSON beside what is kept of its submission, which has that ending.</summary>
    private string FileOf(Submission submission) => Path.Combine(_folder, $"{submission.Number}.{(submission.Ending == "json" ? "document" : submission.Ending)}");

    private void Keep(Submission submission)
    {
        WriteWhole(Path.Combine(_folder, $"{submission.Number}.json"), JsonSerializer.SerializeToUtf8Bytes(submission, Json));
        _byKey[submission.Key] = submission;
    }
}
