using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Core.Engine;

/// <summary>How a node of a derivation is to be read.</summary>
public enum DerivationKind
{
    /// <summary>The value of another line; a link.</summary>
    Line,

    /// <summary>A figure of the law.</summary>
    Parameter,

    /// <summary>A number written in the rule.</summary>
    Constant,

    /// <summary>Operands added; subtracted ones say so.</summary>
    Sum,

    /// <summary>Operands multiplied.</summary>
    Product,

    /// <summary>One operand divided by the other.</summary>
    Quotient,

    /// <summary>The least operand.</summary>
    Least,

    /// <summary>The greatest operand.</summary>
    Greatest,

    /// <summary>The operand rounded.</summary>
    Rounded,

    /// <summary>The branch that applies.</summary>
    Choice,

    /// <summary>Cases as rows of a table, the one that applies decides.</summary>
    Decision,

    /// <summary>Tax by slices.</summary>
    Bands,

    /// <summary>A total over rows.</summary>
    Rows,

    /// <summary>Whatever else; words and value say it.</summary>
    Other,
}

/// <summary>One slice of a schedule and what it took.</summary>
/// <param name="From">Lower edge.</param>
/// <param name="To">Upper edge, or null for the last slice.</param>
/// <param name="Rate">Rate in words.</param>
/// <param name="Amount">The part of the amount in this slice.</param>
/// <param name="Tax">Tax on it.</param>
public sealed record DerivationBand(string From, string? To, string Rate, string Amount, string Tax);

/// <summary>A node of a derivation.</summary>
public sealed record DerivationNode(DerivationKind Kind, string Words, string? Value)
{
    /// <summary>Key of the line it links to.</summary>
    public string? Line { get; init; }

    /// <summary>Row of that line.</summary>
    public string? Row { get; init; }

    /// <summary>Printed number of that line.</summary>
    public string? Number { get; init; }

    /// <summary>Key of the figure of the law, see <see cref="LawFigures"/>; null for everything else.</summary>
    public string? Figure { get; init; }

    /// <summary>Statutory source of a figure of the law.</summary>
    public string? Source { get; init; }

    /// <summary>How sure that source is.</summary>
    public Confidence? Confidence { get; init; }

    /// <summary>What a reader must know about the figure.</summary>
    public string? Note { get; init; }

    /// <summary>Whether this operand decided a least or greatest.</summary>
    public bool Decides { get; init; }

    /// <summary>Whether this operand is subtracted.</summary>
    public bool Subtracted { get; init; }

    /// <summary>The operands.</summary>
    public IReadOnlyList<DerivationNode> Operands { get; init; } = [];

    /// <summary>The slices of a schedule.</summary>
    public IReadOnlyList<DerivationBand> Bands { get; init; } = [];
}

