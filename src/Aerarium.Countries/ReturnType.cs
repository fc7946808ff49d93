using Aerarium.Core.Definitions;
using Aerarium.Filing;

namespace Aerarium.Countries;

/// <summary>A return type that can be prepared.</summary>
/// <param name="Id">Country and return.</param>
/// <param name="Title">Title.</param>
/// <param name="FiledBy">Who files it: individual or company.</param>
/// <param name="Years">Tax years covered.</param>
/// <param name="Create">Builds the definition of a year and period.</param>
/// <param name="EReturn">How it is written as an e-return.</param>
/// <param name="Record">How what the authority holds is read; null where it holds nothing for the return.</param>
public sealed record ReturnType(
    string Id, string Title, string FiledBy, IReadOnlyList<int> Years, Func<int, string, Definition> Create, IEReturnMapping EReturn, IAuthorityRecord? Record = null)
{
    /// <summary>ISO 3166 code of the country, lower case.</summary>
    public string Country => Id.Split('/')[0];

    /// <summary>Periods of a year that have a return each, in order.</summary>
    public IReadOnlyList<string> Periods { get; init; } = [Core.Definitions.Periods.WholeYear];

    /// <summary>What the members of a household may claim here or there; null where the law leaves nothing open between them, or it is not known here.</summary>
    public ISharedClaims? SharedClaims { get; init; }
}
