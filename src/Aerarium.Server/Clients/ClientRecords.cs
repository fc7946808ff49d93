using System.Globalization;
using System.Security.Claims;
using System.Text.Encodings.Web;
using System.Text.Json;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Practice;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Clients;

/// <summary>Whether a client may be deleted, and why not.</summary>
/// <param name="May">Whether it may.</param>
/// <param name="Words">What would be deleted, or what holds it, in words.</param>
/// <param name="Holds">The returns that must be kept, and until when.</param>
public sealed record DeletionView(bool May, string Words, IReadOnlyList<LegalHold> Holds);

/// <summary>A return whose records must be kept.</summary>
/// <param name="ReturnId">Return.</param>
/// <param name="Title">Title and year.</param>
/// <param name="FiledOn">Day it was filed; null while it is under way.</param>
/// <param name="Until">First day on which it may be deleted; null while it is under way.</param>
/// <param name="Source">The law that says so.</param>
public sealed record LegalHold(long ReturnId, string Title, DateOnly? FiledOn, DateOnly? Until, string Source);

/// <summary>The name typed again, so that nobody deletes by accident.</summary>
public sealed record DeleteClient(string? Name);

/// <summary>Everything known about one client: its history, its export, its deletion.</summary>
internal static class ClientRecords
{
    private const int MostActs = 1_000;

