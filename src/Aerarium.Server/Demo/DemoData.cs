using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Approval;
using Aerarium.Server.Gathering;
using Aerarium.Server.Practice;
using Aerarium.Server.Returns;
using Aerarium.Server.Sending;
using Aerarium.Storage;
using Microsoft.AspNetCore.Identity;

namespace Aerarium.Server.Demo;

/// <summary>Fills an empty practice with the demonstration, through the same services people use.</summary>
public sealed class DemoData(
    PracticeDatabase database,
    SigningCertificate signing,
    IPasswordHasher<PersonRecord> hasher,
    DemoClock clock,
    Workbench workbench, Ties ties,
    AuthorityCredentials credentials,
    RegisteredParticulars registered,
    ReturnOpening opening,
    ApprovalDesk approval,
    EReturnBuilding building,
    SendingDesk sending,
    PlausibilityDesk plausibility)
{
    /// <summary>Who can sign in to the demonstration.</summary>
    public static readonly IReadOnlyList<DemoCredential> Credentials =
    [
        new("rukia@lanternreef.example", "kelp-and-ledger", "Rukia Tindall", Roles.Preparer),
        new("mosi@lanternreef.example", "tide-and-seal", "Mosi Lindqvist", Roles.Approver),
        new("pia@lanternreef.example", "reed-and-margin", "Pia Okello-Rand", Roles.Preparer),
        new("tarek@lanternreef.example", "buoy-and-calendar", "Tarek Oyelaran", Roles.Manager),
        new("ines@lanternreef.example", "lamp-and-keyring", "Ines Marchetti", Roles.Administrator),
        new("noor@lanternreef.example", "glass-and-window", "Noor Abara", Roles.Reader),
    ];

    /// <summary>Fills the practice unless it has been set up already.</summary>
    public void SeedOnce()
    {
        if (database.Read(Practices.Find) is not null)
        {
            return;
        }

        var now = Moments.Text(clock.GetUtcNow());
        var practice = signing.Make("Lantern Reef Tax Practice", now);
        var people = database.Write(unit =>
        {
            Practices.Add(unit, practice);
            foreach (var (country, name, value) in DemoReturns.Countries.Concat(DemoReturns.SeasonCountries).SelectMany(c => c.Practice.Select(p => (c.Country, p.Name, p.Value))))
            {
                PracticeParticulars.Put(unit, country, name, value);
            }

            return Credentials.Select(c => new Caller(
                People.Add(unit, c.Email, c.Name, hasher.HashPassword(null!, c.Password), [c.Role]), c.Name, [c.Role])).ToList();
        });
        foreach (var country in Catalogue.Countries.Keys)
        {
            database.Write(unit => credentials.Change(unit, country, "lantern-reef", "reef-demo-secret", people[3]));
        }

        foreach (var (country, client) in DemoReturns.Countries.SelectMany(c => c.Clients.Select(client => (c, client))))
        {
            Add(country, client, preparer: people[0], approver: people[1]);
        }

        AddCompanyAndFamily(people[0], people[1]);
    }

    /// <summary>Adds the rest of the season, once.</summary>
    public void AddSeasonOnce()
    {
        var people = database.Read(People.All).Where(p => p.Active == 1).Select(p => new Caller(p.Id, p.Name, p.RoleList)).ToList();
        var preparers = people.Where(p => p.Roles.Contains(Roles.Preparer)).ToList();
        foreach (var (client, number) in DemoSeason.Clients.Select((client, number) => (client, number)))
        {
            if (database.Read(unit => Storage.Clients.FindByIdentifier(unit, DemoKenya.Country.Country, client.Pin)) is null)
            {
                // Opened some weeks ago and filed since, so that the season's charts have something to show.
                var (preparer, approver, opened) = (preparers[number % preparers.Count], people.First(p => p.Roles.Contains(Roles.Approver)), 4 + (number * 13 % 71));
                var filled = clock.DaysAgo(opened, () => AddReturns(DemoKenya.Country, client, AddClient(DemoKenya.Country, client, preparer), preparer));
                clock.DaysAgo(opened / 4, () => Advance(filled, preparer, approver));
            }
        }

        AddFamiliesOnce();
        var liwayway = database.Read(unit => Storage.Clients.FindByIdentifier(unit, DemoPhilippines.Country.Country, DemoPhilippines.Liwayway)!);
        if (database.Read(unit => Storage.Returns.OfClient(unit, liwayway.Id)).All(r => r.Year < 2026))
        {
            FileInTime(liwayway, preparers[0], people.First(p => p.Roles.Contains(Roles.Approver)));
        }
    }

    /// <summary>What the client of the Philippines owed for the quarters that are over was declared and sent; her annual return and the quarter that runs are still open.</summary>
    private void FileInTime(ClientRecord client, Caller preparer, Caller approver)
    {
        var demo = DemoPhilippines.Country.Clients.First(c => c.Pin == DemoPhilippines.Liwayway) with { Returns = [.. DemoPhilippines.OfThisYear] };
        clock.DaysAgo(40, () => AddReturns(DemoPhilippines.Country, demo, client.Id, preparer));
        foreach (var item in database.Read(unit => Storage.Returns.OfClient(unit, client.Id)).Where(r => r is { Stage: Stage.Open } && r.Period.Length > 0 && (r.Year < 2026 || r.Period == Periods.Quarter(1)))
            .OrderBy(r => r.Year).ThenBy(r => r.Period, StringComparer.Ordinal).ThenByDescending(r => r.Definition, StringComparer.Ordinal))
        {
            workbench.Edit(item.Id, preparer, [.. Changes(DemoPhilippines.Declared(item.Definition, client.Name))], Origin.Typed, null);
            ties.Spread(item.Id, preparer);
            Advance(item.Id, DemoStage.Sent, preparer, approver);
        }
    }

    /// <summary>Adds the families of the season's countries, once.</summary>
    public void AddFamiliesOnce()
    {
        var people = database.Read(People.All).Where(p => p.Active == 1).Select(p => new Caller(p.Id, p.Name, p.RoleList)).ToList();
        var preparers = people.Where(p => p.Roles.Contains(Roles.Preparer)).ToList();
        foreach (var (country, number) in DemoReturns.SeasonCountries.Select((country, number) => (country, number)))
        {
            if (database.Read(unit => Storage.Clients.FindByIdentifier(unit, country.Country, country.Clients[0].Pin)) is null)
            {
                AddFamilies(country, preparers[number % preparers.Count], people.First(p => p.Roles.Contains(Roles.Approver)));
            }
        }
    }

    /// <summary>Clients whose returns feed one another: everybody is there and related before the first return is opened, and all are filled before the first is handed over.</summary>
    private void AddFamilies(DemoCountry country, Caller preparer, Caller approver)
    {
        var ids = country.Clients.ToDictionary(c => c.Pin, c => AddClient(country, c, preparer));
        database.Write(unit =>
        {
            foreach (var (pin, kind, of) in country.Relations)
            {
                Relations.Add(unit, new RelationRecord { ClientId = ids[pin], Kind = kind, OfId = ids[of] });
            }
        });
        Advance([.. country.Clients.SelectMany(client => AddReturns(country, client, ids[client.Pin], preparer))], preparer, approver);
    }

    private void Add(DemoCountry country, DemoClient client, Caller preparer, Caller approver) =>
        Advance(AddReturns(country, client, AddClient(country, client, preparer), preparer), preparer, approver);

    private long AddClient(DemoCountry country, DemoClient client, Caller preparer) => database.Write(unit =>
    {
        var added = Storage.Clients.Add(unit, Record(country, client));
        Acts.Add(unit, preparer.Act("add-client", clock.GetUtcNow()) with { ClientId = added, After = $"{client.Pin} {client.Name}" });
        Consents.Put(unit, new ConsentRecord(added, "2026-04-01", client.Name, preparer.Name, Moments.Text(clock.GetUtcNow())));
        return added;
    });

    /// <summary>Opens and fills a client's returns, the oldest first.</summary>
    private List<(long Id, DemoStage Stage)> AddReturns(DemoCountry country, DemoClient client, long id, Caller preparer)
    {
        var opened = client.Returns.Select(item =>
        {
            var definition = item.Definition ?? Catalogue.Countries[country.Country].Returns[0].Id;
            var one = opening.Open(id, new OpenReturn(definition, item.Year, "original", item.Period), preparer);
            registered.VerifyAsync(one, preparer, CancellationToken.None).GetAwaiter().GetResult();
            return (Id: one, Item: item);
        }).ToList();
        var filled = Enumerable.Reverse(opened).Where(o => o.Item.Stage != DemoStage.Untouched).ToList();
        foreach (var (one, item) in filled)
        {
            workbench.Edit(one, preparer, [.. Changes(item)], Origin.Typed, null);
            ties.Spread(one, preparer);
        }

        return [.. filled.Select(o => (o.Id, o.Item.Stage))];
    }

    private int Advance(List<(long Id, DemoStage Stage)> filled, Caller preparer, Caller approver)
    {
        foreach (var (one, stage) in filled)
        {
            Advance(one, stage, preparer, approver);
        }

        return filled.Count;
    }

    private void Advance(long id, DemoStage stage, Caller preparer, Caller approver)
    {
        if (stage == DemoStage.Filled)
        {
            return;
        }

        foreach (var finding in workbench.OpenTied(id).Findings.Where(f => f.Severity == Severity.Warning))
        {
            database.Write(unit => Acceptances.Put(unit, id, new AcceptanceRecord(
                finding.Id, finding.Row ?? "", finding.Message, "Checked against the certificate and discussed with the client.", preparer.Name, Moments.Text(clock.GetUtcNow()))));
        }

        workbench.Refresh(id);
        approval.HandOver(id, preparer);
        if (stage == DemoStage.Waiting)
        {
            return;
        }

        approval.Approve(id, approver);
        if (!Catalogue.TypeOf(workbench.Open(id).Record.Definition).IsFiled)
        {
            return;
        }

        building.BuildAsync(id, approver, CancellationToken.None).GetAwaiter().GetResult();
        if (stage == DemoStage.Sent)
        {
            plausibility.CheckWhereAskedForAsync(id, approver, CancellationToken.None).GetAwaiter().GetResult();
            sending.Queue(id, approver);
        }
    }

    /// <summary>A company one of the clients directs, a couple, what a return of theirs reminds of, and a remark of the approver.</summary>
    private void AddCompanyAndFamily(Caller preparer, Caller approver)
    {
        database.Write(unit =>
        {
            long Of(string pin) => Storage.Clients.FindByIdentifier(unit, "ke", pin)!.Id;
            var (njeri, per) = (Of("A001100210N"), Of("A001100211P"));
            var company = Storage.Clients.Add(unit, new ClientRecord
            {
                Country = "ke",
                Kind = ClientKinds.Company,
                Identifier = "P051440777S",
                Name = "Halvorsen Sail Lofts Ltd",
                ClientGroup = "Halvorsen household",
                YearEnd = "12-31",
                Email = "sails@post.example",
                PostalAddress = "Box 17, Lantern Reef",
                More = new Dictionary<string, string> { ["registration-number"] = "CPR/2017/004410" },
            });
            Acts.Add(unit, preparer.Act("add-client", clock.GetUtcNow()) with { ClientId = company, After = "P051440777S Halvorsen Sail Lofts Ltd" });
            Relations.Add(unit, new RelationRecord { ClientId = njeri, Kind = "spouse", OfId = per });
            Relations.Add(unit, new RelationRecord { ClientId = njeri, Kind = "director", OfId = company });
            long OfBarbados(string number) => Storage.Clients.FindByIdentifier(unit, "bb", number)!.Id;
            Relations.Add(unit, new RelationRecord { ClientId = OfBarbados("1000000000017"), Kind = "spouse", OfId = OfBarbados("1000000000025") });
            var asked = Storage.Clients.FindByIdentifier(unit, "ph", "20100456100000")!.Id;
            Remarks.Add(unit, Storage.Returns.OfClient(unit, asked).First(r => r.Definition == "ph/individual-annual").Id, new RemarkRecord
            {
                Line = "business.services",
                Words = "The three quarters show 890,000. Does the fourth quarter's ledger really hold 350,000?",
                PersonId = approver.Id,
                PersonName = approver.Name,
                At = Moments.Text(clock.GetUtcNow()),
            });
            Reminders.Add(unit, new ReminderRecord
            {
                ReturnId = Storage.Returns.OfClient(unit, njeri)[0].Id,
                PersonId = preparer.Id,
                OnDay = "2026-06-17",
                Words = "ask for the lender's certificate of 2025",
                MadeBy = preparer.Name,
            });
        });
    }

    private static IEnumerable<EntryChange> Changes(DemoReturn item)
    {
        foreach (var (line, typed) in item.Entries)
        {
            yield return new EntryChange(ChangeKind.Set, line, null, null, null, typed, 0);
        }

        for (var index = 0; index < item.Rows.Length; index++)
        {
            var row = $"row-{index + 1}";
            yield return new EntryChange(ChangeKind.AddRow, null, row, item.Rows[index].Section, null, null, 0);
            foreach (var (column, typed) in item.Rows[index].Cells)
            {
                yield return new EntryChange(ChangeKind.Set, $"{item.Rows[index].Section}.{column}", row, null, null, typed, 0);
            }
        }
    }

    private static ClientRecord Record(DemoCountry country, DemoClient client)
    {
        var mailbox = string.Concat(client.Name.ToLowerInvariant().Where(char.IsAsciiLetter));
        return country.Particulars(client, new ClientRecord
        {
            Country = country.Country,
            Identifier = client.Pin,
            Name = client.Name,
            ClientGroup = client.Group,
            BirthDate = client.BirthDate.Length == 0 ? null : client.BirthDate,
            Email = $"{mailbox}@post.example",
        });
    }
}
