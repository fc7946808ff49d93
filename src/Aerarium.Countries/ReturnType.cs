using Aerarium.Core.Definitions;
using Aerarium.Filing;

namespace Aerarium.Countries;

/// <summary>A return type that can be prepared.</summary>
/// <param name="Id">Country and return.</param>
/// <param name="Title">Title.</param>
/// <param name="FiledBy">Who files it: individual or company.</param>
/// <param name="Years">Tax years covered.</param>
/// <param name="Create">Builds the definition of a year and period.</param>
/// <param name="EReturn">How it is written as an e-return; null for what goes to no authority, such as the accounts a return rests on.</param>
/// <param name="Record">How what the authority holds is read; null where it holds nothing for the return.</param>
public sealed record ReturnType(
    string Id, string Title, string FiledBy, IReadOnlyList<int> Years, Func<int, string, Definition> Create, IEReturnMapping? EReturn, IAuthorityRecord? Record = null)
{
    /// <summary>ISO 3166 code of the country, lower case.</summary>
    public string Country => Id.Split('/')[0];

    /// <summary>The authority it goes to, where that is not the country's own; null for the country's.</summary>
    public Authority? To { get; init; }

    /// <summary>The return of the same period to another authority that may be filed beside it; null where there is none.</summary>
    public string? Beside { get; init; }

    /// <summary>Whether it goes to an authority.</summary>
    public bool IsFiled => EReturn is not null;

    /// <summary>How it is written as an e-return.</summary>
    /// <exception cref="InvalidOperationException">It goes to no authority.</exception>
    public IEReturnMapping Mapping => EReturn ?? throw new InvalidOperationException($"{Title} goes to no authority.");

    /// <summary>Periods of a year that have a return each, in order.</summary>
    public IReadOnlyList<string> Periods { get; init; } = [Core.Definitions.Periods.WholeYear];

    /// <summary>A further period of the same year that some clients have, opened by hand where it is needed; null where a year has no more.</summary>
    public string? FurtherPeriod { get; init; }

    /// <summary>All periods a return can have, in order.</summary>
    public IReadOnlyList<string> AllPeriods => FurtherPeriod is { } further ? [.. Periods, further] : Periods;

    /// <summary>What related clients divide between them by one agreement; null where nothing is divided.</summary>
    public SharedPart? Agreement { get; init; }

    /// <summary>What the members of a household may claim here or there; null where the law leaves nothing open between them, or it is not known here.</summary>
    public ISharedClaims? SharedClaims { get; init; }
}

/// <summary>A part of something that clients who are so related divide between them; each one's return states its part.</summary>
/// <param name="What">What is divided, as a heading.</param>
/// <param name="Line">Key of the line with the part.</param>
/// <param name="Relation">How they are related.</param>
/// <param name="Others">Key of the column with the parts of those who are no clients, rows of every return.</param>
/// <param name="Whole">What the parts come to at most.</param>
public sealed record SharedPart(string What, string Line, string Relation, string Others, decimal Whole);
