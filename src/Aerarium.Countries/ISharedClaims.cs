using Aerarium.Core.Engine;

namespace Aerarium.Countries;

/// <summary>Somebody of a household who is named in a return and files none.</summary>
/// <param name="Name">Name.</param>
/// <param name="About">Age, or what they are, in words.</param>
/// <param name="NetIncome">Net income as entered, in the returns' currency.</param>
public sealed record NamedDependant(string Name, string About, decimal NetIncome);

/// <summary>What the members of a household may claim here or there, by a country's law.</summary>
public interface ISharedClaims
{
    /// <summary>The claims as they stand.</summary>
    IReadOnlyList<SharedClaim> Of(Household household);

    /// <summary>Who is named in the returns and has none.</summary>
    IReadOnlyList<NamedDependant> Dependants(Household household);
}
