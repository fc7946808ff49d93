using System.Security.Claims;
using System.Text;
using System.Text.Json;
using Aerarium.Core.Definitions;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Sending;

/// <summary>A built e-return; the files in it where there are several.</summary>
public sealed record BuiltView(string BuiltAt, string Sha256, long Bytes, string FileName, IReadOnlyList<PackedFileView> Files, IReadOnlyList<BuildFault> Faults, bool Current, PlausibilityView? Check)
{
    /// <summary>A build as it is shown.</summary>
    internal static BuiltView Of(Unit unit, BuiltRecord built, IReadOnlyList<BuildFault> faults, bool current, PlausibilityView? check)
    {
        var file = Artefacts.Get(unit, built.EreturnSha256);
        var format = EReturnFormat.Of(file);
        return new BuiltView(
            built.BuiltAt, built.EreturnSha256, file.Length, FileNames.Of(unit, built.ReturnId, format.Ending),
            format == EReturnFormat.Package ? [.. EReturnPackage.Files(file).Select(f => new PackedFileView(f.Key, f.Value.Length))] : [], faults, current, check);
    }
}

/// <summary>A file that is filed together with others.</summary>
public sealed record PackedFileView(string Name, long Bytes);

/// <summary>A sending and how it went; silent when a mail was sent and nothing has come back.</summary>
public sealed record SendingView(
    string State,
    string CreatedAt,
    string CreatedBy,
    long Attempts,
    string? Submission,
    string? Acknowledgement,
    string? AnsweredAt,
    string? Problem,
    string NextAttemptAt,
    string Channel,
    bool Silent,
    IReadOnlyList<RejectionReason> Reasons,
    MailInWords? Letter,
    MailInWords? Reply);

/// <summary>Everything about sending a return; one that is checked beforehand can be sent once the authority named no reason against it.</summary>
public sealed record SendView(string Stage, BuiltView? Built, IReadOnlyList<SendingView> Sendings, bool CanBuild, bool CheckedBeforehand, bool CanCheck, bool CanSend, bool HasParcel, bool HasPapers, string Channel);

internal static class SendingEndpoints
{
    public static void MapSending(this RouteGroupBuilder api)
    {
        var sending = api.MapGroup("/returns/{id:long}/sending").ReachesReturn().WithTags("Sending");
        sending.MapGet("", View);
        sending.MapPost("/build", async (long id, ClaimsPrincipal user, EReturnBuilding building, Workbench workbench, PracticeDatabase database, SendingDesk desk, PlausibilityDesk check, LiveReturns live, CancellationToken cancellation) =>
        {
            await building.BuildAsync(id, Caller.Of(user), cancellation);
            await live.TellStatusAsync(id, cancellation);
            return View(id, workbench, database, desk, check);
        }).RequireAuthorization(Policies.Prepare);
        sending.MapPost("/check", async (long id, ClaimsPrincipal user, PlausibilityDesk check, SendingDesk desk, Workbench workbench, PracticeDatabase database, LiveReturns live, CancellationToken cancellation) =>
        {
            await check.CheckAsync(id, Caller.Of(user), cancellation);
            await live.TellStatusAsync(id, cancellation);
            return View(id, workbench, database, desk, check);
        }).RequireAuthorization(Policies.Prepare);
        sending.MapPost("/send", async (long id, ClaimsPrincipal user, SendingDesk desk, PlausibilityDesk check, Workbench workbench, PracticeDatabase database, LiveReturns live, CancellationToken cancellation) =>
        {
            desk.Queue(id, Caller.Of(user));
            await live.TellStatusAsync(id, cancellation);
            return View(id, workbench, database, desk, check);
        }).RequireAuthorization(Policies.Approve);
        sending.MapPost("/chase", (long id, ClaimsPrincipal user, SendingDesk desk, PlausibilityDesk check, Workbench workbench, PracticeDatabase database) =>
        {
            desk.Chase(id, Caller.Of(user));
            return View(id, workbench, database, desk, check);
        }).RequireAuthorization(Policies.Prepare);
        sending.MapGet("/e-return", (long id, string? file, PracticeDatabase database) => database.Read(unit =>
        {
            var built = BuiltReturns.Latest(unit, id) ?? throw PlainProblem.NotFound("An e-return");
            var whole = Artefacts.Get(unit, built.EreturnSha256);
            var format = EReturnFormat.Of(whole);
            return file is null ? Results.File(whole, format.MediaType, FileNames.Of(unit, id, format.Ending))
                : format == EReturnFormat.Package && EReturnPackage.Files(whole).TryGetValue(file, out var one) ? Results.File(one, EReturnFormat.Of(one).MediaType, FileNames.Safe(file))
                : throw PlainProblem.NotFound("A file of this name in the e-return");
        })).Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        sending.MapGet("/letter", async (long id, PracticeDatabase database, AuthorityMail mail, CancellationToken cancellation) =>
        {
            var letter = database.Read(unit => EReturnBuilding.LetterOf(unit, BuiltReturns.Latest(unit, id) ?? throw PlainProblem.NotFound("An e-return"), "preview"));
            try
            {
                return await mail.PreviewAsync(letter, cancellation);
            }
            catch (AuthorityUnavailableException problem)
            {
                throw new PlainProblem(StatusCodes.Status502BadGateway, $"{problem.Message} The mail cannot be shown before it is known where it goes; try again later.");
            }
        });
        sending.MapGet("/acknowledgement.pdf", (long id, PracticeDatabase database) => database.Read(unit =>
            Results.File(Artefacts.Get(unit, ReturnPapers.AcceptedOf(unit, id).AcknowledgementSha256!), "application/pdf"))).Produces(StatusCodes.Status200OK, contentType: "application/pdf");
        sending.MapGet("/bank-set.pdf", (long id, PracticeDatabase database, ReturnPapers papers) => database.Read(unit =>
            Results.File(papers.SetForBank(unit, id), "application/pdf", $"for-the-bank-{FileNames.Of(unit, id, "pdf")}"))).Produces(StatusCodes.Status200OK, contentType: "application/pdf");
        sending.MapGet("/parcel.zip", (long id, PracticeDatabase database) => database.Read(unit =>
            Results.File(ParcelOf.Return(unit, id), "application/zip", FileNames.Of(unit, id, "zip")))).Produces(StatusCodes.Status200OK, contentType: "application/zip");
    }

