namespace Aerarium.Server.Demo;

/// <summary>The clock of a demonstration: while the demonstration is made it can be set back, so that not everything happens on its first day; afterwards it runs like the one it is made from.</summary>
public sealed class DemoClock(TimeProvider inner) : TimeProvider
{
    private TimeSpan _behind;

    /// <inheritdoc />
    public override DateTimeOffset GetUtcNow() => inner.GetUtcNow() - _behind;

    /// <summary>Does something so many days before today.</summary>
    public T DaysAgo<T>(int days, Func<T> act)
    {
        _behind = TimeSpan.FromDays(days);
        try
        {
            return act();
        }
        finally
        {
            _behind = TimeSpan.Zero;
        }
    }
}
