using System.Security.Claims;
using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;
using Microsoft.AspNetCore.Mvc;

namespace Aerarium.Server.Gathering;

/// <summary>A document.</summary>
public sealed record DocumentView(
    long Id, long? ReturnId, string Kind, long? Year, string Name, string MediaType, long Bytes, long? Pages, string AddedBy, string AddedAt);

/// <summary>What is added: the file itself is the body of the request.</summary>
public sealed record NewDocument
{
    /// <summary>File name.</summary>
    public string? Name { get; init; }

    /// <summary>What it is: certificate, letter, receipt ...</summary>
    public string? Kind { get; init; }

    /// <summary>Year it belongs to.</summary>
    public int? Year { get; init; }

    /// <summary>Return it belongs to.</summary>
    public long? ReturnId { get; init; }
}

/// <summary>Documents attached to clients and returns: kept by their hash, shown as they are, never run.</summary>
internal static class DocumentEndpoints
{
    /// <summary>Bytes of a document at most.</summary>
    internal const int LargestDocument = 20 * 1024 * 1024;
    private const int LongestText = 120;

    public static void MapDocuments(this RouteGroupBuilder api)
    {
        var documents = api.MapGroup("/clients/{id:long}/documents").ReachesClient().WithTags("Gathering");
        documents.MapGet("", (long id, PracticeDatabase database) => database.Read(unit => List(unit, id)));
        documents.MapPost("", AddAsync).RequireAuthorization(Policies.Prepare).WithMetadata(new RequestSizeLimitAttribute(LargestDocument));
        documents.MapGet("/{document:long}", (long id, long document, PracticeDatabase database) => database.Read(unit =>
        {
            var found = Find(unit, id, document);
            return Results.File(Artefacts.Get(unit, found.Sha256), found.MediaType, found.Name);
        })).Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        documents.MapDelete("/{document:long}", RemoveAsync).RequireAuthorization(Policies.Prepare);
    }

    private static async Task<IReadOnlyList<DocumentView>> RemoveAsync(
        long id, long document, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock, Attachments attachments, Workbench workbench)
    {
        var caller = Caller.Of(user);
        var (found, list) = database.Write(unit =>
        {
            var found = Find(unit, id, document);
            if (found.ReturnId is { } attachedTo && Storage.Returns.Find(unit, attachedTo) is { } record && !Stage.CanChange(record.Stage))
            {
                throw PlainProblem.Conflict($"'{found.Name}' went with a return that has been sent; it is kept with it.");
            }

            Documents.Remove(unit, document);
            Acts.Add(unit, caller.Act("document", clock.GetUtcNow()) with { ClientId = id, ReturnId = found.ReturnId, Before = $"{found.Name}, {found.Sha256}" });
            return (found, List(unit, id));
        });
        await CountAsync(found.ReturnId, caller, attachments, workbench);
        return list;
    }

    private static Task CountAsync(long? returnId, Caller caller, Attachments attachments, Workbench workbench) =>
        returnId is { } id && attachments.Follow(id, caller) is { } changed ? workbench.TellAsync(changed) : Task.CompletedTask;

    private static async Task<IReadOnlyList<DocumentView>> AddAsync(
        long id,
        [AsParameters] NewDocument about,
        HttpRequest request,
        ClaimsPrincipal user,
        PracticeDatabase database,
        TimeProvider clock,
        Attachments attachments,
        Workbench workbench,
        ForeignFiles files,
        CancellationToken cancellation)
    {
        var content = await ForeignFiles.BodyAsync(request);
        var (name, kind) = (FileNameOf(about.Name), EntryReader.Clean(about.Kind));
        if (name.Length is 0 or > LongestText || kind.Length is 0 or > LongestText)
        {
            throw PlainProblem.Refused("Say what the document is, and give its file a name of at most 120 characters.");
        }

        if (about.Year is < 1990 or > 2100)
        {
            throw PlainProblem.Refused($"{about.Year} is not a year a document can belong to.");
        }

        var mediaType = MediaTypeOf(content) ?? throw PlainProblem.Refused($"'{name}' is not kept: documents are PDF, PNG, JPEG, XLSX, or text in UTF-8.");
        long? pages = mediaType == "application/pdf" ? await files.PagesAsync(content, user, cancellation) : mediaType.StartsWith("image/", StringComparison.Ordinal) ? 1 : null;
        var caller = Caller.Of(user);
        var list = database.Write(unit =>
        {
            if (Storage.Clients.Find(unit, id) is null)
            {
                throw PlainProblem.NotFound("This client");
            }

            if (about.ReturnId is { } returnId && Storage.Returns.Find(unit, returnId)?.ClientId != id)
            {
                throw PlainProblem.Refused("The return belongs to another client.");
            }

            var now = clock.GetUtcNow();
            var sha256 = Artefacts.Keep(unit, content, mediaType, Moments.Text(now));
            Documents.Add(unit, new DocumentRecord
            {
                ClientId = id,
                ReturnId = about.ReturnId,
                Kind = kind,
                Year = about.Year,
                Name = name,
                MediaType = mediaType,
                Bytes = content.Length,
                Pages = pages,
                Sha256 = sha256,
                AddedBy = caller.Id,
                AddedAt = Moments.Text(now),
            });
            Acts.Add(unit, caller.Act("document", now) with { ClientId = id, ReturnId = about.ReturnId, After = $"{name}, {sha256}" });
            return List(unit, id);
        });
        await CountAsync(about.ReturnId, caller, attachments, workbench);
        return list;
    }

    private static IReadOnlyList<DocumentView> List(Unit unit, long client) =>
    [
        .. Documents.Of(unit, client).Select(d => new DocumentView(
            d.Id, d.ReturnId, d.Kind, d.Year, d.Name, d.MediaType, d.Bytes, d.Pages, People.Find(unit, d.AddedBy)!.Name, d.AddedAt)),
    ];

    private static DocumentRecord Find(Unit unit, long client, long document) =>
        Documents.Find(unit, document) is { } found && found.ClientId == client ? found : throw PlainProblem.NotFound("This document");

    /// <summary>The last part of a path as it is typed, without the dots that would name a folder or hide the file.</summary>
    internal static string FileNameOf(string? name) => EntryReader.Clean(name).Split('/', '\\')[^1].TrimStart('.', ' ');

    /// <summary>What the first bytes say it is, whatever its name says; null for what is not kept.</summary>
    internal static string? MediaTypeOf(byte[] content) => content switch
    {
        [(byte)'%', (byte)'P', (byte)'D', (byte)'F', (byte)'-', ..] => "application/pdf",
        [0x89, (byte)'P', (byte)'N', (byte)'G', ..] => "image/png",
        [0xFF, 0xD8, 0xFF, ..] => "image/jpeg",
        [(byte)'P', (byte)'K', 3, 4, ..] => "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
        [] => null,
        _ => IsText(content) ? "text/plain" : null,
    };

    private static bool IsText(byte[] content)
    {
        try
        {
            return Array.IndexOf(content, (byte)0) < 0 && new UTF8Encoding(false, throwOnInvalidBytes: true).GetCharCount(content) >= 0;
        }
        catch (DecoderFallbackException)
        {
            return false;
        }
    }
}
