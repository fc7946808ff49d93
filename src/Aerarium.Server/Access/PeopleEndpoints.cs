using System.Security.Claims;
using System.Security.Cryptography;
using Aerarium.Core.Entries;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Access;

/// <summary>A person, as administrators see it; with until when the person has to wait after wrong attempts to sign in.</summary>
public sealed record PersonView(
    long Id, string Name, string Email, IReadOnlyList<string> Roles, IReadOnlyList<long> Teams, bool Active, bool CodesOn, string? WaitsUntil, IReadOnlyList<OpenSession> Sessions);

/// <summary>A team.</summary>
public sealed record TeamView(long Id, string Name);

/// <summary>An invitation that has not been taken up.</summary>
public sealed record InvitationView(long Id, string Name, string Email, IReadOnlyList<string> Roles, string ExpiresAt);

/// <summary>People, teams, open invitations.</summary>
public sealed record PeopleView(IReadOnlyList<PersonView> People, IReadOnlyList<TeamView> Teams, IReadOnlyList<InvitationView> Invitations);

/// <summary>Who is invited.</summary>
public sealed record Invite(string Name, string Email, IReadOnlyList<string> Roles);

/// <summary>The address of an invitation; it is shown once and not kept.</summary>
public sealed record Invited(string Path, string ExpiresAt);

/// <summary>An invitation as its holder sees it.</summary>
public sealed record InvitationOffer(string Practice, string Name, string Email, IReadOnlyList<string> Roles);

/// <summary>Takes an invitation up.</summary>
public sealed record AcceptInvitation(string Password);

/// <summary>What a person may do and whose clients the person sees.</summary>
public sealed record PersonChange(IReadOnlyList<string> Roles, IReadOnlyList<string> Teams, bool Active);

internal static class PeopleEndpoints
{
    private static readonly TimeSpan InvitationLife = TimeSpan.FromDays(7);

    public static void MapPeople(this RouteGroupBuilder api)
    {
        var people = api.MapGroup("/people").ReachesPractice().WithTags("People");
        people.MapGet("", View).RequireAuthorization(Policies.Administer);
        people.MapPost("/invitations", Invite).RequireAuthorization(Policies.Administer);
        people.MapPut("/{person:long}", Change).RequireAuthorization(Policies.Administer);
        people.MapPost("/{person:long}/end-sessions", (long person, ClaimsPrincipal user, PracticeDatabase database, LiveReturns live, TimeProvider clock) =>
        {
            database.Write(unit =>
            {
                var whom = People.Find(unit, person) ?? throw PlainProblem.NotFound("This person");
                Acts.Add(unit, Caller.Of(user).Act("end-session", clock.GetUtcNow()) with { After = whom.Name });
                Sessions.EndAll(unit, person, null, Moments.Text(clock.GetUtcNow()));
            });
            live.Cut(person);
            return TypedResults.NoContent();
        }).RequireAuthorization(Policies.Administer);
        people.MapPost("/{person:long}/let-in", (long person, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) => database.Write(unit =>
        {
            var whom = People.Find(unit, person) ?? throw PlainProblem.NotFound("This person");
            SignInAttempts.Forget(unit, whom.Email.ToLowerInvariant());
            Acts.Add(unit, Caller.Of(user).Act("let-in", clock.GetUtcNow()) with { After = whom.Name });
            return TypedResults.NoContent();
        })).RequireAuthorization(Policies.Administer);
        people.MapPost("/{person:long}/codes-off", (long person, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) => database.Write(unit =>
        {
            var whom = People.Find(unit, person) ?? throw PlainProblem.NotFound("This person");
            People.SetCodes(unit, person, null);
            RecoveryCodes.Put(unit, person, []);
            Acts.Add(unit, Caller.Of(user).Act("codes", clock.GetUtcNow()) with { Line = whom.Name, Before = "on", After = "off" });
            return TypedResults.NoContent();
        })).RequireAuthorization(Policies.Administer);

        var invitations = api.MapGroup("/invitations/{token}").ReachesPractice().WithTags("People").AllowAnonymous().RequireRateLimiting(AccessSetup.AttemptsLimit);
        invitations.MapGet("", (string token, PracticeDatabase database, TimeProvider clock) => database.Read(unit =>
        {
            var invitation = Open(unit, token, clock);
            return new InvitationOffer(Practices.Find(unit)!.Name, invitation.Name, invitation.Email, invitation.Roles.Split(','));
        }));
        invitations.MapPost("/accept", AcceptAsync);
    }

    private static PeopleView View(PracticeDatabase database, TimeProvider clock) => database.Read(unit =>
    {
        var (members, now) = (Teams.Members(unit), Moments.Text(clock.GetUtcNow()));
        return new PeopleView(
            [
                .. People.All(unit).Select(p => new PersonView(
                    p.Id,
                    p.Name,
                    p.Email,
                    p.RoleList,
                    [.. members[p.Id]],
                    p.Active == 1,
                    p.CodeSecret is not null,
                    SignInAttempts.WaitsUntil(unit, p.Email.ToLowerInvariant(), now),
                    [.. Sessions.OpenOf(unit, p.Id).Select(s => new OpenSession(s.Id, s.StartedAt, s.SeenAt, s.Address, s.Program, false))])),
            ],
            [.. Teams.All(unit).Select(t => new TeamView(t.Id, t.Name))],
            [.. Invitations.Open(unit, now).Select(i => new InvitationView(i.Id, i.Name, i.Email, i.Roles.Split(','), i.ExpiresAt))]);
    });

