using static Aerarium.Server.Demo.DemoReturns;

namespace Aerarium.Server.Demo;

/// <summary>
/// Clients of the demonstration with returns of Germany: a couple with two jobs and a child, a commuter who moved, a student with a first job, somebody with parental allowance, and
/// somebody who gave more than a fifth of the income.
/// </summary>
internal static class DemoGermany
{
    private const string Annegret = "67013432591";
    private const string Jorin = "46981023056";

    private static readonly string[] Questions =
    [
        "commuting", "home-office", "tools", "travel", "second-household", "moved", "benefits", "children", "donations", "maintenance", "first-training", "own-insurance", "subsidised-pension", "burdens", "household-work",
        "capital", "other-income", "prepayments",
    ];

    private static readonly string[] OfSpouse = ["spouse-employed", "spouse-commuting", "spouse-home-office", "spouse-tools", "spouse-travel", "spouse-second-household", "spouse-moved", "spouse-benefits"];

    private static readonly Dictionary<string, string> Accounts = new()
    {
        [Annegret] = "DE06999000000000000011",
        ["89213670484"] = "DE97999000000000000022",
        ["50639421709"] = "DE91999000000000000033",
        ["26533109470"] = "DE85999000000000000044",
        ["92677031546"] = "DE79999000000000000055",
    };

    /// <summary>The country.</summary>
    public static readonly DemoCountry Country = new(
        "de",
        [
            ("agent-pin", "4711000990"), ("agent-name", "Lantern Reef Tax Practice"), ("contact-name", "Tarek Oyelaran"), ("contact-phone", "0431 555 0100"), ("declarant-capacity", "adviser"),
        ],
        (client, common) => common with
        {
            Phone = $"0431{client.Pin[4..]}",
            PostalAddress = client.Group is null ? $"{client.Pin[8..].TrimStart('0')} Driftwood Lane, Seal Bank" : "7 Lighthouse Dyke, Seal Bank",
            PayoutAccountNumber = Accounts[client.Pin],
            More = new Dictionary<string, string>
            {
                ["tax-number"] = client.Name.StartsWith("Lale", StringComparison.Ordinal) ? "" : $"21{client.Pin[..2]}0{client.Pin[3..]}",
                ["tax-office"] = "Seal Bank",
                ["state"] = "sh",
                ["marital-status"] = client.Group is null ? "single" : "married",
                ["religion"] = client.Pin is Annegret or Jorin ? "ev" : "none",
            }.Where(m => m.Value.Length > 0).ToDictionary(),
        },
        [
            // Two jobs and a child: the allowances are compared with child benefit, joint assessment with two returns.
            new(Annegret, "Annegret Wattlander", "Wattlander household", "1986-04-12", "bank",
                new DemoReturn(2025, DemoStage.Waiting,
                    [
                        .. Scope("commuting", "home-office", "children", "donations", "household-work", "own-insurance"), ("scope.joint", "yes"), .. OfSpouse.Select(q => ($"scope.{q}", q is "spouse-employed" or "spouse-commuting" ? "yes" : "no")),
                        ("taxpayer.spouse-number", Jorin), ("taxpayer.spouse-name", "Jorin Wattlander"), ("taxpayer.spouse-birth-date", "1984-11-30"), ("taxpayer.spouse-religion", "ev"),
                        .. Insured(""), .. Insured("-spouse"), ("work-costs.home-office-days", "60"), ("work-costs.leave", "34"), ("work-costs-spouse.leave", "31"), .. Declared("Annegret Wattlander"),
                    ],
                    Wages("", "Sandbar Optics", "4", 58_400, 9_212.40m, 829.11m), Wages("-spouse", "Seal Bank Carpentry", "4", 34_200, 3_051.60m, 274.64m),
                    Way("", "Sandbar Optics", 150, "34", "34"), Way("-spouse", "Workshop", 205, "6", "0"),
                    new DemoRow("children.children", ("name", "Mette Wattlander"), ("number", "64085138929"), ("born", "2017-05-20"), ("months", "12"), ("half", "no"), ("care", "1800")),
                    new DemoRow("special.gifts", ("recipient", "Sea Rescue of Seal Bank"), ("kind", "charity"), ("amount", "240"), ("proof", "statement")),
                    new DemoRow("provident.policies", ("kind", "liability"), ("insurer", "Dyke Mutual"), ("amount", "96")),
                    new DemoRow("household.work", ("kind", "craftsman"), ("payee", "Reed Roofers"), ("date", "2025-08-14"), ("total", "4650"), ("labour", "2980"), ("account", "yes")))),
            // Moved for a new job in the summer: removal, a long way before, home office since.
            new("89213670484", "Tjorven Brackwater", null, "1993-09-02", "bank",
                new DemoReturn(2025, DemoStage.Filled,
                    [
                        .. Scope("commuting", "home-office", "moved", "tools"), .. Insured(""), ("work-costs.home-office-days", "72"), ("work-costs.leave", "30"), ("work-costs.moved-on", "2025-06-27"),
                        ("work-costs.moved-own-dwelling", "yes"), ("work-costs.moved-costs", "1840"),
                    ],
                    Wages("", "Tidal Gauge Works", "1", 23_600, 3_190.20m, 0, "2025-01-01", "2025-06-30"), Wages("", "Harbour Software", "1", 29_900, 4_812.66m, 0, "2025-07-01", "2025-12-31"),
                    Way("", "Tidal Gauge Works", 98, "61", "61"), Way("", "Harbour Software", 41, "4", "0"),
                    new DemoRow("work-costs.tools", ("what", "Portable computer"), ("bought", "2025-07-03"), ("net", "1260.50"), ("gross", "1500"), ("share", "60"), ("life", "1")),
                    new DemoRow("work-costs.costs", ("class", "account-fee"), ("amount", "16")))),
            // A first job beside the degree: nothing is compulsory, everything comes back.
            new("50639421709", "Lale Sommerdeich", null, "2003-01-17", "bank",
                new DemoReturn(2025, DemoStage.Sent, [.. Scope(), ("scope.first-return", "yes"), .. Insured(""), .. Declared("Lale Sommerdeich")],
                    Wages("", "Gull and Kettle Café", "1", 13_950, 214.08m, 0))),
            // Half a year of work, half a year of parental allowance: compulsory, at a higher rate.
            new("26533109470", "Mareike Prielosten", null, "1990-07-08", "bank",
                new DemoReturn(2025, DemoStage.Approved, [.. Scope("benefits"), .. Insured(""), .. Declared("Mareike Prielosten")],
                    Wages("", "Mudflat Institute", "1", 26_400, 3_402.12m, 0, "2025-01-01", "2025-06-30"),
                    new DemoRow("wages.benefits", ("kind", "parental"), ("payer", "Benefit office of Seal Bank"), ("from", "2025-07-01"), ("until", "2025-12-31"), ("amount", "7980")))),
            // Ways to work on more days than the authority counts without a diary, so that the notice departs; a donation above a fifth of the income, of which the rest goes on into this year.
            new("92677031546", "Bendix Hallighus", null, "1974-12-21", "bank",
                new(2025, DemoStage.Filled, [.. Scope("donations"), .. Insured("")], Wages("", "Dune Hydraulics", "1", 81_700, 18_903.33m, 0)),
                new(2024, DemoStage.Sent, [.. Scope("commuting", "donations"), .. Insured(""), ("work-costs.leave", "29"), .. Declared("Bendix Hallighus")], Wages("", "Dune Hydraulics", "1", 78_200, 17_655.12m, 0, "2024-01-01", "2024-12-31"),
                    Way("", "Dune Hydraulics", 212, "34", "34"),
                    new DemoRow("special.gifts", ("recipient", "Halligen Library Fund"), ("kind", "charity"), ("amount", "18000"), ("proof", "receipt")))),
        ]);