    private static SendView View(long id, Workbench workbench, PracticeDatabase database, SendingDesk desk, PlausibilityDesk plausibility)
    {
        var workspace = workbench.Open(id);
        return database.Read(unit =>
        {
            var built = BuiltReturns.Latest(unit, id);
            var approval = Approvals.Latest(unit, id);
            var sendings = Sendings.OfReturn(unit, id);
            var faults = built is null ? [] : JsonSerializer.Deserialize<List<BuildFault>>(built.Faults)!;
            var current = built is not null && built.ApprovalId == approval?.Id && approval.State == "approved";
            var approved = workspace.Record.Stage == Stage.Approved;
            var type = EReturnForm.Chosen(unit, workspace.Record.Definition);
            var check = built is null ? null : plausibility.Of(unit, built);
            var sound = approved && current && faults.Count == 0;
            var channel = type.Channel == Channel.Mail ? "mail" : "portal";
            return new SendView(
                workspace.Record.Stage,
                built is null ? null : BuiltView.Of(unit, built, faults, current, check),
                [.. sendings.Select(s => new SendingView(
                    s.State, s.CreatedAt, People.Find(unit, s.CreatedBy)!.Name, s.Attempts, s.Submission, s.Acknowledgement, s.AnsweredAt, s.Problem, s.NextAttemptAt, channel, desk.IsSilent(unit, s), desk.ReasonsOf(unit, s), Mail(s.Letter), Mail(s.Reply)))],
                approved,
                type.CheckedBeforehand,
                type.CheckedBeforehand && sound,
                sound && (!type.CheckedBeforehand || check?.Reasons.Count == 0),
                sendings.Any(s => s.ReceiptSha256 is not null),
                sendings.Any(s => s.AcknowledgementSha256 is not null),
                channel);
        });
    }

    private static MailInWords? Mail(string? kept) => kept is null ? null : JsonSerializer.Deserialize<MailInWords>(kept, JsonSerializerOptions.Web);
}

/// <summary>The Parcel of a return, once the authority has answered.</summary>
internal static class ParcelOf
{
    private static readonly JsonSerializerOptions Indented = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    /// <summary>Whether there is a receipt, and with it a Parcel.</summary>
    public static bool IsComplete(Unit unit, long id) => Sendings.OfReturn(unit, id).Any(s => s.ReceiptSha256 is not null);

