using System.Globalization;
using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Desk;

/// <summary>A return on the Desk.</summary>
/// <param name="Id">Return.</param>
/// <param name="ClientId">Client.</param>
/// <param name="Client">Name of the client.</param>
/// <param name="Group">Group of the client, or null.</param>
/// <param name="Title">Title of the return.</param>
/// <param name="Year">Tax year.</param>
/// <param name="Kind">Original or amended.</param>
/// <param name="Stage">Stage as stored.</param>
/// <param name="StageLabel">Stage in words.</param>
/// <param name="Step">How many of five steps are done.</param>
/// <param name="Due">Day by which it is to be filed.</param>
/// <param name="DaysLeft">Days until then; negative when late.</param>
/// <param name="Errors">Errors left.</param>
/// <param name="Warnings">Warnings left.</param>
/// <param name="Balance">Balance, canonical.</param>
/// <param name="Currency">Currency.</param>
/// <param name="Holder">Who holds it.</param>
/// <param name="NextAct">What to do next.</param>
/// <param name="Place">Where that is done: scope, fill, review, approve, send.</param>
public sealed record DeskItem(
    long Id,
    long ClientId,
    string Client,
    string? Group,
    string Title,
    int Year,
    string Kind,
    string Stage,
    string StageLabel,
    int Step,
    string Due,
    int DaysLeft,
    int Errors,
    int Warnings,
    string Balance,
    string Currency,
    string Holder,
    string NextAct,
    string Place);

internal static class DeskEndpoints
{
    public static void MapDesk(this RouteGroupBuilder api) =>
        api.MapGet("/desk", (ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
        {
            var today = clock.Today();
            return database.Read(unit => Storage.Returns.Desk(unit, Caller.Of(user).Reach)).Select(r => Item(r, today)).ToList();
        }).WithTags("Desk");

    private static DeskItem Item(DeskRecord r, DateOnly today)
    {
        var definition = Catalogue.Get(r.Definition, (int)r.Year);
        var (label, step, next, place) = r.Stage switch
        {
            Stage.Open when r.Started == 0 => ("not started", 0, "answer scope", "scope"),
            Stage.Open when r.Errors > 0 => ("fill", 2, r.Errors == 1 ? "correct 1 error" : $"correct {r.Errors} errors", "review"),
            Stage.Open when r.Warnings > 0 => ("review", 3, r.Warnings == 1 ? "decide 1 warning" : $"decide {r.Warnings} warnings", "review"),
            Stage.Open => ("review", 3, "hand over", "approve"),
            Stage.Waiting => ("waiting for approval", 4, "approve", "approve"),
            Stage.Approved => ("approved", 4, "build and send", "send"),
            Stage.Sent => ("sent, not answered", 5, "wait for the answer", "send"),
            Stage.Rejected => ("rejected", 3, "see reasons", "send"),
            _ => ("accepted", 5, "parcel", "send"),
        };
        var due = DateOnly.ParseExact(r.Due, "yyyy-MM-dd", CultureInfo.InvariantCulture);
        return new DeskItem(
            r.Id,
            r.ClientId,
            r.ClientName,
            r.ClientGroup,
            definition.Title,
            (int)r.Year,
            r.Kind,
            r.Stage,
            label,
            step,
            r.Due,
            due.DayNumber - today.DayNumber,
            (int)r.Errors,
            (int)r.Warnings,
            r.Balance,
            definition.Currency,
            r.Holder,
            next,
            place);
    }
}
