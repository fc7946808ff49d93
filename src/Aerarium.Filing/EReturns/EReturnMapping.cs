using Aerarium.Core.Engine;

namespace Aerarium.Filing;

/// <summary>How a country writes one return as an e-return. Schemas are the authority's; they are fetched, not generated.</summary>
public interface IEReturnMapping
{
    /// <summary>Where the authority publishes the schema of a year, relative to its published address.</summary>
    string SchemaPath(int year);

    /// <summary>How it reaches the authority.</summary>
    Channel Channel => Channel.Portal;

    /// <summary>In what form it is written.</summary>
    EReturnFormat Format => EReturnFormat.Xml;

    /// <summary>Whether the authority says before the filing what its rules would refuse.</summary>
    bool CheckedBeforehand => false;

    /// <summary>The same return as JSON, where the authority takes it in that form too; null where it does not.</summary>
    IEReturnMapping? AsJson => null;

    /// <summary>The same return in the form a file of it is in.</summary>
    IEReturnMapping InFormOf(byte[] file) => EReturnFormat.Of(file) == EReturnFormat.Json ? AsJson ?? this : this;

    /// <summary>What the authority's covering mail asks for, by the names its template uses; empty where nothing goes by mail.</summary>
    IReadOnlyDictionary<string, string> Covering(Evaluation evaluation) => new Dictionary<string, string>();

    /// <summary>Writes the evaluation of a frozen return; unsigned.</summary>
    EReturn Write(Evaluation evaluation);
}

/// <summary>How an e-return reaches the authority.</summary>
public enum Channel
{
    /// <summary>Uploaded to the authority's service.</summary>
    Portal,

    /// <summary>Attached to a mail to the authority's address.</summary>
    Mail,
}

/// <summary>Answers of a schema, in words and with the line they belong to.</summary>
public static class EReturnFaults
{
    /// <summary>Translates a fault through the mapping's places.</summary>
    public static (LinePlace? Place, string Message) InWords(SchemaFault fault, EReturn eReturn, Evaluation evaluation)
    {
        if (eReturn.Places.GetValueOrDefault(fault.Path) is not { } place)
        {
            return (null, $"The authority's schema refuses the part '{fault.Element}': {fault.Detail}");
        }

        var line = evaluation.Definition.LineOf(place.Line);
        return (place, $"{line.Label}: the authority's schema does not take '{fault.Text}' here. Correct the line and build again. ({fault.Detail})");
    }
}
