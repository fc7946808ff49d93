using System.Security.Cryptography;
using System.Text;

namespace Aerarium.Storage;

/// <summary>A person of the practice.</summary>
public sealed record PersonRecord
{
    /// <summary>Id; zero before it is stored.</summary>
    public long Id { get; init; }

    /// <summary>E-mail address, with which the person signs in.</summary>
    public required string Email { get; init; }

    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>Roles, separated by commas, in alphabetical order.</summary>
    public string? Roles { get; init; }

    /// <summary>Hash of the password.</summary>
    public required string PasswordHash { get; init; }

    /// <summary>Zero when the person may no longer sign in.</summary>
    public long Active { get; init; } = 1;

    /// <summary>Secret of the one-time codes, protected; null while they are off.</summary>
    public string? CodeSecret { get; init; }

    /// <summary>Time step of the last code used; a code is good once.</summary>
    public long CodeLastStep { get; init; }

    /// <summary>Roles.</summary>
    public IReadOnlyList<string> RoleList => (Roles ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries);
}

/// <summary>People of the practice.</summary>
public static class People
{
    private const string Select = """
        SELECT id, email, name, password_hash, active, code_secret, code_last_step,
               (SELECT group_concat(role, ',') FROM (SELECT role FROM person_role WHERE person_id = person.id ORDER BY role)) AS roles
        FROM person
        """;

    /// <summary>By e-mail address, or null.</summary>
    public static PersonRecord? FindByEmail(Unit unit, string email) => unit.Single<PersonRecord>($"{Select} WHERE email = @email", new { email });

    /// <summary>By id, or null.</summary>
    public static PersonRecord? Find(Unit unit, long id) => unit.Single<PersonRecord>($"{Select} WHERE id = @id", new { id });

    /// <summary>Everybody, by name.</summary>
    public static IReadOnlyList<PersonRecord> All(Unit unit) => [.. unit.Query<PersonRecord>($"{Select} ORDER BY active DESC, name")];

    /// <summary>Adds a person; returns the id.</summary>
    public static long Add(Unit unit, string email, string name, string passwordHash, IEnumerable<string> roles)
    {
        var id = unit.Insert("INSERT INTO person (email, name, password_hash) VALUES (@email, @name, @passwordHash)", new { email, name, passwordHash });
        SetRoles(unit, id, roles);
        return id;
    }

    /// <summary>Replaces a person's roles.</summary>
    public static void SetRoles(Unit unit, long id, IEnumerable<string> roles)
    {
        unit.Execute("DELETE FROM person_role WHERE person_id = @id", new { id });
        foreach (var role in roles.Distinct())
        {
            unit.Execute("INSERT INTO person_role (person_id, role) VALUES (@id, @role)", new { id, role });
        }
    }

    /// <summary>Lets a person sign in, or no longer.</summary>
    public static void SetActive(Unit unit, long id, bool active) =>
        unit.Execute("UPDATE person SET active = @active WHERE id = @id", new { id, active = active ? 1 : 0 });

    /// <summary>Replaces the password's hash.</summary>
    public static void SetPassword(Unit unit, long id, string passwordHash) =>
        unit.Execute("UPDATE person SET password_hash = @passwordHash WHERE id = @id", new { id, passwordHash });

    /// <summary>Turns one-time codes on, with a protected secret, or off.</summary>
    public static void SetCodes(Unit unit, long id, string? secret) =>
        unit.Execute("UPDATE person SET code_secret = @secret, code_last_step = 0 WHERE id = @id", new { id, secret });

    /// <summary>Uses a code up; false when it, or a later one, was used before.</summary>
    public static bool UseCode(Unit unit, long id, long step) =>
        unit.Execute("UPDATE person SET code_last_step = @step WHERE id = @id AND code_last_step < @step", new { id, step }) == 1;
}

/// <summary>A session of a person.</summary>
public sealed record SessionRecord(long Id, long PersonId, string StartedAt, string SeenAt, string Address, string Program);