    /// <summary>The Parcel of a return.</summary>
    /// <exception cref="PlainProblem">There is no receipt yet.</exception>
    public static byte[] Return(Unit unit, long id)
    {
        var sending = Sendings.OfReturn(unit, id).FirstOrDefault(s => s.ReceiptSha256 is not null)
            ?? throw PlainProblem.Conflict("The Parcel is complete when the authority has answered; there is no receipt yet.");
        var built = BuiltReturns.Find(unit, sending.BuiltId)!;
        var record = Storage.Returns.Find(unit, id)!;
        var approval = Approvals.Find(unit, built.ApprovalId)!;
        var about = new Dictionary<string, string>
        {
            ["return"] = $"{record.Definition} {Periods.InWords(record.Year, record.Period)} {record.Kind}",
            ["state"] = sending.State,
            ["acknowledgement"] = sending.Acknowledgement ?? "",
            ["approval"] = approval.ApprovedBy == approval.HandedOverBy
                ? "prepared and approved by the same person, as the rules of the practice allow"
                : $"approved by {(approval.SecondBy is null ? "another person than" : "two persons, one of them another than")} who handed it over",
            ["figureRevision"] = approval.FigureRevision,
            ["schemaSha256"] = built.SchemaSha256,
        };
        var schema = SchemaEditions.FindByHash(unit, built.SchemaSha256);
        var file = Artefacts.Get(unit, built.EreturnSha256);
        return Parcel.Pack(about,
        [
            new ParcelFile($"{ParcelFiles.EReturn}.{EReturnFormat.Of(file).Ending}", file),
            .. built.Signature is null ? [] : (ParcelFile[])[new ParcelFile(ParcelFiles.EReturnSignature, Encoding.ASCII.GetBytes(built.Signature))],
            new ParcelFile(ParcelFiles.PrintedCopy, Artefacts.Get(unit, sending.CopySha256 ?? built.CopySha256)),
            .. sending.AcknowledgementSha256 is null ? [] : (ParcelFile[])[new ParcelFile(ParcelFiles.Acknowledgement, Artefacts.Get(unit, sending.AcknowledgementSha256))],
            new ParcelFile(ParcelFiles.Frozen, Artefacts.Get(unit, approval.EntriesSha256!)),
            new ParcelFile(ParcelFiles.Receipt, Artefacts.Get(unit, sending.ReceiptSha256!)),
            .. sending.ReceiptSignature is null ? [] : (ParcelFile[])[new ParcelFile(ParcelFiles.ReceiptSignature, Encoding.ASCII.GetBytes(sending.ReceiptSignature))],
            .. schema is null ? [] : (ParcelFile[])[new ParcelFile($"{ParcelFiles.Schema}/{schema.Value.Path}", Encoding.UTF8.GetBytes(schema.Value.Content))],
            .. Documents.Of(unit, record.ClientId).Where(d => d.ReturnId == id).Select(d => new ParcelFile($"attachments/{d.Id}-{FileNames.Safe(d.Name)}", Artefacts.Get(unit, d.Sha256))),
            new ParcelFile(ParcelFiles.Acts, JsonSerializer.SerializeToUtf8Bytes(Acts.OfReturn(unit, id), Indented)),
        ]);
    }
}

/// <summary>Names of files: client, return, year, kind.</summary>
internal static class FileNames
{
    /// <summary>A name that is safe in an archive on any system.</summary>
    public static string Safe(string name) => string.Concat(name.Select(c => char.IsAsciiLetterOrDigit(c) || c is '.' or '-' or '_' ? c : '-'));

    public static string Of(Unit unit, long returnId, string ending)
    {
        var record = Storage.Returns.Find(unit, returnId) ?? throw PlainProblem.NotFound("This return");
        var client = Storage.Clients.Find(unit, record.ClientId)!;
        var name = string.Concat(client.Name.ToLowerInvariant().Select(c => char.IsAsciiLetterOrDigit(c) ? c : '-'));
        return $"{name}-{record.Definition.Replace('/', '-')}-{Periods.InWords(record.Year, record.Period).Replace(' ', '-')}-{record.Kind}.{ending}";
    }
}
