using static Aerarium.Server.Demo.DemoReturns;

namespace Aerarium.Server.Demo;

/// <summary>Clients of the demonstration with returns of the Philippines.</summary>
internal static class DemoPhilippines
{
    private static readonly (string Tin, string Name) Theatre = ("00661020000000", "Salt Ladder Theatre Inc");
    private static readonly (string Tin, string Name) Hotel = ("00772030000000", "Nine Buoys Hotel Corp");
    private static readonly (string Tin, string Name) Books = ("00551230000000", "Coral Window Books Co");

    /// <summary>Number of the client with returns for every quarter.</summary>
    public const string Liwayway = "20100456100000";

    /// <summary>The first two quarters of the year in which the demonstration plays; of returns that feed one another, the one fed is named first.</summary>
    public static IReadOnlyList<DemoReturn> OfThisYear =>
    [
        Quarter(2, "Graphic design, own studio", 295_000, 2026),
        Quarter(1, "Graphic design, own studio", 305_000, 2026),
        List(2026, 2, [Certificate(Theatre, "WI010", 150_000), Certificate(Hotel, "WI010", 95_000), Certificate(Books, "WI010", 50_000)]),
        List(2026, 1, [Certificate(Theatre, "WI010", 180_000), Certificate(Books, "WI010", 125_000)]),
    ];

    /// <summary>What declares a quarter's return or list.</summary>
    public static DemoReturn Declared(string definition, string declarant) => new DemoReturn(
        2025, DemoStage.Filled, definition == Countries.Philippines.IndividualQuarterly.IndividualQuarterlyReturn.ReturnId ? [("declaration.capacity", "taxpayer")] : []).Sent(declarant, "2026-06-17");

    /// <summary>The country.</summary>
    public static readonly DemoCountry Country = new(
        "ph",
        [("agent-pin", "30077001900000"), ("agent-name", "Lantern Reef Tax Practice"), ("contact-name", "Tarek Oyelaran"), ("contact-phone", "0900 555 0100")],
        (client, common) => common with
        {
            Phone = $"09{client.Pin[5..]}",
            PostalAddress = "17 Lighthouse Road, Pearl Inlet",
            More = new Dictionary<string, string> { ["district-office"] = "039", ["citizenship"] = "Filipino", ["surname"] = client.Name.Split(' ')[^1], ["first-name"] = client.Name.Split(' ')[0], ["taxpayer-type"] = client.Pin == Liwayway ? "mixed" : "proprietor" },
        },
        [
            new(Liwayway, "Liwayway Brannock Dizon", "Pearl Inlet", "1987-02-14", "none",
                new DemoReturn(2025, DemoStage.Filled,
                    [
                        .. PhilippinesScope("compensation", "business", "late"), .. PhilippinesBusiness("Graphic design, own studio", "standard", 1_240_000),
                        ("result.size", "micro"), ("charges.paid-on", "2026-06-22"),
                    ],
                    Compensation("00441120000000", "Pearl Inlet Rope Works Inc", 960_000, 80_000, 52_000, 828_000, 109_500)),
                Quarter(3, "Graphic design, own studio", 300_000),
                Quarter(2, "Graphic design, own studio", 310_000),
                Quarter(1, "Graphic design, own studio", 280_000),
                List(4, Certificate(Theatre, "WI010", 120_000), Certificate(Hotel, "WI010", 96_500.50m), Certificate(Books, "WI011", 93_499.50m, 4_674.98m)),
                List(3, Certificate(Theatre, "WI010", 150_000), Certificate(Books, "WI010", 150_000)),
                List(2, Certificate(Theatre, "WI010", 90_000), Certificate(Hotel, "WI010", 120_000), Certificate(Books, "WI010", 100_000)),
                List(1, Certificate(Theatre, "WI010", 120_000), Certificate(Books, "WI010", 84_000.40m), Certificate(Hotel, "WI010", 75_999.60m))),
            new("20100456200000", "Crisanto Umberfield", null, "1979-11-03", "none",
                new DemoReturn(2025, DemoStage.Sent,
                    [
                        .. PhilippinesScope("business"), .. PhilippinesBusiness("Repair of boats", "eight", 1_850_000), ("balance.quarterly-paid", "96000"),
                        ("balance.withheld-quarters", "22000"), ("result.overpayment", "carry-over"),
                        ("declaration.true-and-complete", "yes"), ("declaration.name", "Crisanto Umberfield"), ("declaration.capacity", "taxpayer"), ("declaration.date", "2026-04-10"),
                    ]),
                List(4, Certificate(Hotel, "WI120", 700_000)).Sent("Crisanto Umberfield", "2026-04-10")),
        ]);

    private static DemoReturn Quarter(int quarter, string nature, decimal receipts, int year = 2025) => new(
        year,
        DemoStage.Filled,
        [
            ("scope.status", "resident-citizen"), ("scope.joint", "no"), ("scope.business", "yes"), ("scope.compensation", "yes"), ("scope.foreign-tax", "no"), ("scope.late", "no"),
            .. PhilippinesBusiness(nature, "standard", receipts),
        ])
    {
        Definition = "ph/individual-quarterly",
        Period = Core.Definitions.Periods.Quarter(quarter),
    };

    private static DemoReturn List(int quarter, params DemoRow[] certificates) => List(2025, quarter, certificates);

    private static DemoReturn List(int year, int quarter, DemoRow[] certificates) => new(year, DemoStage.Filled, [("payee.vat-registered", "no")], certificates)
    {
        Definition = "ph/withholding-credits",
        Period = Core.Definitions.Periods.Quarter(quarter),
    };

    private static DemoRow Certificate((string Tin, string Name) payer, string code, decimal payment, decimal? withheld = null) => new(
        "list.rows",
        ("payor-tin", payer.Tin),
        ("payor", payer.Name),
        ("code", code),
        ("total", Text(payment)),
        ("withheld", Text(withheld ?? decimal.Round(payment * (code == "WI120" ? 0.02m : 0.05m), 2, MidpointRounding.AwayFromZero))),
        ("received", "yes"));

    private static (string, string)[] PhilippinesScope(params string[] yes)
    {
        string[] questions = ["joint", "compensation", "business", "special-rate", "losses", "foreign-tax", "late"];
        return [("scope.status", "resident-citizen"), .. questions.Select(q => ($"scope.{q}", yes.Contains(q) ? "yes" : "no"))];
    }

    private static (string, string)[] PhilippinesBusiness(string nature, string method, decimal receipts) =>
    [
        ("business.nature", nature), ("business.vat-registered", "no"), ("business.other-percentage-tax", "no"), ("business.partnership-only", "no"),
        ("business.method", method), ("business.elected", "yes"), ("business.services", Text(receipts)),
    ];

    private static DemoRow Compensation(string tin, string name, decimal gross, decimal benefits, decimal contributions, decimal taxable, decimal withheld) => new(
        "compensation.employers",
        ("tin", tin),
        ("name", name),
        ("gross", Text(gross)),
        ("benefits", Text(benefits)),
        ("contributions", Text(contributions)),
        ("taxable", Text(taxable)),
        ("withheld", Text(withheld)));
}