/// <summary>Sessions. The token itself is known to the browser only.</summary>
public static class Sessions
{
    /// <summary>Starts a session; it takes over what the person is to be told of attempts that were refused.</summary>
    public static void Start(Unit unit, string token, long personId, string at, string address, string program)
    {
        unit.Execute(
            """
            INSERT INTO session (token_sha256, person_id, started_at, seen_at, address, program, refused_count, refused_at, refused_from)
            SELECT @hash, id, @at, @at, @address, @program, refused_count, refused_at, refused_from FROM person WHERE id = @personId
            """,
            new { hash = Tokens.HashOf(token), personId, at, address, program });
        unit.Execute("UPDATE person SET refused_count = 0, refused_at = NULL, refused_from = NULL WHERE id = @personId", new { personId });
    }

    /// <summary>Attempts that were refused before a session began and that its person has not said to have seen; null for none.</summary>
    public static RefusedSignIns? RefusedBefore(Unit unit, long id) =>
        unit.Single<RefusedSignIns>(
            "SELECT refused_count AS count, refused_at AS last_at, refused_from AS last_from FROM session WHERE id = @id AND refused_count > 0", new { id });

    /// <summary>Notes that the person has seen them.</summary>
    public static void SeenRefused(Unit unit, long id) => unit.Execute("UPDATE session SET refused_count = 0 WHERE id = @id", new { id });

    /// <summary>The open session of a token whose person may sign in, or null.</summary>
    public static SessionRecord? FindOpen(Unit unit, string token) =>
        unit.Single<SessionRecord>(
            """
            SELECT s.id, s.person_id, s.started_at, s.seen_at, s.address, s.program
            FROM session s JOIN person p ON p.id = s.person_id
            WHERE s.token_sha256 = @hash AND s.ended_at IS NULL AND p.active = 1
            """,
            new { hash = Tokens.HashOf(token) });

    /// <summary>The open sessions of a person, latest first.</summary>
    public static IReadOnlyList<SessionRecord> OpenOf(Unit unit, long personId) =>
    [
        .. unit.Query<SessionRecord>(
            "SELECT id, person_id, started_at, seen_at, address, program FROM session WHERE person_id = @personId AND ended_at IS NULL ORDER BY id DESC",
            new { personId }),
    ];

    /// <summary>Notes that a session is in use.</summary>
    public static void Seen(Unit unit, long id, string at) => unit.Execute("UPDATE session SET seen_at = @at WHERE id = @id", new { id, at });

    /// <summary>Ends a session of a person; false when there is no such open session.</summary>
    public static bool End(Unit unit, long id, long personId, string at) =>
        unit.Execute("UPDATE session SET ended_at = @at WHERE id = @id AND person_id = @personId AND ended_at IS NULL", new { id, personId, at }) == 1;

    /// <summary>Ends all sessions of a person, or all but one.</summary>
    public static int EndAll(Unit unit, long personId, long? except, string at) =>
        unit.Execute(
            "UPDATE session SET ended_at = @at WHERE person_id = @personId AND ended_at IS NULL AND id IS NOT @except", new { personId, except, at });
}

/// <summary>An invitation to join the practice.</summary>
public sealed record InvitationRecord(
    long Id, string Email, string Name, string Roles, long InvitedBy, string InvitedAt, string ExpiresAt, string? UsedAt);

/// <summary>Invitations. The token is in the link only.</summary>
public static class Invitations
{
    private const string Columns = "id, email, name, roles, invited_by, invited_at, expires_at, used_at";

    /// <summary>Keeps an invitation.</summary>
    public static long Add(Unit unit, string token, InvitationRecord invitation) =>
        unit.Insert(
            """
            INSERT INTO invitation (token_sha256, email, name, roles, invited_by, invited_at, expires_at)
            VALUES (@hash, @Email, @Name, @Roles, @InvitedBy, @InvitedAt, @ExpiresAt)
            """,
            new { hash = Tokens.HashOf(token), invitation.Email, invitation.Name, invitation.Roles, invitation.InvitedBy, invitation.InvitedAt, invitation.ExpiresAt });

    /// <summary>The unused, unexpired invitation of a token, or null.</summary>
    public static InvitationRecord? FindOpen(Unit unit, string token, string now) =>
        unit.Single<InvitationRecord>(
            $"SELECT {Columns} FROM invitation WHERE token_sha256 = @hash AND used_at IS NULL AND expires_at > @now", new { hash = Tokens.HashOf(token), now });

    /// <summary>Those neither used nor expired.</summary>
    public static IReadOnlyList<InvitationRecord> Open(Unit unit, string now) =>
        [.. unit.Query<InvitationRecord>($"SELECT {Columns} FROM invitation WHERE used_at IS NULL AND expires_at > @now ORDER BY id", new { now })];

