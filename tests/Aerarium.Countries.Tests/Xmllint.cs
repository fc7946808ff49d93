using System.Diagnostics;
using Aerarium.Core.Engine;
using Aerarium.Filing;

namespace Aerarium.Countries.Tests;

/// <summary>An e-return against its hand-written schema by a program from outside the project, xmllint (libxml2).</summary>
internal static class Xmllint
{
    /// <summary>Fails with what xmllint says of the e-return of an evaluated return, unless it finds it valid.</summary>
    public static void FindsValid(IEReturnMapping mapping, Evaluation evaluation)
    {
        foreach (var one in FilesOf(mapping.Write(evaluation)))
        {
            FindsValid(one, mapping.SchemaPath(evaluation.Definition.Year));
        }
    }

    /// <summary>The files of an e-return.</summary>
    public static IEnumerable<byte[]> FilesOf(EReturn written) => EReturnFormat.Of(written.Content) == EReturnFormat.Package ? EReturnPackage.Files(written.Content).Values : [written.Content];

    private static void FindsValid(byte[] content, string schema)
    {
        var file = Path.GetTempFileName();
        try
        {
            File.WriteAllBytes(file, content);
            using var process = Process.Start(new ProcessStartInfo("xmllint", ["--noout", "--schema", SchemaFile(schema), file]) { RedirectStandardError = true })!;
            var output = process.StandardError.ReadToEnd();
            process.WaitForExit();
            Assert.True(process.ExitCode == 0, output);
        }
        finally
        {
            File.Delete(file);
        }
    }

    /// <summary>A published schema, where it stands in the repository.</summary>
    public static string SchemaFile(string path)
    {
        var folder = AppContext.BaseDirectory;
        while (!Directory.Exists(Path.Combine(folder, "src")))
        {
            folder = Path.GetDirectoryName(folder)!;
        }

        var file = Path.Combine(folder, "src", "Aerarium.StandIn", "Schemas", path);
        return File.Exists(file) ? file : OfYears(file);
    }

    /// <summary>A schema of one year, written out from the file that several years share.</summary>
    private static string OfYears(string file)
    {
        var (year, ending) = (Path.GetFileName(file)[..4], Path.GetFileName(file)[4..]);
        var shared = Directory.EnumerateFiles(Path.GetDirectoryName(file)!, $"????-????{ending}").Single(f => string.CompareOrdinal(Path.GetFileName(f)[..4], year) <= 0 && string.CompareOrdinal(year, Path.GetFileName(f)[5..9]) <= 0);
        var written = Path.Combine(Directory.CreateTempSubdirectory("aerarium-schema").FullName, Path.GetFileName(file));
        File.WriteAllText(written, File.ReadAllText(shared).Replace("{year}", year, StringComparison.Ordinal));
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(Path.GetDirectoryName(written)!, recursive: true);
        return written;
    }
}
