using System.Globalization;
using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.After;

/// <summary>A figure of the return beside the authority's.</summary>
public sealed record ComparedFigure(string Label, string? Line, string? Row, string Filed, string Assessed, string Difference, string? Reason);

/// <summary>An assessment held against the return.</summary>
/// <param name="Number">Number of the notice.</param>
/// <param name="IssuedOn">Day of issue.</param>
/// <param name="Agreeing">How many figures agree.</param>
/// <param name="Differences">Those that do not.</param>
/// <param name="Objection">The objection made, or null.</param>
/// <param name="ObjectBy">Last day for an objection, or null.</param>
/// <param name="ObjectDays">Days left until then, negative when it has passed.</param>
public sealed record AssessmentView(
    string Number, string IssuedOn, int Agreeing, IReadOnlyList<ComparedFigure> Differences, ObjectionRecord? Objection, string? ObjectBy, int? ObjectDays);

/// <summary>Something the authority asks for, and what was sent.</summary>
public sealed record AskedDocument(string Code, string Label, IReadOnlyList<string> Sent);

/// <summary>A verification.</summary>
public sealed record VerificationCaseView(
    string Number, string DueOn, string State, IReadOnlyList<AskedDocument> Documents, SupplementaryDeclaration? Declaration, string? AnsweredBy, string? AnsweredAt);

/// <summary>What followed a filed return.</summary>
public sealed record AfterView(AssessmentView? Assessment, VerificationCaseView? Verification);

/// <summary>A document sent for something asked for.</summary>
public sealed record SendDocument(string Code, long Document);

/// <summary>A reason.</summary>
public sealed record ObjectionReason(string? Reason);

/// <summary>One thing that is open for a client.</summary>
/// <param name="Kind">unfiled, unpaid or question.</param>
/// <param name="ReturnId">Return.</param>
/// <param name="Title">Return, year and period.</param>
/// <param name="Words">What is open.</param>
/// <param name="Day">The day that counts, or null.</param>
/// <param name="Days">Days until that day, negative when it has passed; null without a day.</param>
/// <param name="Step">The step of the return where it is dealt with.</param>
public sealed record OpenMatter(string Kind, long ReturnId, string Title, string Words, DateOnly? Day, int? Days, string Step);

internal static class AfterEndpoints
{
    public static void MapAfter(this RouteGroupBuilder api)
    {
        var after = api.MapGroup("/returns/{id:long}/after").ReachesReturn().WithTags("After");
        after.MapGet("", (long id, AfterDesk desk, PracticeDatabase database, TimeProvider clock) => View(id, desk, database, clock.Today()));
        after.MapPost("/ask", (long id, AfterDesk desk, PracticeDatabase database, TimeProvider clock, CancellationToken cancellation) =>
            DoAsync(id, desk, database, clock, () => desk.AskAsync(id, cancellation))).RequireAuthorization(Policies.Prepare);
        after.MapPost("/objection", (long id, ObjectionReason asked, ClaimsPrincipal user, AfterDesk desk, PracticeDatabase database, TimeProvider clock, CancellationToken cancellation) =>
            DoAsync(id, desk, database, clock, () => desk.ObjectAsync(id, asked.Reason, Caller.Of(user), cancellation))).RequireAuthorization(Policies.Approve);
        after.MapPost("/documents", (long id, SendDocument asked, ClaimsPrincipal user, AfterDesk desk, PracticeDatabase database, TimeProvider clock, CancellationToken cancellation) =>
            DoAsync(id, desk, database, clock, () => desk.SendDocumentAsync(id, asked.Code, asked.Document, Caller.Of(user), cancellation))).RequireAuthorization(Policies.Prepare);
        after.MapPost("/declaration", (long id, SupplementaryDeclaration typed, ClaimsPrincipal user, AfterDesk desk, PracticeDatabase database, TimeProvider clock, CancellationToken cancellation) =>
            DoAsync(id, desk, database, clock, () => desk.DeclareAsync(id, typed, Caller.Of(user), cancellation))).RequireAuthorization(Policies.Approve);
        api.MapGet("/clients/{id:long}/standing", (long id, PracticeDatabase database, Paying.PaymentDesk payments, TimeProvider clock) => database.Read(unit => Standing(unit, id, clock.Today(), payments)))
            .ReachesClient().WithTags("After");
    }

    private static async Task<AfterView> DoAsync(long id, AfterDesk desk, PracticeDatabase database, TimeProvider clock, Func<Task> act)
    {
        await act();
        return View(id, desk, database, clock.Today());
    }

    private static AfterView View(long id, AfterDesk desk, PracticeDatabase database, DateOnly today) => database.Read(unit =>
    {
        var record = Storage.Returns.Find(unit, id) ?? throw PlainProblem.NotFound("This return");
        return new AfterView(
            Aftermaths.AssessmentOf(unit, id) is { } assessment ? Compare(unit, record, assessment, desk, today) : null,
            Aftermaths.CaseOf(unit, id) is { } open ? View(open) : null);
    });

