using System.Net.Http.Headers;
using System.Text.Json;
using Aerarium.Core.Days;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Practice;
using Aerarium.Storage;

namespace Aerarium.Server.Sending;

/// <summary>What the authority's check said of a built e-return before it was sent.</summary>
public sealed record PlausibilityView(string CheckedAt, IReadOnlyList<RejectionReason> Reasons);

/// <summary>Has built e-returns checked by the authority's own rules before they are sent, where it offers that; nothing is filed by it.</summary>
public sealed class PlausibilityDesk(
    PracticeDatabase database, EReturnBuilding building, AuthorityClient authority, AuthorityConsent consent, AuthorityCertificate seal, TimeProvider clock)
{
    private sealed record Found(string? Sha256, IReadOnlyList<AuthorityReason>? Reasons);

    /// <summary>Asks the authority about the latest build, and keeps what it says.</summary>
    /// <exception cref="PlainProblem">Nothing is built, the authority checks nothing beforehand, or it does not answer.</exception>
    public async Task CheckAsync(long id, Caller caller, CancellationToken cancellation)
    {
        var (built, document, agent, record, practice) = database.Read(unit =>
        {
            var latest = BuiltReturns.Latest(unit, id) ?? throw PlainProblem.Conflict("Build the e-return first; what is built is checked.");
            return (latest, Artefacts.Get(unit, latest.EreturnSha256), building.AgentOf(unit, latest), Storage.Returns.Find(unit, id)!, Practices.Find(unit)!);
        });
        if (!Catalogue.TypeOf(record.Definition).Mapping.CheckedBeforehand)
        {
            throw PlainProblem.Conflict("The authority does not check returns of this kind before they are filed.");
        }

        try
        {
            var country = Catalogue.CountryOf(record.Definition);
            if (!await authority.RegisterAsync(agent, practice.Name, practice.Certificate, await consent.AuthorizationAsync(country, cancellation), cancellation))
            {
                consent.Refused(country);
                throw PlainProblem.Conflict("The authority does not take the practice's consent, or its user name and secret. Connect it on the Practice page, then check again.");
            }

            using var body = new ByteArrayContent(document) { Headers = { ContentType = new MediaTypeHeaderValue(EReturnFormat.Of(document).MediaType) } };
            var came = await authority.PostAsync("plausibility", body, cancellation);
            await seal.RequireSignedAsync(came.Bytes, came.Signature, cancellation);
            if (JsonSerializer.Deserialize<Found>(came.Bytes, JsonSerializerOptions.Web) is not { Reasons: { } reasons } found || found.Sha256 != built.EreturnSha256)
            {
                throw new AuthorityUnavailableException("An answer came that is about another document; it was not taken.");
            }

            database.Write(unit =>
            {
                BuiltReturns.KeepCheck(unit, built.Id, Moments.Text(clock.GetUtcNow()), JsonSerializer.Serialize(reasons));
                Acts.Add(unit, caller.Act("check", clock.GetUtcNow()) with { ReturnId = id, ClientId = record.ClientId, After = reasons.Count == 1 ? "1 reason" : $"{reasons.Count} reasons" });
            });
        }
        catch (AuthorityUnavailableException problem)
        {
            throw new PlainProblem(StatusCodes.Status502BadGateway, $"{problem.Message} The return was not checked; try again later. Nothing was filed.");
        }
    }

    /// <summary>The same where the authority checks returns of this kind and was not asked about the latest build yet; nothing otherwise.</summary>
    /// <exception cref="PlainProblem">The authority does not answer.</exception>
    public async Task CheckWhereAskedForAsync(long id, Caller caller, CancellationToken cancellation)
    {
        if (database.Read(unit => Catalogue.TypeOf(Storage.Returns.Find(unit, id)!.Definition).Mapping.CheckedBeforehand && BuiltReturns.Latest(unit, id) is { CheckReasons: null }))
        {
            await CheckAsync(id, caller, cancellation);
        }
    }

    /// <summary>What was said of a build; null when it was not checked.</summary>
    public PlausibilityView? Of(Unit unit, BuiltRecord built) => built.CheckReasons is null ? null
        : new PlausibilityView(built.CheckedAt!, building.InWords(unit, built, JsonSerializer.Deserialize<List<AuthorityReason>>(built.CheckReasons)!));
}
