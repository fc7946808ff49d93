using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using System.Text;
using System.Text.Json;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Ledger;
using Aerarium.Countries;
using Aerarium.Filing;

namespace Aerarium.Cli;

/// <summary>
/// Verifies a Parcel, years later and on its own: manifest, e-return rebuilt from the frozen return, its schema and signature, the
/// authority's signed receipt. Says what holds line by line; the exit code is 0 when everything does, 1 when something does not.
/// </summary>
public static class VerifyCommand
{
    public static int Run(string path, TextWriter output, TextWriter errors)
    {
        if (!File.Exists(path))
        {
            errors.WriteLine($"There is no file '{path}'.");
            return 2;
        }

        var wrong = 0;
        try
        {
            var files = Parcel.Open(File.ReadAllBytes(path));
            Tell(true, $"{files.Count} files are as the manifest says");
            Verify(files, Tell);
        }
        catch (FormatException problem)
        {
            Tell(false, problem.Message);
        }

        output.WriteLine(wrong == 0 ? "The Parcel holds." : $"The Parcel does not hold: {wrong} {(wrong == 1 ? "check" : "checks")} failed.");
        return wrong == 0 ? 0 : 1;

        void Tell(bool holds, string words)
        {
            wrong += holds ? 0 : 1;
            output.WriteLine($"{(holds ? "ok    " : "WRONG ")} {words}");
        }
    }

    private static void Verify(IReadOnlyDictionary<string, byte[]> files, Action<bool, string> tell)
    {
        var eReturn = files.FirstOrDefault(f => f.Key.StartsWith(ParcelFiles.EReturn + ".", StringComparison.Ordinal)).Value
            ?? throw new FormatException("The Parcel has no e-return.");
        var frozen = FrozenReturn.Read(files.GetValueOrDefault(ParcelFiles.Frozen) ?? throw new FormatException("The Parcel has no frozen return."));
        var format = EReturnFormat.Of(eReturn);
        if (Catalogue.Find(frozen.Definition, frozen.Year, frozen.Period, out var problem) is not { } written)
        {
            throw new FormatException(problem);
        }

        var definition = Under(frozen, written);
        foreach (var correction in frozen.Law ?? [])
        {
            var figure = LawFigures.Of(definition).First(f => f.Key == correction.Figure);
            tell(true, $"rests on a correction of the practice: {figure.Label}, {figure.Content} ({correction.Source})");
        }

        if (frozen.ComesOutBy(definition) || definition.FigureRevision == frozen.FigureRevision)
        {
            var evaluation = definition.Evaluate(frozen.Entries, frozen.Day);
            var other = definition.FigureRevision == frozen.FigureRevision ? "" : ", by rules of another revision";
            tell(FrozenReturn.FiguresOf(evaluation).SequenceEqual(frozen.Figures), $"{frozen.Figures.Count} figures come out as frozen{other}");
            var rebuilt = Catalogue.TypeOf(frozen.Definition).Mapping.InFormOf(eReturn).Write(evaluation).Content;
            tell(EReturnFormat.SaysTheSame(eReturn, rebuilt), "the e-return, built again from the frozen return, has the same bytes");
        }
        else
        {
            tell(false, "the rules here are of another revision than those of the return, and give other figures; verify with the version of that day");
        }

        foreach (var (name, schema) in files.Where(f => f.Key.StartsWith(ParcelFiles.Schema + "/", StringComparison.Ordinal)))
        {
            var faults = PublishedSchema.Of(name, Encoding.UTF8.GetString(schema)).FaultsOf(eReturn);
            tell(faults.Count == 0, faults.Count == 0 ? "the e-return is valid by the schema it was built for" : $"the e-return breaks its schema: {faults[0].Path} {faults[0].Detail}");
        }

        var beside = files.GetValueOrDefault(ParcelFiles.EReturnSignature);
        if (format == EReturnFormat.Package)
        {
            tell(true, $"the e-return holds {string.Join(", ", EReturnPackage.Files(eReturn).Keys)}, each as its manifest says");
        }

        if (format.Signed != EReturnSignature.None)
        {
            using var signer = format.Signed == EReturnSignature.Within ? XmlSignature.Signer(SchemaCheck.Read(eReturn)) : beside is null ? null : JsonSignature.Signer(Encoding.ASCII.GetString(beside), eReturn);
            tell(signer is not null, signer is null ? "the e-return's signature does not hold" : $"the e-return is signed by {Name(signer)}");
        }

        Receipt(files, eReturn, tell);
        ActsOf(files, tell);
    }

