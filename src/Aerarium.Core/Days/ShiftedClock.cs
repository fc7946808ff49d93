using System.Globalization;

namespace Aerarium.Core.Days;

/// <summary>A clock that runs like another one, some days away: for demonstrations and tests that play on a certain day.</summary>
public sealed class ShiftedClock : TimeProvider
{
    private readonly TimeProvider _inner;
    private readonly TimeSpan _shift;

    private ShiftedClock(TimeProvider inner, TimeSpan shift)
    {
        _inner = inner;
        _shift = shift;
    }

    /// <inheritdoc />
    public override DateTimeOffset GetUtcNow() => _inner.GetUtcNow() + _shift;

    /// <summary>The clock itself when no day is given; otherwise one that reads that day (2026-06-18) at the present time of day.</summary>
    /// <exception cref="FormatException">The text is not a date.</exception>
    public static TimeProvider OnDay(TimeProvider inner, string? day)
    {
        if (string.IsNullOrWhiteSpace(day))
        {
            return inner;
        }

        var wanted = DateOnly.ParseExact(day, "yyyy-MM-dd", CultureInfo.InvariantCulture);
        var present = DateOnly.FromDateTime(inner.GetUtcNow().UtcDateTime);
        return new ShiftedClock(inner, TimeSpan.FromDays(wanted.DayNumber - present.DayNumber));
    }
}

/// <summary>Calendar days of clocks.</summary>
public static class ClockDays
{
    /// <summary>The calendar day a clock reads (UTC).</summary>
    public static DateOnly Today(this TimeProvider clock) => DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
}
