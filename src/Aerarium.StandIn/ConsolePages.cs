using System.Globalization;
using System.Net;
using System.Text;
using Aerarium.Core.Identifiers;
using Aerarium.Filing;
using Microsoft.AspNetCore.Mvc;

namespace Aerarium.StandIn;

/// <summary>The console of the stand-in: what arrived, why it was accepted or rejected, and faults on demand.</summary>
public static class ConsolePages
{
    /// <summary>Maps the pages.</summary>
    public static void MapConsole(this WebApplication app)
    {
        app.MapGet("/", (Archive archive, Registry registry, Consents consents, TimeProvider clock) => Results.Content(Page(archive, registry, consents, clock), "text/html"));
        app.MapGet("/console/submissions/{number}/document", (string number, Archive archive) =>
            archive.All.FirstOrDefault(s => s.Number == number) is { } submission
                ? Results.File(archive.Document(submission), EReturnFormat.Of(archive.Document(submission)).MediaType, $"{number}.{submission.Ending}")
                : Results.NotFound());
        app.MapGet("/console/submissions", (Archive archive) => archive.All);
        app.MapPost("/console/faults", ([FromForm] string act, [FromForm] double? seconds, Archive archive) =>
        {
            switch (act)
            {
                case "outage": archive.Faults.Outage = true; break;
                case "restore": archive.Faults.Outage = false; break;
                case "lose-next-answer": archive.Faults.LoseNextAnswer = true; break;
                case "reject-next": archive.Faults.RejectNext = true; break;
                case "errors": archive.Faults.ErrorPercent = (int)Math.Clamp(seconds ?? 0, 0, 100); break;
                case "latency": archive.Faults.LatencyMs = (int)Math.Clamp((seconds ?? 0) * 1000, 0, 60_000); break;
                case "duplicate-answers": archive.Faults.DuplicateAnswers = !archive.Faults.DuplicateAnswers; break;
                case "delay": archive.Faults.AnswerAfterSeconds = Math.Clamp(seconds ?? 3, 0, 3600); break;
                default: return Results.Problem($"'{act}' is not an act of this console.", statusCode: 400);
            }

            return Results.Redirect("/");
        }).DisableAntiforgery();
        app.MapPost("/console/submissions/{number}/select", (string number, Aftermath aftermath) =>
        {
            aftermath.Select(number);
            return Results.Redirect("/");
        }).DisableAntiforgery();
        app.MapPost("/console/consents/revoke", ([FromForm] string user, Consents consents) =>
        {
            consents.Revoke(user);
            return Results.Redirect("/");
        }).DisableAntiforgery();
        app.MapPost("/console/taxpayers", ([FromForm] string pin, [FromForm] string name, Registry registry) =>
        {
            var identifier = IdentifierRule.Normalise(pin);
            if (identifier.Length == 0 || string.IsNullOrWhiteSpace(name))
            {
                return Results.Problem("Give an identifier and a name.", statusCode: 400);
            }

            registry.Register(new Taxpayer(identifier, name.Trim()));
            return Results.Redirect("/");
        }).DisableAntiforgery();
    }

