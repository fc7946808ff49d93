using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Server.Access;
using Aerarium.Server.Clients;
using Aerarium.Server.Returns;
using Aerarium.Storage;
using Microsoft.AspNetCore.Mvc;

namespace Aerarium.Server.Kept;

/// <summary>A client who keeps the data, as typed, and the passphrase of the file.</summary>
public sealed record NewKeptClient(ClientParticularsInput Client, string? Passphrase);

/// <summary>A file to open.</summary>
public sealed record OpenKeptFile(byte[]? File, string? Passphrase);

/// <summary>The file that was begun, or what is wrong with the particulars.</summary>
public sealed record KeptBegun(KeptView? Opened, IReadOnlyList<FieldProblem> Problems);

/// <summary>Files of clients who keep the data: begun, opened, saved and closed by the person who works on them.</summary>
internal static class KeptEndpoints
{
    private const int LargestFile = 40 * 1024 * 1024;

    public static void MapKept(this RouteGroupBuilder api)
    {
        var kept = api.MapGroup("/kept").ReachesPractice().WithTags("Clients").RequireAuthorization(Policies.Prepare);
        kept.MapGet("", (ClaimsPrincipal user, KeptReturns files) => files.Of(Caller.Of(user).Id));
        kept.MapPost("", (NewKeptClient typed, ClaimsPrincipal user, KeptReturns files, PracticeDatabase database, TimeProvider clock) =>
        {
            var caller = Caller.Of(user);
            var (client, problems) = database.Read(unit => ClientEndpoints.Read(
                unit, typed.Client ?? throw PlainProblem.Refused("Give the client's particulars."), null, clock, caller.Reach));
            return problems.Count > 0 ? new KeptBegun(null, problems) : new KeptBegun(files.Begin(client, typed.Passphrase ?? "", caller), []);
        });
        kept.MapPost("/open", (OpenKeptFile asked, ClaimsPrincipal user, KeptReturns files, FollowedParticulars particulars) =>
        {
            var caller = Caller.Of(user);
            var opened = files.Open(asked.File ?? [], asked.Passphrase ?? "", caller);
            using (PracticeDatabase.WorkIn(files.Find(opened.Id, caller.Id)!))
            {
                particulars.FollowAll(opened.Id, caller);
            }

            return files.Of(caller.Id).First(k => k.Id == opened.Id);
        }).WithMetadata(new RequestSizeLimitAttribute(LargestFile));
        kept.MapPost("/{kept:long}/file", async (long kept, ClaimsPrincipal user, KeptReturns files, TiesAtRest rest) =>
        {
            await rest.SettleAsync();
            return Results.File(files.Save(kept, Caller.Of(user)), "application/octet-stream", "client-kept.aer");
        }).Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        kept.MapDelete("/{kept:long}", async (long kept, bool? drop, ClaimsPrincipal user, KeptReturns files, TiesAtRest rest) =>
        {
            await rest.SettleAsync();
            files.Close(kept, drop ?? false, Caller.Of(user));
            return TypedResults.NoContent();
        });
    }
}
