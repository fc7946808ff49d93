namespace Aerarium.Server.Tests;

/// <summary>Waiting for what the server does by itself: as long as a busy machine may need, and never by a number of tries.</summary>
public static class Wait
{
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(2);
    private static readonly TimeSpan Between = TimeSpan.FromMilliseconds(40);

    /// <summary>Waits until something holds; fails with a sentence when it never does.</summary>
    public static async Task UntilAsync(Func<Task<bool>> holds, Func<string> otherwise)
    {
        var end = TimeProvider.System.GetTimestamp() + ((long)Longest.TotalSeconds * TimeProvider.System.TimestampFrequency);
        while (!await holds())
        {
            Assert.True(TimeProvider.System.GetTimestamp() < end, otherwise());
            await Task.Delay(Between);
        }
    }

    public static Task UntilAsync(Func<Task<bool>> holds, string otherwise) => UntilAsync(holds, () => otherwise);

    public static Task UntilAsync(Func<bool> holds, string otherwise) => UntilAsync(() => Task.FromResult(holds()), () => otherwise);

    /// <summary>Asks until the answer is the one waited for; that answer.</summary>
    public static async Task<T> ForAsync<T>(Func<Task<T>> ask, Func<T, bool> holds, string otherwise)
    {
        T last = default!;
        await UntilAsync(async () => holds(last = await ask()), () => $"{otherwise} The last answer: {last}");
        return last;
    }
}
