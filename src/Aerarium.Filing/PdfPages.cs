using PdfSharp.Pdf.IO;

namespace Aerarium.Filing;

/// <summary>Counts the pages of a PDF.</summary>
public static class PdfPages
{
    /// <summary>How many pages it has; null when it cannot be read, for example because it asks for a password.</summary>
    public static int? Of(byte[] pdf)
    {
        try
        {
            using var stream = new MemoryStream(pdf);
            using var document = PdfReader.Open(stream, PdfDocumentOpenMode.Import);
            return document.PageCount;
        }
        catch (Exception problem) when (problem is not OutOfMemoryException)
        {
            // The reader throws whatever it stumbles over. What is damaged or locked is kept as it is; only its pages are not counted.
            return null;
        }
    }
}
