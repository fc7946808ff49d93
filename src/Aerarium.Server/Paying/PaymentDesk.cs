using System.Globalization;
using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Core.Engine;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Core.Identifiers;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Paying;

/// <summary>What is to be paid for a return, and what has been.</summary>
/// <param name="Balance">What is to pay, or below zero to be repaid: the balance as assessed where there is an assessment, else as filed, canonical.</param>
/// <param name="Paid">Paid so far for the year, canonical.</param>
/// <param name="Unpaid">Left to pay, canonical.</param>
/// <param name="Currency">Currency.</param>
/// <param name="Reference">The reference of the payment (ISO 11649): one for each return, the same on every advice.</param>
/// <param name="On">The day for which the advice is computed.</param>
/// <param name="Parts">The parts in which it is paid, with what being late adds.</param>
/// <param name="DueBy">What is due by that day, charges included.</param>
/// <param name="Left">What is left of all parts, charges included.</param>
/// <param name="Payments">The payments.</param>
/// <param name="Assessed">The assessment the balance follows, or null.</param>
public sealed record PaymentsView(
    string Balance,
    string Paid,
    string Unpaid,
    string Currency,
    string Reference,
    DateOnly On,
    IReadOnlyList<PaymentPartView> Parts,
    string DueBy,
    string Left,
    IReadOnlyList<PaymentRecord> Payments,
    AssessedView? Assessed);

/// <summary>An assessment that decided the balance otherwise than filed.</summary>
/// <param name="Number">Number of the notice.</param>
/// <param name="Filed">The balance as filed, canonical.</param>
/// <param name="PayBy">Day by which what it adds is to be paid, or null.</param>
/// <param name="Objected">Whether it was objected to.</param>
public sealed record AssessedView(string Number, string Filed, string? PayBy, bool Objected);

/// <summary>A part of what is to pay.</summary>
public sealed record PaymentPartView(string Label, DateOnly Due, string Amount, string Paid, string Unpaid, IReadOnlyList<ChargeView> Charges);

/// <summary>What being late adds to a part.</summary>
public sealed record ChargeView(string Label, string Amount, string Law, string Words);

/// <summary>A payment as typed.</summary>
public sealed record PaymentInput(string? PaidOn, string? Amount, string? Reference);

/// <summary>Notes payments towards filed returns, and what is left to pay.</summary>
public sealed class PaymentDesk(PracticeDatabase database, Workbench workbench, Ties ties, TimeProvider clock)
{
    private const int LongestText = 60;

    /// <summary>What is to be paid for a return, and what has been: the payment advice.</summary>
    /// <param name="id">The return.</param>
    /// <param name="on">The day for which the advice is computed, as typed; null or blank for today, or the first day that is still to come.</param>
    /// <exception cref="PlainProblem">The day cannot be read.</exception>
    public PaymentsView View(long id, string? on) => database.Read(unit =>
    {
        var country = Catalogue.CountryOf(Find(unit, id).Definition);
        return string.IsNullOrWhiteSpace(on) ? View(unit, id)
            : TypedDay.TryRead(on, country, clock.Today(), out var day) ? View(unit, id, day)
            : throw PlainProblem.Refused($"'{on}' is not a day of the calendar; {TypedDay.InWords(country, clock.Today())}.");
    });

    /// <summary>The payment advice for a day.</summary>
    public PaymentsView View(long id, DateOnly? on = null) => database.Read(unit => View(unit, id, on));

    /// <summary>The reference under which a return is paid: country, year, period and the return's number, as ISO 11649 writes it.</summary>
    public static string ReferenceOf(ReturnRecord record) => CreditorReference.For(
        string.Create(CultureInfo.InvariantCulture, $"{Catalogue.CountryOf(record.Definition)}{record.Year}{record.Period}R{record.Id}").ToUpperInvariant());

