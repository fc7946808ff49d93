using System.Globalization;
using System.Text;
using System.Xml;

namespace Aerarium.Filing;

/// <summary>Who is paid.</summary>
/// <param name="Name">Name.</param>
/// <param name="Account">Account number.</param>
public sealed record Creditor(string Name, string Account);

/// <summary>One payment.</summary>
/// <param name="EndToEnd">Its identification, at most 35 characters, unique in the file.</param>
/// <param name="Amount">Amount, more than zero.</param>
/// <param name="Currency">ISO 4217 code.</param>
/// <param name="To">Who is paid.</param>
/// <param name="Reference">Structured creditor reference (ISO 11649).</param>
public sealed record CreditTransfer(string EndToEnd, decimal Amount, string Currency, Creditor To, string Reference);

/// <summary>
/// A batch of payments as a customer credit transfer initiation of ISO 20022, pain.001.001.09: one payment information for each currency,
/// the creditor reference as structured remittance information. The same payments give the same bytes.
/// </summary>
public static class CreditTransferFile
{
    /// <summary>Media type of the file.</summary>
    public const string MediaType = "application/xml";

    private const string Namespace = "urn:iso:std:iso:20022:tech:xsd:pain.001.001.09";
    private const int LongestName = 140;

    /// <summary>Writes the file.</summary>
    /// <param name="message">Identification of the message, at most 35 characters.</param>
    /// <param name="created">When it is made.</param>
    /// <param name="on">Day on which the payments are made.</param>
    /// <param name="debtor">Whose account is debited.</param>
    /// <param name="transfers">The payments, at least one.</param>
    public static byte[] Write(string message, DateTimeOffset created, DateOnly on, Creditor debtor, IReadOnlyList<CreditTransfer> transfers)
    {
        using var stream = new MemoryStream();
        using (var x = XmlWriter.Create(stream, new XmlWriterSettings { Encoding = new UTF8Encoding(false), Indent = true, NewLineChars = "\n" }))
        {
            x.WriteStartElement("Document", Namespace);
            x.WriteStartElement("CstmrCdtTrfInitn");
            x.WriteStartElement("GrpHdr");
            x.WriteElementString("MsgId", message);
            x.WriteElementString("CreDtTm", created.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss'Z'", CultureInfo.InvariantCulture));
            Totals(x, transfers);
            Party(x, "InitgPty", debtor.Name);
            x.WriteEndElement();
            foreach (var group in transfers.GroupBy(t => t.Currency).OrderBy(g => g.Key, StringComparer.Ordinal))
            {
                Information(x, $"{message}-{group.Key}", on, debtor, group.Key, [.. group]);
            }

            x.WriteEndElement();
            x.WriteEndElement();
        }

        return stream.ToArray();
    }

    private static void Information(XmlWriter x, string id, DateOnly on, Creditor debtor, string currency, IReadOnlyList<CreditTransfer> transfers)
    {
        x.WriteStartElement("PmtInf");
        x.WriteElementString("PmtInfId", id);
        x.WriteElementString("PmtMtd", "TRF");
        Totals(x, transfers);
        Nested(x, on.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), "ReqdExctnDt", "Dt");
        Party(x, "Dbtr", debtor.Name);
        Account(x, "DbtrAcct", debtor.Account, currency);
        Nested(x, "NOTPROVIDED", "DbtrAgt", "FinInstnId", "Othr", "Id");
        foreach (var transfer in transfers)
        {
            x.WriteStartElement("CdtTrfTxInf");
            Nested(x, transfer.EndToEnd, "PmtId", "EndToEndId");
            x.WriteStartElement("Amt");
            x.WriteStartElement("InstdAmt");
            x.WriteAttributeString("Ccy", transfer.Currency);
            x.WriteString(Amount(transfer.Amount));
            x.WriteEndElement();
            x.WriteEndElement();
            Party(x, "Cdtr", transfer.To.Name);
            Account(x, "CdtrAcct", transfer.To.Account, null);
            Remittance(x, transfer.Reference);
            x.WriteEndElement();
        }

        x.WriteEndElement();
    }

    private static void Totals(XmlWriter x, IReadOnlyList<CreditTransfer> transfers)
    {
        x.WriteElementString("NbOfTxs", transfers.Count.ToString(CultureInfo.InvariantCulture));
        x.WriteElementString("CtrlSum", Amount(transfers.Sum(t => t.Amount)));
    }

    private static void Remittance(XmlWriter x, string reference)
    {
        x.WriteStartElement("RmtInf");
        x.WriteStartElement("Strd");
        x.WriteStartElement("CdtrRefInf");
        x.WriteStartElement("Tp");
        Nested(x, "SCOR", "CdOrPrtry", "Cd");
        x.WriteElementString("Issr", "ISO");
        x.WriteEndElement();
        x.WriteElementString("Ref", reference);
        x.WriteEndElement();
        x.WriteEndElement();
        x.WriteEndElement();
    }

    private static void Party(XmlWriter x, string element, string name) => Nested(x, name.Length > LongestName ? name[..LongestName] : name, element, "Nm");

    private static void Account(XmlWriter x, string element, string account, string? currency)
    {
        x.WriteStartElement(element);
        Nested(x, account, "Id", "Othr", "Id");
        if (currency is not null)
        {
            x.WriteElementString("Ccy", currency);
        }

        x.WriteEndElement();
    }

    private static void Nested(XmlWriter x, string text, params string[] elements)
    {
        foreach (var element in elements)
        {
            x.WriteStartElement(element);
        }

        x.WriteString(text);
        foreach (var _ in elements)
        {
            x.WriteEndElement();
        }
    }

    private static string Amount(decimal amount) => amount.ToString("0.00", CultureInfo.InvariantCulture);
}
