using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography.X509Certificates;
using Aerarium.Core.Days;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Server.Sending;
using Aerarium.Storage;

namespace Aerarium.Server.Practice;

/// <summary>The practice.</summary>
public sealed record PracticeView(
    string Name, string CertificateSubject, string CertificateThumbprint, string CertificateUntil, int CertificateDaysLeft, string Authority, IReadOnlyList<ColleagueView> People, IReadOnlyList<TeamView> Teams);

/// <summary>A person of the practice, as everybody sees it.</summary>
public sealed record ColleagueView(long Id, string Name, string Email, IReadOnlyList<string> Roles);

/// <summary>A PKCS#12 file with the passphrase that opens it; neither is kept.</summary>
public sealed record CertificateFile(string? Content, string? Passphrase);

/// <summary>Whether the chain of acts is unbroken.</summary>
/// <param name="Acts">How many acts there are.</param>
/// <param name="FirstBroken">The first act that does not fit, or null.</param>
/// <param name="FollowedTo">The last act up to which the chain has been followed.</param>
/// <param name="AtEnd">Whether that is the last act of all.</param>
/// <param name="WholeTo">The act up to which the whole chain was last followed from the first act on; null when it never was.</param>
/// <param name="WholeAt">When that was.</param>
public sealed record ChainView(long Acts, long? FirstBroken, long FollowedTo, bool AtEnd, long? WholeTo, string? WholeAt);

internal static class PracticeEndpoints
{

    public static void MapPractice(this RouteGroupBuilder api)
    {
        api.MapPut("/practice/certificate", (CertificateFile file, ClaimsPrincipal user, SigningCertificate signing, Workbench workbench) =>
        {
            byte[] content;
            try
            {
                content = Convert.FromBase64String(file.Content ?? "");
            }
            catch (FormatException)
            {
                throw PlainProblem.Refused("The file did not arrive whole; choose it again.");
            }

            signing.Load(content, file.Passphrase, Caller.Of(user));
            workbench.ForgetAll();
            return Results.NoContent();
        }).ReachesPractice().WithTags("Practice").RequireAuthorization(Policies.Administer);
        api.MapGet("/practice", (PracticeDatabase database, AuthorityClient authority, TimeProvider clock) => database.Read(unit =>
        {
            var practice = Practices.Find(unit) ?? throw PlainProblem.NotFound("The practice");
            using var certificate = X509CertificateLoader.LoadCertificate(practice.Certificate);
            return new PracticeView(
                practice.Name,
                certificate.Subject,
                certificate.Thumbprint,
                certificate.NotAfter.ToUniversalTime().ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                DateOnly.FromDateTime(certificate.NotAfter.ToUniversalTime()).DayNumber - clock.Today().DayNumber,
                authority.Address,
                [.. People.All(unit).Where(p => p.Active == 1).Select(p => new ColleagueView(p.Id, p.Name, p.Email, p.RoleList))],
                [.. Teams.All(unit).Select(t => new TeamView(t.Id, t.Name))]);
        })).ReachesPractice().WithTags("Practice");
        api.MapPracticeDefaults();
        api.MapSetUp();
        api.MapActs();
        api.MapVerification();
        api.MapConsent();
    }
}
