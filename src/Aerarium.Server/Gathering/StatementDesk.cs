using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Identifiers;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Clients;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Gathering;

/// <summary>A kind of statement for a year, box by box.</summary>
public sealed record StatementKindView(string Kind, string Title, string Definition, int Year, NumberLayout Numbers, IReadOnlyList<StatementBoxView> Boxes);

/// <summary>A box of a statement.</summary>
public sealed record StatementBoxView(string Name, string Label, string? From, LineKind Kind, IReadOnlyList<Choice>? Choices);

/// <summary>A statement.</summary>
/// <param name="Id">Statement.</param>
/// <param name="Kind">Kind.</param>
/// <param name="Title">Kind and payer.</param>
/// <param name="Year">Year.</param>
/// <param name="Identifier">Whose identifier it bears.</param>
/// <param name="Warning">Why it may be another person's, or null.</param>
/// <param name="Boxes">Canonical texts by name of the box.</param>
/// <param name="Source">entered, or the file it came with.</param>
/// <param name="DocumentId">The paper it was copied from.</param>
/// <param name="Revision">Raised with every change.</param>
/// <param name="AddedBy">Who added it.</param>
/// <param name="AddedAt">When.</param>
public sealed record StatementView(
    long Id,
    string Kind,
    string Title,
    long Year,
    string Identifier,
    string? Warning,
    IReadOnlyDictionary<string, string> Boxes,
    string Source,
    long? DocumentId,
    long Revision,
    string AddedBy,
    string AddedAt);

/// <summary>A statement as typed.</summary>
public sealed record StatementInput(
    string Kind, int Year, string? Identifier, IReadOnlyDictionary<string, string?>? Boxes, long? DocumentId, long Revision);

/// <summary>A statement that was saved, or what is wrong with it.</summary>
public sealed record StatementSaved(IReadOnlyList<FieldProblem> Problems, IReadOnlyList<StatementView> Statements);

/// <summary>Payers' statements: entered or imported once with the client, and taken onto the return they belong to.</summary>
public sealed class StatementDesk(PracticeDatabase database, TimeProvider clock)
{
    private const string YearBox = "year";

    /// <summary>The kinds there are for a client's country, one for each year covered.</summary>
    public static IReadOnlyList<StatementKindView> Kinds(Unit unit, string country) =>
    [
        .. Catalogue.Returns.Where(r => r.Country == country && r.Record is not null).SelectMany(type => type.Record!.Statements.SelectMany(kind => type.Years.OrderDescending().Select(year =>
        {
            var definition = Catalogue.Get(type.Id, year);
            return new StatementKindView(kind.Name, kind.Title, type.Id, year, NumberLayout.Of(PracticeDefinitions.NumbersOf(unit, country)), [.. BoxesOf(kind, definition).Select(b =>
                new StatementBoxView(b.Box.Name, b.Line.Label, b.Line.CopiedFrom, b.Line.Kind, b.Line.Choices))]);
        }))),
    ];

    /// <summary>The statements of a client.</summary>
    public static IReadOnlyList<StatementView> List(Unit unit, long clientId, Reach reach)
    {
        var client = Storage.Clients.Find(unit, clientId) ?? throw PlainProblem.NotFound("This client");
        return [.. Statements.Of(unit, clientId).Select(s =>
        {
            var boxes = BoxesOf(s);
            var (kind, _) = KindOf(client.Country, s.Kind, (int)s.Year);
            return new StatementView(
                s.Id,
                s.Kind,
                TitleOf(kind, boxes),
                s.Year,
                s.Identifier,
                OwnerWarning(unit, client, s.Identifier, reach),
                boxes,
                s.Source,
                s.DocumentId,
                s.Revision,
                People.Find(unit, s.AddedBy)!.Name,
                s.AddedAt);
        })];
    }

