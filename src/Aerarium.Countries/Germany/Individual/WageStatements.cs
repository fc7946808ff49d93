using Aerarium.Filing;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>What employers and offices state, from the authority or on paper: wage statements and notices of benefits.</summary>
public static class WageStatements
{
    /// <summary>The record.</summary>
    public static readonly PublishedRecord Record = new(
        "Donations carried forward go on from last year's return here, and from the separate notice.",
        new StatementKind(
            "wage-statement",
            "Wage statement",
            "wages.statements",
            "employer",
            "employer",
            null,
            "identificationNumber",
            [
                new("employer", "employer"), new("from", "from"), new("until", "until"), new("taxClass", "class"), new("line3", "gross"), new("line4", "wage-tax"), new("line5", "surcharge"), new("line6", "church-tax"),
                new("line7", "spouse-church-tax"), new("line15", "replaced"), new("line17", "commuting-free"), new("line18", "commuting-flat"), new("line19", "severance"), new("line20", "meals-free"),
                new("line21", "second-household-free"), new("line22a", "employer-pension"), new("line23a", "employee-pension"), new("line24a", "subsidy-health"), new("line24c", "subsidy-care"), new("line25", "health"),
                new("line26", "care"), new("line27", "unemployment"), new("line28", "private-basic"),
            ]),
        new StatementKind(
            "benefit-notice",
            "Notice of a benefit in place of wages",
            "wages.benefits",
            "payer",
            "payer",
            null,
            "identificationNumber",
            [new("payer", "payer"), new("kind", "kind"), new("from", "from"), new("until", "until"), new("amount", "amount")]));
}
