using System.Security.Claims;
using System.Text.Json;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Server.Sending;
using Aerarium.Storage;

namespace Aerarium.Server.Gathering;

/// <summary>A particular that the authority has otherwise.</summary>
public sealed record RegisteredDifference(string Particular, string Label, string? Ours, string? Theirs);

/// <summary>How the client's particulars compare with what the authority has registered.</summary>
/// <param name="State">agrees, differs, unknown or unreachable.</param>
/// <param name="Differences">What differs.</param>
/// <param name="VerifiedBy">Who had it verified.</param>
/// <param name="VerifiedAt">When.</param>
public sealed record VerificationView(string State, IReadOnlyList<RegisteredDifference> Differences, string VerifiedBy, string VerifiedAt);

/// <summary>
/// Verifies a client's particulars with the authority's registration when a return is opened, before anything is entered,
/// and again when asked.
/// </summary>
public sealed class RegisteredParticulars(PracticeDatabase database, AuthorityClient authority, Workbench workbench, TimeProvider clock)
{
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(4);

    private static readonly Dictionary<string, string> Labels = new()
    {
        ["name"] = "Official name",
        ["birth-date"] = "Date of birth",
        ["email"] = "E-mail address",
        ["phone"] = "Telephone",
        ["postal-address"] = "Postal address",
        ["payout-account-number"] = "Payout account number",
    };

    /// <summary>The latest verification of a return, or null.</summary>
    public VerificationView? Find(long returnId) => database.Read(unit => Verifications.Find(unit, returnId)) is { } kept ? View(kept) : null;

    /// <summary>Asks the authority now and keeps what came of it.</summary>
    public async Task<VerificationView> VerifyAsync(long returnId, Caller caller, CancellationToken cancellation)
    {
        var (record, client) = database.Read(unit =>
        {
            var found = Storage.Returns.Find(unit, returnId) ?? throw PlainProblem.NotFound("This return");
            return (found, Storage.Clients.Find(unit, found.ClientId)!);
        });
        var (state, differences) = await CompareAsync(record, client, cancellation);
        var verification = new VerificationRecord(state, JsonSerializer.Serialize(differences), caller.Name, Moments.Text(clock.GetUtcNow()));
        database.Write(unit =>
        {
            Verifications.Put(unit, returnId, verification);
            Acts.Add(unit, caller.Act("verify-particulars", clock.GetUtcNow()) with { ReturnId = returnId, ClientId = client.Id, After = state });
        });
        if (Stage.CanChange(record.Stage))
        {
            _ = workbench.TellFindingsAsync(workbench.Refresh(returnId));
        }

        return View(verification);
    }

    /// <summary>The differences a verification found.</summary>
    internal static IReadOnlyList<RegisteredDifference> DifferencesIn(VerificationRecord kept) => JsonSerializer.Deserialize<List<RegisteredDifference>>(kept.Differences)!;

    /// <summary>Whether two particulars differ in more than blanks, marks and case.</summary>
    internal static bool Differs(string? ours, string? theirs) => Plain(ours) != Plain(theirs);

    private async Task<(string State, IReadOnlyList<RegisteredDifference> Differences)> CompareAsync(
        ReturnRecord record, ClientRecord client, CancellationToken cancellation)
    {
        var reader = Catalogue.RegistrationOf(Catalogue.CountryOf(record.Definition));
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancellation);
        limit.CancelAfter(LongestWait);
        try
        {
            if (await authority.FindAsync(reader.RegistrationPath(client.Identifier), limit.Token) is not { } json)
            {
                return ("unknown", []);
            }

            List<RegisteredDifference> differences =
            [
                .. reader.ReadRegistration(json)
                    .Where(r => Differs(client.Particular(r.Key), r.Value))
                    .Select(r => new RegisteredDifference(r.Key, Labels[r.Key], client.Particular(r.Key), r.Value)),
            ];
            return (differences.Count == 0 ? "agrees" : "differs", differences);
        }
        catch (Exception problem) when (problem is AuthorityUnavailableException or JsonException || (problem is OperationCanceledException && !cancellation.IsCancellationRequested))
        {
            return ("unreachable", []);
        }
    }

    private static VerificationView View(VerificationRecord kept) => new(
        kept.State, DifferencesIn(kept), kept.VerifiedBy, kept.VerifiedAt);

    /// <summary>Letters and digits in one case: blanks and marks tell nobody apart.</summary>
    private static string Plain(string? text) => string.Concat((text ?? "").ToUpperInvariant().Where(char.IsLetterOrDigit));
}

internal static class VerificationEndpoints
{
    public static void MapVerification(this RouteGroupBuilder api)
    {
        var verification = api.MapGroup("/returns/{id:long}/verification").ReachesReturn().WithTags("Gathering");
        verification.MapGet("", (long id, RegisteredParticulars registered) => registered.Find(id));
        verification.MapPost("", (long id, ClaimsPrincipal user, RegisteredParticulars registered, CancellationToken cancellation) =>
            registered.VerifyAsync(id, Caller.Of(user), cancellation)).RequireAuthorization(Policies.Prepare);
    }
}
