using static Aerarium.Server.Demo.DemoReturns;

namespace Aerarium.Server.Demo;

/// <summary>Clients of the demonstration with returns of Kenya.</summary>
internal static class DemoKenya
{
    private static readonly (string Pin, string Name) Kelp = ("P051440218K", "Cinder Bay Kelp Growers Ltd");
    private static readonly (string Pin, string Name) Clock = ("P051007731T", "Tide Clock Works Ltd");
    private static readonly (string Pin, string Name) Glass = ("P051900417G", "Glasshouse Orchestra Trust");
    private static readonly (string Pin, string Name) Ferry = ("P051622095F", "Driftwood Ferry Line Ltd");
    private static readonly (string Pin, string Name) Kiln = ("P051310884U", "Umber Kiln Pottery Ltd");
    private static readonly (string Pin, string Name) Moth = ("P051775530M", "Moth Lantern Cinema Ltd");
    private static readonly (string Pin, string Name) Hive = ("P051288146H", "Ninth Hive Honey Couriers Ltd");

    /// <summary>The country.</summary>
    public static readonly DemoCountry Country = new(
        "ke",
        [("agent-pin", "P051999001R"), ("agent-name", "Lantern Reef Tax Practice"), ("contact-name", "Tarek Oyelaran"), ("contact-phone", "0700 555 010")],
        (client, common) => common with
        {
            Phone = $"07{client.Pin[2..10]}",
            PostalAddress = "Box 17, Lantern Reef",
            PayoutRoute = client.Route,
            PayoutBank = client.Route == "bank" ? "Harbour Lamp Bank" : null,
            PayoutBranch = client.Route == "bank" ? "Quay Street" : null,
            PayoutAccountName = client.Route == "bank" ? client.Name : null,
            PayoutAccountNumber = client.Route == "bank" ? $"440{client.Pin[3..10]}" : null,
            PayoutMobile = client.Route == "mobile" ? $"07{client.Pin[2..10]}" : null,
        },
        [
            new("A001100210N", "Njeri Halvorsen Oduya", "Halvorsen household", "1984-03-09", "bank",
                new(2024, DemoStage.Sent, [.. Scope("one", "mortgage"), .. Declared("Njeri Halvorsen Oduya"), ("deductions.one-home", "yes")],
                    Employer2024(Kelp, 1_560_000, 118_000, 262_000),
                    Loan(231_000)),
                new(2025, DemoStage.Filled,
                    [.. Scope("one", "mortgage", "employer-car", "insurance"), ("deductions.mortgage-months", "12")],
                    Employer(Kelp, 1_668_000, 130_000, 401_200, ("house-allowance", "180000"), ("total-on-certificate", "2448000")),
                    new DemoRow("employment.cars", ("registration-mark", "KMB 417Q"), ("arrangement", "owned"), ("body", "saloon"), ("engine-cc", "1800"), ("cost", "2500000"), ("months", "12")),
                    Loan(402_350),
                    Policy("life", "2019-05-01", 42_000))),
            new("A001100211P", "Per Halvorsen Oduya", "Halvorsen household", "1982-11-21", "mobile",
                new(2024, DemoStage.Sent, [.. Scope("one"), .. Declared("Per Halvorsen Oduya")], Employer2024(Ferry, 920_000, 24_840, 170_000)),
                new(2025, DemoStage.Filled, [.. Scope("one", "insurance"), .. Declared("Per Halvorsen Oduya")],
                    Employer(Ferry, 984_000, 49_680, 168_000),
                    Policy("health", "2021-02-01", 96_000))),
            new("A001100320T", "Tamsin Wekesa Quill", null, "1991-07-30", "mobile", new DemoReturn(2025, DemoStage.Untouched, [])),
            new("A001100430B", "Baraka Fenwick Otieno", null, "1979-01-17", "bank",
                new DemoReturn(2025, DemoStage.Waiting, [.. Scope("one", "insurance"), .. Declared("Baraka Fenwick Otieno")],
                    Employer(Glass, 1_440_000, 49_680, 307_336),
                    Policy("life", "2016-09-01", 24_000))),
            new("A001100540Z", "Zuri Lindgren Mwangi", "Lindgren and Marlowe", "1988-12-02", "bank",
                new DemoReturn(2025, DemoStage.Approved, [.. Scope("several"), .. Declared("Zuri Lindgren Mwangi")],
                    Employer(Clock, 780_000, 28_980, 141_480.60m, ("months", "7"), ("health-insurance", "21450"), ("housing-levy", "11700")),
                    Employer(Moth, 360_000, 20_700, 52_000, ("months", "5"), ("health-insurance", "9900"), ("housing-levy", "5400")))),
            new("A001100650J", "Idris Calloway Kamau", null, "1975-06-11", "bank",
                new DemoReturn(2025, DemoStage.Sent, [.. Scope("one"), .. Declared("Idris Calloway Kamau")], Employer(Kiln, 2_160_000, 129_600, 520_000))),
            new("A001100760A", "Amara Thistle Njoroge", null, "1993-02-26", "mobile",
                new DemoReturn(2025, DemoStage.Sent, [.. Scope("one", "medical-fund"), .. Declared("Amara Thistle Njoroge")],
                    Employer(Hive, 1_080_000, 49_680, 226_000),
                    new DemoRow("deductions.medical-funds", ("name", "Long Tide Medical Fund"), ("contributions", "60000")))),
            new("A001100870K", "Kofi Marlowe Wanjala", "Lindgren and Marlowe", "1986-08-14", "bank",
                new DemoReturn(2025, DemoStage.Sent, [.. Scope("one", "employer-housing"), .. Declared("Kofi Marlowe Wanjala")],
                    Employer(Kelp, 3_000_000, 240_000, 1_120_000,
                        ("bonus", "600000"), ("housing-class", "ordinary"), ("housing-arrangement", "lease"), ("rent-by-employer", "900000"),
                        ("rent-by-employee", "120000"), ("total-on-certificate", "4380000"), ("health-insurance", "99000"), ("housing-levy", "54000")))),
            new("A001100980E", "Esi Harrow Cheruiyot", null, "1968-10-05", "bank",
                new DemoReturn(2024, DemoStage.Filled,
                    [.. Scope("one", "late"), .. Declared("Esi Harrow Cheruiyot"), ("charges.filed-on", "2026-06-22"), ("charges.paid-on", "2026-06-22")],
                    Employer2024(Clock, 1_860_000, 24_840, 402_000))),
            new("A001101090J", "Jabali Penhallow", null, "1997-04-19", "mobile",
                new DemoReturn(2025, DemoStage.Filled, [.. Scope("several")],
                    Employer(Ferry, 640_000, 33_000, 120_800, ("months", "8"), ("pin", "P05162209F")),
                    new DemoRow("employment.employers", ("name", Moth.Name), ("months", "4"), ("basic-pay", "380000")))),
            new("A001101100N", "Nia Ostrander Mutua", null, "1990-05-23", "bank",
                new DemoReturn(2025, DemoStage.Filled,
                    [
                        .. Scope("one", "disability"), .. Declared("Nia Ostrander Mutua"), ("employment.disability-certificate", "EX-2024-00417"),
                        ("employment.disability-from", "2024-02-01"), ("employment.disability-to", "2027-01-31"),
                    ],
                    Employer(Glass, 2_600_000, 49_680, 240_000))),
            new("A001101210L", "Oluoch Brambleby", null, "1999-09-03", "mobile",
                new DemoReturn(2024, DemoStage.Sent, [.. Scope("one"), .. Declared("Oluoch Brambleby")], Employer2024(Hive, 690_000, 24_840, 118_000))),
        ]);

