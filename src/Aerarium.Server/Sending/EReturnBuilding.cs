using System.Text.Json;
using Aerarium.Core.Engine;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Access;
using Aerarium.Server.Approval;
using Aerarium.Server.Practice;
using Aerarium.Server.Returns;
using Aerarium.Storage;

namespace Aerarium.Server.Sending;

/// <summary>A place where the e-return breaks the authority's schema, in words.</summary>
public sealed record BuildFault(string? Line, string? Row, string Message);

/// <summary>Builds the e-return and the printed copy from the frozen return, and validates against the authority's schema.</summary>
public sealed class EReturnBuilding(
    PracticeDatabase database, Workbench workbench, SigningCertificate signing, AuthorityClient authority, TimeProvider clock)
{
    /// <summary>Builds the approved return.</summary>
    /// <exception cref="PlainProblem">It is not approved, or the schema cannot be had.</exception>
    public async Task BuildAsync(long id, Caller caller, CancellationToken cancellation)
    {
        var workspace = workbench.Open(id);
        var approval = database.Read(unit => Approvals.Latest(unit, id));
        if (workspace.Record.Stage != Stage.Approved || approval is not { State: "approved" })
        {
            throw PlainProblem.Conflict("Only an approved return is built; hand it over and have it approved first.");
        }

        var mapping = database.Read(unit => EReturnForm.Chosen(unit, workspace.Record.Definition));
        var path = mapping.SchemaPath((int)workspace.Record.Year);
        var schema = await SchemaAsync(path, cancellation);
        var (frozen, facts) = database.Read(unit =>
        {
            var found = ApprovalDesk.Frozen(unit, approval);
            return (found, ReturnPapers.FactsOf(unit, workspace.Record, approval, found.Day));
        });
        if (!frozen.ComesOutBy(workspace.Definition))
        {
            throw PlainProblem.Conflict("The rules have changed since this return was approved, and its figures with them; give it back and have it approved again.");
        }

        var evaluation = workspace.Definition.Evaluate(frozen.Entries, frozen.Day);
        var written = mapping.Write(evaluation);
        var (file, signature) = Signed(written.Content, mapping.Format);
        var faults = Check(path, schema, file, written, evaluation);
        var copy = PrintedCopy.Draw(evaluation, facts);
        var now = Moments.Text(clock.GetUtcNow());
        database.Write(unit =>
        {
            if (Approvals.Latest(unit, id) is not { State: "approved" } still || still.Id != approval.Id)
            {
                throw PlainProblem.Conflict("The approval was withdrawn meanwhile; nothing was built.");
            }

            var built = BuiltReturns.Add(unit, new BuiltRecord(
                0,
                id,
                approval.Id,
                now,
                SchemaEditions.HashOf(schema),
                Artefacts.Keep(unit, file, mapping.Format.MediaType, now),
                Artefacts.Keep(unit, copy, "application/pdf", now),
                JsonSerializer.Serialize(faults),
                signature));
            Acts.Add(unit, caller.Act("build", clock.GetUtcNow()) with { ReturnId = id, ClientId = workspace.Record.ClientId, After = $"build {built}, {faults.Count} faults" });
        });
    }

    /// <summary>The frozen return behind a built e-return, evaluated as on its day.</summary>
    public static Evaluation EvaluationOf(Unit unit, BuiltRecord built)
    {
        var frozen = ApprovalDesk.Frozen(unit, Approvals.Find(unit, built.ApprovalId)!);
        return PracticeDefinitions.Of(unit, frozen).Evaluate(frozen.Entries, frozen.Day);
    }

    /// <summary>The line behind an element of a built e-return, found by writing the frozen return again.</summary>
    public IReadOnlyDictionary<string, LinePlace> PlacesOf(Unit unit, BuiltRecord built)
    {
        var evaluation = EvaluationOf(unit, built);
        return Catalogue.TypeOf(evaluation.Definition.Id).Mapping.InFormOf(Artefacts.Get(unit, built.EreturnSha256)).Write(evaluation).Places;
    }

    /// <summary>What the authority says of a built e-return, with the lines it is about.</summary>
    public IReadOnlyList<RejectionReason> InWords(Unit unit, BuiltRecord built, IReadOnlyList<AuthorityReason> reasons)
    {
        if (reasons.Count == 0)
        {
            return [];
        }

        var places = PlacesOf(unit, built);
        var definition = EvaluationOf(unit, built).Definition;
        return [.. reasons.Select(r =>
        {
            var place = r.Path is null ? null : places.GetValueOrDefault(r.Path);
            return new RejectionReason(r.Code, r.Message, place?.Line, place?.Row, place is null ? null : definition.LineOf(place.Line).Label);
        })];
    }

    /// <summary>The mail with which a built e-return goes.</summary>
    public static AuthorityLetter LetterOf(Unit unit, BuiltRecord built, string key)
    {
        var evaluation = EvaluationOf(unit, built);
        return new AuthorityLetter(key, Practices.Find(unit)!.Name, Catalogue.TypeOf(evaluation.Definition.Id).Mapping.Covering(evaluation), Artefacts.Get(unit, built.EreturnSha256));
    }

    /// <summary>The agent who files a built e-return, as its frozen entries name it.</summary>
    public string AgentOf(Unit unit, BuiltRecord built)
    {
        var frozen = ApprovalDesk.Frozen(unit, Approvals.Find(unit, built.ApprovalId)!);
        var line = Catalogue.Get(frozen.Definition, frozen.Year, frozen.Period).Lines.FirstOrDefault(l => l.PracticeParticular == "agent-pin");
        return line is null ? "" : frozen.Entries.Values.GetValueOrDefault(line.Key) ?? "";
    }

    /// <summary>A file with the practice's signature: within XML, beside JSON and several files, none where the authority asks for none.</summary>
    private (byte[] File, string? Signature) Signed(byte[] file, EReturnFormat format)
    {
        if (format.Signed == EReturnSignature.None)
        {
            return (file, null);
        }

        using var certificate = signing.Open();
        return format.Signed == EReturnSignature.Beside ? (file, JsonSignature.Sign(file, certificate)) : (XmlSignature.Sign(file, certificate), null);
    }

    private static List<BuildFault> Check(string path, string schema, byte[] file, EReturn written, Evaluation evaluation)
    {
        try
        {
            return [.. PublishedSchema.Of(path, schema).FaultsOf(file).Select(fault =>
            {
                var (place, message) = EReturnFaults.InWords(fault, written, evaluation);
                return new BuildFault(place?.Line, place?.Row, message);
            })];
        }
        catch (FormatException problem)
        {
            throw new PlainProblem(StatusCodes.Status502BadGateway, $"The authority's schema cannot be read: {problem.Message}");
        }
    }

    private async Task<string> SchemaAsync(string path, CancellationToken cancellation)
    {
        try
        {
            var text = await authority.SchemaAsync(path, cancellation);
            return database.Write(unit =>
            {
                var at = Moments.Text(clock.GetUtcNow());
                var came = SchemaEditions.Keep(unit, path, text, "authority", at);
                if (SchemaEditions.InUse(unit, path) is null)
                {
                    SchemaEditions.TurnOn(unit, path, came.Sha256, "first edition", at);
                }

                return SchemaEditions.InUse(unit, path)!.Value.Content;
            });
        }
        catch (AuthorityUnavailableException problem)
        {
            return database.Read(unit => SchemaEditions.InUse(unit, path))?.Content
                ?? throw new PlainProblem(StatusCodes.Status502BadGateway, $"The authority's schema is needed and cannot be had: {problem.Message} Try again later.");
        }
    }
}
