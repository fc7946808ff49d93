using Aerarium.Core.Formulas;

namespace Aerarium.Core.Definitions;

/// <summary>The words that follow a line's declaration.</summary>
public static class LineWords
{
    /// <summary>Cites the section of law a computed line rests on.</summary>
    public static T Law<T>(this T formula, string citation)
        where T : ILineFormula
    {
        formula.Line.Law = citation;
        return formula;
    }

    /// <summary>Names the box of the paper an entry is copied from.</summary>
    public static T From<T>(this T formula, string box)
        where T : ILineFormula
    {
        formula.Line.CopiedFrom = box;
        return formula;
    }

    /// <summary>Adds a short hint.</summary>
    public static T Hint<T>(this T formula, string hint)
        where T : ILineFormula
    {
        formula.Line.Hint = hint;
        return formula;
    }

    /// <summary>Names the unit of a number.</summary>
    public static T Unit<T>(this T formula, string unit)
        where T : ILineFormula
    {
        formula.Line.Unit = unit;
        return formula;
    }

    /// <summary>Must be filled in whenever it applies.</summary>
    public static T Required<T>(this T formula)
        where T : ILineFormula
    {
        formula.Line.RequiredWhen = new Always();
        return formula;
    }

    /// <summary>Must be filled in whenever it applies; what to do is told in these words.</summary>
    public static T Required<T>(this T formula, string message)
        where T : ILineFormula
    {
        formula.Line.MissingMessage = message;
        return formula.Required();
    }

    /// <summary>Must be filled in when a condition holds; until then the message says what to do.</summary>
    public static T RequiredWhen<T>(this T formula, Condition condition, string message)
        where T : ILineFormula
    {
        formula.Line.MissingMessage = message;
        return formula.RequiredWhen(condition);
    }

    /// <summary>Must be filled in when a condition holds.</summary>
    public static T RequiredWhen<T>(this T formula, Condition condition)
        where T : ILineFormula
    {
        formula.Line.RequiredWhen = condition;
        return formula;
    }

    /// <summary>Applies only when a condition holds; otherwise the line is closed and reads as blank, its entry kept.</summary>
    public static T When<T>(this T formula, Condition condition)
        where T : ILineFormula
    {
        formula.Line.When = condition;
        return formula;
    }

    /// <summary>Accepts only numbers within limits.</summary>
    public static T Between<T>(this T formula, decimal least, decimal most)
        where T : ILineFormula
    {
        formula.Line.Least = least;
        formula.Line.Most = most;
        return formula;
    }

    /// <summary>Takes amounts below zero, such as the loss of an earlier period.</summary>
    public static AmountLine MayBeNegative(this AmountLine formula)
    {
        formula.Line.MayBeNegative = true;
        return formula;
    }

    /// <summary>Kept in whole units of the currency: 49 cents drop, 50 rise.</summary>
    public static AmountLine InWholeUnits(this AmountLine formula)
    {
        formula.Line.WholeUnits = true;
        return formula;
    }

    /// <summary>What the authority holds of it was reported by somebody, with whom it is corrected; it cannot be typed over here.</summary>
    public static T CorrectedWith<T>(this T formula, string reporter)
        where T : ILineFormula
    {
        formula.Line.CorrectedWith = reporter;
        return formula;
    }

    /// <summary>Ruled off as a subtotal.</summary>
    public static T Subtotal<T>(this T formula)
        where T : ILineFormula
    {
        formula.Line.Rule = LineRule.Subtotal;
        return formula;
    }

    /// <summary>Ruled off as a final figure.</summary>
    public static T Final<T>(this T formula)
        where T : ILineFormula
    {
        formula.Line.Rule = LineRule.Final;
        return formula;
    }

    /// <summary>Follows a particular of the client, or of the return itself (its kind, the acknowledgement it amends), while the return is open, unless somebody typed over it.</summary>
    public static T FollowsClient<T>(this T formula, string particular)
        where T : ILineFormula
    {
        formula.Line.ClientParticular = particular;
        return formula;
    }

