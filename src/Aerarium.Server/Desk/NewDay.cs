using System.Globalization;
using Aerarium.Core.Days;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Desk;

/// <summary>
/// Evaluates open returns anew when a day has begun, a few at a time, so that lists show what depends on the day:
/// findings about dates, and the penalty and interest that have run.
/// </summary>
internal sealed class NewDay(PracticeDatabase database, Workbench workbench, TimeProvider clock, ILogger<NewDay> log) : BackgroundService
{
    private const int AtOnce = 50;
    private static readonly TimeSpan Pause = TimeSpan.FromMinutes(1);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            var today = clock.Today().ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
            var due = database.Read(unit => Storage.Returns.ToCheckAgain(unit, today, AtOnce));
            foreach (var id in due)
            {
                try
                {
                    workbench.Refresh(id);
                }
                catch (Exception problem) when (problem is PlainProblem or KeyNotFoundException)
                {
                    // Deleted meanwhile, or of a year no longer covered: the next day asks again.
                    log.LogWarning(problem, "Return {Return} was not evaluated for the new day", id);
                    database.Write(unit => Storage.Returns.NoteChecked(unit, id, today));
                }

                await Task.Delay(TimeSpan.FromMilliseconds(2), stoppingToken);
            }

            if (due.Count == 0)
            {
                await Task.Delay(Pause, stoppingToken);
            }
        }
    }
}
