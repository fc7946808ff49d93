using System.Buffers;
using System.Net;
using System.Net.Sockets;
using System.Text.Json;
using Aerarium.Server.Kept;
using Aerarium.Storage;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;
using SmtpServer;
using SmtpServer.ComponentModel;
using SmtpServer.Protocol;
using SmtpServer.Storage;
using SmtpResponse = SmtpServer.Protocol.SmtpResponse;

namespace Aerarium.Server.Sending;

/// <summary>How an authority wants its mail, as it publishes it; names in braces are filled in.</summary>
public sealed record MailRules(string Recipient, string Subject, string Body, string FileName, string Host, int Port);

/// <summary>A mail to an authority.</summary>
/// <param name="Key">Key of the sending; the mail's message id, so that the same mail again is the same filing.</param>
/// <param name="Practice">Name of the practice.</param>
/// <param name="Covering">What the covering text is filled with.</param>
/// <param name="File">The file attached.</param>
public sealed record AuthorityLetter(string Key, string Practice, IReadOnlyDictionary<string, string> Covering, byte[] File);

/// <summary>A mail as people read it.</summary>
/// <param name="From">Who sends it.</param>
/// <param name="To">Who gets it.</param>
/// <param name="Subject">Its subject.</param>
/// <param name="Text">Its text.</param>
/// <param name="Attachments">Names of the files attached.</param>
public sealed record MailInWords(string From, string To, string Subject, string Text, IReadOnlyList<string> Attachments)
{
    /// <summary>Reads a mail.</summary>
    public static MailInWords Of(MimeMessage message) => new(
        message.From.ToString(), message.To.ToString(), message.Subject ?? "", message.TextBody ?? "", [.. message.Attachments.OfType<MimePart>().Select(p => p.FileName ?? p.ContentType.MimeType)]);
}

/// <summary>Sends e-returns by mail to the recipient the authority prescribes, with subject and text after its template.</summary>
public sealed class AuthorityMail(AuthorityClient authority, PracticeMailbox mailbox, IConfiguration settings)
{
    private const string DeliveryHeader = "X-Stand-In-Delivery";
    private const string Domain = "aerarium.example";

    /// <summary>A letter as it would leave now.</summary>
    /// <exception cref="AuthorityUnavailableException">The authority does not say where its mail goes.</exception>
    public async Task<MailInWords> PreviewAsync(AuthorityLetter letter, CancellationToken cancellation)
    {
        using var message = Compose(letter, await RulesAsync(cancellation));
        return MailInWords.Of(message);
    }

    private async Task<MailRules> RulesAsync(CancellationToken cancellation) => JsonSerializer.Deserialize<MailRules>(
        await authority.FindAsync("mail", cancellation) ?? throw new AuthorityUnavailableException("The authority does not say where its mail goes."), JsonSerializerOptions.Web)!;

    /// <summary>Sends a letter; the answer comes by mail. Returns the mail as it left.</summary>
    /// <exception cref="AuthorityUnavailableException">The authority's mail does not take it; it is tried again.</exception>
    public async Task<MailInWords> SendAsync(AuthorityLetter letter, CancellationToken cancellation)
    {
        var rules = await RulesAsync(cancellation);
        using var message = Compose(letter, rules);
        try
        {
            using var client = new SmtpClient { Timeout = 20_000 };
            await client.ConnectAsync(rules.Host, rules.Port, SecureSocketOptions.Auto, cancellation);
            await client.SendAsync(message, cancellation);
            await client.DisconnectAsync(quit: true, cancellation);
            return MailInWords.Of(message);
        }
        catch (Exception problem) when (problem is SocketException or IOException or SmtpCommandException or SmtpProtocolException or SslHandshakeException or TimeoutException)
        {
            throw new AuthorityUnavailableException($"The authority's mail does not take the list: {problem.Message}", problem);
        }
    }

    /// <summary>The key of the sending a mail answers, or null.</summary>
    public static string? KeyIn(MimeMessage message) => message.InReplyTo?.Split('@') is [var key, Domain] ? key : null;

