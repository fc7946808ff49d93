using System.Text.RegularExpressions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Definitions;

/// <summary>The form a parallel column stands beside.</summary>
/// <param name="First">The form of the first column.</param>
/// <param name="Column">What the parallel column is called: Spouse.</param>
/// <param name="FirstColumn">What the first column is called.</param>
public sealed record Beside(Form First, string Column, string FirstColumn = "Taxpayer")
{
    /// <summary>What its keys end with.</summary>
    public string Suffix => $"-{Column.ToLowerInvariant().Replace(' ', '-')}";
}

/// <summary>A section of a form: a heading and its lines, or a repeating section.</summary>
public class Section
{
    internal Section(Form form, string name, string title, string? law, Condition? when)
    {
        Form = form;
        Key = $"{form.Key}.{name}";
        Title = title;
        Law = law;
        OwnCondition = when;
        When = when is null ? form.When : form.When is null ? when : form.When & when;
        Position = form.Definition.Register(this);
    }

    /// <summary>The form.</summary>
    public Form Form { get; }

    /// <summary>Stable key: the form's and the section's own, which of a repeating section is its name and otherwise its first heading in small letters.</summary>
    public string Key { get; }

    /// <summary>Heading.</summary>
    public string Title { get; }

    /// <summary>Section of the law printed beside the heading, or null.</summary>
    public string? Law { get; }

    /// <summary>What it opens for, in a phrase, where its condition does not read as one; null where it does.</summary>
    public string? OpensFor { get; init; }

    /// <summary>When the section applies, the form's own condition apart; null for always.</summary>
    public Condition? OwnCondition { get; }

    /// <summary>When the section applies, the form's own condition included; null for always.</summary>
    public Condition? When { get; }

    /// <summary>Position among all sections of the definition.</summary>
    public int Position { get; }

    /// <summary>Its lines; for repeating sections the columns of a row.</summary>
    public IReadOnlyList<Line> Lines => LineList;

    /// <summary>Its lines as they are read: what overrides a computed line comes after it.</summary>
    public IEnumerable<Line> LinesAsRead => LineList.Where(l => l.Overrides is null).SelectMany(l => l.Override is { } given ? [l, given.Amount, given.Reason] : (Line[])[l]);

    internal List<Line> LineList { get; } = [];
}

/// <summary>A section that holds rows: several employers, several cars.</summary>
public class RepeatingSection : Section
{
    internal RepeatingSection(Form form, string name, string title, string rowLabel, string? law, Condition? when)
        : base(form, name, title, law, when)
    {
        Name = name;
        RowLabel = rowLabel;
        TableNumber = form.Definition.RegisterTable(this);
    }

    /// <summary>Name within the form.</summary>
    public string Name { get; }

    /// <summary>What one row is called: employer, car.</summary>
    public string RowLabel { get; }

    /// <summary>Position among the repeating sections.</summary>
    public int TableNumber { get; }

    /// <summary>The column whose value names a row for the reader.</summary>
    public Line? NamedBy { get; internal set; }

    /// <summary>The column by which a row is known again when a file of rows is brought anew, such as an account's number; null where a file adds rows.</summary>
    public Line? KnownBy { get; internal set; }

    /// <summary>The column that says where a row goes, such as the item of an account; rows that go nowhere yet stand first. Null for rows that go nowhere else.</summary>
    public Line? MapsTo { get; internal set; }

    /// <summary>The choice each of whose codes has a line of its own to be filled, whether there is a row for it yet or not; null where rows are added one by one.</summary>
    public Line? ListedBy { get; internal set; }

    /// <summary>The reference to a row of another section of which its rows are parts, such as the account that is split; null for rows of their own.</summary>
    public Line? Splits { get; internal set; }

    /// <summary>The answer by which a row, with all that is in it and within it, goes on to the next return; null where rows go on by what lasts in them.</summary>
    public Line? StandsBy { get; internal set; }

    /// <summary>Whether its rows are many and narrow, so that they are shown as a grid rather than one block each.</summary>
    public bool IsGrid { get; internal set; }

    /// <summary>Another return of the client its rows come from, or null.</summary>
    public RowTie? RowTie { get; internal set; }

    /// <summary>Whether each row is a page of its own, with parts and rows within.</summary>
    public bool IsPages { get; internal set; }

