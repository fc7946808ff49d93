using System.Security.Cryptography;
using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Approval;
using Aerarium.Storage;

namespace Aerarium.Server.Practice;

/// <summary>A new practice and its first person.</summary>
/// <param name="Code">The code from the file the server wrote, so that only who runs the server sets it up.</param>
/// <param name="PracticeName">Name of the practice.</param>
/// <param name="Name">Name of the first person, who administers.</param>
/// <param name="Email">Address to sign in with.</param>
/// <param name="Password">Password.</param>
/// <param name="Roles">What that person does besides administering.</param>
/// <param name="WorksAlone">Whether one person prepares and approves; otherwise four eyes are asked for.</param>
public sealed record NewPractice(string Code, string PracticeName, string Name, string Email, string Password, IReadOnlyList<string>? Roles, bool WorksAlone = false);

/// <summary>Sets a practice up once, on an empty file: guarded by a code only who runs the server can read.</summary>
public sealed class SetUp(
    PracticeDatabase database, DataFolder data, SigningCertificate signing, Passwords passwords, TimeProvider clock, ILogger<SetUp> log)
{
    private const int LongestText = 120;

    private string CodeFile => Path.Combine(data.Path, "set-up-code");

    /// <summary>Whether the practice still has to be set up.</summary>
    public bool IsDue => database.Read(Practices.Find) is null;

    /// <summary>Writes a code for setting up, unless there is a practice or a code already.</summary>
    public void Offer()
    {
        if (!IsDue)
        {
            return;
        }

        if (!File.Exists(CodeFile))
        {
            var options = new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write };
            if (!OperatingSystem.IsWindows())
            {
                options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
            }

            using var file = new FileStream(CodeFile, options);
            file.Write(Encoding.ASCII.GetBytes(Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(10))));
        }

        log.LogInformation("No practice yet: open /set-up and give the code in the file {File}", CodeFile);
    }

    /// <summary>Sets the practice up; the first person.</summary>
    /// <exception cref="PlainProblem">The code is wrong, something is missing, or there is a practice already.</exception>
    public async Task<PersonRecord> MakeAsync(NewPractice typed, CancellationToken cancellation)
    {
        if (!IsDue || !File.Exists(CodeFile))
        {
            throw PlainProblem.Conflict("The practice has been set up already; sign in.");
        }

        if (!CryptographicOperations.FixedTimeEquals(Encoding.UTF8.GetBytes(File.ReadAllText(CodeFile).Trim()), Encoding.UTF8.GetBytes((typed.Code ?? "").Trim())))
        {
            throw new PlainProblem(StatusCodes.Status403Forbidden, "This is not the code in the file 'set-up-code' in the server's data folder.");
        }

        var (practice, name, email) = (EntryReader.Clean(typed.PracticeName), EntryReader.Clean(typed.Name), EntryReader.Clean(typed.Email));
        if (practice.Length is 0 or > LongestText || name.Length is 0 or > LongestText)
        {
            throw PlainProblem.Refused("Give the name of the practice and your own, each of at most 120 characters.");
        }

        if (!MailAddress.IsOne(email))
        {
            throw PlainProblem.Refused(MailAddress.Problem(email));
        }

        Passwords.RequireGood(typed.Password, email, name, practice);
        var hash = await passwords.HashAsync(typed.Password, cancellation);
        List<string> roles =
        [
            Roles.Administrator,
            .. (typed.WorksAlone ? [Roles.Preparer, Roles.Approver, Roles.Manager] : (typed.Roles ?? []).Where(r => r is Roles.Preparer or Roles.Approver or Roles.Manager)).Distinct(),
        ];
        var now = clock.GetUtcNow();
        var person = database.Write(unit =>
        {
            if (Practices.Find(unit) is not null)
            {
                throw PlainProblem.Conflict("The practice has been set up already; sign in.");
            }

            Practices.Add(unit, signing.Make(practice, Moments.Text(now)));
            foreach (var country in Catalogue.Countries.Keys)
            {
                PracticeParticulars.Put(unit, country, "agent-name", practice);
            }

            if (typed.WorksAlone)
            {
                (ApprovalRules.Of(unit) with { FourEyes = false }).Put(unit);
            }

            var id = People.Add(unit, email, name, hash, roles);
            Acts.Add(unit, new Caller(id, name, roles).Act("set-up", now) with { After = practice });
            return People.Find(unit, id)!;
        });
        File.Delete(CodeFile);
        return person;
    }
}

internal static class SetUpEndpoints
{
    public static void MapSetUp(this RouteGroupBuilder api) =>
        api.MapPost("/set-up", async (NewPractice typed, HttpContext http, SetUp setUp, PracticeDatabase database, TimeProvider clock) =>
        {
            var person = await setUp.MakeAsync(typed, http.RequestAborted);
            await OpenSessions.StartAsync(http, database, person, clock.GetUtcNow());
            return TypedResults.NoContent();
        }).ReachesPractice().WithTags("Practice").AllowAnonymous().RequireRateLimiting(AccessSetup.AttemptsLimit);
}
