namespace Aerarium.Storage;

/// <summary>Attempts to sign in that were refused since the sign-in before.</summary>
/// <param name="Count">How many.</param>
/// <param name="LastAt">When the last one was.</param>
/// <param name="LastFrom">Network address it came from.</param>
public sealed record RefusedSignIns(long Count, string LastAt, string LastFrom);

/// <summary>
/// Attempts to sign in, counted for an account from one network address and from everywhere, whether or not there is such an account.
/// An attempt counts as failed from its beginning, so that many at once are no more than many in turn.
/// </summary>
public static class SignInAttempts
{
    /// <summary>The network address under which attempts from everywhere are counted.</summary>
    public const string Everywhere = "";

    /// <summary>Begins an attempt: counts it, and lets the account wait from there once there were too many. False while it has to wait.</summary>
    public static bool Begin(Unit unit, string account, string network, int most, string now, string waitUntil) =>
        unit.Execute(
            """
            INSERT INTO sign_in_attempt (account, network, failures, last_at) VALUES (@account, @network, 1, @now)
            ON CONFLICT (account, network) DO UPDATE SET
                wait_until = CASE WHEN failures + 1 >= @most THEN @waitUntil END,
                failures = CASE WHEN failures + 1 >= @most THEN 0 ELSE failures + 1 END,
                last_at = @now
            WHERE wait_until IS NULL OR wait_until <= @now
            """,
            new { account = Tokens.HashOf(account), network, most, now, waitUntil }) == 1;

    /// <summary>Takes one attempt back that turned out not to be one.</summary>
    public static void TakeBack(Unit unit, string account, string network, int most) =>
        unit.Execute(
            """
            UPDATE sign_in_attempt SET failures = CASE WHEN wait_until IS NULL THEN max(0, failures - 1) ELSE @most - 1 END, wait_until = NULL
            WHERE account = @account AND network = @network
            """,
            new { account = Tokens.HashOf(account), network, most });

    /// <summary>Until when an account has to wait from an address; null when it need not.</summary>
    public static string? WaitsUntil(Unit unit, string account, string network, string now) =>
        unit.Single<string>(
            "SELECT wait_until FROM sign_in_attempt WHERE account = @account AND network = @network AND wait_until > @now",
            new { account = Tokens.HashOf(account), network, now });

    /// <summary>Until when an account has to wait from wherever it has to wait longest; null when it need not.</summary>
    public static string? WaitsUntil(Unit unit, string account, string now) =>
        unit.Single<string>("SELECT max(wait_until) FROM sign_in_attempt WHERE account = @account AND wait_until > @now", new { account = Tokens.HashOf(account), now });

    /// <summary>Forgets the attempts on an account from one address.</summary>
    public static void Forget(Unit unit, string account, string network) =>
        unit.Execute("DELETE FROM sign_in_attempt WHERE account = @account AND network = @network", new { account = Tokens.HashOf(account), network });

    /// <summary>Forgets the attempts on an account from every address.</summary>
    public static void Forget(Unit unit, string account) => unit.Execute("DELETE FROM sign_in_attempt WHERE account = @account", new { account = Tokens.HashOf(account) });

    /// <summary>Forgets attempts before a moment.</summary>
    public static void ForgetBefore(Unit unit, string at) => unit.Execute("DELETE FROM sign_in_attempt WHERE last_at < @at", new { at });

    /// <summary>Whether somebody signed in to an account from a network address since a moment.</summary>
    public static bool IsFamiliar(Unit unit, string email, string network, string since) =>
        unit.Single<long>(
            "SELECT EXISTS (SELECT 1 FROM session s JOIN person p ON p.id = s.person_id WHERE p.email = @email AND s.address = @network AND s.started_at > @since)",
            new { email, network, since }) == 1;

    /// <summary>Notes with the person, if there is one, that an attempt was refused.</summary>
    public static void NoteRefused(Unit unit, string email, string network, string at) =>
        unit.Execute(
            "UPDATE person SET refused_count = refused_count + 1, refused_at = @at, refused_from = @network WHERE email = @email",
            new { email, network, at });
}

/// <summary>Codes that stand in for an authenticator that was lost, each good once; only their hashes are kept.</summary>
public static class RecoveryCodes
{
    /// <summary>Replaces the codes of a person.</summary>
    public static void Put(Unit unit, long personId, IEnumerable<string> codes)
    {
        unit.Execute("DELETE FROM recovery_code WHERE person_id = @personId", new { personId });
        foreach (var code in codes)
        {
            unit.Execute("INSERT INTO recovery_code (code_sha256, person_id) VALUES (@hash, @personId)", new { hash = Tokens.HashOf(code), personId });
        }
    }

    /// <summary>Uses a code up; false when it is none, or was used before.</summary>
    public static bool Use(Unit unit, long personId, string code, string at) =>
        unit.Execute(
            "UPDATE recovery_code SET used_at = @at WHERE code_sha256 = @hash AND person_id = @personId AND used_at IS NULL",
            new { hash = Tokens.HashOf(code), personId, at }) == 1;

    /// <summary>How many are left.</summary>
    public static long Left(Unit unit, long personId) =>
        unit.Single<long>("SELECT count(*) FROM recovery_code WHERE person_id = @personId AND used_at IS NULL", new { personId });
}
