using System.Text.Json;
using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Storage;
using Microsoft.Extensions.Caching.Memory;

namespace Aerarium.Server.Returns;

/// <summary>Definitions as the practice reads them: with figures written as it chose for the country, under the law as the practice has corrected it.</summary>
internal static class PracticeDefinitions
{
    private const int MostKept = 40;

    /// <summary>Definitions under editions other than the product's. A definition is the same for whoever asks, so that one store serves every practice of the process.</summary>
    private static readonly MemoryCache Editions = new(new MemoryCacheOptions { SizeLimit = MostKept });

    /// <summary>The definition of a return, under the edition of the law it is computed by.</summary>
    public static Definition Of(Unit unit, ReturnRecord record)
    {
        var written = AsWritten(unit, record.Definition, record.Year, record.Period);
        return record.LawEdition == 0 ? written : Under(EditionIn(LawEditions.Find(unit, record.Definition, record.Year, record.Period, record.LawEdition)!), written);
    }

    /// <summary>A definition under a numbered edition of its law.</summary>
    /// <exception cref="PlainProblem">There is no such edition.</exception>
    public static Definition ByEdition(Unit unit, Definition written, long number) =>
        LawEditions.Find(unit, written.Id, written.Year, written.Period, number) is { } edition ? Under(EditionIn(edition), written) : throw PlainProblem.NotFound("This edition of the law");

    /// <summary>The definition a frozen return was approved by.</summary>
    public static Definition Of(Unit unit, FrozenReturn frozen) => Under(frozen.Edition, AsWritten(unit, frozen.Definition, frozen.Year, frozen.Period));

    /// <summary>The definition by the law that is in force now, for a return that would be opened now.</summary>
    /// <exception cref="KeyNotFoundException">There is none; the message says what is covered.</exception>
    public static Definition InForce(Unit unit, string id, long year, string period) =>
        LawEditions.Latest(unit, id, year, period) is { } latest ? Under(EditionIn(latest), AsWritten(unit, id, year, period)) : AsWritten(unit, id, year, period);

    /// <summary>The definition by the product's own law.</summary>
    /// <exception cref="KeyNotFoundException">There is none; the message says what is covered.</exception>
    public static Definition AsWritten(Unit unit, string id, long year, string period = Periods.WholeYear) => Catalogue.Get(id, year, period, NumbersOf(unit, Catalogue.CountryOf(id)));

    /// <summary>A definition under an edition of the law; the last few that were asked for are kept.</summary>
    /// <exception cref="RuleException">The edition does not fit the return's law; the message says what is wrong with which figure.</exception>
    public static Definition Under(LawEdition edition, Definition written) => edition.Corrections.Count == 0 && written.Edition.Corrections.Count == 0 ? written
        : Editions.GetOrCreate((written.Id, written.Year, written.Period, written.Numbers, edition.Key), entry =>
        {
            entry.Size = 1;
            return Catalogue.Under(edition, written);
        })!;

    /// <summary>The corrections of an edition.</summary>
    public static LawEdition EditionIn(LawEditionRecord record) => new(JsonSerializer.Deserialize<List<LawCorrection>>(record.Corrections)!);

    /// <summary>How figures are written in returns of a country.</summary>
    public static NumberWriting NumbersOf(Unit unit, string country) =>
        Catalogue.Countries[country].OfPractice.Contains(PracticeChoices.Numbers) && PracticeParticulars.Of(unit, country).GetValueOrDefault(PracticeChoices.Numbers.Name) == "comma"
            ? NumberWriting.Comma
            : NumberWriting.Point;
}
