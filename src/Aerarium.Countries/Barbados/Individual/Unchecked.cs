using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>Amounts that the preparer enters because the law's cap, rate or condition is unsure.</summary>
internal static class Unchecked
{
    /// <summary>Warns as soon as such an amount is entered.</summary>
    /// <param name="form">The form the line stands on.</param>
    /// <param name="name">Name of the finding.</param>
    /// <param name="line">The amount.</param>
    public static void Warn(LineScope form, string name, AmountLine line) =>
        form.Warn($"{name}-unchecked", line > 0, $"The cap or rate of this amount is not checked: confirm {line} with the year's guide.", line);
}
