using System.Security.Claims;
using System.Text;
using Aerarium.Core.Definitions;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Practice;

/// <summary>An edition of a schema, and whether it is the one in use.</summary>
public sealed record SchemaEditionView(string Path, string Sha256, string CameFrom, string CameAt, string? TurnedOnBy, string? TurnedOnAt, bool InUse);

/// <summary>A return whose e-return an edition would refuse.</summary>
public sealed record RefusedReturn(long ReturnId, string Client, string Title, string First);

/// <summary>What an edition would change.</summary>
/// <param name="Changes">Beside the edition in use.</param>
/// <param name="Tried">Returns under way whose e-return was tried.</param>
/// <param name="Refused">Those it would refuse.</param>
public sealed record SchemaTrial(IReadOnlyList<SchemaChange> Changes, int Tried, IReadOnlyList<RefusedReturn> Refused);

/// <summary>An edition that is meant.</summary>
public sealed record SchemaChosen(string? Path, string? Sha256);

/// <summary>
/// Editions of the authorities' schemas. The first edition of a return and year is used as it comes; a later one, fetched or loaded by
/// hand, waits until somebody has seen what it changes and turns it on.
/// </summary>
public sealed class SchemaDesk(PracticeDatabase database, Workbench workbench, TimeProvider clock)
{
    private const int LargestSchema = 2 * 1024 * 1024;
    private const int MostTried = 500;

    /// <summary>All editions.</summary>
    public IReadOnlyList<SchemaEditionView> List() => database.Read(unit => SchemaEditions.All(unit).Select(e =>
        new SchemaEditionView(e.Path, e.Sha256, e.CameFrom, e.CameAt, e.TurnedOnBy, e.TurnedOnAt, SchemaEditions.InUse(unit, e.Path)?.Edition.Sha256 == e.Sha256)).ToList());

    /// <summary>Loads an edition from a file, for a schema that is known by its published address.</summary>
    /// <exception cref="PlainProblem">It is no schema, or for nothing that is filed.</exception>
    public IReadOnlyList<SchemaEditionView> Load(string path, byte[] file, Caller caller)
    {
        if (file.Length is 0 or > LargestSchema || Covered(path).Count == 0)
        {
            throw PlainProblem.Refused(file.Length is 0 or > LargestSchema
                ? "A schema is a file of at most 2 MB."
                : $"'{path}' is the schema of no return that is prepared here; its address is that under which the authority publishes it.");
        }

        var text = Encoding.UTF8.GetString(file).TrimStart('\uFEFF');
        try
        {
            _ = PublishedSchema.Of(path, text);
        }
        catch (FormatException problem)
        {
            throw PlainProblem.Refused($"The file is no schema: {problem.Message}");
        }

        var now = clock.GetUtcNow();
        database.Write(unit =>
        {
            var kept = SchemaEditions.Keep(unit, path, text, caller.Name, Moments.Text(now));
            Acts.Add(unit, caller.Act("schema-loaded", now) with { After = $"{path}, sha256 {kept.Sha256}" });
        });
        return List();
    }

    /// <summary>What an edition would change, and which e-returns of returns under way it would refuse.</summary>
    public SchemaTrial Try(SchemaChosen chosen)
    {
        var (path, content, inUse) = database.Read(unit => (chosen.Path!, ContentOf(unit, chosen), SchemaEditions.InUse(unit, chosen.Path!)?.Content));
        var schema = PublishedSchema.Of(path, content);
        var refused = new List<RefusedReturn>();
        var tried = 0;
        foreach (var record in database.Read(unit => Covered(path).SelectMany(c => Storage.Returns.OpenOf(unit, Catalogue.CountryOf(c.Id)).Where(r => r.Definition == c.Id && r.Year == c.Year)).Take(MostTried).ToList()))
        {
            var workspace = workbench.Open(record.Id);
            if (workspace.Errors > 0)
            {
                continue;
            }

            tried++;
            var written = MappingsOf(Catalogue.TypeOf(record.Definition)).First(m => m.SchemaPath((int)record.Year) == path).Write(workspace.Evaluation);
            if (schema.FaultsOf(written.Content) is [var first, ..])
            {
                refused.Add(new RefusedReturn(
                    record.Id,
                    database.Read(unit => Storage.Clients.NameOf(unit, record.ClientId)),
                    $"{workspace.Definition.Title} {Periods.InWords(record.Year, record.Period)}",
                    EReturnFaults.InWords(first, written, workspace.Evaluation).Message));
            }
        }

        return new SchemaTrial(inUse is null ? [] : SchemaComparison.Between(path, inUse, content), tried, refused);
    }

    /// <summary>Turns an edition on; from then on e-returns are built and validated by it.</summary>
    public IReadOnlyList<SchemaEditionView> TurnOn(SchemaChosen chosen, Caller caller)
    {
        var now = clock.GetUtcNow();
        database.Write(unit =>
        {
            _ = ContentOf(unit, chosen);
            var before = SchemaEditions.InUse(unit, chosen.Path!)?.Edition.Sha256;
            SchemaEditions.TurnOn(unit, chosen.Path!, chosen.Sha256!, caller.Name, Moments.Text(now));
            Acts.Add(unit, caller.Act("schema-turned-on", now) with { Line = chosen.Path, Before = before, After = chosen.Sha256 });
        });
        return List();
    }

    private static string ContentOf(Unit unit, SchemaChosen chosen) =>
        SchemaEditions.Content(unit, chosen.Path ?? "", chosen.Sha256 ?? "") ?? throw PlainProblem.NotFound("This edition");

    private static IReadOnlyList<(string Id, int Year)> Covered(string path) =>
        [.. Catalogue.Returns.SelectMany(r => r.Years.Where(year => MappingsOf(r).Any(m => m.SchemaPath(year) == path)).Select(year => (r.Id, year)))];

    private static IEnumerable<IEReturnMapping> MappingsOf(ReturnType type) => type.EReturn is not { } mapping ? [] : mapping.AsJson is { } json ? [mapping, json] : [mapping];
}

internal static class SchemaEndpoints
{
    public static void MapSchemas(this RouteGroupBuilder api)
    {
        var schemas = api.MapGroup("/practice/schemas").ReachesPractice().WithTags("Practice");
        schemas.MapGet("", (SchemaDesk desk) => desk.List());
        schemas.MapPost("/load", async (string path, HttpRequest request, ClaimsPrincipal user, SchemaDesk desk, CancellationToken cancellation) =>
        {
            using var memory = new MemoryStream();
            await request.Body.CopyToAsync(memory, cancellation);
            return desk.Load(path, memory.ToArray(), Caller.Of(user));
        }).RequireAuthorization(Policies.Manage);
        schemas.MapPost("/try", (SchemaChosen chosen, SchemaDesk desk) => desk.Try(chosen)).RequireAuthorization(Policies.Manage);
        schemas.MapPost("/turn-on", (SchemaChosen chosen, ClaimsPrincipal user, SchemaDesk desk) => desk.TurnOn(chosen, Caller.Of(user))).RequireAuthorization(Policies.Manage);
    }
}
