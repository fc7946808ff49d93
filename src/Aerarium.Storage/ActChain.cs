using Aerarium.Core.Ledger;

namespace Aerarium.Storage;

/// <summary>A place in the chain of acts.</summary>
/// <param name="ActId">The last act before it; zero for the beginning.</param>
/// <param name="Hash">That act's hash.</param>
public sealed record ChainPlace(long ActId, string Hash)
{
    /// <summary>Before the first act.</summary>
    public static readonly ChainPlace Beginning = new(0, ActHash.Beginning);
}

/// <summary>How far a walk along the chain came.</summary>
/// <param name="To">Where it stands.</param>
/// <param name="Broken">The first act that does not fit, or null.</param>
/// <param name="AtEnd">Whether there are no more acts.</param>
public sealed record ChainWalk(ChainPlace To, long? Broken, bool AtEnd);

/// <summary>How far the chain was found unbroken, and when.</summary>
/// <param name="Place">The last act that was proved.</param>
/// <param name="At">When.</param>
public sealed record ChainProof(ChainPlace Place, string At);

/// <summary>
/// Follows the chain of acts. From a proof on, only later acts are followed: quick, and it finds what was altered since. Only a walk from the
/// beginning proves the whole, for a proof lies in the same file; that walk is made in steps, so that nobody waits for it.
/// </summary>
public static class ActChain
{
    /// <summary>Follows the whole chain at once; the id of the first act that does not fit, or null when it is unbroken.</summary>
    public static long? FirstBroken(Unit unit) => Follow(unit, ChainPlace.Beginning, int.MaxValue).Broken;

    /// <summary>Follows the chain from a place for some acts.</summary>
    public static ChainWalk Follow(Unit unit, ChainPlace from, int most)
    {
        if (from.ActId != 0 && Acts.HashAt(unit, from.ActId) != from.Hash)
        {
            return new ChainWalk(from, from.ActId, true);
        }

        var (place, count) = (from, 0);
        foreach (var act in Acts.After(unit, from.ActId))
        {
            if (act.PreviousHash != place.Hash || (act.ErasedWith is null && act.Hash != Acts.HashOf(act, place.Hash)))
            {
                return new ChainWalk(place, act.Id, true);
            }

            if (act is { Kind: Acts.DeleteClient, ErasedWith: null } && Acts.ErasedBy(unit, act) is { Count: > 0 } erased && act.After != Acts.Erasure(erased))
            {
                return new ChainWalk(place, erased[0].Id, true);
            }

            place = new ChainPlace(act.Id, act.Hash);
            if (++count == most)
            {
                return new ChainWalk(place, null, false);
            }
        }

        return new ChainWalk(place, Acts.FirstErasedWithoutDeletion(unit), true);
    }

    /// <summary>How far the chain has been proved, in steps or whole; null when it never was.</summary>
    public static ChainProof? Proof(Unit unit, bool whole) =>
        unit.Single<StoredProof>("SELECT act_id, hash, at FROM ledger_proof WHERE kind = @kind", new { kind = Kind(whole) }) is { } stored
            ? new ChainProof(new ChainPlace(stored.ActId, stored.Hash), stored.At)
            : null;

    /// <summary>Notes how far it has been proved.</summary>
    public static void Prove(Unit unit, ChainPlace place, bool whole, string at) => unit.Execute(
        """
        INSERT INTO ledger_proof (kind, act_id, hash, at) VALUES (@kind, @ActId, @Hash, @at)
        ON CONFLICT (kind) DO UPDATE SET act_id = excluded.act_id, hash = excluded.hash, at = excluded.at
        """,
        new { kind = Kind(whole), place.ActId, place.Hash, at });

    private static string Kind(bool whole) => whole ? "whole" : "step";

    private sealed record StoredProof(long ActId, string Hash, string At);
}
