namespace Aerarium.Countries.Philippines.Individual;

/// <summary>What neither the annual nor the quarterly return of an individual computes.</summary>
internal static class OutsideIncomeTax
{
    /// <summary>Each in a phrase.</summary>
    public static readonly IReadOnlyList<string> Of =
    [
        "value added tax, and percentage taxes other than that of NIRC s. 116",
        "income under final tax and capital gains",
        "what the client withholds from others as an employer or payer",
        "the tax credit of the personal equity and retirement account: entered as another credit",
        "exemption papers of micro-enterprises",
        "estates and trusts",
        "settlements of penalties, and local business tax",
    ];
}
