using static Aerarium.Server.Demo.DemoReturns;

namespace Aerarium.Server.Demo;

/// <summary>Clients of the demonstration with returns of Barbados.</summary>
internal static class DemoBarbados
{
    private static readonly string[] Questions =
    [
        "employment", "pension", "business", "investment", "foreign", "rental", "dues", "medical", "energy", "gifts", "agriculture", "culture", "domestic-worker", "pension-plan",
        "spouse", "children", "credits", "prepayments",
    ];

    /// <summary>The country.</summary>
    public static readonly DemoCountry Country = new(
        "bb",
        [
            ("agent-pin", "2000000000990"), ("agent-name", "Lantern Reef Tax Practice"), ("contact-name", "Tarek Oyelaran"), ("contact-phone", "246 555 0100"),
            ("declarant-capacity", "taxpayer"),
        ],
        (client, common) => common with
        {
            Phone = $"246{client.Pin[6..]}",
            PostalAddress = "4 Casuarina Row, Coral Bight",
            PayoutBank = "Coral Bight Savings Bank",
            PayoutBranch = "Harbour",
            PayoutAccountNumber = $"1100{client.Pin[8..]}",
            More = new Dictionary<string, string>
            {
                ["national-registration"] = $"{client.BirthDate[2..4]}{client.BirthDate[5..7]}{client.BirthDate[8..10]}0{client.Pin[10..]}",
                ["marital-status"] = client.Group is null ? "single" : "married",
                ["payout-account-kind"] = "savings",
            },
        },
        [
            // Works on the home go on from the first year into the second; a gift the charity reported is still to be taken.
            new("1000000000017", "Delphine Marchmont Oakhurst", "Oakhurst household", "1985-03-14", "bank",
                new(2025, DemoStage.Filled, [.. Scope("employment", "energy", "gifts"), ("deductions.gifts-allowed", "750")],
                    Employer("E40017", "Coral Bight Observatory", 96_400, 3_600, 12_150)),
                new(2024, DemoStage.Sent, [.. Scope("employment", "energy"), .. Declared("Delphine Marchmont Oakhurst", "2025-04-11"), ("deductions.energy-year", "1")],
                    Employer("E40017", "Coral Bight Observatory", 99_000, 0, 9_150),
                    new DemoRow("deductions.energy-works", ("supplier", "Bright Shutter Solar"), ("kind", "retrofit"), ("cost", "11500")))),
            // Two businesses, of which one makes a loss; a wife who earns too much for the allowance.
            new("1000000000025", "Cuthbert Oakhurst", "Oakhurst household", "1983-09-02", "bank",
                new DemoReturn(2025, DemoStage.Waiting,
                    [.. Scope("business", "dues", "prepayments"), .. Declared("Cuthbert Oakhurst")],
                    new DemoRow("business.businesses", ("description", "Flying fish, own boat"), ("kind", "fishing"), ("place", "Coral Bight jetty"), ("turnover", "88400")),
                    new DemoRow("business.businesses", ("description", "Boat painting"), ("kind", "trade"), ("place", "Coral Bight"), ("turnover", "9600")),
                    Expense("row-1", "bait-and-feed", 21_700), Expense("row-1", "repairs", 6_450.50m), Expense("row-1", "wages", 14_200),
                    Expense("row-2", "purchases", 7_900), Expense("row-2", "rent", 5_400),
                    new DemoRow("business.assets", ("of", "row-1"), ("description", "Boat 'Second Supper'"), ("bought", "2019-03-02"), ("cost", "64000")),
                    new DemoRow("deductions.dues", ("body", "Jetty Fisherfolk Association"), ("amount", "180")),
                    new DemoRow("balance.payments", ("kind", "prepayment"), ("date", "2025-09-15"), ("reference", "PR-25-0916"), ("amount", "900")))),
            // A pensioner above the age: the higher allowance, and a refund.
            new("1000000000033", "Ignatius Pellew", null, "1952-06-21", "bank",
                new DemoReturn(2025, DemoStage.Sent, [.. Scope("pension"), .. Declared("Ignatius Pellew")],
                    new DemoRow("pensions.pensions", ("payer", "Harbour Pilots' Pension Fund"), ("amount", "47000"), ("tax-deducted", "1000")))),
            // Pay above the band, a house let, dividends from abroad.
            new("1000000000041", "Sabine Thorogood", null, "1979-11-30", "bank",
                new DemoReturn(2025, DemoStage.Approved, [.. Scope("employment", "rental", "foreign"), .. Declared("Sabine Thorogood")],
                    Employer("E40231", "Trade Wind Print Works", 120_000, 0, 18_000),
                    new DemoRow("rental.properties", ("address", "2 Sugar Kiln Lane"), ("rent", "18000"), ("taxed", "14750")),
                    new DemoRow("rental.costs", ("of", "row-2"), ("class", "repairs"), ("amount", "2350")),
                    new DemoRow("rental.costs", ("of", "row-2"), ("class", "land-tax"), ("amount", "900")),
                    new DemoRow("foreign.items", ("country", "Canada"), ("kind", "dividend"), ("exchange-rate", "1.465"), ("amount", "1200"), ("tax", "180")))),
            // Little pay: nothing is due and a reverse credit may be; the name is not as registered, so the authority sends it back.
            new("1000000000058", "Errol Vandermeer", null, "1991-01-09", "bank",
                new DemoReturn(2025, DemoStage.Sent, [.. Scope("employment"), .. Declared("Errol Vandermeer")], Employer("E40017", "Coral Bight Observatory", 21_400, 0, 40))),
        ]);

    private static (string, string)[] Scope(params string[] yes) =>
        [("scope.resident", "yes"), ("scope.domiciled", "yes"), .. Questions.Select(q => ($"scope.{q}", yes.Contains(q) ? "yes" : "no"))];

    private static DemoRow Employer(string number, string name, decimal pay, decimal benefits, decimal tax) => new(
        "employment.employers", ("number", number), ("name", name), ("pay", Text(pay)), ("benefits", Text(benefits)), ("tax-deducted", Text(tax)));

    private static DemoRow Expense(string business, string kind, decimal amount) => new("business.expenses", ("of", business), ("class", kind), ("amount", Text(amount)));
}
