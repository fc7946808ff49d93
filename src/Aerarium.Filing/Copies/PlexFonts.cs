using PdfSharp.Drawing;
using PdfSharp.Fonts;

namespace Aerarium.Filing;

/// <summary>IBM Plex Sans for PDF files, from the fonts that ship with the application.</summary>
internal sealed class PlexFonts : IFontResolver
{
    public const string Family = "IBM Plex Sans";

    private static readonly Lock Gate = new();

    public static void Use()
    {
        lock (Gate)
        {
            GlobalFontSettings.FontResolver ??= new PlexFonts();
        }
    }

    public byte[]? GetFont(string faceName)
    {
        using var stream = typeof(PlexFonts).Assembly.GetManifestResourceStream(faceName)!;
        using var bytes = new MemoryStream();
        stream.CopyTo(bytes);
        return bytes.ToArray();
    }

    /// <summary>A font of the application.</summary>
    public static XFont Of(double size, bool strong) => new(Family, size, strong ? XFontStyleEx.Bold : XFontStyleEx.Regular);

    public FontResolverInfo? ResolveTypeface(string familyName, bool isBold, bool isItalic) =>
        new(isBold ? "IBMPlexSans_600SemiBold.ttf" : "IBMPlexSans_400Regular.ttf");
}
