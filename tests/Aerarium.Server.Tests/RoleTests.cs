using System.Net;
using System.Text.RegularExpressions;
using Aerarium.Server.Demo;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>Every endpoint with every role, against a table written by hand: an endpoint that is missing from it fails.</summary>
public partial class RoleTests
{
    private const string Everybody = "preparer approver manager administrator reader";
    private const string Preparing = "preparer approver manager";
    private const string Managing = "manager administrator";

    internal static readonly Dictionary<string, string> Allowed = new()
    {
        ["GET /api/openapi.json"] = Everybody,
        ["POST /api/session/sign-out"] = Everybody,
        ["GET /api/account"] = Everybody,
        ["DELETE /api/account/sessions/{session}"] = Everybody,
        ["POST /api/account/password"] = Everybody,
        ["POST /api/account/codes/offer"] = Everybody,
        ["POST /api/account/codes/on"] = Everybody,
        ["POST /api/account/codes/off"] = Everybody,
        ["POST /api/account/codes/recovery"] = Everybody,
        ["POST /api/session/refused-seen"] = Everybody,
        ["POST /api/people/{person}/let-in"] = "administrator",
        ["GET /api/people"] = "administrator",
        ["POST /api/people/invitations"] = "administrator",
        ["PUT /api/people/{person}"] = "administrator",
        ["POST /api/people/{person}/end-sessions"] = "administrator",
        ["POST /api/people/{person}/codes-off"] = "administrator",
        ["GET /api/desk"] = Everybody,
        ["GET /api/backups"] = "administrator",
        ["POST /api/backups"] = "administrator",
        ["GET /api/deadlines.ics"] = Everybody,
        ["GET /api/desk/summary"] = Everybody,
        ["GET /api/desk/export.csv"] = Everybody,
        ["PUT /api/desk/lists/{name}"] = Everybody,
        ["DELETE /api/desk/lists/{name}"] = Everybody,
        ["POST /api/batches"] = Preparing,
        ["GET /api/batches"] = Everybody,
        ["GET /api/batches/{batch}"] = Everybody,
        ["POST /api/batches/{batch}/stop"] = Preparing,
        ["POST /api/batches/{batch}/go-on"] = Preparing,
        ["GET /api/practice"] = Everybody,
        ["GET /api/acts"] = Everybody,
        ["GET /api/acts/choices"] = Everybody,
        ["GET /api/acts/export.csv"] = Everybody,
        ["GET /api/clients/groups"] = Everybody,
        ["GET /api/clients/lists"] = Everybody,
        ["PUT /api/clients/lists/{name}"] = Everybody,
        ["DELETE /api/clients/lists/{name}"] = Everybody,
        ["GET /api/acts/verification"] = Everybody,
        ["POST /api/acts/verification"] = Managing,
        ["POST /api/acts/verification/stop"] = Managing,
        ["GET /api/acts/verification/run"] = Managing,
        ["GET /api/clients"] = Everybody,
        ["POST /api/clients"] = Preparing,
        ["POST /api/clients/import"] = Preparing,
        ["GET /api/clients/{id}"] = Everybody,
        ["PUT /api/clients/{id}"] = Preparing,
        ["PUT /api/clients/{id}/team"] = Managing,
        ["POST /api/clients/check-identifier"] = Preparing,
        ["GET /api/clients/{id}/acts"] = Everybody,
        ["GET /api/clients/{id}/household/{year}"] = Everybody,
        ["GET /api/clients/{id}/household/{year}/since-last-year"] = Everybody,
        ["POST /api/clients/{id}/household/{year}/claims"] = Preparing,
        ["GET /api/clients/{id}/export.zip"] = Preparing,
        ["GET /api/clients/{id}/deletion"] = Everybody,
        ["POST /api/clients/{id}/deletion"] = Managing,
        ["POST /api/clients/{id}/relations"] = Preparing,
        ["DELETE /api/clients/{id}/relations/{relation}"] = Preparing,
        ["GET /api/clients/{id}/documents"] = Everybody,
        ["POST /api/clients/{id}/documents"] = Preparing,
        ["GET /api/clients/{id}/documents/{document}"] = Everybody,
        ["DELETE /api/clients/{id}/documents/{document}"] = Preparing,
        ["GET /api/clients/{id}/statements"] = Everybody,
        ["POST /api/clients/{id}/statements"] = Preparing,
        ["PUT /api/clients/{id}/statements/{statement}"] = Preparing,
        ["DELETE /api/clients/{id}/statements/{statement}"] = Preparing,
        ["POST /api/clients/{id}/statements/import"] = Preparing,
        ["PUT /api/clients/{id}/consent"] = Preparing,
        ["DELETE /api/clients/{id}/consent"] = Preparing,
        ["GET /api/kept"] = Preparing,
        ["POST /api/kept"] = Preparing,
        ["POST /api/kept/open"] = Preparing,
        ["POST /api/kept/{kept}/file"] = Preparing,
        ["DELETE /api/kept/{kept}"] = Preparing,
        ["GET /api/countries"] = Everybody,
        ["GET /api/statement-kinds/{country}"] = Everybody,
        ["GET /api/practice/particulars"] = Everybody,
        ["POST /api/practice/particulars/{country}/try"] = Managing,
        ["PUT /api/practice/particulars/{country}"] = Managing,
        ["GET /api/law/{country}/{name}/{year}"] = Everybody,
        ["GET /api/law/{country}/{name}/{year}/document"] = Everybody,
        ["GET /api/law/{country}/{name}/{year}/document.pdf"] = Everybody,
        ["POST /api/law/{country}/{name}/{year}/effect"] = Preparing,
        ["POST /api/law/{country}/{name}/{year}/effect.csv"] = Preparing,
        ["POST /api/law/{country}/{name}/{year}/effect.xlsx"] = Preparing,
        ["GET /api/law/{country}/{name}/{year}/exchange"] = Everybody,
        ["PUT /api/law/{country}/{name}/{year}/exchange/preview"] = "approver",
        ["POST /api/law/{country}/{name}/{year}/exchange/take"] = "approver",
        ["GET /api/returns/{id}/law"] = Everybody,
        ["GET /api/returns/{id}/law/marks"] = Everybody,
        ["GET /api/law-scenarios"] = Everybody,
        ["PUT /api/law-scenarios/{name}"] = Preparing,
        ["DELETE /api/law-scenarios/{name}"] = Preparing,
        ["POST /api/law/{country}/{name}/{year}/verify"] = "approver",
        ["PUT /api/law/{country}/{name}/{year}/page"] = "approver",
        ["GET /api/law/{country}/{name}/{year}/page"] = Everybody,
        ["POST /api/law/{country}/{name}/{year}/confirm"] = Preparing,
        ["POST /api/law/{country}/{name}/{year}/withdraw"] = "approver",
        ["POST /api/law/{country}/{name}/{year}/corrections"] = Preparing,
        ["POST /api/law/{country}/{name}/{year}/corrections/{correction}/discard"] = Preparing,
        ["POST /api/law/{country}/{name}/{year}/corrections/{correction}/turn-on"] = "approver",
        ["POST /api/law/{country}/{name}/{year}/corrections/{correction}/ask-withdrawal"] = Preparing,
        ["POST /api/law/{country}/{name}/{year}/corrections/{correction}/keep"] = Preparing,
        ["POST /api/law/{country}/{name}/{year}/corrections/{correction}/withdraw"] = "approver",
        ["GET /api/desk/reminders"] = Everybody,
        ["GET /api/desk/likely-refunds"] = Everybody,
        ["GET /api/batches/{batch}/parcels.zip"] = Everybody,
        ["GET /api/returns/{id}/statements"] = Everybody,
        ["POST /api/returns/{id}/statements/take"] = Preparing,
        ["PUT /api/returns/{id}/ticks/{item}"] = Preparing,
        ["DELETE /api/returns/{id}/ticks/{item}"] = Preparing,
        ["GET /api/returns/{id}/verification"] = Everybody,
        ["POST /api/returns/{id}/verification"] = Preparing,
        ["GET /api/returns/{id}/amendment"] = Everybody,
        ["GET /api/returns/{id}/after"] = Everybody,
        ["POST /api/returns/{id}/after/ask"] = Preparing,
        ["POST /api/returns/{id}/after/objection"] = "approver",
        ["POST /api/returns/{id}/after/documents"] = Preparing,
        ["POST /api/returns/{id}/after/declaration"] = "approver",
        ["GET /api/clients/{id}/standing"] = Everybody,
        ["GET /api/returns/{id}/remarks"] = Everybody,
        ["POST /api/returns/{id}/remarks"] = Preparing,
        ["POST /api/returns/{id}/remarks/settle"] = Preparing,
        ["GET /api/returns/{id}/payments/reference.svg"] = Everybody,
        ["POST /api/payments/file"] = "approver",
        ["POST /api/payments/match"] = Preparing,
        ["PUT /api/practice/certificate"] = "administrator",
        ["GET /api/practice/schemas"] = Everybody,
        ["POST /api/practice/schemas/load"] = Managing,
        ["POST /api/practice/schemas/try"] = Managing,
        ["POST /api/practice/schemas/turn-on"] = Managing,
        ["GET /api/returns/{id}/payments"] = Everybody,
        ["POST /api/returns/{id}/payments"] = Preparing,
        ["DELETE /api/returns/{id}/payments/{payment}"] = Preparing,
        ["GET /api/returns/{id}/reminders"] = Everybody,
        ["POST /api/returns/{id}/reminders"] = Preparing,
        ["POST /api/returns/{id}/reminders/{reminder}/done"] = Preparing,
        ["GET /api/return-types"] = Everybody,
        ["GET /api/definitions/{country}/{name}/{year}"] = Everybody,
        ["POST /api/clients/{clientId}/returns"] = Preparing,
        ["GET /api/returns/{id}"] = Everybody,
        ["POST /api/returns/{id}/roll-forward"] = Preparing,
        ["POST /api/returns/{id}/lines/{line}/take-tied"] = Preparing,
        ["GET /api/returns/{id}/agreement"] = Everybody,
        ["PUT /api/returns/{id}/agreement"] = Preparing,
        ["GET /api/returns/{id}/alternatives"] = Everybody,
        ["GET /api/returns/{id}/workings.xlsx"] = Everybody,
        ["GET /api/returns/{id}/bridge"] = Everybody,
        ["GET /api/returns/{id}/last-year/{section}"] = Everybody,
        ["GET /api/returns/{id}/lists/{section}/mapping"] = Everybody,
        ["GET /api/returns/{id}/lists/{section}/{what}.csv"] = Everybody,
        ["GET /api/returns/{id}/lists/{section}/{what}.xlsx"] = Everybody,
        ["POST /api/returns/{id}/lists/{section}/import"] = Preparing,
        ["POST /api/returns/{id}/lists/{section}/take-back"] = Preparing,
        ["GET /api/returns/{id}/taken-over"] = Everybody,
        ["PATCH /api/returns/{id}/entries"] = Preparing,
        ["GET /api/returns/{id}/lines/{line}/derivation"] = Everybody,
        ["GET /api/returns/{id}/lines/{line}/history"] = Everybody,
        ["GET /api/returns/{id}/printed-copy.pdf"] = Everybody,
        ["GET /api/returns/{id}/forms/{form}/page.pdf"] = Everybody,
        ["GET /api/returns/{id}/forms/{form}/page.csv"] = Everybody,
        ["GET /api/returns/{id}/authority-record"] = Preparing,
        ["POST /api/returns/{id}/authority-record/take"] = Preparing,
        ["POST /api/returns/{id}/findings/accept"] = Preparing,
        ["POST /api/returns/{id}/findings/reopen"] = Preparing,
        ["GET /api/returns/{id}/approval"] = Everybody,
        ["POST /api/returns/{id}/approval/hand-over"] = Preparing,
        ["POST /api/returns/{id}/approval/ask-client"] = Preparing,
        ["POST /api/practice/consent/{country}/begin"] = Managing,
        ["POST /api/practice/consent/finish"] = Managing,
        ["PUT /api/practice/e-return-form"] = Managing,
        ["DELETE /api/practice/consent/{country}"] = Managing,
        ["GET /api/practice/approval-rules"] = Everybody,
        ["PUT /api/practice/approval-rules"] = Managing,
        ["POST /api/returns/{id}/approval/approve"] = "approver",
        ["POST /api/returns/{id}/approval/give-back"] = "approver",
        ["GET /api/returns/{id}/sending"] = Everybody,
        ["POST /api/returns/{id}/sending/build"] = Preparing,
        ["POST /api/returns/{id}/sending/check"] = Preparing,
        ["POST /api/returns/{id}/sending/send"] = "approver",
        ["POST /api/returns/{id}/sending/chase"] = Preparing,
        ["GET /api/returns/{id}/sending/e-return"] = Everybody,
        ["GET /api/returns/{id}/sending/parcel.zip"] = Everybody,
        ["GET /api/returns/{id}/entries.xlsx"] = Everybody,
        ["POST /api/returns/{id}/entries/import"] = Preparing,
        ["GET /api/many-returns/workbook.xlsx"] = Preparing,
        ["POST /api/many-returns/import"] = Preparing,
        ["GET /api/desk/season"] = Everybody,
        ["GET /api/law/{country}/{name}/{year}/shown-on"] = Everybody,
        ["GET /api/returns/{id}/sending/letter"] = Everybody,
        ["GET /api/returns/{id}/sending/acknowledgement.pdf"] = Everybody,
        ["GET /api/returns/{id}/sending/bank-set.pdf"] = Everybody,
        ["POST /hubs/returns"] = Everybody,
        ["POST /hubs/returns/negotiate"] = Everybody,
    };