    /// <summary>What a page consists of, in the order in which it is read; empty for rows that are no pages.</summary>
    public IReadOnlyList<PagePart> Parts => PartList;

    /// <summary>For rows within a page: the column that says which page they belong to; null for all others.</summary>
    public RowLine? OfPage { get; internal set; }

    internal List<PagePart> PartList { get; } = [];

    /// <summary>Number of rules asked of every row.</summary>
    internal int FindingCount { get; set; }

    /// <summary>Whether its rows point at rows of other sections, so that they are read anew when those move.</summary>
    internal bool RefersToRows => _refersToRows ??= LineList.Exists(l => l.Kind == LineKind.Row);

    private bool? _refersToRows;

    /// <summary>Number of rows.</summary>
    public Amount RowCount => new Aggregate(this, AggregateKind.Count, null, null);
}

/// <summary>A part of a page: lines under a heading, or rows within the page.</summary>
/// <param name="Title">Its heading.</param>
/// <param name="Law">Section of the law beside it, or null.</param>
/// <param name="Rows">The rows within the page; null for a part with lines.</param>
public sealed record PagePart(string Title, string? Law, RepeatingSection? Rows)
{
    /// <summary>Its lines.</summary>
    public IReadOnlyList<Line> Lines => LineList;

    internal List<Line> LineList { get; } = [];
}

/// <summary>A repeating section together with the typed columns of its row.</summary>
public sealed class RepeatingSection<TRow> : RepeatingSection
{
    internal RepeatingSection(Form form, string name, string title, string rowLabel, string? law, Condition? when)
        : base(form, name, title, rowLabel, law, when)
    {
    }

    /// <summary>The typed columns of a row, for formulas of the same row and for totals.</summary>
    public TRow Columns { get; internal set; } = default!;

    /// <summary>Shows the rows as a grid.</summary>
    public RepeatingSection<TRow> AsGrid()
    {
        IsGrid = true;
        return this;
    }

    /// <summary>Takes rows from another return of the client while this one is open.</summary>
    public RepeatingSection<TRow> TiedTo(RowTie tie)
    {
        RowTie = tie;
        return this;
    }

    /// <summary>Sum over the rows, or over those meeting a condition.</summary>
    public Amount Sum(Func<TRow, Amount> of, Func<TRow, Condition>? where = null) =>
        new Aggregate(this, AggregateKind.Sum, of(Columns), where?.Invoke(Columns));

    /// <summary>Greatest over the rows, zero when there is none.</summary>
    public Amount Greatest(Func<TRow, Amount> of) => new Aggregate(this, AggregateKind.Greatest, of(Columns), null);

    /// <summary>An amount of the row in which another amount is greatest, the first of several; zero when there is no row.</summary>
    public Amount InRowWithMost(Func<TRow, Amount> by, Func<TRow, Amount> of) => new AmountOfRow(this, of(Columns), by(Columns), most: true);

    /// <summary>An amount of the row in which another amount is least, the first of several; zero when there is no row.</summary>
    public Amount InRowWithLeast(Func<TRow, Amount> by, Func<TRow, Amount> of) => new AmountOfRow(this, of(Columns), by(Columns), most: false);

    /// <summary>Number of rows meeting a condition.</summary>
    public Amount CountWhere(Func<TRow, Condition> where) => new Aggregate(this, AggregateKind.Count, null, where(Columns));

    /// <summary>Adds a column up by the code of another, or by the row another points at, in one walk.</summary>
    public Tally Tally(Func<TRow, AmountLine> of, Func<TRow, ILineFormula> by) => new(this, of(Columns), by(Columns));

    /// <summary>Whether any row meets a condition.</summary>
    public Condition Any(Func<TRow, Condition> where) => new AnyRow(this, where(Columns));
}

/// <summary>The row of a repeating section while its columns are declared.</summary>
public class RowScope : LineScope
{
    private readonly Form _form;
    private readonly RepeatingSection _section;

    internal RowScope(Form form, RepeatingSection section)
    {
        _form = form;
        _section = section;
    }

    private protected override RepeatingSection Rows => _section;

    private protected override Form Owner => _form;

    /// <summary>Whether what stands in these columns also stands, together, in an earlier row.</summary>
    public Condition RepeatsEarlier(params ILineFormula[] columns) => new RepeatsEarlierRow(_section, columns);