    /// <summary>Uses an invitation up; false when somebody was faster.</summary>
    public static bool Use(Unit unit, long id, string at) =>
        unit.Execute("UPDATE invitation SET used_at = @at WHERE id = @id AND used_at IS NULL", new { id, at }) == 1;
}

/// <summary>Random tokens of links and cookies; only their hash is stored.</summary>
public static class Tokens
{
    /// <summary>SHA-256 of a token.</summary>
    public static string HashOf(string token) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(token)));
}

/// <summary>A team and who is in it.</summary>
public sealed record TeamRecord(long Id, string Name);

/// <summary>Teams: a client given to a team is seen by its people, managers and administrators only.</summary>
public static class Teams
{
    /// <summary>All teams, by name.</summary>
    public static IReadOnlyList<TeamRecord> All(Unit unit) => [.. unit.Query<TeamRecord>("SELECT id, name FROM team ORDER BY name")];

    /// <summary>People and the teams they are in.</summary>
    public static ILookup<long, long> Members(Unit unit) =>
        unit.Query<(long Person, long Team)>("SELECT person_id, team_id FROM person_team").ToLookup(m => m.Person, m => m.Team);

    /// <summary>The team of a name, made when it does not exist yet; returns the id.</summary>
    public static long Named(Unit unit, string name)
    {
        unit.Execute("INSERT INTO team (name) VALUES (@name) ON CONFLICT DO NOTHING", new { name });
        return unit.Single<long>("SELECT id FROM team WHERE name = @name", new { name });
    }

    /// <summary>Replaces the teams of a person.</summary>
    public static void SetOf(Unit unit, long personId, IEnumerable<long> teams)
    {
        unit.Execute("DELETE FROM person_team WHERE person_id = @personId", new { personId });
        foreach (var team in teams.Distinct())
        {
            unit.Execute("INSERT INTO person_team (person_id, team_id) VALUES (@personId, @team)", new { personId, team });
        }
    }

    /// <summary>Whether a client is open to a person who sees only what belongs to no team or to a team of theirs.</summary>
    public static bool CanSeeClient(Unit unit, long personId, long clientId) =>
        unit.Single<long>(
            $"SELECT EXISTS (SELECT 1 FROM client c WHERE c.id = @clientId AND {Reach.Condition})", new { clientId, personId, seesAll = 0 }) == 1;

    /// <summary>The same for a return.</summary>
    public static bool CanSeeReturn(Unit unit, long personId, long returnId) =>
        unit.Single<long>(
            $"SELECT EXISTS (SELECT 1 FROM tax_return r JOIN client c ON c.id = r.client_id WHERE r.id = @returnId AND {Reach.Condition})",
            new { returnId, personId, seesAll = 0 }) == 1;
}

/// <summary>Whose clients a list shows.</summary>
/// <param name="PersonId">The person.</param>
/// <param name="SeesAll">Whether the person sees the clients of every team.</param>
public sealed record Reach(long PersonId, bool SeesAll)
{
    /// <summary>Whether a return is within it.</summary>
    public bool Sees(Unit unit, long returnId) => SeesAll || Teams.CanSeeReturn(unit, PersonId, returnId);

    /// <summary>Whether a client is within it.</summary>
    public bool SeesClient(Unit unit, long clientId) => SeesAll || Teams.CanSeeClient(unit, PersonId, clientId);

    /// <summary>What return <c>r</c> must satisfy, without looking at its client; takes @seesAll and @personId. Few clients belong to a team.</summary>
    internal const string ReturnCondition = $"(@seesAll = 1 OR r.client_id NOT IN ({Hidden}))";

    /// <summary>The clients of teams that the person is not in; takes @personId.</summary>
    internal const string Hidden = "SELECT id FROM client WHERE team_id IS NOT NULL AND team_id NOT IN (SELECT team_id FROM person_team WHERE person_id = @personId)";

    /// <summary>What client <c>c</c> must satisfy; takes @seesAll and @personId.</summary>
    internal const string Condition =
        "(c.team_id IS NULL OR @seesAll = 1 OR c.team_id IN (SELECT team_id FROM person_team WHERE person_id = @personId))";
}