    /// <summary>The statements that belong on a return, as items to take.</summary>
    public static IReadOnlyList<RecordedItem> ItemsFor(Unit unit, ReturnRecord record)
    {
        var kinds = (Catalogue.TypeOf(record.Definition).Record?.Statements ?? []).ToDictionary(k => k.Name);
        return [.. Statements.Of(unit, record.ClientId, record.Year).Where(s => kinds.ContainsKey(s.Kind)).Select(s =>
        {
            var (kind, boxes) = (kinds[s.Kind], BoxesOf(s));
            return new RecordedItem(
                $"statement-{s.Id}",
                TitleOf(kind, boxes),
                s.Identifier,
                kind.Section,
                kind.MatchColumn,
                kind.Boxes.Where(b => boxes.ContainsKey(b.Name)).ToDictionary(b => b.Column, b => boxes[b.Name]));
        })];
    }

    /// <summary>Saves a statement that was typed: a new one, or a change of an earlier one.</summary>
    public StatementSaved Save(long clientId, long? id, StatementInput typed, Caller caller) => database.Write(unit =>
    {
        var client = Storage.Clients.Find(unit, clientId) ?? throw PlainProblem.NotFound("This client");
        var before = id is { } known ? Find(unit, clientId, known) : null;
        var (statement, problems) = Read(
            client, typed.Kind ?? "", typed.Year, typed.Identifier, typed.Boxes ?? new Dictionary<string, string?>(), strict: true, PracticeDefinitions.NumbersOf(unit, client.Country));
        if (problems.Count > 0)
        {
            return new StatementSaved(problems, []);
        }

        if (typed.DocumentId is { } paper && Documents.Find(unit, paper)?.ClientId != clientId)
        {
            throw PlainProblem.Refused("The paper belongs to another client.");
        }

        var now = clock.GetUtcNow();
        if (before is null)
        {
            Statements.Add(unit, statement! with { ClientId = clientId, DocumentId = typed.DocumentId, AddedBy = caller.Id, AddedAt = Moments.Text(now) });
        }
        else if (!Statements.Change(unit, before with
        {
            Year = statement!.Year,
            Identifier = statement.Identifier,
            Boxes = statement.Boxes,
            DocumentId = typed.DocumentId,
            Revision = typed.Revision,
        }))
        {
            throw PlainProblem.Conflict("This statement was changed by somebody else meanwhile. Reload the page to see it as it is, then make your change again.");
        }

        Acts.Add(unit, caller.Act("statement", now) with { ClientId = clientId, Line = statement!.Kind, Before = before?.Boxes, After = statement.Boxes });
        return new StatementSaved([], List(unit, clientId, caller.Reach));
    });

    /// <summary>Removes a statement; what returns took from it stays there.</summary>
    public IReadOnlyList<StatementView> Remove(long clientId, long id, Caller caller) => database.Write(unit =>
    {
        var statement = Find(unit, clientId, id);
        Statements.Remove(unit, id);
        Acts.Add(unit, caller.Act("statement", clock.GetUtcNow()) with { ClientId = clientId, Line = statement.Kind, Before = statement.Boxes });
        return List(unit, clientId, caller.Reach);
    });