    /// <summary>The rules under the corrections that the return was approved with.</summary>
    /// <exception cref="FormatException">They do not fit the law here.</exception>
    private static Definition Under(FrozenReturn frozen, Definition written)
    {
        try
        {
            return Catalogue.Under(frozen.Edition, written);
        }
        catch (RuleException refused)
        {
            throw new FormatException($"The corrections of the law that the return rests on do not fit the law here: {refused.Message}", refused);
        }
    }

    /// <summary>Every act must have the hash that its words and the act before it give; an act next to another in the Ledger must name it.</summary>
    private static void ActsOf(IReadOnlyDictionary<string, byte[]> files, Action<bool, string> tell)
    {
        using var read = JsonDocument.Parse(files.GetValueOrDefault(ParcelFiles.Acts) ?? throw new FormatException("The Parcel has no acts."));
        var acts = read.RootElement.EnumerateArray().ToList();
        var altered = acts.Where(a => Text(a, "hash") != HashOf(a)).Select(a => a.GetProperty("id").GetInt64()).ToList();
        tell(altered.Count == 0, altered.Count == 0 ? $"{acts.Count} acts are as the Ledger has them" : $"act {altered[0]} is not as the Ledger had it");
        var parted = acts.Zip(acts.Skip(1)).Where(p => p.Second.GetProperty("id").GetInt64() == p.First.GetProperty("id").GetInt64() + 1
            && Text(p.Second, "previousHash") != Text(p.First, "hash")).Select(p => p.Second.GetProperty("id").GetInt64()).ToList();
        tell(parted.Count == 0, parted.Count == 0 ? "acts that follow each other name each other" : $"act {parted[0]} does not follow from the one before it");
    }

    private static string HashOf(JsonElement act) => ActHash.Of(
        Text(act, "previousHash")!,
        Text(act, "at")!,
        Number(act, "personId"),
        Text(act, "personName")!,
        Text(act, "kind")!,
        Number(act, "returnId"),
        Number(act, "clientId"),
        Text(act, "line"),
        Text(act, "row"),
        Text(act, "before"),
        Text(act, "after"),
        Text(act, "origin"),
        Text(act, "seal"));

    private static string? Text(JsonElement act, string name) => act.TryGetProperty(name, out var value) ? value.GetString() : null;

    private static long? Number(JsonElement act, string name) => act.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.Number ? value.GetInt64() : null;

    private static void Receipt(IReadOnlyDictionary<string, byte[]> files, byte[] eReturn, Action<bool, string> tell)
    {
        if (!files.TryGetValue(ParcelFiles.Receipt, out var receipt) || !files.TryGetValue(ParcelFiles.ReceiptSignature, out var signature))
        {
            throw new FormatException("The Parcel has no signed receipt.");
        }

        using var authority = JsonSignature.Signer(Encoding.ASCII.GetString(signature), receipt);
        tell(authority is not null, authority is null ? "the receipt's signature does not hold" : $"the receipt is signed by {Name(authority)}");
        using var read = JsonDocument.Parse(receipt);
        var about = read.RootElement.TryGetProperty("sha256", out var hash) ? hash.GetString() : null;
        tell(about == Convert.ToHexStringLower(SHA256.HashData(eReturn)), "the receipt is about this e-return");
        if (read.RootElement.TryGetProperty("acknowledgement", out var acknowledgement))
        {
            tell(true, $"accepted as {acknowledgement.GetString()}");
        }
    }

    private static string Name(X509Certificate2 certificate) => certificate.GetNameInfo(X509NameType.SimpleName, forIssuer: false);
}
