using PdfSharp.Pdf.IO;

namespace Aerarium.Reader;

/// <summary>Counts the pages of a PDF.</summary>
internal static class PdfPages
{
    /// <summary>How many pages it has; null when it cannot be read, for example because it asks for a password.</summary>
    public static int? Of(Stream pdf)
    {
        try
        {
            pdf.Position = 0;
            using var document = PdfReader.Open(pdf, PdfDocumentOpenMode.Import);
            return document.PageCount;
        }
        catch (Exception problem) when (problem is not (OutOfMemoryException or FileNotFoundException or TypeLoadException))
        {
            // The reader throws whatever it stumbles over. What is damaged or locked is kept as it is; only its pages are not counted.
            return null;
        }
    }
}
