using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Text.Json.Nodes;
using Aerarium.Server.Access;
using Aerarium.Server.Demo;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.Routing.Patterns;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>A client given to a team does not exist outside it, however its address is written.</summary>
public class ReachTests
{
    /// <summary>Ways to write an address that routing may take for the same one.</summary>
    private static readonly (string Name, Func<string, string> Write)[] Spellings =
    [
        ("as it is", path => path),
        ("capitals", path => path.ToUpperInvariant()),
        ("a capital after each slash", path => string.Join('/', path.Split('/').Select(p => p.Length == 0 ? p : char.ToUpperInvariant(p[0]) + p[1..]))),
        ("encoded letters", path => path.Replace("returns", "%72eturn%73", StringComparison.Ordinal).Replace("clients", "%63lient%73", StringComparison.Ordinal)),
        ("encoded digits", path => string.Concat(path.Select(c => char.IsAsciiDigit(c) ? $"%{(int)c:X2}" : $"{c}"))),
        ("doubled slashes", path => path.Replace("/", "//", StringComparison.Ordinal)),
        ("a trailing slash", path => path + "/"),
        ("a dot segment", path => path.Replace("/api/", "/api/./", StringComparison.Ordinal)),
        ("a parent segment", path => path.Replace("/api/", "/api/desk/../", StringComparison.Ordinal)),
        ("a sign before the number", path => string.Concat(path.Select((c, at) => char.IsAsciiDigit(c) && path[at - 1] == '/' ? $"%2B{c}" : $"{c}"))),
        ("a zero before the number", path => string.Concat(path.Select((c, at) => char.IsAsciiDigit(c) && path[at - 1] == '/' ? $"0{c}" : $"{c}"))),
    ];

    [Fact]
    public async Task Every_endpoint_of_a_client_or_return_is_closed_to_people_outside_its_team_in_every_spelling()
    {
        await using var practice = await Practice.StartAsync();
        var (ines, tarek, rukia) = (await practice.SignInAsync(4), await practice.SignInAsync(3), await practice.SignInAsync(0));
        var id = await rukia.ReturnOfAsync("Tamsin", 2025);
        var client = (await rukia.GetAsync($"/api/returns/{id}"))["clientId"]!.GetValue<long>();
        await HideAsync(ines, tarek, client);
        var before = (await tarek.GetAsync($"/api/returns/{id}")).ToJsonString();
        var endpoints = Declared(practice).Where(e => e.Reaches.What != Reached.Practice).ToList();
        Assert.True(endpoints.Count > 70, $"Only {endpoints.Count} endpoints say that they reach a client or a return.");
        var wrong = new List<string>();
        foreach (var credential in DemoData.Credentials.DistinctBy(c => c.Role).Where(c => c.Role is not (Roles.Manager or Roles.Administrator)))
        {
            var person = await Browser.SignInAsync(practice.ServerAddress, credential);
            foreach (var (method, pattern, reaches) in endpoints)
            {
                var path = PathOf(pattern, reaches.What == Reached.Client ? client : id);
                foreach (var (name, write) in Spellings)
                {
                    var status = await RawAsync(person, practice.ServerAddress, method, write(path));
                    if (status is not (404 or 403 or 400 or 405))
                    {
                        wrong.Add($"{credential.Role}: {method} {write(path)} ({name}) answers {status}");
                    }

                    // With the right role and the plain address it is the team, not the address, that refuses.
                    if (name == "as it is" && method == "GET" && status is not (404 or 403))
                    {
                        wrong.Add($"{credential.Role}: {method} {path} answers {status}, not 404");
                    }
                }
            }
        }

        Assert.Empty(wrong);
        Assert.Equal(before, (await tarek.GetAsync($"/api/returns/{id}")).ToJsonString());
    }

    [Fact]
    public async Task Every_endpoint_of_the_api_says_what_it_reaches_and_one_that_does_not_is_closed()
    {
        await using var practice = await Practice.StartAsync();
        var silent = practice.Server.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
            .Where(e => e.RoutePattern.RawText!.StartsWith("/api", StringComparison.Ordinal) && e.Metadata.GetMetadata<Reaches>() is null)
            .Select(e => e.RoutePattern.RawText);
        Assert.Equal(["/api/openapi.json"], silent);

        // A route value that is declared stands in the route, and an endpoint whose route names a client or a return declares it.
        foreach (var (_, pattern, reaches) in Declared(practice))
        {
            Assert.True(reaches.What == Reached.Practice || pattern.Parameters.Any(p => p.Name == reaches.RouteValue), pattern.RawText);
            Assert.True(reaches.What != Reached.Practice || !pattern.Parameters.Any(p => p.Name is "id" or "clientId" or "returnId"), pattern.RawText);
        }
    }

    /// <summary>Gives a client to a team that only Pia is in.</summary>
    internal static async Task HideAsync(Browser ines, Browser tarek, long client)
    {
        var pia = (await ines.GetAsync("/api/people"))["people"]!.AsArray().Single(p => p!["name"]!.GetValue<string>().StartsWith("Pia", StringComparison.Ordinal))!["id"]!.GetValue<long>();
        await ines.DoAsync(HttpMethod.Put, $"/api/people/{pia}", new { roles = new[] { "preparer" }, teams = new[] { "Harbour families" }, active = true });
        var team = (await tarek.GetAsync("/api/practice"))["teams"]![0]!["id"]!.GetValue<long>();
        await tarek.DoAsync(HttpMethod.Put, $"/api/clients/{client}/team", new { teamId = team });
    }

    private static IEnumerable<(string Method, RoutePattern Pattern, Reaches Reaches)> Declared(Practice practice) =>
        practice.Server.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
            .Select(e => (Endpoint: e, Reaches: e.Metadata.GetMetadata<Reaches>()))
            .Where(e => e.Reaches is not null)
            .SelectMany(e => e.Endpoint.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods.Select(m => (m, e.Endpoint.RoutePattern, e.Reaches!)));

    private static string PathOf(RoutePattern pattern, long id) => "/" + string.Join('/', pattern.PathSegments.Select(segment => string.Concat(segment.Parts.Select(part => part switch
    {
        RoutePatternLiteralPart literal => literal.Content,
        RoutePatternParameterPart { Name: "id" or "clientId" } => $"{id}",
        RoutePatternParameterPart { Name: "line" } => "tax.tax",
        RoutePatternParameterPart { Name: "section" } => "employment.employers",
        RoutePatternParameterPart { Name: "what" } => "rows",
        _ => "1",
    })))).TrimEnd('/');

    /// <summary>Sends an address exactly as it is written; clients of the framework would put it right first.</summary>
    private static async Task<int> RawAsync(Browser person, string address, string method, string path)
    {
        var server = new Uri(address);
        using var tcp = new TcpClient();
        await tcp.ConnectAsync(server.Host, server.Port);
        await using var stream = tcp.GetStream();
        var body = method == "GET" ? "" : "{}";
        await stream.WriteAsync(Encoding.ASCII.GetBytes(
            $"{method} {path} HTTP/1.1\r\nHost: {server.Authority}\r\nCookie: {person.Cookies.GetCookieHeader(server)}\r\nX-Aerarium-Token: {person.Token}\r\n"
            + $"Content-Type: application/json\r\nContent-Length: {body.Length}\r\nConnection: close\r\n\r\n{body}"));
        using var reader = new StreamReader(stream);
        return int.Parse((await reader.ReadLineAsync())!.Split(' ')[1], System.Globalization.CultureInfo.InvariantCulture);
    }
}
