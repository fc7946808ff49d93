namespace Aerarium.Storage;

/// <summary>The practice itself.</summary>
public sealed record PracticeRecord(string Name, byte[] SigningKey, byte[] Certificate, string CreatedAt);

/// <summary>The practice.</summary>
public static class Practices
{
    /// <summary>The practice, or null before set-up.</summary>
    public static PracticeRecord? Find(Unit unit) =>
        unit.Single<PracticeRecord>("SELECT name, signing_key, certificate, created_at FROM practice");

    /// <summary>Replaces the certificate the practice signs with.</summary>
    public static void ChangeCertificate(Unit unit, byte[] signingKey, byte[] certificate) =>
        unit.Execute("UPDATE practice SET signing_key = @signingKey, certificate = @certificate", new { signingKey, certificate });

    /// <summary>Sets the practice up.</summary>
    public static void Add(Unit unit, PracticeRecord practice) =>
        unit.Execute(
            "INSERT INTO practice (id, name, signing_key, certificate, created_at) VALUES (1, @Name, @SigningKey, @Certificate, @CreatedAt)",
            practice);
}
