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

/// <summary>A box of a payer's statement.</summary>
/// <param name="Name">Name of the box in files and in the authority's record.</param>
/// <param name="Column">The column of the repeating section it fills.</param>
public sealed record StatementBox(string Name, string Column);

/// <summary>A kind of payer's statement, and the repeating section one statement becomes a row of.</summary>
/// <param name="Name">Stable name, kebab-case.</param>
/// <param name="Title">What it is called.</param>
/// <param name="Section">Key of the repeating section.</param>
/// <param name="MatchColumn">The column that tells whether a row is already there.</param>
/// <param name="TitleColumn">The column that names the payer.</param>
/// <param name="PayerColumn">The column that takes the payer's number; null where statements bear none.</param>
/// <param name="OwnerBox">Name under which files give the identifier of the person it is about.</param>
/// <param name="Boxes">Its boxes.</param>
public sealed record StatementKind(
    string Name, string Title, string Section, string MatchColumn, string TitleColumn, string? PayerColumn, string OwnerBox, IReadOnlyList<StatementBox> Boxes);

/// <summary>The last assessment as the authority holds it.</summary>
/// <param name="Title">Its number and year.</param>
/// <param name="Facts">What it says, in words and as text.</param>
/// <param name="CarriedForward">What it carries into the return, and by which law, in words.</param>
public sealed record LastAssessment(string Title, IReadOnlyList<AssessmentFact> Facts, string CarriedForward);

/// <summary>A figure of an assessment.</summary>
public sealed record AssessmentFact(string Label, string Amount);

/// <summary>How a country's authority record is read for one return.</summary>
public interface IAuthorityRecord
{
    /// <summary>Papers the authority never holds: they are asked of the client.</summary>
    IReadOnlyList<string> NeverHeld { get; }

    /// <summary>Where the record is found, relative to the authority's published address.</summary>
    string Path(string identifier, int year);

    /// <summary>Where the registration of a taxpayer is found.</summary>
    string RegistrationPath(string identifier);

    /// <summary>The registered particulars by the name clients keep them under; what the authority does not hold is left out.</summary>
    /// <exception cref="JsonException">The registration is not as published.</exception>
    IReadOnlyDictionary<string, string> ReadRegistration(string json);

    /// <summary>Where the assessment of a year is found.</summary>
    string AssessmentPath(string identifier, int year);

    /// <summary>An assessment, and what it carries into the next year's return.</summary>
    /// <exception cref="JsonException">The assessment is not as published.</exception>
    LastAssessment ReadAssessment(string json);

    /// <summary>The kinds of statement the record's items are, which may also be entered or imported; each belongs on the form of its section.</summary>
    IReadOnlyList<StatementKind> Statements { get; }

    /// <summary>The items of a record.</summary>
    /// <exception cref="JsonException">The record is not as published.</exception>
    IReadOnlyList<RecordedItem> Read(string json);
}