    internal static readonly HashSet<string> OpenToStrangers =
    [
        "GET /api/session", "POST /api/session/sign-in", "GET /api/invitations/{token}", "POST /api/invitations/{token}/accept",
        "GET /api/acceptance/{token}", "GET /api/acceptance/{token}/copy.pdf", "POST /api/acceptance/{token}", "POST /api/set-up",
    ];

    [Fact]
    public async Task Every_endpoint_answers_those_roles_the_table_names_and_nobody_else()
    {
        await using var practice = await Practice.StartAsync();
        var endpoints = EndpointsOf(practice);
        Assert.Equal(Allowed.Keys.Concat(OpenToStrangers).Order(), endpoints.Order());
        var stranger = await Browser.OpenAsync(practice.ServerAddress);
        foreach (var endpoint in endpoints.Where(e => !OpenToStrangers.Contains(e)))
        {
            Assert.True(await TryAsync(stranger, endpoint) == HttpStatusCode.Unauthorized, $"{endpoint} answers a stranger");
        }

        foreach (var credential in DemoData.Credentials.DistinctBy(c => c.Role))
        {
            var person = await Browser.SignInAsync(practice.ServerAddress, credential);
            foreach (var endpoint in endpoints.Where(e => !OpenToStrangers.Contains(e)).OrderBy(e => e.EndsWith("sign-out", StringComparison.Ordinal)))
            {
                var status = await TryAsync(person, endpoint);
                var allowed = Allowed[endpoint].Split(' ').Contains(credential.Role);
                Assert.True(
                    allowed ? status is not (HttpStatusCode.Forbidden or HttpStatusCode.Unauthorized or HttpStatusCode.InternalServerError) : status == HttpStatusCode.Forbidden,
                    $"{endpoint} answers {credential.Role} with {status}");
            }
        }
    }

