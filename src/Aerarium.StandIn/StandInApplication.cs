using System.Text.Json.Serialization;
using Aerarium.Core.Days;

namespace Aerarium.StandIn;

/// <summary>The simulated authority: its own process, its own schemas, registry and rules. It knows nothing of the product but what arrives.</summary>
public static class StandInApplication
{
    private const long LargestUpload = 4 * 1024 * 1024;

    /// <summary>Builds the application. Settings: <c>Data</c> folder, <c>Clock:AheadSeconds</c>, <c>AnswerAfterSeconds</c>, <c>Faults</c>, <c>Aftermath</c>.</summary>
    public static WebApplication Build(string[] args)
    {
        var builder = WebApplication.CreateBuilder(new WebApplicationOptions { Args = args, ContentRootPath = AppContext.BaseDirectory });
        builder.Logging.SetMinimumLevel(LogLevel.Warning);
        builder.WebHost.ConfigureKestrel(kestrel => kestrel.Limits.MaxRequestBodySize = LargestUpload);
        builder.Services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.Converters.Add(new JsonStringEnumConverter(System.Text.Json.JsonNamingPolicy.KebabCaseLower));
            json.SerializerOptions.DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull;
        });
        var content = AppContext.BaseDirectory;
        var data = builder.Configuration["Data"] ?? Path.Combine(content, "data");
        var clock = ShiftedClock.Ahead(TimeProvider.System, builder.Configuration["Clock:AheadSeconds"]);
        var registry = Registry.Load(Path.Combine(content, "Registry"), data);
        var schemas = new PublishedSchemas(Path.Combine(content, "Schemas"));
        builder.Services.AddSingleton(clock);
        builder.Services.AddSingleton(registry);
        builder.Services.AddSingleton(schemas);
        builder.Services.AddSingleton(new AuthoritySeal(data, clock));
        builder.Services.AddSingleton(new Consents(data, clock, builder.Configuration.GetSection("Consent:RedirectUris").Get<string[]>() ?? []));
        var faults = builder.Configuration.GetSection("Faults").Get<Faults>() ?? new Faults();
        faults.AnswerAfterSeconds = builder.Configuration.GetValue("AnswerAfterSeconds", 3d);
        builder.Services.AddSingleton(new Archive(data, clock, faults));
        builder.Services.AddSingleton(new Random(builder.Configuration.GetValue("Faults:Seed", 1)));
        builder.Services.AddSingleton<FaultFilter>();
        builder.Services.AddSingleton<Examiner>();
        builder.Services.AddSingleton(services => new Aftermath(
            services.GetRequiredService<Archive>(),
            services.GetRequiredService<Examiner>(),
            services.GetRequiredService<Registry>(),
            clock,
            builder.Configuration.GetSection("Aftermath").Get<AftermathSettings>() ?? new AftermathSettings(),
            data));
        builder.Services.AddSingleton<MailRoom>();
        builder.Services.AddHostedService(services => services.GetRequiredService<MailRoom>());

        var app = builder.Build();
        app.MapGet("/health", () => "ready");
        app.MapAuthority();
        app.MapConsent();
        app.MapConsole();
        return app;
    }
}
