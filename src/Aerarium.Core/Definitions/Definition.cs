using System.Security.Cryptography;
using System.Text;
using Aerarium.Core.Days;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Definitions;

/// <summary>A figure of the Outcome strip.</summary>
/// <param name="Label">Short label.</param>
/// <param name="Line">Its line.</param>
/// <param name="Sign">Sign printed before it: -, =, &gt; or nothing.</param>
public sealed record KeyFigure(string Label, Line Line, string Sign);

/// <summary>A day by which something is to be done.</summary>
/// <param name="Act">What: filing or payment.</param>
/// <param name="Label">In words.</param>
/// <param name="Day">The day.</param>
/// <param name="Source">Statute and section.</param>
/// <param name="Confidence">How sure we are.</param>
public sealed record Deadline(string Act, string Label, DateOnly Day, string Source, Confidence Confidence)
{
    /// <summary>The working days by which the day moves; null where it does not.</summary>
    internal HolidayCalendar? Calendar { get; private init; }

    /// <summary>The line on which a later day is entered once the authority has granted it, or null.</summary>
    public Line? ExtendedBy { get; init; }

    /// <summary>The line that reckons the day for this return, such as from the end of the company's period; null where the law names it.</summary>
    public Line? ReckonedBy { get; init; }

    /// <summary>Whether the day may differ from return to return.</summary>
    public bool Moves => ExtendedBy is not null || ReckonedBy is not null;

    /// <summary>The day to plan for: the deadline itself, or an earlier one when the law moves it to a working day.</summary>
    public DateOnly SafeDay => Calendar?.WorkingDayOnOrBefore(Day) ?? Day;

    /// <summary>The same deadline where it moves to the last working day before it.</summary>
    public Deadline OrTheWorkingDayBefore(HolidayCalendar calendar) => this with { Calendar = calendar };
}

/// <summary>A part of what is to pay.</summary>
/// <param name="Label">In words.</param>
/// <param name="Amount">The line that holds it; nothing is to pay where it is zero or less.</param>
/// <param name="Due">Its day.</param>
public sealed record PaymentPart(string Label, AmountLine Amount, Deadline Due);

/// <summary>Another tax that a choice on this return moves: computed so that alternatives count it, filed in a return of its own.</summary>
/// <param name="Label">In words.</param>
/// <param name="Amount">How much, in the return's currency.</param>
/// <param name="Law">Section of the law.</param>
public sealed record OtherTax(string Label, Amount Amount, string Law);

/// <summary>What is added to tax paid late.</summary>
/// <param name="Label">In words.</param>
/// <param name="Amount">How much, in the return's currency, rounded as the law says.</param>
/// <param name="Law">Section of the law.</param>
/// <param name="Line">The line of the return that computes the same for the first part; where it is overridden, that holds. Null where there is none.</param>
public sealed record LateCharge(string Label, Amount Amount, string Law, AmountLine? Line = null);

/// <summary>
/// One return type for one year: forms, lines, rules, findings, key figures and deadlines. Immutable once
/// <see cref="Seal"/> has checked and ordered it.
/// </summary>
public abstract class Definition
{
    private readonly List<Form> _forms = [];
    private readonly List<Section> _sections = [];
    private readonly List<RepeatingSection> _tables = [];
    private readonly List<Line> _lines = [];
    private readonly List<FindingRule> _findings = [];
    private readonly HashSet<string> _findingIds = [];
    private Dictionary<string, Line> _byKey = [];

    /// <summary>A definition.</summary>
    /// <param name="id">Country and return: <c>ke/employment-income</c>.</param>
    /// <param name="year">Tax year.</param>
    /// <param name="period">Period of the year, see <see cref="Periods"/>.</param>
    protected Definition(string id, int year, string period = Periods.WholeYear)
    {
        Id = id;
        Year = year;
        Period = period;
    }

    /// <summary>Country and return.</summary>
    public string Id { get; }

    /// <summary>Tax year.</summary>
    public int Year { get; }

    /// <summary>Period of the year, see <see cref="Periods"/>.</summary>
    public string Period { get; }

    /// <summary>Title of the return.</summary>
    public abstract string Title { get; }

    /// <summary>Country in words.</summary>
    public abstract string Country { get; }

    /// <summary>ISO 4217 code of the return's currency.</summary>
    public abstract string Currency { get; }

    /// <summary>Days by which something is to be done.</summary>
    public abstract IReadOnlyList<Deadline> Deadlines { get; }

    /// <summary>How numbers are written: in entry, display and print. It decides no figure.</summary>
    public Entries.NumberWriting Numbers { get; private set; } = Entries.NumberWriting.Point;

    /// <summary>Other taxes that choices on this return move; none where there are none, or where they are not known.</summary>
    public virtual IReadOnlyList<OtherTax> OtherTaxes => [];

    /// <summary>In which order the country writes dates in figures.</summary>
    public virtual Entries.DateOrder Dates => Entries.DateOrder.DayFirst;

    /// <summary>What the law knows and this return does not compute, each in a phrase; told at the foot of Scope.</summary>
    public virtual IReadOnlyList<string> NotCovered => [];