    private static readonly JsonSerializerOptions Written = new(JsonSerializerDefaults.Web) { WriteIndented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public static void MapClientRecords(this RouteGroupBuilder client)
    {
        client.MapGet("/acts", (long id, PracticeDatabase database) => database.Read(unit => ActsInWords.Of(unit, Acts.OfClient(unit, id, MostActs))));
        client.MapGet("/export.zip", (long id, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
        {
            var (zip, name) = database.Write(unit =>
            {
                var client = Storage.Clients.Find(unit, id) ?? throw PlainProblem.NotFound("This client");
                Acts.Add(unit, Caller.Of(user).Act("export-client", clock.GetUtcNow()) with { ClientId = id });
                return (Export(unit, client, Caller.Of(user).Reach), client.Identifier);
            });
            return Results.File(zip, "application/zip", $"{name}.zip");
        }).RequireAuthorization(Policies.Prepare).Produces(StatusCodes.Status200OK, contentType: "application/zip");
        client.MapGet("/deletion", (long id, PracticeDatabase database, TimeProvider clock) => database.Read(unit => Deletion(unit, id, clock.Today())));
        client.MapPost("/deletion", (long id, DeleteClient typed, ClaimsPrincipal user, PracticeDatabase database, Workbench workbench, TimeProvider clock) =>
        {
            database.Write(unit =>
            {
                if (id >= KeptClients.FirstId)
                {
                    throw PlainProblem.Conflict("The client keeps this file: close it here, and the client deletes it.");
                }

                var deletion = Deletion(unit, id, clock.Today());
                if (!deletion.May)
                {
                    throw PlainProblem.Conflict(deletion.Words);
                }

                if (typed.Name?.Trim() != Storage.Clients.NameOf(unit, id))
                {
                    throw PlainProblem.Refused("Type the client's official name exactly, to say that this one is meant.");
                }

                Acts.EraseAbout(unit, id, Caller.Of(user).Act("", clock.GetUtcNow()));
                Storage.Clients.Delete(unit, id);
            });
            workbench.ForgetAll();
            return TypedResults.NoContent();
        }).RequireAuthorization(Policies.Manage);
    }

    private static DeletionView Deletion(Unit unit, long id, DateOnly today)
    {
        var client = Storage.Clients.Find(unit, id) ?? throw PlainProblem.NotFound("This client");
        var retention = Catalogue.Countries[client.Country].Retention;
        var returns = Storage.Returns.OfClient(unit, id);
        List<LegalHold> holds =
        [
            .. returns.Where(r => Sendings.OfReturn(unit, r.Id).Count > 0).Select(r =>
            {
                var title = $"{Catalogue.Get(r.Definition, r.Year, r.Period).Title} {Periods.InWords(r.Year, r.Period)}";
                if (r.Stage != Stage.Accepted || Sendings.OfReturn(unit, r.Id).FirstOrDefault(s => s.AnsweredAt is not null) is not { } answered)
                {
                    return new LegalHold(r.Id, title, null, null, retention.Source);
                }

                var filed = DateOnly.ParseExact(answered.AnsweredAt![..10], "yyyy-MM-dd", CultureInfo.InvariantCulture);
                return new LegalHold(r.Id, title, filed, filed.AddYears(retention.Years), retention.Source);
            }).Where(h => h.Until is null || h.Until > today),
        ];
        var words = holds.Count > 0
            ? $"{client.Name} cannot be deleted: records of what was filed are kept for {retention.Years} years ({retention.Source}), "
                + (holds.Any(h => h.Until is null) ? "and a return is still under way with the authority." : $"here until {holds.Max(h => h.Until)!.Value.ToString("d MMMM yyyy", CultureInfo.InvariantCulture)}.")
            : $"Deletes {client.Name} with {returns.Count} returns, {Documents.Of(unit, id).Count} documents and {Statements.Of(unit, id).Count} statements, for good. "
                + "What the acts about this client say is erased; that they happened stays provable. Backups made before keep it until they are removed.";
        return new DeletionView(holds.Count == 0, words, holds);
    }

    private static byte[] Export(Unit unit, ClientRecord client, Reach reach)
    {
        var files = new List<ParcelFile>
        {
            Json("client.json", client),
            Json("relations.json", ClientRelations.Of(unit, client.Id, reach)),
            Json("statements.json", Statements.Of(unit, client.Id)),
            Json("documents.json", Documents.Of(unit, client.Id)),
            Json("acts.json", Acts.OfClient(unit, client.Id, int.MaxValue)),
        };
        if (Consents.Find(unit, client.Id) is { } consent)
        {
            files.Add(Json("consent.json", consent));
        }

        files.AddRange(Documents.Of(unit, client.Id).Select(d => new ParcelFile($"documents/{d.Id}-{Sending.FileNames.Safe(d.Name)}", Artefacts.Get(unit, d.Sha256))));
        foreach (var item in Storage.Returns.OfClient(unit, client.Id))
        {
            var folder = $"returns/{item.Definition.Replace('/', '-')}-{Periods.InWords(item.Year, item.Period).Replace(' ', '-')}-{item.Kind}-{item.Id}";
            files.Add(Json($"{folder}/return.json", item));
            files.Add(Json($"{folder}/entries.json", new { rows = Storage.Returns.Rows(unit, item.Id), entries = Storage.Returns.Entries(unit, item.Id) }));
            files.Add(new ParcelFile($"{folder}/entries.csv", Csv(item, Storage.Returns.Entries(unit, item.Id))));
            files.Add(Json($"{folder}/accepted-findings.json", Acceptances.Of(unit, item.Id)));
            files.Add(Json($"{folder}/remarks.json", Remarks.Of(unit, item.Id)));
            files.Add(Json($"{folder}/payments.json", Payments.Of(unit, item.Id)));
            files.Add(Json($"{folder}/sendings.json", Sendings.OfReturn(unit, item.Id)));
            if (BuiltReturns.Latest(unit, item.Id) is { } built)
            {
                var file = Artefacts.Get(unit, built.EreturnSha256);
                files.Add(new ParcelFile($"{folder}/e-return.{EReturnFormat.Of(file).Ending}", file));
                files.Add(new ParcelFile($"{folder}/printed-copy.pdf", Artefacts.Get(unit, built.CopySha256)));
            }

            files.AddRange(Sendings.OfReturn(unit, item.Id).Where(s => s.ReceiptSha256 is not null)
                .Select(s => new ParcelFile($"{folder}/receipt-{s.Id}.json", Artefacts.Get(unit, s.ReceiptSha256!))));
        }

        return Parcel.Pack(new Dictionary<string, string> { ["client"] = client.Name, ["identifier"] = client.Identifier, ["country"] = client.Country }, files);
    }

    private static ParcelFile Json<T>(string name, T content) => new(name, JsonSerializer.SerializeToUtf8Bytes(content, Written));

    private static byte[] Csv(ReturnRecord item, IReadOnlyList<EntryRecord> entries)
    {
        var definition = Catalogue.Get(item.Definition, item.Year, item.Period);
        return CsvFile.Of(entries.Select(e => new
        {
            e.Line,
            Label = definition.FindLine(e.Line)?.Label,
            e.Row,
            e.Value,
            e.Origin,
            e.Source,
            e.Expression,
            e.ChangedAt,
        }));
    }

}