    /// <summary>Leaves it to both to file one return with parallel columns, or a return each; Alternatives compute both ways.</summary>
    /// <param name="formula">The answer that both file together.</param>
    /// <param name="binds">What is to be known before choosing.</param>
    public static AnswerLine JoinsColumns(this AnswerLine formula, string binds)
    {
        formula.Line.JoinsColumns = true;
        return formula.Elective(binds);
    }

    /// <summary>Leaves the choice to the taxpayer; Alternatives compute all of them.</summary>
    /// <param name="formula">A choice or an answer.</param>
    /// <param name="binds">What is to be known before choosing, such as that the election holds for the year.</param>
    public static T Elective<T>(this T formula, string? binds = null)
        where T : ILineFormula
    {
        formula.Line.IsElective = true;
        formula.Line.ElectionBinds = binds;
        return formula;
    }

    /// <summary>Says that further income of the year may come on this line.</summary>
    public static AmountLine TakesMoreIncome(this AmountLine formula)
    {
        formula.Line.TakesMoreIncome = true;
        return formula;
    }

    /// <summary>Most characters a text takes.</summary>
    public static TextLine AtMost(this TextLine formula, int characters)
    {
        formula.Line.LongestText = characters;
        return formula;
    }

    /// <summary>Other headings under which files bring the column.</summary>
    public static T AlsoCalled<T>(this T formula, params string[] headings)
        where T : ILineFormula
    {
        formula.Line.OtherHeadings = headings;
        return formula;
    }

    /// <summary>Follows lines of other returns of the client while the return is open, unless somebody typed over it.</summary>
    public static T TiedTo<T>(this T formula, params TieSource[] sources)
        where T : ILineFormula
    {
        formula.Line.Ties = sources;
        return formula;
    }

    /// <summary>While nothing is entered, the amount another line computes is proposed; it counts once somebody confirms it or types over it.</summary>
    public static AmountLine ProposedBy(this AmountLine entry, AmountLine computed)
    {
        entry.Line.ProposedBy = computed.Line;
        return entry;
    }

    /// <summary>An amount claimed must agree with what it is tied to, within a tolerance, and there must be such a return.</summary>
    public static AmountLine MustAgreeWithin(this AmountLine formula, decimal tolerance)
    {
        formula.Line.TieTolerance = tolerance;
        return formula;
    }

    /// <summary>A credit that stands on what it is tied to: it counts once the authority has accepted that return, or once that is paid.</summary>
    public static AmountLine CountsOnce(this AmountLine formula, CreditCounts counts)
    {
        formula.Line.Counts = counts;
        return formula;
    }

    /// <summary>A number that usually lasts from year to year, such as a distance; it is taken over with what is no number, to be looked at again.</summary>
    public static AmountLine UsuallyLasts(this AmountLine formula)
    {
        formula.Line.UsuallyLasts = true;
        return formula;
    }

    /// <summary>Says that what is entered belongs to one year only.</summary>
    public static T OfOneYear<T>(this T formula)
        where T : ILineFormula
    {
        formula.Line.OfOneYear = true;
        return formula;
    }

    /// <summary>Filled from a particular the practice keeps for the country; a person can type over it.</summary>
    public static T FollowsPractice<T>(this T formula, string particular)
        where T : ILineFormula
    {
        formula.Line.PracticeParticular = particular;
        return formula;
    }

    /// <summary>Whether the line holds something.</summary>
    public static Condition IsFilled<T>(this T formula)
        where T : ILineFormula => new IsFilled(formula);

    /// <summary>Whether the line is blank.</summary>
    public static Condition IsBlank<T>(this T formula)
        where T : ILineFormula => !new IsFilled(formula);

    /// <summary>The amount given, or another when the line is blank.</summary>
    public static Amount Or(this AmountLine line, Amount whenBlank) => Formulas.Law.If(line.IsFilled(), line, whenBlank);

    /// <summary>The date given, or another when the line is blank.</summary>
    public static DateFormula Or(this DateLine line, DateFormula whenBlank) => Formulas.Law.If(line.IsFilled(), line, whenBlank);
}
