using Aerarium.Core.Definitions;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Server.Gathering;
using Aerarium.Server.Practice;
using Aerarium.Storage;

namespace Aerarium.Server.Returns;

/// <summary>Something that stands against filing a return and is no matter of its entries.</summary>
/// <param name="Id">Stable id of the finding.</param>
/// <param name="Severity">How much it holds up.</param>
/// <param name="Message">What is wrong and what to do.</param>
/// <param name="Line">The line it concerns; null for what concerns the practice.</param>
public sealed record OutsideFinding(string Id, Severity Severity, string Message, Line? Line)
{
    /// <summary>All of a return: what the practice lacks, and what the authority has registered otherwise than the client's page.</summary>
    public static IReadOnlyList<OutsideFinding> Of(Unit unit, ReturnRecord record, Definition definition, DateOnly today) =>
    [
        .. GapsOfPractice(unit, record, today).Select(gap => new OutsideFinding("practice", Severity.Error, gap, null)),
        .. RegisteredOtherwise(unit, record, definition),
        .. EarlierYears(unit, record, definition),
    ];

    private static IEnumerable<OutsideFinding> EarlierYears(Unit unit, ReturnRecord record, Definition definition)
    {
        var periods = Catalogue.TypeOf(record.Definition).AllPeriods.ToList();
        return !definition.OldestYearFirst
            ? []
            : Storage.Returns.OfClient(unit, record.ClientId)
                .Where(r => r.Definition == record.Definition && IsBefore(r) && r.Stage is not (Stage.Sent or Stage.Accepted)).OrderBy(r => r.Year)
                .Select(earlier => new OutsideFinding(
                    $"earlier:{earlier.Year}{earlier.Period}",
                    Severity.Warning,
                    $"The return of {Periods.InWords(earlier.Year, earlier.Period)} is not filed yet. The authority takes the oldest first and may refuse this one; what the earlier one carries forward is not settled either.",
                    null));

        bool IsBefore(ReturnRecord other) => other.Year < record.Year || (other.Year == record.Year && periods.IndexOf(other.Period) < periods.IndexOf(record.Period));
    }

    private static IEnumerable<string> GapsOfPractice(Unit unit, ReturnRecord record, DateOnly today)
    {
        if (!Catalogue.TypeOf(record.Definition).IsFiled)
        {
            yield break;
        }

        if (!PracticeParticulars.CanActAt(unit, Catalogue.CountryOf(record.Definition)))
        {
            yield return "The practice has neither consent nor credentials with the authority yet; connect it on the Practice page before this return is sent.";
        }

        if (Catalogue.TypeOf(record.Definition).Mapping.Format.Signed != EReturnSignature.None && Practices.Find(unit) is { } practice && SigningCertificate.GapOn(practice.Certificate, today) is { } gap)
        {
            yield return gap;
        }
    }

    /// <summary>What differs is told with both values; it holds up the hand-over until it is mended, or accepted with a reason (a registration that is being corrected).</summary>
    private static IEnumerable<OutsideFinding> RegisteredOtherwise(Unit unit, ReturnRecord record, Definition definition)
    {
        if (Verifications.Find(unit, record.Id) is not { State: "differs" or "unknown" } kept)
        {
            yield break;
        }

        var client = Storage.Clients.Find(unit, record.ClientId)!;
        Line LineOf(string particular) => definition.Lines.FirstOrDefault(l => l.ClientParticular == particular) ?? definition.Lines[0];
        if (kept.State == "unknown")
        {
            yield return new OutsideFinding(
                "registered:identifier",
                Severity.Warning,
                $"Nobody is registered with the authority under {client.Identifier}. Check the number on the client's page; the authority refuses a return of somebody it does not know.",
                LineOf("identifier"));
        }

        foreach (var difference in RegisteredParticulars.DifferencesIn(kept).Where(d => RegisteredParticulars.Differs(client.Particular(d.Particular), d.Theirs)))
        {
            var ours = client.Particular(difference.Particular) is { Length: > 0 } value ? $"‘{value}’" : "nothing";
            yield return new OutsideFinding(
                $"registered:{difference.Particular}",
                Severity.Warning,
                $"{difference.Label}: {ours} on the client's page, ‘{difference.Theirs}’ registered with the authority. Correct the client's page, or have the registration corrected and verify again.",
                LineOf(difference.Particular));
        }
    }
}
