using System.Security.Claims;
using Aerarium.Core.Entries;
using Aerarium.Core.Identifiers;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Server.Clients;
using Aerarium.Server.Desk;
using Aerarium.Server.Returns;
using Aerarium.Server.Sending;
using Aerarium.Storage;

namespace Aerarium.Server.Practice;

/// <summary>What the practice keeps for a country's returns.</summary>
/// <param name="Country">Country code.</param>
/// <param name="Name">Country.</param>
/// <param name="Particulars">The particulars.</param>
/// <param name="UserName">What it signs in with at the authority, or null; the secret is never shown again.</param>
/// <param name="SecretChangedAt">When the secret was last changed.</param>
/// <param name="Consent">The consent given at the authority, in place of a secret; null when there is none.</param>
/// <param name="Forms">Returns its authority takes in more than one form.</param>
public sealed record PracticeDefaultsView(string Country, string Name, IReadOnlyList<PracticeParticularView> Particulars, string? UserName, string? SecretChangedAt, AuthorityConsentView? Consent, IReadOnlyList<EReturnFormView> Forms);

/// <summary>A return the authority takes in more than one form, and the form the practice writes it in.</summary>
public sealed record EReturnFormView(string Definition, string Title, string Form);

/// <summary>The form to write a return in from now on.</summary>
public sealed record EReturnFormChosen(string? Definition, string? Form);

/// <summary>A consent at the authority.</summary>
public sealed record AuthorityConsentView(string GivenBy, string GivenAt);

/// <summary>A particular of the practice.</summary>
public sealed record PracticeParticularView(
    string Name, string Label, string? Hint, IReadOnlyList<Core.Definitions.Choice>? Choices, bool Mandatory, string? Value);

/// <summary>Particulars as typed.</summary>
/// <param name="Values">By name; those left out stay as they are.</param>
/// <param name="UserName">User name with the authority; null leaves it.</param>
/// <param name="Secret">Secret with the authority; null or blank leaves it.</param>
public sealed record PracticeDefaultsInput(IReadOnlyDictionary<string, string?>? Values, string? UserName, string? Secret);

/// <summary>A line of an open return that would change.</summary>
public sealed record PracticeChange(long ReturnId, string Client, long Year, string Label, string? Was, string? Now);

/// <summary>What saving would change, or has changed.</summary>
/// <param name="Problems">What is wrong with what was typed; nothing is saved while there are any.</param>
/// <param name="Returns">How many open returns change.</param>
/// <param name="Changes">Their lines, the first thousand.</param>
/// <param name="Batch">The batch that carries them, when they are too many to wait for.</param>
public sealed record PracticeDefaultsSaved(IReadOnlyList<FieldProblem> Problems, int Returns, IReadOnlyList<PracticeChange> Changes, long? Batch);

