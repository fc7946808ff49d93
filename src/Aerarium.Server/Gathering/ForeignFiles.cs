using System.Collections.Concurrent;
using System.ComponentModel;
using System.Diagnostics;
using System.Runtime.InteropServices;
using System.Security.Claims;
using System.Text.Json;
using Aerarium.Reader;
using Aerarium.Server.Access;

namespace Aerarium.Server.Gathering;

/// <summary>
/// Reads files from outside in processes of their own, which live for one file: with little memory, for a short time, without the server's
/// environment. Whatever a file does to its reader ends with it. A person reads one at a time, the practice a few. Setting: <c>Reading:Seconds</c> (20).
/// </summary>
public sealed class ForeignFiles(IConfiguration settings, ILogger<ForeignFiles> log) : IDisposable
{
    private const int AtOnce = 2;
    private const int MemoryBytes = 192 * 1024 * 1024;
    private const int LargestAnswer = 32 * 1024 * 1024;
    private static readonly TimeSpan MostWait = TimeSpan.FromSeconds(30);

    private readonly TimeSpan _mostTime = TimeSpan.FromSeconds(settings.GetValue("Reading:Seconds", 20d));
    private readonly SemaphoreSlim _turn = new(AtOnce);
    private readonly ConcurrentDictionary<long, bool> _reading = new();

    /// <summary>The body of a request as a file: its size is limited by the endpoint.</summary>
    public static async Task<byte[]> BodyAsync(HttpRequest request)
    {
        using var memory = new MemoryStream();
        await request.Body.CopyToAsync(memory, request.HttpContext.RequestAborted);
        return memory.ToArray();
    }

    /// <summary>The table of a CSV file or a workbook.</summary>
    /// <exception cref="PlainProblem">It is no such table, or another file of the same person is being read; the message says what to do.</exception>
    public async Task<ImportedTable> TableAsync(byte[] file, ClaimsPrincipal user, CancellationToken cancellation)
    {
        var answer = await ReadAsync("table", file, Caller.Of(user).Id, cancellation)
            ?? throw PlainProblem.Refused("The file takes more time or memory to read than a list does; it was not read. Save the list again as CSV, with nothing else in it.");
        return answer.Table ?? throw PlainProblem.Refused(answer.Problem!);
    }

    /// <summary>The sheets of a workbook.</summary>
    /// <exception cref="PlainProblem">It is no workbook, or another file of the same person is being read; the message says what to do.</exception>
    public async Task<IReadOnlyList<ImportedSheet>> SheetsAsync(byte[] file, ClaimsPrincipal user, CancellationToken cancellation)
    {
        var answer = await ReadAsync("sheets", file, Caller.Of(user).Id, cancellation)
            ?? throw PlainProblem.Refused("The workbook takes more time or memory to read than a return does; it was not read. Download the return's workbook and fill that.");
        return answer.Sheets ?? throw PlainProblem.Refused(answer.Problem!);
    }

    /// <summary>How many pages a PDF has; null when that cannot be found out.</summary>
    /// <exception cref="PlainProblem">Another file of the same person is being read.</exception>
    public async Task<int?> PagesAsync(byte[] pdf, ClaimsPrincipal user, CancellationToken cancellation) =>
        (await ReadAsync("pages", pdf, Caller.Of(user).Id, cancellation))?.Pages;

    /// <inheritdoc />
    public void Dispose() => _turn.Dispose();

    private async Task<ReadAnswer?> ReadAsync(string what, byte[] file, long personId, CancellationToken cancellation)
    {
        if (!_reading.TryAdd(personId, true))
        {
            throw PlainProblem.Conflict("Another file of yours is being read. Wait until that is done, and do this again.");
        }

        try
        {
            if (!await _turn.WaitAsync(MostWait, cancellation))
            {
                throw new PlainProblem(StatusCodes.Status503ServiceUnavailable, "Others are reading files at this moment. Try again in a minute.");
            }

            try
            {
                using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancellation);
                limit.CancelAfter(_mostTime);
                return await AskAsync(what, file, limit.Token);
            }
            catch (Exception problem) when (problem is IOException or JsonException or Win32Exception || (problem is OperationCanceledException && !cancellation.IsCancellationRequested))
            {
                log.LogWarning(problem, "A file of {Bytes} bytes could not be read ({What})", file.Length, what);
                return null;
            }
            finally
            {
                _turn.Release();
            }
        }
        finally
        {
            _reading.TryRemove(personId, out _);
        }
    }

    private static async Task<ReadAnswer?> AskAsync(string what, byte[] file, CancellationToken cancellation)
    {
        using var process = Start(what);
        try
        {
            var answer = AnswerAsync(process.StandardOutput.BaseStream, cancellation);
            var errors = process.StandardError.ReadToEndAsync(cancellation);
            await process.StandardInput.BaseStream.WriteAsync(file, cancellation);
            process.StandardInput.Close();
            var bytes = await answer;
            await process.WaitForExitAsync(cancellation);
            return process.ExitCode == 0
                ? JsonSerializer.Deserialize(bytes, ReadAnswerJson.Default.ReadAnswer)
                : throw new IOException($"The reader ended with {process.ExitCode}: {FirstLine(await errors)}");
        }
        finally
        {
            if (!process.HasExited)
            {
                process.Kill();
            }
        }
    }

    private static Process Start(string what)
    {
        var about = new ProcessStartInfo(Path.GetFullPath(Path.Combine(RuntimeEnvironment.GetRuntimeDirectory(), "..", "..", "..", "dotnet")))
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            WorkingDirectory = AppContext.BaseDirectory,
        };
        about.ArgumentList.Add(typeof(ReadAnswer).Assembly.Location);
        about.ArgumentList.Add(what);
        about.Environment.Clear();
        about.Environment["DOTNET_GCHeapHardLimit"] = MemoryBytes.ToString("X", System.Globalization.CultureInfo.InvariantCulture);
        about.Environment["DOTNET_EnableDiagnostics"] = "0";
        about.Environment["DOTNET_TieredPGO"] = "0";
        return Process.Start(about)!;
    }

    private static async Task<byte[]> AnswerAsync(Stream stream, CancellationToken cancellation)
    {
        using var answer = new MemoryStream();
        var buffer = new byte[81_920];
        int read;
        while ((read = await stream.ReadAsync(buffer, cancellation)) > 0)
        {
            if (answer.Length + read > LargestAnswer)
            {
                throw new IOException("The answer is larger than a list can be.");
            }

            answer.Write(buffer, 0, read);
        }

        return answer.ToArray();
    }

    private static string FirstLine(string text) => text.AsSpan(0, Math.Min(text.Length, 200)).ToString().Split('\n')[0];
}