/// <summary>How a line came about, one level deep: every operand that is a line is a link to its own derivation.</summary>
/// <param name="Line">Key.</param>
/// <param name="Row">Row, or null.</param>
/// <param name="Number">Printed number.</param>
/// <param name="Label">Label.</param>
/// <param name="Law">Section of the law, or null.</param>
/// <param name="Value">Value, or null when blank.</param>
/// <param name="Words">The formula in words; null for entries.</param>
/// <param name="Root">The formula with its values; null for entries.</param>
/// <param name="GoesTo">The lines that use this one.</param>
/// <param name="Limits">Limits of the law it runs into, and how far it is from them.</param>
public sealed record Derivation(
    string Line,
    string? Row,
    string Number,
    string Label,
    string? Law,
    string? Value,
    string? Words,
    DerivationNode? Root,
    IReadOnlyList<DerivationNode> GoesTo,
    IReadOnlyList<LimitRoom> Limits)
{
    private const int MostRowsShown = 50;

    /// <summary>Derives a line on an evaluation; for columns in the row with an id.</summary>
    /// <exception cref="KeyNotFoundException">There is no such row.</exception>
    public static Derivation Of(Evaluation evaluation, Line line, string? row)
    {
        var sheet = evaluation.Sheet;
        var index = 0;
        if (line.Table is not null)
        {
            var rows = evaluation.RowsOf(line.Table);
            index = rows.ToList().FindIndex(r => r.Id == row);
            if (index < 0)
            {
                throw new KeyNotFoundException($"'{line.Table.Key}' has no row '{row}'.");
            }

            sheet.Rows(line.Table).Current = index;
        }

        var builder = new Builder(evaluation);
        var users = evaluation.Definition.Evaluator.UsersOf(line);
        var goesTo = users
            .Where(u => u.Table is null || u.Table == line.Table || evaluation.RowsOf(u.Table).Count > 0)
            .Select(u => new DerivationNode(DerivationKind.Line, u.Label, null)
            {
                Line = u.Key,
                Number = u.Number,
                Row = u.Table is null ? null : u.Table == line.Table ? row : evaluation.RowsOf(u.Table)[0].Id,
            });
        return new Derivation(
            line.Key,
            row,
            line.Number,
            line.Label,
            line.Law ?? line.Section.Law,
            evaluation.Value(line, index),
            line.Formula?.Words,
            line.Formula is null ? null : builder.Node(line.Formula),
            [.. goesTo],
            LimitRoom.Of(evaluation, line, users));
    }

    private sealed class Builder(Evaluation evaluation)
    {
        private readonly Sheet _sheet = evaluation.Sheet;

        public DerivationNode Node(Formula formula) => formula switch
        {
            ParameterValue { Parameter: var parameter } => new(DerivationKind.Parameter, parameter.Label, parameter.ValueInWords)
            {
                Figure = LawFigures.NameOf(parameter, evaluation.Definition.Year),
                Source = parameter.Source,
                Confidence = parameter.Confidence,
                Note = parameter.Note,
            },
            Constant constant => new(DerivationKind.Constant, constant.Words, constant.Words),
            _ when formula.ReferredLine is { } line && formula is not IsOpen => Link(line),
            Sum sum => new(DerivationKind.Sum, sum.Words, Value(sum)) { Operands = [.. Terms(sum, false)] },
            Product product => new(DerivationKind.Product, product.Words, Value(product)) { Operands = [.. Factors(product)] },
            Quotient quotient => new(DerivationKind.Quotient, quotient.Words, Value(quotient))
            {
                Operands = [Node(quotient.Left), Node(quotient.Right)],
            },
            Extreme extreme => OfExtreme(extreme),
            Rounded rounded => new(DerivationKind.Rounded, rounded.Rounding.Words, Value(rounded)) { Operands = [Node(rounded.Operand)] },
            Choose choose => OfChoice(choose),
            Progressive progressive => OfBands(progressive),
            ByZones zones => OfZones(zones),
            DecisionTable decision => OfDecision(decision),
            Aggregate aggregate => OfRows(aggregate, aggregate.Section, aggregate.Of, aggregate.Where is { } where ? _ => where.Holds(_sheet) : _ => true),
            Tallied tallied => OfTally(tallied),
            AmountPointedAt pointed => OfPointedAt(pointed),
            AmountOfRow picked => new(DerivationKind.Rows, picked.Words, Value(picked)) { Operands = [InPickedRow(picked)] },
            SumOfEarlierRows earlier => OfEarlierRows(earlier),
            Lookup lookup => OfLookup(lookup),
            Stepped stepped => new(DerivationKind.Parameter, stepped.Table.Label, Value(stepped))
            {
                Figure = LawFigures.NameOf(stepped.Table, evaluation.Definition.Year),
                Source = stepped.Table.Source,
                Confidence = stepped.Table.Confidence,
                Note = stepped.Table.Words,
                Operands = [Node(stepped.Measure)],
            },
            Amount amount => new(DerivationKind.Other, amount.Words, Value(amount)) { Operands = [.. amount.Operands.Select(Node)] },
            DateFormula date => new(DerivationKind.Other, date.Words, Day(date.Evaluate(_sheet))) { Operands = [.. date.Operands.Select(Node)] },
            TextFormula text => new(DerivationKind.Other, text.Words, text.Evaluate(_sheet)) { Operands = [.. text.Operands.Select(Node)] },
            Condition condition => new(DerivationKind.Other, condition.Words, condition.Holds(_sheet) ? "yes" : "no"),
            _ => new(DerivationKind.Other, formula.Words, null),
        };

        private string Value(Amount amount) => Figures.Canonical(amount.Evaluate(_sheet));

        private static string? Day(int dayNumber) =>
            dayNumber == 0 ? null : DateOnly.FromDayNumber(dayNumber).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

        private DerivationNode Link(Line line)
        {
            var row = line.Table is null ? 0 : _sheet.Rows(line.Table).Current;
            return new DerivationNode(DerivationKind.Line, line.Label, Shown(line, row))
            {
                Line = line.Key,
                Row = line.Table is null ? null : evaluation.RowsOf(line.Table)[row].Id,
                Number = line.Number,
            };
        }

        private string? Shown(Line line, int row) => line.Kind switch
        {
            LineKind.Choice => line.Choices!.FirstOrDefault(c => c.Code == evaluation.Value(line, row))?.Label,
            LineKind.Row => _sheet.CodeOf(line) is var position and > 0 ? evaluation.RowName(line.Target!, position - 1) : null,
            LineKind.Money when evaluation.Value(line, row) is null => "0",
            _ => evaluation.Value(line, row),
        };

        private IEnumerable<DerivationNode> Terms(Amount amount, bool subtracted)
        {
            if (amount is not Sum sum)
            {
                return [Node(amount) with { Subtracted = subtracted }];
            }

            var left = sum.Left is Constant { Value: 0 } ? [] : Terms(sum.Left, subtracted);
            return [.. left, .. Terms(sum.Right, subtracted != sum.Subtract)];
        }

        private IEnumerable<DerivationNode> Factors(Amount amount) =>
            amount is Product product ? [.. Factors(product.Left), .. Factors(product.Right)] : [Node(amount)];

        private DerivationNode OfExtreme(Extreme extreme)
        {
            var result = extreme.Evaluate(_sheet);
            var decided = false;
            var operands = new List<DerivationNode>();
            foreach (var candidate in extreme.Candidates)
            {
                var decides = !decided && candidate.Evaluate(_sheet) == result;
                decided |= decides;
                operands.Add(Node(candidate) with { Decides = decides });
            }

            return new DerivationNode(
                extreme.Greatest ? DerivationKind.Greatest : DerivationKind.Least, extreme.Words, Figures.Canonical(result))
            {
                Operands = operands,
            };
        }

        private DerivationNode OfChoice(Choose choose)
        {
            var holds = choose.When.Holds(_sheet);
            return new DerivationNode(
                DerivationKind.Choice,
                holds ? $"because {choose.When.Words}" : $"because it does not hold that {choose.When.Words}",
                Value(choose))
            {
                Operands = [Node(holds ? choose.Then : choose.Otherwise)],
            };
        }

        private DerivationNode OfBands(Progressive progressive)
        {
            var amount = Math.Max(0, progressive.Operand.Evaluate(_sheet));
            var bands = progressive.Schedule.Bands.Select(band =>
            {
                var part = Math.Max(0, Math.Min(amount, band.To ?? amount) - band.From);
                return new DerivationBand(
                    Figures.Canonical(band.From),
                    band.To is { } to ? Figures.Canonical(to) : null,
                    $"{Figures.Plain(band.Rate * 100)}%",
                    Figures.Canonical(part),
                    Figures.Canonical(part * band.Rate));
            });
            return new DerivationNode(DerivationKind.Bands, progressive.Schedule.Label, Value(progressive))
            {
                Figure = LawFigures.NameOf(progressive.Schedule, evaluation.Definition.Year),
                Source = progressive.Schedule.Source,
                Confidence = progressive.Schedule.Confidence,
                Operands = [Node(progressive.Operand)],
                Bands = [.. bands],
            };
        }

        private DerivationNode OfZones(ByZones zones)
        {
            var zone = zones.Tariff.ZoneOf(zones.Operand.Evaluate(_sheet));
            return new DerivationNode(DerivationKind.Parameter, zones.Tariff.Label, Value(zones))
            {
                Figure = LawFigures.NameOf(zones.Tariff, evaluation.Definition.Year),
                Source = zones.Tariff.Source,
                Confidence = zones.Tariff.Confidence,
                Note = $"{(zone.UpTo is { } edge ? $"Up to {Figures.Plain(edge)}" : "Above")}: {zone.Words}",
                Operands = [Node(zones.Operand)],
            };
        }

        /// <summary>Every case as a row, and which of them decided.</summary>
        private DerivationNode OfDecision(DecisionTable decision)
        {
            var applies = decision.Applies(_sheet);
            return new DerivationNode(DerivationKind.Decision, decision.Label, Value(decision))
            {
                Operands =
                [
                    .. decision.Cases.Index().Select(c => new DerivationNode(
                        DerivationKind.Other, $"if {c.Item.When.Words}", c.Index == applies ? Value(c.Item.Then) : null) { Decides = c.Index == applies }),
                    new DerivationNode(DerivationKind.Other, "otherwise", applies == decision.Cases.Count ? Value(decision.Otherwise) : null) { Decides = applies == decision.Cases.Count },
                    Node(applies < decision.Cases.Count ? decision.Cases[applies].Then : decision.Otherwise),
                ],
            };
        }

        private DerivationNode OfRows(Amount total, RepeatingSection section, Amount? counted, Func<int, bool> counts)
        {
            var rows = _sheet.Rows(section);
            var outer = rows.Current;
            var operands = new List<DerivationNode>();
            for (rows.Current = 0; rows.Current < rows.Count && operands.Count < MostRowsShown; rows.Current++)
            {
                if (counts(rows.Current))
                {
                    var of = counted is null ? null : Node(counted);
                    operands.Add(new DerivationNode(
                        of?.Kind == DerivationKind.Line ? DerivationKind.Line : DerivationKind.Other,
                        evaluation.RowName(section, rows.Current),
                        of?.Value ?? "1")
                    {
                        Line = of?.Line,
                        Row = of?.Row,
                    });
                }
            }

            rows.Current = outer;
            return new DerivationNode(DerivationKind.Rows, total.Words, Value(total)) { Operands = operands };
        }

        private DerivationNode OfTally(Tallied tallied)
        {
            var (slot, rows, key) = (tallied.Slot(_sheet), _sheet.Rows(tallied.Tally.Section), tallied.Tally.Key.Line);
            return OfRows(tallied, tallied.Tally.Section, tallied.Tally.Of, row => rows.BlockOf(row).Codes[rows.PlaceOf(row, key.Slot)] == slot);
        }

        private DerivationNode OfPointedAt(AmountPointedAt pointed)
        {
            var number = _sheet.CodeOf(pointed.Reference.Line);
            if (number == 0 || number > _sheet.Rows(pointed.WalksOver).Count)
            {
                return new DerivationNode(DerivationKind.Other, pointed.Words, "0");
            }

            var rows = _sheet.Rows(pointed.WalksOver);
            var outer = rows.Current;
            rows.Current = number - 1;
            var node = Link(pointed.Column.Line);
            rows.Current = outer;
            return node;
        }

        private DerivationNode InPickedRow(AmountOfRow picked)
        {
            var rows = _sheet.Rows(picked.Section);
            var (outer, at) = (rows.Current, 0);
            decimal? measure = null;
            for (rows.Current = 0; rows.Current < rows.Count; rows.Current++)
            {
                var here = picked.By.Evaluate(_sheet);
                if (measure is null || (picked.Most ? here > measure : here < measure))
                {
                    (at, measure) = (rows.Current, here);
                }
            }

            rows.Current = at;
            var node = measure is null ? new DerivationNode(DerivationKind.Other, $"no {picked.Section.RowLabel}", "0") : Node(picked.Of);
            rows.Current = outer;
            return measure is null ? node : node with { Words = evaluation.RowName(picked.Section, at) };
        }

        private DerivationNode OfEarlierRows(SumOfEarlierRows earlier)
        {
            var here = _sheet.Rows(earlier.Section).Current;
            return OfRows(earlier, earlier.Section, earlier.Of, row => earlier.IsBefore(row, here, _sheet));
        }

        private DerivationNode OfLookup(Lookup lookup)
        {
            var code = evaluation.Value(lookup.Choice.Line, lookup.Choice.Line.Table is { } table ? _sheet.Rows(table).Current : 0);
            var parameter = code is null ? null : lookup.Table.GetValueOrDefault(code);
            return new DerivationNode(DerivationKind.Parameter, parameter?.Label ?? lookup.Words, Value(lookup))
            {
                Figure = parameter is null ? null : LawFigures.NameOf(parameter, evaluation.Definition.Year),
                Source = parameter?.Source,
                Confidence = parameter?.Confidence,
                Note = parameter?.Note,
                Operands = [Link(lookup.Choice.Line)],
            };
        }
    }
}
