using Aerarium.Core.Engine;

namespace Aerarium.Countries;

/// <summary>Somebody of a household who is named in a return and files none.</summary>
/// <param name="Name">Name.</param>
/// <param name="About">Age, or what they are, in words.</param>
/// <param name="Line">The key figure that is known of them.</param>
/// <param name="Amount">What it is, as entered, in the returns' currency.</param>
public sealed record NamedDependant(string Name, string About, string Line, decimal Amount);

/// <summary>What the members of a household may claim here or there, by a country's law.</summary>
public interface ISharedClaims
{
    /// <summary>The claims as they stand.</summary>
    IReadOnlyList<SharedClaim> Of(Household household);

    /// <summary>Who is named in the returns and has none.</summary>
    IReadOnlyList<NamedDependant> Dependants(Household household);

    /// <summary>What happened in the year that the returns turn on, in words: marriage, separation, arrival, death.</summary>
    IReadOnlyList<string> Events(Household household);

    /// <summary>Single lines that are the taxes of a return, to say what a further income costs.</summary>
    IReadOnlyList<string> Taxes { get; }

    /// <summary>Single lines that income brings or takes away beside tax at the rates: amounts that taper, credits lost, benefits repaid.</summary>
    IReadOnlyList<string> MovedByIncome { get; }
}
