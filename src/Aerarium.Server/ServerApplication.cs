using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;
using Aerarium.Core.Days;
using Aerarium.Server.Access;
using Aerarium.Server.Approval;
using Aerarium.Server.Clients;
using Aerarium.Server.Demo;
using Aerarium.Server.Desk;
using Aerarium.Server.Gathering;
using Aerarium.Server.Households;
using Aerarium.Server.Kept;
using Aerarium.Server.Paying;
using Aerarium.Server.Practice;
using Aerarium.Server.Returns;
using Aerarium.Server.Review;
using Aerarium.Server.Sending;
using Aerarium.Storage;
using Microsoft.AspNetCore.DataProtection;
using Serilog;

namespace Aerarium.Server;

/// <summary>
/// Builds the server. Settings: <c>Data</c> (folder of the practice's file), <c>Authority</c> (address of the
/// authority), <c>Demo</c>, <c>Clock:AheadSeconds</c>, <c>Web</c> (folder of the front end).
/// </summary>
public static class ServerApplication
{
    private const long LargestRequest = 1024 * 1024;

    /// <summary>Builds the application, opens and migrates the practice's file.</summary>
    public static WebApplication Build(string[] args)
    {
        var builder = WebApplication.CreateBuilder(new WebApplicationOptions { Args = args, ContentRootPath = AppContext.BaseDirectory });
        var settings = builder.Configuration;
        var describing = Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";
        var data = settings["Data"] ?? Path.Combine(AppContext.BaseDirectory, "data");
        if (describing)
        {
            data = Path.Combine(Path.GetTempPath(), $"aerarium-describe-{Guid.NewGuid():N}");
        }

        if (!describing)
        {
            // Held from here on: a second server on this folder is refused before it touches anything.
            var held = PrivateFolder.Hold(data);
            builder.Services.AddSingleton(_ => held);
        }

        builder.AddOutside();
        builder.Services.AddSerilog(log => log
            .MinimumLevel.Information()
            .MinimumLevel.Override("Microsoft", Serilog.Events.LogEventLevel.Warning)
            .MinimumLevel.Override("System", Serilog.Events.LogEventLevel.Warning)
            // That keys lie in the practice's private folder is said in docs/security.md, once, and not at every start.
            .MinimumLevel.Override("Microsoft.AspNetCore.DataProtection", Serilog.Events.LogEventLevel.Error)
            .WriteTo.Console());
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.Limits.MaxRequestBodySize = LargestRequest;
            kestrel.AddServerHeader = false;
        });
        builder.Services.ConfigureHttpJsonOptions(json => Configure(json.SerializerOptions));
        builder.Services.AddOpenApi(options => options.AddDocumentTransformer((document, _, _) =>
        {
            document.Info.Title = "Aerarium";
            document.Info.Version = "1";
            document.Servers = [];
            return Task.CompletedTask;
        }));
        builder.Services.Configure<RouteHandlerOptions>(options => options.ThrowOnBadRequest = true);
        builder.Services.AddProblemDetails();
        builder.Services.AddExceptionHandler<PlainProblems>();
        builder.Services.AddSignalR().AddJsonProtocol(json => Configure(json.PayloadSerializerOptions));
        builder.Services.AddDataProtection().SetApplicationName("Aerarium").PersistKeysToFileSystem(new DirectoryInfo(Path.Combine(data, "keys")));
        builder.Services.AddAntiforgery(options =>
        {
            options.HeaderName = AntiforgeryFilter.Header;
            options.Cookie.Name = "aerarium-antiforgery";
            options.Cookie.SameSite = SameSiteMode.Strict;
            options.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        });
        builder.Services.AddAccess(settings);

        var clock = ShiftedClock.Ahead(TimeProvider.System, settings["Clock:AheadSeconds"]);
        var played = new DemoClock(clock);
        builder.Services.AddSingleton(played);
        builder.Services.AddSingleton(settings.GetValue("Demo", false) ? played : clock);
        builder.Services.AddKeyedSingleton(OneTimeCodes.WallClock, TimeProvider.System);
        builder.Services.AddSingleton(_ => new PracticeDatabase(Path.Combine(data, "practice.db")));
        builder.Services.AddSingleton(new DataFolder(data));
        builder.Services.AddSingleton<Health>();
        builder.Services.AddSingleton<BackupDesk>();
        builder.Services.AddSingleton<SigningCertificate>();
        builder.Services.AddSingleton<Workbench>();
        builder.Services.AddSingleton<LiveReturns>();
        builder.Services.AddSingleton<FollowedParticulars>();
        builder.Services.AddSingleton<Attachments>();
        builder.Services.AddSingleton<Ties>();
        builder.Services.AddSingleton<Households.HouseholdDesk>();
        builder.Services.AddSingleton<TiesAtRest>();
        builder.Services.AddSingleton<RowFiles>();
        builder.Services.AddSingleton<MappingDesk>();
        builder.Services.AddSingleton<AgreementDesk>();
        builder.Services.AddSingleton<ReturnFiles>();
        builder.Services.AddSingleton<ManyReturnFiles>();
        builder.Services.AddSingleton<RegisteredParticulars>();
        builder.Services.AddSingleton<ForeignFiles>();
        builder.Services.AddSingleton<StatementDesk>();
        builder.Services.AddSingleton<PaymentDesk>();
        builder.Services.AddSingleton<SchemaDesk>();
        builder.Services.AddSingleton<Verification>();
        builder.Services.AddSingleton<VerificationDesk>();
        builder.Services.AddSingleton<LedgerWatch>();
        builder.Services.AddSingleton<PaymentBatch>();
        builder.Services.AddSingleton<Amendment>();
        builder.Services.AddSingleton<AuthorityCredentials>();
        builder.Services.AddSingleton<AuthorityConsent>();
        builder.Services.AddSingleton<PracticeDefaults>();
        builder.Services.AddSingleton<SetUp>();
        builder.Services.AddSingleton<KeptReturns>();
        builder.Services.AddSingleton<ReturnOpening>();
        builder.Services.AddSingleton<BatchActs>();
        builder.Services.AddSingleton<BatchRunner>();
        builder.Services.AddSingleton<ApprovalDesk>();
        builder.Services.AddSingleton<EReturnBuilding>();
        builder.Services.AddSingleton<PracticeMailbox>();
        builder.Services.AddSingleton<AuthorityMail>();
        builder.Services.AddSingleton<ReturnPapers>();
        builder.Services.AddSingleton<KeptListDesk>();
        builder.Services.AddSingleton(Random.Shared);
        builder.Services.AddSingleton<AuthorityCertificate>();
        builder.Services.AddSingleton<SendingDesk>();
        builder.Services.AddSingleton<PlausibilityDesk>();
        builder.Services.AddSingleton<LikelyRefunds>();
        builder.Services.AddSingleton<Law.LawDesk>();
        builder.Services.AddSingleton<Law.EffectDesk>();
        builder.Services.AddSingleton<Law.LawNote>();
        builder.Services.AddSingleton<Law.CorrectionDesk>();
        builder.Services.AddSingleton<Law.ExchangeDesk>();
        builder.Services.AddSingleton<After.AfterDesk>();
        builder.Services.AddSingleton<DemoData>();
        builder.Services.AddSingleton<SeasonDesk>();
        builder.Services.AddSingleton<DemoCrowd>();
        var authority = Outside.AuthorityOf(settings);
        builder.Services.AddHttpClient<AuthorityClient>(client =>
        {
            client.BaseAddress = authority;
            client.Timeout = TimeSpan.FromSeconds(20);
        }).AddAuthorityLimits(settings);
        if (!describing)
        {
            builder.Services.AddHostedService<BackgroundSender>();
            builder.Services.AddHostedService(services => services.GetRequiredService<PracticeMailbox>());
            builder.Services.AddHostedService(services => services.GetRequiredService<BatchRunner>());
            builder.Services.AddHostedService(services => services.GetRequiredService<BackupDesk>());
            builder.Services.AddHostedService<NewDay>();
            builder.Services.AddHostedService(services => services.GetRequiredService<LedgerWatch>());
        }

        var app = builder.Build();
        if (!describing)
        {
            _ = app.Services.GetRequiredService<PrivateFolder>();
        }

        app.UseOutside();
        app.UseExceptionHandler();
        app.UseStatusCodePages(PlainStatus.WriteAsync);
        app.Use(SecurityHeaders.Add);
        app.UseFrontEnd(settings["Web"]);
        app.UseAuthentication();
        app.UseAuthorization();
        app.UseRateLimiter();
        app.MapOpenApi("/api/openapi.json").RequireAuthorization();
        app.MapGet("/health", (Health health) => health.Trouble() is { } trouble
            ? Results.Text(trouble, statusCode: StatusCodes.Status503ServiceUnavailable)
            : Results.Text("ready")).ExcludeFromDescription();

        var api = app.MapGroup("/api").AddEndpointFilter<AntiforgeryFilter>().AddEndpointFilter<ReachFilter>().RequireAuthorization();
        api.MapSession();
        api.MapPeople();
        api.MapDesk();
        api.MapClients();
        api.MapKept();
        api.MapReturns();
        api.MapRowFiles();
        api.MapMapping();
        api.MapAgreements();
        api.MapReturnFiles();
        api.MapManyReturns();
        api.MapGathering();
        api.MapReview();
        api.MapComparisons();
        api.MapHouseholds();
        api.MapApproval();
        api.MapSending();
        Law.LawDesk.Map(api);
        Law.EffectDesk.Map(api);
        Law.LawNote.Map(api);
        Law.CorrectionDesk.Map(api);
        Law.ExchangeDesk.Map(api);
        api.MapClientAcceptance();
        api.MapApprovalRules();
        After.AfterEndpoints.MapAfter(api);
        api.MapRemarks();
        api.MapSchemas();
        api.MapPayments();
        api.MapPaymentBatch();
        api.MapPractice();
        api.MapBackups();
        app.MapHub<ReturnHub>("/hubs/returns").RequireAuthorization();
        app.MapFrontEndFallback(settings["Web"]);

        if (!describing && settings.GetValue("Demo", false))
        {
            app.Services.GetRequiredService<DemoData>().SeedOnce();
            if (settings.GetValue("Demo:Season", false))
            {
                app.Services.GetRequiredService<DemoData>().AddSeasonOnce();
            }

            app.Services.GetRequiredService<DemoCrowd>().FillUpTo(settings.GetValue("Demo:Returns", 0));
        }
        else if (!describing)
        {
            app.Services.GetRequiredService<SetUp>().Offer();
        }

        return app;
    }

    private static void Configure(JsonSerializerOptions json)
    {
        json.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower));
        json.NumberHandling = JsonNumberHandling.Strict;
        json.DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull;
    }
}
