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
        group.MapPost("/corrections/{correction:long}/discard", (string country, string name, int year, string? period, long correction, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.Discard(LawDesk.Find($"{country}/{name}", year, period), correction, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        group.MapPost("/corrections/{correction:long}/turn-on", (string country, string name, int year, string? period, long correction, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.TurnOn(LawDesk.Find($"{country}/{name}", year, period), correction, Caller.Of(user))).RequireAuthorization(Policies.Approve);
        group.MapPost("/corrections/{correction:long}/ask-withdrawal", (string country, string name, int year, string? period, long correction, LawWithdrawalInput typed, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.AskWithdrawal(LawDesk.Find($"{country}/{name}", year, period), correction, typed, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        group.MapPost("/corrections/{correction:long}/keep", (string country, string name, int year, string? period, long correction, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.Keep(LawDesk.Find($"{country}/{name}", year, period), correction, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        group.MapPost("/corrections/{correction:long}/withdraw", (string country, string name, int year, string? period, long correction, ClaimsPrincipal user, CorrectionDesk desk) =>
            desk.Withdraw(LawDesk.Find($"{country}/{name}", year, period), correction, Caller.Of(user))).RequireAuthorization(Policies.Approve);
    }

    /// <summary>Proposes a correction for a year, all its periods in which the figure says the same, and further years.</summary>
    /// <exception cref="PlainProblem">It lacks source or reason, does not fit the law, a year says something else, or somebody proposed another.</exception>
    public LawView Propose(Definition written, LawCorrectionInput typed, Caller caller)
    {
        // What has to be built for this is built before the practice is locked for writing.
        _ = database.Read(unit => Checked(unit, written, typed));
        database.Write(unit => Propose(unit, written, typed, caller));
        return law.View(written, null);
    }

    /// <summary>The same within a unit of work.</summary>
    /// <exception cref="PlainProblem">It lacks source or reason, does not fit the law, a year says something else, or somebody proposed another.</exception>
    public void Propose(Unit unit, Definition written, LawCorrectionInput typed, Caller caller)
    {
        var now = clock.GetUtcNow();
        var (correction, content, figure, covers, source, day, reason) = Checked(unit, written, typed);
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

    private (LawCorrection Correction, string Content, LawFigure Figure, List<(int Year, string Period)> Covers, string Source, string? Day, string Reason) Checked(
        Unit unit, Definition written, LawCorrectionInput typed)
    {
        var source = Text(typed.Source, "Say where the figure stands: gazette, statute or table with its reference");
        var reason = Text(typed.Reason, "Say why the figure is to be corrected");
        var day = law.DayOf(typed.SourceDay, Catalogue.CountryOf(written.Id));
        var definition = PracticeDefinitions.InForce(unit, written.Id, written.Year, written.Period);
        var figure = LawDesk.FigureOf(definition, typed.Figure);
        var correction = LawChanges.Read(definition, [new LawChangeTyped(typed.Figure, typed.Value, typed.Ranges)])[0];
        var (covers, content) = (Covers(unit, written, figure, typed.Years ?? []), "");
        foreach (var (year, period) in covers)
        {
            var there = PracticeDefinitions.InForce(unit, written.Id, year, period);
            content = LawDesk.FigureOf(LawChanges.Under(there, edition => edition.With([correction with { Source = source }])), figure.Key).Content;
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

        return (correction, content, figure, covers, source, day, reason);
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
    public LawTurned TurnOn(Definition written, long id, Caller caller) => Turn(
        written,
        caller,
        "law-turn-on",
        unit =>
        {
            var correction = Find(unit, written, id);
            Moved(correction.State == LawCorrectionRecord.Proposed);
            RequireOther(unit, correction.ProposedBy, caller, "You proposed this correction; another approver turns it on.");
            var laid = JsonSerializer.Deserialize<LawCorrection>(correction.Says)! with { Source = correction.Source };
            return new Turning(correction, LawCorrections.CoversOf(unit, id), correction.Was, edition => edition.With([laid]));
        },
        (unit, correction, cover, number, at) =>
        {
            LawCorrections.End(unit, written.Id, correction.Figure, cover.Year, cover.Period, number, LawCorrectionRecord.Replaced);
            LawCorrections.Begin(unit, id, cover.Year, cover.Period, number);
            LawCorrections.Move(unit, id, LawCorrectionRecord.Proposed, LawCorrectionRecord.InForce, caller.Id, at);
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
    public LawTurned Withdraw(Definition written, long id, Caller caller) => Turn(
        written,
        caller,
        "law-turn-off",
        unit =>
        {
            var correction = Find(unit, written, id);
            Moved(correction is { State: LawCorrectionRecord.InForce, WithdrawalBy: not null });
            RequireOther(unit, correction.WithdrawalBy!.Value, caller, "You asked to withdraw this correction; another approver withdraws it.");
            var covers = LawCorrections.CoversOf(unit, id).Where(c => c is { FromEdition: not null, UntilEdition: null }).ToList();
            return new Turning(correction, covers, correction.Content, edition => edition.Without([correction.Figure]));
        },
        (unit, correction, cover, number, _) => LawCorrections.End(unit, written.Id, correction.Figure, cover.Year, cover.Period, number, LawCorrectionRecord.Withdrawn));

    private LawTurned Turn(Definition written, Caller caller, string kind, Func<Unit, Turning> plan, Action<Unit, LawCorrectionRecord, LawCover, long, string> take)
    {
        var now = clock.GetUtcNow();

        // What has to be built for this is built before the practice is locked for writing.
        _ = database.Read(unit => plan(unit) is var planned ? planned.Covers.Select(cover => Under(unit, written.Id, cover, planned.Laid)).ToList() : null);
        var (turning, says, moved) = database.Write(unit =>
        {
            var planned = plan(unit);
            foreach (var cover in planned.Covers)
            {
                var number = (LawEditions.Latest(unit, written.Id, cover.Year, cover.Period)?.Number ?? 0) + 1;
                var corrections = JsonSerializer.Serialize(Under(unit, written.Id, cover, planned.Laid).Edition.Corrections);
                LawEditions.Add(unit, new LawEditionRecord(written.Id, cover.Year, cover.Period, number, corrections, caller.Id, Moments.Text(now)));
                take(unit, planned.Correction, cover, number, Moments.Text(now));
            }

            var first = planned.Covers[0];
            var content = LawDesk.FigureOf(PracticeDefinitions.InForce(unit, written.Id, first.Year, first.Period), planned.Correction.Figure).Content;
            Acts.Add(unit, caller.Act(kind, now) with
            {
                Line = $"{written.Id} {InWords(planned.Covers.Select(c => ((int)c.Year, c.Period)))}: {planned.Correction.Label}",
                Before = planned.Was,
                After = $"{content}; {planned.Correction.Source}",
            });
            var following = LawEditions.Follow(unit);
            FollowedLaw.Note(unit, following, caller, now, planned.Correction.Label, planned.Was, content);
            if (following.Count > 0)
            {
                Batches.Add(unit, BatchActs.FollowLaw, planned.Correction.Label, caller.Id, Moments.Text(now), [.. following.Select(r => r.Id)]);
            }

            return (planned, content, following);
        });
        runner.Wake();
        kept.FollowLaw(caller, turning.Correction.Label, turning.Was, says);
        return new LawTurned(law.View(written, null), moved.Count, moved.Count(r => r.Stage == Stage.Waiting));
    }

    /// <summary>The definition of a year and period under the next edition of its law.</summary>
    /// <exception cref="PlainProblem">The figure has another shape by now; the message says which.</exception>
    private static Definition Under(Unit unit, string definition, LawCover cover, Func<LawEdition, LawEdition> laid)
    {
        var before = LawEditions.Latest(unit, definition, cover.Year, cover.Period);
        return LawChanges.Under(
            PracticeDefinitions.AsWritten(unit, definition, cover.Year, cover.Period), _ => laid(before is null ? LawEdition.AsWritten : PracticeDefinitions.EditionIn(before)));
    }

    /// <summary>What turning a correction on or off comes to.</summary>
    /// <param name="Correction">The correction.</param>
    /// <param name="Covers">The years and periods whose law becomes another.</param>
    /// <param name="Was">What the figure says until then.</param>
    /// <param name="Laid">The next edition, from the one before it.</param>
    private sealed record Turning(LawCorrectionRecord Correction, IReadOnlyList<LawCover> Covers, string Was, Func<LawEdition, LawEdition> Laid);

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
            throw PlainProblem.Conflict("Somebody changed this correction meanwhile. Look at the figure again.");
        }
    }

    private static string InWords(IEnumerable<(int Year, string Period)> covers) => string.Join(", ", covers.Select(c => Periods.InWords(c.Year, c.Period)));

    private static string Text(string? typed, string asked) =>
        EntryReader.Clean(typed) is { Length: > 0 and <= LawDesk.LongestText } text ? text : throw PlainProblem.Refused($"{asked}, in at most {LawDesk.LongestText} characters.");
}
