using System.Globalization;
using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Practice;

/// <summary>An act as people read it: labels in place of keys, names in place of numbers.</summary>
/// <param name="Id">Its number.</param>
/// <param name="At">When.</param>
/// <param name="PersonName">Who.</param>
/// <param name="Kind">What, by its code.</param>
/// <param name="Act">What, in words.</param>
/// <param name="ClientId">Client, or null.</param>
/// <param name="Client">Name of the client, or null.</param>
/// <param name="ReturnId">Return, or null.</param>
/// <param name="Return">Title and period of the return, or null.</param>
/// <param name="Line">Label of the line, or what was changed; null where it is neither.</param>
/// <param name="Before">What stood there.</param>
/// <param name="After">What stands there now.</param>
/// <param name="Origin">Where the new value comes from.</param>
public sealed record ActView(
    long Id, string At, string PersonName, string Kind, string Act, long? ClientId, string? Client, long? ReturnId, string? Return, string? Line, string? Before, string? After, string? Origin);

/// <summary>What acts can be asked for by.</summary>
/// <param name="People">Names of the people of the practice, and the authority. Clients who answered are found by the client: their names are not everybody's to see.</param>
/// <param name="Kinds">Kinds of act, by code, in words.</param>
public sealed record ActChoices(IReadOnlyList<string> People, IReadOnlyList<Choice> Kinds);

/// <summary>Which acts are shown; days as typed.</summary>
public sealed record ActQuestion
{
    /// <summary>Words that the client's name or identifier holds.</summary>
    public string? Client { get; init; }

    /// <summary>By whom.</summary>
    public string? Person { get; init; }

    /// <summary>Of a kind.</summary>
    public string? Kind { get; init; }

    /// <summary>On a return.</summary>
    public long? ReturnId { get; init; }

    /// <summary>From a day on.</summary>
    public string? From { get; init; }

    /// <summary>Until a day, that day included.</summary>
    public string? To { get; init; }

    /// <summary>Earlier than an act, by its number.</summary>
    public long? Before { get; init; }

    /// <summary>As storage takes it.</summary>
    /// <exception cref="PlainProblem">A day cannot be read.</exception>
    public ActQuery Query(DateOnly today) => new(
        Client, Blank(Person), Blank(Kind), ReturnId, Moment(From, today, 0), Moment(To, today, 1), Before);

    private static string? Blank(string? text) => string.IsNullOrWhiteSpace(text) ? null : text;

    private static string? Moment(string? typed, DateOnly today, int daysOn) => Blank(typed) is null ? null
        : TypedDay.TryRead(typed, null, today, out var day) ? day.AddDays(daysOn).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
        : throw PlainProblem.Refused($"'{typed}' is not a day of the calendar; {TypedDay.InWords(null, today)}.");
}

/// <summary>Puts acts into words.</summary>
internal static class ActsInWords
{
    private const int MostActs = 500;
    private const int MostExported = 50_000;
    private const string Authority = "authority";

    private static readonly Dictionary<string, string> Kinds = new()
    {
        ["accept-finding"] = "accepted a warning",
        ["accepted"] = "accepted by the authority",
        ["add-client"] = "added the client",
        ["add-row"] = "added a row",
        ["approval-rules"] = "changed the rules of approval",
        ["approval-withdrawn"] = "approval withdrawn by a change",
        ["approve"] = "approved",
        ["ask-client"] = "asked the client to accept",
        ["assessment"] = "assessment received",
        ["assign"] = "assigned",
        ["backup"] = "backed up",
        ["batch"] = "worked on several returns",
        ["build"] = "built the e-return",
        ["law-verify"] = "verified a figure of the law",
        ["law-page"] = "attached the page a figure was held against",
        ["law-confirm"] = "confirmed a figure of the law",
        ["law-withdraw"] = "took the verification of a figure back",
        ["law-propose"] = "proposed a correction of the law",
        ["law-discard"] = "discarded a correction of the law",
        ["law-turn-on"] = "turned a correction of the law on",
        ["law-ask-withdrawal"] = "asked to withdraw a correction of the law",
        ["law-keep"] = "kept a correction of the law",
        ["law-turn-off"] = "withdrew a correction of the law",
        ["law-follows"] = "follows the corrected law",
        ["check"] = "had the e-return checked by the authority",
        ["certificate"] = "changed the signing certificate",
        ["chase"] = "asked after the answer",
        ["client"] = "changed a particular",
        ["client-accepts"] = "accepted by the client",
        ["client-refuses"] = "refused by the client",
        ["codes"] = "changed one-time codes",
        ["consent"] = "consent at the authority",
        ["delete-client"] = "deleted the client",
        ["director"] = "changed a director",
        ["document"] = "changed a document",
        ["end-session"] = "ended a session",
        ["entry"] = "entered",
        ["export-client"] = "exported the client",
        ["give-back"] = "returned with a remark",
        ["hand-over"] = "handed over",
        ["import"] = "imported",
        ["invite"] = "invited",
        ["join"] = "joined the practice",
        ["keep-list"] = "kept a list",
        ["kept-close"] = "closed a file kept by the client",
        ["kept-open"] = "opened a file kept by the client",
        ["kept-save"] = "saved a file kept by the client",
        ["kept-new"] = "created a file kept by the client",
        ["let-in"] = "let somebody in again",
        ["move-row"] = "moved a row",
        ["objection"] = "objected to the assessment",
        ["open-return"] = "opened the return",
        ["password"] = "changed a password",
        ["payment"] = "recorded or removed a payment",
        ["payment-file"] = "made a payment file",
        ["person"] = "changed a person",
        ["practice"] = "changed the practice",
        ["rejected"] = "rejected by the authority",
        ["reopen-finding"] = "reopened a warning",
        ["relation"] = "changed a relation",
        ["remark"] = "remarked",
        ["reminder"] = "changed a reminder",
        ["remove-row"] = "removed a row",
        ["roll-forward"] = "took over from last year",
        ["schema-loaded"] = "loaded a schema",
        ["schema-turned-on"] = "turned a schema on",
        ["send"] = "sent",
        ["set-up"] = "set the practice up",
        ["settle-remarks"] = "resolved remarks",
        ["sign-in"] = "signed in",
        ["spouse"] = "changed the spouse",
        ["statement"] = "changed a statement",
        ["tick"] = "ticked off",
        ["verification"] = "selected for verification",
        ["verification-answered"] = "answered the verification",
        ["verification-document"] = "sent a document",
        ["verify"] = "verified the records",
        ["verify-particulars"] = "compared the registered particulars",
    };

