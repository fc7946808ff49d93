using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>
/// Losses that last year's annual return leaves: those of earlier years that can still be used, with what has been used of them,
/// and the loss of that year itself (NIRC s. 34(D)(3)). In a year of 8% or the standard deduction nothing is used, and time runs on.
/// </summary>
internal static class LossesOfLastYear
{
    /// <summary>The losses of one column, by the key of its deductions form.</summary>
    public static RowTie In(string form) => new(
        new TiedReturn(IndividualAnnualReturn.ReturnId, 1),
        $"{form}.losses",
        "year",
        [new TiedColumn("year", "year"), new TiedColumn("loss", "loss"), new TiedColumn("applied", "applied", "used")])
    {
        LeftOutAtZero = "left",
        AndSingle = new TiedSingle($"{form}.own-loss", AmountIn: "loss", YearIn: "year"),
    };
}
