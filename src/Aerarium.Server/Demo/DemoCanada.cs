using static Aerarium.Server.Demo.DemoReturns;

namespace Aerarium.Server.Demo;

/// <summary>
/// Clients of the demonstration with returns of Canada: a family of four in British Columbia with a student, a retired couple in Ontario, an employee in Alberta who sold a home
/// that was let for some years, and a couple of whom one is self-employed, approved and ready to be sent together.
/// </summary>
internal static class DemoCanada
{
    private const string Ottoline = "046000378";
    private const string Bram = "046000741";
    private const string Fern = "046001111";
    private const string Percival = "046001483";
    private const string Odette = "046001855";
    private const string Casimir = "046002598";
    private const string Anselma = "046004073";

    private static readonly string[] Questions =
    [
        "dependants", "employment", "pension", "benefits", "investment", "gains", "home", "business", "rental", "other-income", "retirement", "home-savings", "work-costs", "child-care", "carrying", "losses",
        "first-return", "moved", "authority-interest", "disability", "student", "student-transfer", "medical", "gifts", "political", "other-amounts", "instalments", "foreign-property",
    ];

    /// <summary>The country; those fed by others come after them.</summary>
    public static readonly DemoCountry Country = new(
        "ca",
        [
            ("agent-pin", "700000458"), ("agent-name", "Lantern Reef Tax Practice"), ("contact-name", "Tarek Oyelaran"), ("contact-phone", "604 555 0100"),
            ("declarant-capacity", "taxpayer"),
        ],
        (client, common) => common with
        {
            Phone = $"604555{client.Pin[5..]}",
            PostalAddress = client.Group switch
            {
                "Quillfeather household" => "11 Foghorn Terrace, Kelp Landing",
                "Marrowby household" => "11 Foghorn Terrace, Maple Sound",
                "Threlkeld household" => "598 Driftglass Road, Kelp Landing",
                _ => $"{client.Pin[6..]} Driftglass Road, Kelp Landing",
            },
            PayoutBank = "Foghorn Credit Union",
            PayoutAccountNumber = $"10020809{client.Pin[2..]}",
            More = new Dictionary<string, string>
            {
                ["province"] = client.Group switch { "Quillfeather household" => "bc", "Marrowby household" => "on", _ => client.Pin == "046002226" ? "ab" : "on" },
                ["postal-code"] = client.Group switch { "Quillfeather household" => "V8W1A4", "Marrowby household" => "K1A2B3", _ => client.Pin == "046002226" ? "T2P3C5" : "M5V2H1" },
                ["marital-status"] = client.Group is null || client.Pin == Fern ? "single" : "married",
                ["language"] = "english",
                ["citizen"] = "yes",
            },
        },
        [
            // The student: little tax of her own, so that tuition is left for a parent, federal and provincial each its own amount.
            new(Fern, "Fern Quillfeather", "Quillfeather household", "2005-02-03", "bank",
                new DemoReturn(2025, DemoStage.Filled,
                    [
                        .. Scope("bc", spouse: false, "employment", "student"), ("tuition.designee", "parent"), ("tuition.designee-name", "Ottoline Quillfeather"), ("tuition.designee-sin", Ottoline),
                        ("tuition.designation-signed", "yes"), ("bc.rents", "no"),
                    ],
                    Slip("Pelican Street Bookshop", "bc", 14_000, 624.75m, 0, 229.60m, 610),
                    new DemoRow("tuition.slips", ("institution", "Kelp Landing College"), ("student", Fern), ("fees", "9400"), ("months-full", "8")))),
            // The lower income of the parents; the medical receipts would give more here.
            new(Bram, "Bram Quillfeather", "Quillfeather household", "1979-08-19", "bank",
                new DemoReturn(2025, DemoStage.Filled,
                    [.. Scope("bc", spouse: true, "employment", "gifts"), ("family.claim-spouse", "no"), ("gifts.how", "all"), ("bc.rents", "no"), .. Authorised("Bram Quillfeather")],
                    Slip("Tidepool Nursery School", "bc", 41_250, 2_246.13m, 0, 676.50m, 4_100),
                    new DemoRow("gifts.gifts", ("charity", "Heron Rescue Society"), ("number", "SIM-C-0101"), ("date", "2025-11-02"), ("amount", "650"))),
                new DemoReturn(2024, DemoStage.Sent,
                    [.. Scope("bc", spouse: true, "employment"), ("family.claim-spouse", "no"), ("bc.rents", "no"), ("taxpayer.spouse-net-income", "83107"), .. Authorised("Bram Quillfeather", "2025-04-14")],
                    Slip("Tidepool Nursery School", "bc", 38_900, 2_106.30m, 0, 645.74m, 3_900))),
            new(Ottoline, "Ottoline Quillfeather", "Quillfeather household", "1977-03-30", "bank",
                new DemoReturn(2025, DemoStage.Filled,
                    [
                        .. Scope("bc", spouse: true, "employment", "dependants", "medical", "gifts", "retirement", "student-transfer"), ("family.claim-spouse", "no"), ("gifts.how", "all"), ("bc.rents", "no"),
                        ("retirement.limit-stated", "17200"), ("retirement.contributions-year", "4500"), ("retirement.contributions-early", "3000"), ("retirement.how", "all"),
                    ],
                    Slip("Lighthouse Instruments Ltd", "bc", 96_400, 4_034.10m, 396, 1_077.48m, 16_700),
                    new DemoRow("family.dependants", ("name", "Jory Quillfeather"), ("relation", "child"), ("birth-date", "2016-07-01"), ("lives-here", "yes"), ("net-income", "0")),
                    Receipt("2025-01-20", "child", "Orthodontist, Jory", 1_650), Receipt("2025-03-14", "self", "Dentist", 420), Receipt("2025-06-02", "spouse", "Physiotherapy", 640),
                    Receipt("2025-08-29", "self", "Glasses", 510), Receipt("2025-11-18", "child", "Orthodontist, Jory", 1_090),
                    new DemoRow("gifts.gifts", ("charity", "Coastal Search and Rescue"), ("number", "SIM-C-0102"), ("date", "2025-12-05"), ("amount", "1200"))),
                new DemoReturn(2024, DemoStage.Sent,
                    [
                        .. Scope("bc", spouse: true, "employment", "retirement"), ("family.claim-spouse", "no"), ("bc.rents", "no"), ("taxpayer.spouse-net-income", "38546"), ("retirement.limit-stated", "14100"),
                        ("retirement.contributions-year", "5000"), ("retirement.how", "all"), .. Authorised("Ottoline Quillfeather", "2025-04-14"),
                    ],
                    Slip("Lighthouse Instruments Ltd", "bc", 88_900, 3_867.50m, 188, 1_049.12m, 15_900))),
            // A retired couple: one large pension that half of could go to the other.
            new(Odette, "Odette Marrowby", "Marrowby household", "1952-10-11", "bank",
                new DemoReturn(2025, DemoStage.Filled,
                    [.. Scope("on", spouse: true, "pension"), ("family.claim-spouse", "no"), ("benefits.old-age", "8790"), ("benefits.public-plan", "5240"), .. Authorised("Odette Marrowby")])),
            new(Percival, "Percival Marrowby", "Marrowby household", "1949-05-24", "bank",
                new DemoReturn(2025, DemoStage.Filled,
                    [
                        .. Scope("on", spouse: true, "pension", "gifts"), ("family.claim-spouse", "yes"), ("benefits.old-age", "8790"), ("benefits.public-plan", "15180"), ("benefits.public-plan-tax", "1500"),
                        ("gifts.how", "all"),
                    ],
                    new DemoRow("benefits.pensions", ("payer", "Harbour Pilots' Pension Fund"), ("kind", "plan"), ("amount", "62400"), ("tax", "12800")),
                    new DemoRow("gifts.gifts", ("charity", "Maple Sound Library Friends"), ("number", "SIM-C-0103"), ("date", "2025-09-09"), ("amount", "900")))),
            // A home lived in for seven of eleven years and let for the others; last year's return is accepted.
            new("046002226", "Linnea Starling-Voss", null, "1984-12-02", "bank",
                new DemoReturn(2025, DemoStage.Waiting,
                    [.. Scope("ab", spouse: false, "employment", "home"), .. Authorised("Linnea Starling-Voss")],
                    Slip("Ninth Meridian Mapping Ltd", "ab", 88_000, 4_034.10m, 396, 1_077.48m, 26_900),
                    new DemoRow("home.homes", ("address", "7 Larkspur Close, Foothill Bend"), ("bought", "2015-05-01"), ("sold", "2025-08-15"), ("resident-when-bought", "yes"), ("designation", "2"),
                        ("years-let", "4"), ("proceeds", "612000"), ("cost", "398000"), ("improvements", "14000"), ("outlays", "25500")),
                    new DemoRow("home.lived", ("of", "row-2"), ("from", "2015"), ("to", "2021")), new DemoRow("home.years", ("of", "row-2"), ("from", "2015"), ("to", "2021"))),
                new DemoReturn(2024, DemoStage.Sent,
                    [.. Scope("ab", spouse: false, "employment"), .. Authorised("Linnea Starling-Voss", "2025-04-11")],
                    Slip("Ninth Meridian Mapping Ltd", "ab", 84_500, 3_867.50m, 188, 1_049.12m, 18_800))),
            // One of them self-employed: both are due on 15 June, three days late; approved, to be sent together.
            new(Casimir, "Casimir Threlkeld", "Threlkeld household", "1990-06-06", "bank",
                new DemoReturn(2025, DemoStage.Approved,
                    [.. Scope("on", spouse: true, "business", "instalments"), ("family.claim-spouse", "no"), ("taxpayer.spouse-net-income", "51577"), .. Authorised("Casimir Threlkeld")],
                    new DemoRow("business.businesses", ("description", "Piano tuning and repair"), ("industry", "811490"), ("place", "on"), ("gross", "91350")),
                    new DemoRow("business.expenses", ("of", "row-1"), ("class", "vehicle"), ("amount", "8120")), new DemoRow("business.expenses", ("of", "row-1"), ("class", "goods"), ("amount", "5980")),
                    new DemoRow("business.expenses", ("of", "row-1"), ("class", "meals"), ("amount", "640")),
                    new DemoRow("balance.instalments", ("date", "2025-09-15"), ("amount", "9000")), new DemoRow("balance.instalments", ("date", "2025-12-15"), ("amount", "9000")))),
            new(Anselma, "Anselma Threlkeld", "Threlkeld household", "1991-09-17", "bank",
                new DemoReturn(2025, DemoStage.Approved,
                    [.. Scope("on", spouse: true, "employment"), ("family.claim-spouse", "no"), ("scope.spouse-in-business", "yes"), .. Authorised("Anselma Threlkeld")],
                    Slip("Heron Quay Ceramics", "on", 52_000, 2_885.75m, 0, 852.80m, 7_650))),
        ])
    {
        Relations = [(Ottoline, "spouse", Bram), (Fern, "child", Ottoline), (Fern, "child", Bram), (Percival, "spouse", Odette), (Casimir, "spouse", Anselma)],
    };

