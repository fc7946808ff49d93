using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using System.Text.Json.Serialization;
using Aerarium.Core.Days;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Gathering;
using Aerarium.Server.Returns;
using Aerarium.Storage;
using Microsoft.AspNetCore.Mvc;

namespace Aerarium.Server.Law;

/// <summary>A verification as practices exchange it; see docs/law-exchange.schema.json.</summary>
public sealed record ExchangedVerification(string Figure, string Label, string Content, string Against, string? SourceDay, string By, string On, string? ConfirmedBy);

/// <summary>A correction as practices exchange it.</summary>
public sealed record ExchangedCorrection(
    string Figure, string Label, string Unit, string Was, decimal? Value, IReadOnlyList<LawRange>? Ranges, string Source, string? SourceDay, string Reason, string By, string On);

/// <summary>What a file of exchange holds.</summary>
public sealed record ExchangedLaw(
    string Format,
    int Version,
    string Definition,
    int Year,
    string Period,
    string Practice,
    string ExportedOn,
    IReadOnlyList<ExchangedVerification> Verifications,
    IReadOnlyList<ExchangedCorrection> Corrections);

/// <summary>Something a file offers.</summary>
/// <param name="Place">Its place in the file: verifications first, then corrections, from zero.</param>
/// <param name="Kind">verification or correction.</param>
/// <param name="Figure">Key of the figure.</param>
/// <param name="Label">What the figure is called.</param>
/// <param name="Says">What it says by the file.</param>
/// <param name="Here">What it says here; null where there is no such figure.</param>
/// <param name="Source">The source with its day.</param>
/// <param name="By">Who vouches for it, of which practice, and when.</param>
/// <param name="State">new, same or conflict.</param>
/// <param name="Words">Why it is a conflict, or null.</param>
public sealed record OfferedLaw(int Place, string Kind, string Figure, string Label, string Says, string? Here, string Source, string By, string State, string? Words);

/// <summary>What is taken of a file.</summary>
/// <param name="File">The file, as text.</param>
/// <param name="Take">Places of what is taken.</param>
public sealed record TakenLaw(string? File, IReadOnlyList<int>? Take);

