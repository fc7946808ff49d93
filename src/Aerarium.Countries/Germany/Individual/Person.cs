using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>One of the two persons of a return: the taxpayer, or the spouse beside when both are assessed together (EStG s. 26b).</summary>
/// <param name="Applies">When the person belongs to the return: null for the taxpayer, the answer that both are assessed together for the spouse.</param>
/// <param name="Employed">Wages in the year?</param>
/// <param name="Commuting">Ways to work?</param>
/// <param name="HomeOffice">Work at home?</param>
/// <param name="Tools">Tools, training, applications and other costs of work?</param>
/// <param name="Travel">Travel on duty?</param>
/// <param name="SecondHousehold">A second household where the work is?</param>
/// <param name="Moved">Moved for work?</param>
/// <param name="Benefits">Benefits in place of wages?</param>
public sealed record Person(
    Condition? Applies, AnswerLine Employed, AnswerLine Commuting, AnswerLine HomeOffice, AnswerLine Tools, AnswerLine Travel, AnswerLine SecondHousehold, AnswerLine Moved, AnswerLine Benefits)
{
    /// <summary>Where a form of the spouse stands: beside the taxpayer's.</summary>
    public static Beside? Spouse(Form? first) => first is null ? null : new Beside(first, "Spouse");
}