    /// <summary>Tries the statements of a file and stores them: nothing for a trial, all or nothing for <c>all</c>, the good ones for <c>good</c>.</summary>
    public ImportReport Import(long clientId, string kind, int year, string fileName, IReadOnlyList<StatementInFile> found, string? keep, Caller caller)
    {
        if (keep is not (null or "all" or "good"))
        {
            throw PlainProblem.Refused("Keep all statements or the good ones.");
        }

        return database.Write(unit =>
        {
            var client = Storage.Clients.Find(unit, clientId) ?? throw PlainProblem.NotFound("This client");
            var (definedKind, _) = KindOf(client.Country, kind, year);
            var present = Statements.Of(unit, clientId).Where(s => s.Kind == kind).Select(s => (s.Year, s.Boxes)).ToHashSet();
            var (problems, doubts, good, ignored) = (new List<ImportRemark>(), new List<ImportRemark>(), new List<StatementRecord>(), new HashSet<string>());
            foreach (var item in found)
            {
                var ofYear = item.Boxes.TryGetValue(YearBox, out var text) && int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var own) ? own : year;
                var identifier = item.Boxes.GetValueOrDefault(definedKind.OwnerBox) ?? client.Identifier;
                string[] about = [YearBox, definedKind.OwnerBox, "number"];
                var (statement, wrong) = Read(client, kind, ofYear, identifier, item.Boxes.Where(b => !about.Contains(b.Key)).ToDictionary(b => b.Key, b => (string?)b.Value), strict: false, NumberWriting.Point);
                ignored.UnionWith(item.Boxes.Keys.Where(k => !about.Contains(k) && definedKind.Boxes.All(b => b.Name != k)));
                problems.AddRange(wrong.Select(w => new ImportRemark(item.Row, w.Field, item.Boxes.GetValueOrDefault(w.Field), w.Message)));
                if (wrong.Count > 0)
                {
                    continue;
                }

                good.Add(statement! with { ClientId = clientId, Source = fileName, AddedBy = caller.Id });
                if (OwnerWarning(unit, client, statement!.Identifier, caller.Reach) is { } warning)
                {
                    doubts.Add(new ImportRemark(item.Row, definedKind.OwnerBox, statement.Identifier, warning));
                }

                if (present.Contains((statement.Year, statement.Boxes)))
                {
                    doubts.Add(new ImportRemark(item.Row, definedKind.Boxes[0].Name, null, "This statement is here already, box for box."));
                }
            }

            var stored = keep == "good" || (keep == "all" && problems.Count == 0) ? good : [];
            foreach (var statement in stored)
            {
                var now = clock.GetUtcNow();
                Statements.Add(unit, statement with { AddedAt = Moments.Text(now) });
                Acts.Add(unit, caller.Act("statement", now) with { ClientId = clientId, Line = statement.Kind, After = statement.Boxes, Origin = "imported" });
            }

            return new ImportReport(found.Count, good.Count, stored.Count, problems, doubts, [.. ignored]);
        });
    }

    private static (StatementKind Kind, Definition Definition) KindOf(string country, string name, int year)
    {
        var (type, kind) = Catalogue.Returns.Where(r => r.Country == country && r.Record is not null)
            .SelectMany(r => r.Record!.Statements.Select(k => (Type: r, Kind: k))).FirstOrDefault(pair => pair.Kind.Name == name);
        return type is null ? throw PlainProblem.Refused($"There is no statement '{name}' in this client's country.")
            : Catalogue.Find(type.Id, year, Periods.WholeYear, out var problem) is { } definition ? (kind, definition) : throw PlainProblem.Refused(problem!);
    }

    private static IEnumerable<(StatementBox Box, Line Line)> BoxesOf(StatementKind kind, Definition definition) =>
        kind.Boxes.Select(b => (b, Line: definition.FindLine($"{kind.Section}.{b.Column}"))).Where(b => b.Line is not null).Select(b => (b.b, b.Line!));

    private static Dictionary<string, string> BoxesOf(StatementRecord statement) => JsonSerializer.Deserialize<Dictionary<string, string>>(statement.Boxes)!;

    private static string TitleOf(StatementKind kind, IReadOnlyDictionary<string, string> boxes) =>
        boxes.GetValueOrDefault(kind.Boxes.First(b => b.Column == kind.TitleColumn).Name) is { } payer ? $"{kind.Title}, {payer}" : kind.Title;

    private static StatementRecord Find(Unit unit, long client, long statement) =>
        Statements.Find(unit, statement) is { } found && found.ClientId == client ? found : throw PlainProblem.NotFound("This statement");

    private static string? OwnerWarning(Unit unit, ClientRecord client, string identifier, Reach reach)
    {
        if (identifier == client.Identifier)
        {
            return null;
        }

        var owner = Storage.Clients.FindByIdentifier(unit, client.Country, identifier);
        var whose = owner is null ? "which no client of the practice has"
            : reach.SeesAll || Teams.CanSeeClient(unit, reach.PersonId, owner.Id) ? $"which is {owner.Name}'s" : "which a client of another team has";
        return $"It bears the identifier {identifier}, {whose}; check whose statement it is. It cannot be taken onto a return of {client.Name}.";
    }

    private static (StatementRecord? Statement, List<FieldProblem> Problems) Read(
        ClientRecord client, string kindName, int year, string? identifier, IReadOnlyDictionary<string, string?> typed, bool strict, NumberWriting numbers)
    {
        var problems = new List<FieldProblem>();
        var (kind, usual) = KindOf(client.Country, kindName, year);
        var definition = Catalogue.Get(usual.Id, year, usual.Period, numbers);
        var owner = Catalogue.Countries[client.Country].IndividualIdentifier.Complete(identifier ?? "");
        if (!Catalogue.Countries[client.Country].IndividualIdentifier.Accepts(owner) && !Catalogue.Countries[client.Country].CompanyIdentifier.Accepts(owner))
        {
            problems.Add(new FieldProblem(strict ? "identifier" : kind.OwnerBox, Catalogue.Countries[client.Country].IndividualIdentifier.Message));
        }

        var lines = BoxesOf(kind, definition).ToDictionary(b => b.Box.Name, b => b.Line);
        if (strict)
        {
            problems.AddRange(typed.Keys.Where(k => !lines.ContainsKey(k)).Select(k => new FieldProblem(k, $"This statement has no box '{k}' for {year}.")));
        }

        var boxes = new SortedDictionary<string, string>(StringComparer.Ordinal);
        foreach (var (name, line) in lines)
        {
            var reading = EntryReader.Read(line, typed.GetValueOrDefault(name));
            if (reading.Problem is { } wrong)
            {
                problems.Add(new FieldProblem(name, wrong));
            }
            else if (reading.Value is { } value)
            {
                boxes[name] = value;
                if (line.Identifier is { } rule && !rule.Accepts(value))
                {
                    problems.Add(new FieldProblem(name, rule.Message));
                }
            }
        }

        foreach (var column in new[] { kind.MatchColumn, kind.TitleColumn }.Distinct())
        {
            var box = kind.Boxes.First(b => b.Column == column).Name;
            if (!boxes.ContainsKey(box) && problems.All(p => p.Field != box))
            {
                problems.Add(new FieldProblem(box, $"Enter ‘{lines[box].Label}’."));
            }
        }

        return problems.Count > 0
            ? (null, problems)
            : (new StatementRecord { Kind = kind.Name, Year = year, Identifier = owner, Boxes = JsonSerializer.Serialize(boxes), Source = "entered", AddedAt = "" }, problems);
    }
}

