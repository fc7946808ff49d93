using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>Who is related to a client, as returns name it: a spouse from either side, a child from its parent's, a parent from the child's.</summary>
internal static class Relatives
{
    private const string Spouse = "spouse";
    private const string Child = "child";
    private const string Parent = "parent";
    private const string Associated = "associated";

    /// <summary>The relations by which people are one household.</summary>
    public static readonly IReadOnlyList<string> Family = [Spouse, Child, Parent];

    /// <summary>Whether a client has a spouse, parent or child among the clients.</summary>
    public static bool HasFamily(Unit unit, long clientId) => Both(unit, clientId).Any(r => Family.Contains(r.Theirs));

    /// <summary>The clients related so to a client; the client itself where no relation is named.</summary>
    public static IReadOnlyList<long> Of(Unit unit, long clientId, string? relation) =>
        relation is null ? [clientId] : [.. Both(unit, clientId).Where(r => r.Theirs == relation).Select(r => r.ClientId).Distinct()];

    /// <summary>The clients a client is related to, and as what each of them sees this one.</summary>
    public static IReadOnlyList<(long ClientId, string As)> Seeing(Unit unit, long clientId) => [.. Both(unit, clientId).Select(r => (r.ClientId, r.Mine)).Distinct()];

    /// <summary>Everybody related to a client: what they are to it, and what it is to them.</summary>
    private static IEnumerable<(long ClientId, string Theirs, string Mine)> Both(Unit unit, long clientId) => Relations.Of(unit, clientId).Select(r =>
    {
        // A relation says what its first client is of the other.
        var back = r.Kind switch { Spouse => Spouse, Associated => Associated, Child => Parent, _ => $"{r.Kind} of" };
        return r.ClientId == clientId ? (r.OfId, back, r.Kind) : (r.ClientId, r.Kind, back);
    });
}
