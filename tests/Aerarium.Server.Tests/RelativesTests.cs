using Aerarium.Server.Returns;
using Aerarium.Storage;
using Microsoft.Extensions.DependencyInjection;

namespace Aerarium.Server.Tests;

/// <summary>Who is related to whom, as ties name it: several of one kind each, and each from both sides.</summary>
public class RelativesTests
{
    [Fact]
    public async Task A_parent_sees_every_child_and_each_child_its_parents()
    {
        await using var practice = await Practice.StartAsync();
        var database = practice.Server.Services.GetRequiredService<PracticeDatabase>();
        database.Write(unit =>
        {
            var (mother, father, first, second) = (Client(unit, 1), Client(unit, 2), Client(unit, 3), Client(unit, 4));
            Relations.Add(unit, new RelationRecord { ClientId = mother, Kind = "spouse", OfId = father });
            Relations.Add(unit, new RelationRecord { ClientId = first, Kind = "child", OfId = mother });
            Relations.Add(unit, new RelationRecord { ClientId = second, Kind = "child", OfId = mother });
            Assert.Equal([first, second], Relatives.Of(unit, mother, "child").Order());
            Assert.Equal([father], Relatives.Of(unit, mother, "spouse"));
            Assert.Equal([mother], Relatives.Of(unit, father, "spouse"));
            Assert.Equal([mother], Relatives.Of(unit, second, "parent"));
            Assert.Empty(Relatives.Of(unit, first, "child"));
            Assert.Equal([mother], Relatives.Of(unit, mother, null));
            Assert.Equal([(mother, "child")], Relatives.Seeing(unit, first));
            Assert.Equal([(father, "spouse"), (first, "parent"), (second, "parent")], Relatives.Seeing(unit, mother).Order());
        });
    }

    /// <summary>Each of a couple follows the other's income: reading one return reads the other, and not this one again.</summary>
    [Fact]
    public async Task Spouses_who_follow_each_other_can_both_be_read_anew()
    {
        await using var practice = await Practice.StartAsync();
        var rukia = await practice.SignInAsync(0);
        var (hers, his) = (await rukia.ReturnOfAsync("Delphine", 2025), await rukia.ReturnOfAsync("Cuthbert", 2025));
        var workbench = practice.Server.Services.GetRequiredService<Workbench>();
        foreach (var (one, other) in new[] { (hers, his), (his, hers) })
        {
            workbench.ForgetAll();
            var tie = workbench.Open(one).Ties.Lines.Single(t => t.Line == "allowances.spouse-income");
            Assert.Equal(other, tie.Sources.Single().ReturnId);
            Assert.Equal(workbench.Open(other).Evaluation.Amount("tax.assessable"), decimal.Parse(tie.Value!, System.Globalization.CultureInfo.InvariantCulture));
        }
    }

    private static long Client(Unit unit, int number) =>
        Storage.Clients.Add(unit, new ClientRecord { Country = "ke", Identifier = $"A00000000{number}Z", Name = $"Relative {number}", BirthDate = "1980-01-01" });
}
