using System.Text;
using Aerarium.Core.Entries;
using Aerarium.Server.Access;
using Aerarium.Storage;
using Microsoft.AspNetCore.DataProtection;

namespace Aerarium.Server.Practice;

/// <summary>What the practice signs in with at an authority.</summary>
public sealed record AuthorityCredential(string UserName, string Secret);

/// <summary>The practice's credentials with the authorities: kept encrypted, used for sending, never shown again.</summary>
public sealed class AuthorityCredentials(PracticeDatabase database, IDataProtectionProvider protection, TimeProvider clock)
{
    private readonly IDataProtector _protector = protection.CreateProtector("authority-credential");

    /// <summary>The credential for a country, or null.</summary>
    public AuthorityCredential? Find(string country) =>
        database.ReadHere(unit => PracticeParticulars.Credential(unit, country)) is { } kept
            ? new AuthorityCredential(kept.UserName, Encoding.UTF8.GetString(_protector.Unprotect(kept.Secret)))
            : null;

    /// <summary>Keeps what was typed; true when there was none before.</summary>
    /// <exception cref="PlainProblem">A first credential needs both, the user name and the secret.</exception>
    public bool Change(Unit unit, string country, string? userName, string? secret, Caller caller)
    {
        var (user, blank) = (userName is null ? null : EntryReader.Clean(userName), string.IsNullOrEmpty(secret));
        var before = PracticeParticulars.Credential(unit, country);
        if (blank && (user is null || user == before?.UserName))
        {
            return false;
        }

        if (before is null && (blank || user is null))
        {
            throw PlainProblem.Refused("Give both, the user name and the secret the authority gave the practice.");
        }

        var now = clock.GetUtcNow();
        PracticeParticulars.PutCredential(unit, new CredentialRecord(
            country,
            user ?? before!.UserName,
            blank ? before!.Secret : _protector.Protect(Encoding.UTF8.GetBytes(secret!)),
            Moments.Text(now)));
        Acts.Add(unit, caller.Act("practice", now) with { Line = $"{country}.credential", Before = before?.UserName, After = user ?? before!.UserName });
        return before is null;
    }
}
