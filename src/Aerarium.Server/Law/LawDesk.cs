using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Approval;
using Aerarium.Server.Gathering;
using Aerarium.Server.Returns;
using Aerarium.Storage;
using Microsoft.AspNetCore.Mvc;

namespace Aerarium.Server.Law;

/// <summary>A line that uses a figure.</summary>
/// <param name="Line">Its key.</param>
/// <param name="Number">Its number.</param>
/// <param name="Label">Its label.</param>
/// <param name="Form">Title of its form.</param>
/// <param name="Page">Key of the form on whose page it is shown.</param>
public sealed record LawUse(string Line, string Number, string Label, string Form, string Page);

/// <summary>A return on whose pages the use of figures can be seen.</summary>
/// <param name="Id">The return; null when the practice has none of that kind, year and period within reach.</param>
/// <param name="Client">Its client.</param>
public sealed record LawShownOn(long? Id, string? Client);

/// <summary>That somebody held a figure against a printed source.</summary>
/// <param name="Against">Gazette, statute or table, with its reference.</param>
/// <param name="SourceDay">Its day, or null.</param>
/// <param name="By">Who verified it.</param>
/// <param name="At">When.</param>
/// <param name="Page">File name of the printed page that is attached, or null.</param>
/// <param name="ConfirmedBy">Another person who confirmed it, or null.</param>
/// <param name="Counts">Whether the figure still says what was verified.</param>
/// <param name="Was">What it said then.</param>
public sealed record LawVerificationView(string Against, string? SourceDay, string By, string At, string? Page, string? ConfirmedBy, bool Counts, string Was);

/// <summary>What the practice says of a figure in place of what the product's law says.</summary>
/// <param name="Id">Its number.</param>
/// <param name="Change">What it says, as it would be typed.</param>
/// <param name="Says">What it says, in words.</param>
/// <param name="Was">What the figure said before.</param>
/// <param name="Source">Where it stands.</param>
/// <param name="SourceDay">Day of the source, or null.</param>
/// <param name="Reason">Why.</param>
/// <param name="Covers">The years and periods it covers.</param>
/// <param name="By">Who proposed it.</param>
/// <param name="At">When.</param>
/// <param name="TurnedOnBy">Who turned it on; null while it is only proposed.</param>
/// <param name="TurnedOnAt">When, or null.</param>
/// <param name="WithdrawalBy">Who asks to withdraw it, or null.</param>
/// <param name="WithdrawalReason">Why, or null.</param>
public sealed record LawCorrectionView(
    long Id,
    LawChangeTyped Change,
    string Says,
    string Was,
    string Source,
    string? SourceDay,
    string Reason,
    string Covers,
    string By,
    string At,
    string? TurnedOnBy,
    string? TurnedOnAt,
    string? WithdrawalBy,
    string? WithdrawalReason);

/// <summary>A figure of the law.</summary>
/// <param name="Key">Its key.</param>
/// <param name="Label">What it is.</param>
/// <param name="Value">Its value.</param>
/// <param name="Before">Its value in the year beside, or null where that year has none.</param>
/// <param name="Changed">Whether it, or a row of it, differs from the year beside.</param>
/// <param name="Source">Section.</param>
/// <param name="Confidence">certain, likely or unsure.</param>
/// <param name="Note">What a reader must know.</param>
/// <param name="Rows">Rows of a table.</param>
/// <param name="RowsBefore">Rows of the year beside.</param>
/// <param name="Curve">What a schedule takes.</param>
/// <param name="CurveBefore">The same of the year beside.</param>
/// <param name="UsedBy">Lines that use it.</param>
/// <param name="Findings">Findings that use it, in words.</param>
/// <param name="CanVary">Whether another value can be tried.</param>
/// <param name="Verification">Whether it was verified.</param>
/// <param name="Correction">The practice's correction that is in force, or null.</param>
/// <param name="Proposed">A correction that is proposed and not in force yet, or null.</param>
public sealed record LawFigureView(
    string Key,
    string Label,
    string Value,
    string? Before,
    bool Changed,
    string Source,
    string Confidence,
    string? Note,
    IReadOnlyList<LawRow> Rows,
    IReadOnlyList<LawRow> RowsBefore,
    IReadOnlyList<LawPoint> Curve,
    IReadOnlyList<LawPoint> CurveBefore,
    IReadOnlyList<LawUse> UsedBy,
    IReadOnlyList<string> Findings,
    bool CanVary,
    LawVerificationView? Verification,
    LawCorrectionView? Correction,
    LawCorrectionView? Proposed);

