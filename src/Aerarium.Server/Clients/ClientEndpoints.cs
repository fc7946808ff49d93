using System.Globalization;
using System.Security.Claims;
using Aerarium.Core.Days;
using Aerarium.Core.Entries;
using Aerarium.Core.Identifiers;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Practice;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Clients;

/// <summary>Particulars of a client as typed.</summary>
public sealed record ClientParticularsInput
{
    /// <summary>Country of the returns, ISO 3166, lower case.</summary>
    public required string Country { get; init; }

    /// <summary>individual or company; an individual when left out.</summary>
    public string? Kind { get; init; }

    /// <summary>Taxpayer identifier.</summary>
    public required string Identifier { get; init; }

    /// <summary>Official name.</summary>
    public required string Name { get; init; }

    /// <summary>Group.</summary>
    public string? ClientGroup { get; init; }

    /// <summary>The practice's own code.</summary>
    public string? Code { get; init; }

    /// <summary>Date of birth, as typed.</summary>
    public string? BirthDate { get; init; }

    /// <summary>Last day of a company's financial year, as typed.</summary>
    public string? YearEnd { get; init; }

    /// <summary>E-mail address.</summary>
    public string? Email { get; init; }

    /// <summary>Telephone.</summary>
    public string? Phone { get; init; }

    /// <summary>Postal address.</summary>
    public string? PostalAddress { get; init; }

    /// <summary>bank or mobile.</summary>
    public string? PayoutRoute { get; init; }

    /// <summary>Bank.</summary>
    public string? PayoutBank { get; init; }

    /// <summary>Branch.</summary>
    public string? PayoutBranch { get; init; }

    /// <summary>Account name.</summary>
    public string? PayoutAccountName { get; init; }

    /// <summary>Account number.</summary>
    public string? PayoutAccountNumber { get; init; }

    /// <summary>Mobile number.</summary>
    public string? PayoutMobile { get; init; }

    /// <summary>Particulars of the country besides these, by name.</summary>
    public IReadOnlyDictionary<string, string?>? More { get; init; }

    /// <summary>For a new client: that it is not the client it looks like.</summary>
    public bool AsAnother { get; init; }

    /// <summary>Revision that was read; zero for a new client.</summary>
    public long Revision { get; init; }
}

/// <summary>What is wrong with one field, and what to do.</summary>
public sealed record FieldProblem(string Field, string Message);

/// <summary>A client and what is wrong with what was typed; nothing is stored while there are problems, or while it looks like another client.</summary>
public sealed record ClientSaved(long? Id, IReadOnlyList<FieldProblem> Problems, int ReturnsChanged, AlikeClient? Alike = null);

/// <summary>A client that may be the same.</summary>
public sealed record AlikeClient(long Id, string Name, string? BirthDate);

/// <summary>A country and what is kept about its clients besides the common particulars.</summary>
public sealed record CountryView(string Code, string Name, string IdentifierLabel, string CompanyIdentifierLabel, IReadOnlyList<ClientParticularView> OfIndividuals, IReadOnlyList<ClientParticularView> OfCompanies);

/// <summary>A particular of a country's clients.</summary>
public sealed record ClientParticularView(string Name, string Label, string? Hint, IReadOnlyList<Core.Definitions.Choice>? Choices);

/// <summary>A client's page.</summary>
public sealed record ClientView(
    ClientRecord Particulars, IReadOnlyList<ClientReturnItem> Returns, IReadOnlyList<RelationView> Relations, IReadOnlyList<string> GroupMembers);

/// <summary>A return of a client.</summary>
public sealed record ClientReturnItem(long Id, string Definition, string Title, int Year, string Period, string Kind, string Stage, string Balance, string Currency);

/// <summary>Asks whether an identifier may be used.</summary>
public sealed record IdentifierQuestion(string Country, string? Kind, string Value, long? ClientId);

/// <summary>The normalised identifier, and what is wrong with it.</summary>
public sealed record IdentifierAnswer(string Value, string? Problem);

/// <summary>The team a client is restricted to; null for everybody.</summary>
public sealed record ClientTeam(long? TeamId);

internal static class ClientEndpoints
{
    private const int LongestText = 120;
    private const int LongestCode = 20;

