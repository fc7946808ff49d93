using System.Buffers;
using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using MailKit.Net.Smtp;
using MimeKit;
using SmtpServer;
using SmtpServer.ComponentModel;
using SmtpServer.Protocol;
using SmtpServer.Storage;
using SmtpResponse = SmtpServer.Protocol.SmtpResponse;

namespace Aerarium.StandIn;

/// <summary>How the authority wants its mail, as it publishes it.</summary>
/// <param name="Recipient">The prescribed recipient.</param>
/// <param name="Subject">Template of the subject; names in braces are filled in by the sender.</param>
/// <param name="Body">Template of the text.</param>
/// <param name="FileName">Template of the attachment's name.</param>
/// <param name="Host">Where mail for the recipient is delivered (the mail exchanger, in the real world).</param>
/// <param name="Port">Its port.</param>
public sealed record MailRules(string Recipient, string Subject, string Body, string FileName, string Host, int Port);

/// <summary>The authority's mail: lists come in, are examined, and are answered by mail.</summary>
public sealed class MailRoom(Archive archive, Examiner examiner, AuthoritySeal seal, TimeProvider clock) : BackgroundService
{
    /// <summary>The header that says where the sender's own mail is delivered; it stands for the sender's mail exchanger.</summary>
    public const string DeliveryHeader = "X-Stand-In-Delivery";

    private const int LargestMail = 8 * 1024 * 1024;
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(150);

    private readonly ConcurrentQueue<Letter> _unanswered = new();

    /// <summary>How mail is wanted.</summary>
    public MailRules Rules { get; } = new(
        "lists@authority.example",
        "List of tax withheld, {tin}, {period}",
        "Payee: {payee}\nTaxpayer number: {tin}\nPeriod: {period}\nCertificates: {certificates}\nSent by: {practice}\n",
        "{tin}-{period}.csv",
        "127.0.0.1",
        FreePort());

    /// <inheritdoc />
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var options = new SmtpServerOptionsBuilder()
            .ServerName("authority.example")
            .MaxMessageSize(LargestMail)
            .Endpoint(endpoint => endpoint.Endpoint(new IPEndPoint(IPAddress.Loopback, Rules.Port)))
            .Build();
        var services = new SmtpServer.ComponentModel.ServiceProvider();
        services.Add(new Letterbox(Receive));
        var receiving = new SmtpServer.SmtpServer(options, services).StartAsync(stoppingToken);
        try
        {
            while (!stoppingToken.IsCancellationRequested)
            {
                for (var count = _unanswered.Count; count > 0 && _unanswered.TryDequeue(out var letter); count--)
                {
                    await AnswerAsync(letter, stoppingToken);
                }

                await Task.Delay(Pause, stoppingToken);
            }
        }
        catch (OperationCanceledException)
        {
            // The authority closes.
        }

        await receiving;
    }

    private SmtpResponse Receive(MimeMessage message)
    {
        if (archive.Faults.Outage)
        {
            return SmtpResponse.MailboxUnavailable;
        }

        var attachment = message.Attachments.OfType<MimePart>().FirstOrDefault();
        if (attachment?.FileName is not { } name || message.MessageId is not { Length: > 0 } key || message.Headers[DeliveryHeader] is not { } delivery)
        {
            return new SmtpResponse(SmtpReplyCode.TransactionFailed, "A list is attached to a mail with a message id and a place for the answer.");
        }

        using var content = new MemoryStream();
        attachment.Content!.DecodeTo(content);
        var year = Path.GetFileNameWithoutExtension(name).Split('-') is [.., var found, _] ? found : "";
        var submission = archive.Receive(key, content.ToArray(), a => examiner.ExamineList(content.ToArray(), "ph/withholding-credits", year, a));
        _unanswered.Enqueue(new Letter(submission.Key, message.From.Mailboxes.First(), message.Subject ?? "", delivery));
        return SmtpResponse.Ok;
    }

    private async Task AnswerAsync(Letter letter, CancellationToken cancellation)
    {
        var submission = archive.Find(letter.Key)!;
        if (archive.Faults.Outage || clock.GetUtcNow() < submission.AnswerAt)
        {
            _unanswered.Enqueue(letter);
            return;
        }

        if (archive.Faults.LoseNextAnswer)
        {
            archive.Faults.LoseNextAnswer = false;
            return;
        }

        var answer = archive.AnswerTo(submission);
        var text = new TextPart("plain")
        {
            Text = $"Simulated authority, not a real one.\r\n\r\nNumber: {answer.Number}\r\nResult: {(answer.Acknowledgement is null ? "rejected" : $"accepted as {answer.Acknowledgement}")}\r\n"
                + string.Concat((answer.Reasons ?? []).Select(r => $"{r.Code} {r.Path}: {r.Message}\r\n")),
        };
        var written = answer.Written();
        var attached = new MimePart("application", "json")
        {
            Content = new MimeContent(new MemoryStream(written)),
            ContentDisposition = new ContentDisposition(ContentDisposition.Attachment),
            ContentTransferEncoding = ContentEncoding.Base64,
            FileName = "answer.json",
        };
        var message = new MimeMessage { Subject = $"Re: {letter.Subject}", Body = new Multipart("mixed") { text, attached }, InReplyTo = letter.Key };
        message.Headers.Add(AuthoritySeal.Header, seal.Sign(written));
        message.From.Add(new MailboxAddress("Simulated authority", Rules.Recipient));
        message.To.Add(letter.Sender);
        try
        {
            var place = IPEndPoint.Parse(letter.Delivery);
            using var client = new SmtpClient();
            await client.ConnectAsync(place.Address.ToString(), place.Port, MailKit.Security.SecureSocketOptions.None, cancellation);
            for (var copies = archive.Faults.DuplicateAnswers ? 2 : 1; copies > 0; copies--)
            {
                await client.SendAsync(message, cancellation);
            }

            await client.DisconnectAsync(quit: true, cancellation);
        }
        catch (Exception problem) when (problem is SocketException or IOException or SmtpCommandException or SmtpProtocolException or FormatException)
        {
            // The sender's mailbox is not there now; who misses the answer asks again.
        }
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    private sealed record Letter(string Key, MailboxAddress Sender, string Subject, string Delivery);

    private sealed class Letterbox(Func<MimeMessage, SmtpResponse> receive) : MessageStore
    {
        public override async Task<SmtpResponse> SaveAsync(ISessionContext context, IMessageTransaction transaction, ReadOnlySequence<byte> buffer, CancellationToken cancellationToken)
        {
            using var stream = new MemoryStream(buffer.ToArray());
            return receive(await MimeMessage.LoadAsync(stream, cancellationToken));
        }
    }
}
