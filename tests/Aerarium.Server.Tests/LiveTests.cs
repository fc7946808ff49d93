using System.Collections.Concurrent;
using System.Net;
using System.Text.Json;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;

namespace Aerarium.Server.Tests;

/// <summary>A live connection hears what its person may see at that moment, and nothing after the right has gone.</summary>
public sealed class LiveTests : IAsyncLifetime
{
    private const int Rukia = 0;
    private const int Pia = 2;
    private const int Tarek = 3;
    private const int Ines = 4;

    private Practice _practice = null!;
    private Browser _rukia = null!;
    private Browser _pia = null!;
    private Ear _ear = null!;
    private long _return;
    private long _client;

    public async ValueTask InitializeAsync()
    {
        _practice = await Practice.StartAsync();
        (_rukia, _pia) = (await _practice.SignInAsync(Rukia), await _practice.SignInAsync(Pia));
        _return = await _rukia.ReturnOfAsync("Tamsin", 2025);
        _client = (await _rukia.GetAsync($"/api/returns/{_return}"))["clientId"]!.GetValue<long>();
        _ear = await Ear.OpenAsync(_practice, _pia);
        await _ear.JoinAsync(_return);
        await _rukia.SetAsync(_return, "taxpayer.postal-address", "Quay 1");
        await _ear.HearsAsync("changed");
    }

    public async ValueTask DisposeAsync()
    {
        await _ear.DisposeAsync();
        await _practice.DisposeAsync();
    }

    [Fact]
    public async Task Somebody_dismissed_hears_nothing_more_and_cannot_join_again()
    {
        await ChangePiaAsync(active: false);
        await SilentAsync();
        await Assert.ThrowsAsync<HttpRequestException>(() => Ear.OpenAsync(_practice, _pia));
    }

    [Fact]
    public async Task Other_roles_and_teams_cut_the_connection_and_what_is_still_allowed_is_joined_again()
    {
        await ChangePiaAsync(active: true, teams: ["Harbour families"]);
        await SilentAsync();
        await using var again = await Ear.OpenAsync(_practice, _pia);
        await again.JoinAsync(_return);
        await _rukia.SetAsync(_return, "taxpayer.postal-address", "Quay 3");
        await again.HearsAsync("changed");
    }

    [Fact]
    public async Task An_ended_session_is_cut()
    {
        await (await _practice.SignInAsync(Ines)).DoAsync(HttpMethod.Post, $"/api/people/{await PiaIdAsync()}/end-sessions");
        await SilentAsync();
    }

    [Fact]
    public async Task Signing_out_cuts_what_is_open_in_that_browser()
    {
        await _pia.DoAsync(HttpMethod.Post, "/api/session/sign-out");
        await SilentAsync();
    }

    [Fact]
    public async Task A_client_given_to_another_team_is_heard_of_no_more_and_cannot_be_joined()
    {
        var (ines, tarek) = (await _practice.SignInAsync(Ines), await _practice.SignInAsync(Tarek));
        await using var rukia = await Ear.OpenAsync(_practice, _rukia);
        await rukia.JoinAsync(_return);
        await ReachTests.HideAsync(ines, tarek, _client);
        await rukia.IsCutAsync();
        await using var again = await Ear.OpenAsync(_practice, _rukia);
        await Assert.ThrowsAsync<HubException>(() => again.JoinAsync(_return));
        await tarek.SetAsync(_return, "taxpayer.postal-address", "Quay 9");
        Assert.DoesNotContain("changed", again.Heard);
    }

