namespace Aerarium.Storage;

/// <summary>What a client-kept file needs of the practice while it is open.</summary>
public sealed record KeptEquipment(
    PracticeRecord Practice,
    IReadOnlyList<PersonRecord> People,
    IReadOnlyList<(string Country, string Name, string Value)> Particulars,
    IReadOnlyList<CredentialRecord> Credentials,
    IReadOnlyList<AuthorityConsentRecord> Consents,
    IReadOnlyList<LawEditionRecord> Law);

/// <summary>The database of a client who keeps the data: one client, with nothing of the practice's own once it is saved.</summary>
public static class KeptClients
{
    /// <summary>The first id of such a client; its returns take the ids that follow its own.</summary>
    public const long FirstId = 1_000_000_000_000;

    /// <summary>The id of the only client; zero when there is not exactly one.</summary>
    public static long OnlyId(Unit unit) => unit.Query<long>("SELECT id FROM client LIMIT 2").ToList() is [var only] ? only : 0;

    /// <summary>What a file needs of the practice.</summary>
    public static KeptEquipment EquipmentOf(Unit unit) => new(
        Practices.Find(unit)!,
        People.All(unit),
        [.. unit.Query<(string, string, string)>("SELECT country, name, value FROM practice_particular")],
        [.. unit.Query<CredentialRecord>("SELECT country, user_name, secret, changed_at FROM practice_credential")],
        AuthorityConsents.All(unit),
        LawEditions.All(unit));

    /// <summary>Puts it into the database of an open file; the returns that follow another law than when it was saved.</summary>
    public static IReadOnlyList<ReturnRecord> Equip(Unit unit, KeptEquipment equipment)
    {
        unit.Execute("DELETE FROM practice");
        unit.Execute("DELETE FROM practice_particular");
        unit.Execute("DELETE FROM practice_credential");
        unit.Execute("DELETE FROM practice_consent");

        // Who the practice is, and that it has credentials and consents. Keys, secrets and tokens stay where the practice keeps them.
        Practices.Add(unit, equipment.Practice with { SigningKey = [] });
        foreach (var (country, name, value) in equipment.Particulars)
        {
            PracticeParticulars.Put(unit, country, name, value);
        }

        foreach (var credential in equipment.Credentials)
        {
            PracticeParticulars.PutCredential(unit, credential with { Secret = [] });
        }

        foreach (var consent in equipment.Consents)
        {
            AuthorityConsents.Put(unit, consent with { Access = [], Refresh = [] });
        }

        foreach (var person in equipment.People)
        {
            unit.Execute(
                """
                INSERT INTO person (id, email, name, password_hash, active) VALUES (@Id, @Email, @Name, '', @Active)
                ON CONFLICT (id) DO UPDATE SET email = excluded.email, name = excluded.name, active = excluded.active
                """,
                person);
            foreach (var role in person.RoleList)
            {
                unit.Execute("INSERT INTO person_role (person_id, role) VALUES (@id, @role) ON CONFLICT DO NOTHING", new { id = person.Id, role });
            }
        }

        return TakeLaw(unit, equipment.Law);
    }

    /// <summary>Puts the practice's editions of the law into the database of an open file; its returns that are neither approved nor filed follow them, and are told.</summary>
    public static IReadOnlyList<ReturnRecord> TakeLaw(Unit unit, IReadOnlyList<LawEditionRecord> law)
    {
        LawEditions.Clear(unit);
        foreach (var edition in law)
        {
            LawEditions.Add(unit, edition);
        }

        return LawEditions.Follow(unit);
    }

    /// <summary>Takes everything of the practice's own out again, before the file is written.</summary>
    public static void LeaveOutPractice(Unit unit)
    {
        unit.Execute("DELETE FROM practice");
        unit.Execute("DELETE FROM practice_particular");
        unit.Execute("DELETE FROM practice_credential");
        unit.Execute("DELETE FROM practice_consent");
        unit.Execute("DELETE FROM law_edition");
        unit.Execute("DELETE FROM person_role");
        unit.Execute("UPDATE person SET email = 'person-' || id");
    }
}
