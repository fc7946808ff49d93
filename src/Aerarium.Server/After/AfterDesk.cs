using System.Collections.Concurrent;
using System.Globalization;
using System.Text.Json;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Paying;
using Aerarium.Server.Returns;
using Aerarium.Server.Sending;
using Aerarium.Storage;

namespace Aerarium.Server.After;

/// <summary>A figure of an assessment, as the authority writes it.</summary>
public sealed record AssessedFigure(string Path, string Filed, string Assessed, string? Reason);

/// <summary>A notice of assessment, as the authority writes it.</summary>
/// <param name="Number">Its number.</param>
/// <param name="Acknowledgement">The return it is about.</param>
/// <param name="IssuedOn">Day of issue.</param>
/// <param name="Figures">What it speaks about.</param>
/// <param name="PayBy">Day by which what it adds is to be paid.</param>
/// <param name="ObjectBy">Last day for an objection.</param>
public sealed record AssessmentNotice(
    string Number, string Acknowledgement, DateOnly IssuedOn, IReadOnlyList<AssessedFigure> Figures, DateOnly? PayBy = null, DateOnly? ObjectBy = null);

/// <summary>A document the authority asks for.</summary>
public sealed record RequestedDocument(string Code, string Label);

/// <summary>A document the authority has received.</summary>
public sealed record ReceivedDocument(string Code, string Name, string Sha256);

/// <summary>A supplementary declaration.</summary>
public sealed record SupplementaryDeclaration(string? Words, string? Name, string? Capacity);

/// <summary>A verification, as the authority writes it.</summary>
public sealed record VerificationNotice(
    string Number, string Acknowledgement, DateOnly DueOn, string State, IReadOnlyList<RequestedDocument> Documents, IReadOnlyList<ReceivedDocument> Received, SupplementaryDeclaration? Declaration);

/// <summary>An objection that was taken in.</summary>
public sealed record RegisteredObjection(string Number, string Assessment, string Sha256);

