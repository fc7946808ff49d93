namespace Aerarium.Server.Demo;

/// <summary>How far a demonstration return has come.</summary>
public enum DemoStage
{
    /// <summary>Nothing entered.</summary>
    Untouched,

    /// <summary>As entered, perhaps with errors.</summary>
    Filled,

    /// <summary>Handed over.</summary>
    Waiting,

    /// <summary>Approved and built.</summary>
    Approved,

    /// <summary>Sent; the stand-in answers.</summary>
    Sent,
}

/// <summary>A row of a repeating section: column and what is typed.</summary>
public sealed record DemoRow(string Section, params (string Column, string Typed)[] Cells);

/// <summary>A demonstration return.</summary>
public sealed record DemoReturn(int Year, DemoStage Stage, (string Line, string Typed)[] Entries, params DemoRow[] Rows)
{
    /// <summary>Country and return; null for the first of the client's country.</summary>
    public string? Definition { get; init; }

    /// <summary>Period of the year.</summary>
    public string Period { get; init; } = Core.Definitions.Periods.WholeYear;
}

/// <summary>A demonstration client. Everybody and everything here is made up. Of returns that feed one another, the one fed is named first.</summary>
public sealed record DemoClient(string Pin, string Name, string? Group, string BirthDate, string Route, params DemoReturn[] Returns)
{
    /// <summary>Country of the returns.</summary>
    public string Country { get; init; } = "ke";
}

/// <summary>The scenario of the demonstration: a practice by the sea and the people who work there.</summary>
public static class DemoReturns
{
    private static readonly (string Pin, string Name) Kelp = ("P051440218K", "Cinder Bay Kelp Growers Ltd");
    private static readonly (string Pin, string Name) Clock = ("P051007731T", "Tide Clock Works Ltd");
    private static readonly (string Pin, string Name) Glass = ("P051900417G", "Glasshouse Orchestra Trust");
    private static readonly (string Pin, string Name) Ferry = ("P051622095F", "Driftwood Ferry Line Ltd");
    private static readonly (string Pin, string Name) Kiln = ("P051310884U", "Umber Kiln Pottery Ltd");
    private static readonly (string Pin, string Name) Moth = ("P051775530M", "Moth Lantern Cinema Ltd");
    private static readonly (string Pin, string Name) Hive = ("P051288146H", "Ninth Hive Honey Couriers Ltd");

    private static readonly (string Tin, string Name) Theatre = ("00661020000000", "Salt Ladder Theatre Inc");
    private static readonly (string Tin, string Name) Hotel = ("00772030000000", "Nine Buoys Hotel Corp");
    private static readonly (string Tin, string Name) Books = ("00551230000000", "Coral Window Books Co");

    /// <summary>The clients with their returns.</summary>
    public static readonly IReadOnlyList<DemoClient> Clients =
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
        new("20100456100000", "Liwayway Brannock Dizon", "Pearl Inlet", "1987-02-14", "none",
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
            List(1, Certificate(Theatre, "WI010", 120_000), Certificate(Books, "WI010", 84_000.40m), Certificate(Hotel, "WI010", 75_999.60m)))
        {
            Country = "ph",
        },
        new("20100456200000", "Crisanto Umberfield", null, "1979-11-03", "none",
            new DemoReturn(2025, DemoStage.Sent,
                [
                    .. PhilippinesScope("business"), .. PhilippinesBusiness("Repair of boats", "eight", 1_850_000), ("balance.quarterly-paid", "96000"),
                    ("balance.withheld-quarters", "22000"), ("result.overpayment", "carry-over"),
                    ("declaration.true-and-complete", "yes"), ("declaration.name", "Crisanto Umberfield"), ("declaration.capacity", "taxpayer"), ("declaration.date", "2026-04-10"),
                ]),
            List(4, Certificate(Hotel, "WI120", 700_000)))
        {
            Country = "ph",
        },
    ];

    private static DemoReturn Quarter(int quarter, string nature, decimal receipts) => new(
        2025,
        DemoStage.Filled,
        [
            ("scope.status", "resident-citizen"), ("scope.joint", "no"), ("scope.business", "yes"), ("scope.compensation", "yes"), ("scope.foreign-tax", "no"), ("scope.late", "no"),
            .. PhilippinesBusiness(nature, "standard", receipts),
        ])
    {
        Definition = "ph/individual-quarterly",
        Period = Core.Definitions.Periods.Quarter(quarter),
    };

    private static DemoReturn List(int quarter, params DemoRow[] certificates) => new(2025, DemoStage.Filled, [("payee.vat-registered", "no")], certificates)
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

    private static (string, string)[] Scope(string employers, params string[] yes)
    {
        string[] questions =
        [
            "short-period", "other-income", "employer-car", "employer-housing", "retirement-outside-payroll", "mortgage", "medical-fund",
            "insurance", "other-tax-paid", "disability", "late",
        ];
        return
        [
            ("scope.resident", "yes"),
            ("scope.employers", employers),
            .. questions.Select(q => ($"scope.{q}", yes.Contains(q) ? "yes" : "no")),
        ];
    }

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

    private static (string, string)[] Declared(string name) =>
    [
        ("declaration.true-and-complete", "yes"),
        ("declaration.name", name),
        ("declaration.capacity", "taxpayer"),
        ("declaration.date", "2026-06-15"),
    ];

    private static DemoRow Employer((string Pin, string Name) employer, decimal basic, decimal retirement, decimal tax, params (string Column, string Typed)[] more)
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

    private static string Text(decimal amount) => Core.Formulas.Figures.Canonical(amount);
}
