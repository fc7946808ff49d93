using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Countries.Kenya.EmploymentIncome;
using Aerarium.Server.Access;
using Aerarium.Server.Approval;
using Aerarium.Server.Clients;
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
    TimeProvider clock,
    Workbench workbench,
    ReturnOpening opening,
    ApprovalDesk approval,
    EReturnBuilding building,
    SendingDesk sending)
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
        var practice = signing.Make("Lantern Reef Tax Practice", "P051999001R", now);
        var people = database.Write(unit =>
        {
            Practices.Add(unit, practice);
            return Credentials.Select(c => new Caller(
                People.Add(unit, c.Email, c.Name, hasher.HashPassword(null!, c.Password), [c.Role]), c.Name, [c.Role])).ToList();
        });
        foreach (var client in DemoReturns.Clients)
        {
            Add(client, preparer: people[0], approver: people[1]);
        }
    }

    private void Add(DemoClient client, Caller preparer, Caller approver)
    {
        var id = database.Write(unit =>
        {
            var added = Storage.Clients.Add(unit, Record(client));
            Acts.Add(unit, preparer.Act("add-client", clock.GetUtcNow()) with { ClientId = added, After = $"{client.Pin} {client.Name}" });
            return added;
        });
        foreach (var item in client.Returns)
        {
            var opened = opening.Open(id, new OpenReturn(EmploymentIncomeReturn.ReturnId, item.Year, "original"), preparer);
            if (item.Stage != DemoStage.Untouched)
            {
                workbench.Edit(opened, preparer, [.. Changes(item)], Origin.Typed, null);
                Advance(opened, item.Stage, preparer, approver);
            }
        }
    }

    private void Advance(long id, DemoStage stage, Caller preparer, Caller approver)
    {
        if (stage == DemoStage.Filled)
        {
            return;
        }

        foreach (var finding in workbench.Open(id).Findings.Where(f => f.Severity == Severity.Warning))
        {
            database.Write(unit => Acceptances.Put(unit, id, new AcceptanceRecord(
                finding.Id, finding.Row ?? "", finding.Message, "Held against the certificate and discussed with the client.", preparer.Name, Moments.Text(clock.GetUtcNow()))));
        }

        workbench.Forget(id);
        var accepted = workbench.Open(id);
        database.Write(unit => Storage.Returns.KeepSummary(unit, id, accepted.Record.Revision, accepted.Record.Balance, accepted.Errors, accepted.OpenWarnings, true));
        approval.HandOver(id, preparer);
        if (stage == DemoStage.Waiting)
        {
            return;
        }

        approval.Approve(id, approver);
        building.BuildAsync(id, approver, CancellationToken.None).GetAwaiter().GetResult();
        if (stage == DemoStage.Sent)
        {
            sending.Queue(id, approver);
        }
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

    private static ClientRecord Record(DemoClient client)
    {
        var mailbox = string.Concat(client.Name.ToLowerInvariant().Where(char.IsAsciiLetter));
        return new ClientRecord
        {
            Country = "ke",
            Identifier = client.Pin,
            Name = client.Name,
            ClientGroup = client.Group,
            BirthDate = client.BirthDate,
            Email = $"{mailbox}@post.example",
            Phone = $"07{client.Pin[2..10]}",
            PostalAddress = "Box 17, Lantern Reef",
            PayoutRoute = client.Route,
            PayoutBank = client.Route == "bank" ? "Harbour Lamp Bank" : null,
            PayoutBranch = client.Route == "bank" ? "Quay Street" : null,
            PayoutAccountName = client.Route == "bank" ? client.Name : null,
            PayoutAccountNumber = client.Route == "bank" ? $"440{client.Pin[3..10]}" : null,
            PayoutMobile = client.Route == "mobile" ? $"07{client.Pin[2..10]}" : null,
        };
    }
}
