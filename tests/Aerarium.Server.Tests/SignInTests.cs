using System.Collections.Concurrent;
using System.Net;
using Aerarium.Server.Access;
using Aerarium.Storage;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Configuration;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Time.Testing;

namespace Aerarium.Server.Tests;

/// <summary>Guessing is slow, tells nothing, and keeps nobody out of their own account.</summary>
public class SignInTests
{
    private const string Rukia = "rukia@lanternreef.example";
    private const string Password = "kelp-and-ledger";

    [Fact]
    public async Task An_address_that_nobody_has_is_answered_as_one_that_somebody_has()
    {
        await using var practice = await Practice.StartAsync();
        var told = new List<List<string>>();
        foreach (var email in new[] { Rukia, "nobody@lanternreef.example" })
        {
            var stranger = await Browser.OpenAsync(practice.ServerAddress);
            var answers = new List<string>();
            for (var attempt = 0; attempt < 7; attempt++)
            {
                var (status, answer) = await TryAsync(stranger, email, "not the password");
                answers.Add($"{(int)status} {answer}");
            }

            told.Add(answers);
        }

        Assert.Equal(told[0], told[1]);
        Assert.StartsWith("401", told[0][4]);
        Assert.StartsWith("429", told[0][5]);
    }

    [Fact]
    public async Task The_same_work_is_done_for_nobody_as_for_somebody()
    {
        var hashing = new CountingHasher();
        using var database = PracticeDatabase.InMemory($"work-{Guid.NewGuid():N}");
        using var passwords = new Passwords(hashing, new SignInGuard(database, TimeProvider.System), database);
        var person = new PersonRecord { Email = "a@b.example", Name = "A", PasswordHash = "kept" };
        Assert.Equal(PasswordVerificationResult.Failed, await passwords.VerifyAsync(null, "x", default));
        hashing.Verified.Clear();
        Assert.Equal(PasswordVerificationResult.Success, await passwords.VerifyAsync(person, "x", default));
        Assert.Equal(PasswordVerificationResult.Failed, await passwords.VerifyAsync(null, "x", default));
        Assert.Equal(["kept", "hash"], hashing.Verified);
        Assert.Equal(1, hashing.Made);
    }

    [Fact]
    public async Task Forty_attempts_at_once_are_five_guesses()
    {
        await using var practice = await Practice.StartAsync();
        var answers = await Task.WhenAll(Enumerable.Range(0, 40).Select(async n => (await TryAsync(await Browser.OpenAsync(practice.ServerAddress), Rukia, $"guess {n}")).Status));
        Assert.Equal(5, answers.Count(s => s == HttpStatusCode.Unauthorized));
        Assert.Equal(35, answers.Count(s => s == HttpStatusCode.TooManyRequests));
    }

    [Fact]
    public void A_stranger_keeps_nobody_out_who_signs_in_from_where_they_always_do()
    {
        var (guard, clock, database) = Guard();
        using var _ = database;
        SignIn(database, Rukia, "192.0.2.1", clock.GetUtcNow());
        for (var n = 0; n < 40; n++)
        {
            var network = $"203.0.113.{n / 4}";
            Assert.Equal(n < 20, Admits(guard, network));
        }

        // From everywhere else there were too many; from the address the person is known by there is a way in, with five guesses.
        Assert.False(Admits(guard, "198.51.100.1"));
        for (var n = 0; n < 6; n++)
        {
            Assert.Equal(n < 5, Admits(guard, "192.0.2.1"));
        }

        clock.Advance(TimeSpan.FromMinutes(11));
        Assert.True(Admits(guard, "192.0.2.1"));
        Assert.True(Admits(guard, "198.51.100.1"));
    }

    [Fact]
    public void A_right_password_without_a_code_neither_counts_nor_gives_guesses_back()
    {
        var (guard, _, database) = Guard();
        using var __ = database;
        for (var n = 0; n < 4; n++)
        {
            guard.Begin(Rukia, "192.0.2.1");
            guard.TakeBack(guard.Begin(Rukia, "192.0.2.1"));
        }

        Assert.True(Admits(guard, "192.0.2.1"));
        Assert.False(Admits(guard, "192.0.2.1"));
    }

    [Fact]
    public async Task An_administrator_lets_somebody_in_and_the_person_is_told_of_what_was_refused()
    {
        await using var practice = await Practice.StartAsync();
        var stranger = await Browser.OpenAsync(practice.ServerAddress);
        for (var attempt = 0; attempt < 5; attempt++)
        {
            await TryAsync(stranger, Rukia, "guess");
        }

        var ines = await practice.SignInAsync(4);
        Assert.Equal(HttpStatusCode.TooManyRequests, (await TryAsync(stranger, Rukia, Password)).Status);
        var person = (await ines.GetAsync("/api/people"))["people"]!.AsArray().Single(p => p!["email"]!.GetValue<string>() == Rukia)!;
        Assert.InRange(DateTimeOffset.Parse(person["waitsUntil"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture), new DateTimeOffset(2026, 6, 18, 0, 0, 0, TimeSpan.Zero), new DateTimeOffset(2026, 6, 19, 12, 0, 0, TimeSpan.Zero));
        await ines.DoAsync(HttpMethod.Post, $"/api/people/{person["id"]}/let-in");
        var rukia = await practice.SignInAsync(0);
        var refused = (await rukia.GetAsync("/api/session"))["refused"]!;
        Assert.Equal((5, "127.0.0.1"), (refused["count"]!.GetValue<int>(), refused["lastFrom"]!.GetValue<string>()));
        await rukia.DoAsync(HttpMethod.Post, "/api/session/refused-seen");
        Assert.Null((await rukia.GetAsync("/api/session"))["refused"]);
        Assert.Contains((await ines.GetAsync("/api/acts")).AsArray(), a => a!["kind"]!.GetValue<string>() == "let-in" && a["after"]!.GetValue<string>() == "Rukia Tindall");
    }

    [Fact]
    public async Task A_password_typed_to_confirm_an_act_is_guessed_five_times_and_no_more()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var acts = new (string Path, object Body)[]
        {
            ("/api/account/password", new { password = "guess", newPassword = "nine small boats" }),
            ("/api/account/codes/off", new { password = "guess" }),
            ("/api/account/codes/on", new { password = "guess", code = "123456" }),
            ("/api/account/codes/recovery", new { password = "guess" }),
        };
        for (var attempt = 0; attempt < 5; attempt++)
        {
            var (path, body) = acts[attempt % acts.Length];
            Assert.Equal(HttpStatusCode.UnprocessableEntity, (await rukia.SendAsync(HttpMethod.Post, path, body)).Status);
        }

        Assert.Equal(HttpStatusCode.TooManyRequests, (await rukia.SendAsync(HttpMethod.Post, "/api/account/password", new { password = Password, newPassword = "nine small boats" })).Status);
    }

