namespace Aerarium.Storage;

/// <summary>An item ticked off against the paper.</summary>
public sealed record TickRecord(string Item, string TickedBy, string TickedAt);

/// <summary>Ticks.</summary>
public static class Ticks
{
    /// <summary>Of a return.</summary>
    public static IReadOnlyList<TickRecord> Of(Unit unit, long returnId) =>
        [.. unit.Query<TickRecord>("SELECT item, ticked_by, ticked_at FROM item_tick WHERE return_id = @returnId", new { returnId })];

    /// <summary>Ticks an item; false when it is ticked already.</summary>
    public static bool Put(Unit unit, long returnId, TickRecord tick) =>
        unit.Execute(
            "INSERT INTO item_tick (return_id, item, ticked_by, ticked_at) VALUES (@returnId, @Item, @TickedBy, @TickedAt) ON CONFLICT DO NOTHING",
            new { returnId, tick.Item, tick.TickedBy, tick.TickedAt }) == 1;

    /// <summary>Takes a tick back; false when there is none.</summary>
    public static bool Remove(Unit unit, long returnId, string item) =>
        unit.Execute("DELETE FROM item_tick WHERE return_id = @returnId AND item = @item", new { returnId, item }) == 1;
}
