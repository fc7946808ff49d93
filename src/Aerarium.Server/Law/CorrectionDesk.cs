using System.Security.Claims;
using System.Text.Json;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Approval;
using Aerarium.Server.Desk;
using Aerarium.Server.Kept;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Law;

/// <summary>A correction of the law as typed.</summary>
/// <param name="Figure">Key of the figure.</param>
/// <param name="Value">The value it is to have; null for a table.</param>
/// <param name="Ranges">The ranges of a table; null for a single figure.</param>
/// <param name="Source">Gazette, statute or table, with its reference.</param>
/// <param name="SourceDay">Its day, as typed; may be left out.</param>
/// <param name="Reason">Why the product's law is wrong here.</param>
/// <param name="Years">Further years in which the figure says the same and is to be corrected too.</param>
public sealed record LawCorrectionInput(string? Figure, string? Value, IReadOnlyList<LawRangeTyped>? Ranges, string? Source, string? SourceDay, string? Reason, IReadOnlyList<int>? Years);

/// <summary>Why a correction is to be withdrawn.</summary>
public sealed record LawWithdrawalInput(string? Reason);

/// <summary>A correction was turned on or off.</summary>
/// <param name="Law">The law as it is now.</param>
/// <param name="Following">How many returns of the practice follow it.</param>
/// <param name="Reopened">How many of them waited for approval and are open again.</param>
public sealed record LawTurned(LawView Law, int Following, int Reopened);

