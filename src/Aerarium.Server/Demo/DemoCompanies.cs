using Aerarium.Storage;
using static Aerarium.Server.Demo.DemoReturns;

namespace Aerarium.Server.Demo;

/// <summary>
/// Companies of the demonstration, in Canada: a boatyard with establishments in two provinces whose period ends in June, its return accepted federally and rejected by Alberta; an associated sailmaker
/// with a loss, in work; and a publisher in its first period, waiting for approval.
/// </summary>
internal static class DemoCompanies
{
    private const string Boatworks = "712045012";
    private const string Rigging = "712046028";
    private const string Press = "813300779";

    private static readonly string[] Questions =
        ["final", "associated", "special", "bc", "ab", "on", "elsewhere", "depreciable", "investments", "capital-gains", "dividends-paid", "gifts", "losses", "instalments", "foreign-property"];

    /// <summary>The companies; the accounts of a period come before the returns that follow them.</summary>
    public static readonly DemoCountry Country = new(
        "ca",
        [("agent-address", "1 Lantern Reef Pier, Kelp Landing"), ("filer-type", "accountant")],
        (client, common) => common with
        {
            Kind = ClientKinds.Company,
            YearEnd = client.Pin == Boatworks ? "06-30" : "12-31",
            Phone = $"604555{client.Pin[5..]}",
            PostalAddress = client.Pin switch { Boatworks => "4 Slipway Lane, Tern Island", Rigging => "12 Loft Street, Foothill Bend", _ => "88 Inkwell Row, Maple Sound" },
            PayoutBank = "Foghorn Credit Union",
            PayoutAccountNumber = $"10020809{client.Pin[2..]}",
            More = new Dictionary<string, string>
            {
                ["corporation-account"] = $"{client.Pin}RC0001",
                ["alberta-account"] = client.Pin switch { Boatworks => "2004561239", Rigging => "2007813350", _ => "" },
                ["corporation-type"] = "ccpc",
                ["incorporated-on"] = client.Pin == Press ? "2025-03-10" : "2016-05-02",
                ["activity"] = client.Pin switch { Boatworks => "336612", Rigging => "314910", _ => "513130" },
                ["product"] = client.Pin switch { Boatworks => "Hull repairs", Rigging => "Sails and rigging", _ => "Puzzle books" },
                ["language"] = "english",
                ["officer-name"] = client.Pin switch { Boatworks => "Isla Penhallow", Rigging => "Corin Penhallow", _ => "Wren Ostrander" },
                ["officer-position"] = "President",
                ["officer-phone"] = $"604 555 {client.Pin[5..]}",
                ["contact-name"] = client.Pin switch { Boatworks => "Bo Larkspur", Rigging => "", _ => "Wren Ostrander" },
                ["contact-title"] = client.Pin switch { Boatworks => "Bookkeeper", Rigging => "", _ => "President" },
                ["contact-phone"] = client.Pin == Rigging ? "" : $"604 555 {client.Pin[5..]}",
            }.Where(m => m.Value.Length > 0).ToDictionary(),
        },
        [
            new(Boatworks, "Tern Island Boatworks Ltd", "Penhallow companies", "", "bank",
                new DemoReturn(2025, DemoStage.Sent, [.. Certified("Isla Penhallow"), ("scope.depreciation-differs", "no"), ("scope.others-differ", "no"), ("scope.gifts", "yes"), .. Alberta, ("company.account", "2004561238"), ("tax.claim-small", "yes")])
                {
                    Definition = Countries.Canada.CompanyAlberta.AlbertaReturn.ReturnId,
                },
                new DemoReturn(2025, DemoStage.Sent,
                    [
                        .. Answers("bc", "ab", "associated", "depreciable", "dividends-paid", "gifts", "instalments"), ("dividends.paid-eligible", "0"), ("dividends.paid-other", "12000"), ("gifts.of-year", "1500"),
                        ("group.capital", "248000"), ("group.percent", "75"), .. Allocation(518_000, 231_502, 184_000, 78_480), .. Certified("Isla Penhallow"), .. Authorised, ("tax.claim-small", "yes"),
                    ],
                    Instalment("2024-12-31", 8_500), Instalment("2025-06-30", 6_500)) { Definition = Countries.Canada.Company.CompanyReturn.ReturnId },
                new DemoReturn(2025, DemoStage.Approved,
                    [("scope.first", "no"), ("scope.assurance", "compilation"), ("scope.accountant", "Lantern Reef Tax Practice")],
                    [
                        .. Books(
                            ("1010", "Current account, harbour branch", 118_535.73m, "1001"), ("1200", "Trade receivables", 122_310.50m, "1060"), ("1300", "Timber and resin in stock", 52_640, "1120"), ("1520", "Slipway crane and tools", 262_400, "2008"),
                            ("1529", "Slipway crane and tools, amortisation", -96_933.33m, "2009"), ("2100", "Trade payables", -84_771.38m, "2620"), ("2300", "Income tax payable", -6_500, "2680"), ("2500", "Loan from the shareholder", -20_000, "2780"),
                            ("2600", "Slipway loan", -128_000, "3140"), ("3100", "Shares", -100, "3500"), ("3200", "Retained earnings, opening", -90_105.45m, "3660"), ("3300", "Dividends", 12_000, "3700"), ("4000", "Hull repairs", -711_082, "8000"),
                            ("4410", "Mooring hire, seasonal", -38_420, "8230"), ("5000", "Stock at the beginning", 48_880, "8300"), ("5100", "Timber and resin", 204_556.19m, "8320"), ("5190", "Stock at the end", -52_640, "8500"), ("6000", "Wages", 262_480.75m, "9060"),
                            ("6100", "Amortisation", 24_933.33m, "8670"), ("6110", "Insurance", 13_240, "8690"), ("6120", "Interest on the slipway loan", 8_610, "8710"), ("6130", "Office", 6_655.20m, "8810"), ("6140", "Bookkeeper and accountant", 8_100, "8860"),
                            ("6150", "Rent of the quay", 37_200, "8910"), ("6160", "Meals with customers", 3_880, "8523"), ("6173", "Drone survey", 4_150, "8860"), ("6180", "Festival sponsorship", 2_000, "8521"), ("6190", "Repairs", 12_870.44m, "8960"),
                            ("6200", "Water and power", 15_110.02m, "9220"), ("6210", "Gifts", 1_500, "8522"), ("9900", "Income tax", 6_500, "9990")),
                        new DemoRow("trial-balance.shares", ("account", "row-27"), ("item", "8523"), ("percent", "40")),
                        Asset("2", "Band saw", "8", "2025-02-10", 22_400),
                        new DemoRow("adjustments.entries", ("number", "1"), ("reason", "Survey of May invoiced in July"), ("date", "2025-06-30")),
                        new DemoRow("adjustments.lines", ("of", "row-34"), ("account", "row-26"), ("debit", "850")), new DemoRow("adjustments.lines", ("of", "row-34"), ("account", "row-6"), ("credit", "850")),
                    ]) { Definition = Countries.Canada.Accounts.AccountsReturn.ReturnId },
                new DemoReturn(2024, DemoStage.Sent, [.. Certified("Isla Penhallow", "2024-12-10"), ("scope.depreciation-differs", "no"), ("scope.others-differ", "no"), ("scope.gifts", "no"), .. Alberta, ("balance.taxable-before", "61000"), ("tax.claim-small", "yes"), ("scope.instalments", "yes")], Instalment("2024-06-30", 500))
                {
                    Definition = Countries.Canada.CompanyAlberta.AlbertaReturn.ReturnId,
                },
                new DemoReturn(2024, DemoStage.Sent,
                    [
                        .. Answers("bc", "ab", "associated", "depreciable", "instalments"), ("group.capital", "251000"), ("group.percent", "80"), ("group.capital-before", "243000"), ("group.investment-before", "0"), .. Allocation(448_000, 195_500, 175_000, 73_600),
                        ("balance.taxable-before", "61000"), ("balance.limit-before", "500000"), ("balance.small-before", "61000"), ("balance.tax-before", "5490"), ("pools.general-opening", "0"), .. Certified("Isla Penhallow", "2024-12-10"), .. Authorised, ("tax.claim-small", "yes"),
                    ],
                    new DemoRow("depreciation.classes", ("class", "8"), ("opening", "160000"), ("left", "yes")), Instalment("2024-06-30", 8_200)) { Definition = Countries.Canada.Company.CompanyReturn.ReturnId },
                new DemoReturn(2024, DemoStage.Approved,
                    [("scope.first", "no"), ("scope.begin", "2023-07-01"), ("scope.end", "2024-06-30"), ("scope.assurance", "compilation"), ("scope.accountant", "Lantern Reef Tax Practice")],
                    [
                        .. Books(
                            ("1010", "Current account, harbour branch", 41_230.55m, "1001"), ("1200", "Trade receivables", 97_115, "1060"), ("1300", "Timber and resin in stock", 48_880, "1120"), ("1520", "Slipway crane and tools", 240_000, "2008"),
                            ("1529", "Slipway crane and tools, amortisation", -72_000, "2009"), ("2100", "Trade payables", -90_402.10m, "2620"), ("2300", "Income tax payable", -4_618, "2680"), ("2500", "Loan from the shareholder", -20_000, "2780"),
                            ("2600", "Slipway loan", -150_000, "3140"), ("3100", "Shares", -100, "3500"), ("3200", "Retained earnings, opening", -9_930.40m, "3660"), ("4000", "Hull repairs", -640_300, "8000"), ("4410", "Mooring hire, seasonal", -3_200, "8230"),
                            ("5000", "Stock at the beginning", 44_500, "8300"), ("5100", "Timber and resin", 188_041, "8320"), ("5190", "Stock at the end", -48_880, "8500"), ("6000", "Wages", 248_600, "9060"), ("6100", "Amortisation", 24_000, "8670"),
                            ("6110", "Insurance", 12_480.20m, "8690"), ("6120", "Interest on the slipway loan", 9_800, "8710"), ("6130", "Office", 6_120.35m, "8810"), ("6140", "Bookkeeper and accountant", 7_400, "8860"), ("6150", "Rent of the quay", 36_000, "8910"),
                            ("6160", "Meals with customers", 2_980, "8523"), ("6170", "Advertising", 3_411, "8521"), ("6190", "Repairs", 10_233, "8960"), ("6200", "Water and power", 14_021.40m, "9220"), ("9900", "Income tax", 4_618, "9990")),
                        new DemoRow("assets.register", ("number", "1"), ("description", "Slipway crane"), ("class", "8"), ("acquired", "2021-07-01"), ("cost", "240000"), ("from-related", "no"), ("method", "straight-line"), ("rate", "10"), ("opening", "48000")),
                    ]) { Definition = Countries.Canada.Accounts.AccountsReturn.ReturnId }),
            // Nobody is named as contact person yet, which Alberta's authority asks for; one account goes nowhere.
            new(Rigging, "Penhallow Sails and Rigging Ltd", "Penhallow companies", "", "bank",
                new DemoReturn(2025, DemoStage.Filled, [("scope.depreciation-differs", "yes"), ("scope.others-differ", "no"), ("scope.gifts", "no"), .. Alberta]) { Definition = Countries.Canada.CompanyAlberta.AlbertaReturn.ReturnId },
                new DemoReturn(2025, DemoStage.Filled,
                    [
                        .. Answers("ab", "associated", "depreciable", "losses"), ("scope.first", "no"), ("group.capital", "61000"), ("group.percent", "25"), ("group.capital-before", "58000"), ("group.investment-before", "0"),
                        ("scope.end-before", "2024-12-31"), ("losses.tax-of-three-years", "7400"), ("tax.claim-small", "yes"),
                    ],
                    new DemoRow("depreciation.classes", ("class", "8"), ("opening", "18400"), ("left", "yes")), new DemoRow("depreciation.classes", ("class", "50"), ("opening", "2100"), ("left", "yes")),
                    new DemoRow("losses.non-capital", ("year", "2023"), ("amount", "21300"))) { Definition = Countries.Canada.Company.CompanyReturn.ReturnId },
                new DemoReturn(2025, DemoStage.Filled,
                    [("scope.first", "no"), ("scope.begin", "2025-01-01"), ("scope.end", "2025-12-31"), ("scope.assurance", "none")],
                    [
                        .. Books(
                            ("100", "Bank", 14_220.15m, "1001"), ("110", "Customers", 22_410, "1060"), ("120", "Sailcloth", 31_870, "1120"), ("150", "Sewing machines", 46_000, "2008"), ("159", "Sewing machines, amortised", -27_600, "2009"),
                            ("200", "Suppliers", -29_115.40m, "2620"), ("250", "Shareholder", -35_000, "2780"), ("300", "Shares", -100, "3500"), ("310", "Retained", -41_930.25m, "3660"), ("400", "Sails sold", -188_400, "8000"), ("500", "Cloth and rope", 96_212.50m, "8320"),
                            ("600", "Wages", 84_700, "9060"), ("610", "Amortisation", 4_600, "8670"), ("620", "Rent", 15_600, "8910"), ("630", "Meals", 1_120, "8523"), ("640", "Office", 3_870, "8810"), ("650", "Drone survey", 1_543, null)),
                    ]) { Definition = Countries.Canada.Accounts.AccountsReturn.ReturnId }),
            new(Press, "Puffin Puzzle Press Ltd", null, "", "bank",
                new DemoReturn(2025, DemoStage.Waiting,
                    [.. Answers("on", "depreciable"), ("group.capital", "22000"), .. Certified("Wren Ostrander"), .. Authorised, ("tax.claim-small", "yes")], new DemoRow("depreciation.classes", ("class", "50"), ("left", "yes")))
                {
                    Definition = Countries.Canada.Company.CompanyReturn.ReturnId,
                },
                new DemoReturn(2025, DemoStage.Approved,
                    [("scope.first", "yes"), ("scope.begin", "2025-03-10"), ("scope.end", "2025-12-31"), ("scope.assurance", "none")],
                    [
                        .. Books(
                            ("1000", "Bank", 27_406.80m, "1001"), ("1100", "Bookshops", 9_312.50m, "1060"), ("1500", "Computers", 6_240, "2008"), ("1590", "Computers, amortised", -1_733.16m, "2009"), ("2000", "Printer", -7_418.25m, "2620"),
                            ("2500", "Shareholder", -15_000, "2780"), ("3000", "Shares", -100, "3500"), ("4000", "Books sold", -64_980, "8000"), ("5000", "Printing", 21_640.20m, "8320"), ("6000", "Illustrators", 15_300, "9060"), ("6100", "Rent", 5_400, "8910"),
                            ("6200", "Amortisation", 1_733.16m, "8670"), ("6300", "Advertising", 2_198.75m, "8521")),
                        Asset("1", "Two drawing computers", "50", "2025-03-20", 6_240, "33.33"),
                    ]) { Definition = Countries.Canada.Accounts.AccountsReturn.ReturnId }),
        ])
    {
        Relations = [(Boatworks, "associated", Rigging)],
    };

