using System.Globalization;
using Aerarium.Core.Identifiers;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Demo;

/// <summary>
/// A crowd of made-up clients for trying the product at scale: every return is a copy of a return of the demonstration
/// under another client, so that what lists show is what opening it computes.
/// </summary>
public sealed class DemoCrowd(PracticeDatabase database, TimeProvider clock, Workbench workbench)
{
    private const string Crowd = "ke";
    private const int AtOnce = 500;
    private const int ActsPerReturn = 10;
    private const int MostPatterns = 40;

    private static readonly string[] First = ["Abeni", "Brisa", "Cato", "Dalia", "Ebbe", "Fenna", "Goran", "Halima", "Ilse", "Juno", "Kesi", "Lumo", "Mirela", "Naledi", "Orla", "Petra"];
    private static readonly string[] Middle = ["Ash", "Briar", "Clove", "Dune", "Ember", "Fern", "Gale", "Heath", "Isle", "Jasper", "Kite", "Lark"];
    private static readonly string[] Last = ["Anchorsmith", "Bellwether", "Coralhand", "Driftway", "Eddystone", "Foghorn", "Gullwing", "Harbourne", "Islegate", "Jettyman", "Keelson", "Lampwright", "Moorings"];

    /// <summary>Adds clients with two years each until the practice has this many returns.</summary>
    public void FillUpTo(int returns)
    {
        var (present, people) = database.Read(unit => (
            DeskLists.Ids(unit, new DeskQuery { List = "all" }, new Reach(0, SeesAll: true), "", int.MaxValue),
            People.All(unit).Where(p => p.RoleList.Any(Policies.RolesByPolicy[Policies.Prepare].Contains)).ToList()));
        if (present.Count >= returns)
        {
            return;
        }

        // Those made by hand come first; what the crowd added before is no pattern.
        var patterns = present.Order().Take(MostPatterns).Select(workbench.Open).Where(w => w.Record.Stage == Stage.Open && Catalogue.CountryOf(w.Record.Definition) == Crowd).OrderBy(w => w.Record.Id).ToList();
        var number = present.Count;
        while (number < returns)
        {
            var from = number;
            database.Write(unit =>
            {
                for (; number < returns && number < from + AtOnce; number += 2)
                {
                    Add(unit, number, patterns, people[number / 2 % people.Count].Id);
                }
            });
        }
    }

    private void Add(Unit unit, int number, List<Workspace> patterns, long holderId)
    {
        var n = number / 2;
        var name = $"{First[n % First.Length]} {Middle[n / First.Length % Middle.Length]} {Last[n / 7 % Last.Length]}";
        var client = new ClientRecord
        {
            Country = Crowd,
            Identifier = string.Create(CultureInfo.InvariantCulture, $"A{500_000_000 + n:000000000}{(char)('A' + (n % 26))}"),
            Name = name,
            ClientGroup = n % 3 == 0 ? $"{Last[n / 7 % Last.Length]} household {n / 39 + 1}" : null,
            BirthDate = new DateOnly(1950 + (n % 50), 1 + (n % 12), 1 + (n % 28)).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        };
        var clientId = Storage.Clients.Add(unit, client);
        foreach (var year in new[] { 2024, 2025 })
        {
            var ofYear = patterns.Where(p => p.Record.Year == year).ToList();
            Copy(unit, ofYear[n % ofYear.Count], client with { Id = clientId }, holderId);
        }
    }

    private void Copy(Unit unit, Workspace pattern, ClientRecord client, long holderId)
    {
        var at = Moments.Text(clock.GetUtcNow());
        var id = Storage.Returns.Add(unit, pattern.Record with { ClientId = client.Id, HolderId = holderId, OpenedAt = at });
        foreach (var (section, rows) in pattern.Rows)
        {
            Storage.Returns.PutRows(unit, id, section, [], rows);
        }

        foreach (var entry in pattern.Entries.Values)
        {
            var followed = pattern.Definition.FindLine(entry.Line)?.ClientParticular;
            var value = entry.Origin != "client" ? entry.Value : followed is "return-kind" ? "original" : followed is "prior-acknowledgement" ? null : client.Particular(followed!);
            Storage.Returns.Put(unit, id, entry with { Value = value, ChangedBy = holderId, ChangedAt = at });
        }

        // The Ledger tells of some of it; its last act carries the seal over all.
        var typed = Storage.Returns.Entries(unit, id).Take(ActsPerReturn).ToList();
        foreach (var (entry, number) in typed.Select((entry, number) => (entry, number)))
        {
            Acts.Add(unit, new ActRecord
            {
                At = at,
                PersonId = holderId,
                PersonName = People.Find(unit, holderId)!.Name,
                Kind = "entry",
                ReturnId = id,
                ClientId = client.Id,
                Line = entry.Line,
                Row = entry.Row.Length == 0 ? null : entry.Row,
                After = entry.Value,
                Seal = number == typed.Count - 1 ? EntrySeal.OfStored(unit, id).ToString() : null,
            });
        }

        var copy = Workspace.Load(unit, Storage.Returns.Find(unit, id)!, pattern.Definition, pattern.Today, source => workbench.Open(unit, source.Id));
        Storage.Returns.KeepSummary(unit, id, copy.Summary with { Revision = pattern.Record.Revision }, pattern.Record.Started == 1);
    }
}