/// <summary>
/// Corrections of the law: proposed by one person with source and reason, turned on by another; withdrawn the same way. Turning on is one transaction: the new edition, every return that
/// follows it, and an act for each are there together or not at all.
/// </summary>
internal sealed class CorrectionDesk(PracticeDatabase database, LawDesk law, KeptReturns kept, BatchRunner runner, TimeProvider clock)
{
    public static void Map(RouteGroupBuilder api)
    {
        var group = api.MapGroup("/law/{country}/{name}/{year:int}").WithTags("Law").ReachesPractice();
        group.MapPost("/corrections", (string country, string name, int year, string? period, LawCorrectionInput typed, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.Propose(LawDesk.Find($"{country}/{name}", year, period), typed, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        group.MapPost("/corrections/{id:long}/discard", (string country, string name, int year, string? period, long id, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.Discard(LawDesk.Find($"{country}/{name}", year, period), id, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        group.MapPost("/corrections/{id:long}/turn-on", (string country, string name, int year, string? period, long id, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.TurnOn(LawDesk.Find($"{country}/{name}", year, period), id, Caller.Of(user))).RequireAuthorization(Policies.Approve);
        group.MapPost("/corrections/{id:long}/ask-withdrawal", (string country, string name, int year, string? period, long id, LawWithdrawalInput typed, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.AskWithdrawal(LawDesk.Find($"{country}/{name}", year, period), id, typed, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        group.MapPost("/corrections/{id:long}/keep", (string country, string name, int year, string? period, long id, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.Keep(LawDesk.Find($"{country}/{name}", year, period), id, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        group.MapPost("/corrections/{id:long}/withdraw", (string country, string name, int year, string? period, long id, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.Withdraw(LawDesk.Find($"{country}/{name}", year, period), id, Caller.Of(user))).RequireAuthorization(Policies.Approve);
    }

    /// <summary>Proposes a correction for a year, all its periods in which the figure says the same, and further years.</summary>
    /// <exception cref="PlainProblem">It lacks source or reason, does not fit the law, a year says something else, or somebody proposed another.</exception>
    public LawView Propose(Definition written, LawCorrectionInput typed, Caller caller)
    {
        database.Write(unit => Propose(unit, written, typed, caller));
        return law.View(written, null);
    }

    /// <summary>The same within a unit of work.</summary>
    /// <exception cref="PlainProblem">It lacks source or reason, does not fit the law, a year says something else, or somebody proposed another.</exception>
    public void Propose(Unit unit, Definition written, LawCorrectionInput typed, Caller caller)
    {
        var source = Text(typed.Source, "Say where the figure stands: gazette, statute or table with its reference");
        var reason = Text(typed.Reason, "Say why the figure is to be corrected");
        var day = law.DayOf(typed.SourceDay, Catalogue.CountryOf(written.Id));
        var now = clock.GetUtcNow();
        var change = new LawChangeTyped(typed.Figure, typed.Value, typed.Ranges);
        var figure = LawDesk.FigureOf(PracticeDefinitions.InForce(unit, written.Id, written.Year, written.Period), typed.Figure);
        var covers = Covers(unit, written, figure, typed.Years ?? []);
        var (correction, content) = (default(LawCorrection), "");
        foreach (var (year, period) in covers)
        {
            var definition = PracticeDefinitions.InForce(unit, written.Id, year, period);
            correction = LawChanges.Read(definition, [change])[0];
            content = LawDesk.FigureOf(LawChanges.Under(definition, edition => edition.With([correction with { Source = source }])), figure.Key).Content;
            if (content == figure.Content)
            {
                throw PlainProblem.Refused($"{figure.Label} is {content} already. If that is what {source} says, verify it instead.");
            }

            if (LawCorrections.Of(unit, written.Id, year, period)[figure.Key].FirstOrDefault(c => c.State == LawCorrectionRecord.Proposed) is { } other)
            {
                throw PlainProblem.Conflict(
                    $"{People.Find(unit, other.ProposedBy)!.Name} proposed {other.Content} for {figure.Label} in {Periods.InWords(year, period)} on {other.ProposedAt[..10]}; turn that on or discard it first.");
            }
        }

        LawCorrections.Add(
            unit,
            new LawCorrectionRecord
            {
                Definition = written.Id,
                Figure = figure.Key,
                Label = figure.Label,
                Says = JsonSerializer.Serialize(correction),
                Content = content,
                Was = figure.Content,
                Source = source,
                SourceDay = day,
                Reason = reason,
                State = LawCorrectionRecord.Proposed,
                ProposedBy = caller.Id,
                ProposedAt = Moments.Text(now),
            },
            covers);
        Acts.Add(unit, caller.Act("law-propose", now) with { Line = $"{written.Id} {InWords(covers)}: {figure.Label}", Before = figure.Content, After = $"{content}; {source}; {reason}" });
    }

    /// <summary>Gives a proposal up.</summary>
    /// <exception cref="PlainProblem">It is not proposed any more.</exception>
    public LawView Discard(Definition written, long id, Caller caller)
    {
        var now = clock.GetUtcNow();
        database.Write(unit =>
        {
            var correction = Find(unit, written, id);
            Moved(LawCorrections.Move(unit, id, LawCorrectionRecord.Proposed, LawCorrectionRecord.Discarded, caller.Id, Moments.Text(now)));
            Acts.Add(unit, caller.Act("law-discard", now) with { Line = $"{written.Id}: {correction.Label}", Before = correction.Content });
        });
        return law.View(written, null);
    }

    /// <summary>Turns a proposal on: it makes an edition of the law of each year and period it covers, and returns that are neither approved nor filed follow.</summary>
    /// <exception cref="PlainProblem">Somebody was faster, it does not fit the law any more, or the practice asks for another person.</exception>
    public LawTurned TurnOn(Definition written, long id, Caller caller) => Turn(written, caller, "law-turn-on", (unit, at) =>
    {
        var correction = Find(unit, written, id);
        RequireOther(unit, correction.ProposedBy, caller, "You proposed this correction; another approver turns it on.");
        Moved(LawCorrections.Move(unit, id, LawCorrectionRecord.Proposed, LawCorrectionRecord.InForce, caller.Id, at));
        var laid = JsonSerializer.Deserialize<LawCorrection>(correction.Says)! with { Source = correction.Source };
        var covers = LawCorrections.CoversOf(unit, id);
        foreach (var cover in covers)
        {
            var number = Edit(unit, written.Id, cover, caller, at, edition => edition.With([laid]));
            LawCorrections.End(unit, written.Id, correction.Figure, cover.Year, cover.Period, number, LawCorrectionRecord.Replaced);
            LawCorrections.Begin(unit, id, cover.Year, cover.Period, number);
        }

        return (correction, covers, correction.Was, correction.Content);
    });

    /// <summary>Asks to withdraw a correction that is in force.</summary>
    /// <exception cref="PlainProblem">It is not in force, somebody asked already, or there is no reason.</exception>
    public LawView AskWithdrawal(Definition written, long id, LawWithdrawalInput typed, Caller caller)
    {
        var reason = Text(typed.Reason, "Say why the correction is to be withdrawn");
        var now = clock.GetUtcNow();
        database.Write(unit =>
        {
            var correction = Find(unit, written, id);
            Moved(correction is { State: LawCorrectionRecord.InForce, WithdrawalBy: null });
            LawCorrections.AskWithdrawal(unit, id, caller.Id, Moments.Text(now), reason);
            Acts.Add(unit, caller.Act("law-ask-withdrawal", now) with { Line = $"{written.Id}: {correction.Label}", Before = correction.Content, After = reason });
        });
        return law.View(written, null);
    }

    /// <summary>A correction somebody asked to withdraw stays.</summary>
    /// <exception cref="PlainProblem">Nobody asked.</exception>
    public LawView Keep(Definition written, long id, Caller caller)
    {
        var now = clock.GetUtcNow();
        database.Write(unit =>
        {
            var correction = Find(unit, written, id);
            Moved(correction is { State: LawCorrectionRecord.InForce, WithdrawalBy: not null });
            LawCorrections.AskWithdrawal(unit, id, null, null, null);
            Acts.Add(unit, caller.Act("law-keep", now) with { Line = $"{written.Id}: {correction.Label}", After = correction.Content });
        });
        return law.View(written, null);
    }

    /// <summary>Withdraws a correction that somebody asked to withdraw; what the product's law says counts again.</summary>
    /// <exception cref="PlainProblem">Nobody asked, somebody was faster, or the practice asks for another person.</exception>
    public LawTurned Withdraw(Definition written, long id, Caller caller) => Turn(written, caller, "law-turn-off", (unit, at) =>
    {
        var correction = Find(unit, written, id);
        Moved(correction is { State: LawCorrectionRecord.InForce, WithdrawalBy: not null });
        RequireOther(unit, correction.WithdrawalBy!.Value, caller, "You asked to withdraw this correction; another approver withdraws it.");
        var covers = LawCorrections.CoversOf(unit, id).Where(c => c is { FromEdition: not null, UntilEdition: null }).ToList();
        foreach (var cover in covers)
        {
            var number = Edit(unit, written.Id, cover, caller, at, edition => edition.Without([correction.Figure]));
            LawCorrections.End(unit, written.Id, correction.Figure, cover.Year, cover.Period, number, LawCorrectionRecord.Withdrawn);
        }

        var says = LawDesk.FigureOf(PracticeDefinitions.InForce(unit, written.Id, covers[0].Year, covers[0].Period), correction.Figure).Content;
        return (correction, covers, correction.Content, says);
    });

    private LawTurned Turn(Definition written, Caller caller, string kind, Func<Unit, string, (LawCorrectionRecord Correction, IReadOnlyList<LawCover> Covers, string Was, string Says)> turn)
    {
        var now = clock.GetUtcNow();
        var (correction, was, says, moved) = database.Write(unit =>
        {
            var turned = turn(unit, Moments.Text(now));
            Acts.Add(unit, caller.Act(kind, now) with
            {
                Line = $"{written.Id} {InWords(turned.Covers.Select(c => ((int)c.Year, c.Period)))}: {turned.Correction.Label}",
                Before = turned.Was,
                After = $"{turned.Says}; {turned.Correction.Source}",
            });
            var following = LawEditions.Follow(unit);
            FollowedLaw.Note(unit, following, caller, now, turned.Correction.Label, turned.Was, turned.Says);
            if (following.Count > 0)
            {
                Batches.Add(unit, BatchActs.FollowLaw, turned.Correction.Label, caller.Id, Moments.Text(now), [.. following.Select(r => r.Id)]);
            }

            return (turned.Correction, turned.Was, turned.Says, following);
        });
        runner.Wake();
        kept.FollowLaw(caller, correction.Label, was, says);
        return new LawTurned(law.View(written, null), moved.Count, moved.Count(r => r.Stage == Stage.Waiting));
    }

    /// <summary>Keeps a further edition of the law of a year and period; its number.</summary>
    private static long Edit(Unit unit, string definition, LawCover cover, Caller caller, string at, Func<LawEdition, LawEdition> laid)
    {
        var before = LawEditions.Latest(unit, definition, cover.Year, cover.Period);
        var edition = laid(before is null ? LawEdition.AsWritten : PracticeDefinitions.EditionIn(before));

        // Refused here rather than in each return that follows, if the figure has another shape by now.
        _ = LawChanges.Under(PracticeDefinitions.AsWritten(unit, definition, cover.Year, cover.Period), _ => edition);
        var number = (before?.Number ?? 0) + 1;
        LawEditions.Add(unit, new LawEditionRecord(definition, cover.Year, cover.Period, number, JsonSerializer.Serialize(edition.Corrections), caller.Id, at));
        return number;
    }

    /// <summary>Every period of the year and of the further years in which the figure says the same.</summary>
    private static List<(int Year, string Period)> Covers(Unit unit, Definition written, LawFigure figure, IReadOnlyList<int> further)
    {
        var type = Catalogue.TypeOf(written.Id);
        var covers = new List<(int, string)>();
        foreach (var year in further.Append(written.Year).Distinct().Order())
        {
            var same = type.AllPeriods.Where(period => SaysIn(year, period) == figure.Content).ToList();
            if (same.Count == 0)
            {
                throw PlainProblem.Refused($"In {year} ‘{figure.Label}’ is {SaysIn(year, written.Period) ?? "not there"}, in {written.Year} {figure.Content}; correct that year by itself.");
            }

            covers.AddRange(same.Select(period => (year, period)));
        }

        return covers;

        string? SaysIn(int year, string period)
        {
            _ = LawDesk.Find(written.Id, year, period);
            return LawFigures.Of(PracticeDefinitions.InForce(unit, written.Id, year, period)).FirstOrDefault(f => f.Key == figure.Key)?.Content;
        }
    }

    private static LawCorrectionRecord Find(Unit unit, Definition written, long id) =>
        LawCorrections.Find(unit, id) is { } found && found.Definition == written.Id ? found : throw PlainProblem.NotFound("This correction");

    private static void RequireOther(Unit unit, long first, Caller caller, string words)
    {
        if (first == caller.Id && ApprovalRules.Of(unit).FourEyes)
        {
            throw new PlainProblem(StatusCodes.Status403Forbidden, words);
        }
    }

    private static void Moved(bool moved)
    {
        if (!moved)
        {
            throw PlainProblem.Conflict("This correction is not as it was shown: somebody was faster. Look at the figure again.");
        }
    }

    private static string InWords(IEnumerable<(int Year, string Period)> covers) => string.Join(", ", covers.Select(c => Periods.InWords(c.Year, c.Period)));

    private static string Text(string? typed, string asked) =>
        EntryReader.Clean(typed) is { Length: > 0 and <= LawDesk.LongestText } text ? text : throw PlainProblem.Refused($"{asked}, in at most {LawDesk.LongestText} characters.");
}
