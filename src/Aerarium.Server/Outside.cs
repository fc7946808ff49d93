using System.Net;
using Microsoft.AspNetCore.HttpOverrides;

namespace Aerarium.Server;

/// <summary>
/// How the server looks from outside: the hosts it answers to, and the proxy it stands behind. Settings: <c>AllowedHosts</c> (names, separated by
/// semicolons), <c>Proxy:Addresses</c> (addresses or networks whose X-Forwarded headers count, separated by semicolons).
/// </summary>
internal static class Outside
{
    private const string Hosts = "AllowedHosts";
    private const int HstsDays = 365;

    /// <summary>Sets it up before anything is built.</summary>
    /// <exception cref="InvalidOperationException">A setting cannot be read; the message says which.</exception>
    public static void AddOutside(this WebApplicationBuilder builder)
    {
        var settings = builder.Configuration;

        // A name that merely resolves to this machine does not make its page one of ours: DNS rebinding.
        if (string.IsNullOrWhiteSpace(settings[Hosts]) && Loopback(settings["urls"] ?? settings["ASPNETCORE_URLS"]))
        {
            settings[Hosts] = "localhost;127.0.0.1;[::1]";
        }

        builder.Services.AddHsts(hsts => hsts.MaxAge = TimeSpan.FromDays(HstsDays));
        if (Parts(settings["Proxy:Addresses"]) is { Length: > 0 } proxies)
        {
            builder.Services.Configure<ForwardedHeadersOptions>(forwarded =>
            {
                forwarded.ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto | ForwardedHeaders.XForwardedHost;
                forwarded.KnownProxies.Clear();
                forwarded.KnownIPNetworks.Clear();
                foreach (var proxy in proxies)
                {
                    forwarded.KnownIPNetworks.Add(NetworkOf(proxy));
                }
            });
        }
    }

    /// <summary>What the proxy says comes first; HSTS is added where the outside is https.</summary>
    public static void UseOutside(this WebApplication app)
    {
        if (Parts(app.Configuration["Proxy:Addresses"]).Length > 0)
        {
            app.UseForwardedHeaders();
        }

        app.UseHsts();
    }

    /// <summary>The address of the authority.</summary>
    /// <exception cref="InvalidOperationException">It is not one; the message says so.</exception>
    public static Uri AuthorityOf(IConfiguration settings)
    {
        var typed = settings["Authority"] ?? "http://127.0.0.1:5081";
        return Uri.TryCreate(typed.TrimEnd('/') + "/", UriKind.Absolute, out var address) && address.Scheme is "http" or "https"
            ? address
            : throw new InvalidOperationException($"The setting Authority is '{typed}'; it has to be an address such as https://authority.example.");
    }

    private static System.Net.IPNetwork NetworkOf(string typed) =>
        IPAddress.TryParse(typed, out var address) ? new System.Net.IPNetwork(address, address.GetAddressBytes().Length * 8)
        : System.Net.IPNetwork.TryParse(typed, out var network) ? network
        : throw new InvalidOperationException($"The setting Proxy:Addresses holds '{typed}', which is neither an address nor a network such as 10.0.0.0/8.");

    private static bool Loopback(string? urls) =>
        Parts(urls) is { Length: > 0 } addresses && addresses.All(a => Uri.TryCreate(a, UriKind.Absolute, out var uri) && uri.IsLoopback);

    private static string[] Parts(string? typed) => (typed ?? "").Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
}
