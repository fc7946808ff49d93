using System.Globalization;

namespace Aerarium.Server.Demo;

/// <summary>
/// The rest of the practice's season, for looking at: clients of many trades with one return each, most of them filed in time. Tests do without them.
/// </summary>
internal static class DemoSeason
{
    private static readonly string[] First =
    [
        "Abeni", "Brisa", "Cato", "Dalia", "Ebbe", "Fenna", "Goran", "Halima", "Ilse", "Juno", "Kesi", "Lumo", "Mirela", "Naledi", "Orla", "Petra", "Quill", "Ravi", "Sunniva", "Timo", "Ursa", "Viggo", "Wren", "Yara",
    ];

    private static readonly string[] Last =
    [
        "Anchorsmith", "Bellwether", "Coralhand", "Driftway", "Eddystone", "Foghorn", "Gullwing", "Harbourne", "Islegate", "Jettyman", "Keelson", "Lampwright", "Moorings", "Netherby", "Oarlock", "Pierpoint",
        "Quayle Marsh", "Riggs", "Saltash", "Tidewell", "Underhull", "Vane", "Wharfinger", "Yardarm",
    ];

    /// <summary>Whom they work for: a trade for each.</summary>
    private static readonly (string Pin, string Name)[] Employers =
    [
        ("P052100101A", "Saltmarsh Surveyors Ltd"), ("P052100202B", "Blue Hour Bakery Ltd"), ("P052100303C", "Gannet Air Freight Ltd"), ("P052100404D", "Reedbed Nursing Home Trust"),
        ("P052100505E", "Lodestone Quarry Ltd"), ("P052100606F", "Paper Heron Printers Ltd"), ("P052100707G", "Cistern Row School"), ("P052100808H", "Second Tide Software Ltd"),
        ("P052100909J", "Harrow and Thimble Tailors Ltd"), ("P052101010K", "Ebb Street Veterinary Clinic"), ("P052101111L", "Brass Buoy Hotel Ltd"), ("P052101212M", "Windrow Tea Growers Ltd"),
    ];

    private static readonly string[] Groups = ["Anchorsmith household", "Tidewell Partners", "Harbourne family"];

    /// <summary>How far each has come: most accepted, some under way, two not begun.</summary>
    private static readonly DemoStage[] Stages =
    [
        DemoStage.Sent, DemoStage.Sent, DemoStage.Filled, DemoStage.Sent, DemoStage.Waiting, DemoStage.Sent, DemoStage.Sent, DemoStage.Approved, DemoStage.Sent, DemoStage.Untouched, DemoStage.Sent, DemoStage.Filled,
        DemoStage.Sent, DemoStage.Sent, DemoStage.Waiting, DemoStage.Sent, DemoStage.Sent, DemoStage.Filled, DemoStage.Sent, DemoStage.Approved, DemoStage.Sent, DemoStage.Untouched, DemoStage.Sent, DemoStage.Sent,
    ];

    /// <summary>The clients, as a country adds them.</summary>
    public static IEnumerable<DemoClient> Clients => Enumerable.Range(0, First.Length).Select(n =>
    {
        var name = $"{First[n]} {Last[n]}";
        var pay = 540_000m + (n * 7 % 23 * 96_000m);
        var (stage, employer) = (Stages[n], Employers[n % Employers.Length]);
        var born = new DateOnly(1961 + (n * 7 % 40), 1 + (n * 5 % 12), 1 + (n * 11 % 28)).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        return new DemoClient(
            string.Create(CultureInfo.InvariantCulture, $"A0022{10_010 + (n * 37):00000}{(char)('A' + n)}"),
            name,
            n % 4 == 0 ? Groups[n / 4 % Groups.Length] : null,
            born,
            n % 3 == 0 ? "mobile" : "bank",
            stage == DemoStage.Untouched
                ? new DemoReturn(2025, stage, [])
                : new DemoReturn(
                    2025,
                    stage,
                    [.. DemoKenya.Scope("one"), .. stage == DemoStage.Filled ? [] : DemoReturns.Declared(name)],
                    DemoKenya.Employer(employer, pay, 49_680, decimal.Round(TaxAbout(pay)))));
    });

    /// <summary>About what an employer would have deducted, to the hundred, a little more for some and a little less for others.</summary>
    private static decimal TaxAbout(decimal pay) => decimal.Floor(((pay * 0.29m) - 78_000m + (pay % 7 * 900m)) / 100) * 100;
}