    /// <summary>
    /// Whether the span between two columns, both ends included, shares anything with that of an earlier row, such as a year that two homes are designated
    /// for; of those rows only that hold the same in further columns, such as the employer.
    /// </summary>
    public Condition OverlapsEarlier(AmountLine from, AmountLine to, params ILineFormula[] of) => new OverlapsEarlierRow(_section, from, to, of);

    /// <summary>Total of a column over the rows that come before this one when they are ordered by another column.</summary>
    public Amount SumOfEarlier(Amount of, AmountLine by) => new SumOfEarlierRows(_section, of, by);

    /// <summary>
    /// Of a total that is used up in the order of a column, such as losses by year of origin: what is used of this row, the oldest first.
    /// </summary>
    /// <param name="amount">What the row holds.</param>
    /// <param name="by">The column that orders the rows.</param>
    /// <param name="total">What is used of all rows together.</param>
    public Amount UsedInOrder(AmountLine amount, AmountLine by, Amount total) =>
        Formulas.Law.Min(amount, Formulas.Law.AtLeastZero(total - SumOfEarlier(amount, by)));

    /// <summary>Names rows for the reader by a column.</summary>
    public void NamedBy(ILineFormula column) => _section.NamedBy = column.Line;

    /// <summary>Says that a column tells where a row goes; what was chosen for rows alike is proposed.</summary>
    public void MapsTo(ChoiceLine column) => _section.MapsTo = column.Line;

    /// <summary>Shows a line to be filled for each code of a choice, whether there is a row for it yet or not.</summary>
    public void ListedBy(ChoiceLine column) => _section.ListedBy = column.Line;

    /// <summary>Says that rows are parts of the row a reference points at.</summary>
    public void Splits(RowLine reference) => _section.Splits = reference.Line;

    /// <summary>Rolls a row forward, with all that is in it and within it, where an answer says so, and no other rows.</summary>
    public void StandsBy(AnswerLine answer) => _section.StandsBy = answer.Line;

    /// <summary>Knows rows again by a column when a file of rows is brought anew: what stands in it already is changed, and what is entered beside stays.</summary>
    public void KnownBy(ILineFormula column) => _section.KnownBy = column.Line;

    private protected override Line Declare(string name, string label, LineKind kind, string declaredAt)
    {
        var line = _form.Add(new Line(name, label, kind, _form, _section, _section, declaredAt));
        if (_section.IsPages)
        {
            if (_section.PartList.Count == 0 || _section.PartList[^1].Rows is not null)
            {
                throw new RuleException($"{declaredAt}: line '{name}' of page '{_section.Key}' stands outside a part; start one with Part(...).");
            }

            _section.PartList[^1].LineList.Add(line);
        }

        return line;
    }

    private protected override void Declare(FindingRule finding) => _form.Definition.Register(finding);
}

/// <summary>A page that repeats, while it is declared: parts under headings, and rows within the page.</summary>
public sealed class PageScope : RowScope
{
    private readonly Form _form;
    private readonly RepeatingSection _pages;

    internal PageScope(Form form, RepeatingSection pages)
        : base(form, pages)
    {
        _form = form;
        _pages = pages;
    }

    /// <summary>Starts a part of the page; the lines declared after it stand in it.</summary>
    public void Part(string title, string? law = null) => _pages.PartList.Add(new PagePart(title, law, null));

    /// <summary>Rows within the page.</summary>
    public RepeatingSection<TRow> RowsWithin<TRow>(string name, string title, string rowLabel, Func<RowScope, TRow> columns, string? law = null)
    {
        var rows = _form.RowsWithin(_pages, name, title, rowLabel, columns, law);
        _pages.PartList.Add(new PagePart(title, law, rows));
        return rows;
    }

    /// <summary>Sum over the rows within this page, or over those of them that meet a condition.</summary>
    public static Amount Sum<TRow>(RepeatingSection<TRow> rows, Func<TRow, Amount> of, Func<TRow, Condition>? where = null) =>
        rows.Sum(of, row => where is null ? rows.OfPage!.IsThisRow() : rows.OfPage!.IsThisRow() & where(row));