    private static string Page(Archive archive, Registry registry, Consents consents, TimeProvider clock)
    {
        var html = new StringBuilder();
        var faults = archive.Faults;
        html.Append(CultureInfo.InvariantCulture, $$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><title>Simulated authority</title><meta name="viewport" content="width=device-width">
            <style>
            body{font:14px/1.5 system-ui,sans-serif;margin:0;color:#22282b;background:#f3f1ea}
            header{background:#8a6428;color:#fff;padding:12px 24px}header h1{margin:0;font-size:18px}header p{margin:2px 0 0}
            main{padding:16px 24px}table{border-collapse:collapse;width:100%;background:#fff}
            th,td{text-align:left;padding:6px 10px;border-bottom:1px solid #ddd8cc;vertical-align:top}
            td:first-child,td:nth-child(2),td:last-child{white-space:nowrap}td form{margin:0 0 0 8px}td button{padding:1px 8px}form{display:inline-block;margin:0 8px 8px 0}button,input{font:inherit;padding:4px 10px}h2{font-size:16px;margin:20px 0 8px}
            .accepted{color:#1f5a52;font-weight:600}.rejected{color:#96342a;font-weight:600}
            </style></head><body>
            <header><h1>Simulated authority, not a real one</h1><p>Stand-in that ships with Aerarium. Today is {{clock.GetUtcNow():d MMMM yyyy}}. Service: {{(faults.Outage ? "DOWN" : "up")}}; answers after {{faults.AnswerAfterSeconds}} s{{(faults.LoseNextAnswer ? "; next answer will be lost" : "")}}{{(faults.RejectNext ? "; next return will be rejected" : "")}}.</p></header>
            <main>
            {{Act(faults.Outage ? "restore" : "outage", faults.Outage ? "Restore the service" : "Take the service down")}}
            {{Act("reject-next", "Reject the next return")}}
            {{Act("lose-next-answer", "Lose the next answer")}}
            {{Act("duplicate-answers", faults.DuplicateAnswers ? "Answer mail once" : "Answer mail twice")}}
            {{Number("errors", "Fail", "of 100 requests", faults.ErrorPercent)}}
            {{Number("latency", "Take", "seconds longer", faults.LatencyMs / 1000d)}}
            {{Number("delay", "Answer after", "seconds", faults.AnswerAfterSeconds)}}
            <h2>What arrived</h2>
            <table><thead><tr><th>Number</th><th>Received</th><th>Taxpayer</th><th>Return</th><th>Kind</th><th>Verdict</th><th>Arrivals</th><th>Document</th></tr></thead><tbody>
            """);
        foreach (var submission in archive.All)
        {
            var answer = archive.AnswerTo(submission);
            var verdict = answer.Status switch
            {
                SubmissionStatus.Accepted => $"<span class=\"accepted\">accepted</span> {Safe(submission.Acknowledgement)}",
                SubmissionStatus.Rejected => "<span class=\"rejected\">rejected</span> " + string.Join("<br>", submission.Reasons.Select(r => Safe($"{r.Code}: {r.Message}"))),
                _ => "pending",
            };
            html.Append(CultureInfo.InvariantCulture, $"<tr><td>{submission.Number}</td><td>{submission.ReceivedAt:yyyy-MM-dd HH:mm:ss}</td><td>{Safe(submission.Pin)}</td><td>{Safe($"{submission.Return} {submission.Year} {submission.Period}")}</td><td>{Safe(submission.Kind)}</td><td>{verdict}</td><td>{submission.Arrivals}</td><td><a href=\"/console/submissions/{submission.Number}/document\">view</a>{(submission.Acknowledgement is null ? "" : $"<form method=\"post\" action=\"/console/submissions/{submission.Number}/select\"><button>Select for verification</button></form>")}</td></tr>");
        }

        html.Append("</tbody></table><h2>Consents</h2><table><thead><tr><th>Agent</th><th>For</th><th></th></tr></thead><tbody>");
        foreach (var consent in consents.All)
        {
            html.Append(CultureInfo.InvariantCulture, $"<tr><td>{Safe(consent.UserName)}</td><td>{Safe(consent.Scope)}</td><td><form method=\"post\" action=\"/console/consents/revoke\"><input type=\"hidden\" name=\"user\" value=\"{Safe(consent.UserName)}\"><button>Take back</button></form></td></tr>");
        }

        html.Append("""
            </tbody></table>
            <h2>Registered taxpayers</h2>
            <form method="post" action="/console/taxpayers"><label>Identifier <input name="pin" required></label> <label>Name <input name="name" required></label> <button>Register</button></form>
            <table><thead><tr><th>Identifier</th><th>Name</th></tr></thead><tbody>
            """);
        foreach (var taxpayer in registry.Taxpayers)
        {
            html.Append(CultureInfo.InvariantCulture, $"<tr><td>{Safe(taxpayer.Pin)}</td><td>{Safe(taxpayer.Name)}</td></tr>");
        }

        return html.Append("</tbody></table></main></body></html>").ToString();
    }

    private static string Act(string act, string label) =>
        $"<form method=\"post\" action=\"/console/faults\"><input type=\"hidden\" name=\"act\" value=\"{act}\"><button>{label}</button></form>";

    private static string Number(string act, string before, string after, double value) => string.Create(CultureInfo.InvariantCulture,
        $"<form method=\"post\" action=\"/console/faults\"><input type=\"hidden\" name=\"act\" value=\"{act}\"><label>{before} <input name=\"seconds\" type=\"number\" min=\"0\" max=\"3600\" step=\"any\" value=\"{value}\" style=\"width:6em\"> {after}</label> <button>Set</button></form>");

    private static string Safe(string? text) => WebUtility.HtmlEncode(text ?? "");
}
