using Aerarium.Server.Access;
using Konscious.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Configuration;

namespace Aerarium.Server.Tests;

public class CredentialTests
{
    /// <summary>RFC 6238, appendix B, SHA-1: the secret is the ASCII text 12345678901234567890; codes cut to six digits.</summary>
    [Theory]
    [InlineData(59, "287082")]
    [InlineData(1111111109, "081804")]
    [InlineData(1111111111, "050471")]
    [InlineData(1234567890, "005924")]
    [InlineData(2000000000, "279037")]
    [InlineData(20000000000, "353130")]
    public void One_time_codes_are_those_of_the_standard(long second, string code)
    {
        const string secret = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ";
        var codes = At(second);
        Assert.Equal(second / 30, codes.StepOf(secret, code));
        Assert.Equal(second / 30, At(second + 30).StepOf(secret, code[..3] + " " + code[3..]));
        Assert.Null(At(second + 90).StepOf(secret, code));
        Assert.Null(codes.StepOf(secret, code[1..] + code[0]));
    }

    [Fact]
    public void An_offered_secret_is_in_the_address_of_its_picture()
    {
        var offer = OneTimeCodes.Offer("ebb+flow@reef.example");
        Assert.Equal($"otpauth://totp/Aerarium:ebb%2Bflow%40reef.example?secret={offer.Secret}&issuer=Aerarium", offer.Address);
        Assert.Matches("^[A-Z2-7]{32}$", offer.Secret);
        Assert.StartsWith("<svg", offer.Picture);
    }

    /// <summary>RFC 9106, section 5.3 (Argon2id, with secret and associated data).</summary>
    [Fact]
    public void The_hash_function_gives_the_tag_of_the_standard()
    {
        using var argon2 = new Argon2id([.. Enumerable.Repeat((byte)1, 32)])
        {
            Salt = [.. Enumerable.Repeat((byte)2, 16)],
            KnownSecret = [.. Enumerable.Repeat((byte)3, 8)],
            AssociatedData = [.. Enumerable.Repeat((byte)4, 12)],
            MemorySize = 32,
            Iterations = 3,
            DegreeOfParallelism = 4,
        };
        Assert.Equal("0d640df58d78766c08c037a34a8b53c9d01ef0452d75b65eb52520e96b01e659", Convert.ToHexStringLower(argon2.GetBytes(32)));
    }

    /// <summary>Printed by the Argon2 reference implementation, Debian's <c>argon2 somesalt -id -t 2 -m 16 -p 1</c> for 'password'.</summary>
    [Fact]
    public void A_password_hashed_elsewhere_is_verified_and_renewed()
    {
        const string elsewhere = "$argon2id$v=19$m=65536,t=2,p=1$c29tZXNhbHQ$CTFhFdXPJO1aFaMaO6Mm5c8y7cJHAph8ArZWb2GRPPc";
        var passwords = new Argon2Passwords(new ConfigurationBuilder().Build());
        Assert.Equal(PasswordVerificationResult.SuccessRehashNeeded, passwords.VerifyHashedPassword(null!, elsewhere, "password"));
        Assert.Equal(PasswordVerificationResult.Failed, passwords.VerifyHashedPassword(null!, elsewhere, "Password"));
    }

    [Fact]
    public void A_hash_carries_its_costs_and_a_salt_of_its_own()
    {
        var passwords = new Argon2Passwords(new ConfigurationBuilder().Build());
        var (first, second) = (passwords.HashPassword(null!, "quay and lamp"), passwords.HashPassword(null!, "quay and lamp"));
        Assert.StartsWith("$argon2id$v=19$m=19456,t=2,p=1$", first);
        Assert.NotEqual(first, second);
        Assert.Equal(PasswordVerificationResult.Success, passwords.VerifyHashedPassword(null!, second, "quay and lamp"));
        Assert.Equal(PasswordVerificationResult.Failed, passwords.VerifyHashedPassword(null!, "$2b$10$abcdefghijklmnopqrstuv", "quay and lamp"));
    }

    private static OneTimeCodes At(long second) => new(new EphemeralDataProtectionProvider(), new FixedClock(DateTimeOffset.FromUnixTimeSeconds(second)));

    private sealed class FixedClock(DateTimeOffset now) : TimeProvider
    {
        public override DateTimeOffset GetUtcNow() => now;
    }
}