    /// <summary>Notes a payment.</summary>
    /// <exception cref="PlainProblem">The day or amount cannot be read, or the slip is noted already.</exception>
    public PaymentsView Note(long id, PaymentInput typed, Caller caller) => Changed(id, unit =>
    {
        var record = Find(unit, id);
        var country = Catalogue.CountryOf(record.Definition);
        if (!TypedDay.TryRead(typed.PaidOn, country, clock.Today(), out var day) || day > clock.Today())
        {
            throw PlainProblem.Refused($"'{typed.PaidOn}' is not the day of a payment that was made; {TypedDay.InWords(country, clock.Today())}.");
        }

        if (!EntryReader.TryAmount(EntryReader.Clean(typed.Amount), out var amount) || amount <= 0)
        {
            throw PlainProblem.Refused($"'{typed.Amount}' is not an amount that was paid; type it in figures, such as 12500.50.");
        }

        var reference = EntryReader.Clean(typed.Reference);
        if (reference.Length is 0 or > LongestText)
        {
            throw PlainProblem.Refused("Give the reference printed on the payment slip, at most 60 characters.");
        }

        if (OfYear(unit, record).Any(p => p.Reference == reference))
        {
            throw PlainProblem.Conflict($"The slip {reference} is noted already; each slip counts once.");
        }

        var now = clock.GetUtcNow();
        Payments.Add(unit, new PaymentRecord
        {
            ReturnId = id,
            PaidOn = day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            Amount = Figures.Canonical(amount),
            Reference = reference,
            NotedBy = caller.Name,
            NotedAt = Moments.Text(now),
        });
        Acts.Add(unit, caller.Act("payment", now) with { ReturnId = id, ClientId = record.ClientId, After = $"{Figures.Canonical(amount)} on {day:yyyy-MM-dd}, {reference}" });
        KeepUnpaid(unit, id);
        return View(unit, id);
    });

    /// <summary>Removes a payment noted by mistake.</summary>
    public PaymentsView Remove(long id, long payment, Caller caller) => Changed(id, unit =>
    {
        var record = Find(unit, id);
        var found = Payments.Of(unit, id).FirstOrDefault(p => p.Id == payment) ?? throw PlainProblem.NotFound("This payment");
        Payments.Remove(unit, payment);
        Acts.Add(unit, caller.Act("payment", clock.GetUtcNow()) with { ReturnId = id, ClientId = record.ClientId, Before = $"{found.Amount} on {found.PaidOn}, {found.Reference}" });
        KeepUnpaid(unit, id);
        return View(unit, id);
    });

    /// <summary>What was paid towards a return and those it amends or is amended by.</summary>
    internal static decimal PaidTowards(Unit unit, ReturnRecord record) => OfYear(unit, record).Sum(Amount);

    /// <summary>Changes payments; what is claimed elsewhere because of them is looked at anew.</summary>
    private PaymentsView Changed(long id, Func<Unit, PaymentsView> change)
    {
        var view = database.Write(change);
        ties.LookAgain(id);
        return view;
    }

    /// <summary>Keeps what is left to pay, for lists: of the latest filed return of the year; those it amends owe nothing themselves.</summary>
    public static void KeepUnpaid(Unit unit, long id)
    {
        var record = Find(unit, id);
        var filed = OfYearReturns(unit, record).Where(r => r.Stage is Stage.Sent or Stage.Accepted).ToList();
        var latest = filed.MaxBy(r => r.Id);
        foreach (var item in filed)
        {
            Payments.KeepUnpaid(unit, item.Id, item == latest ? Figures.Canonical(Left(unit, item)) : "0");
        }
    }