    private static AssessmentView Compare(Unit unit, ReturnRecord record, AssessmentRecord assessment, AfterDesk desk, DateOnly today)
    {
        var notice = AfterDesk.NoticeOf(unit, assessment);
        var places = desk.PlacesOf(unit, record.Id);
        var definition = Catalogue.Get(record.Definition, record.Year, record.Period);
        static decimal Amount(string text) => decimal.Parse(text, NumberStyles.Number, CultureInfo.InvariantCulture);
        return new AssessmentView(
            notice.Number,
            assessment.IssuedOn,
            notice.Figures.Count(f => f.Filed == f.Assessed),
            [
                .. notice.Figures.Where(f => f.Filed != f.Assessed).Select(f =>
                {
                    var place = places.GetValueOrDefault(f.Path);
                    return new ComparedFigure(
                        place is null ? f.Path : definition.LineOf(place.Line).Label,
                        place?.Line,
                        place?.Row,
                        Figures.Canonical(Amount(f.Filed)),
                        Figures.Canonical(Amount(f.Assessed)),
                        Figures.Canonical(Amount(f.Assessed) - Amount(f.Filed)),
                        f.Reason);
                }),
            ],
            Aftermaths.ObjectionOf(unit, record.Id),
            assessment.ObjectBy,
            assessment.ObjectBy is { } last ? Day(last).DayNumber - today.DayNumber : null);
    }

    private static VerificationCaseView View(AuditCaseRecord open)
    {
        var notice = AfterDesk.CaseIn(open);
        return new VerificationCaseView(
            open.Number,
            open.DueOn,
            open.State,
            [.. notice.Documents.Select(d => new AskedDocument(d.Code, d.Label, [.. notice.Received.Where(r => r.Code == d.Code).Select(r => r.Name)]))],
            notice.Declaration,
            open.AnsweredBy,
            open.AnsweredAt);
    }

    /// <summary>Everything that is open for a client, what presses most first.</summary>
    private static IReadOnlyList<OpenMatter> Standing(Unit unit, long clientId, DateOnly today, Paying.PaymentDesk payments)
    {
        _ = Storage.Clients.Find(unit, clientId) ?? throw PlainProblem.NotFound("This client");
        var matters = new List<OpenMatter>();
        foreach (var record in Storage.Returns.OfClient(unit, clientId))
        {
            var definition = Catalogue.Get(record.Definition, record.Year, record.Period);
            var title = $"{definition.Title} {Periods.InWords(record.Year, record.Period)}{(record.Kind == "amended" ? ", amended" : "")}";
            void Add(string kind, string words, DateOnly? day, string step) => matters.Add(new OpenMatter(kind, record.Id, title, words, day, day?.DayNumber - today.DayNumber, step));

            if (record.Stage == Stage.Approved && !Catalogue.TypeOf(record.Definition).IsFiled)
            {
                continue;
            }

            if (record.Stage is not (Stage.Sent or Stage.Accepted))
            {
                Add("unfiled", record.Stage switch { Stage.Waiting => "waits for approval", Stage.Approved => "approved, not sent", Stage.Rejected => "rejected by the authority", _ => $"not filed, {record.Errors} errors left" }, Day(record.Due), record.Stage == Stage.Approved ? "send" : "fill");
            }
            else if (record.Stage == Stage.Sent)
            {
                Add("question", "sent, not answered yet", null, "send");
            }

            if (record.Stage is Stage.Sent or Stage.Accepted && decimal.Parse(record.Unpaid, CultureInfo.InvariantCulture) is > 0 and var unpaid)
            {
                Add("unpaid", $"{Figures.Money(unpaid)} {definition.Currency} left to pay", payments.View(record.Id).Parts.Where(p => p.Unpaid != "0").Min(p => (DateOnly?)p.Due), "after");
            }

            if (Aftermaths.CaseOf(unit, record.Id) is { State: "open" } open)
            {
                Add("question", "selected for verification, documents are asked for", Day(open.DueOn), "after");
            }

            if (Aftermaths.AssessmentOf(unit, record.Id) is { Differences: > 0 } assessment && Aftermaths.ObjectionOf(unit, record.Id) is null)
            {
                Add("question", $"assessed differently in {assessment.Differences} figures{(assessment.ObjectBy is null ? "" : "; objection by")}", assessment.ObjectBy is { } last ? Day(last) : null, "after");
            }

            if (Remarks.OpenOf(unit, record.Id) is > 0 and var remarks)
            {
                Add("question", $"{remarks} {(remarks == 1 ? "remark" : "remarks")} open", null, "review");
            }
        }

        return [.. matters.OrderBy(m => m.Day ?? DateOnly.MaxValue)];
    }

    private static DateOnly Day(string text) => DateOnly.ParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture);
}