    private static async Task<HttpStatusCode> TryAsync(Browser person, string endpoint)
    {
        var (method, pattern) = (endpoint.Split(' ')[0], endpoint.Split(' ')[1]);
        var path = pattern.Replace("{country}", "ke").Replace("{name}", "employment-income").Replace("{year}", "2025").Replace("{line}", "tax.tax").Replace("{token}", "none");
        var (status, _) = await person.SendAsync(new HttpMethod(method), Placeholder.Replace(path, "999999"), method == "GET" ? null : new { });
        return status;
    }

    private static List<string> EndpointsOf(Practice practice) =>
    [
        .. practice.Server.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
            .Select(e => (
                Pattern: "/" + Constraint.Replace(e.RoutePattern.RawText!, "").Trim('/'),
                Methods: e.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods ?? [e.RoutePattern.RawText!.StartsWith("/hubs", StringComparison.Ordinal) ? "POST" : "GET"]))
            .Where(e => e.Pattern.StartsWith("/api", StringComparison.Ordinal) || e.Pattern.StartsWith("/hubs", StringComparison.Ordinal))
            .SelectMany(e => e.Methods.Where(m => m != "OPTIONS").Select(m => $"{m} {e.Pattern}"))
            .Distinct(),
    ];

    [GeneratedRegex(@":[a-z]+(?=\})")]
    private static partial Regex Constraint { get; }

    [GeneratedRegex(@"\{[a-zA-Z]+\}")]
    private static partial Regex Placeholder { get; }
}