    /// <summary>A kind of act in words.</summary>
    public static string InWords(string kind) => Kinds.GetValueOrDefault(kind) ?? kind.Replace('-', ' ');

    /// <summary>Acts as people read them.</summary>
    public static IReadOnlyList<ActView> Of(Unit unit, IReadOnlyList<ActRecord> acts)
    {
        var returns = new Dictionary<long, ReturnRecord?>();
        var clients = new Dictionary<long, string>();
        ReturnRecord? ReturnOf(long id) => returns.TryGetValue(id, out var known) ? known : returns[id] = Storage.Returns.Find(unit, id);
        string NameOf(long id) => clients.TryGetValue(id, out var known) ? known : clients[id] = Storage.Clients.NameOf(unit, id);
        return
        [
            .. acts.Select(act =>
            {
                var record = act.ReturnId is { } id ? ReturnOf(id) : null;
                var client = act.ClientId ?? record?.ClientId;
                var definition = record is null ? null : Catalogue.Get(record.Definition, record.Year, record.Period);
                var line = act.Line is null ? null : definition?.FindLine(act.Line);
                return new ActView(
                    act.Id,
                    act.At,
                    act.PersonName,
                    act.Kind,
                    InWords(act.Kind),
                    client,
                    client is { } of ? NameOf(of) : null,
                    act.ReturnId,
                    record is null ? null : $"{definition!.Title} {Periods.InWords(record.Year, record.Period)}{(record.Kind == "amended" ? ", amended" : "")}",
                    line?.Label ?? (act.Line is null ? null : definition?.FindTable(act.Line)?.Title ?? act.Line.Replace('-', ' ')),
                    Shown(line, act.Before),
                    Shown(line, act.After),
                    act.Origin);
            }),
        ];
    }

    /// <summary>Maps the acts.</summary>
    public static void MapActs(this RouteGroupBuilder api)
    {
        var acts = api.MapGroup("/acts").ReachesPractice().WithTags("Practice");
        acts.MapGet("", ([AsParameters] ActQuestion asked, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            database.Read(unit => Of(unit, Acts.Find(unit, asked.Query(clock.Today()), MostActs, Caller.Of(user).Reach))));
        acts.MapGet("/choices", (PracticeDatabase database) =>
            new ActChoices(
                [.. database.Read(People.All).Select(p => p.Name).Append(Authority).Distinct().Order(StringComparer.Ordinal)],
                [.. Kinds.Select(k => new Choice(k.Key, k.Value)).OrderBy(c => c.Label, StringComparer.Ordinal)]));
        acts.MapGet("/export.csv", ([AsParameters] ActQuestion asked, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
        {
            var found = database.Read(unit => Of(unit, Acts.Find(unit, asked.Query(clock.Today()), MostExported, Caller.Of(user).Reach)));
            return Results.File(
                CsvFile.Of(found.Select(a => new { No = a.Id, When = a.At, Who = a.PersonName, a.Act, a.Client, a.Return, a.Line, a.Before, a.After, a.Origin })),
                "text/csv; charset=utf-8",
                $"acts-{clock.Today():yyyy-MM-dd}.csv");
        }).Produces(StatusCodes.Status200OK, contentType: "text/csv");
    }

    private static string? Shown(Line? line, string? value) =>
        value is null || line is null ? value
        : line.IsNumber && decimal.TryParse(value, NumberStyles.Number, CultureInfo.InvariantCulture, out var number) ? line.Write(number)
        : line.Choices?.FirstOrDefault(c => c.Code == value)?.Label ?? value;
}
