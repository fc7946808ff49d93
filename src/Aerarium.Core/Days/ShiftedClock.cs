using System.Globalization;

namespace Aerarium.Core.Days;

/// <summary>
/// A clock that runs like another one, some time away: for demonstrations and tests that play on a certain day. The distance is given and
/// not the day, so that whoever starts again, or beside another program, reads the same time and never an earlier one.
/// </summary>
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

    /// <summary>The clock itself when nothing is given; otherwise one that is so many whole seconds ahead of it, or behind when negative.</summary>
    /// <exception cref="FormatException">The text is not a whole number of seconds.</exception>
    public static TimeProvider Ahead(TimeProvider inner, string? seconds) => string.IsNullOrWhiteSpace(seconds)
        ? inner
        : new ShiftedClock(inner, TimeSpan.FromSeconds(long.Parse(seconds, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture)));

    /// <summary>The whole seconds a clock that reads a moment now is ahead of another one.</summary>
    public static long SecondsTo(DateTimeOffset moment, TimeProvider inner) => (long)Math.Round((moment - inner.GetUtcNow()).TotalSeconds);
}

/// <summary>Calendar days of clocks.</summary>
public static class ClockDays
{
    /// <summary>The calendar day a clock reads (UTC).</summary>
    public static DateOnly Today(this TimeProvider clock) => DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
}
