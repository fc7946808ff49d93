using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>One of the two columns of an individual's return: the taxpayer's own, or the spouse's beside it in a joint return (NIRC s. 51(D)).</summary>
/// <param name="Applies">When the column applies: null for the taxpayer's, the answer that both file together for the spouse's.</param>
/// <param name="Status">Citizenship and residence.</param>
/// <param name="Compensation">Compensation in the year?</param>
/// <param name="Business">Business or profession?</param>
/// <param name="Losses">Losses of earlier years? Null where the return does not ask for them row by row.</param>
/// <param name="ForeignTax">Tax paid abroad to be credited?</param>
public sealed record Column(
    Condition? Applies, ChoiceLine Status, AnswerLine Compensation, AnswerLine Business, AnswerLine? Losses, AnswerLine ForeignTax)
{
    /// <summary>Whose returns feed this column: the client's own, or the spouse's.</summary>
    public string? Relation => Applies is null ? null : "spouse";

    /// <summary>Citizenship and residence, as the law tells them apart (NIRC s. 23).</summary>
    public static readonly IReadOnlyList<Choice> Statuses =
        [new("resident-citizen", "Resident citizen"), new("non-resident-citizen", "Non-resident citizen"), new("resident-alien", "Resident alien")];

    /// <summary>Where a form of this column stands: beside the taxpayer's.</summary>
    public static Beside? Spouse(Form? first) => first is null ? null : new Beside(first, "Spouse");
}
