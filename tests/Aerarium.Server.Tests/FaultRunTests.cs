using Aerarium.Core.Definitions;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Approval;
using Aerarium.Server.Returns;
using Aerarium.Server.Sending;
using Aerarium.StandIn;
using Aerarium.Storage;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>
/// Hundreds of sendings while server and authority are killed at random points, answers are lost and arrive twice: afterwards there is
/// exactly one filing for every return, and every receipt is there, signed.
/// </summary>
public class FaultRunTests
{
    private const int Returns = 150;
    private const int Blows = 11;
    private const int Seed = 20_260_618;

    private static T Service<T>(Practice practice)
        where T : notnull => practice.Server.Services.GetRequiredService<T>();

    [Fact]
    public async Task Every_return_is_filed_once_and_no_receipt_is_lost()
    {
        await using var practice = await Practice.StartAsync();
        var sent = Prepare(practice);
        var random = new Random(Seed);
        for (var blow = 0; blow < Blows; blow++)
        {
            (practice.Authority.Faults.ErrorPercent, practice.Authority.Faults.LatencyMs) = (random.Next(0, 15), random.Next(0, 10));
            await Task.Delay(random.Next(50, 900));
            practice.Authority.Faults.LoseNextAnswer = true;
            if (random.Next(3) == 0)
            {
                await practice.StopAuthorityAsync();
                await Task.Delay(random.Next(20, 300));
                await practice.RestartAuthorityAsync();
            }
            else
            {
                await practice.KillServerAsync();
                await practice.StartServerAsync();
            }
        }

        for (var tries = 0; Service<PracticeDatabase>(practice).Read(unit => sent.Count(id => Sendings.OfReturn(unit, id)[0].AnsweredAt is null)) > 0; tries++)
        {
            Assert.True(tries < 1_200, "Some sendings were never answered.");
            if (tries % 20 == 19)
            {
                ChaseAll(practice, sent);
            }

            await Task.Delay(100);
        }

        var arrived = practice.Authority.All.GroupBy(s => s.Key).ToDictionary(g => g.Key, g => g.ToList());
        Service<PracticeDatabase>(practice).Read(unit =>
        {
            foreach (var id in sent)
            {
                var sending = Assert.Single(Sendings.OfReturn(unit, id));
                var filing = Assert.Single(arrived[sending.IdempotencyKey]);
                var document = BuiltReturns.Find(unit, sending.BuiltId)!.EreturnSha256;
                var receipt = Artefacts.Get(unit, sending.ReceiptSha256!);
                using var signer = JsonSignature.Signer(sending.ReceiptSignature!, receipt);
                Assert.Equal((filing.Number, filing.Acknowledgement, filing.Sha256), (sending.Submission, sending.Acknowledgement, document));
                Assert.NotNull(signer);
                Assert.Single(Acts.OfReturn(unit, id), a => a.Kind is "accepted" or "rejected");
            }

            return true;
        });
        Assert.Equal(practice.Authority.All.Count(), practice.Authority.All.Select(s => s.Sha256).Distinct().Count());
        Assert.Null(Service<PracticeDatabase>(practice).Read(ActChain.FirstBroken));
    }

    /// <summary>Copies of a good return under clients of their own, approved, built and queued.</summary>
    private static List<long> Prepare(Practice practice)
    {
        var database = Service<PracticeDatabase>(practice);
        var (workbench, approval, building, desk) = (Service<Workbench>(practice), Service<ApprovalDesk>(practice), Service<EReturnBuilding>(practice), Service<SendingDesk>(practice));
        var people = database.Read(People.All).ToDictionary(p => p.Name, p => new Caller(p.Id, p.Name, p.RoleList));
        var (rukia, mosi) = (people["Rukia Tindall"], people["Mosi Lindqvist"]);
        var pattern = database.Read(unit => workbench.Open(unit, Storage.Returns.OfClient(unit, Storage.Clients.FindByIdentifier(unit, "ke", "A001100540Z")!.Id)[0].Id));
        var sent = Enumerable.Range(0, Returns).Select(n => database.Write(unit => Copy(unit, pattern, n))).ToList();
        foreach (var id in sent)
        {
            foreach (var finding in workbench.Refresh(id).Findings.Where(f => f.Severity == Severity.Warning))
            {
                database.Write(unit => Acceptances.Put(unit, id, new AcceptanceRecord(finding.Id, finding.Row ?? "", finding.Message, "Checked.", rukia.Name, "2026-06-18T08:00:00.000Z")));
            }

            workbench.Refresh(id);
            approval.HandOver(id, rukia);
            approval.Approve(id, mosi);
            building.BuildAsync(id, mosi, CancellationToken.None).GetAwaiter().GetResult();
            desk.Queue(id, mosi);
        }

        return sent;
    }

    private static long Copy(Unit unit, Workspace pattern, int number)
    {
        var pin = $"A{700_000_000 + number}{(char)('A' + (number % 26))}";
        var client = Storage.Clients.Add(unit, new ClientRecord { Country = "ke", Identifier = pin, Name = $"Fault Run {number}", BirthDate = "1980-01-01" });
        var id = Storage.Returns.Add(unit, pattern.Record with { ClientId = client, Stage = Stage.Open });
        foreach (var (section, rows) in pattern.Rows)
        {
            Storage.Returns.PutRows(unit, id, section, [], rows);
        }

        foreach (var entry in pattern.Entries.Values)
        {
            Storage.Returns.Put(unit, id, entry.Value == pattern.Evaluation.Value(pattern.Definition.LineOf("taxpayer.pin")) ? entry with { Value = pin } : entry);
        }

        return id;
    }

    private static void ChaseAll(Practice practice, List<long> sent)
    {
        var database = Service<PracticeDatabase>(practice);
        database.Write(unit =>
        {
            foreach (var open in sent.Select(id => Sendings.OfReturn(unit, id)[0]).Where(s => s.State is "queued" or "pending"))
            {
                Sendings.Change(unit, open with { NextAttemptAt = "2026-01-01T00:00:00.000Z" });
            }
        });
    }
}