    private MimeMessage Compose(AuthorityLetter letter, MailRules rules)
    {
        string Filled(string template) =>
            letter.Covering.Append(KeyValuePair.Create("practice", letter.Practice)).Aggregate(template, (text, part) => text.Replace($"{{{part.Key}}}", part.Value, StringComparison.Ordinal));

        var attached = new MimePart("text", "csv")
        {
            Content = new MimeContent(new MemoryStream(letter.File)),
            ContentDisposition = new ContentDisposition(ContentDisposition.Attachment),
            ContentTransferEncoding = ContentEncoding.Base64,
            FileName = Filled(rules.FileName),
        };
        var message = new MimeMessage
        {
            MessageId = $"{letter.Key}@{Domain}",
            Subject = Filled(rules.Subject),
            Body = new Multipart("mixed") { new TextPart("plain") { Text = Filled(rules.Body) }, attached },
        };
        message.From.Add(new MailboxAddress(letter.Practice, settings["Mail:From"] ?? "filing@practice.example"));
        message.To.Add(MailboxAddress.Parse(rules.Recipient));
        message.Headers.Add(DeliveryHeader, mailbox.Address);
        return message;
    }
}

/// <summary>
/// Where answers to the practice's mail are delivered; an answer is matched to its sending by the message it replies to. Only this
/// machine can deliver here: the stand-in, in place of the practice's mail provider.
/// </summary>
public sealed class PracticeMailbox(IServiceProvider services, ILogger<PracticeMailbox> log) : BackgroundService
{
    private const int LargestMail = 2 * 1024 * 1024;

    private readonly int _port = FreePort();

    /// <summary>Host and port.</summary>
    public string Address => $"127.0.0.1:{_port}";

    /// <inheritdoc />
    protected override Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var options = new SmtpServerOptionsBuilder()
            .ServerName("practice.example")
            .MaxMessageSize(LargestMail)
            .Endpoint(endpoint => endpoint.Endpoint(new IPEndPoint(IPAddress.Loopback, _port)))
            .Build();
        var provider = new SmtpServer.ComponentModel.ServiceProvider();
        provider.Add(new Letterbox(TakeAsync));
        return new SmtpServer.SmtpServer(options, provider).StartAsync(stoppingToken);
    }

    private async Task<SmtpResponse> TakeAsync(MimeMessage message)
    {
        var desk = services.GetRequiredService<SendingDesk>();
        var attached = message.Attachments.OfType<MimePart>().FirstOrDefault(p => p.ContentType.IsMimeType("application", "json"));
        if (AuthorityMail.KeyIn(message) is not { } key || attached?.Content is null)
        {
            log.LogWarning("A mail answers nothing that was sent; it was not taken");
            return SmtpResponse.MailboxNameNotAllowed;
        }

        using var content = new MemoryStream();
        attached.Content.DecodeTo(content);
        if (SignedAnswer.Read(content.ToArray(), message.Headers[SignedAnswer.Header]) is not { } answer)
        {
            log.LogWarning("The answer to sending {Key} is unsigned, or cannot be read", key);
            return SmtpResponse.TransactionFailed;
        }

        try
        {
            return await DeliverAsync(desk, key, answer, MailInWords.Of(message));
        }
        catch (AuthorityUnavailableException problem)
        {
            log.LogWarning("The answer to sending {Key} was not taken: {Problem}", key, problem.Message);
            return SmtpResponse.TransactionFailed;
        }
    }

    private async Task<SmtpResponse> DeliverAsync(SendingDesk desk, string key, SignedAnswer answer, MailInWords reply)
    {
        if (await desk.AnsweredAsync(key, answer, reply))
        {
            return SmtpResponse.Ok;
        }

        foreach (var kept in services.GetRequiredService<KeptReturns>().All)
        {
            using (PracticeDatabase.WorkIn(kept))
            {
                if (await desk.AnsweredAsync(key, answer, reply))
                {
                    return SmtpResponse.Ok;
                }
            }
        }

        log.LogWarning("Nothing was sent under {Key}; the answer was not taken", key);
        return SmtpResponse.MailboxNameNotAllowed;
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    private sealed class Letterbox(Func<MimeMessage, Task<SmtpResponse>> take) : MessageStore
    {
        public override async Task<SmtpResponse> SaveAsync(ISessionContext context, IMessageTransaction transaction, ReadOnlySequence<byte> buffer, CancellationToken cancellationToken)
        {
            using var stream = new MemoryStream(buffer.ToArray());
            return await take(await MimeMessage.LoadAsync(stream, cancellationToken));
        }
    }
}