    private PaymentsView View(Unit unit, long id, DateOnly? on = null)
    {
        var record = Find(unit, id);
        var evaluation = workbench.Open(unit, id).Evaluation;
        var payments = OfYear(unit, record);
        var first = evaluation.Definition.PaymentParts.Select(p => evaluation.DayOf(p.Due)).DefaultIfEmpty(clock.Today()).Min();
        var day = on ?? (clock.Today() > first ? clock.Today() : first);
        var assessment = DecidedBy(unit, record);
        var assessed = assessment is null ? null : new AssessedBalance(
            assessment.Number, decimal.Parse(assessment.Balance!, CultureInfo.InvariantCulture), Day(assessment.PayBy ?? assessment.IssuedOn));
        var advice = PaymentAdvice.Of(evaluation, payments.Select(p => new PaidAmount(Day(p.PaidOn), Amount(p))), day, assessed);
        return new PaymentsView(
            Figures.Canonical(Owed(unit, record)),
            Figures.Canonical(payments.Sum(Amount)),
            Figures.Canonical(Left(unit, record)),
            evaluation.Definition.Currency,
            ReferenceOf(record),
            day,
            [
                .. advice.Parts.Select(p => new PaymentPartView(
                    p.Label,
                    p.Due,
                    Figures.Canonical(p.Amount),
                    Figures.Canonical(p.Paid),
                    Figures.Canonical(p.Unpaid),
                    [.. p.Charges.Select(c => new ChargeView(c.Label, Figures.Canonical(c.Amount), c.Law, c.Words))])),
            ],
            Figures.Canonical(advice.DueBy),
            Figures.Canonical(advice.Left),
            payments,
            assessment is null ? null : new AssessedView(assessment.Number, record.Balance, assessment.PayBy, Aftermaths.ObjectionOf(unit, id) is not null));
    }

    /// <summary>The assessment that decided the balance of a return otherwise than filed, or null.</summary>
    private static AssessmentRecord? DecidedBy(Unit unit, ReturnRecord record) =>
        Aftermaths.AssessmentOf(unit, record.Id) is { Balance: { } balance } assessment && balance != record.Balance ? assessment : null;

    /// <summary>What is to pay for a return, below zero to be repaid: as assessed where there is an assessment, else as filed.</summary>
    private static decimal Owed(Unit unit, ReturnRecord record) =>
        decimal.Parse(DecidedBy(unit, record)?.Balance ?? record.Balance, CultureInfo.InvariantCulture);

    private static decimal Left(Unit unit, ReturnRecord record) => Math.Max(0, Owed(unit, record) - OfYear(unit, record).Sum(Amount));

    private static DateOnly Day(string text) => DateOnly.ParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static IEnumerable<ReturnRecord> OfYearReturns(Unit unit, ReturnRecord record) =>
        Storage.Returns.OfClient(unit, record.ClientId).Where(r => r.Definition == record.Definition && r.Year == record.Year && r.Period == record.Period);

    private static List<PaymentRecord> OfYear(Unit unit, ReturnRecord record) => [.. OfYearReturns(unit, record).SelectMany(r => Payments.Of(unit, r.Id))];

    private static decimal Amount(PaymentRecord payment) => decimal.Parse(payment.Amount, CultureInfo.InvariantCulture);

    private static ReturnRecord Find(Unit unit, long id) => Storage.Returns.Find(unit, id) ?? throw PlainProblem.NotFound("This return");
}

internal static class PaymentEndpoints
{
    public static void MapPayments(this RouteGroupBuilder api)
    {
        var payments = api.MapGroup("/returns/{id:long}/payments").ReachesReturn().WithTags("Paying");
        payments.MapGet("", (long id, string? on, PaymentDesk desk) => desk.View(id, on));
        payments.MapPost("", (long id, PaymentInput typed, ClaimsPrincipal user, PaymentDesk desk) => desk.Note(id, typed, Caller.Of(user)))
            .RequireAuthorization(Policies.Prepare);
        payments.MapDelete("/{payment:long}", (long id, long payment, ClaimsPrincipal user, PaymentDesk desk) => desk.Remove(id, payment, Caller.Of(user)))
            .RequireAuthorization(Policies.Prepare);
    }
}
