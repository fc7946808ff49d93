using System.Text.Json;

namespace Aerarium.Filing;

/// <summary>One item the authority holds about a taxpayer, translated into entries of a return.</summary>
/// <param name="Number">The authority's number of the item; the origin of every entry taken from it.</param>
/// <param name="Title">What it is, in words.</param>
/// <param name="Identifier">Whose identifier it bears.</param>
/// <param name="Section">Key of the repeating section it becomes a row of.</param>
/// <param name="MatchColumn">The column that tells whether a row is already there.</param>
/// <param name="Values">Values by column, as a person would type them.</param>
public sealed record RecordedItem(
    string Number, string Title, string Identifier, string Section, string MatchColumn, IReadOnlyDictionary<string, string> Values);

/// <summary>How a country's authority record is read for one return.</summary>
public interface IAuthorityRecord
{
    /// <summary>Key of the form on which the record is offered.</summary>
    string Form { get; }

    /// <summary>Where the record is found, relative to the authority's published address.</summary>
    string Path(string identifier, int year);

    /// <summary>The items of a record.</summary>
    /// <exception cref="JsonException">The record is not as published.</exception>
    IReadOnlyList<RecordedItem> Read(string json);
}