    /// <summary>The last day of a return that nobody must file, where such returns exist and end on a day; null where they do not.</summary>
    public virtual DateOnly? VoluntaryUntil => null;

    /// <summary>Whether the authority takes the return of an earlier year before that of a later one.</summary>
    public virtual bool OldestYearFirst => false;

    /// <summary>Forms in working order; the first is Scope.</summary>
    public IReadOnlyList<Form> Forms => _forms;

    /// <summary>All sections.</summary>
    public IReadOnlyList<Section> Sections => _sections;

    /// <summary>All repeating sections.</summary>
    public IReadOnlyList<RepeatingSection> Tables => _tables;

    /// <summary>All lines in order of declaration.</summary>
    public IReadOnlyList<Line> Lines => _lines;

    /// <summary>All rules that yield findings.</summary>
    public IReadOnlyList<FindingRule> Findings => _findings;

    /// <summary>The chain of key figures.</summary>
    public IReadOnlyList<KeyFigure> Outcome { get; private set; } = [];

    /// <summary>Whether the last key figure is to be paid or repaid; a list that supports another return has nothing to pay.</summary>
    public virtual bool HasBalance => true;

    /// <summary>What the last key figure is called when it is above and when it is below zero.</summary>
    public virtual (string ToPay, string Overpaid) BalanceWords => ("To pay", "Refund");

    /// <summary>The last key figure; where there is a balance, more than zero is to pay, less than zero is a refund.</summary>
    public Line Balance => Outcome[^1].Line;

    /// <summary>Penalty and interest that have run until the day of evaluation, as if everything were made good on it; null where the law knows none.</summary>
    public Line? RunningCharges { get; private set; }

    /// <summary>The parts in which what is to pay is paid, in the order of their days; none where nothing is paid.</summary>
    public IReadOnlyList<PaymentPart> PaymentParts { get; private set; } = [];

    /// <summary>Whether everything that is left falls due once a part is not paid by its day.</summary>
    public virtual bool RestFallsDueWithAPart => false;

    /// <summary>What is added to tax paid late, as formulas over the return; none where the law adds nothing or it is not known here.</summary>
    /// <param name="unpaid">The tax that was not paid in time.</param>
    /// <param name="due">Its day.</param>
    /// <param name="paid">The day it is paid.</param>
    public virtual IReadOnlyList<LateCharge> LateChargesOn(Amount unpaid, DateOnly due, DateFormula paid) => [];

    /// <summary>The edition of the law it was built under.</summary>
    public LawEdition Edition { get; } = LawEdition.BeingBuilt;

    /// <summary>Hash of everything that decides figures, findings and days, by key and value; kept with every return that is frozen.</summary>
    public string FigureRevision { get; private set; } = "";

    /// <summary>Hash of every word of the definition; a corrected label changes it and nothing else.</summary>
    public string TextRevision { get; private set; } = "";

    /// <summary>The order of computation and its compiled form.</summary>
    public Evaluator Evaluator { get; private set; } = null!;

    /// <summary>The other returns that lines or rows of this one follow.</summary>
    public IReadOnlyList<TiedReturn> TiedReturns { get; private set; } = [];

    /// <summary>Whether anything here follows any of some lines of another return. Rows that follow may come from any line.</summary>
    public bool Follows(TiedReturn other, IReadOnlySet<string> lines) =>
        _tables.Any(t => t.RowTie?.Return == other) || _lines.SelectMany(l => l.Ties).Any(t => t.Return == other && t.Lines.Any(lines.Contains));

    /// <summary>The line with a key, or null.</summary>
    public Line? FindLine(string key) => _byKey.GetValueOrDefault(key);

    /// <summary>The repeating section with a key, or null.</summary>
    public RepeatingSection? FindTable(string key) => _tables.FirstOrDefault(t => t.Key == key);

    /// <summary>The line with a key.</summary>
    /// <exception cref="KeyNotFoundException">There is none.</exception>
    public Line LineOf(string key) =>
        FindLine(key) ?? throw new KeyNotFoundException($"'{key}' is not a line of {Id} {Year}.");

    /// <summary>Evaluates a set of entries on a day; what an earlier evaluation read of the same rows is not read again.</summary>
    public Evaluation Evaluate(Entries.EntrySet entries, DateOnly today, Evaluation? before = null) => new(this, Computed(entries, today, before, null, Evaluator.Run), entries);

    /// <summary>Evaluates one return without making ready for others: the rules are interpreted and never compiled.</summary>
    internal Evaluation EvaluateOnce(Entries.EntrySet entries, DateOnly today) => new(this, Computed(entries, today, null, null, Evaluator.Interpret), entries);

    /// <summary>The figures alone, for computing the same return many times over; in a sheet that is there already when one is given.</summary>
    internal Sheet Compute(Entries.EntrySet entries, DateOnly today, Evaluation? before, Sheet? into = null) => Computed(entries, today, before, into, Evaluator.Figures);

    private Sheet Computed(Entries.EntrySet entries, DateOnly today, Evaluation? before, Sheet? into, Action<Sheet> run)
    {
        var sheet = into ?? new Sheet(this);
        sheet.Load(entries, today, before);
        run(sheet);
        return sheet;
    }