/// <summary>Figures first used on one page of the return.</summary>
public sealed record LawGroup(string Title, IReadOnlyList<LawFigureView> Figures);

/// <summary>The figures of the law a return of a year rests on.</summary>
/// <param name="Definition">The return.</param>
/// <param name="Title">Its title.</param>
/// <param name="Year">The year.</param>
/// <param name="Period">The period.</param>
/// <param name="Beside">The year beside, or null.</param>
/// <param name="Currency">Its currency.</param>
/// <param name="Groups">The figures by page.</param>
/// <param name="Verified">How many are verified.</param>
/// <param name="Total">How many there are.</param>
/// <param name="Edition">Number of the edition in force; 0 for the product's own law.</param>
/// <param name="FourEyes">Whether the practice asks for another person to turn a correction on.</param>
public sealed record LawView(
    string Definition, string Title, int Year, string Period, int? Beside, string Currency, IReadOnlyList<LawGroup> Groups, int Verified, int Total, long Edition, bool FourEyes);

/// <summary>A verification as typed.</summary>
/// <param name="Figure">Key of the figure.</param>
/// <param name="Against">Against what: gazette, statute or table, with its reference.</param>
/// <param name="SourceDay">Its day, as typed; may be left out.</param>
/// <param name="Years">Further years in which the figure says the same and that the source covers.</param>
public sealed record LawVerificationInput(string? Figure, string? Against, string? SourceDay, IReadOnlyList<int>? Years);

/// <summary>A figure, by its key.</summary>
public sealed record LawFigureNamed(string? Figure);

/// <summary>The figures of the law as they are in force in the practice, and which of them its people held against a printed source.</summary>
internal sealed class LawDesk(PracticeDatabase database, TimeProvider clock)
{
    /// <summary>Characters of a source or a reason.</summary>
    internal const int LongestText = 300;

    private const int LongestName = 120;