    private static (string, string)[] Authorised => [("declaration.authorised", "yes"), ("declaration.authorised-on", "2026-06-12")];

    private static (string, string)[] Alberta =>
        [("scope.establishment", "yes"), ("scope.federal-filed", "yes"), ("scope.losses", "no"), ("scope.third-party", "yes"), ("scope.instalments", "no"), ("company.kind", "original")];

    private static (string, string)[] Answers(params string[] yes) =>
    [
        ("scope.ccpc", "yes"), ("scope.resident", "yes"), ("company.kind", "original"), ("scope.associated-last-year", "no"), .. Questions.Select(q => ($"scope.{q}", yes.Contains(q) ? "yes" : "no")),
    ];

    private static (string, string)[] Certified(string name, string day = "2026-06-12") =>
        [("declaration.true-and-complete", "yes"), ("declaration.name", name), ("declaration.capacity", "officer"), ("declaration.date", day)];

    private static (string, string)[] Allocation(decimal bcRevenue, decimal abRevenue, decimal bcSalaries, decimal abSalaries) =>
        [("allocation.revenue-bc", Text(bcRevenue)), ("allocation.revenue-ab", Text(abRevenue)), ("allocation.salaries-bc", Text(bcSalaries)), ("allocation.salaries-ab", Text(abSalaries))];

    private static DemoRow Instalment(string day, decimal amount) => new("balance.instalments", ("date", day), ("amount", Text(amount)));

    private static DemoRow Asset(string number, string what, string of, string day, decimal cost, string rate = "10") => new(
        "assets.register", ("number", number), ("description", what), ("class", of), ("acquired", day), ("cost", Text(cost)), ("from-related", "no"), ("method", "straight-line"), ("rate", rate));

    private static DemoRow[] Books(params (string Number, string Name, decimal Balance, string? Item)[] accounts) =>
    [
        .. accounts.Select(a => new DemoRow(
            "trial-balance.accounts", [("number", a.Number), ("name", a.Name), a.Balance < 0 ? ("credit", Text(-a.Balance)) : ("debit", Text(a.Balance)), .. a.Item is { } item ? new (string, string)[] { ("item", item) } : []])),
    ];
}
