using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Kept;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Approval;

/// <summary>A link for a client; it is shown once.</summary>
/// <param name="Path">Path of the page, to be sent to the client.</param>
/// <param name="ExpiresAt">Until when it works.</param>
public sealed record AcceptanceLink(string Path, string ExpiresAt);

/// <summary>A figure of the return the client looks at.</summary>
public sealed record AcceptanceFigure(string Label, string Amount);

/// <summary>What a client sees through the link: read-only, of this return alone.</summary>
public sealed record ClientCopyView(
    string Practice, string Client, string Title, string Period, string Kind, string Currency, IReadOnlyList<AcceptanceFigure> Figures, string BalanceWords, string ApprovedAt, string? Answer, string? AnsweredAt);

/// <summary>What the client answers.</summary>
/// <param name="Accept">Whether the return is accepted.</param>
/// <param name="Name">Who answers.</param>
/// <param name="Remark">What the client says; needed when refusing.</param>
public sealed record AcceptanceAnswer(bool Accept, string? Name, string? Remark);

/// <summary>
/// The client's acceptance, without an account: a link with an unguessable token that works for one approved return, for some days, and
/// takes one answer. Only the token's hash is kept.
/// </summary>
internal static class ClientAcceptanceEndpoints
{
    private const int TokenBytes = 32;
    private const int LongestText = 1_000;
    private static readonly TimeSpan Works = TimeSpan.FromDays(14);

    public static void MapClientAcceptance(this RouteGroupBuilder api)
    {
        api.MapPost("/returns/{id:long}/approval/ask-client", Ask).ReachesReturn().WithTags("Approval").RequireAuthorization(Policies.Prepare);
        var open = api.MapGroup("/acceptance/{token}").ReachesPractice().WithTags("Approval").AllowAnonymous().RequireRateLimiting(AccessSetup.AttemptsLimit);
        open.MapGet("", (string token, PracticeDatabase database, TimeProvider clock) => database.Read(unit => View(unit, Find(unit, token, clock))));
        open.MapGet("/copy.pdf", (string token, PracticeDatabase database, TimeProvider clock) => database.Read(unit =>
        {
            var (_, frozen, record) = Frozen(unit, Find(unit, token, clock));
            var facts = new PrintedCopyFacts(Practices.Find(unit)!.Name, Storage.Clients.NameOf(unit, record.ClientId), record.Kind, "Approved, for the client's acceptance", frozen.Day);
            return Results.File(PrintedCopy.Draw(Evaluate(unit, frozen), facts), "application/pdf");
        })).Produces(StatusCodes.Status200OK, contentType: "application/pdf");
        open.MapPost("", AnswerAsync);
    }

    private static AcceptanceLink Ask(long id, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock)
    {
        if (KeptReturns.IsKept(id))
        {
            throw PlainProblem.Conflict("A client who keeps the data looks at the return in the client's own file; a link cannot reach it.");
        }

        var (caller, now) = (Caller.Of(user), clock.GetUtcNow());
        var token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(TokenBytes));
        return database.Write(unit =>
        {
            var record = Storage.Returns.Find(unit, id) ?? throw PlainProblem.NotFound("This return");
            if (Approvals.Latest(unit, id) is not { State: "approved" } approval || record.Stage != Stage.Approved)
            {
                throw PlainProblem.Conflict("The client accepts what has been approved; have the return approved first.");
            }

            ClientAcceptances.Add(unit, new ClientAcceptanceRecord
            {
                ReturnId = id,
                ApprovalId = approval.Id,
                TokenSha256 = HashOf(token),
                AskedBy = caller.Name,
                AskedAt = Moments.Text(now),
                ExpiresAt = Moments.Text(now + Works),
            });
            Acts.Add(unit, caller.Act("ask-client", now) with { ReturnId = id, ClientId = record.ClientId });
            return new AcceptanceLink($"/accept/{token}", Moments.Text(now + Works));
        });
    }

    private static async Task<ClientCopyView> AnswerAsync(string token, AcceptanceAnswer typed, PracticeDatabase database, TimeProvider clock, LiveReturns live)
    {
        var (name, remark) = (EntryReader.Clean(typed.Name), EntryReader.Clean(typed.Remark));
        if (name.Length is 0 or > 120 || remark.Length > LongestText)
        {
            throw PlainProblem.Refused($"Give your name, and a remark of at most {LongestText} characters.");
        }

        if (!typed.Accept && remark.Length < 3)
        {
            throw PlainProblem.Refused("Say in a remark what is not right, so that it can be corrected.");
        }

        var (view, id) = database.Write(unit =>
        {
            var asked = Find(unit, token, clock);
            var answered = asked with { Answer = typed.Accept ? "accepted" : "refused", Name = name, Remark = remark.Length == 0 ? null : remark, AnsweredAt = Moments.Text(clock.GetUtcNow()) };
            if (!ClientAcceptances.Answer(unit, answered))
            {
                throw PlainProblem.Conflict("This return has been answered already; ask the practice for a new link.");
            }

            var record = Storage.Returns.Find(unit, asked.ReturnId)!;
            Acts.Add(unit, new ActRecord
            {
                At = answered.AnsweredAt,
                PersonName = $"client: {name}",
                Kind = typed.Accept ? "client-accepts" : "client-refuses",
                ReturnId = record.Id,
                ClientId = record.ClientId,
                After = answered.Remark,
            });
            return (View(unit, answered), record.Id);
        });
        await live.TellStatusAsync(id);
        return view;
    }

    private static ClientAcceptanceRecord Find(Unit unit, string token, TimeProvider clock)
    {
        var found = ClientAcceptances.FindByToken(unit, HashOf(token));
        return found is not null
            && Approvals.Latest(unit, found.ReturnId) is { State: "approved" } approval && approval.Id == found.ApprovalId
            && ClientAcceptances.Latest(unit, found.ApprovalId)!.Id == found.Id
            && string.CompareOrdinal(found.ExpiresAt, Moments.Text(clock.GetUtcNow())) > 0
            ? found
            : throw new PlainProblem(StatusCodes.Status404NotFound, "This link works no longer: it is too old, or the return has changed since. Ask the practice for a new one.");
    }

    private static (ApprovalRecord Approval, FrozenReturn Frozen, ReturnRecord Record) Frozen(Unit unit, ClientAcceptanceRecord asked)
    {
        var approval = Approvals.Find(unit, asked.ApprovalId)!;
        return (approval, ApprovalDesk.Frozen(unit, approval), Storage.Returns.Find(unit, asked.ReturnId)!);
    }

    private static Core.Engine.Evaluation Evaluate(Unit unit, FrozenReturn frozen) => PracticeDefinitions.Of(unit, frozen).Evaluate(frozen.Entries, frozen.Day);

    private static ClientCopyView View(Unit unit, ClientAcceptanceRecord asked)
    {
        var (approval, frozen, record) = Frozen(unit, asked);
        var evaluation = Evaluate(unit, frozen);
        return new ClientCopyView(
            Practices.Find(unit)!.Name,
            Storage.Clients.NameOf(unit, record.ClientId),
            evaluation.Definition.Title,
            Periods.InWords(record.Year, record.Period),
            record.Kind,
            evaluation.Definition.Currency,
            [.. evaluation.Outcome.Select(o => new AcceptanceFigure(o.Figure.Label, Figures.Canonical(o.Amount)))],
            evaluation.Balance < 0 ? evaluation.Definition.BalanceWords.Overpaid : evaluation.Definition.BalanceWords.ToPay,
            approval.ApprovedAt!,
            asked.Answer,
            asked.AnsweredAt);
    }

    private static string HashOf(string token) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(token)));
}
