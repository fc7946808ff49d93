using System.Security.Claims;
using Aerarium.Storage;
using Microsoft.AspNetCore.Identity;

namespace Aerarium.Server.Access;

/// <summary>
/// Verifies and makes passwords. Hashing is dear on purpose, so only as many run at once as leave the server answering; the others wait in
/// turn. What is hashed for an address that nobody has costs the same as for one that somebody has.
/// </summary>
public sealed class Passwords(IPasswordHasher<PersonRecord> hasher, SignInGuard guard, PracticeDatabase database) : IDisposable
{
    private const int Shortest = 12;
    private const int Longest = 200;
    private const int MostWaiting = 200;

    /// <summary>Of zxcvbn's scores from 0 to 4: 2 takes more than a hundred million guesses (Wheeler, USENIX Security 2016, table 1).</summary>
    private const int LeastScore = 2;

    /// <summary>The estimate looks at every pair of places in a password; what follows this many characters cannot make it weaker.</summary>
    private const int MostEstimated = 64;

    private readonly SemaphoreSlim _turn = new(Math.Max(1, Environment.ProcessorCount / 2));
    private readonly Lazy<string> _nobody = new(() => hasher.HashPassword(null!, Guid.NewGuid().ToString()));
    private int _waiting;

    /// <summary>Verifies a password; for nobody, fails after the same work.</summary>
    public Task<PasswordVerificationResult> VerifyAsync(PersonRecord? person, string? typed, CancellationToken cancellation) => InTurnAsync(
        () =>
        {
            var verdict = hasher.VerifyHashedPassword(person!, person?.PasswordHash ?? _nobody.Value, typed ?? "");
            return person is null ? PasswordVerificationResult.Failed : verdict;
        },
        cancellation);

    /// <summary>Makes the hash under which a password is kept.</summary>
    public Task<string> HashAsync(string password, CancellationToken cancellation) => InTurnAsync(() => hasher.HashPassword(null!, password), cancellation);

    /// <summary>The person signed in, once the password that was typed to confirm an act is right. Attempts are limited as at sign-in.</summary>
    /// <exception cref="PlainProblem">It is not the password, or there were too many attempts.</exception>
    public async Task<PersonRecord> ConfirmAsync(ClaimsPrincipal user, string? typed, HttpContext http)
    {
        var person = database.ReadHere(unit => People.Find(unit, Caller.Of(user).Id))!;
        var attempt = guard.Begin($"confirmation by person {person.Id}", NetworkAddress.Of(http));
        if (await VerifyAsync(person, typed, http.RequestAborted) == PasswordVerificationResult.Failed)
        {
            throw PlainProblem.Refused("This is not your present password. After five wrong ones you have to wait ten minutes.");
        }

        guard.Succeeded(attempt);
        return person;
    }

    /// <summary>Refuses a password that is too short, common, repeated, or made of what is known about the person.</summary>
    /// <exception cref="PlainProblem">It is refused; the message says what to choose.</exception>
    public static void RequireGood(string? password, params string[] known)
    {
        if (password is not { Length: >= Shortest and <= Longest })
        {
            throw PlainProblem.Refused($"Choose a password of at least {Shortest} characters; several words make a good one.");
        }

        var words = known.SelectMany(k => k.Split(['@', '.', ' ', '-'], StringSplitOptions.RemoveEmptyEntries).Append(k)).Append("aerarium");
        if (Zxcvbn.Zxcvbn.MatchPassword(password[..Math.Min(password.Length, MostEstimated)], words).Score < LeastScore)
        {
            throw PlainProblem.Refused(
                "This password is among those tried first: a common one, a repeated or simple pattern, or made of your name and address. Choose several words that have nothing to do with each other.");
        }
    }

    /// <inheritdoc />
    public void Dispose() => _turn.Dispose();

    private async Task<T> InTurnAsync<T>(Func<T> work, CancellationToken cancellation)
    {
        if (Interlocked.Increment(ref _waiting) > MostWaiting)
        {
            Interlocked.Decrement(ref _waiting);
            throw new PlainProblem(StatusCodes.Status503ServiceUnavailable, "Very many people are signing in at this moment. Try again in a minute.");
        }

        try
        {
            await _turn.WaitAsync(cancellation);
        }
        finally
        {
            Interlocked.Decrement(ref _waiting);
        }

        try
        {
            return await Task.Run(work, CancellationToken.None);
        }
        finally
        {
            _turn.Release();
        }
    }
}