/// <summary>The practice's particulars by country: shown, tried, saved, and carried into every open return.</summary>
public sealed class PracticeDefaults(
    PracticeDatabase database, TimeProvider clock, AuthorityCredentials credentials, FollowedParticulars particulars, Workbench workbench, BatchRunner runner)
{
    private const int LongestText = 120;
    private const int MostAtOnce = 200;
    private const int MostShown = 1_000;

    /// <summary>What is kept for every country.</summary>
    public IReadOnlyList<PracticeDefaultsView> View() => database.Read(unit => Catalogue.Countries.Values.Select(country =>
    {
        var kept = PracticeParticulars.Of(unit, country.Code);
        var credential = PracticeParticulars.Credential(unit, country.Code);
        return new PracticeDefaultsView(
            country.Code,
            country.Name,
            [.. country.OfPractice.Select(p => new PracticeParticularView(p.Name, p.Label, p.Hint, p.Choices, p.Mandatory, kept.GetValueOrDefault(p.Name)))],
            credential?.UserName,
            credential?.ChangedAt,
            AuthorityConsents.Find(unit, country.Code) is { } consent ? new AuthorityConsentView(consent.GivenBy, consent.GivenAt) : null,
            [.. Catalogue.Returns.Where(r => r.Country == country.Code && r.EReturn?.AsJson is not null).Select(r => new EReturnFormView(r.Id, r.Title, EReturnForm.Chosen(unit, r.Id).Format.Ending))]);
    }).ToList());

    /// <summary>Chooses the form a return is written in from now on; what is built already stays.</summary>
    public void Choose(EReturnFormChosen chosen, Caller caller) => database.Write(unit =>
    {
        var before = Catalogue.Returns.Any(r => r.Id == chosen.Definition) ? EReturnForm.Chosen(unit, chosen.Definition!).Format.Ending : null;
        EReturnForm.Choose(unit, chosen.Definition ?? "", chosen.Form ?? "");
        Acts.Add(unit, caller.Act("practice", clock.GetUtcNow()) with { Line = EReturnForm.NameOf(chosen.Definition!), Before = before, After = chosen.Form });
    });

    /// <summary>What saving would change; nothing is saved.</summary>
    public PracticeDefaultsSaved Try(string code, PracticeDefaultsInput typed)
    {
        var country = CountryOf(code);
        var (values, problems) = Read(country, typed);
        if (problems.Count > 0)
        {
            return new PracticeDefaultsSaved(problems, 0, [], null);
        }

        var changes = database.Read(unit => Changes(unit, country, values));
        return new PracticeDefaultsSaved([], changes.Select(c => c.ReturnId).Distinct().Count(), [.. changes.Take(MostShown)], null);
    }

    /// <summary>Saves the particulars and carries them into the open returns: a few at once, many as a batch.</summary>
    public async Task<PracticeDefaultsSaved> SaveAsync(string code, PracticeDefaultsInput typed, Caller caller)
    {
        var country = CountryOf(code);
        var (values, problems) = Read(country, typed);
        if (problems.Count > 0)
        {
            return new PracticeDefaultsSaved(problems, 0, [], null);
        }

        var (changes, returns, batch) = database.Write(unit =>
        {
            var changed = Changes(unit, country, values);
            var before = PracticeParticulars.Of(unit, country.Code);
            foreach (var (name, value) in values.Where(v => before.GetValueOrDefault(v.Key) != v.Value))
            {
                PracticeParticulars.Put(unit, country.Code, name, value);
                Acts.Add(unit, caller.Act("practice", clock.GetUtcNow()) with { Line = $"{country.Code}.{name}", Before = before.GetValueOrDefault(name), After = value });
            }

            var first = credentials.Change(unit, country.Code, typed.UserName, typed.Secret, caller);
            List<long> follow = first
                ? [.. Storage.Returns.OpenOf(unit, country.Code).Select(r => r.Id)]
                : [.. changed.Select(c => c.ReturnId).Distinct()];
            long? started = follow.Count > MostAtOnce ? Batches.Add(unit, BatchActs.FollowPractice, null, caller.Id, Moments.Text(clock.GetUtcNow()), follow) : null;
            return (changed, follow, started);
        });
        workbench.ForgetAll();
        if (batch is not null)
        {
            runner.Wake();
        }
        else
        {
            foreach (var id in returns)
            {
                if (particulars.Follow(id, caller) is { } result)
                {
                    await workbench.TellAsync(result);
                }
                else
                {
                    workbench.Refresh(id);
                }
            }
        }

        return new PracticeDefaultsSaved([], returns.Count, [.. changes.Take(MostShown)], batch);
    }

    private static Country CountryOf(string code) => Catalogue.Countries.GetValueOrDefault(code) ?? throw PlainProblem.NotFound($"The country '{code}'");

    private static (Dictionary<string, string?> Values, List<FieldProblem> Problems) Read(Country country, PracticeDefaultsInput typed)
    {
        var (values, problems) = (new Dictionary<string, string?>(), new List<FieldProblem>());
        foreach (var (name, text) in typed.Values ?? new Dictionary<string, string?>())
        {
            var particular = country.OfPractice.FirstOrDefault(p => p.Name == name) ?? throw PlainProblem.Refused($"The practice keeps no '{name}' for {country.Name}.");
            var (value, problem) = ParticularReader.Read(particular, text);
            values[name] = value;
            if (problem is not null)
            {
                problems.Add(new FieldProblem(name, problem));
            }
        }

        if (typed.UserName is { } user && (EntryReader.Clean(user).Length is 0 or > LongestText || user.Contains(':', StringComparison.Ordinal)))
        {
            problems.Add(new FieldProblem("userName", "Give the user name the authority gave the practice; it has no colon and at most 120 characters."));
        }

        if (typed.Secret is { Length: > LongestText })
        {
            problems.Add(new FieldProblem("secret", "The secret has at most 120 characters."));
        }

        return (values, problems);
    }

    private static List<PracticeChange> Changes(Unit unit, Country country, Dictionary<string, string?> values)
    {
        var changes = new List<PracticeChange>();
        foreach (var group in Storage.Returns.OpenOf(unit, country.Code).GroupBy(r => (r.Definition, r.Year, r.Period)))
        {
            var lines = Catalogue.Get(group.Key.Definition, group.Key.Year, group.Key.Period).Lines
                .Where(l => l.PracticeParticular is { } name && values.ContainsKey(name)).ToList();
            var entries = Storage.Returns.EntriesOn(unit, group.Key.Definition, group.Key.Year, group.Key.Period, [.. lines.Select(l => l.Key)]);
            foreach (var item in group)
            {
                foreach (var line in lines)
                {
                    var entry = entries.GetValueOrDefault((item.Id, line.Key));
                    var now = values[line.PracticeParticular!];
                    if (FollowedParticulars.Follows(entry, "practice") && entry?.Value != now)
                    {
                        changes.Add(new PracticeChange(item.Id, Storage.Clients.NameOf(unit, item.ClientId), item.Year, line.Label, entry?.Value, now));
                    }
                }
            }
        }

        return changes;
    }
}