/// <summary>
/// What follows a filed return: fetches assessment and verification by itself, holds the assessment against the return line by line,
/// sends documents and the supplementary declaration, and objects. Everything the authority says is signed and kept.
/// </summary>
public sealed class AfterDesk(
    PracticeDatabase database, AuthorityClient authority, AuthorityCertificate seal, EReturnBuilding building, TimeProvider clock, LiveReturns live)
{
    private const int AtOnce = 10;
    private const int LongestText = 4_000;
    private static readonly TimeSpan Longest = TimeSpan.FromHours(1);
    private static readonly TimeSpan MayBeSelected = TimeSpan.FromDays(365);
    private static readonly TimeSpan Shortest = TimeSpan.FromSeconds(2);

    private readonly ConcurrentDictionary<long, (DateTimeOffset Next, TimeSpan Wait)> _asked = new();

    /// <summary>Asks after the returns whose turn it is; less and less often while nothing comes.</summary>
    public async Task WorkAsync(CancellationToken cancellation)
    {
        var now = clock.GetUtcNow();
        var due = database.Read(unit => Aftermaths.Awaited(unit, Moments.Text(now - MayBeSelected))).Where(a => !_asked.TryGetValue(a.Return, out var asked) || asked.Next <= now).Take(AtOnce).ToList();
        foreach (var (sending, returnId) in due)
        {
            var wait = _asked.TryGetValue(returnId, out var before) ? before.Wait * 2 : Shortest;
            _asked[returnId] = (now + (wait < Longest ? wait : Longest), wait < Longest ? wait : Longest);
            try
            {
                await AskAsync(database.Read(unit => Sendings.Find(unit, sending)!), cancellation);
            }
            catch (AuthorityUnavailableException)
            {
                // It is asked again.
            }
        }
    }

    /// <summary>Asks after one return now.</summary>
    public async Task AskAsync(long returnId, CancellationToken cancellation)
    {
        if (database.Read(unit => Sendings.OfReturn(unit, returnId).FirstOrDefault(s => s.State == "accepted")) is { } sending)
        {
            await AskAsync(sending, cancellation);
        }
    }

    /// <summary>The line behind every figure an assessment may speak about.</summary>
    public IReadOnlyDictionary<string, Filing.LinePlace> PlacesOf(Unit unit, long returnId) =>
        building.PlacesOf(unit, BuiltReturns.Find(unit, Sendings.OfReturn(unit, returnId).First(s => s.State == "accepted").BuiltId)!);

    /// <summary>The notice as it was kept.</summary>
    public static AssessmentNotice NoticeOf(Unit unit, AssessmentRecord record) => Read<AssessmentNotice>(Artefacts.Get(unit, record.Sha256));

    /// <summary>The verification as the authority last described it.</summary>
    public static VerificationNotice CaseIn(AuditCaseRecord record) => JsonSerializer.Deserialize<VerificationNotice>(record.Content, JsonSerializerOptions.Web)!;

    /// <summary>Sends an attached document for something the authority asked for.</summary>
    /// <exception cref="PlainProblem">Nothing is asked for, or the authority cannot be had.</exception>
    public async Task SendDocumentAsync(long returnId, string code, long documentId, Caller caller, CancellationToken cancellation)
    {
        var (sending, document, content) = database.Read(unit =>
        {
            var open = OpenCase(unit, returnId);
            var record = Storage.Returns.Find(unit, returnId)!;
            var found = Documents.Find(unit, documentId) is { } known && known.ClientId == record.ClientId ? known : throw PlainProblem.NotFound("This document");
            return CaseIn(open).Documents.Any(d => d.Code == code)
                ? (SendingOf(unit, returnId), found, Artefacts.Get(unit, found.Sha256))
                : throw PlainProblem.Refused($"The authority did not ask for '{code}'.");
        });
        var answer = await TalkAsync<VerificationNotice>(() => authority.PostAsync(
            $"submissions/{sending.IdempotencyKey}/verification/documents?code={Uri.EscapeDataString(code)}&name={Uri.EscapeDataString(document.Name)}", new ByteArrayContent(content), cancellation), cancellation);
        Keep(returnId, answer, caller, "verification-document", $"{code}: {document.Name}, {document.Sha256}");
    }

    /// <summary>Answers a verification with a supplementary declaration, once every document asked for was sent.</summary>
    public async Task DeclareAsync(long returnId, SupplementaryDeclaration typed, Caller caller, CancellationToken cancellation)
    {
        var declaration = new SupplementaryDeclaration(EntryReader.Clean(typed.Words), EntryReader.Clean(typed.Name), EntryReader.Clean(typed.Capacity));
        if (declaration.Words!.Length is < 10 or > LongestText || declaration.Name!.Length == 0 || declaration.Capacity!.Length == 0)
        {
            throw PlainProblem.Refused("Say what is declared, in ten characters or more, who declares it, and in what capacity.");
        }

        var sending = database.Read(unit =>
        {
            var open = CaseIn(OpenCase(unit, returnId));
            var missing = open.Documents.Where(d => open.Received.All(r => r.Code != d.Code)).Select(d => d.Label).ToList();
            return missing.Count == 0 ? SendingOf(unit, returnId) : throw PlainProblem.Conflict($"Not sent yet: {string.Join(", ", missing)}.");
        });
        var answer = await TalkAsync<VerificationNotice>(
            () => authority.PostAsync($"submissions/{sending.IdempotencyKey}/verification/declaration", JsonContent.Create(declaration), cancellation), cancellation);
        Keep(returnId, answer, caller, "verification-answered", $"{declaration.Name}, {declaration.Capacity}: {declaration.Words}");
    }

    /// <summary>Objects to an assessment, with the reason.</summary>
    public async Task ObjectAsync(long returnId, string? reason, Caller caller, CancellationToken cancellation)
    {
        var words = EntryReader.Clean(reason);
        if (words.Length is < 10 or > LongestText)
        {
            throw PlainProblem.Refused("Say why the assessment is objected to, in ten characters or more.");
        }

        var (sending, assessment) = database.Read(unit => (
            SendingOf(unit, returnId),
            Aftermaths.AssessmentOf(unit, returnId) is not { } found ? throw PlainProblem.Conflict("There is no assessment to object to yet.")
            : Aftermaths.ObjectionOf(unit, returnId) is { } made ? throw PlainProblem.Conflict($"{made.MadeBy} has objected already; the authority has it as {made.Number}.")
            : found));
        var (registered, _) = await TalkAsync<RegisteredObjection>(
            () => authority.PostAsync($"submissions/{sending.IdempotencyKey}/objections", JsonContent.Create(new { assessment = assessment.Number, reason = words, name = caller.Name }), cancellation), cancellation);
        var now = clock.GetUtcNow();
        database.Write(unit =>
        {
            Aftermaths.Put(unit, new ObjectionRecord(returnId, assessment.Number, words, registered.Number, caller.Name, Moments.Text(now)));
            Acts.Add(unit, caller.Act("objection", now) with { ReturnId = returnId, ClientId = Storage.Returns.Find(unit, returnId)!.ClientId, After = $"{registered.Number}: {words}" });
        });
        await TellAsync(returnId);
    }

    private async Task AskAsync(SendingRecord sending, CancellationToken cancellation)
    {
        var id = sending.ReturnId;
        if (database.Read(unit => Aftermaths.AssessmentOf(unit, id)) is null
            && await authority.FindSignedAsync($"submissions/{sending.IdempotencyKey}/assessment", cancellation) is { } came)
        {
            await seal.RequireSignedAsync(came.Bytes, came.Signature, cancellation);
            var notice = Read<AssessmentNotice>(came.Bytes);
            var now = Moments.Text(clock.GetUtcNow());
            database.Write(unit =>
            {
                var differences = notice.Figures.Count(f => f.Filed != f.Assessed);
                Aftermaths.Put(unit, new AssessmentRecord(
                    id,
                    notice.Number,
                    Text(notice.IssuedOn),
                    Artefacts.Keep(unit, came.Bytes, "application/json", now),
                    came.Signature,
                    differences,
                    now,
                    BalanceIn(unit, id, notice),
                    notice.PayBy is { } payBy ? Text(payBy) : null,
                    notice.ObjectBy is { } objectBy ? Text(objectBy) : null));
                PaymentDesk.KeepUnpaid(unit, id);
                Acts.Add(unit, new ActRecord { At = now, PersonName = "authority", Kind = "assessment", ReturnId = id, After = $"{notice.Number}, {differences} differences" });
            });
            await TellAsync(id);
        }

        var known = database.Read(unit => Aftermaths.CaseOf(unit, id));
        if (known?.State != "closed" && await authority.FindSignedAsync($"submissions/{sending.IdempotencyKey}/verification", cancellation) is { } open)
        {
            await seal.RequireSignedAsync(open.Bytes, open.Signature, cancellation);
            if (known is null)
            {
                Keep(id, (Read<VerificationNotice>(open.Bytes), open), null, "verification", null);
                await TellAsync(id);
            }
        }
    }

    private void Keep(long returnId, (VerificationNotice Notice, SignedBytes Came) answer, Caller? caller, string kind, string? after)
    {
        var (notice, now) = (answer.Notice, clock.GetUtcNow());
        var closed = notice.State == "closed" && caller is not null;
        database.Write(unit =>
        {
            Aftermaths.Put(unit, new AuditCaseRecord(
                returnId,
                notice.Number,
                Text(notice.DueOn),
                notice.State,
                System.Text.Encoding.UTF8.GetString(answer.Came.Bytes),
                Moments.Text(now),
                closed ? caller!.Name : null,
                closed ? Moments.Text(now) : null));
            var act = caller?.Act(kind, now) ?? new ActRecord { At = Moments.Text(now), PersonName = "authority", Kind = kind };
            Acts.Add(unit, act with { ReturnId = returnId, After = after ?? notice.Number });
        });
    }

    private async Task<(T Answer, SignedBytes Came)> TalkAsync<T>(Func<Task<SignedBytes>> talk, CancellationToken cancellation)
    {
        try
        {
            var came = await talk();
            await seal.RequireSignedAsync(came.Bytes, came.Signature, cancellation);
            return (Read<T>(came.Bytes), came);
        }
        catch (AuthorityUnavailableException problem)
        {
            throw new PlainProblem(StatusCodes.Status502BadGateway, $"{problem.Message} Nothing was sent; try again later.");
        }
    }

    /// <summary>The balance a notice assesses, canonical; null when it does not speak about the line that is the return's balance.</summary>
    private string? BalanceIn(Unit unit, long returnId, AssessmentNotice notice)
    {
        var record = Storage.Returns.Find(unit, returnId)!;
        var balance = Catalogue.Get(record.Definition, record.Year, record.Period).Balance.Key;
        var places = PlacesOf(unit, returnId);
        return notice.Figures.FirstOrDefault(f => places.GetValueOrDefault(f.Path)?.Line == balance) is { } figure
            ? Figures.Canonical(decimal.Parse(figure.Assessed, NumberStyles.Number, CultureInfo.InvariantCulture))
            : null;
    }

    private static string Text(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private Task TellAsync(long returnId) => live.TellStatusAsync(returnId);

    private static T Read<T>(byte[] bytes)
    {
        try
        {
            return JsonSerializer.Deserialize<T>(bytes, JsonSerializerOptions.Web) ?? throw new AuthorityUnavailableException("The authority's answer is empty.");
        }
        catch (JsonException problem)
        {
            throw new AuthorityUnavailableException("The authority's answer cannot be read.", problem);
        }
    }

    private static AuditCaseRecord OpenCase(Unit unit, long returnId) =>
        Aftermaths.CaseOf(unit, returnId) is { State: "open" } open ? open : throw PlainProblem.Conflict("No verification is open for this return.");

    private static SendingRecord SendingOf(Unit unit, long returnId) =>
        Sendings.OfReturn(unit, returnId).FirstOrDefault(s => s.State == "accepted") ?? throw PlainProblem.Conflict("This return has not been accepted.");
}