/// <summary>Verifications and corrections of one return and year, out to other practices and in from them. What comes in counts as if it were made here: corrections are proposed.</summary>
internal sealed class ExchangeDesk(PracticeDatabase database, LawDesk law, CorrectionDesk corrections, TimeProvider clock)
{
    private const int LargestFile = 2 * 1024 * 1024;
    private const string Percent = "percent";
    private const string SchemaName = "law-exchange.schema.json";

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true, DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull, MaxDepth = 8 };

    private static readonly Lazy<JsonSchemaCheck> Schema = new(() =>
    {
        using var text = new StreamReader(typeof(ExchangeDesk).Assembly.GetManifestResourceStream(SchemaName)!);
        return new JsonSchemaCheck(text.ReadToEnd());
    });

    public static void Map(RouteGroupBuilder api)
    {
        var group = api.MapGroup("/law/{country}/{name}/{year:int}/exchange").WithTags("Law").ReachesPractice();
        group.MapGet("", (string country, string name, int year, string? period, ExchangeDesk desk) =>
        {
            var definition = LawDesk.Find($"{country}/{name}", year, period);
            return Results.File(desk.Write(definition), "application/json", $"law-{country}-{name}-{Periods.InWords(year, definition.Period).Replace(' ', '-')}.json");
        }).Produces(StatusCodes.Status200OK, contentType: "application/json");
        group.MapPut("/preview", async (string country, string name, int year, string? period, HttpRequest request, ExchangeDesk desk) =>
            desk.Offered(LawDesk.Find($"{country}/{name}", year, period), await ForeignFiles.BodyAsync(request)))
            .RequireAuthorization(Policies.Approve).WithMetadata(new RequestSizeLimitAttribute(LargestFile));
        group.MapPost("/take", (string country, string name, int year, string? period, TakenLaw taken, ClaimsPrincipal user, ExchangeDesk desk) =>
            desk.Take(LawDesk.Find($"{country}/{name}", year, period), taken, Caller.Of(user)))
            .RequireAuthorization(Policies.Approve).WithMetadata(new RequestSizeLimitAttribute(2 * LargestFile));
    }

    /// <summary>The verifications that count and the corrections in force of a return and year.</summary>
    public byte[] Write(Definition written) => database.Read(unit =>
    {
        var figures = LawFigures.Of(PracticeDefinitions.InForce(unit, written.Id, written.Year, written.Period));
        var verified = LawVerifications.Of(unit, written.Id, written.Year, written.Period);
        var corrected = LawCorrections.Of(unit, written.Id, written.Year, written.Period);
        string NameOf(long person) => People.Find(unit, person)!.Name;
        return JsonSerializer.SerializeToUtf8Bytes(
            new ExchangedLaw(
                "aerarium-law", 1, written.Id, written.Year, written.Period, Practices.Find(unit)!.Name, clock.Today().ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                [
                    .. figures.Select(f => (Figure: f, Mark: verified.GetValueOrDefault(f.Key))).Where(v => v.Mark?.Content == v.Figure.Content).Select(v => new ExchangedVerification(
                        v.Figure.Key, v.Figure.Label, v.Figure.Content, v.Mark!.Against, v.Mark.SourceDay, NameOf(v.Mark.VerifiedBy), v.Mark.VerifiedAt[..10],
                        v.Mark.ConfirmedBy is { } other ? NameOf(other) : null)),
                ],
                [
                    .. figures.SelectMany(f => corrected[f.Key].Where(c => c.State == LawCorrectionRecord.InForce).TakeLast(1)).Select(c =>
                    {
                        var says = JsonSerializer.Deserialize<LawCorrection>(c.Says)!;
                        return new ExchangedCorrection(
                            c.Figure, c.Label, UnitOf(figures.First(f => f.Key == c.Figure)), c.Was, says.Value, says.Ranges.Count == 0 ? null : says.Ranges, c.Source, c.SourceDay, c.Reason,
                            NameOf(c.ProposedBy), c.ProposedAt[..10]);
                    }),
                ]),
            Json);
    });

    /// <summary>What a file offers, each beside what is here.</summary>
    /// <exception cref="PlainProblem">It is no such file, or one of another return or year; the message says what and where.</exception>
    public IReadOnlyList<OfferedLaw> Offered(Definition written, byte[] content)
    {
        var file = Read(written, content);
        return database.Read(unit =>
        {
            var figures = LawFigures.Of(PracticeDefinitions.InForce(unit, written.Id, written.Year, written.Period)).ToDictionary(f => f.Key);
            var verified = LawVerifications.Of(unit, written.Id, written.Year, written.Period);
            var corrected = LawCorrections.Of(unit, written.Id, written.Year, written.Period);
            var offers = new List<OfferedLaw>();
            foreach (var given in file.Verifications)
            {
                var here = figures.GetValueOrDefault(given.Figure);
                var (state, words) = here is null ? ("conflict", "the law here has no such figure")
                    : here.Content != given.Content ? ("conflict", $"here it is {here.Content}")
                    : verified.GetValueOrDefault(given.Figure)?.Content == here.Content ? ("same", null)
                    : ("new", (string?)null);
                offers.Add(new OfferedLaw(
                    offers.Count, "verification", given.Figure, here?.Label ?? given.Label, given.Content, here?.Content, Dated(given.Against, given.SourceDay), Vouched(given.By, file, given.On), state, words));
            }

            foreach (var given in file.Corrections)
            {
                var here = figures.GetValueOrDefault(given.Figure);
                var says = new LawCorrection(given.Figure, given.Value, given.Ranges ?? []).InWords(given.Unit == Percent);
                var proposed = corrected[given.Figure].FirstOrDefault(c => c.State == LawCorrectionRecord.Proposed);
                var (state, words) = here is null ? ("conflict", "the law here has no such figure")
                    : UnitOf(here) != given.Unit ? ("conflict", $"here it is given in {(UnitOf(here) == Percent ? "per cent" : "an amount")}")
                    : SaysAlready(here, given) ? ("same", null)
                    : proposed is not null ? ("conflict", $"{People.Find(unit, proposed.ProposedBy)!.Name} proposed {proposed.Content}")
                    : here.Content != given.Was ? ("conflict", $"it was made in place of {given.Was}; here it is {here.Content}")
                    : ("new", (string?)null);
                offers.Add(new OfferedLaw(
                    offers.Count, "correction", given.Figure, here?.Label ?? given.Label, says, here?.Content, Dated(given.Source, given.SourceDay), $"{Vouched(given.By, file, given.On)}: {given.Reason}", state, words));
            }

            return offers;
        });
    }

    /// <summary>Takes what was chosen of a file, all of it or nothing: figures are verified by whoever takes them, corrections are proposed.</summary>
    /// <exception cref="PlainProblem">Something chosen is not in the file or in conflict with what is here; the message says which.</exception>
    public LawView Take(Definition written, TakenLaw taken, Caller caller)
    {
        var content = System.Text.Encoding.UTF8.GetBytes(taken.File ?? "");
        var (file, offers) = (Read(written, content), Offered(written, content));
        var chosen = (taken.Take ?? []).Distinct().ToList();
        if (chosen.Count == 0 || chosen.Exists(place => place < 0 || place >= offers.Count))
        {
            throw PlainProblem.Refused("Choose what is to be taken; the file has nothing at the place given.");
        }

        if (chosen.Select(place => offers[place]).FirstOrDefault(o => o.State == "conflict") is { } conflict)
        {
            throw PlainProblem.Conflict($"{conflict.Label}: {conflict.Words}. Nothing was taken.");
        }

        database.Write(unit =>
        {
            foreach (var offer in chosen.Select(place => offers[place]).Where(o => o.State == "new"))
            {
                if (offer.Kind == "verification")
                {
                    var given = file.Verifications[offer.Place];
                    law.Verify(unit, written, new LawVerificationInput(given.Figure, Within($"{given.Against} ({Vouched(given.By, file, given.On)})"), given.SourceDay, null), caller);
                }
                else
                {
                    var given = file.Corrections[offer.Place - file.Verifications.Count];
                    corrections.Propose(
                        unit,
                        written,
                        new LawCorrectionInput(
                            given.Figure,
                            given.Value is { } value ? Figures.Plain(value) : null,
                            given.Ranges?.Select(r => new LawRangeTyped(r.UpTo is { } edge ? Figures.Plain(edge) : null, Figures.Plain(r.Value))).ToList(),
                            given.Source,
                            given.SourceDay,
                            Within($"{given.Reason} ({Vouched(given.By, file, given.On)})"),
                            null),
                        caller);
                }
            }
        });
        return law.View(written, null);
    }

    private static ExchangedLaw Read(Definition written, byte[] content)
    {
        if (Schema.Value.Faults(content) is [var fault, ..])
        {
            throw PlainProblem.Refused($"This is no file of verifications and corrections: at {(fault.Path.Length == 0 ? "the beginning" : fault.Path)}, {fault.Detail}");
        }

        var file = JsonSerializer.Deserialize<ExchangedLaw>(content, Json)!;
        if (file.Corrections.FirstOrDefault(c => (c.Value is null) == (c.Ranges is null)) is { } shapeless)
        {
            throw PlainProblem.Refused($"The file cannot be taken: the correction of '{shapeless.Figure}' needs either a value or ranges. Correct the file, or have it exported again.");
        }

        return (file.Definition, file.Year, file.Period) == (written.Id, written.Year, written.Period)
            ? file
            : throw PlainProblem.Refused(
                $"The file is about {file.Definition} {Periods.InWords(file.Year, file.Period)}, and this is {written.Id} {Periods.InWords(written.Year, written.Period)}; choose that return and year, then import it.");
    }

    private static string UnitOf(LawFigure figure) => (figure.Rows.Count > 0 ? figure.Rows[0].Value : figure.Value).EndsWith('%') ? Percent : "amount";

    private static bool SaysAlready(LawFigure here, ExchangedCorrection given) =>
        here.AsWritten is { } written && new LawEdition([written with { Source = null }]).Key == new LawEdition([new LawCorrection(given.Figure, given.Value, given.Ranges ?? [])]).Key;

    private static string Dated(string source, string? day) => day is null ? source : $"{source} of {day}";

    private static string Vouched(string by, ExchangedLaw file, string on) => $"{by}, {file.Practice}, {on}";

    private static string Within(string text) => text.Length <= LawDesk.LongestText ? text : $"{text[..(LawDesk.LongestText - 3)]}...";
}