    [Fact]
    public async Task A_right_that_went_without_a_word_is_asked_for_at_the_next_thing_said()
    {
        // As another server process, or a hand in the file, would: nothing tells this server.
        await using (var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={_practice.DatabaseFile};Pooling=False"))
        {
            await Dapper.SqlMapper.ExecuteAsync(connection, "UPDATE session SET ended_at = '2026-06-18T08:00:00.000Z' WHERE person_id = (SELECT id FROM person WHERE name LIKE 'Pia%')");
        }

        await SilentAsync();
    }

    [Fact]
    public async Task A_connection_stays_though_the_practice_lives_in_another_year_than_the_machine()
    {
        // The web server looks once a second for connections to close, by the clock of the machine.
        await Task.Delay(TimeSpan.FromSeconds(2.5));
        _ear.Forget();
        await _rukia.SetAsync(_return, "taxpayer.postal-address", "Quay 4");
        await _ear.HearsAsync("changed");
    }

    [Fact]
    public async Task A_connection_does_not_outlive_the_cookie_it_was_opened_with()
    {
        await using var practice = await Practice.StartAsync(demo: true, "--SignIn:Hours", "0.001");
        var (rukia, pia) = (await practice.SignInAsync(Rukia), await practice.SignInAsync(Pia));
        var id = await rukia.ReturnOfAsync("Tamsin", 2025);
        await using var ear = await Ear.OpenAsync(practice, pia);
        await ear.JoinAsync(id);
        var cut = ear.IsCutAsync();
        for (var quay = 1; !cut.IsCompleted; quay++)
        {
            // Rukia's own cookie is renewed by each of these.
            await rukia.SetAsync(id, "taxpayer.postal-address", $"Quay {quay}");
            await Task.Delay(200);
        }

        await cut;
    }

    private async Task SilentAsync()
    {
        _ear.Forget();
        await _rukia.SetAsync(_return, "taxpayer.postal-address", "Quay 2");
        await _ear.IsCutAsync();
        Assert.DoesNotContain("changed", _ear.Heard);
    }

    private async Task ChangePiaAsync(bool active, string[]? teams = null) => await (await _practice.SignInAsync(Ines)).DoAsync(
        HttpMethod.Put, $"/api/people/{await PiaIdAsync()}", new { roles = new[] { "preparer" }, teams = teams ?? [], active });

    private async Task<long> PiaIdAsync() =>
        (await (await _practice.SignInAsync(Ines)).GetAsync("/api/people"))["people"]!.AsArray().Single(p => p!["name"]!.GetValue<string>().StartsWith("Pia", StringComparison.Ordinal))!["id"]!.GetValue<long>();

    /// <summary>A live connection of somebody, and what it has heard.</summary>
    private sealed class Ear : IAsyncDisposable
    {
        private readonly HubConnection _connection;
        private readonly ConcurrentQueue<string> _heard = new();
        private readonly TaskCompletionSource _cut = new();

        private Ear(HubConnection connection)
        {
            _connection = connection;
            _connection.On<JsonElement>("changed", _ => _heard.Enqueue("changed"));
            _connection.On<long, JsonElement>("presence", (_, _) => _heard.Enqueue("presence"));
            _connection.Closed += _ =>
            {
                _cut.TrySetResult();
                return Task.CompletedTask;
            };
        }

        public IReadOnlyCollection<string> Heard => _heard;

        public static async Task<Ear> OpenAsync(Practice practice, Browser person)
        {
            var cookies = new CookieContainer();
            cookies.Add(person.Cookies.GetAllCookies());
            var ear = new Ear(new HubConnectionBuilder().WithUrl($"{practice.ServerAddress}/hubs/returns", options => options.Cookies = cookies).Build());
            await ear._connection.StartAsync();
            return ear;
        }

        public Task JoinAsync(long returnId) => _connection.InvokeAsync<long>("Join", returnId);

        public void Forget() => _heard.Clear();

        public Task HearsAsync(string what) => Wait.UntilAsync(() => _heard.Contains(what), $"Nothing was heard of '{what}'.");

        public Task IsCutAsync() => _cut.Task.WaitAsync(TimeSpan.FromMinutes(1));

        public ValueTask DisposeAsync() => _connection.DisposeAsync();
    }
}