    /// <summary>Number of the rows within this page, or of those of them that meet a condition.</summary>
    public static Amount Count<TRow>(RepeatingSection<TRow> rows, Func<TRow, Condition>? where = null) =>
        rows.CountWhere(row => where is null ? rows.OfPage!.IsThisRow() : rows.OfPage!.IsThisRow() & where(row));
}

/// <summary>How a line comes about from another.</summary>
/// <param name="From">Where it starts.</param>
/// <param name="Steps">What is added, or taken away if negative, one after the other.</param>
/// <param name="To">What it comes to.</param>
public sealed record Explanation(Line From, IReadOnlyList<Line> Steps, Line To);

/// <summary>
/// A form of a return: a class whose lines are typed members, declared in its constructor in the order in which they
/// are read. Other forms refer to its lines by member.
/// </summary>
public abstract partial class Form : LineScope
{
    private Section? _current;

    /// <summary>Opens a form.</summary>
    /// <param name="definition">The definition it belongs to.</param>
    /// <param name="key">Stable key, kebab-case.</param>
    /// <param name="title">Title.</param>
    /// <param name="about">One sentence under the title.</param>
    /// <param name="when">When the form applies; null for always.</param>
    /// <param name="beside">The form of the same class in whose parallel column this one is shown; its key, title and findings then say so. Null for a form of its own.</param>
    protected Form(Definition definition, string key, string title, string about, Condition? when = null, Beside? beside = null)
    {
        Beside = beside;
        if (beside is not null)
        {
            key += beside.Suffix;
            title = $"{title}, {beside.Column.ToLowerInvariant()}";
        }

        Definition = definition;
        Key = key;
        Title = title;
        About = about;
        When = when;
        Number = definition.Register(this, beside);
    }

    /// <summary>The definition.</summary>
    public Definition Definition { get; }

    /// <summary>Stable key.</summary>
    public string Key { get; }

    /// <summary>Title.</summary>
    public string Title { get; }

    /// <summary>One sentence under the title.</summary>
    public string About { get; }

    /// <summary>Whether what is entered here belongs to one year only and is never taken over into another return.</summary>
    public virtual bool OfOneYear => false;

    /// <summary>When the form applies; null for always.</summary>
    public Condition? When { get; }

    /// <summary>What the form opens for, in a phrase, where its condition does not read as one; null where it does.</summary>
    public virtual string? OpensFor => null;

    /// <summary>The form in whose parallel column this one is shown, such as the taxpayer's for the spouse's; null for a form of its own.</summary>
    public Beside? Beside { get; }

    /// <summary>Number printed before its lines; 0 for Scope.</summary>
    public int Number { get; }

    /// <summary>How one of its lines comes about from another, drawn as steps; null where nothing is drawn.</summary>
    public Explanation? Explained { get; private set; }

    /// <summary>Draws how one line comes about from another; the steps together are the difference.</summary>
    protected void Explain(AmountLine from, IEnumerable<AmountLine> steps, AmountLine to) => Explained = new Explanation(from.Line, [.. steps.Select(s => s.Line)], to.Line);

    /// <summary>Its sections in order.</summary>
    public IReadOnlyList<Section> Sections => SectionList;

    internal List<Section> SectionList { get; } = [];

    private protected override RepeatingSection? Rows => null;

    private protected override Form Owner => this;

    /// <summary>Starts a section; the lines declared after it stand in it.</summary>
    /// <param name="title">Heading.</param>
    /// <param name="law">Section of the law.</param>
    /// <param name="when">When it applies; null for always.</param>
    /// <param name="name">Name within the form; the heading in small letters when left out, so that a heading that is reworded keeps its old one as name.</param>
    /// <param name="opensFor">What it opens for, in a phrase, where the condition does not read as one: business income not taxed at 8%.</param>
    protected void Section(string title, string? law = null, Condition? when = null, string? name = null, string? opensFor = null)
    {
        _current = new Section(this, name ?? NameOf(title), title, law, when) { OpensFor = opensFor };
        SectionList.Add(_current);
    }

    private static string NameOf(string title) => NotInNames().Replace(title.ToLowerInvariant(), "-").Trim('-');

    [GeneratedRegex("[^a-z0-9]+")]
    private static partial Regex NotInNames();