    public static void Map(RouteGroupBuilder api)
    {
        var law = api.MapGroup("/law/{country}/{name}/{year:int}").WithTags("Law").ReachesPractice();
        law.MapGet("", (string country, string name, int year, string? period, int? beside, LawDesk desk) => desk.View(Find($"{country}/{name}", year, period), beside));
        law.MapGet("/shown-on", (string country, string name, int year, string? period, ClaimsPrincipal user, LawDesk desk) =>
            desk.ShownOn(Find($"{country}/{name}", year, period), Caller.Of(user).Reach));
        law.MapGet("/document", (string country, string name, int year, string? period, HttpContext http, LawDesk desk) =>
        {
            http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; style-src 'unsafe-inline'";
            return Results.Text(LawDocument.Html(desk.InForce(Find($"{country}/{name}", year, period))), "text/html; charset=utf-8");
        }).Produces(StatusCodes.Status200OK, contentType: "text/html");
        law.MapGet("/document.pdf", (string country, string name, int year, string? period, LawDesk desk) =>
        {
            var definition = desk.InForce(Find($"{country}/{name}", year, period));
            return Results.File(LawDocument.Pdf(definition, desk.Today), "application/pdf", $"law-{country}-{name}-{Periods.InWords(year, definition.Period).Replace(' ', '-')}.pdf");
        }).Produces(StatusCodes.Status200OK, contentType: "application/pdf");
        law.MapPost("/verify", (string country, string name, int year, string? period, LawVerificationInput typed, ClaimsPrincipal user, LawDesk desk) =>
            desk.Verify(Find($"{country}/{name}", year, period), typed, Caller.Of(user))).RequireAuthorization(Policies.Approve);
        law.MapPut("/page", async (string country, string name, int year, string? period, string figure, string file, HttpRequest request, ClaimsPrincipal user, LawDesk desk) =>
            desk.Attach(Find($"{country}/{name}", year, period), figure, file, await ForeignFiles.BodyAsync(request), Caller.Of(user)))
            .RequireAuthorization(Policies.Approve).WithMetadata(new RequestSizeLimitAttribute(DocumentEndpoints.LargestDocument));
        law.MapGet("/page", (string country, string name, int year, string? period, string figure, LawDesk desk) => desk.Page(Find($"{country}/{name}", year, period), figure))
            .Produces(StatusCodes.Status200OK, contentType: "application/octet-stream");
        law.MapPost("/confirm", (string country, string name, int year, string? period, LawFigureNamed named, ClaimsPrincipal user, LawDesk desk) =>
            desk.Confirm(Find($"{country}/{name}", year, period), named, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        law.MapPost("/withdraw", (string country, string name, int year, string? period, LawFigureNamed named, ClaimsPrincipal user, LawDesk desk) =>
            desk.Withdraw(Find($"{country}/{name}", year, period), named, Caller.Of(user))).RequireAuthorization(Policies.Approve);
    }

    /// <summary>The return whose law is asked for.</summary>
    /// <exception cref="PlainProblem">There is none; the message says what is covered.</exception>
    internal static Definition Find(string id, int year, string? period) =>
        Catalogue.Find(id, year, period ?? Catalogue.Returns.FirstOrDefault(r => r.Id == id)?.Periods[0] ?? Periods.WholeYear, out var problem) ?? throw new PlainProblem(StatusCodes.Status404NotFound, problem!);

    /// <summary>The return of that kind, year and period that was opened last and has entries, of those somebody sees.</summary>
    public LawShownOn ShownOn(Definition definition, Reach reach) => database.Read(unit =>
        Storage.Returns.OfKind(unit, definition.Id, reach).Where(r => r.Year == definition.Year && r.Period == definition.Period && r.Started == 1).MaxBy(r => r.Id) is { } found
            ? new LawShownOn(found.Id, Storage.Clients.NameOf(unit, found.ClientId))
            : new LawShownOn(null, null));

    /// <summary>The figures of a return and year, beside those of another year; the year before where none is named.</summary>
    public LawView View(Definition written, int? beside)
    {
        return database.Read(unit =>
        {
            var definition = InForce(unit, written);
            var other = (beside ?? definition.Year - 1) is var year && Catalogue.Find(definition.Id, year, definition.Period, out _) is { } found ? InForce(unit, found) : null;
            var before = other is null ? [] : LawFigures.Of(other).ToDictionary(f => f.Key);
            var figures = LawFigures.Of(definition);
            var corrections = LawCorrections.Of(unit, definition.Id, definition.Year, definition.Period);
            var verified = LawVerifications.Of(unit, definition.Id, definition.Year, definition.Period);
            var groups = figures.GroupBy(PageOf).Select(g => new LawGroup(g.Key, [.. g.Select(f => View(f, other is null ? null : before.GetValueOrDefault(f.Key), verified.GetValueOrDefault(f.Key), other is not null))])).ToList();
            return new LawView(
                definition.Id, definition.Title, definition.Year, definition.Period, other?.Year, definition.Currency, groups,
                groups.Sum(g => g.Figures.Count(f => f.Verification is { Counts: true })), figures.Count,
                LawEditions.Latest(unit, definition.Id, definition.Year, definition.Period)?.Number ?? 0, ApprovalRules.Of(unit).FourEyes);

            LawFigureView View(LawFigure figure, LawFigure? was, LawVerificationRecord? mark, bool compared) => new(
                figure.Key, figure.Label, figure.Value, was?.Value, compared && was?.Content != figure.Content, figure.Source, figure.Confidence.ToString().ToLowerInvariant(), figure.Note,
                figure.Rows, was?.Rows ?? [], figure.Curve, was?.Curve ?? [],
                [.. figure.UsedBy.Select(l => new LawUse(l.Key, l.Number, l.Label, l.Form.Title, (l.Form.Beside?.First ?? l.Form).Key))],
                [.. figure.Findings.Select(f => f.Message.ToString())],
                figure.AsWritten is not null,
                mark is null ? null : new LawVerificationView(
                    mark.Against, mark.SourceDay, People.Find(unit, mark.VerifiedBy)!.Name, mark.VerifiedAt, mark.PageName, mark.ConfirmedBy is { } another ? People.Find(unit, another)!.Name : null, mark.Content == figure.Content, mark.Content),
                CorrectionIn(LawCorrectionRecord.InForce, figure),
                CorrectionIn(LawCorrectionRecord.Proposed, figure));

            LawCorrectionView? CorrectionIn(string state, LawFigure figure) =>
                corrections[figure.Key].LastOrDefault(c => c.State == state) is { } found ? CorrectionOf(unit, found) : null;
        });
    }

    private static LawCorrectionView CorrectionOf(Unit unit, LawCorrectionRecord made)
    {
        var says = JsonSerializer.Deserialize<LawCorrection>(made.Says)!;
        return new LawCorrectionView(
            made.Id,
            new LawChangeTyped(
                made.Figure,
                says.Value is { } value ? Figures.Plain(value) : null,
                says.Ranges.Count == 0 ? null : [.. says.Ranges.Select(r => new LawRangeTyped(r.UpTo is { } edge ? Figures.Plain(edge) : null, Figures.Plain(r.Value)))]),
            made.Content,
            made.Was,
            made.Source,
            made.SourceDay,
            made.Reason,
            string.Join(", ", LawCorrections.CoversOf(unit, made.Id).Where(c => c.UntilEdition is null).Select(c => Periods.InWords(c.Year, c.Period))),
            People.Find(unit, made.ProposedBy)!.Name,
            made.ProposedAt,
            made.DecidedBy is { } decided ? People.Find(unit, decided)!.Name : null,
            made.DecidedAt,
            made.WithdrawalBy is { } asked ? People.Find(unit, asked)!.Name : null,
            made.WithdrawalReason);
    }

    private DateOnly Today => clock.Today();

    private Definition InForce(Definition written) => database.Read(unit => InForce(unit, written));

    private static Definition InForce(Unit unit, Definition written) => PracticeDefinitions.InForce(unit, written.Id, written.Year, written.Period);

    private LawFigure FigureInForce(Definition written, string? key) => database.Read(unit => FigureOf(InForce(unit, written), key));

    private static string PageOf(LawFigure figure) =>
        (figure.UsedBy.FirstOrDefault()?.Form ?? figure.Findings.FirstOrDefault()?.Lines.FirstOrDefault()?.Form)?.Title ?? "Days";

    /// <summary>Notes that a figure was held against a printed source, for this year and others in which it says the same.</summary>
    /// <exception cref="PlainProblem">There is no such figure, the source is not named, or a year says something else.</exception>
    public LawView Verify(Definition definition, LawVerificationInput typed, Caller caller)
    {
        database.Write(unit => Verify(unit, definition, typed, caller));
        return View(definition, null);
    }

    /// <summary>The same within a unit of work.</summary>
    /// <exception cref="PlainProblem">There is no such figure, the source is not named, or a year says something else.</exception>
    public void Verify(Unit unit, Definition definition, LawVerificationInput typed, Caller caller)
    {
        var figure = FigureOf(InForce(unit, definition), typed.Figure);
        var against = EntryReader.Clean(typed.Against);
        if (against.Length is 0 or > LongestText)
        {
            throw PlainProblem.Refused($"Say against what the figure was held: gazette, statute or table with its reference, in at most {LongestText} characters.");
        }

        var day = DayOf(typed.SourceDay, Catalogue.CountryOf(definition.Id));
        var years = (typed.Years ?? []).Append(definition.Year).Distinct().Order().ToList();
        foreach (var year in years)
        {
            var covered = Find(definition.Id, year, definition.Period);
            var there = LawFigures.Of(InForce(unit, covered)).FirstOrDefault(f => f.Key == figure.Key);
            if (there?.Content != figure.Content)
            {
                throw PlainProblem.Refused($"In {year} ‘{figure.Label}’ is {there?.Content ?? "not there"}, in {definition.Year} {figure.Content}; verify it for that year by itself.");
            }
        }

        var now = clock.GetUtcNow();
        foreach (var year in years)
        {
            LawVerifications.Put(unit, new LawVerificationRecord
            {
                Definition = definition.Id,
                Year = year,
                Period = definition.Period,
                Figure = figure.Key,
                Content = figure.Content,
                Against = against,
                SourceDay = day,
                VerifiedBy = caller.Id,
                VerifiedAt = Moments.Text(now),
            });
        }

        Acts.Add(unit, caller.Act("law-verify", now) with { Line = $"{definition.Id} {string.Join(", ", years)}: {figure.Label}", After = $"{figure.Content}; {against}" });
    }

    /// <summary>Attaches the printed page a figure was held against.</summary>
    /// <exception cref="PlainProblem">The figure is not verified as it stands now, or the file is none that is kept.</exception>
    public LawView Attach(Definition definition, string key, string file, byte[] content, Caller caller)
    {
        var (figure, name) = (FigureInForce(definition, key), DocumentEndpoints.FileNameOf(file));
        if (name.Length is 0 or > LongestName)
        {
            throw PlainProblem.Refused($"Give the file a name of at most {LongestName} characters.");
        }

        var mediaType = DocumentEndpoints.MediaTypeOf(content) ?? throw PlainProblem.Refused($"'{name}' is not kept: a page is PDF, PNG, JPEG, XLSX, or text in UTF-8.");
        var now = clock.GetUtcNow();
        database.Write(unit =>
        {
            var mark = LawVerifications.Of(unit, definition.Id, definition.Year, definition.Period).GetValueOrDefault(figure.Key);
            if (mark?.Content != figure.Content)
            {
                throw PlainProblem.Conflict("Verify the figure first; then its page is attached.");
            }

            var sha256 = Artefacts.Keep(unit, content, mediaType, Moments.Text(now));
            LawVerifications.AttachPage(unit, mark, sha256, name);
            Acts.Add(unit, caller.Act("law-page", now) with { Line = $"{definition.Id} {definition.Year}: {figure.Label}", After = $"{name}, {sha256}" });
        });
        return View(definition, null);
    }

    /// <summary>The page that is attached to a verification.</summary>
    /// <exception cref="PlainProblem">There is none.</exception>
    public IResult Page(Definition definition, string key) => database.Read(unit =>
        LawVerifications.Of(unit, definition.Id, definition.Year, definition.Period).GetValueOrDefault(key) is { PageSha256: { } sha256, PageName: { } name }
            ? Results.File(Artefacts.Get(unit, sha256), DocumentEndpoints.MediaTypeOf(Artefacts.Get(unit, sha256)) ?? "application/octet-stream", name)
            : throw PlainProblem.NotFound("A page beside this figure"));

    /// <summary>Confirms what another person verified.</summary>
    /// <exception cref="PlainProblem">It is not verified, says something else by now, was confirmed, or was verified by the same person.</exception>
    public LawView Confirm(Definition definition, LawFigureNamed named, Caller caller)
    {
        var figure = FigureInForce(definition, named.Figure);
        var now = clock.GetUtcNow();
        database.Write(unit =>
        {
            var mark = LawVerifications.Of(unit, definition.Id, definition.Year, definition.Period).GetValueOrDefault(figure.Key);
            if (mark?.Content != figure.Content)
            {
                throw PlainProblem.Conflict("This figure is not verified as it stands now; nothing was confirmed.");
            }

            if (mark.VerifiedBy == caller.Id || mark.ConfirmedBy is not null)
            {
                throw PlainProblem.Conflict(mark.ConfirmedBy is null ? "You verified this figure yourself; another person confirms it." : "This figure is confirmed already.");
            }

            LawVerifications.Confirm(unit, mark.Id, caller.Id, Moments.Text(now));
            Acts.Add(unit, caller.Act("law-confirm", now) with { Line = $"{definition.Id} {definition.Year}: {figure.Label}", After = figure.Content });
        });
        return View(definition, null);
    }

    /// <summary>Takes a verification back.</summary>
    /// <exception cref="PlainProblem">There is none.</exception>
    public LawView Withdraw(Definition definition, LawFigureNamed named, Caller caller)
    {
        var figure = FigureInForce(definition, named.Figure);
        var now = clock.GetUtcNow();
        database.Write(unit =>
        {
            if (!LawVerifications.Withdraw(unit, definition.Id, definition.Year, definition.Period, figure.Key, caller.Id, Moments.Text(now)))
            {
                throw PlainProblem.Conflict("This figure is not verified.");
            }

            Acts.Add(unit, caller.Act("law-withdraw", now) with { Line = $"{definition.Id} {definition.Year}: {figure.Label}", Before = figure.Content });
        });
        return View(definition, null);
    }

    /// <summary>A figure of a definition.</summary>
    /// <exception cref="PlainProblem">It has none of that key.</exception>
    internal static LawFigure FigureOf(Definition definition, string? key) =>
        LawFigures.Of(definition).FirstOrDefault(f => f.Key == key) ?? throw PlainProblem.NotFound($"The figure '{key}'");

    /// <summary>The day of a source as typed, canonical; null where none is.</summary>
    /// <exception cref="PlainProblem">It is no day.</exception>
    internal string? DayOf(string? typed, string country) =>
        string.IsNullOrWhiteSpace(typed) ? null
        : TypedDay.TryRead(typed, country, clock.Today(), out var day) ? day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
        : throw PlainProblem.Refused($"'{typed}' is no day of the source; {TypedDay.InWords(country, clock.Today())}.");
}