    private static Invited Invite(Invite asked, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock)
    {
        var (name, email) = (EntryReader.Clean(asked.Name), EntryReader.Clean(asked.Email));
        RequireRoles(asked.Roles);
        if (name.Length is 0 or > 120)
        {
            throw PlainProblem.Refused("Give the person's name, at most 120 characters.");
        }

        if (!MailAddress.IsOne(email))
        {
            throw PlainProblem.Refused(MailAddress.Problem(email));
        }

        var now = clock.GetUtcNow();
        var token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(24));
        var expires = Moments.Text(now + InvitationLife);
        database.Write(unit =>
        {
            if (People.FindByEmail(unit, email) is { } known)
            {
                throw PlainProblem.Conflict($"{known.Name} already signs in with {email}.");
            }

            Invitations.Add(unit, token, new InvitationRecord(0, email, name, string.Join(',', asked.Roles.Order()), Caller.Of(user).Id, Moments.Text(now), expires, null));
            Acts.Add(unit, Caller.Of(user).Act("invite", now) with { Line = name, After = string.Join(", ", asked.Roles) });
        });
        return new Invited($"/invitation/{token}", expires);
    }

    private static async Task<IResult> AcceptAsync(
        string token, AcceptInvitation typed, HttpContext http, PracticeDatabase database, Passwords passwords, TimeProvider clock)
    {
        var offered = database.Read(unit => Open(unit, token, clock));
        Passwords.RequireGood(typed.Password, offered.Email, offered.Name);
        var hash = await passwords.HashAsync(typed.Password, http.RequestAborted);
        var person = database.Write(unit =>
        {
            var invitation = Open(unit, token, clock);
            if (!Invitations.Use(unit, invitation.Id, Moments.Text(clock.GetUtcNow())) || People.FindByEmail(unit, invitation.Email) is not null)
            {
                throw PlainProblem.Conflict("This invitation has been taken up already; sign in instead.");
            }

            var roles = invitation.Roles.Split(',');
            var id = People.Add(unit, invitation.Email, invitation.Name, hash, roles);
            Acts.Add(unit, new Caller(id, invitation.Name, roles).Act("join", clock.GetUtcNow()) with { After = invitation.Roles });
            return People.Find(unit, id)!;
        });
        await OpenSessions.StartAsync(http, database, person, clock.GetUtcNow());
        return TypedResults.NoContent();
    }

    private static IResult Change(long person, PersonChange asked, ClaimsPrincipal user, PracticeDatabase database, LiveReturns live, TimeProvider clock)
    {
        RequireRoles(asked.Roles);
        var teams = (asked.Teams ?? []).Select(EntryReader.Clean).Where(t => t.Length > 0).ToList();
        var now = clock.GetUtcNow();
        var caller = Caller.Of(user);
        database.Write(unit =>
        {
            var before = People.Find(unit, person) ?? throw PlainProblem.NotFound("This person");
            var others = People.All(unit).Where(p => p.Id != person && p.Active == 1);
            if (!(asked.Active && asked.Roles.Contains(Roles.Administrator)) && !others.Any(p => p.RoleList.Contains(Roles.Administrator)))
            {
                throw PlainProblem.Conflict($"{before.Name} is the last administrator. Make somebody else an administrator first.");
            }

            People.SetRoles(unit, person, asked.Roles);
            People.SetActive(unit, person, asked.Active);
            Teams.SetOf(unit, person, [.. teams.Select(t => Teams.Named(unit, t))]);
            if (!asked.Active)
            {
                Sessions.EndAll(unit, person, null, Moments.Text(now));
            }

            Acts.Add(unit, caller.Act("person", now) with
            {
                Line = before.Name,
                Before = $"{before.Roles}{(before.Active == 1 ? "" : ", deactivated")}",
                After = $"{string.Join(',', asked.Roles.Order())}{(asked.Active ? "" : ", deactivated")}{(teams.Count > 0 ? $", teams {string.Join(", ", teams)}" : "")}",
            });
        });
        live.Cut(person);
        return TypedResults.NoContent();
    }

    private static InvitationRecord Open(Unit unit, string token, TimeProvider clock) =>
        Invitations.FindOpen(unit, token, Moments.Text(clock.GetUtcNow()))
        ?? throw new PlainProblem(StatusCodes.Status404NotFound, "This invitation has been used or has expired. Ask the administrator of the practice for a new one.");

    private static void RequireRoles(IReadOnlyList<string>? roles)
    {
        if (roles is null or { Count: 0 })
        {
            throw PlainProblem.Refused("Choose at least one role.");
        }

        if (roles.Any(r => !Roles.All.Contains(r)))
        {
            throw PlainProblem.Refused($"There is no role '{roles.First(r => !Roles.All.Contains(r))}'; the roles are {string.Join(", ", Roles.All)}.");
        }
    }
}
