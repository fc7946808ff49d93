using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Canada.Company;

/// <summary>The classes of depreciable property that are covered (ITR 1100(1)(a), Schedule II).</summary>
public static class DepreciationClasses
{
    /// <summary>The classes.</summary>
    public static readonly IReadOnlyList<Choice> Choices =
    [
        new("1", "1 Buildings, 4%"), new("1-6", "1 Buildings, not residential, 6%"), new("1-10", "1 Buildings of manufacturers, 10%"), new("8", "8 Furniture, fixtures, machinery, 20%"), new("10", "10 Vehicles, 30%"), new("10.1", "10.1 Passenger vehicle above the ceiling, 30%"),
        new("12", "12 Small tools, dies, software, 100%"), new("13", "13 Leasehold improvements, over the lease"), new("14.1", "14.1 Intangible property, 5%"), new("43", "43 Manufacturing, 30%"), new("50", "50 Computers, 55%"), new("53", "53 Manufacturing, 50%"),
        new("other", "Another class, at its rate"),
    ];
}