    /// <summary>Writes numbers otherwise. Called by whoever made the definition, before anybody else has it.</summary>
    public Definition WritingNumbers(Entries.NumberWriting numbers)
    {
        Numbers = numbers;
        return this;
    }

    /// <summary>Names the parts in which what is to pay is paid, in the order of their days.</summary>
    protected void PaidIn(params PaymentPart[] parts) => PaymentParts = parts;

    /// <summary>Names the line that says what has run until today.</summary>
    protected void ChargesRunOn(AmountLine charges) => RunningCharges = charges.Line;

    /// <summary>Declares the key figures, checks every rule, fixes the order of computation. Called once, at the end of construction.</summary>
    /// <exception cref="RuleException">A rule is circular, incomplete or used outside its row; the message names it.</exception>
    protected void Seal(params KeyFigure[] outcome)
    {
        Outcome = outcome;
        var twice = _lines.GroupBy(l => l.Key).FirstOrDefault(g => g.Count() > 1);
        if (twice is not null)
        {
            throw new RuleException($"Line '{twice.Key}' is declared twice: {string.Join(" and ", twice.Select(l => l.DeclaredAt))}.");
        }

        if (_sections.GroupBy(s => s.Key).FirstOrDefault(g => g.Count() > 1) is { } same)
        {
            throw new RuleException($"Section '{same.Key}' is declared twice; give one of them a name of its own.");
        }

        _byKey = _lines.ToDictionary(l => l.Key);
        TiedReturns = [.. _lines.SelectMany(l => l.Ties).Select(t => t.Return).Concat(_tables.Select(t => t.RowTie?.Return).OfType<TiedReturn>()).Distinct()];
        AssignSlots();
        _forms.ForEach(form => form.NumberLines());
        var open = _sections.ToDictionary(s => s, s => new SectionIsOpen(s));
        foreach (var line in _lines)
        {
            // Of a repeating section that does not apply no row counts, so that its columns need not ask.
            var section = line.Section.When is null || line.Table is not null ? null : open[line.Section];
            line.OpenWhen = (section, line.When) switch
            {
                (null, null) => null,
                (null, _) => line.When,
                (_, null) => section,
                _ => section & line.When,
            };
        }

        foreach (var line in _lines.Where(l => l.RequiredWhen is not null))
        {
            Register(new FindingRule(
                $"{line.Key}:missing",
                Severity.Error,
                new IsOpen(line) & line.RequiredWhen! & !new IsFilled(new AnyLine(line)),
                MissingMessage(line),
                [line],
                line.Table));
        }

        foreach (var group in _findings.GroupBy(f => f.Table?.TableNumber ?? -1))
        {
            var slot = 0;
            foreach (var finding in group)
            {
                finding.Slot = slot++;
            }

            if (group.Key < 0)
            {
                ScalarFindings = slot;
            }
            else
            {
                _tables[group.Key].FindingCount = slot;
            }
        }

        RuleCheck.Check(this);
        Evaluator = new Evaluator(this, RuleOrder.Of(this));
        FigureRevision = HashOf(FigureText.Of(this));
        TextRevision = HashOf(DefinitionText.Of(this));
    }

    private static string HashOf(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));

    private static Message MissingMessage(Line line) =>
        line.MissingMessage is { } message ? message
        : line.Kind == LineKind.Answer && line.Form.Number == 0 ? $"Scope: answer ‘{line.Label}’."
        : line.PracticeParticular is not null ? $"Enter ‘{line.Label}’, or keep it once on the Practice page for every return."
        : line.Kind switch
        {
            LineKind.Answer => $"Answer ‘{line.Label}’.",
            LineKind.Choice or LineKind.Row => $"Choose ‘{line.Label}’.",
            _ => $"Enter ‘{line.Label}’.",
        };

    internal int ScalarSlots { get; private set; }

    /// <summary>Number of rules asked once of the return.</summary>
    internal int ScalarFindings { get; private set; }

    internal int Register(Form form, Beside? beside)
    {
        _forms.Add(form);
        return beside?.First.Number ?? _forms.Count(f => f.Beside is null) - 1;
    }

    internal int Register(Section section)
    {
        _sections.Add(section);
        return _sections.Count - 1;
    }

    internal int RegisterTable(RepeatingSection table)
    {
        _tables.Add(table);
        return _tables.Count - 1;
    }

    internal void Register(Line line)
    {
        line.Position = _lines.Count;
        _lines.Add(line);
    }

    internal void Register(FindingRule finding)
    {
        if (!_findingIds.Add(finding.Id))
        {
            throw new RuleException($"Finding '{finding.Id}' is declared twice.");
        }

        _findings.Add(finding);
    }

    private void AssignSlots()
    {
        foreach (var line in _lines.Where(l => l.Table is null))
        {
            line.Slot = ScalarSlots++;
        }

        foreach (var (slot, line) in _tables.SelectMany(t => t.LineList.Index()))
        {
            line.Slot = slot;
        }
    }
}
