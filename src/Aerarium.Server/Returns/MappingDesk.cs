using System.Security.Claims;
using Aerarium.Core.Definitions;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>An item proposed for an account that goes nowhere yet.</summary>
/// <param name="Row">The account.</param>
/// <param name="Name">Its number and name.</param>
/// <param name="Item">Code of the item.</param>
/// <param name="Label">What the item is called.</param>
/// <param name="Source">last-year, or others.</param>
/// <param name="Times">How many other clients chose so; zero for last year's.</param>
public sealed record MappingProposal(string Row, string Name, string Item, string Label, string Source, int Times);

/// <summary>What is proposed for the rows of a list that go nowhere yet.</summary>
/// <param name="Line">The column rows are mapped in.</param>
/// <param name="Proposals">What is proposed for them.</param>
public sealed record MappingView(string Line, IReadOnlyList<MappingProposal> Proposals);

/// <summary>
/// Where accounts of a trial balance go: what the company chose last year, or what other clients of the practice chose for accounts of the same name, those with the same number first. Nothing is mapped
/// until somebody takes it.
/// </summary>
public sealed class MappingDesk(PracticeDatabase database, Workbench workbench)
{
    /// <summary>What is proposed for the rows of a section that are not mapped.</summary>
    /// <exception cref="PlainProblem">Rows of this section are not mapped to anything.</exception>
    public MappingView Of(long id, string key, Reach reach)
    {
        var workspace = workbench.Open(id);
        var section = RowFiles.SectionOf(workspace, key);
        if (section is not { MapsTo: { } item, KnownBy: { } number, NamedBy: { } name })
        {
            throw PlainProblem.Refused($"The rows of '{section.Title}' are not mapped to anything.");
        }

        var rows = workspace.RowsOf(key);
        string? At(Line line, int row) => workspace.Evaluation.Value(line, row);
        var open = Enumerable.Range(0, rows.Count).Where(row => At(item, row) is null).ToList();
        var columns = new MappingColumns(key, number.Key, name.Key, item.Key);
        var (lastYear, others) = database.Read(unit =>
        {
            var before = EarlierReturn.Of(unit, workspace.Record);
            return (
                before is null ? [] : AccountMappings.Of(unit, before.Id, columns),
                AccountMappings.OfOthers(unit, workspace.Record.Definition, workspace.Record.ClientId, reach, columns, [.. open.Select(row => At(name, row)?.ToLowerInvariant()).OfType<string>().Distinct()]));
        });
        var proposals = open.Select(row =>
        {
            var (itsNumber, itsName) = (At(number, row) ?? "", At(name, row) ?? "");
            var same = lastYear.FirstOrDefault(m => m.Number.Length > 0 && m.Number == itsNumber) ?? lastYear.FirstOrDefault(m => string.Equals(m.Name, itsName, StringComparison.OrdinalIgnoreCase));
            var chosen = same is not null ? null : others.Where(m => string.Equals(m.Name, itsName, StringComparison.OrdinalIgnoreCase))
                .GroupBy(m => m.Item).Select(g => (Item: g.Key, Times: g.Sum(m => m.Clients), Alike: g.Any(m => m.Number == itsNumber))).OrderByDescending(g => g.Alike).ThenByDescending(g => g.Times).ThenBy(g => g.Item, StringComparer.Ordinal)
                .Select(g => ((string Item, long Times)?)(g.Item, g.Times)).FirstOrDefault();
            var code = same?.Item ?? chosen?.Item;
            return code is not null && item.Choices!.FirstOrDefault(c => c.Code == code) is { } known
                ? new MappingProposal(rows[row], $"{itsNumber} {itsName}".Trim(), code, known.Label, same is not null ? "last-year" : "others", (int)(chosen?.Times ?? 0))
                : null;
        }).OfType<MappingProposal>().ToList();
        return new MappingView(item.Key, proposals);
    }
}

internal static class MappingEndpoints
{
    public static void MapMapping(this RouteGroupBuilder api) =>
        api.MapGroup("/returns/{id:long}/lists/{section}").ReachesReturn().WithTags("Returns")
            .MapGet("/mapping", (long id, string section, ClaimsPrincipal user, MappingDesk mapping) => mapping.Of(id, section, Caller.Of(user).Reach));
}