internal static class StatementEndpoints
{
    public static void MapStatements(this RouteGroupBuilder api)
    {
        api.MapGet("/statement-kinds/{country}", (string country, PracticeDatabase database) => database.Read(unit => StatementDesk.Kinds(unit, country))).ReachesPractice().WithTags("Gathering");
        var statements = api.MapGroup("/clients/{id:long}/statements").ReachesClient().WithTags("Gathering");
        statements.MapGet("", (long id, ClaimsPrincipal user, PracticeDatabase database) => database.Read(unit => StatementDesk.List(unit, id, Caller.Of(user).Reach)));
        statements.MapPost("", (long id, StatementInput typed, ClaimsPrincipal user, StatementDesk desk) => desk.Save(id, null, typed, Caller.Of(user)))
            .RequireAuthorization(Policies.Prepare);
        statements.MapPut("/{statement:long}", (long id, long statement, StatementInput typed, ClaimsPrincipal user, StatementDesk desk) =>
            desk.Save(id, statement, typed, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        statements.MapDelete("/{statement:long}", (long id, long statement, ClaimsPrincipal user, StatementDesk desk) =>
            desk.Remove(id, statement, Caller.Of(user))).RequireAuthorization(Policies.Prepare);
        statements.MapPost("/import", async (
            long id, string? kind, int? year, string? name, string? keep, HttpRequest request, ClaimsPrincipal user, StatementDesk desk, ForeignFiles files, CancellationToken cancellation) =>
        {
            var found = await StatementFiles.ReadAsync(await ForeignFiles.BodyAsync(request), file => files.TableAsync(file, user, cancellation));
            return desk.Import(id, kind ?? "", year ?? 0, EntryReader.Clean(name) is { Length: > 0 and <= 120 } file ? file : "a file", found, keep, Caller.Of(user));
        }).RequireAuthorization(Policies.Prepare);
    }
}