    private static (string, string)[] Scope(string province, bool spouse, params string[] yes) =>
    [
        ("scope.province", province), ("scope.resident", "yes"), ("scope.spouse", spouse ? "yes" : "no"), .. spouse ? [("scope.spouse-in-business", "no")] : Array.Empty<(string, string)>(),
        .. Questions.Select(q => ($"scope.{q}", yes.Contains(q) ? "yes" : "no")),
    ];

    private static (string, string)[] Authorised(string name, string day = "2026-06-15") =>
        [.. Declared(name, day), ("declaration.authorised", "yes"), ("declaration.authorised-on", day), ("declaration.authorised-by", "pen")];

    private static DemoRow Slip(string employer, string place, decimal income, decimal plan, decimal second, decimal premiums, decimal tax) => new(
        "employment.slips",
        ("payer", employer), ("place", place), ("income", Text(income)), ("tax", Text(tax)), ("plan", Text(plan)), ("second", Text(second)), ("premiums", Text(premiums)),
        ("insurable", Text(Math.Min(income, 65_700))), ("pensionable", Text(Math.Min(income, 81_200))));

    private static DemoRow Receipt(string day, string person, string what, decimal amount) =>
        new("medical.receipts", ("date", day), ("person", person), ("what", what), ("amount", Text(amount)));
}