    /// <summary>A repeating section; its columns are declared by <paramref name="columns"/>.</summary>
    protected RepeatingSection<TRow> Repeating<TRow>(
        string name, string title, string rowLabel, Func<RowScope, TRow> columns, string? law = null, Condition? when = null)
    {
        var section = new RepeatingSection<TRow>(this, name, title, rowLabel, law, when);
        SectionList.Add(section);
        section.Columns = columns(new RowScope(this, section));
        _current = null;
        return section;
    }

    /// <summary>A page that repeats, such as one for each business; what it consists of is declared by <paramref name="page"/>.</summary>
    protected RepeatingSection<TPage> Pages<TPage>(
        string name, string title, string pageLabel, Func<PageScope, TPage> page, string? law = null, Condition? when = null)
    {
        var section = new RepeatingSection<TPage>(this, name, title, pageLabel, law, when) { IsPages = true };
        SectionList.Add(section);
        section.Columns = page(new PageScope(this, section));
        _current = null;
        return section;
    }

    internal RepeatingSection<TRow> RowsWithin<TRow>(RepeatingSection pages, string name, string title, string rowLabel, Func<RowScope, TRow> columns, string? law)
    {
        var section = new RepeatingSection<TRow>(this, name, title, rowLabel, law, pages.OwnCondition);
        SectionList.Add(section);
        var scope = new RowScope(this, section);
        section.OfPage = scope.RowOf("of", char.ToUpperInvariant(pages.RowLabel[0]) + pages.RowLabel[1..], pages);
        scope.Error($"{section.Key}:page", section.OfPage.IsBlank(), $"Say which {pages.RowLabel} this {rowLabel} belongs to; until then it counts with the first.", section.OfPage);
        section.Columns = columns(scope);
        return section;
    }

    /// <summary>A pool by year of origin, carried from return to return; <see cref="PoolByYear.Use"/> says what is used of it.</summary>
    protected PoolByYear YearPool(PoolWords words)
    {
        var rows = Repeating(words.Name, words.Title, words.RowLabel, row => PoolByYear.Declare(row, Definition.Year, words), words.Law, words.When)
            .TiedTo(new RowTie(words.Before.Return, $"{Key}.{words.Name}", "year", [new TiedColumn("year", "year"), new TiedColumn("amount", "left")])
            {
                LeftOutAtZero = "left",
                AndSingle = new TiedSingle(words.Before.OfThatYear, AmountIn: "amount", YearIn: "year"),
            });
        return new PoolByYear(Definition.Year, words, rows, further => Continue(rows, row =>
        {
            further(row);
            return row;
        }));
    }

    /// <summary>Declares further columns of a repeating section, when they need what was declared in between.</summary>
    protected static TMore Continue<TMore>(RepeatingSection section, Func<RowScope, TMore> columns) =>
        columns(new RowScope(section.Form, section));

    private protected override Line Declare(string name, string label, LineKind kind, string declaredAt)
    {
        if (_current is null)
        {
            throw new RuleException($"{declaredAt}: line '{name}' of form '{Key}' stands outside a section; start one with Section(...).");
        }

        return Add(new Line(name, label, kind, this, _current, null, declaredAt));
    }

    private protected override void Declare(FindingRule finding) => Definition.Register(finding);

    internal Line Add(Line line)
    {
        line.Section.LineList.Add(line);
        Definition.Register(line);
        return line;
    }

    /// <summary>The lines of a section in the order in which they are read; rows within a page stand where the page has them, and which page they belong to has no number.</summary>
    private static IEnumerable<Line> AsRead(Section section) => section switch
    {
        RepeatingSection { IsPages: true } pages => pages.Parts.SelectMany(p => p.Rows is { } rows ? rows.LineList.Where(l => l != rows.OfPage!.Line) : p.LineList),
        RepeatingSection { OfPage: not null } => [],
        _ => section.LineList,
    };

    internal void NumberLines()
    {
        var count = 0;
        foreach (var line in SectionList.SelectMany(AsRead).Where(l => l.Overrides is null))
        {
            count++;
            line.Number = Number == 0 ? $"{count}" : $"{Number}.{count}{Beside?.Column[..1].ToLowerInvariant()}";
            if (line.Override is { } replaced)
            {
                replaced.Amount.Number = replaced.Reason.Number = line.Number;
            }
        }
    }
}
