using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Text;

namespace Aerarium.Server.Tests;

/// <summary>The server as it is run: a process of its own, on a practice's folder, which can be killed and has limits of memory.</summary>
public sealed class ServerProcess : IAsyncDisposable
{
    private readonly StringBuilder _said = new();

    private ServerProcess(Process process, string address)
    {
        Process = process;
        Address = address;
        process.OutputDataReceived += (_, line) => Note(line.Data);
        process.ErrorDataReceived += (_, line) => Note(line.Data);
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
    }

    public Process Process { get; }

    public string Address { get; }

    /// <summary>What it has written.</summary>
    public string Said
    {
        get
        {
            lock (_said)
            {
                return _said.ToString();
            }
        }
    }

    /// <summary>The most memory it has had, in MB: VmHWM of proc(5).</summary>
    public int MostMemory => int.Parse(
        File.ReadLines($"/proc/{Process.Id}/status").First(l => l.StartsWith("VmHWM", StringComparison.Ordinal)).Split(' ', StringSplitOptions.RemoveEmptyEntries)[1],
        System.Globalization.CultureInfo.InvariantCulture) / 1024;

    /// <summary>Starts it and waits until it answers, or has ended.</summary>
    public static async Task<ServerProcess> StartAsync(Practice practice, string? heapLimit = null, params string[] settings)
    {
        var port = FreePort();
        var about = new ProcessStartInfo("dotnet") { RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var argument in new[]
        {
            Path.Combine(AppContext.BaseDirectory, "Aerarium.Server.dll"), "--urls", $"http://127.0.0.1:{port}", "--Data", practice.DataFolder, "--Authority", practice.AuthorityAddress,
            "--Demo", "true", "--Passwords:MemoryKiB", "64", "--Kept:MemoryKiB", "64", "--Mail:SilentAfterSeconds", "0.5", "--Clock:AheadSeconds", Practice.AheadSeconds,
        }.Concat(settings))
        {
            about.ArgumentList.Add(argument);
        }

        if (heapLimit is not null)
        {
            about.Environment["DOTNET_GCHeapHardLimit"] = heapLimit;
        }

        var server = new ServerProcess(Process.Start(about)!, $"http://127.0.0.1:{port}");
        using var http = new HttpClient { BaseAddress = new Uri(server.Address) };
        for (var tries = 0; !server.Process.HasExited; tries++)
        {
            Assert.True(tries < 600, $"The server does not answer: {server.Said}");
            try
            {
                if ((await http.GetAsync("/health")).StatusCode == HttpStatusCode.OK)
                {
                    break;
                }
            }
            catch (HttpRequestException)
            {
                // Not listening yet.
            }

            await Task.Delay(50);
        }

        return server;
    }

    public async ValueTask DisposeAsync()
    {
        if (!Process.HasExited)
        {
            Process.Kill();
            await Process.WaitForExitAsync();
        }

        Process.Dispose();
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    private void Note(string? line)
    {
        lock (_said)
        {
            _said.AppendLine(line);
        }
    }
}