    [Fact]
    public async Task A_new_sign_in_ends_the_session_that_browser_had()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var before = rukia.Cookies.GetCookieHeader(new Uri(practice.ServerAddress));
        Assert.Equal(HttpStatusCode.OK, (await TryAsync(rukia, "mosi@lanternreef.example", "tide-and-seal")).Status);
        using var copied = new HttpClient(new HttpClientHandler { UseCookies = false });
        using var request = new HttpRequestMessage(HttpMethod.Get, practice.ServerAddress + "/api/desk");
        request.Headers.Add("Cookie", before);
        Assert.Equal(HttpStatusCode.Unauthorized, (await copied.SendAsync(request)).StatusCode);
    }

    /// <summary>Common ones are from the lists zxcvbn carries (leaked passwords, English words, names; Wheeler, USENIX Security 2016).</summary>
    [Theory]
    [InlineData("short words")]
    [InlineData("password1234")]
    [InlineData("P@ssw0rd2026!")]
    [InlineData("qwertyuiop12")]
    [InlineData("aaaaaaaaaaaaaaaa")]
    [InlineData("abcabcabcabcabc")]
    [InlineData("letmeinletmein")]
    [InlineData("123456789012345")]
    [InlineData("rukiatindall")]
    [InlineData("lanternreef.example")]
    [InlineData("rukia@lanternreef.example")]
    public void A_password_that_is_tried_first_is_refused(string password) =>
        Assert.Equal(422, Assert.Throws<PlainProblem>(() => Passwords.RequireGood(password, Rukia, "Rukia Tindall")).Status);

    [Theory]
    [InlineData("kelp and a new ledger")]
    [InlineData("nine small boats")]
    [InlineData("quiet harbour, slow tide")]
    public void Several_words_make_a_good_one(string password) => Passwords.RequireGood(password, Rukia, "Rukia Tindall");

    /// <summary>An IPv6 household has a /64 at least (RFC 6177), so that its 2^64 addresses count as one.</summary>
    [Theory]
    [InlineData("203.0.113.7", "203.0.113.7")]
    [InlineData("::ffff:203.0.113.7", "203.0.113.7")]
    [InlineData("2001:db8:1:2:3:4:5:6", "2001:db8:1:2::/64")]
    [InlineData("::1", "::1")]
    public void Attempts_are_counted_by_network(string address, string network) => Assert.Equal(network, NetworkAddress.Of(IPAddress.Parse(address)));

    private static async Task<(HttpStatusCode Status, string Answer)> TryAsync(Browser browser, string email, string password)
    {
        var (status, answer) = await browser.SendAsync(HttpMethod.Post, "/api/session/sign-in", new { email, password });
        return (status, answer?.ToJsonString() ?? "");
    }

    private static bool Admits(SignInGuard guard, string network)
    {
        try
        {
            guard.Begin(Rukia, network);
            return true;
        }
        catch (PlainProblem problem) when (problem.Status == 429)
        {
            return false;
        }
    }

    private static (SignInGuard Guard, FakeTimeProvider Clock, PracticeDatabase Database) Guard()
    {
        var database = PracticeDatabase.InMemory($"guard-{Guid.NewGuid():N}");
        var clock = new FakeTimeProvider(new DateTimeOffset(2026, 6, 18, 8, 0, 0, TimeSpan.Zero));
        return (new SignInGuard(database, clock), clock, database);
    }

    private static void SignIn(PracticeDatabase database, string email, string network, DateTimeOffset at) => database.Write(unit =>
        Sessions.Start(unit, "a token", People.Add(unit, email, "Rukia Tindall", "", ["preparer"]), Moments.Text(at.AddDays(-3)), network, "a browser"));

    private sealed class CountingHasher : IPasswordHasher<PersonRecord>
    {
        public ConcurrentQueue<string> Verified { get; } = new();

        public int Made { get; private set; }

        public string HashPassword(PersonRecord user, string password)
        {
            Made++;
            return "hash";
        }

        public PasswordVerificationResult VerifyHashedPassword(PersonRecord user, string hashedPassword, string providedPassword)
        {
            Verified.Enqueue(hashedPassword);
            return PasswordVerificationResult.Success;
        }
    }
}
