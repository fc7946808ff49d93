using Aerarium.Storage;

namespace Aerarium.Server.Access;

/// <summary>An attempt that has been counted.</summary>
/// <param name="Account">What it is an attempt on: an e-mail address as typed, or a person's own password.</param>
/// <param name="Network">Where it comes from.</param>
public sealed record Attempt(string Account, string Network);

/// <summary>
/// Slows guessing down. Five wrong attempts on an account from one network address let that address wait ten minutes; twenty from everywhere
/// let every address wait but those from which the person has signed in lately, so that a stranger keeps nobody out. An account that does
/// not exist is treated as one that does.
/// </summary>
public sealed class SignInGuard(PracticeDatabase database, TimeProvider clock)
{
    private const int MostFromOneAddress = 5;
    private const int MostFromEverywhere = 20;
    private static readonly TimeSpan Wait = TimeSpan.FromMinutes(10);
    private static readonly TimeSpan Remembered = TimeSpan.FromDays(1);
    private static readonly TimeSpan Familiar = TimeSpan.FromDays(30);

    /// <summary>Counts an attempt, before any work is done for it.</summary>
    /// <exception cref="PlainProblem">There were too many; the message says to wait.</exception>
    public Attempt Begin(string account, string network)
    {
        var now = clock.GetUtcNow();
        var (at, until) = (Moments.Text(now), Moments.Text(now + Wait));
        var admitted = database.Write(unit =>
        {
            SignInAttempts.ForgetBefore(unit, Moments.Text(now - Remembered));
            var familiar = SignInAttempts.IsFamiliar(unit, account, network, Moments.Text(now - Familiar));
            return (familiar || SignInAttempts.WaitsUntil(unit, account, SignInAttempts.Everywhere, at) is null)
                && SignInAttempts.Begin(unit, account, network, MostFromOneAddress, at, until)
                && (SignInAttempts.Begin(unit, account, SignInAttempts.Everywhere, MostFromEverywhere, at, until) || familiar);
        });
        return admitted
            ? new Attempt(account, network)
            : throw new PlainProblem(
                StatusCodes.Status429TooManyRequests,
                "Too many attempts. Wait ten minutes and try again, or ask an administrator of the practice to let you in under People.");
    }

    /// <summary>The attempt failed; the person is told at the next sign-in.</summary>
    public void Failed(Attempt attempt) => database.Write(unit => SignInAttempts.NoteRefused(unit, attempt.Account, attempt.Network, Moments.Text(clock.GetUtcNow())));

    /// <summary>It was none: nothing was tried yet.</summary>
    public void TakeBack(Attempt attempt) => database.Write(unit =>
    {
        SignInAttempts.TakeBack(unit, attempt.Account, attempt.Network, MostFromOneAddress);
        SignInAttempts.TakeBack(unit, attempt.Account, SignInAttempts.Everywhere, MostFromEverywhere);
    });

    /// <summary>It succeeded: the address starts afresh, and what others tried stays counted.</summary>
    public void Succeeded(Attempt attempt) => database.Write(unit =>
    {
        SignInAttempts.Forget(unit, attempt.Account, attempt.Network);
        SignInAttempts.TakeBack(unit, attempt.Account, SignInAttempts.Everywhere, MostFromEverywhere);
    });
}