/// <summary>Reads a particular as typed.</summary>
internal static class ParticularReader
{
    private const int LongestText = 120;

    /// <summary>The particular cleaned, null when blank, and what is wrong with it.</summary>
    public static (string? Value, string? Problem) Read(Particular particular, string? typed)
    {
        var clean = particular.Rule is { } written ? written.Complete(typed ?? "") : EntryReader.Clean(typed);
        if (clean.Length == 0)
        {
            return (null, null);
        }

        var problem = particular.Rule is { } rule && !rule.Accepts(clean) ? rule.Message
            : particular.Choices is { } choices && choices.All(c => c.Code != clean) ? $"Choose {string.Join(", ", choices.Select(c => c.Label.ToLowerInvariant()))}."
            : clean.Length > LongestText ? $"{particular.Label} has {clean.Length} characters; keep it to {LongestText}."
            : null;
        return (clean, problem);
    }
}

internal static class PracticeDefaultsEndpoints
{
    public static void MapPracticeDefaults(this RouteGroupBuilder api)
    {
        var defaults = api.MapGroup("/practice/particulars").ReachesPractice().WithTags("Practice");
        defaults.MapGet("", (PracticeDefaults practice) => practice.View());
        defaults.MapPost("/{country}/try", (string country, PracticeDefaultsInput typed, PracticeDefaults practice) => practice.Try(country, typed))
            .RequireAuthorization(Policies.Manage);
        defaults.MapPut("/{country}", (string country, PracticeDefaultsInput typed, ClaimsPrincipal user, PracticeDefaults practice) =>
            practice.SaveAsync(country, typed, Caller.Of(user))).RequireAuthorization(Policies.Manage);
        api.MapPut("/practice/e-return-form", (EReturnFormChosen chosen, ClaimsPrincipal user, PracticeDefaults practice) => practice.Choose(chosen, Caller.Of(user)))
            .ReachesPractice().WithTags("Practice").RequireAuthorization(Policies.Manage);
    }
}