    /// <summary>The answers of Scope: yes to those named, no to the others.</summary>
    internal static (string, string)[] Scope(string employers, params string[] yes)
    {
        string[] questions =
        [
            "short-period", "other-income", "employer-car", "employer-housing", "employer-benefits", "retirement-outside-payroll", "mortgage", "medical-fund",
            "insurance", "other-tax-paid", "disability", "late",
        ];
        return
        [
            ("scope.resident", "yes"),
            ("scope.employers", employers),
            .. questions.Select(q => ($"scope.{q}", yes.Contains(q) ? "yes" : "no")),
        ];
    }

    /// <summary>An employer's certificate of 2025.</summary>
    internal static DemoRow Employer((string Pin, string Name) employer, decimal basic, decimal retirement, decimal tax, params (string Column, string Typed)[] more)
    {
        var cells = new Dictionary<string, string>
        {
            ["pin"] = employer.Pin,
            ["name"] = employer.Name,
            ["months"] = "12",
            ["basic-pay"] = Text(basic),
            ["total-on-certificate"] = Text(basic),
            ["retirement-contributions"] = Text(retirement),
            ["pensionable-pay"] = Text(basic),
            ["health-insurance"] = Text(decimal.Round(basic * 0.0275m, 2)),
            ["housing-levy"] = Text(decimal.Round(basic * 0.015m, 2)),
            ["tax-deducted"] = Text(tax),
        };
        foreach (var (column, typed) in more)
        {
            cells[column] = typed;
        }

        return new DemoRow("employment.employers", [.. cells.Select(c => (c.Key, c.Value))]);
    }

    private static DemoRow Employer2024((string Pin, string Name) employer, decimal basic, decimal retirement, decimal tax)
    {
        var month = basic / 12;
        return new DemoRow(
            "employment.employers",
            ("pin", employer.Pin),
            ("name", employer.Name),
            ("months", "12"),
            ("basic-pay", Text(basic)),
            ("total-on-certificate", Text(basic)),
            ("retirement-contributions", Text(retirement)),
            ("pensionable-pay", Text(basic)),
            ("health-insurance-before-december", Text(decimal.Round(month * 2 * 0.0275m, 2))),
            ("health-insurance-december", Text(decimal.Round(month * 0.0275m, 2))),
            ("housing-levy-before-december", Text(decimal.Round(month * 9 * 0.015m, 2))),
            ("housing-levy-december", Text(decimal.Round(month * 0.015m, 2))),
            ("tax-deducted", Text(tax)));
    }

    private static DemoRow Loan(decimal interest) => new(
        "deductions.loans",
        ("lender-pin", "P051118843L"),
        ("lender-name", "Lamplight Building Society"),
        ("account", "LB-440-2217"),
        ("loan-date", "2018-04-01"),
        ("purpose", "purchase"),
        ("interest", Text(interest)));

    private static DemoRow Policy(string kind, string commencement, decimal premium) => new(
        "tax.policies",
        ("insurer-pin", "P051664429S"),
        ("insurer-name", "Second Anchor Assurance Ltd"),
        ("policy-number", "SA-77120"),
        ("kind", kind),
        ("insured", "self"),
        ("commencement", commencement),
        ("premium", Text(premium)));
}