    public static void MapClients(this RouteGroupBuilder api)
    {
        var clients = api.MapGroup("/clients").WithTags("Clients").ReachesPractice();
        var client = api.MapGroup("/clients/{id:long}").WithTags("Clients").ReachesClient();
        clients.MapClientLists();
        api.MapGet("/countries", () => Catalogue.Countries.Values
            .Select(c => new CountryView(c.Code, c.Name, c.IndividualIdentifier.Label, c.CompanyIdentifier.Label, [.. c.OfIndividuals.Select(View)], [.. c.OfCompanies.Select(View)])).ToList()).ReachesPractice().WithTags("Clients");
        client.MapGet("", (long id, ClaimsPrincipal user, PracticeDatabase database) => database.Read(unit =>
        {
            var client = Storage.Clients.Find(unit, id) ?? throw PlainProblem.NotFound("This client");
            var reach = Caller.Of(user).Reach;
            return new ClientView(
                client,
                [.. Storage.Returns.OfClient(unit, id).Select(r => Item(r))],
                ClientRelations.Of(unit, id, reach),
                client.ClientGroup is { } group ? Storage.Clients.InGroup(unit, group, id, reach) : []);
        }));
        clients.MapPost("/check-identifier", (IdentifierQuestion question, ClaimsPrincipal user, PracticeDatabase database) => database.Read(unit =>
        {
            var value = Written(question.Country, question.Kind, question.Value);
            return new IdentifierAnswer(value, ProblemOf(unit, question.Country, question.Kind, value, question.ClientId, Caller.Of(user).Reach));
        })).RequireAuthorization(Policies.Prepare);
        clients.MapPost("", (ClientParticularsInput typed, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
            Add(typed, Caller.Of(user), database, clock)).RequireAuthorization(Policies.Prepare);
        client.MapPut("", (long id, ClientParticularsInput typed, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock, FollowedParticulars particulars, Workbench workbench) =>
            ChangeAsync(id, typed, Caller.Of(user), database, clock, particulars, workbench)).RequireAuthorization(Policies.Prepare);
        clients.MapClientImport();
        client.MapRelations();
        client.MapClientRecords();
        client.MapPut("/team", ChangeTeam).RequireAuthorization(Policies.Manage);
    }

    private static IResult ChangeTeam(long id, ClientTeam asked, ClaimsPrincipal user, PracticeDatabase database, LiveReturns live, TimeProvider clock)
    {
        database.Write(unit =>
        {
            var client = Storage.Clients.Find(unit, id) ?? throw PlainProblem.NotFound("This client");
            var teams = Teams.All(unit);
            if (asked.TeamId is { } wanted && teams.All(t => t.Id != wanted))
            {
                throw PlainProblem.NotFound("This team");
            }

            string? NameOf(long? team) => teams.FirstOrDefault(t => t.Id == team)?.Name;
            Storage.Clients.SetTeam(unit, id, asked.TeamId);
            Acts.Add(unit, Caller.Of(user).Act("client", clock.GetUtcNow()) with
            {
                ClientId = id,
                Line = "team",
                Before = NameOf(client.TeamId),
                After = NameOf(asked.TeamId),
            });
        });
        live.CutThoseOutOfReach();
        return TypedResults.NoContent();
    }

    /// <summary>A return in the list of its client.</summary>
    public static ClientReturnItem Item(ReturnRecord r)
    {
        var definition = Catalogue.Get(r.Definition, r.Year, r.Period);
        return new ClientReturnItem(r.Id, r.Definition, definition.Title, (int)r.Year, r.Period, r.Kind, r.Stage, r.Balance, definition.Currency);
    }

    private static ClientSaved Add(ClientParticularsInput typed, Caller caller, PracticeDatabase database, TimeProvider clock) => database.Write(unit =>
    {
        var (client, problems) = Read(unit, typed, null, clock, caller.Reach);
        if (problems.Count > 0)
        {
            return new ClientSaved(null, problems, 0);
        }

        if (!typed.AsAnother && new NearDuplicates(Storage.Clients.Names(unit, client.Country, client.Kind, caller.Reach)).Find(client.Name, client.BirthDate) is { } alike)
        {
            return new ClientSaved(null, [], 0, new AlikeClient(alike.Id, alike.Name, alike.BirthDate));
        }

        var id = Storage.Clients.Add(unit, client);
        Acts.Add(unit, caller.Act("add-client", clock.GetUtcNow()) with { ClientId = id, After = $"{client.Identifier} {client.Name}" });
        return new ClientSaved(id, [], 0);
    });

    private static async Task<ClientSaved> ChangeAsync(
        long id,
        ClientParticularsInput typed,
        Caller caller,
        PracticeDatabase database,
        TimeProvider clock,
        FollowedParticulars particulars,
        Workbench workbench)
    {
        var saved = database.Write(unit =>
        {
            var before = Storage.Clients.Find(unit, id) ?? throw PlainProblem.NotFound("This client");
            var (client, problems) = Read(unit, typed with { Country = before.Country, Kind = before.Kind }, id, clock, caller.Reach);
            if (problems.Count > 0)
            {
                return new ClientSaved(null, problems, 0);
            }

            if (!Storage.Clients.Change(unit, client with { Id = id, Revision = typed.Revision }))
            {
                throw PlainProblem.Conflict($"{before.Name} was changed by somebody else meanwhile. Reload the page to see the present particulars, then make your change again.");
            }

            foreach (var (field, was, now) in Differences(before, client))
            {
                Acts.Add(unit, caller.Act("client", clock.GetUtcNow()) with { ClientId = id, Line = field, Before = was, After = now });
            }

            return new ClientSaved(id, [], 0);
        });
        if (saved.Id is null)
        {
            return saved;
        }

        var followed = particulars.FollowAll(id, caller);
        foreach (var result in followed)
        {
            await workbench.TellAsync(result);
        }

        foreach (var changed in particulars.LookAgain(id))
        {
            await workbench.TellFindingsAsync(changed);
        }

        return saved with { ReturnsChanged = followed.Count };
    }

    private static IEnumerable<(string Field, string? Was, string? Now)> Differences(ClientRecord before, ClientRecord after)
    {
        string[] names =
        [
            "identifier", "name", "birth-date", "year-end", "email", "phone", "postal-address", "payout-route", "payout-bank", "payout-branch",
            "payout-account-name", "payout-account-number", "payout-mobile", .. before.More.Keys.Union(after.More.Keys),
        ];
        return names.Select(n => (n, before.Particular(n), after.Particular(n))).Where(d => d.Item2 != d.Item3)
            .Concat(before.ClientGroup == after.ClientGroup ? [] : [("group", before.ClientGroup, after.ClientGroup)])
            .Concat(before.Code == after.Code ? [] : [("code", before.Code, after.Code)]);
    }

    private static ClientParticularView View(Particular particular) => new(particular.Name, particular.Label, particular.Hint, particular.Choices);

    internal static string? ProblemOf(Unit unit, string? country, string? kind, string identifier, long? clientId, Reach reach)
    {
        if (!Catalogue.Countries.TryGetValue(country ?? "", out var rules))
        {
            return $"The country '{country}' is not covered.";
        }

        var rule = kind == ClientKinds.Company ? rules.CompanyIdentifier : rules.IndividualIdentifier;

        if (!rule.Accepts(identifier))
        {
            return rule.Message;
        }

        return Storage.Clients.FindByIdentifier(unit, country!, identifier) is { } other && other.Id != clientId
            ? $"{NameWithin(unit, reach, other.Id)} already has this identifier; every identifier belongs to one client."
            : null;
    }

    /// <summary>The name of a client, or what is said of one out of reach.</summary>
    private static string NameWithin(Unit unit, Reach reach, long id) =>
        reach.SeesAll || Teams.CanSeeClient(unit, reach.PersonId, id) ? Storage.Clients.NameOf(unit, id) : "A client of another team";

    /// <summary>An identifier as the country's registry writes it, with the end people leave off.</summary>
    internal static string Written(string? country, string? kind, string? typed) =>
        Catalogue.Countries.TryGetValue(country ?? "", out var found)
            ? (kind == ClientKinds.Company ? found.CompanyIdentifier : found.IndividualIdentifier).Complete(typed ?? "")
            : IdentifierRule.Normalise(typed ?? "");

    /// <summary>A client as typed or imported, and what is wrong with it.</summary>
    public static (ClientRecord Client, List<FieldProblem> Problems) Read(
        Unit unit, ClientParticularsInput typed, long? id, TimeProvider clock, Reach reach)
    {
        var problems = new List<FieldProblem>();
        var identifier = Written(typed.Country, typed.Kind, typed.Identifier);
        if (ProblemOf(unit, typed.Country, typed.Kind, identifier, id, reach) is { } problem)
        {
            problems.Add(new FieldProblem("identifier", problem));
        }

        var kind = typed.Kind ?? ClientKinds.Individual;
        if (kind is not (ClientKinds.Individual or ClientKinds.Company))
        {
            problems.Add(new FieldProblem("kind", "A client is an individual or a company."));
        }

        var isCompany = kind == ClientKinds.Company;
        var client = new ClientRecord
        {
            Country = typed.Country ?? "",
            Kind = kind,
            Identifier = identifier,
            Name = Text("name", "The official name", typed.Name) ?? "",
            ClientGroup = Text("clientGroup", "The group", typed.ClientGroup),
            Code = Code(typed.Code),
            BirthDate = isCompany ? null : BirthDate(typed.BirthDate),
            YearEnd = isCompany ? YearEnd(typed.YearEnd) : null,
            More = More(),
            Email = Text("email", "The e-mail address", typed.Email),
            Phone = Text("phone", "The telephone number", typed.Phone),
            PostalAddress = Text("postalAddress", "The postal address", typed.PostalAddress),
            PayoutRoute = Text("payoutRoute", "The payout route", typed.PayoutRoute),
            PayoutBank = Text("payoutBank", "The bank", typed.PayoutBank),
            PayoutBranch = Text("payoutBranch", "The branch", typed.PayoutBranch),
            PayoutAccountName = Text("payoutAccountName", "The account name", typed.PayoutAccountName),
            PayoutAccountNumber = Text("payoutAccountNumber", "The account number", typed.PayoutAccountNumber),
            PayoutMobile = Text("payoutMobile", "The mobile number", typed.PayoutMobile),
        };
        if (client.Name.Length == 0)
        {
            problems.Add(new FieldProblem("name", "Give the official name that belongs to the identifier."));
        }

        if (client.Email is { } email && !MailAddress.IsOne(email))
        {
            problems.Add(new FieldProblem("email", MailAddress.Problem(email)));
        }

        if (client.PayoutRoute is not (null or "bank" or "mobile"))
        {
            problems.Add(new FieldProblem("payoutRoute", "Choose bank account or mobile money."));
        }

        return (client, problems);

        string? Text(string field, string label, string? value)
        {
            var clean = EntryReader.Clean(value);
            if (clean.Length > LongestText)
            {
                problems.Add(new FieldProblem(field, $"{label} has {clean.Length} characters; keep it to {LongestText}."));
            }

            return clean.Length == 0 ? null : clean;
        }

        string? Code(string? value)
        {
            var clean = EntryReader.Clean(value);
            if (clean.Length > LongestCode)
            {
                problems.Add(new FieldProblem("code", $"The code has {clean.Length} characters; keep it to {LongestCode}."));
            }
            else if (clean.Length > 0 && Storage.Clients.FindByCode(unit, clean) is { } other && other != id)
            {
                problems.Add(new FieldProblem("code", $"{NameWithin(unit, reach, other)} has the code {clean} already; every code belongs to one client."));
            }

            return clean.Length == 0 ? null : clean;
        }

        Dictionary<string, string> More()
        {
            var more = new Dictionary<string, string>();
            var country = Catalogue.Countries.GetValueOrDefault(typed.Country ?? "");
            foreach (var particular in (isCompany ? country?.OfCompanies : country?.OfIndividuals) ?? [])
            {
                var (value, wrong) = ParticularReader.Read(particular, typed.More?.GetValueOrDefault(particular.Name));
                if (wrong is not null)
                {
                    problems.Add(new FieldProblem(particular.Name, wrong));
                }

                if (value is not null)
                {
                    more[particular.Name] = value;
                }
            }

            return more;
        }

        string? YearEnd(string? value)
        {
            var clean = EntryReader.Clean(value);
            string[] formats = ["d MMMM", "d MMM", "d/M", "d.M", "MM-dd"];
            if (clean.Length == 0)
            {
                return null;
            }

            // A leap year, so that 29 February can be read.
            if (DateOnly.TryParseExact($"{clean} 2024", formats.Select(f => $"{f} yyyy").ToArray(), CultureInfo.InvariantCulture, DateTimeStyles.None, out var day))
            {
                return day.ToString("MM-dd", CultureInfo.InvariantCulture);
            }

            problems.Add(new FieldProblem("yearEnd", $"'{clean}' is not a day of the calendar; type day and month, such as 31 December."));
            return null;
        }

        string? BirthDate(string? value)
        {
            var clean = EntryReader.Clean(value);
            if (clean.Length == 0)
            {
                return null;
            }

            if (!TypedDay.TryRead(clean, typed.Country, clock.Today(), out var date))
            {
                problems.Add(new FieldProblem("birthDate", $"'{clean}' is not a date of the calendar; {TypedDay.InWords(typed.Country, clock.Today())}."));
                return null;
            }

            if (date > clock.Today())
            {
                problems.Add(new FieldProblem("birthDate", "The date of birth lies in the future."));
            }

            return date.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        }
    }
}