    private static (string, string)[] Scope(params string[] yes) =>
    [
        ("scope.resident", "yes"), ("scope.advised", "yes"), ("scope.first-return", "no"), ("scope.employed", "yes"), .. Questions.Select(q => ($"scope.{q}", yes.Contains(q) ? "yes" : "no")),
    ];

    private static (string, string)[] Insured(string whose) => [($"provident{whose}.sickness-pay", "yes"), ($"provident{whose}.subsidised", "yes")];

    /// <summary>A wage statement; contributions are about what they are in the year, to the cent of nobody's.</summary>
    private static DemoRow Wages(string whose, string employer, string @class, decimal gross, decimal tax, decimal church, string from = "2025-01-01", string until = "2025-12-31") => new(
        $"wages{whose}.statements", ("employer", employer), ("from", from), ("until", until), ("class", @class), ("gross", Text(gross)), ("wage-tax", Text(tax)), ("church-tax", Text(church)),
        ("employer-pension", Text(decimal.Round(gross * 0.093m, 2))), ("employee-pension", Text(decimal.Round(gross * 0.093m, 2))), ("health", Text(decimal.Round(gross * 0.0855m, 2))), ("care", Text(decimal.Round(gross * 0.024m, 2))), ("unemployment", Text(decimal.Round(gross * 0.013m, 2))));

    private static DemoRow Way(string whose, string place, int days, string distance, string byCar) =>
        new($"work-costs{whose}.ways", ("place", place), ("days", Text(days)), ("distance", distance), ("by-car", byCar));
}
