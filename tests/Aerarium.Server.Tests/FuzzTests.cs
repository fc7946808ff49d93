using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Aerarium.Server.Demo;

namespace Aerarium.Server.Tests;

/// <summary>
/// Every operation of the API's own description, with bodies that follow it but for one thing at a time, and with numbers and texts nobody would
/// type: whatever comes, it is answered in words, never by a failure of the server. Bounded and the same in every run.
/// </summary>
public class FuzzTests
{
    private const int Seed = 22;
    private const int Rounds = 3;

    /// <summary>A real return and client of the demonstration, one that does not exist, and numbers at the ends.</summary>
    private static readonly string[] Numbers = ["2", "3", "999999", "-1", "0", "9223372036854775807", "1000000000001"];

    private static readonly string[] Texts =
        ["", "x", "0", "\\u0000", "..", "\\u202Eabc", "9999-99-99", "2026-06-18", "' OR 1=1 --", "<script>", "{0}", "%s", "1e400", "\\ud83d", new string('y', 3_000)];

    /// <summary>What would be typed, by the name of the field, so that what comes after the first check is reached too.</summary>
    private static readonly Dictionary<string, string> Usual = new()
    {
        ["roles"] = "[\"reader\"]",
        ["teams"] = "[\"Harbour\"]",
        ["active"] = "true",
        ["country"] = "\"ke\"",
        ["definition"] = "\"ke/employment-income\"",
        ["year"] = "2025",
        ["act"] = "\"recheck\"",
        ["returns"] = "[2,3]",
        ["changes"] = "[{\"kind\":\"set\",\"line\":\"taxpayer.postal-address\",\"value\":\"Quay\",\"seen\":0}]",
        ["line"] = "\"taxpayer.postal-address\"",
        ["finding"] = "\"scope-answers-missing\"",
        ["reason"] = "\"Discussed with the client\"",
        ["words"] = "\"a few words\"",
        ["text"] = "\"a few words\"",
        ["name"] = "\"Somebody Else\"",
        ["email"] = "\"somebody@else.example\"",
        ["identifier"] = "\"A009955771K\"",
        ["kind"] = "\"individual\"",
        ["onDay"] = "\"2026-07-01\"",
        ["paidOn"] = "\"2026-06-01\"",
        ["amount"] = "\"100\"",
        ["reference"] = "\"SLIP 1\"",
        ["numbers"] = "[\"1\"]",
        ["remove"] = "[\"row-1\"]",
        ["restore"] = "[\"row-1\"]",
        ["boxes"] = "{\"pin\":\"P051900417G\"}",
        ["passphrase"] = "\"salt marsh and small lanterns\"",
        ["client"] = "{\"country\":\"ke\",\"identifier\":\"A009955772L\",\"name\":\"Somebody Kept\"}",
    };

    /// <summary>Somebody nothing is asked as, and nobody.</summary>
    private static readonly string[] Everybody = ["3", "999999"];

    /// <summary>What would end the session it is asked with, or everybody's.</summary>
    private static readonly string[] LeftOut = ["/api/session/sign-out", "/api/session/sign-in", "/api/set-up"];

    private JsonNode _description = null!;
    private readonly Random _random = new(Seed);

    [Fact]
    public async Task Nothing_that_is_sent_makes_the_server_fail()
    {
        await using var practice = await Practice.StartAsync(more: ["--Attempts:PerMinute", "100000"]);
        var people = new Dictionary<string, Browser>();
        foreach (var credential in DemoData.Credentials.DistinctBy(c => c.Role))
        {
            people[credential.Role] = await Browser.SignInAsync(practice.ServerAddress, credential);
        }

        _description = await people["reader"].GetAsync("/api/openapi.json");
        var (asked, wrong) = (0, new List<string>());
        foreach (var (path, methods) in _description["paths"]!.AsObject().Where(p => !LeftOut.Contains(p.Key)))
        {
            foreach (var (method, operation) in methods!.AsObject())
            {
                var person = people[RoleOf(method, path)];
                foreach (var body in Bodies(operation!))
                {
                    var address = Address(path, operation!);
                    var status = await SendAsync(person, method, address, body);
                    asked++;
                    if (status == HttpStatusCode.InternalServerError || (int)status > 503)
                    {
                        wrong.Add($"{method} {address} {(body is { Length: > 300 } ? body[..300] : body)}: {(int)status}");
                    }
                }
            }
        }

        Assert.True(wrong.Count == 0, string.Join('\n', wrong));
        Assert.InRange(asked, 700, 6_000);
        Assert.Equal("", await people["manager"].WrongAsync());
    }

    private static string RoleOf(string method, string path) =>
        RoleTests.Allowed.TryGetValue($"{method.ToUpperInvariant()} {path}", out var roles) ? roles.Split(' ').Contains("approver") ? "approver" : roles.Split(' ')[0] : "reader";

