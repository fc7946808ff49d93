using Aerarium.Countries;
using Aerarium.Filing;
using Aerarium.Storage;

namespace Aerarium.Server.Sending;

/// <summary>In which of the forms an authority takes the practice writes its e-returns.</summary>
internal static class EReturnForm
{
    private const string Json = "json";

    /// <summary>The name under which the practice's choice for a return is kept.</summary>
    public static string NameOf(string definition) => $"e-return-form:{definition}";

    /// <summary>How the practice writes a return now.</summary>
    public static IEReturnMapping Chosen(Unit unit, string definition)
    {
        var mapping = Catalogue.TypeOf(definition).EReturn ?? throw PlainProblem.Conflict($"{Catalogue.TypeOf(definition).Title}: this goes to no authority. Approved, its figures stand for the returns that follow them.");
        return PracticeParticulars.Of(unit, Catalogue.CountryOf(definition)).GetValueOrDefault(NameOf(definition)) == Json ? mapping.AsJson ?? mapping : mapping;
    }

    /// <summary>Keeps the choice for a return.</summary>
    /// <exception cref="PlainProblem">The authority takes the return in one form only.</exception>
    public static void Choose(Unit unit, string definition, string form)
    {
        if (Catalogue.Returns.FirstOrDefault(r => r.Id == definition)?.EReturn is not { AsJson: not null })
        {
            throw PlainProblem.Refused("The authority takes this return in one form only.");
        }

        if (form is not (Json or "xml"))
        {
            throw PlainProblem.Refused("An e-return is written as xml or json.");
        }

        PracticeParticulars.Put(unit, Catalogue.CountryOf(definition), NameOf(definition), form == Json ? Json : null);
    }
}
