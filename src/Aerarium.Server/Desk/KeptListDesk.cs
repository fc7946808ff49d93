using System.Text.Json;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Desk;

/// <summary>Keeps and forgets a person's lists of a place.</summary>
public sealed class KeptListDesk(PracticeDatabase database, TimeProvider clock)
{
    private const int LongestName = 40;

    /// <summary>Keeps a question under a name.</summary>
    /// <exception cref="PlainProblem">The name is blank or too long.</exception>
    public void Keep<T>(string place, string name, T question, Caller caller)
    {
        var kept = name.Trim();
        if (kept.Length is 0 or > LongestName)
        {
            throw PlainProblem.Refused($"Give it a name of at most {LongestName} characters.");
        }

        database.Write(unit =>
        {
            KeptLists.Put(unit, caller.Id, place, new KeptListRecord(kept, JsonSerializer.Serialize(question)));
            Acts.Add(unit, caller.Act("keep-list", clock.GetUtcNow()) with { After = kept });
        });
    }

    /// <summary>Forgets a list.</summary>
    /// <exception cref="PlainProblem">There is none of that name.</exception>
    public void Forget(string place, string name, Caller caller) => database.Write(unit =>
    {
        if (!KeptLists.Remove(unit, caller.Id, place, name))
        {
            throw PlainProblem.NotFound("This list");
        }

        Acts.Add(unit, caller.Act("keep-list", clock.GetUtcNow()) with { Before = name });
    });
}
