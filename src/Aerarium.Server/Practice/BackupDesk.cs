using System.Globalization;
using System.Security.Claims;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Practice;

/// <summary>Backups of this practice.</summary>
/// <param name="Folder">Where they are kept.</param>
/// <param name="EveryHours">How often one is made by itself; zero for never.</param>
/// <param name="Encrypted">Whether new ones are encrypted with a passphrase; otherwise each holds the practice's keys for whoever has it.</param>
/// <param name="Files">Those there are, latest first; each was restored and found whole when it was made.</param>
public sealed record BackupsView(string Folder, double EveryHours, bool Encrypted, IReadOnlyList<BackupFile> Files);

/// <summary>
/// Makes backups, by itself and when asked. Settings: <c>Backups:Folder</c> (beside the data unless set),
/// <c>Backups:EveryHours</c> (24), <c>Backups:Keep</c> (14), <c>Backups:PassphraseFile</c> (none: not encrypted).
/// </summary>
public sealed class BackupDesk(PracticeDatabase database, DataFolder data, IConfiguration settings, TimeProvider clock, ILogger<BackupDesk> log) : BackgroundService
{
    private static readonly TimeSpan BetweenLooks = TimeSpan.FromMinutes(5);

    private readonly string _folder = settings["Backups:Folder"] ?? Path.Combine(data.Path, "backups");
    private readonly double _everyHours = settings.GetValue("Backups:EveryHours", 24d);
    private readonly int _keep = settings.GetValue("Backups:Keep", 14);
    private readonly BackupSeal? _seal = BackupSeal.OfFile(settings["Backups:PassphraseFile"]);
    private readonly Lock _one = new();

    /// <summary>What there is.</summary>
    public BackupsView View() => new(_folder, _everyHours, _seal is not null, Backups.All(_folder));

    /// <summary>Makes one now.</summary>
    public BackupContents Make(Caller? caller)
    {
        lock (_one)
        {
            var now = clock.GetUtcNow();
            var (file, contents) = Backups.Make(database, data.Path, _folder, now, _keep, _seal);
            database.Write(unit => Acts.Add(unit, (caller?.Act("backup", now) ?? new ActRecord { At = Moments.Text(now), PersonName = "Aerarium", Kind = "backup" }) with
            {
                After = $"{file.Name}, {contents.Returns} returns, {contents.Acts} acts",
            }));
            return contents;
        }
    }

    /// <inheritdoc />
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (Backups.Sweep(_folder) is > 0 and var swept)
        {
            log.LogInformation("Removed what was left of {Count} backups that were not finished", swept);
        }

        while (_everyHours > 0 && !stoppingToken.IsCancellationRequested)
        {
            await Task.Delay(BetweenLooks, stoppingToken);
            if (IsDue())
            {
                try
                {
                    Make(null);
                }
                catch (Exception problem) when (problem is IOException or InvalidDataException or UnauthorizedAccessException)
                {
                    log.LogError(problem, "The backup failed; it is tried again in {Minutes} minutes", BetweenLooks.TotalMinutes);
                }
            }
        }
    }

    private bool IsDue() =>
        Backups.All(_folder) is not [var latest, ..]
        || clock.GetUtcNow() - DateTimeOffset.Parse(latest.MadeAt, CultureInfo.InvariantCulture) >= TimeSpan.FromHours(_everyHours);
}

/// <summary>The folder of this practice's data.</summary>
public sealed record DataFolder(string Path);

internal static class BackupEndpoints
{
    public static void MapBackups(this RouteGroupBuilder api)
    {
        var backups = api.MapGroup("/backups").ReachesPractice().WithTags("Practice").RequireAuthorization(Policies.Administer);
        backups.MapGet("", (BackupDesk desk) => desk.View());
        backups.MapPost("", (ClaimsPrincipal user, BackupDesk desk) => desk.Make(Caller.Of(user)));
    }
}