    private static async Task<HttpStatusCode> SendAsync(Browser person, string method, string address, string? body)
    {
        using var request = new HttpRequestMessage(new HttpMethod(method.ToUpperInvariant()), address);
        request.Headers.Add("X-Aerarium-Token", person.Token);
        if (body is not null)
        {
            request.Content = new StringContent(body, Encoding.UTF8, "application/json");
        }

        using var response = await person.Http.SendAsync(request);
        return response.StatusCode;
    }

    /// <summary>The address with its values filled in; people and sessions are such that everybody who asks stays signed in.</summary>
    private string Address(string path, JsonNode operation)
    {
        var query = new List<string>();
        foreach (var parameter in operation["parameters"]?.AsArray() ?? [])
        {
            var (name, number) = (parameter!["name"]!.GetValue<string>(), parameter["schema"]?["type"]?.ToJsonString().Contains("integer", StringComparison.Ordinal) == true);
            var value = name is "person" ? Pick(Everybody) : name is "session" ? "999999" : number ? Pick(Numbers) : Uri.EscapeDataString(System.Text.RegularExpressions.Regex.Unescape(Pick(Texts[..^2]) is { Length: > 0 } text ? text : "x"));
            switch (parameter["in"]!.GetValue<string>())
            {
                case "path":
                    path = path.Replace($"{{{name}}}", value, StringComparison.Ordinal);
                    break;
                case "query" when _random.Next(2) == 0:
                    query.Add($"{name}={value}");
                    break;
                default:
                    break;
            }
        }

        return query.Count == 0 ? path : $"{path}?{string.Join('&', query)}";
    }

    private IEnumerable<string?> Bodies(JsonNode operation)
    {
        var schema = operation["requestBody"]?["content"]?["application/json"]?["schema"];
        if (schema is null)
        {
            for (var round = 0; round < Rounds; round++)
            {
                yield return null;
            }

            yield break;
        }

        foreach (var bare in new[] { "", "null", "[]", "{}", "{\"a\":", "1", "[null]" })
        {
            yield return bare;
        }

        var names = Properties(Resolved(schema)).ToList();
        for (var round = 0; round < Rounds; round++)
        {
            yield return Value(schema, 0);
            foreach (var name in names)
            {
                foreach (var odd in new[] { null, "null", "[null]", "[]", "{}", Text(), Pick(Numbers) })
                {
                    if (round == 0 || _random.Next(3) == 0)
                    {
                        yield return $"{{{string.Join(',', Properties(Resolved(schema)).Where(p => odd is not null || p.Key != name.Key).Select(p => $"\"{p.Key}\":{(p.Key == name.Key ? odd : Likely(p))}"))}}}";
                    }
                }
            }
        }
    }

    private static IEnumerable<KeyValuePair<string, JsonNode?>> Properties(JsonNode schema) => schema["properties"]?.AsObject() ?? [];

    private JsonNode Resolved(JsonNode schema) =>
        schema["$ref"]?.GetValue<string>() is { } name ? Resolved(_description["components"]!["schemas"]![name.Split('/')[^1]]!)
        : schema["oneOf"]?.AsArray() is { } choices ? Resolved(choices.First(c => c!["$ref"] is not null || c["type"]?.ToJsonString() != "\"null\"")!)
        : schema;

    private string Value(JsonNode of, int depth)
    {
        var schema = Resolved(of);
        if (_random.Next(12) == 0)
        {
            return "null";
        }

        var type = schema["type"]?.ToJsonString() ?? "";
        return schema["enum"]?.AsArray() is { } codes ? codes[_random.Next(codes.Count)]?.ToJsonString() ?? "null"
            : type.Contains("integer", StringComparison.Ordinal) || type.Contains("number", StringComparison.Ordinal) ? Pick(Numbers)
            : type.Contains("boolean", StringComparison.Ordinal) ? Pick(["true", "false"])
            : type.Contains("array", StringComparison.Ordinal) ? $"[{string.Join(',', Enumerable.Range(0, depth > 4 ? 0 : _random.Next(3)).Select(_ => Value(schema["items"]!, depth + 1)))}]"
            : type.Contains("string", StringComparison.Ordinal) ? Text()
            : $"{{{string.Join(',', Properties(schema).Select(p => $"\"{p.Key}\":{(depth > 4 ? "null" : Value(p.Value!, depth + 1))}"))}}}";
    }

    private string Likely(KeyValuePair<string, JsonNode?> property) =>
        Usual.TryGetValue(property.Key, out var usual) && _random.Next(4) > 0 ? usual : Value(property.Value!, 1);

    private string Text() => $"\"{Pick(Texts)}\"";

    private T Pick<T>(IReadOnlyList<T> values) => values[_random.Next(values.Count)];
}
